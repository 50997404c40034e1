"""Plates of Bar: overhang, spring, heaviest cut; the ranked bars."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from gyrocore import bar_kind, sentence
from gyrodraw import dial_scale
from gyrometra.bridge.units import Units
from gyrometra.jobs.reckon import Reckoning
from gyrometra.steps.page import JobPage
from gyrometra.steps.plates.base import Because, Plate
from gyrometra.steps.plates.centres import centres_plates
from gyrometra.steps.plates.head import hole_plate
from gyrometra.steps.plates.line import line_plates


@dataclass(frozen=True, kw_only=True)
class BarRow:
    """A bar of the crib in the list."""

    pk: int
    words: str
    gripped: str
    stiffness: str
    spring: str
    usable: bool
    picked: bool
    tag: str
    reason: str


def bar_rows(page: JobPage) -> list[BarRow]:
    """The crib's bars: usable first; each that will not do with its reason."""
    reckoning, units = page.reckoning, page.units
    choice = reckoning.choice
    if choice is None:
        return []
    by_name = {bar.name: bar for bar in page.bars}
    rows = []
    for ranked in choice.ranked:
        bar = by_name[ranked.name]
        push = abs(reckoning.force.radial_n) if reckoning.force else None
        spring = push / ranked.tip_stiffness_n_mm if push is not None else None
        tags = [
            tag
            for tag, name in (("rule picks it", choice.by_rule), ("stiffest", choice.by_stiffness))
            if name == ranked.name
        ]
        rows.append(
            BarRow(
                pk=bar.pk,
                words=f"{bar.name} · {bar_kind(bar.kind).label} Ø{units.plain(bar.diameter_mm)} x "
                f"{units.length(bar.length_mm)}",
                gripped=units.length(float(bar.length_mm) - ranked.overhang_mm),
                stiffness=f"{ranked.tip_stiffness_n_mm / 1000:.1f}",
                spring="" if spring is None else units.small(spring),
                usable=ranked.usable,
                picked=reckoning.bar is not None and reckoning.bar.pk == bar.pk,
                tag=", ".join(tags),
                reason=" ".join(sentence(reason, units.unit) for reason in ranked.reasons),
            )
        )
    return rows


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
    hard = [name for name in found.overhang.exceeded if name != "rule"]
    words = f"springs {units.small(found.spring_mm)} at {units.planned(found.cut.depth_mm)} deep"
    if not found.enters:
        return StateLine(state="over", words="does not enter the bore as found, or is too short")
    if hard:
        limit = units.limit(found.overhang.hard_limit_mm or 0)
        return StateLine(state="over", words=f"{words}: past its hard limit of {limit}")
    then = f"the bar below then enters Ø{units.planned(page.reckoning.entry_mm or 0)}"
    if found.overhang.exceeded:
        return StateLine(state="advice", words=f"{words}: past the rule of thumb; {then}")
    return StateLine(state="in", words=f"{words}; {then}")


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
        return [Plate(label="Hang the bar out", governs="Missing:", reason="a reach that fits")]
    out = _hang_out(page, reckoning.out_mm)
    if way == "head":
        return [hole_plate(page), out, _spring(page)]
    return [out, _spring(page), _heaviest(reckoning, units)]


def _hang_out(page: JobPage, reach: float) -> Plate:
    units, found, picked = page.units, page.reckoning.overhang, page.reckoning.bar
    in_head = picked is not None and picked.is_fixed
    base: dict[str, Any] = {
        "label": "The bar stands out" if in_head else "Hang the bar out",
        "number": units.length(reach),
        "unit": units.label,
    }
    if picked is None:
        return Plate(**base, words=("pick a bar from the list",), governs="Reach governs:",
                     reason="bore, past the end, clear of the holder")  # fmt: skip
    if found is None:
        return Plate(**base, words=("holder face to cutter point",), governs="1 of 2 missing:",
                     reason="the cutter; bar is in")  # fmt: skip
    hard = found.hard_limit_mm
    state, governs = "plain", f"{_CRITERION[found.governing]} governs:"
    in_hand = found.safe_overhang_mm - reach
    reason = f"{units.limit(in_hand)} in hand of {units.limit(found.safe_overhang_mm)}"
    if found.exceeded == ("rule",):
        state, governs = "warn", "Advice governs:"
        reason = f"{units.length(-in_hand)} over. Hard limit {units.limit(hard or 0)}"
    elif found.exceeded:
        state, governs = "bad", f"Do not run. {_CRITERION[found.exceeded[-1]]}:"
        reason = f"{units.length(reach - (hard or 0))} past the hard limit of {units.limit(hard or 0)}"
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
            formula="rule: ratio x D; deflection: |radial| L^3 / (3 E I) = budget; "
            "chatter: b (t o cos^2 K + m) kc = 2 k z (1 + z)",
            inputs=[
                *((_CRITERION[x.criterion], units.limit(x.overhang_mm) if x.overhang_mm else "sets no limit")
                  for x in found.limits),
                ("allowed spring, on radius", f"{units.fine(page.reckoning.budget_mm)} {units.label}"),
                *((sentence(n, units.unit), "") for n in found.notes),
            ],
            source="Rule: shop practice. Bending: Euler-Bernoulli. Chatter: oriented one-mode limit.",
        ),
    )  # fmt: skip


_CRITERION = {"rule": "Rule of thumb", "deflection": "Deflection", "chatter": "Chatter"}


def _spring(page: JobPage) -> Plate:
    units, reckoning = page.units, page.reckoning
    spring, force = reckoning.spring_mm, reckoning.force
    if spring is None or force is None:
        return Plate(label="Spring at the cutter", governs="Missing:", reason="bar and cutter")
    over = spring > reckoning.budget_mm
    own = reckoning.plan.budget_mm is not None
    return Plate(
        label="Spring, on radius",
        number=units.small(spring),
        unit=units.label,
        words=(
            f"allowed {units.fine(reckoning.budget_mm)}, push {force.radial_n:.0f} N",
            f"{(reckoning.tip_stiffness_n_mm or 0) / 1000:.1f} N/µm, rings at {reckoning.frequency_hz or 0:.0f} Hz",
        ),
        governs="Allowed:",
        reason="your own figure" if own else "a quarter of the size tolerance",
        state="bad" if over else "plain",
        because=Because(
            formula="spring = |radial force| / stiffness of the bar with its real steps",
            inputs=[
                ("stiffness at the cutter", f"{(reckoning.tip_stiffness_n_mm or 0) / 1000:.1f} N/µm"),
                ("lowest mode", f"{reckoning.frequency_hz or 0:.0f} Hz"),
                *([("as stiff as a plain bar of", f"Ø{units.planned(reckoning.stands_out.equal_diameter_mm)}")]
                  if reckoning.bar and reckoning.bar.steps_mm and reckoning.stands_out else []),
                ("radial force", f"{force.radial_n:.1f} N"),
                ("specific force kc", f"{force.kc_mpa:.0f} MPa"),
                ("chip thickness", f"{force.chip_thickness_mm:.3f} mm"),
            ],
            source="Kienzle on the chord of the edge; Euler-Bernoulli beam of the stepped bar, clamped at the holder.",
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
        words=(f"feed {units.plain(cut.feed_mm_rev)} a turn", f"cutting force {force.tangential_n:.0f} N"),
        governs="Pass plan governs:",
        reason=f"{reckoning.material.label}, kc1.1 {reckoning.material.kc11_mpa:.0f} MPa",
        because=Because(
            formula="kc = kc1.1 h^-mc, Fc = kc a f",
            inputs=[("kc1.1", f"{cut.kc11_mpa:.0f} MPa"), ("mc", f"{cut.mc:g}")],
            source=reckoning.material.source,
        ),
    )


# ---------------------------------------------------------------- Cuts
