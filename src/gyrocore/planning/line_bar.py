"""A bar in bearings: which bores its spans reach, and how long it must be."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyrocore.checks import TOLERANCE, require_finite, require_positive, require_unique
from gyrocore.choices import LineFeed
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note


@dataclass(frozen=True, slots=True, kw_only=True)
class BoreInLine:
    """A bore's place along the bar [mm]; a blind one is closed at its end, and no bar passes there."""

    name: str
    start_mm: float
    end_mm: float
    closed: bool = False

    @property
    def length_mm(self) -> float:
        """End less start [mm]."""
        return self.end_mm - self.start_mm


@dataclass(frozen=True, slots=True, kw_only=True)
class LineBarRow:
    """One bore: how the bar is held there and how far its worst place lies from a bearing [mm]."""

    bore: str
    mode: str
    distance_mm: float
    allowed_mm: float
    ok: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class LineBarLayout:
    """All bores, whether the bearings stand well, and the least bar that does it [mm]."""

    rows: tuple[LineBarRow, ...]
    bearings_ok: bool
    ok: bool
    least_bar_length_mm: float
    notes: tuple[Note, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class LineBar:
    """The bar: diameter, rule of thumb, length where known, and what travels along the work."""

    diameter_mm: float
    rule_ratio: float = 7.0
    length_mm: float | None = None
    feed: LineFeed = "bar"


def line_bar_layout(*, bar: LineBar, bores: Sequence[BoreInLine], bearings_mm: Sequence[float]) -> LineBarLayout:
    """Return how far each bore lies from the nearest bearing, against what the rule allows.

    Parameters
    ----------
    bar : diameter, rule ratio and length over 0 [mm]; feed `bar` (the bar travels) or `head`
    bores : each name once, end over start [mm]
    bearings_mm : two or more different places, none strictly inside a bore [mm]

    Returns
    -------
    LineBarLayout, all [mm]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds, with the place in its list.

    Notes
    -----
    Between two bearings the worst place of a bore is the one nearest the middle of the span. Beyond the
    outermost bearing it is the far end, and the two bearings nearest to it must stand at least that far
    apart: the tip's give grows as a^2 (a + b), overhang a, spacing b. A travelling bar carries its
    cutter through the longest bore, so that much is added to its least length.

    References
    ----------
    Distance rule: shop practice, editable (7 diameters). Spacing: overhanging beam, `formulas.beam`.

    Examples
    --------
    >>> bores = [BoreInLine(name="H1", start_mm=0, end_mm=80), BoreInLine(name="H2", start_mm=620, end_mm=700)]
    >>> line_bar_layout(bar=LineBar(diameter_mm=60), bores=bores, bearings_mm=[-80, 780]).rows[1].distance_mm
    160
    """
    require_line(bar, bores, bearings_mm)
    stands = sorted(bearings_mm)
    allowed = bar.rule_ratio * bar.diameter_mm
    rows = tuple(_row(bore, stands, allowed) for bore in bores)
    wide = [note for row in rows if row.mode == "overhung" for note in _spacing_notes(row, bores, stands)]
    least = _least_length_mm(bores, stands, bar.feed)
    long_enough = bar.length_mm is None or bar.length_mm >= least - TOLERANCE
    return LineBarLayout(
        rows=rows,
        bearings_ok=not wide,
        ok=not wide and long_enough and all(row.ok for row in rows),
        least_bar_length_mm=least,
        notes=(*_row_notes(rows), *wide, *_length_notes(bar, least, long_enough)),
    )


def require_line(bar: LineBar, bores: Sequence[BoreInLine], bearings_mm: Sequence[float]) -> None:
    """Refuse bores without length, bearings too few, doubled, inside a bore or past a closed end, an unknown feed."""
    require_positive(bar_diameter_mm=bar.diameter_mm)
    if not bores:
        raise InvalidInput("bores", "empty")
    for place, bore in enumerate(bores):
        require_finite(**{f"bores.{place}.start_mm": bore.start_mm, f"bores.{place}.end_mm": bore.end_mm})
        if bore.end_mm <= bore.start_mm:
            raise InvalidInput(f"bores.{place}.end_mm", "end_not_past_start", given=bore.end_mm, allowed=bore.start_mm)
    require_unique("bores.*.name", [bore.name for bore in bores])
    _require_bearings(bores, bearings_mm)
    require_positive(rule_ratio=bar.rule_ratio, bar_length_mm=bar.length_mm)
    if bar.feed not in ("bar", "head"):
        raise InvalidInput("feed", "unknown_choice", given=bar.feed, choices="bar, head")


def _require_bearings(bores: Sequence[BoreInLine], bearings_mm: Sequence[float]) -> None:
    if len(bearings_mm) < 2:
        raise InvalidInput("bearings_mm", "two_bearings", count=str(len(bearings_mm)))
    for place, stand in enumerate(bearings_mm):
        require_finite(**{f"bearings_mm.{place}": stand})
        for bore in bores:
            if bore.start_mm + TOLERANCE < stand < bore.end_mm - TOLERANCE:
                raise InvalidInput(
                    f"bearings_mm.{place}", "bearing_in_bore", given=stand, bore=bore.name,
                    start_mm=bore.start_mm, end_mm=bore.end_mm,
                )  # fmt: skip
            if bore.closed and stand >= bore.end_mm - TOLERANCE:
                raise InvalidInput(
                    f"bearings_mm.{place}", "bearing_past_closed_end", given=stand, bore=bore.name, end_mm=bore.end_mm
                )
        if any(abs(stand - other) <= TOLERANCE for other in bearings_mm[:place]):
            raise InvalidInput(f"bearings_mm.{place}", "repeated", given=stand)


def _row(bore: BoreInLine, stands: Sequence[float], allowed_mm: float) -> LineBarRow:
    mode, distance = "between", 0.0
    if bore.start_mm >= stands[-1] - TOLERANCE:
        mode, distance = "overhung", bore.end_mm - stands[-1]
    elif bore.end_mm <= stands[0] + TOLERANCE:
        mode, distance = "overhung", stands[0] - bore.start_mm
    else:
        distance = _worst_between_mm(bore, stands)
    return LineBarRow(
        bore=bore.name, mode=mode, distance_mm=distance, allowed_mm=allowed_mm, ok=distance <= allowed_mm + TOLERANCE
    )


def _worst_between_mm(bore: BoreInLine, stands: Sequence[float]) -> float:
    left = max(stand for stand in stands if stand <= bore.start_mm + TOLERANCE)
    right = min(stand for stand in stands if stand >= bore.end_mm - TOLERANCE)
    middle = (left + right) / 2
    worst = min(max(middle, bore.start_mm), bore.end_mm)
    return min(worst - left, right - worst)


def _spacing_notes(row: LineBarRow, bores: Sequence[BoreInLine], stands: Sequence[float]) -> list[Note]:
    bore = next(bore for bore in bores if bore.name == row.bore)
    beyond = bore.start_mm >= stands[-1] - TOLERANCE
    apart = stands[-1] - stands[-2] if beyond else stands[1] - stands[0]
    if apart >= row.distance_mm - TOLERANCE:
        return []
    return [note("bearings_too_close", bore=row.bore, apart_mm=apart, needed_mm=row.distance_mm)]


def _least_length_mm(bores: Sequence[BoreInLine], stands: Sequence[float], feed: str) -> float:
    ends = [*stands, *(bore.start_mm for bore in bores), *(bore.end_mm for bore in bores)]
    stroke = max(bore.length_mm for bore in bores) if feed == "bar" else 0.0
    return max(ends) - min(ends) + stroke


def _row_notes(rows: Sequence[LineBarRow]) -> tuple[Note, ...]:
    worst = max(rows, key=lambda row: row.distance_mm)
    word = "line_holds" if worst.ok else "line_too_far"
    return (note(word, bore=worst.bore, distance_mm=worst.distance_mm, allowed_mm=worst.allowed_mm),)


def _length_notes(bar: LineBar, least_mm: float, long_enough: bool) -> tuple[Note, ...]:
    if bar.length_mm is None:
        return (note("bar_length_not_known", least_mm=least_mm),)
    if long_enough:
        return ()
    return (note("bar_too_short_for_line", length_mm=bar.length_mm, least_mm=least_mm),)
