"""Plates of Bar: overhang, spring, heaviest cut; the ranked bars."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from gyrocore import cutting_force, sentence
from gyrodraw import dial_scale
from gyrometra.bridge.units import Units
from gyrometra.steps.bar.centres import centres_plates
from gyrometra.steps.bar.head import hole_plate
from gyrometra.steps.bar.line import line_plates
from gyrometra.steps.bar.says import StateLine
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.plate import LIMIT_WORDS, Because, Plate, verdict_words
from gyroplan.assess import BarRow as RankedRow
from gyroplan.assess import choice_of, rows_of
from gyroplan.record import BarRecord


@dataclass(frozen=True, kw_only=True)
class BarRow:
    """A bar of the crib in the list; `state` is its one verdict: ok, caution, stop, or out where it cannot go in."""

    pk: int
    words: str
    gripped: str
    stiffness: str
    spring: str
    state: str
    picked: bool
    tag: str
    reason: str


@dataclass(frozen=True, kw_only=True)
class BarList:
    """The crib's bars for this bore, best first, and what the choice says of them."""

    rows: Sequence[BarRow]
    notes: Sequence[str]


def bar_list(page: JobPage) -> BarList:
    """The crib's bars, best first; each with its verdict over all passes."""
    choice = choice_of(page.passes, page.bar, page.crib_bars).value
    if choice is None:
        return BarList(rows=(), notes=())
    rows = rows_of(page.passes, page.bar, choice, page.crib_bars)
    return BarList(
        rows=[_bar_row(row, page.units) for row in rows],
        notes=[sentence(one, page.units.unit) for one in choice.notes],
    )  # fmt: skip


def _bar_row(row: RankedRow, units: Units) -> BarRow:
    bar, ranked, verdict = row.bar, row.ranked, row.verdict
    tags = [("least overhang, then largest", row.is_by_rule), ("stiffest", row.is_stiffest)]
    reasons = " ".join(sentence(reason, units.unit) for reason in ranked.reasons)
    says = "" if verdict is None or row.state == "ok" else verdict_words(verdict, units)
    return BarRow(
        pk=bar.key,
        words=f"{bar.name} · {bar.made_of.label} Ø{units.plain(bar.diameter_mm)} x {units.length(bar.length_mm)}",
        gripped=units.length(bar.clamped_mm(ranked.overhang_mm)),
        stiffness=f"{ranked.tip_stiffness_n_mm / 1000:.1f}",
        spring="" if row.worst is None else units.small(row.worst.spring_mm),
        state=row.state,
        picked=row.is_picked,
        tag=", ".join(tag for tag, is_so in tags if is_so),
        reason=reasons if row.state == "out" else says,
    )


def opening_line(page: JobPage) -> StateLine | None:
    """The bar that opens the bore up, under its own heaviest cut."""
    found, units = page.bar.opening, page.units
    if found is None:
        return None
    words = f"deflects {units.small(found.spring_mm)} at {units.planned(found.cut.depth_mm)} deep"
    if not found.enters:
        return StateLine(state="over", words="does not enter the bore as found, or is too short")
    state = {"ok": "in", "caution": "advice", "stop": "over"}[found.verdict.state]
    if state == "over":
        return StateLine(state=state, words=f"{words}. {verdict_words(found.verdict, units)}")
    then = f"the bar below then enters Ø{units.planned(page.bar.entry_mm or 0)}"
    past = "" if state == "in" else f" {verdict_words(found.verdict, units)}"
    return StateLine(state=state, words=f"{words}; {then}.{past}")


def bar(page: JobPage) -> list[Plate]:
    """Overhang, spring, hard limit; in a head its hole, in bearings where they stand."""
    way = page.record.setup.way.bar_in
    if way == "bearings":
        return line_plates(page)
    if way == "centres":
        return centres_plates(page)
    if page.bar.reach.value is None or page.bar.out_mm is None:
        return [Plate(label="Bar overhang", governs="Missing:", reason="a reach that fits")]
    out = _hang_out(page, page.bar.out_mm)
    if way == "head":
        return [hole_plate(page), out, _spring(page)]
    return [out, _spring(page), _heaviest(page)]


def _hang_out(page: JobPage, reach: float) -> Plate:
    units, found, picked = page.units, page.bar.overhung.value, page.at.bar
    in_head = picked is not None and picked.is_fixed
    base: dict[str, Any] = {
        "label": "The bar stands out" if in_head else "Bar overhang",
        "number": units.length(reach),
        "unit": units.label,
    }
    if picked is None:
        return Plate(**base, words=("pick a bar from the list",), governs="Limited by reach:",
                     reason="bore, past the end, clear of the holder")  # fmt: skip
    if found is None:
        return Plate(**base, words=("holder face to cutter point",), governs="1 of 2 missing:",
                     reason="the cutter; bar is in")  # fmt: skip
    state = {"ok": "plain", "caution": "warn", "stop": "bad"}[found.state]
    in_hand = (found.safe_mm or 0.0) - reach
    governs = f"Limited by {LIMIT_WORDS[found.governing]}:"
    reason = f"{units.limit(in_hand)} in hand of {units.limit(found.safe_mm or 0)}"
    if found.state != "ok" and found.at_mm is not None:
        past = reach - found.at_mm
        governs = f"{'Do not run' if found.state == 'stop' else 'Caution'}, {LIMIT_WORDS[found.by]}:"
        reason = f"{units.length(past)} past the {units.limit(found.at_mm)} that pass {found.number} allows"
        if found.by == "rule":
            reason = f"{units.length(past)} past the {_rule_words(picked)} rule"
    stays = units.length(picked.clamped_mm(reach))
    return Plate(
        **base,
        scene=dial_scale(reach) if units.unit == "mm" else dial_scale(reach / 25.4, unit_step=0.1),
        words=(
            "spindle or head face to cutter point" if in_head else "holder face to cutter point",
            f"{stays} stays inside" if in_head else f"{stays} stays in the clamp",
        ),
        governs=governs,
        reason=reason,
        state=state,
        because=Because(
            formula="rule: ratio x D; deflection: |radial| L^3 / (3 E I) = allowed; "
            "chatter: b (t o cos^2 K + m) kc = 2 k z (1 + z)",
            inputs=[
                *(
                    (_LIMIT_NAMES[x.criterion], f"{units.limit(x.at_mm)}, pass {x.number}" if x.at_mm else "no limit")
                    for x in found.limits
                ),
                *_damping_inputs(page),
                *_budget_inputs(page),
                *((sentence(n, units.unit), "") for n in found.notes),
            ],
            source="Rule: shop practice. Deflection: Euler-Bernoulli. Chatter: oriented one-mode limit; "
            "better than to a factor of three.",
        ),
    )  # fmt: skip


_LIMIT_NAMES = {
    "rule": "Rule of thumb, advice", "deflection": "Deflection, hard", "chatter": "Chatter may begin, caution",
    "certain": "Chatter at three times the damping, hard",
}  # fmt: skip
_BUDGET_WORDS = {
    "next": "a quarter of what the next pass takes off", "tolerance": "a quarter of the tolerance",
    "alike": "six tenths of the tolerance: the pass before is alike and measured", "own": "your own figure",
}  # fmt: skip


def _rule_words(bar: BarRecord) -> str:
    return f"{bar.made_of.rule_ratio:g} x D"


def _damping_inputs(page: JobPage) -> list[tuple[str, str]]:
    """The damping that is believed, and what it rests on."""
    believed, bar = page.bar.believed, page.at.bar
    if believed is None or bar is None:
        return []
    if believed.number is None:
        return [("damping ratio", f"{believed.ratio:.3f}, of its kind, not known to a factor of three")]
    ran = "chattered" if believed.chattered else "ran quiet"
    return [("damping ratio", f"{believed.ratio:.3f}: pass {believed.number} {ran} here")]


def _budget_inputs(page: JobPage) -> list[tuple[str, str]]:
    """What each kind of pass may spring, on radius, and why."""
    units = page.units
    seen: dict[str, str] = {}
    for load in page.passes.carried:
        words = f"{units.fine(round(load.budget_mm, 5))} {units.label}, {_BUDGET_WORDS[load.budget_from]}"
        seen.setdefault(words, f"{load.kind} pass {load.number} may deflect, on radius")
    return [(name, words) for words, name in seen.items()]


def _spring(page: JobPage) -> Plate:
    units = page.units
    worst = page.bar.deflection
    if worst is None:
        return Plate(label="Deflection at the cutter", governs="Missing:", reason="bar and cutter")
    over = worst.share > 1 + 1e-9
    force = cutting_force(worst.load.cut)
    return Plate(
        label=f"Deflection, on radius, pass {worst.load.number}",
        number=units.small(worst.spring_mm),
        unit=units.label,
        words=(
            f"allowed {units.fine(round(worst.load.budget_mm, 5))}, radial force {worst.radial_n:.0f} N",
            f"{(page.bar.stiffness_n_mm or 0) / 1000:.1f} N/µm, natural frequency "
            f"{page.bar.frequency_hz or 0:.0f} Hz",
        ),
        governs="Allowed:",
        reason=_BUDGET_WORDS[worst.load.budget_from],
        state="bad" if over else "plain",
        because=Because(
            formula="deflection = |radial force| / stiffness of the bar with its real steps",
            inputs=[
                ("stiffness at the cutter", f"{(page.bar.stiffness_n_mm or 0) / 1000:.1f} N/µm"),
                ("natural frequency", f"{page.bar.frequency_hz or 0:.0f} Hz"),
                *([("as stiff as a plain bar of", f"Ø{units.planned(page.bar.stands_out.value.equal_diameter_mm)}")]
                  if page.at.bar and page.at.bar.steps_mm and page.bar.stands_out.value else []),
                ("radial force", f"{worst.radial_n:.1f} N"),
                ("specific force kc", f"{force.kc_mpa:.0f} MPa"),
                ("chip thickness", f"{units.fine(round(force.chip_thickness_mm, 4))} {units.label}"),
                *_budget_inputs(page),
            ],
            source="Kienzle on the chord of the edge; Euler-Bernoulli beam of the stepped bar, clamped at the holder. "
            "What a pass may deflect: chosen here, editable.",
        ),
    )  # fmt: skip


def _heaviest(page: JobPage) -> Plate:
    units = page.units
    cut, force = page.passes.heaviest, page.passes.force.value
    if cut is None or force is None:
        return Plate(label="Heaviest cut", governs="Missing:", reason="the cutter")
    return Plate(
        label="Heaviest cut left, radial" if page.passes.done and page.passes.left else "Heaviest cut, radial",
        number=units.planned(cut.depth_mm),
        unit=units.label,
        words=(f"feed {units.plain(cut.feed_mm_rev)} per rev", f"cutting force {force.tangential_n:.0f} N"),
        governs="From the pass plan:",
        reason=f"{page.record.material.label}, kc1.1 {page.record.material.kc11_mpa:.0f} MPa",
        because=Because(
            formula="kc = kc1.1 h^-mc, Fc = kc a f",
            inputs=[("kc1.1", f"{cut.kc11_mpa:.0f} MPa"), ("mc", f"{cut.mc:g}")],
            source=page.record.material.source,
        ),
    )
