"""Plates of Bar: overhang, spring, heaviest cut; the ranked bars."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from gyrocore import BarChoice, RankedBar, bar_kind, cutting_force, sentence
from gyrodraw import dial_scale
from gyrometra.bridge.units import Units
from gyrometra.crib.models import Bar
from gyrometra.jobs.reckon import Reckoning
from gyrometra.steps.page import JobPage
from gyrometra.steps.plates.base import LIMIT_WORDS, Because, Plate, verdict_words
from gyrometra.steps.plates.centres import centres_plates
from gyrometra.steps.plates.head import hole_plate
from gyrometra.steps.plates.line import line_plates
from gyroplan.plan import worst_deflection


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


def bar_rows(page: JobPage) -> list[BarRow]:
    """The crib's bars, best first; each with its verdict over all passes."""
    choice = page.reckoning.choice
    if choice is None:
        return []
    by_name = {bar.name: bar for bar in page.bars}
    rows = [_bar_row(page, choice, ranked, by_name[ranked.name]) for ranked in choice.ranked]
    order = {"ok": 0, "caution": 0, "stop": 1, "out": 2}
    return sorted(rows, key=lambda row: order[row.state])


def _bar_row(page: JobPage, choice: BarChoice, ranked: RankedBar, bar: Bar) -> BarRow:
    reckoning, units = page.reckoning, page.units
    picked = reckoning.bar is not None and reckoning.bar.pk == bar.pk
    verdict = page.bar_verdict if picked else reckoning.verdict_of(bar, ranked.overhang_mm, reckoning.carried)
    worst = worst_deflection(reckoning.carried, ranked.tip_stiffness_n_mm)
    names = (("least overhang, then largest", choice.by_rule), ("stiffest", choice.by_stiffness))
    state = "out" if not ranked.usable else verdict.state if verdict else "ok"
    reasons = " ".join(sentence(reason, units.unit) for reason in ranked.reasons)
    return BarRow(
        pk=bar.pk,
        words=f"{bar.name} · {bar_kind(bar.kind).label} Ø{units.plain(bar.diameter_mm)} x "
        f"{units.length(bar.length_mm)}",
        gripped=units.length(float(bar.length_mm) - ranked.overhang_mm),
        stiffness=f"{ranked.tip_stiffness_n_mm / 1000:.1f}",
        spring="" if worst is None else units.small(worst.spring_mm),
        state=state,
        picked=picked,
        tag=", ".join(tag for tag, name in names if name == ranked.name),
        reason=reasons if state == "out" else "" if verdict is None or state == "ok" else verdict_words(verdict, units),
    )


@dataclass(frozen=True, kw_only=True)
class StateLine:
    """One line with its mark."""

    state: str
    words: str

    @property
    def mark(self) -> str:
        """The mark that goes with the state."""
        return self.state

    @property
    def known(self) -> bool:
        """Whether nothing is to be looked at again."""
        return self.state == "in"


def opening_line(page: JobPage) -> StateLine | None:
    """The bar that opens the bore up, under its own heaviest cut."""
    found, units = page.reckoning.opening, page.units
    if found is None:
        return None
    words = f"deflects {units.small(found.spring_mm)} at {units.planned(found.cut.depth_mm)} deep"
    if not found.enters:
        return StateLine(state="over", words="does not enter the bore as found, or is too short")
    state = {"ok": "in", "caution": "advice", "stop": "over"}[found.verdict.state]
    if state == "over":
        return StateLine(state=state, words=f"{words}. {verdict_words(found.verdict, units)}")
    then = f"the bar below then enters Ø{units.planned(page.reckoning.entry_mm or 0)}"
    past = "" if state == "in" else f" {verdict_words(found.verdict, units)}"
    return StateLine(state=state, words=f"{words}; {then}.{past}")


def tuning_line(page: JobPage) -> StateLine | None:
    """Where the damper of a tuned bar must stand; only its owner's own points are used."""
    found, bar, units = page.reckoning.tuning, page.reckoning.bar, page.units
    if found is None or bar is None:
        return None
    if found.turns is None:
        near = [p for p in (found.before, found.after) if p is not None]
        points = " or ".join(f"{units.length(p.overhang_mm)} ({p.turns:g} turns)" for p in near)
        words = f"{bar.name} is not tuned for this overhang: its table has {points}. Nothing is guessed between."
        return StateLine(state="advice", words=words)
    move = found.move_turns
    if move is None:
        return StateLine(state="advice", words=f"Damper to {found.turns:g} turns out; where it stands is not known")
    if abs(move) < 1e-9:
        return StateLine(state="in", words=f"Damper stands at {found.turns:g} turns out, right for this overhang")
    way = "out" if move > 0 else "in"
    return StateLine(state="advice", words=f"Turn the damper {abs(move):g} turns {way}, to {found.turns:g} out")


def bar(page: JobPage) -> list[Plate]:
    """Overhang, spring, hard limit; in a head its hole, in bearings where they stand."""
    reckoning, units = page.reckoning, page.units
    way = page.job.setup.way.bar_in
    if way == "bearings":
        return line_plates(page)
    if way == "centres":
        return centres_plates(page)
    if reckoning.reach is None or reckoning.out_mm is None:
        return [Plate(label="Bar overhang", governs="Missing:", reason="a reach that fits")]
    out = _hang_out(page, reckoning.out_mm)
    if way == "head":
        return [hole_plate(page), out, _spring(page)]
    return [out, _spring(page), _heaviest(reckoning, units)]


def _hang_out(page: JobPage, reach: float) -> Plate:
    units, found, picked = page.units, page.reckoning.overhung, page.reckoning.bar
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
    stays = units.length(float(picked.length_mm) - reach)
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


def _rule_words(bar: Bar) -> str:
    return f"{bar_kind(bar.kind).rule_ratio:g} x D"


def _budget_inputs(page: JobPage) -> list[tuple[str, str]]:
    """What each kind of pass may spring, on radius, and why."""
    units = page.units
    seen: dict[str, str] = {}
    for load in page.reckoning.carried:
        words = f"{units.fine(round(load.budget_mm, 5))} {units.label}, {_BUDGET_WORDS[load.budget_from]}"
        seen.setdefault(words, f"{load.kind} pass {load.number} may deflect, on radius")
    return [(name, words) for words, name in seen.items()]


def _spring(page: JobPage) -> Plate:
    units, reckoning = page.units, page.reckoning
    worst = reckoning.deflection
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
            f"{(reckoning.tip_stiffness_n_mm or 0) / 1000:.1f} N/µm, natural frequency "
            f"{reckoning.frequency_hz or 0:.0f} Hz",
        ),
        governs="Allowed:",
        reason=_BUDGET_WORDS[worst.load.budget_from],
        state="bad" if over else "plain",
        because=Because(
            formula="deflection = |radial force| / stiffness of the bar with its real steps",
            inputs=[
                ("stiffness at the cutter", f"{(reckoning.tip_stiffness_n_mm or 0) / 1000:.1f} N/µm"),
                ("natural frequency", f"{reckoning.frequency_hz or 0:.0f} Hz"),
                *([("as stiff as a plain bar of", f"Ø{units.planned(reckoning.stands_out.equal_diameter_mm)}")]
                  if reckoning.bar and reckoning.bar.steps_mm and reckoning.stands_out else []),
                ("radial force", f"{worst.radial_n:.1f} N"),
                ("specific force kc", f"{force.kc_mpa:.0f} MPa"),
                ("chip thickness", f"{units.fine(round(force.chip_thickness_mm, 4))} {units.label}"),
                *_budget_inputs(page),
            ],
            source="Kienzle on the chord of the edge; Euler-Bernoulli beam of the stepped bar, clamped at the holder. "
            "What a pass may deflect: chosen here, editable.",
        ),
    )  # fmt: skip


def _heaviest(reckoning: Reckoning, units: Units) -> Plate:
    cut, force = reckoning.heaviest_cut, reckoning.force
    if cut is None or force is None:
        return Plate(label="Heaviest cut", governs="Missing:", reason="the cutter")
    return Plate(
        label="Heaviest cut left, radial" if reckoning.done and reckoning.left else "Heaviest cut, radial",
        number=units.planned(cut.depth_mm),
        unit=units.label,
        words=(f"feed {units.plain(cut.feed_mm_rev)} per rev", f"cutting force {force.tangential_n:.0f} N"),
        governs="From the pass plan:",
        reason=f"{reckoning.material.label}, kc1.1 {reckoning.material.kc11_mpa:.0f} MPa",
        because=Because(
            formula="kc = kc1.1 h^-mc, Fc = kc a f",
            inputs=[("kc1.1", f"{cut.kc11_mpa:.0f} MPa"), ("mc", f"{cut.mc:g}")],
            source=reckoning.material.source,
        ),
    )


# ---------------------------------------------------------------- Cuts
