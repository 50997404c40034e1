"""The passes that are left once some are cut: what came out decides, not what was planned."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import ceil

from gyrocore.checks import TOLERANCE, require_positive
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note
from gyrocore.planning.pass_plan import Pass, PassPlan, PassRules, pass_plan

#: After a test cut the finish passes share the rest while each stays under this much of its planned depth; past it
#: the bore is roughed once more (chosen here, because a finish cut half as deep again still springs alike).
_MOST_SHARE = 1.5


@dataclass(frozen=True, slots=True, kw_only=True)
class Cutting:
    """How far a bore is cut: its size now, the kinds of the passes behind it, the lower limit when it is finished."""

    known_diameter_mm: float
    done: Sequence[str]
    lower_mm: float


def passes_left(*, cutting: Cutting, aim_diameter_mm: float, rules: PassRules) -> PassPlan:
    """Share what is left of the stock among the passes that are left.

    Parameters
    ----------
    cutting : size now, over 0 [mm]; kinds of the passes done; the lower limit of the finished bore [mm]
    aim_diameter_mm : over 0 [mm]
    rules : as `pass_plan` takes them [mm]

    Returns
    -------
    PassPlan: numbered on from the passes done; empty where the bore is done; stock is what is left [mm]

    Raises
    ------
    InvalidInput
        As `pass_plan`.

    Notes
    -----
    Before the first finish pass the rest is planned as a stock of its own, without a second test cut.
    Once finishing has begun the rest is shared equally among the finish passes left, so that the last
    cuts stay alike and the bar bends alike. A rest thinner than the edge cuts is left where the size
    will do already; where it will not, there is one more pass, and the note says that it may rub.

    References
    ----------
    Shop practice as laid down in the core contract, `pass_plan`; derived here for a bore that is part cut.

    Examples
    --------
    >>> rules = PassRules(rough_depth_mm=0.5, finish_depth_mm=0.2)
    >>> at = Cutting(known_diameter_mm=71.25, done=["rough", "rough", "test"], lower_mm=72)
    >>> [round(cut.depth_mm, 4) for cut in passes_left(cutting=at, aim_diameter_mm=72.015, rules=rules).passes]
    [0.1913, 0.1913]
    """
    known, done = cutting.known_diameter_mm, list(cutting.done)
    require_positive(known_diameter_mm=known, aim_diameter_mm=aim_diameter_mm, lower_mm=cutting.lower_mm)
    bored = aim_diameter_mm - rules.hone_allowance_mm
    rest, least = (bored - known) / 2, rules.min_depth_mm
    springs = max(0, rules.spring_passes - done.count("spring"))
    good_enough = known >= cutting.lower_mm - rules.hone_allowance_mm - TOLERANCE
    if rest <= TOLERANCE or (rest < least - TOLERANCE and good_enough):
        code = "nothing_left" if rest <= TOLERANCE else "rest_too_thin_but_in"
        return _from(len(done), known, known, [], springs, note(code, left_mm=2 * rest))
    if "spring" in done or "finish" in done:
        return _finishing(cutting, bored, rules, springs)
    return _still_roughing(cutting, aim_diameter_mm, rules)


def _finishing(cutting: Cutting, bored: float, rules: PassRules, springs: int) -> PassPlan:
    """The rest in equal finish passes, as many as are left and can be."""
    known, least = cutting.known_diameter_mm, rules.min_depth_mm
    rest, done = (bored - known) / 2, list(cutting.done)
    left = max(1, rules.finish_passes - done.count("finish"), ceil(rest / rules.rough_depth_mm - TOLERANCE))
    count = max(1, min(left, int((rest + TOLERANCE) / least)))
    code = "stock_under_least" if rest < least - TOLERANCE else "rest_shared"
    values = {"least_mm": least, "stock_mm": rest} if code == "stock_under_least" else {"depth_mm": rest / count}
    remark = note(code, **values) if code == "stock_under_least" else note(code, count=count, **values)
    return _from(len(done), known, bored, [rest / count] * count, springs, remark)


def _still_roughing(cutting: Cutting, aim_mm: float, rules: PassRules) -> PassPlan:
    """A stock of its own; a test cut that was made is not made twice."""
    known, done = cutting.known_diameter_mm, list(cutting.done)
    tested = "test" in done
    own = replace(rules, test_leave_mm=None) if tested else rules
    share = (aim_mm - rules.hone_allowance_mm - known) / 2 / rules.finish_passes
    if tested and own.min_depth_mm <= share <= _MOST_SHARE * rules.finish_depth_mm:
        own = replace(own, finish_depth_mm=share)
    try:
        plan = pass_plan(start_diameter_mm=known, aim_diameter_mm=aim_mm, rules=own)
    except InvalidInput as error:
        if error.code not in ("test_too_thin", "test_leaves_too_thin"):
            raise
        own = replace(own, test_leave_mm=None)
        plan = pass_plan(start_diameter_mm=known, aim_diameter_mm=aim_mm, rules=own)
    behind = len(done)
    return replace(
        plan,
        passes=tuple(replace(cut, number=cut.number + behind) for cut in plan.passes),
        notes=tuple(n for n in plan.notes if not (tested and n.code == "no_test_cut")),
    )


def _from(behind: int, known: float, bored: float, depths: Sequence[float], springs: int, remark: Note) -> PassPlan:
    """Finish passes of these depths, then the spring passes that are left."""
    passes, size = [], known
    for place, depth in enumerate(depths):
        size = bored if place == len(depths) - 1 else size + 2 * depth
        passes.append(_cut(behind + place + 1, "finish", depth, size, True))
    for place in range(springs):
        passes.append(_cut(behind + len(depths) + place + 1, "spring", 0.0, size, place == springs - 1))
    return PassPlan(passes=tuple(passes), bored_diameter_mm=size, stock_mm=size - known, notes=(remark,))


def _cut(number: int, kind: str, depth_mm: float, diameter_mm: float, measured: bool) -> Pass:
    return Pass(number=number, kind=kind, depth_mm=depth_mm, diameter_mm=diameter_mm, measure_after=measured)
