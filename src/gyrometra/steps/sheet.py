"""The plates of the set-up sheet."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from django.utils.timezone import localtime

from gyrometra.bridge.units import Units
from gyrometra.steps import progress_words
from gyrometra.steps.bar.plates import bar
from gyrometra.steps.check.conceded import conceded_words
from gyrometra.steps.cuts.plates import BREAKS, cuts
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.plate import Plate
from gyrometra.steps.work.feature_plates import cut_at
from gyrometra.steps.work.features import FORM_OF, angle_words, size_words
from gyrometra.steps.work.setting_up import setting_up, stack_words
from gyroplan.assess import Packing, packing_of
from gyroplan.record import BoreRecord, letter_of


def sheet_plates(page: JobPage) -> list[Plate]:
    """The plates of Bar and Cuts, each figure once."""
    seen: dict[str, Plate] = {}
    for plate in [*bar(page), *cuts(page)]:
        seen.setdefault(f"{plate.number} {plate.unit}" if plate.number else plate.label, plate)
    return list(seen.values())


#: Less than this is no shim.
_SHIM_MM = 5e-4


@dataclass(frozen=True, kw_only=True)
class FinishedBore:
    """What a bore must become, what it is now, and what was measured."""

    name: str
    wanted: str
    limits: str
    target: str
    asked: Sequence[tuple[str, str]]
    found: Sequence[tuple[str, str]]
    #: Depths and directions to measure at, with what was measured there.
    depths: Sequence[str]
    grid: Sequence[tuple[str, Sequence[str]]]


def title_block(page: JobPage) -> list[tuple[str, str]]:
    """What a stranger needs first: the work, the machine, the tools, who planned it."""
    job, units = page.job, page.units
    setup, bar, cutter = job.setup, page.at.bar, page.at.cutter
    bar_words = ""
    if bar is not None:
        out = f", {units.length(page.bar.out_mm)} out" if page.bar.out_mm and setup.way.bar_in == "holder" else ""
        bar_words = f"{bar.name} Ø{units.plain(bar.diameter_mm)}{out}"
    head = setup.plan.head
    rows = [
        ("Material", str(job.material)), ("Quantity", str(job.quantity)),
        ("Due", f"{job.due_on:%d %b %Y}" if job.due_on else ""),
        ("Author", job.made_by.username if job.made_by else ""),
        ("Revision", f"{job.version}, {localtime(job.changed_at):%d %b %Y}"),
        ("Set-up", _setup_words(page)), ("Machine", page.record.setup.machine.name),
        ("Boring method", setup.way.label), ("Holding", setup.way.holding),
        ("Set true to", setup.get_reference_display()), ("Bar", bar_words), ("Head", str(head) if head else ""),
        ("Notes", job.notes),
        ("Cutter", f"{cutter.name}, nose R{units.plain(cutter.nose_radius_mm)}" if cutter else ""),
    ]  # fmt: skip
    return [(name, words) for name, words in rows if words]


def _setup_words(page: JobPage) -> str:
    """Which of several set-ups it is."""
    if not page.has_setups:
        return ""
    side = f", {page.job.setup.get_side_display()}" if page.record.setup.side == "other" else ""
    return f"{page.record.setup.letter} of {len(page.setups)}{side}"


def finished_bore(page: JobPage) -> FinishedBore:
    """One bore's finished size, its limits, and the bore as found."""
    bore, units = page.bore, page.units
    asked = [("Run-out (TIR)", bore.runout_limit_mm), ("Roundness", bore.roundness_limit_mm),
             ("Taper over the bore, on Ø", bore.taper_limit_mm)]  # fmt: skip
    depth = [("Shoulder depth", units.between(bore.depth_lower_mm, bore.depth_upper_mm or 0))
             ] if bore.depth_lower_mm is not None else []  # fmt: skip
    stations = page.judged.stations_mm or [z for z, _ in bore.found_mm]
    angles = sorted({place.angle_deg for place in page.judged.places}) or [0.0, 90.0]
    return FinishedBore(
        name=bore.name, wanted=f"Ø{page.wanted_words}",
        limits=units.between(bore.lower_mm, bore.upper_mm),
        target=f"target {units.planned(bore.aim_mm)}",
        asked=[*((name, f"≤ {units.highest(value)}") for name, value in asked if value is not None), *depth],
        found=[(f"found, {units.length(z)} deep{_towards(bore, z, d)}", units.planned(d)) for z, d in bore.found_mm],
        depths=[units.length(z) for z in stations],
        grid=[(f"{angle:.0f}°", [_measured(page, z, angle) for z in stations]) for angle in angles],
    )  # fmt: skip


def _measured(page: JobPage, z_mm: float, angle_deg: float) -> str:
    place = page.judged.place(z_mm, angle_deg)
    return "" if place is None else page.units.planned(place.value_mm)


def target_words(page: JobPage, bore: BoreRecord) -> str:
    """The owner's own target as it was written, where that means the same to this reader; else as limits."""
    row = page.rows.bore_at(bore.place)
    typed = row.typed.get("target")
    unit = typed["unit"] if typed else "mm"
    return page.units.limits(row.target, unit, bore.target_lower_mm or 0.0, bore.target_upper_mm or 0.0)


def signed_words(page: JobPage) -> str:
    """The verdict of a signed job; empty before."""
    signoff = getattr(page.job, "signoff", None)
    if signoff is None:
        return ""
    word = progress_words.VERDICT_WORDS.get(str(signoff.verdict.get("word", "")), "Signed")
    conceded = "; ".join(conceded_words(signoff.verdict, page.units))
    return (
        f"{word}. Signed by {signoff.by.username}, {localtime(signoff.at):%d %b %Y %H:%M}."
        + (f" Accepted by concession: {conceded}" if conceded else "")
    )  # fmt: skip


def packing_words(page: JobPage) -> str:
    """What lies under the work, and what must: its own axis is to lie at the spindle's."""
    units, found = page.units, packing_of(page.at)
    if found is None:
        return ""
    axis = units.plain(found.axis_mm)
    names = " and ".join(f"{one.name} {units.plain(one.height_mm or 0)}" for one in found.under)
    if found.foot_mm <= 0:
        return f"{names} stand higher than the axis, {axis} over the table: the work cannot lie on them."
    words = f"The axis lies {axis} over table or saddle"
    if found.needed_mm is None:
        return f"{words}; {names} under the work: its own axis must lie {units.plain(found.foot_mm)} over its foot."
    if found.needed_mm < 0:
        return f"{words}: the work stands {units.plain(-found.needed_mm)} too high without any packing."
    return f"{words}: put {units.planned(found.needed_mm)} under the work{_lacking_words(found, names, units)}."


def _lacking_words(found: Packing, names: str, units: Units) -> str:
    """What is still to be put under the work beside what lies there."""
    lacking = found.lacking_mm or 0.0
    if not found.under:
        return ""
    if abs(lacking) < _SHIM_MM:
        return f"; {names} is just that"
    return f"; with {names} under it {units.planned(abs(lacking))} {'too much' if lacking < 0 else 'more is needed'}"


def sheet_facts(page: JobPage) -> list[tuple[str, str]]:
    """What else the hands must know: what holds it, keyways, ports and slots, own target, alike, the opening bar."""
    setup, units = page.record.setup, page.units
    facts = [("Held with:", fixture.name) for fixture in setup.fixtures]
    for bore in page.bores:
        of = f" of {bore.name}" if page.is_several else ""
        facts += [
            (f"{BREAKS[broken.kind].capitalize()}{of}:",
             f"{units.plain(broken.from_mm)} to {units.plain(broken.to_mm)}, at {broken.angle_deg:g}°")
            for broken in bore.breaks
        ]  # fmt: skip
        facts += [(f"{one.name[:1].upper()}{one.name[1:]}, not cut{of}:", f"Ø{units.plain(one.diameter_mm)}, "
                   f"{units.length(one.from_mm)} to {units.length(one.to_mm)}: the bar must pass it")
                  for one in bore.there]  # fmt: skip
        if bore.target_lower_mm is not None:
            facts.append((f"Own target{of}:", target_words(page, bore)))
    facts += _features(page)
    facts += _worked_out(page)
    if setup.match_mm is not None:
        facts.append(("Alike within:", f"{units.plain(setup.match_mm)} on diameter"))
    if page.at.opening_bar is not None:
        facts.append(("Roughed with:", page.at.opening_bar.name))
    return facts


def _features(page: JobPage) -> list[tuple[str, str]]:
    """Faces, bands, outsides, reliefs and distances: what is asked, what comes off, in how many passes."""
    units, facts = page.units, list[tuple[str, str]]()
    for one in page.record.setup.features:
        asked = [size_words(page, one)]
        if one.angle_lower_deg is not None and one.angle_upper_deg is not None:
            asked.append(angle_words(one.angle_lower_deg, one.angle_upper_deg))
        if one.runout_limit_mm is not None:
            asked.append(f"run-out (TIR) {units.fine(one.runout_limit_mm)}")
        if one.form_limit_mm is not None:
            asked.append(f"{FORM_OF[one.kind]} {units.fine(one.form_limit_mm)}")
        if one.to_setup is not None:
            asked.append(f"from the axis of set-up {letter_of(one.to_setup)}")
        cut = cut_at(page, one)
        if cut is not None:
            asked.append(f"{cut.passes} x {units.planned(cut.depth_mm)} along the axis at {cut.rpm:g} rpm")
        if cut is not None and cut.band is not None:
            asked.append(f"top slide {cut.band.top_slide_deg:g}° from the axis")
        facts.append((f"{one.name}:", ", ".join(words for words in asked if words)))
    return facts


def _worked_out(page: JobPage) -> list[tuple[str, str]]:
    """What was worked out before anything is clamped: two sides, packing and shim, weights and speed."""
    units, at, facts = page.units, page.at, list[tuple[str, str]]()
    if at.is_one_side:
        facts.append(("Two sides:", f"{units.length(at.bored_mm)} deep from this side, then turn round, true again and "
                                    f"bore the rest, {units.length(at.plan.overlap_mm)} past it"))  # fmt: skip
    found = setting_up(page)
    best = next((row for row in found.packed.rows if row.allowed), None) if found.packed else None
    if best is not None:
        shim = f"; {stack_words(best.shim)} more under the low feet" if best.shim else ""
        stack = f"{stack_words(best.stack)} = {units.plain(best.stack.height_mm)}"
        facts.append(("Packing:", f"{stack}, front and back{shim}"))
    elif packing_words(page):
        facts.append(("Packing:", packing_words(page).rstrip(".")))
    counter = found.turning.counter if found.turning else None
    if counter is not None and at.plan.plate_radius_mm is not None:
        weights = ", ".join(f"{one.mass_kg:g} kg at {one.angle_deg:.0f}°" for one in counter.weights)
        cap = "" if page.speeds.cap_rpm is None else f"; no faster than {page.speeds.cap_rpm:.0f} rpm"
        facts.append(("Counterweights:", f"{weights or 'none'}, {units.plain(at.plan.plate_radius_mm)} off the axis, "
                                         f"clockwise from the mark{cap}"))  # fmt: skip
    return facts


def _towards(bore: BoreRecord, z_mm: float, diameter_mm: float) -> str:
    deg = bore.found_in_deg(z_mm, diameter_mm)
    return "" if deg is None else f", at {deg:g}°"
