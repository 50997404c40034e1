"""Which bar: by the rule (least overhang, then stoutest) and by stiffness."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyrocore.catalogue import bar_kind
from gyrocore.checks import (
    TOLERANCE,
    require_not_negative,
    require_positive,
    require_unique,
)
from gyrocore.choices import BarKindName
from gyrocore.errors import InvalidInput
from gyrocore.formulas.beam import second_moment_mm4, tip_stiffness_n_mm
from gyrocore.notes import Note, note


@dataclass(frozen=True, slots=True, kw_only=True)
class BarCandidate:
    """A bar in the crib; `reach_mm` is what can stand out."""

    name: str
    kind: BarKindName
    diameter_mm: float
    shank_mm: float
    reach_mm: float
    min_bore_mm: float
    inner_diameter_mm: float = 0.0
    fixed_reach: bool = False
    #: Of a stepped bar, whose `diameter_mm` is that of the plain bar as stiff: the thickest part that goes in.
    thickest_mm: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class RankedBar:
    """A candidate with what it would do here, and the reasons where it will not do."""

    name: str
    usable: bool
    reasons: tuple[Note, ...]
    overhang_mm: float
    tip_stiffness_n_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class BarChoice:
    """All candidates, usable and stiffest first, and the two picks."""

    ranked: tuple[RankedBar, ...]
    by_rule: str | None
    by_stiffness: str | None
    notes: tuple[Note, ...] = ()


def choose_bar(
    *,
    candidates: Sequence[BarCandidate],
    needed_reach_mm: float,
    bore_mm: float,
    chip_clearance_mm: float,
    holder_shanks_mm: Sequence[float] | None = None,
) -> BarChoice:
    """Rank the crib's bars for one bore.

    Parameters
    ----------
    candidates : bars of the crib [mm]
    needed_reach_mm : holder face to cutter point at full depth, over 0 [mm]
    bore_mm : before this cut, over 0 [mm]
    chip_clearance_mm : room for chips on each side of the bar, 0 or more [mm]
    holder_shanks_mm : shanks that the holder takes, None for any [mm]

    Returns
    -------
    BarChoice: overhang [mm], stiffness [N/mm]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds, with the bar's place in the list.

    References
    ----------
    Rule: shop practice (least overhang, then greatest diameter). Stiffness: `formulas.beam`.

    Examples
    --------
    >>> bar = BarCandidate(name="7", kind="steel", diameter_mm=40, shank_mm=40, reach_mm=180,
    ...                    min_bore_mm=50)
    >>> choose_bar(candidates=[bar], needed_reach_mm=165, bore_mm=68.4, chip_clearance_mm=5).by_rule
    '7'
    """
    _require(candidates, needed_reach_mm, bore_mm, chip_clearance_mm, holder_shanks_mm)
    ranked = [_rank(bar, needed_reach_mm, bore_mm, chip_clearance_mm, holder_shanks_mm) for bar in candidates]
    usable = [(bar, row) for bar, row in zip(candidates, ranked, strict=True) if row.usable]
    by_rule = min(usable, key=lambda pair: (pair[1].overhang_mm, -pair[0].diameter_mm), default=None)
    by_stiffness = max(usable, key=lambda pair: pair[1].tip_stiffness_n_mm, default=None)
    return BarChoice(
        ranked=tuple(sorted(ranked, key=lambda row: (not row.usable, -row.tip_stiffness_n_mm))),
        by_rule=by_rule[1].name if by_rule else None,
        by_stiffness=by_stiffness[1].name if by_stiffness else None,
        notes=_notes(by_rule, by_stiffness),
    )


def _require(
    candidates: Sequence[BarCandidate],
    needed_reach_mm: float,
    bore_mm: float,
    chip_clearance_mm: float,
    holder_shanks_mm: Sequence[float] | None,
) -> None:
    if not candidates:
        raise InvalidInput("candidates", "empty")
    for place, bar in enumerate(candidates):
        try:
            bar_kind(bar.kind)
            second_moment_mm4(bar.diameter_mm, bar.inner_diameter_mm)
            require_positive(shank_mm=bar.shank_mm, reach_mm=bar.reach_mm, min_bore_mm=bar.min_bore_mm)
        except InvalidInput as error:
            raise error.under(f"candidates.{place}") from None
    require_unique("candidates.*.name", [bar.name for bar in candidates])
    require_positive(needed_reach_mm=needed_reach_mm, bore_mm=bore_mm)
    require_not_negative(chip_clearance_mm=chip_clearance_mm)
    for place, shank in enumerate(holder_shanks_mm or ()):
        require_positive(**{f"holder_shanks_mm.{place}": shank})
    if holder_shanks_mm is not None and not holder_shanks_mm:
        raise InvalidInput("holder_shanks_mm", "empty")


def _rank(
    bar: BarCandidate,
    needed_mm: float,
    bore_mm: float,
    chip_mm: float,
    shanks: Sequence[float] | None,
) -> RankedBar:
    reasons = tuple(_reasons(bar, needed_mm, bore_mm, chip_mm, shanks))
    out = bar.reach_mm if bar.fixed_reach else needed_mm
    moment = second_moment_mm4(bar.diameter_mm, bar.inner_diameter_mm)
    stiffness = tip_stiffness_n_mm(1000 * bar_kind(bar.kind).youngs_modulus_gpa * moment, out)
    return RankedBar(
        name=bar.name,
        usable=not reasons,
        reasons=reasons,
        overhang_mm=out,
        tip_stiffness_n_mm=stiffness,
    )


def _reasons(
    bar: BarCandidate,
    needed_mm: float,
    bore_mm: float,
    chip_mm: float,
    shanks: Sequence[float] | None,
) -> list[Note]:
    reasons = []
    if bar.reach_mm < needed_mm - TOLERANCE:
        reasons.append(note("too_short", short_mm=needed_mm - bar.reach_mm, reach_mm=bar.reach_mm))
    if bar.min_bore_mm > bore_mm + TOLERANCE:
        reasons.append(note("bore_too_small", least_mm=bar.min_bore_mm, bore_mm=bore_mm))
    room_mm = (bar.diameter_mm if bar.thickest_mm is None else bar.thickest_mm) + 2 * chip_mm
    if room_mm > bore_mm + TOLERANCE:
        reasons.append(note("no_chip_room", room_mm=room_mm, bore_mm=bore_mm))
    if shanks is not None and all(abs(bar.shank_mm - s) > TOLERANCE for s in shanks):
        reasons.append(note("shank_not_held", shank_mm=bar.shank_mm))
    return reasons


def _notes(
    by_rule: tuple[BarCandidate, RankedBar] | None,
    by_stiffness: tuple[BarCandidate, RankedBar] | None,
) -> tuple[Note, ...]:
    if by_rule is None or by_stiffness is None:
        return (note("no_bar_will_do"),)
    if by_rule[1].name == by_stiffness[1].name:
        return (note("picks_agree", name=by_rule[1].name),)
    fixed = by_rule[0].fixed_reach or by_stiffness[0].fixed_reach
    return (
        note(
            "picks_differ_reach" if fixed else "picks_differ_section",
            rule=by_rule[1].name,
            stiffest=by_stiffness[1].name,
            rule_overhang_mm=by_rule[1].overhang_mm,
            stiff_overhang_mm=by_stiffness[1].overhang_mm,
        ),
    )
