"""How many passes, how deep, and where to stop and measure."""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil

from gyrocore.checks import TOLERANCE, require_not_negative, require_positive, require_whole
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note

#: More equal cuts than anyone runs.
MOST_EQUAL = 1000


@dataclass(frozen=True, slots=True, kw_only=True)
class PassRules:
    """What a shop lays down for its passes; depths are radial."""

    rough_depth_mm: float
    finish_depth_mm: float
    finish_passes: int = 2
    min_depth_mm: float = 0.05
    hone_allowance_mm: float = 0.0
    spring_passes: int = 0
    test_leave_mm: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Pass:
    """One pass: its radial depth and the diameter it cuts."""

    number: int
    kind: str
    depth_mm: float
    diameter_mm: float
    measure_after: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class PassPlan:
    """The passes, what they bore to, and the stock, both on diameter."""

    passes: tuple[Pass, ...]
    bored_diameter_mm: float
    stock_mm: float
    notes: tuple[Note, ...] = ()


@dataclass(frozen=True, slots=True)
class _Depths:
    rough: tuple[float, ...]
    finish: tuple[float, ...]
    note: Note


def equal_passes(*, start_diameter_mm: float, aim_diameter_mm: float, depth_mm: float) -> tuple[Pass, ...]:
    """Share a stock among the fewest equal cuts, none deeper than `depth_mm`.

    Parameters
    ----------
    start_diameter_mm, aim_diameter_mm : the aim over the start, both over 0 [mm]
    depth_mm : deepest cut, on radius, over 0 [mm]

    Returns
    -------
    passes, all `rough` and alike

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds; more than a thousand passes are refused.

    References
    ----------
    Shop practice: cuts alike, so that the bar bends alike.

    Examples
    --------
    >>> [p.diameter_mm for p in equal_passes(start_diameter_mm=68, aim_diameter_mm=70, depth_mm=0.5)]
    [69.0, 70.0]
    """
    require_positive(start_diameter_mm=start_diameter_mm, aim_diameter_mm=aim_diameter_mm, depth_mm=depth_mm)
    if aim_diameter_mm <= start_diameter_mm:
        raise InvalidInput("aim_diameter_mm", "not_over_start", given=aim_diameter_mm, allowed=start_diameter_mm)
    radial = (aim_diameter_mm - start_diameter_mm) / 2
    count = max(1, ceil(radial / depth_mm - TOLERANCE))
    if count > MOST_EQUAL:
        raise InvalidInput("depth_mm", "too_many_passes", given=depth_mm, allowed=radial / MOST_EQUAL)
    step = radial / count
    return tuple(
        Pass(number=n, kind="rough", depth_mm=step, diameter_mm=start_diameter_mm + 2 * n * step, measure_after=False)
        for n in range(1, count + 1)
    )


def pass_plan(*, start_diameter_mm: float, aim_diameter_mm: float, rules: PassRules) -> PassPlan:
    """Share the stock among passes.

    Parameters
    ----------
    start_diameter_mm, aim_diameter_mm : over 0, the aim over the start [mm]
    rules : radial depths, counts, allowance and test cut (on diameter) [mm]

    Returns
    -------
    PassPlan [mm]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds; the later of two that contradict each other.

    Notes
    -----
    Finish passes are equal, roughing takes the rest in the fewest equal passes. A rest too thin
    to cut is shared among the finish passes; where these would rub, there are fewer of them.

    References
    ----------
    Shop practice as laid down in the core contract, `pass_plan`.

    Examples
    --------
    >>> plan = pass_plan(start_diameter_mm=68.4, aim_diameter_mm=72.015,
    ...                  rules=PassRules(rough_depth_mm=0.5, finish_depth_mm=0.2))
    >>> [round(cut.depth_mm, 4) for cut in plan.passes]
    [0.4692, 0.4692, 0.4692, 0.2, 0.2]
    """
    _require(start_diameter_mm, aim_diameter_mm, rules)
    bored = aim_diameter_mm - rules.hone_allowance_mm
    depths = _depths((bored - start_diameter_mm) / 2, rules)
    passes = _number(start_diameter_mm, bored, depths, rules)
    notes = [depths.note]
    if rules.hone_allowance_mm:
        notes.append(note("hone_left", left_mm=rules.hone_allowance_mm))
    if rules.spring_passes:
        notes.append(note("spring_one_way"))
    if rules.test_leave_mm is None:
        notes.append(note("no_test_cut"))
    return PassPlan(
        passes=passes,
        bored_diameter_mm=bored,
        stock_mm=bored - start_diameter_mm,
        notes=tuple(notes),
    )


def _require(start_mm: float, aim_mm: float, rules: PassRules) -> None:
    require_positive(start_diameter_mm=start_mm, aim_diameter_mm=aim_mm)
    if aim_mm <= start_mm + TOLERANCE:
        raise InvalidInput("aim_diameter_mm", "not_over_start", given=aim_mm, allowed=start_mm)
    require_positive(rough_depth_mm=rules.rough_depth_mm, finish_depth_mm=rules.finish_depth_mm)
    require_whole(1, finish_passes=rules.finish_passes)
    require_positive(min_depth_mm=rules.min_depth_mm)
    least = rules.min_depth_mm
    if rules.rough_depth_mm < 2 * least - TOLERANCE:
        raise InvalidInput(
            "min_depth_mm", "rough_under_twice_least", given=least, allowed=rules.rough_depth_mm / 2,
            rough_mm=rules.rough_depth_mm,
        )  # fmt: skip
    if rules.test_leave_mm is None and rules.finish_depth_mm < least - TOLERANCE:
        raise InvalidInput("min_depth_mm", "finish_under_least", given=least, allowed=rules.finish_depth_mm)
    require_not_negative(hone_allowance_mm=rules.hone_allowance_mm)
    stock = aim_mm - start_mm - rules.hone_allowance_mm
    if stock <= TOLERANCE:
        raise InvalidInput(
            "hone_allowance_mm", "nothing_to_bore", given=rules.hone_allowance_mm,
            allowed=aim_mm - start_mm,
        )  # fmt: skip
    require_whole(0, spring_passes=rules.spring_passes)
    require_positive(test_leave_mm=rules.test_leave_mm)
    if rules.test_leave_mm is not None:
        _require_test(stock / 2, rules.test_leave_mm, rules)


def _require_test(stock_radial: float, leave_mm: float, rules: PassRules) -> None:
    least = rules.min_depth_mm
    if leave_mm / 2 / rules.finish_passes < least - TOLERANCE:
        raise InvalidInput(
            "test_leave_mm", "test_leaves_too_thin", given=leave_mm,
            allowed=2 * least * rules.finish_passes, passes=rules.finish_passes, least_mm=least,
        )  # fmt: skip
    if stock_radial - leave_mm / 2 < least - TOLERANCE:
        raise InvalidInput(
            "test_leave_mm", "test_too_thin", given=leave_mm,
            allowed=2 * (stock_radial - least), least_mm=least,
        )  # fmt: skip


def _depths(stock: float, rules: PassRules) -> _Depths:
    least = rules.min_depth_mm
    if stock < least - TOLERANCE:
        return _Depths((), (stock,), note("stock_under_least", stock_mm=stock, least_mm=least))
    if rules.test_leave_mm is not None:
        each = rules.test_leave_mm / 2 / rules.finish_passes
        rough = _equal(stock - rules.test_leave_mm / 2, rules.rough_depth_mm)
        return _Depths(rough, (each,) * rules.finish_passes, note("test_cut", leave_mm=rules.test_leave_mm))
    rest = stock - rules.finish_passes * rules.finish_depth_mm
    if rest >= least - TOLERANCE:
        rough = _equal(rest, rules.rough_depth_mm)
        finish = (rules.finish_depth_mm,) * rules.finish_passes
        return _Depths(rough, finish, note("equal_passes", depth_mm=rough[0], count=len(rough)))
    count = min(rules.finish_passes, int((stock + TOLERANCE) / least))
    code = "shared_among_finish" if count == rules.finish_passes else "fewer_finish_passes"
    return _Depths((), (stock / count,) * count, note(code, depth_mm=stock / count, count=count))


def _equal(stock: float, deepest: float) -> tuple[float, ...]:
    count = max(1, ceil(stock / deepest - TOLERANCE / deepest))
    return (stock / count,) * count


def _number(start: float, bored: float, depths: _Depths, rules: PassRules) -> tuple[Pass, ...]:
    last_kind = "rough" if rules.test_leave_mm is None else "test"
    kinds = ["rough"] * (len(depths.rough) - 1) + [last_kind] * bool(depths.rough)
    stops = [False] * (len(depths.rough) - 1) + [True] * bool(depths.rough)
    springs = rules.spring_passes
    kinds += ["finish"] * len(depths.finish) + ["spring"] * springs
    stops += [True] * len(depths.finish) + [False] * (springs - 1) + [True] * bool(springs)
    all_depths = depths.rough + depths.finish + (0.0,) * springs
    passes, cut = [], 0.0
    cutting = len(depths.rough) + len(depths.finish)
    for place, depth in enumerate(all_depths):
        cut += depth
        diameter = bored if place >= cutting - 1 else start + 2 * cut
        passes.append(
            Pass(
                number=place + 1,
                kind=kinds[place],
                depth_mm=depth,
                diameter_mm=diameter,
                measure_after=stops[place],
            )
        )
    return tuple(passes)
