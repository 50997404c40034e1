"""What follows for a feature: time of facing, the top slide's angle, the slide move to the next axis."""

from __future__ import annotations

from gyrocore import InvalidInput, slide_move
from gyrometra.bridge.units import Units
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.plate import Because, Plate
from gyroplan.assess import AtBore, FeatureCut, cut_of, face_speed_rpm
from gyroplan.record import FeatureRecord, MachineRecord, letter_of

_FACED = ("face", "length", "band")


def feature_plates(page: JobPage, feature: FeatureRecord | None) -> list[Plate]:
    """At most three plates for the feature that is open."""
    if feature is None:
        return []
    if feature.kind == "distance":
        return _axis(page, feature)
    return _faced(page, feature) if feature.kind in _FACED else _turned(page, feature)


def cut_at(page: JobPage, feature: FeatureRecord) -> FeatureCut | None:
    """What facing it takes with this set-up's cutter and machine."""
    at: AtBore = page.at
    return cut_of(feature, at.plan, face_speed_rpm(at, feature))


def _faced(page: JobPage, feature: FeatureRecord) -> list[Plate]:
    units, found = page.units, cut_at(page, feature)
    if found is None:
        missing = [words for words, is_missing in (
            ("the Ø it is faced from", feature.outer_mm is None), ("what comes off", not feature.stock_mm),
            ("a cutter and a speed on Cuts", face_speed_rpm(page.at, feature) is None and feature.outer_mm is not None),
        ) if is_missing]  # fmt: skip
        return [Plate(label="Facing time under feed", governs="Missing:", reason=", ".join(missing) or "a feed")]
    plan = page.at.plan
    plates = [Plate(
        label="Facing time under feed", number=f"{found.minutes:.1f}", unit="min",
        words=(f"{found.passes} {'pass' if found.passes == 1 else 'passes'}, "
               f"{units.planned(found.depth_mm)} each along the axis",
               f"{found.rpm:g} rpm: carriage stop, or the top slide"),
        governs="Limited by the roughing depth:", reason=units.planned(plan.rough_depth_mm),
        because=Because(
            formula="minutes = (outer - inner) / 2 / (feed x rpm), each pass; the last at the finishing feed",
            inputs=[("ring", f"{units.plain(feature.outer_mm or 0)} to {units.plain(feature.inner_mm or 0)}"),
                    ("feeds", f"{units.fine(plan.rough_feed_mm_rev)}, {units.fine(plan.finish_feed_mm_rev)}"),
                    ("rpm", f"{found.rpm:g}, at the outer edge")],
            source="Derived: the integral of the feed.",
        ),
    )]  # fmt: skip
    if found.band is not None:
        plates.append(_band(units, feature, found))
    return plates


def _band(units: Units, feature: FeatureRecord, found: FeatureCut) -> Plate:
    band = found.band
    assert band is not None  # noqa: S101 - asked before
    stock, moved = units.planned(feature.stock_mm or 0), units.planned(band.inner_shift_mm or 0)
    shift = f"{stock} along the axis moves the inner edge {moved} on Ø" if band.inner_shift_mm is not None else ""
    return Plate(
        label="Top slide, from the axis", number=f"{band.top_slide_deg:g}", unit="°",
        words=(f"{units.planned(band.width_mm)} wide along the slope, {units.planned(band.height_mm)} high", shift),
        governs="From square:", reason=f"{90 - band.top_slide_deg:g}°",
        because=Because(
            formula="top slide = 90 - angle from square; width = (outer - inner) / 2 / cos; edge = 2 x deepening / tan",
            inputs=[("ring", f"{units.plain(feature.outer_mm or 0)} to {units.plain(feature.inner_mm or 0)}")],
            source="Derived: a right triangle.",
        ),
    )  # fmt: skip


def _turned(page: JobPage, feature: FeatureRecord) -> list[Plate]:
    """An outside or a relief: what comes off, and to where."""
    units, aim = page.units, feature.aim_mm
    if aim is None:
        return []
    word = "turned to" if feature.kind == "outside" else "bored to"
    stock = feature.stock_mm
    return [Plate(
        label="To come off, on Ø", number="" if stock is None else units.planned(stock), unit=units.label,
        words=(f"{word} Ø{units.planned(aim)}, mid-limit",),
        governs="Limits:" if stock is not None else "Missing:",
        reason=units.between(feature.lower_mm or 0, feature.upper_mm or 0) if stock is not None else "what comes off",
    )]  # fmt: skip


def _axis(page: JobPage, feature: FeatureRecord) -> list[Plate]:
    """How the slide is moved from the other axis to this one, and what to read between the bores afterwards."""
    units, aim, machine = page.units, feature.aim_mm, page.at.machine
    if aim is None:
        return []
    other = next((one for one in page.record.others if one.place == feature.to_setup), None)
    letter = letter_of(feature.to_setup or 1)
    plates = [_move(units, machine, aim, letter)]
    sizes = {} if other is None else {piece: (size, expanded) for piece, size, expanded in other.first_bore_mm}
    if page.piece in sizes:
        far, own = sizes[page.piece][0], page.judged.mean_mm or page.bore.aim_mm
        near = aim - (far + own) / 2
        plates.append(Plate(
            label="Then read between the near walls", number=units.planned(near), unit=units.label,
            words=(f"Ø{units.planned(far)} in set-up {letter}, measured",
                   f"Ø{units.planned(own)} here, {'measured' if page.judged.mean_mm else 'as wanted'}"),
            governs="Limited by the limits:", reason=units.between(feature.lower_mm or 0, feature.upper_mm or 0),
            because=Because(
                formula="reading = centre distance - (Ø here + Ø there) / 2",
                inputs=[("centre distance", units.planned(aim))], source="Derived: radii on the line of the centres.",
            ),
        ))  # fmt: skip
    return plates


def _move(units: Units, machine: MachineRecord, aim_mm: float, letter: str) -> Plate:
    label = f"Slide move from the axis of {letter}"
    if machine.table_division_mm is None or machine.table_divisions_per_turn is None:
        return Plate(label=label, number=units.planned(aim_mm), unit=units.label, words=("mid-limit",),
                     governs="Missing:", reason=f"the table dial of {machine.name}, in the crib")  # fmt: skip
    try:
        found = slide_move(
            distance_mm=aim_mm, division_mm=machine.table_division_mm,
            divisions_per_turn=machine.table_divisions_per_turn,
            backlash_divisions=machine.table_backlash_divisions or 0.0,
        )  # fmt: skip
    except InvalidInput:
        return Plate(label=label, governs="Missing:", reason="a dial that can move so far")
    play = machine.table_backlash_divisions or 0.0
    turned = f"{found.after_reversal_turns} turns {found.after_reversal_odd:.1f} div where it was wound back before"
    return Plate(
        label=label, number=f"{found.turns}", unit=f"turns {found.odd_divisions:.1f} div",
        words=(f"{units.planned(aim_mm)} {units.label}, mid-limit",
               turned if play else "the play of its screw is not known"),
        governs="Come up from the same side:", reason="past it, back off more than the play",
        because=Because(
            formula="turns = distance / (division x divisions a turn); wound back before: the play first",
            inputs=[("division", units.fine(machine.table_division_mm)),
                    ("a turn", f"{machine.table_divisions_per_turn}"), ("play", f"{play:g} div")],
            source="Derived: a screw of constant lead.",
        ),
    )  # fmt: skip
