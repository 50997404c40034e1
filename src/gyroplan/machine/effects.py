"""What a fault of the machine does to a bore: it depends on which part turns.

Sources: the geometry of a bar's path and of the work's turning, derived here; see "Which part turns" in docs/model.md.
"""

from __future__ import annotations

from dataclasses import dataclass

from gyrocore.notes import Note, note
from gyroplan.machine.kinds import Values, limited_mm, spindle_of


@dataclass(frozen=True, slots=True, kw_only=True)
class Effect:
    """The largest figure that a bore shows of it [mm], what it is of, and the sentence; None where it shows nothing."""

    figure_mm: float | None
    is_on: str
    says: Note


def effects_of(
    kind: str, values: Values, *, bar_turns: bool, tool_mm: float, bore_mm: float, centres_mm: float | None = None
) -> Effect:  # fmt: skip
    """Return what a check means for a bore.

    Parameters
    ----------
    kind, values : the check and what was read
    bar_turns : whether the bar turns and the work stands
    tool_mm : from the spindle's nose to the cutter [mm]
    bore_mm : length of the bore [mm]
    centres_mm : between centres, for a tailstock; the length of the bar that was read, where it is not known [mm]
    """
    if kind == "spindle":
        return _of_spindle(values, bar_turns, tool_mm)
    figure = limited_mm(kind, values)
    if kind == "play":
        if bar_turns:
            return Effect(figure_mm=figure, is_on="scatter of size", says=note("play_bar_turns", play_mm=figure))
        return Effect(figure_mm=figure, is_on="oval", says=note("play_work_turns", play_mm=figure))
    if kind in ("slope", "tram"):
        return _of_lean(kind, figure * bore_mm / 1000, bar_turns, bore_mm)
    if kind == "wear":
        return Effect(figure_mm=figure, is_on="axis off", says=note("guides_worn", worn_mm=figure))
    return _between_centres(kind, values, bore_mm, centres_mm)


def _between_centres(kind: str, values: Values, bore_mm: float, centres_mm: float | None) -> Effect:
    """A tailstock off the axis tapers; a centre that runs out shows when the work is turned end for end."""
    figure = limited_mm(kind, values)
    if kind == "centre":
        off = figure / 2
        return Effect(figure_mm=off, is_on="centre offset", says=note("centre_runs_out", off_mm=off))
    taper = 2 * figure * bore_mm / (centres_mm or values["over_mm"])
    says = note("tailstock_tapers", taper_mm=taper, length_mm=bore_mm)
    return Effect(figure_mm=taper, is_on="taper on Ø", says=says)


def _of_spindle(values: Values, bar_turns: bool, tool_mm: float) -> Effect:
    """A bar that runs out bores round, off size by up to its swing; work that turns is trued to its axis."""
    total = spindle_of(values, tool_mm).total_reading_at_tool_mm
    if bar_turns:
        return Effect(figure_mm=total, is_on="off size on Ø", says=note("spindle_bar_turns", total_mm=total))
    return Effect(figure_mm=None, is_on="", says=note("spindle_work_turns", total_mm=total))


def _of_lean(kind: str, lean: float, bar_turns: bool, bore_mm: float) -> Effect:
    """A path not parallel to the axis: taper of twice it where work turns, a leaning axis where the bar does."""
    if kind == "tram" or bar_turns:
        return Effect(figure_mm=lean, is_on="axis leans", says=note("path_leans", lean_mm=lean, length_mm=bore_mm))
    return Effect(
        figure_mm=2 * lean, is_on="taper on Ø", says=note("path_tapers", taper_mm=2 * lean, length_mm=bore_mm)
    )
