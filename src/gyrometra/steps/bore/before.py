"""What earlier passes and pieces say before the pass in hand is cut: spring passes, a batch that drifts."""

from __future__ import annotations

from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.drift import by_setting_words, drift_words, drifts, left_words
from gyroplan.assess import SPRING_LEFT, Springs, batch_of, springs_of


def spring_words(page: JobPage) -> list[str]:
    """What the last spring pass grew against the beam model, and what the one in hand should."""
    found, units = springs_of(page.boring), page.units
    words, done, last = [], page.passes.done, found.cut[-1] if found.cut else None
    if last is not None and last.grew_mm is not None and done[-1].number == last.number:
        stood = _stood(last.share, page, last.stood_off_mm)
        words.append(f"Spring pass {last.number}, setting left: {_grew(last.grew_mm, page)}; {stood}.")
    if found.in_hand is not None and found.foreseen_mm:
        by = units.planned(found.foreseen_mm)
        words.append(f"The setting left, it should grow by about {by} on Ø: {_why(found)}. "
                     "Feed one way only, as the pass before: the way back cuts again.")  # fmt: skip
    return words


def _grew(grew_mm: float, page: JobPage) -> str:
    if abs(grew_mm) < _LEAST_MM:
        return "it did not grow"
    return f"it {'grew' if grew_mm > 0 else 'measures less'} by {page.units.planned(abs(grew_mm))} on Ø"


#: A change smaller than this is none [mm].
_LEAST_MM = 0.0005


def _stood(share: float | None, page: JobPage, stood_mm: float) -> str:
    if share is None:
        return "what the bar stood off is not known"
    stood = f"by the beam model the bar stood {page.units.planned(stood_mm)} off"
    if share > 1:
        return f"{stood}: more than that came back, so warmth, the gauge, or a bar less stiff than its model"
    return f"{stood}, {max(0.0, share):.2f} of it came back"


def _why(found: Springs) -> str:
    if found.in_hand is None:
        return ""
    if found.share is None:
        return f"{1 - SPRING_LEFT:.1f} of what the bar stands off, none was measured here yet"
    return f"{found.share:.2f} of what the bar stands off, as it did here before"


def run_words(page: JobPage) -> list[str]:
    """Before the last pass of a piece: how the pieces of the batch run, where they do."""
    state = page.passes.state
    if page.record.quantity <= 3 or state is None or state.phase != "set" or state.in_hand != page.passes.count:
        return []
    found = batch_of(page.assessment, page.place)
    if found is None or found.drift is None or not drifts(found.drift):
        return []
    run, by = found.drift, by_setting_words(found.by_setting)
    next_to = f"Set as the last, the next comes to Ø{page.units.planned(run.next_mm)}."
    return [f"{drift_words(run, page.units)}{by} {next_to} {left_words(run)}"]
