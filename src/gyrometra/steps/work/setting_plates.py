"""Plates of setting up: depths from each side and the step between; packing and axis; counterweights and speed."""

from __future__ import annotations

from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.plate import Because, Plate
from gyrometra.steps.work.setting_up import SettingUp, stack_words
from gyroplan.assess import Packed, Sides, Turning

_DERIVED = "Derived: a sum of lengths along the axis."


def setting_plates(page: JobPage, found: SettingUp) -> list[Plate]:
    """At most three plates: what is asked most of this set-up."""
    if found.turning is not None:
        return _turning(page, found.turning)
    if found.packed is not None:
        return _packed(page, found.packed)
    if found.sides is not None:
        return _sides(page, found.sides)
    return []


def _sides(page: JobPage, sides: Sides) -> list[Plate]:
    units, found, length = page.units, sides.found, page.bore.length_mm
    reach = units.length(sides.reach.depth_mm)
    by = (
        f"{units.length(sides.bar.length_mm)} less {units.length(sides.bar.length_mm - sides.bar.reach_mm)} clamped, "
        f"less {units.length(sides.clear_mm)} clear" if sides.reach.ends_by == "clamp"
        else f"its part of Ø{units.plain(sides.reach.thick_mm or 0)} does not enter"
    )  # fmt: skip
    because = Because(
        formula="depth = what can stand out less the holder's clearance, or up to a part that is too thick",
        inputs=[("bar", sides.bar.name), ("bore", units.length(length)), ("overlap", units.length(sides.overlap_mm))],
        source=_DERIVED,
    )  # fmt: skip
    if found.depth_a_mm is None or found.depth_b_mm is None:
        return [Plate(
            label="Short, from both sides together", number=units.length(found.short_mm), unit=units.label,
            state="bad", words=(f"{sides.bar.name} comes {reach} deep from a side",), governs="A longer bar:",
            reason=f"{by}; or a smaller overlap", because=because,
        )]  # fmt: skip
    if found.one_side_enough == "a":
        return [Plate(
            label="Reach into the bore from one side", number=reach, unit=units.label,
            words=(f"the bore is {units.length(length)}: one side is enough", sides.bar.name),
            governs="Limited by the clamped length:" if sides.reach.ends_by == "clamp" else "Limited by a step:",
            reason=by, because=because,
        )]  # fmt: skip
    return [
        Plate(label="Depth from this side", number=units.length(found.depth_a_mm), unit=units.label,
              words=(f"{sides.bar.name}", f"bar overhang {units.length(sides.out_a_mm or 0)}"),
              governs="Limited by the clamped length:" if sides.reach.ends_by == "clamp" else "Limited by a step:",
              reason=by, because=because),
        Plate(label="Depth from the other side", number=units.length(found.depth_b_mm), unit=units.label,
              words=(f"bar overhang {units.length(sides.out_b_mm or 0)}",
                     f"meets it with {units.length(sides.overlap_mm)} overlap"),
              governs="Left by this side:",
              reason=f"{units.length(length)} less {units.length(found.depth_a_mm)}, and the overlap",
              because=because),
        _step(page, sides),
    ]  # fmt: skip


def _step(page: JobPage, sides: Sides) -> Plate:
    units = page.units
    how = ["as trued" if trued else "half its run-out limit" for trued in sides.trued]
    return Plate(
        label="Step at the joint, at most", number=units.planned(sides.step_mm), unit=f"{units.label} radial",
        state="plain" if sides.step_mm <= sides.limit_mm else "warn",
        words=(f"this side {how[0]}", f"the other {how[1]}"), governs="Limited by both truings:",
        reason=f"{units.planned(sides.own_off_mm)} + {units.planned(sides.other_off_mm)}",
        because=Because(
            formula="step = centre offset of one truing + centre offset of the other, where they point apart",
            inputs=[("this side", f"{units.planned(sides.own_off_mm)}, {how[0]}"),
                    ("the other side", f"{units.planned(sides.other_off_mm)}, {how[1]}")],
            source="Derived: two axes that lie apart by no more than the sum of both offsets.",
        ),
    )  # fmt: skip


def _packed(page: JobPage, packed: Packed) -> list[Plate]:
    units = page.units
    if not packed.rows:
        return [Plate(label="Packing under the work", words=(f"{units.plain(packed.needed_mm)} {units.label} wanted",),
                      governs="Missing:", reason="packing with a height, in the crib")]  # fmt: skip
    row = next((one for one in packed.rows if one.allowed), packed.rows[0])
    because = Because(
        formula="axis error = stack less height wanted + half of what the shim is off",
        inputs=[("wanted", units.plain(packed.needed_mm)), ("falls to the front", units.plain(packed.fall_mm))],
        source="Derived: every stack of what is owned is tried; the axis lies midway between the feet.",
    )  # fmt: skip
    plates = [Plate(
        label="Packing, front and back", number=units.plain(row.stack.height_mm), unit=units.label,
        words=(stack_words(row.stack),), governs="Limited by what is owned:",
        reason=f"{units.signed(row.stack.error_mm)} off {units.plain(packed.needed_mm)}", because=because,
    )]  # fmt: skip
    if packed.fall_mm:
        shim = row.shim
        plates.append(Plate(
            label="Shim more, under the low feet", number=units.plain(shim.height_mm) if shim else "",
            unit=units.label if shim else "", words=(stack_words(shim),) if shim else (),
            governs="The slope asks:" if shim else "Missing:",
            reason=units.plain(packed.fall_mm) if shim else "a shim in the crib: packing up to 1 mm high",
        ))  # fmt: skip
    plates.append(Plate(
        label="Bore axis comes high" if row.axis_error_mm >= 0 else "Bore axis comes low",
        number=units.plain(abs(row.axis_error_mm)), unit=units.label, state="plain" if row.allowed else "bad",
        words=(f"{units.plain(packed.allowed_mm)} allowed",) if packed.allowed_mm is not None else (),
        governs="Limited by your own limit:" if packed.own_limit else "The stock covers:",
        reason="not known before the bore is measured" if packed.allowed_mm is None else units.plain(packed.allowed_mm),
        because=because,
    ))  # fmt: skip
    return plates


def _turning(page: JobPage, turning: Turning) -> list[Plate]:
    heavy, counter = turning.heavy, turning.counter
    because = Because(
        formula="unbalance = |sum of m r|; force = m r w²; weights split over the two holes nearest the light side",
        inputs=[("unbalance", f"{heavy.unbalance_kg_mm:.0f} kg mm"), ("left", f"{turning.left_kg_mm:.0f} kg mm")],
        source="Derived: sum of vectors; ISO 21940-11 speaks of one and two planes, this is one.",
    )  # fmt: skip
    weights = counter.weights if counter else ()
    first = Plate(
        label="Counterweight" if len(weights) < 2 else "Counterweights, in all",
        number=f"{sum(one.mass_kg for one in weights):g}" if weights else "", unit="kg" if weights else "",
        words=tuple(f"{one.mass_kg:g} kg at {one.angle_deg:.0f}°" for one in weights),
        governs="From the masses given:" if counter else "Missing:",
        reason=f"heavy side at {heavy.angle_deg:.0f}°" if counter and heavy.angle_deg is not None
        else "balanced as it stands" if heavy.angle_deg is None else "where a counterweight can be bolted",
        because=because,
    )  # fmt: skip
    left = Plate(label="Left unbalanced", number=f"{turning.left_kg_mm:.0f}", unit="kg mm",
                 words=(f"{heavy.unbalance_kg_mm:.0f} kg mm without a weight",), governs="Limited by the weights:",
                 reason=f"steps of {page.at.plan.weight_step_kg:g} kg", because=because)  # fmt: skip
    return [first, left, _fastest(page, turning, because)]


def _fastest(page: JobPage, turning: Turning, because: Because) -> Plate:
    """The least of the force's speed and the machine's own cap; without either none is offered."""
    own, force = page.speeds.cap_rpm, turning.max_rpm
    if own is None:
        return Plate(label="Largest speed", words=("no speed is offered above a slow one",), governs="Missing:",
                     reason="the machine's cap for unbalanced work, or the force allowed")  # fmt: skip
    by_force = force is not None and force <= own + 1e-9
    return Plate(
        label="Largest speed", number=f"{own:.0f}", unit="rpm", words=("start slow, stand aside",),
        governs="Limited by the force:" if by_force else "Limited by the cap:",
        reason=f"{page.at.plan.force_limit_n:g} N allowed" if by_force and page.at.plan.force_limit_n
        else "of the machine or the plan", because=because,
    )  # fmt: skip
