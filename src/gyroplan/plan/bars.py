"""One verdict a bar over all passes it is to cut: OK, caution, or do not run, and the limit that says so."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

from gyrocore import BarData, BarSection, EdgeInCut, Note, Overhang, cutting_force, overhang, stability
from gyrocore.checks import TOLERANCE
from gyrocore.planning.overhang import DAMPING_FACTOR
from gyroplan.plan.loads import PassLoad, distinct

_MOST_DAMPING = 0.99
_URGENT = ("stop", "caution", "ok")


@dataclass(frozen=True, slots=True, kw_only=True)
class Limit:
    """How far the bar may stand out by one criterion, and the pass that says so [mm]."""

    criterion: str
    at_mm: float | None
    number: int
    kind: str


@dataclass(frozen=True, slots=True, kw_only=True)
class BarVerdict:
    """The verdict on a bar; by overhang the limits say how far, by response they are None [mm]."""

    state: str
    #: The limit that says so: rule, deflection, chatter; empty where it is OK.
    by: str = ""
    at_mm: float | None = None
    #: The pass that says so.
    number: int | None = None
    limits: tuple[Limit, ...] = ()
    safe_mm: float | None = None
    governing: str = ""
    notes: tuple[Note, ...] = ()

    def limit(self, criterion: str) -> Limit:
        """One of rule, deflection, chatter, certain."""
        return next(one for one in self.limits if one.criterion == criterion)


def overhang_verdict(
    bar: BarSection, data: BarData, loads: Sequence[PassLoad], out_mm: float | None, believed: float | None = None
) -> BarVerdict | None:
    """Return the verdict on a bar that stands out so far; None without a pass to cut.

    Parameters
    ----------
    bar, data : section, and what the shop knows better than its kind says
    loads : the passes it is to cut, each with its own allowed spring
    out_mm : how far it stands out; None for the limits alone [mm]
    believed : damping ratio that passes cut here have moved; chatter may begin by it, and is certain by `data`'s own

    Notes
    -----
    The least limit over all passes: a finish pass may chatter or push more than the deepest one does.

    References
    ----------
    `gyrocore.overhang`, its `state`; core contract.
    """
    by_kind = [(load, _overhang(bar, data, load, out_mm)) for load in distinct(loads)]
    if not by_kind:
        return None
    moved = data if believed is None else replace(data, damping_ratio=believed)
    answers = [(load, _overhang(bar, moved, load, out_mm)) for load in distinct(loads)]
    limits = (*(_least(name, answers) for name in ("rule", "deflection", "chatter")), _least("certain", by_kind))
    given = [one for one in limits if one.at_mm is not None and one.criterion != "certain"]
    governs = min(given, key=lambda one: one.at_mm or 0.0)
    state, by = _state(limits, out_mm)
    return BarVerdict(
        state=state,
        by="" if by is None else "chatter" if by.criterion == "certain" else by.criterion,
        at_mm=None if by is None else by.at_mm,
        number=None if by is None else by.number,
        limits=limits,
        safe_mm=governs.at_mm,
        governing=governs.criterion,
        notes=_notes(answers, governs),
    )


@lru_cache(maxsize=4096)
def _overhang(bar: BarSection, data: BarData, load: PassLoad, out_mm: float | None) -> Overhang:
    """The same bar under the same cut is asked again by the list, the plate, the drawing and the rail."""
    return overhang(bar=bar, cut=load.cut, budget_mm=load.budget_mm, needed_mm=out_mm, data=data)


def _least(name: str, answers: Sequence[tuple[PassLoad, Overhang]]) -> Limit:
    def at(found: Overhang) -> float | None:
        if name == "certain":
            return found.chatter_certain_mm
        return next(limit.overhang_mm for limit in found.limits if limit.criterion == name)

    load, found = min(answers, key=lambda one: _or_far(at(one[1])))
    return Limit(criterion=name, at_mm=at(found), number=load.number, kind=load.kind)


def _or_far(value: float | None) -> float:
    return float("inf") if value is None else value


def _state(limits: Sequence[Limit], out_mm: float | None) -> tuple[str, Limit | None]:
    if out_mm is None:
        return "ok", None
    past = [one for one in limits if one.at_mm is not None and out_mm > one.at_mm + TOLERANCE]
    stops = [one for one in past if one.criterion in ("deflection", "certain")]
    if stops:
        return "stop", min(stops, key=lambda one: _or_far(one.at_mm))
    cautions = [one for one in past if one.criterion == "chatter"] or past
    return ("caution", cautions[0]) if cautions else ("ok", None)


def _notes(answers: Sequence[tuple[PassLoad, Overhang]], governs: Limit) -> tuple[Note, ...]:
    """Of the pass that governs: what was assumed or left out."""
    found = next(found for load, found in answers if load.number == governs.number)
    said = ("no_radial_push", "line_bar_as_clamped", "holder_is_rigid")
    return tuple(n for n in found.notes if n.code in said)


def response_verdict(
    stiffness_n_mm: float | None, frequency_hz: float, damping: float, loads: Sequence[PassLoad],
    believed: float | None = None,
) -> BarVerdict | None:  # fmt: skip
    """Return the verdict on a bar held at both ends, by how it answers at its cutter; None without a pass to cut.

    As `overhang_verdict`: chatter may begin by the damping that is believed, and is certain by the kind's own.
    """
    if stiffness_n_mm is None:
        return None if not loads else BarVerdict(state="ok")
    may = damping if believed is None else believed
    answers = [_answer(stiffness_n_mm, frequency_hz, damping, may, load) for load in distinct(loads)]
    if not answers:
        return None
    return min(answers, key=lambda one: _URGENT.index(one.state))


@lru_cache(maxsize=4096)
def _answer(stiffness_n_mm: float, frequency_hz: float, damping: float, believed: float, load: PassLoad) -> BarVerdict:
    force = cutting_force(load.cut)
    spring = abs(force.radial_n) / stiffness_n_mm
    if spring > load.budget_mm + TOLERANCE:
        return BarVerdict(state="stop", by="deflection", at_mm=load.budget_mm, number=load.number)
    cut = load.cut
    edge = EdgeInCut(
        kc_mpa=force.kc_mpa, entering_angle_deg=cut.entering_angle_deg, nose_radius_mm=cut.nose_radius_mm,
        feed_mm_rev=cut.feed_mm_rev, thrust_ratio=cut.thrust_ratio,
    )  # fmt: skip

    def limit(ratio: float) -> float | None:
        return stability(
            stiffness_n_mm=stiffness_n_mm, damping_ratio=ratio, natural_frequency_hz=frequency_hz,
            depth_mm=cut.depth_mm, edge=edge,
        ).limit_depth_mm  # fmt: skip

    certain = limit(min(_MOST_DAMPING, DAMPING_FACTOR * damping))
    if certain is not None and certain <= cut.depth_mm + TOLERANCE:
        return BarVerdict(state="stop", by="chatter", at_mm=certain, number=load.number)
    may = limit(believed)
    if may is not None and may <= cut.depth_mm + TOLERANCE:
        return BarVerdict(state="caution", by="chatter", at_mm=may, number=load.number)
    return BarVerdict(state="ok")


@dataclass(frozen=True, slots=True, kw_only=True)
class Deflection:
    """How far the bar springs under one pass, on radius [mm], and the radial force [N]."""

    load: PassLoad
    spring_mm: float
    radial_n: float

    @property
    def share(self) -> float:
        """Of what this pass may spring."""
        return self.spring_mm / self.load.budget_mm


def worst_deflection(loads: Sequence[PassLoad], stiffness_n_mm: float | None) -> Deflection | None:
    """Return the deflection nearest to, or farthest past, what its pass allows; None without a pass."""
    found = []
    for load in distinct(loads):
        radial = abs(cutting_force(load.cut).radial_n)
        spring = 0.0 if stiffness_n_mm is None else radial / stiffness_n_mm
        found.append(Deflection(load=load, spring_mm=spring, radial_n=radial))
    return max(found, key=lambda one: one.share, default=None)
