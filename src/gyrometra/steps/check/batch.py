"""A batch on Check: the run of the pieces, how many are left before a limit, what to open so that they match."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyrodraw import RunDrawn, RunPoint, Scene, run_chart
from gyrometra.bridge.units import Units
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.drift import by_setting_words, drift_words, left_words
from gyroplan.assess import Batch, batch_of

#: So many of the newest pieces are drawn.
_DRAWN = 30
_MARKS = {"in": "in", "over": "over", "metal-left": "under"}


@dataclass(frozen=True, kw_only=True)
class BatchWords:
    """The run in words: how it drifts, how many pieces are left, which to open; and its chart."""

    scene: Scene
    drift: str
    left: str
    mark: str
    opens: Sequence[str]
    match: str
    #: Which pieces were set alike, and how far they lie apart.
    alike: str


def batch_words(page: JobPage) -> BatchWords | None:
    """None where fewer than two pieces are measured."""
    found, units = batch_of(page.assessment, page.place), page.units
    if found is None:
        return None
    run = found.drift
    left = "" if run is None else left_words(run)
    few = run is not None and run.pieces_left < _SOON
    return BatchWords(
        scene=_scene(page, found), drift=drift_words(run, units) + by_setting_words(found.by_setting),
        left=left, mark="advice" if few else "in",
        opens=[f"Piece {row.name}: open to Ø{units.planned(row.to_mm)}, {units.planned(row.cut_mm)} off on Ø"
               for row in found.match.rows] if found.match and not found.match.within else [],
        match=_match(found, units), alike=_alike_words(found, units),
    )  # fmt: skip


def run_words(page: JobPage, place: int) -> str:
    """The run of one bore over the pieces, for a report; empty where fewer than two are measured."""
    found, units = batch_of(page.assessment, place), page.units
    if found is None:
        return ""
    said = drift_words(found.drift, units) + by_setting_words(found.by_setting)
    return f"{said} {_match(found, units)}".strip()


#: With fewer pieces left the edge is looked at before the next (chosen here).
_SOON = 5


def _alike_words(found: Batch, units: Units) -> str:
    """Empty where a setting is not known, or every piece was set by itself."""
    if not any(len(group.pieces) > 1 for group in found.groups):
        return ""
    said = []
    for group in found.groups:
        first, last = group.pieces[0], group.pieces[-1]
        which = f"piece {first}" if first == last else f"pieces {first} to {last}"
        apart = "" if first == last else f", {units.planned(group.spread_mm)} apart"
        said.append(f"{which} at Ø{units.planned(group.set_mm)}{apart}")
    return f"Set alike: {'; '.join(said)}."


def _match(found: Batch, units: Units) -> str:
    if found.match is None:
        return ""
    spread = units.planned(found.match.spread_mm)
    if found.match.within:
        return f"They match: {spread} between the largest and the smallest."
    return f"No match: {spread} apart." + ("" if found.match.possible else " The largest is over its limit.")


def _scene(page: JobPage, found: Batch) -> Scene:
    units, bore = page.units, page.bore
    scale = units.scale
    shown = found.pieces[-_DRAWN:]
    points = [
        RunPoint(name=str(one.piece), value=one.mean_mm * scale, words=units.planned(one.mean_mm),
                 mark=_MARKS.get(one.word, "undecided")) for one in shown
    ]  # fmt: skip
    run = found.drift
    line = expected = None
    if run is not None:
        first = run.next_mm - run.slope_mm_piece * len(shown)
        # pieces set to different sizes do not lie on the line of the drift
        line = None if found.by_setting else (first * scale, run.slope_mm_piece * scale)
        expected = (run.next_mm * scale, units.planned(run.next_mm))
    drawn = RunDrawn(
        points=points, lower=bore.lower_mm * scale, upper=bore.upper_mm * scale,
        lower_words=units.lowest(bore.lower_mm),
        upper_words=units.highest(bore.upper_mm), line=line, expected=expected,
        title=f"{bore.name} of {len(found.pieces)} pieces in their order, mean Ø, against the limits",
    )  # fmt: skip
    return run_chart(drawn)
