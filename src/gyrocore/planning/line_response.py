"""A bar in bearings under its own weight and under the cut, and where one more bearing helps."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from gyrocore.checks import TOLERANCE, require_not_negative
from gyrocore.errors import InvalidInput
from gyrocore.formulas.beam_model import STEEL, BarMaterial, BeamModel, Segment, Support, build_beam
from gyrocore.notes import Note, note
from gyrocore.planning.line_bar import BoreInLine, LineBar, LineBarLayout, line_bar_layout, require_line

#: Clear of a bore's face that a bearing's own body needs (chosen here: half of a short bearing, editable).
BEARING_CLEAR_MM = 40.0
#: Places tried in each gap for one more bearing.
_TRIES = 41


@dataclass(frozen=True, slots=True, kw_only=True)
class LineResponseRow:
    """One bore: sag at its middle, give at its softest place, spring under the cut, and how far off the line."""

    bore: str
    sag_mm: float
    stiffness_n_mm: float | None
    spring_mm: float
    off_line_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class LineResponse:
    """All bores, the sagged line for drawing [mm], and the lowest mode [Hz]."""

    rows: tuple[LineResponseRow, ...]
    curve: tuple[tuple[float, float], ...]
    natural_frequency_hz: float
    notes: tuple[Note, ...] = ()


def line_response(
    *,
    bar: LineBar,
    bores: Sequence[BoreInLine],
    bearings_mm: Sequence[float],
    radial_n: float = 0.0,
    material: BarMaterial = STEEL,
) -> LineResponse:
    """Return sag, spring and straightness of a bar in bearings at each of its bores.

    Parameters
    ----------
    bar : diameter over 0; its length, where given, sets the weight of its ends [mm]
    bores : as `line_bar_layout` takes them [mm]
    bearings_mm : two or more different places [mm]
    radial_n : radial push of the cut, 0 or more [N]
    material : Young's modulus [GPa], density [kg/m3]

    Returns
    -------
    LineResponse: sag down positive [mm], stiffness [N/mm] (None where it stands on a bearing throughout)

    Raises
    ------
    InvalidInput
        As `line_bar_layout`; at `radial_n` where it is negative.

    Notes
    -----
    The bar is one round beam on rigid bearings that hold its place and leave its slope free. `off_line_mm`
    is the sag at a bore's middle against the straight line through the first and the last bore: what a bar
    that hangs between them bores low. The give of the bearings is left out, so the true bar is softer.

    References
    ----------
    Euler-Bernoulli beam theory, `formulas.beam_model`.

    Examples
    --------
    >>> bores = [BoreInLine(name="H1", start_mm=0, end_mm=80), BoreInLine(name="H2", start_mm=620, end_mm=700)]
    >>> found = line_response(bar=LineBar(diameter_mm=60), bores=bores, bearings_mm=[-80, 780])
    >>> found.rows[0].sag_mm > 0
    True
    """
    require_line(bar, bores, bearings_mm)
    require_not_negative(radial_n=radial_n)
    left, length = _bar_ends(bar, bores, bearings_mm)
    supports = [Support(position_mm=stand - left, kind="bearing") for stand in sorted(bearings_mm)]
    places = [[bore.start_mm, (bore.start_mm + bore.end_mm) / 2, bore.end_mm] for bore in bores]
    points = [place - left for three in places for place in three]
    beam = build_beam([Segment(length_mm=length, diameter_mm=bar.diameter_mm)], material, supports, points)
    gives = beam.compliances_mm_n(points)
    sags = [float(beam.sag_mm(0)[beam.node_at(three[1] - left)]) for three in places]
    rows = _rows(bores, gives, sags, radial_n)
    softest = points[max(range(len(points)), key=lambda n: gives[n])]
    return LineResponse(
        rows=rows,
        curve=_curve(beam, left),
        natural_frequency_hz=beam.lowest_frequency_hz(softest),
        notes=_notes(rows),
    )


def _bar_ends(bar: LineBar, bores: Sequence[BoreInLine], bearings_mm: Sequence[float]) -> tuple[float, float]:
    """Left end and length of the bar: what it must cover, the rest of its length shared between both ends."""
    ends = [*bearings_mm, *(bore.start_mm for bore in bores), *(bore.end_mm for bore in bores)]
    needed = max(ends) - min(ends)
    length = max(needed, bar.length_mm or needed)
    return min(ends) - (length - needed) / 2, length


def _rows(
    bores: Sequence[BoreInLine], gives: Sequence[float], sags: Sequence[float], radial_n: float
) -> tuple[LineResponseRow, ...]:
    middles = [(bore.start_mm + bore.end_mm) / 2 for bore in bores]
    first, last = min(range(len(bores)), key=middles.__getitem__), max(range(len(bores)), key=middles.__getitem__)
    rows = []
    for place, bore in enumerate(bores):
        give = max(gives[3 * place : 3 * place + 3])
        line = sags[first]
        if middles[last] > middles[first]:
            share = (middles[place] - middles[first]) / (middles[last] - middles[first])
            line += share * (sags[last] - sags[first])
        rows.append(
            LineResponseRow(
                bore=bore.name,
                sag_mm=sags[place],
                stiffness_n_mm=1 / give if give > 0 else None,
                spring_mm=radial_n * give,
                off_line_mm=sags[place] - line,
            )
        )
    return tuple(rows)


def _curve(beam: BeamModel, left_mm: float) -> tuple[tuple[float, float], ...]:
    sag = beam.sag_mm(0)
    return tuple((float(z) + left_mm, float(down)) for z, down in zip(beam.nodes_mm, sag, strict=True))


def _notes(rows: Sequence[LineResponseRow]) -> tuple[Note, ...]:
    worst = max(rows, key=lambda row: abs(row.off_line_mm))
    if len(rows) < 3:
        return (note("bearings_are_rigid"),)
    return (note("off_line", bore=worst.bore, off_mm=abs(worst.off_line_mm)), note("bearings_are_rigid"))


def one_more_bearing_mm(
    *, bar: LineBar, bores: Sequence[BoreInLine], bearings_mm: Sequence[float], clear_mm: float = BEARING_CLEAR_MM
) -> float | None:
    """Return where one more bearing brings the worst bore nearest to a bearing.

    Parameters
    ----------
    bar : as `line_bar_layout` takes it
    bores : as `line_bar_layout` takes them [mm]
    bearings_mm : the bearings that stand [mm]
    clear_mm : room that the bearing needs to each face and bearing, 0 or more [mm]

    Returns
    -------
    place along the axis [mm]; None where no gap takes one, or none helps

    Raises
    ------
    InvalidInput
        As `line_bar_layout`; at `clear_mm` where it is negative.

    Notes
    -----
    Places are tried in every gap between faces and bearings; the least worst distance wins, then the least
    sum of distances. Whole millimetres, since a bearing is stood by hand.

    References
    ----------
    Search over `line_bar_layout`.

    Examples
    --------
    >>> bores = [BoreInLine(name="H1", start_mm=0, end_mm=80), BoreInLine(name="H2", start_mm=620, end_mm=700)]
    >>> one_more_bearing_mm(bar=LineBar(diameter_mm=60), bores=bores, bearings_mm=[-80, 1280])
    580
    """
    require_line(bar, bores, bearings_mm)
    require_not_negative(clear_mm=clear_mm)
    now = _reach_of(line_bar_layout(bar=bar, bores=bores, bearings_mm=bearings_mm))
    tried = []
    for place in _free_places(bores, bearings_mm, clear_mm):
        try:
            layout = line_bar_layout(bar=bar, bores=bores, bearings_mm=[*bearings_mm, place])
        except InvalidInput:
            continue
        tried.append((_reach_of(layout), place))
    best = min(tried, default=None)
    return best[1] if best is not None and best[0] < now else None


def _reach_of(layout: LineBarLayout) -> tuple[float, float]:
    distances = [row.distance_mm for row in layout.rows]
    return max(distances), sum(distances)


def _free_places(bores: Sequence[BoreInLine], bearings_mm: Sequence[float], clear_mm: float) -> list[int]:
    """Whole millimetres within the gaps, a gap's width of room kept on both sides."""
    marks = sorted([*((bore.start_mm, bore.end_mm) for bore in bores), *((stand, stand) for stand in bearings_mm)])
    places = []
    for (_, left), (right, _) in pairwise(marks):
        low, high = left + clear_mm, right - clear_mm
        if high < low - TOLERANCE:
            continue
        step = (high - low) / (_TRIES - 1)
        places += sorted({round(low + n * step) for n in range(_TRIES)})
    return places
