"""Plates of a bar between centres: where the bit stands, the cutter over the bar, what the bar gives."""

from __future__ import annotations

from gyrocore import error_sentence, sentence
from gyrometra.steps.cuts.plates import first_dial
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.plate import Because, Plate, verdict_words
from gyroplan.assess import Centres


def centres_plates(page: JobPage) -> list[Plate]:
    """Bit, spring, first setting."""
    found, problem = page.bar.centres.value, page.bar.centres.refused
    if found is None:
        why = error_sentence(problem, page.units.unit) if problem else "a bar with centres"
        return [Plate(label="Put the bit at", governs="Refused:" if problem else "Missing:", reason=why)]
    plates = [_bit_plate(page, found), _spring_plate(page, found)]
    if page.speeds.planned:
        plates.append(first_dial(page))
    return plates


def _bit_plate(page: JobPage, found: Centres) -> Plate:
    units, layout = page.units, found.layout
    because = Because(
        formula="driver + end of the bore + clear <= bit <= bar - tail - work past the start of the bore - clear",
        inputs=[
            ("least bar between centres", units.length(layout.least_bar_length_mm)),
            ("the saddle travels", units.length(layout.travel_mm)),
            ("work", units.length(found.work.length_mm)),
            *((sentence(n, units.unit), "") for n in layout.notes),
        ],
        source="Derived from the places of work and bit at both ends of the travel.",
    )
    if found.bit_mm is None or layout.bit_to_mm is None or not layout.ok:
        return Plate(
            label="Least bar between centres", number=units.length(layout.least_bar_length_mm), unit=units.label,
            words=(f"this one is {units.length(found.bar_length_mm)}",), governs="Do not run:",
            reason=sentence(layout.notes[0], units.unit), state="bad", because=because,
        )  # fmt: skip
    return Plate(
        label="Put the bit at, from the driver's centre",
        number=units.length(found.bit_mm),
        unit=units.label,
        words=(f"{units.length(layout.bit_from_mm)} to {units.length(layout.bit_to_mm)} are OK",
               f"saddle travels {units.length(layout.travel_mm)}"),
        governs="Bar in hand:",
        reason=f"{units.length(found.bar_length_mm - layout.least_bar_length_mm)} over the least",
        because=because,
    )  # fmt: skip


def _spring_plate(page: JobPage, found: Centres) -> Plate:
    units, response = page.units, found.response
    if response is None or found.spring_mm is None:
        missing = "the cutter" if page.at.cutter is None else "a bar long enough"
        return Plate(label="Deflection at the bit", governs="Missing:", reason=missing)
    limit = found.chatter.limit_depth_mm if found.chatter else None
    worst = page.bar.deflection
    if worst is None:
        return Plate(label="Deflection at the bit", governs="Missing:", reason="a pass to cut")
    verdict = found.verdict
    governs, reason = "Allowed:", units.fine(round(worst.load.budget_mm, 5))
    if verdict is not None and verdict.state != "ok":
        governs, reason = "Do not run:" if verdict.state == "stop" else "Caution:", verdict_words(verdict, units)
    stiffness = response.stiffness_n_mm or 0.0
    return Plate(
        label="Deflection at the bit, on radius",
        number=units.small(worst.spring_mm),
        unit=units.label,
        words=(f"{stiffness / 1000:.1f} N/µm", f"sags {units.planned(response.sag_mm)}"),
        governs=governs,
        reason=reason,
        state={"stop": "bad", "caution": "warn"}.get(verdict.state if verdict else "", "plain"),
        because=Because(
            formula="beam on two centres, the cut pushing at the bit",
            inputs=[
                ("natural frequency", f"{response.natural_frequency_hz:.0f} Hz"),
                ("chatter begins at", "no depth up to ten times this cut" if limit is None else units.about(limit)),
                ("the sag", "bores low by as much, alike all along: the work passes one place of the bar"),
                *((sentence(n, units.unit), "") for n in response.notes),
            ],
            source="Euler-Bernoulli beam, centres taken as rigid and free to turn. Chatter: oriented one-mode limit.",
        ),
    )
