"""The passes that are left, shared anew from the size that is believed; the target never moves."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import ceil, floor

from gyrocore import Pass
from gyrocore.checks import TOLERANCE
from gyroplan.loop.asked import Rules

#: A finish pass takes at most this share of the depth asked for, or twice the least depth (chosen here: the bar still
#: bends about alike, and a rest under twice the least cannot be two passes).
_MOST_ASK = 1.5
_MOST_LEASTS = 2.0
#: A shortfall under this is closed.
_NOTHING_MM = TOLERANCE


@dataclass(frozen=True, slots=True, kw_only=True)
class Done:
    """What the log holds of passes that are cut."""

    passes: int = 0
    finish: int = 0
    springs: int = 0
    test_is_cut: bool = False
    last_kind: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Known:
    """What is believed of the bore when the rest is shared [mm]."""

    aim_mm: float
    size_mm: float
    is_measured: bool
    verdict: str | None
    expanded_mm: float | None
    #: The setting that cut last has not been moved since.
    setting_stands: bool
    #: The tip was touched and nothing has been cut and measured since.
    after_touch: bool

    @property
    def radial_mm(self) -> float:
        """What is still to come off, on radius."""
        return (self.aim_mm - self.size_mm) / 2


def share_anew(known: Known, done: Done, rules: Rules) -> tuple[Pass, ...]:
    """Return the passes that are left, the next first.

    Parameters
    ----------
    known : the size believed, the target, the last verdict [mm]
    done : what is cut
    rules : the shop's depths and counts [mm]

    Returns
    -------
    passes, numbers running on; none where nothing is to be cut, or a size must be known first

    Notes
    -----
    Nothing where the bore will do, is over, or too near to say. A rest thinner than the edge cuts: spring passes at
    the setting that stands, else one thin finish pass. A test pass stays while there is room for it. Then at most as
    many finish passes as were asked for, and roughing first where they cannot take the rest.

    References
    ----------
    Core contract, `bore_state`: "the rest is shared anew".
    """
    if _nothing_left(known, done, rules):
        return ()
    springs = max(0, rules.spring_passes - done.springs)
    rest = known.radial_mm
    if rest < rules.min_depth_mm - TOLERANCE:
        return _thin_rest(known, done, springs)
    if _has_test(rest, done, rules):
        return _numbered(known, done, _with_test(rest, rules), springs, "test")
    return _numbered(known, done, _finish_first(known, done, rules), springs, "rough")


def _nothing_left(known: Known, done: Done, rules: Rules) -> bool:
    rest = known.radial_mm
    if known.verdict in ("over", "undecided-high"):
        return True
    if known.verdict == "undecided-low" and 2 * rest <= (known.expanded_mm or 0.0) + TOLERANCE:
        return True
    if known.verdict == "in" and (rest < rules.min_depth_mm - TOLERANCE or done.finish >= rules.finish_passes):
        return True
    return known.is_measured and rest <= _NOTHING_MM


def _thin_rest(known: Known, done: Done, springs: int) -> tuple[Pass, ...]:
    size = known.size_mm
    if known.setting_stands and springs:
        return _springs(done.passes, size, springs)
    if not known.is_measured:
        return ()
    if known.setting_stands and done.last_kind != "spring":
        return _springs(done.passes, size, 1)
    thin = Pass(
        number=done.passes + 1, kind="finish", depth_mm=known.radial_mm, diameter_mm=known.aim_mm, measure_after=True
    )
    return (thin,)


def _springs(behind: int, size: float, count: int) -> tuple[Pass, ...]:
    return tuple(
        Pass(
            number=behind + place, kind="spring", depth_mm=0.0, diameter_mm=size, measure_after=place == count
        )
        for place in range(1, count + 1)
    )  # fmt: skip


@dataclass(frozen=True, slots=True)
class _Depths:
    rough: tuple[float, ...]
    finish: tuple[float, ...]


def _has_test(rest: float, done: Done, rules: Rules) -> bool:
    leave = rules.test_leave_mm
    if leave is None or done.test_is_cut or done.finish:
        return False
    return rest >= leave / 2 + rules.min_depth_mm - TOLERANCE


def _with_test(rest: float, rules: Rules) -> _Depths:
    leave = rules.test_leave_mm or 0.0
    finish = (rules.finish_ask_mm,) * rules.finish_passes
    return _Depths(_equal(rest - leave / 2, rules.rough_depth_mm), finish)


def _finish_first(known: Known, done: Done, rules: Rules) -> _Depths:
    """Finish passes alone where they can take the rest, else roughing before them."""
    rest, least, ask = known.radial_mm, rules.min_depth_mm, rules.finish_ask_mm
    asked = max(1, rules.finish_passes - done.finish)
    most = max(_MOST_ASK * ask, _MOST_LEASTS * least)
    if rest <= asked * most + TOLERANCE:
        count = max(1, min(asked, floor((rest + TOLERANCE) / least)))
        if known.after_touch and count == 1 and rest >= 2 * least - TOLERANCE:
            count = 2
        return _Depths((), (rest / count,) * count)
    rough = max(least, rest - asked * ask)
    return _Depths(_equal(rough, rules.rough_depth_mm), ((rest - rough) / asked,) * asked)


def _equal(stock: float, deepest: float) -> tuple[float, ...]:
    count = max(1, ceil((stock - TOLERANCE) / deepest))
    return (stock / count,) * count


def _numbered(known: Known, done: Done, depths: _Depths, springs: int, last_rough: str) -> tuple[Pass, ...]:
    kinds = ["rough"] * (len(depths.rough) - 1) + [last_rough] * bool(depths.rough) + ["finish"] * len(depths.finish)
    stops = [False] * (len(depths.rough) - 1) + [True] * bool(depths.rough) + [True] * len(depths.finish)
    passes: list[Pass] = []
    size = known.size_mm
    for place, (kind, depth, stop) in enumerate(zip(kinds, (*depths.rough, *depths.finish), stops, strict=True)):
        size = known.aim_mm if place == len(kinds) - 1 else size + 2 * depth
        passes.append(
            Pass(number=done.passes + place + 1, kind=kind, depth_mm=depth, diameter_mm=size, measure_after=stop)
        )
    if known.after_touch and passes:
        passes[0] = replace(passes[0], measure_after=True)
    return (*passes, *_springs(done.passes + len(passes), known.aim_mm, springs))


def thinner_than(passes: Sequence[Pass], least_mm: float) -> Pass | None:
    """The first cutting pass that is thinner than the edge cuts."""
    cutting = (cut for cut in passes if cut.kind != "spring")
    return next((cut for cut in cutting if cut.depth_mm < least_mm - TOLERANCE), None)
