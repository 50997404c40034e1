"""What a report hands over: every limit of a bore asked against found, with its uncertainty and its own verdict."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import date
from hashlib import sha256

from gyroplan.assess.check import Checked, worst_word
from gyroplan.assess.features import FeatureChecked, FeatureLine
from gyroplan.assess.standing import Assessment
from gyroplan.assess.together import in_line
from gyroplan.assess.truing import RoundStanding
from gyroplan.gauges import Gauge
from gyroplan.record import GaugeCard, SizeRecord


@dataclass(frozen=True, slots=True, kw_only=True)
class ReportRow:
    """One limit: what and where, asked, accepted (asked less the uncertainty), found, its verdict [mm]."""

    number: int
    #: size, taper, roundness, runout, depth, in-line, or a feature's own.
    what: str
    name: str = ""
    z_mm: float | None = None
    angle_deg: float | None = None
    lower_mm: float | None = None
    upper_mm: float | None = None
    found_mm: float | None = None
    expanded_mm: float | None = None
    #: in, over, under, undecided, incomplete; `beside` what is evidence and no limit.
    verdict: str = "incomplete"
    #: Of plugs: between what the size lies.
    bounds_mm: tuple[float | None, float | None] = (None, None)
    #: Of a feature: degrees, not millimetres.
    is_angle: bool = False
    #: Whether its limits are narrowed by the uncertainty.
    guarded: bool = True

    @property
    def accepted_mm(self) -> tuple[float | None, float]:
        """The limits narrowed by the uncertainty, as far as the rule does so; a lower one only where there is one."""
        doubt, upper = self.expanded_mm or 0.0 if self.guarded else 0.0, self.upper_mm or 0.0
        return (None if self.lower_mm is None else self.lower_mm + doubt), upper - doubt


@dataclass(frozen=True, slots=True, kw_only=True)
class GaugeUsed:
    """A gauge of the report, and the rows that rest on it."""

    gauge: Gauge
    card: GaugeCard
    due_on: date | None
    rows: tuple[int, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class BoreReport:
    """One bore of one piece as it is handed over."""

    piece: int
    bore: str
    place: int
    rows: tuple[ReportRow, ...]
    gauges: tuple[GaugeUsed, ...]
    #: The word of all its rows: in, metal-left, over, not-proven or incomplete.
    word: str
    temperatures: tuple[float, float, float]

    @property
    def digest(self) -> str:
        """The first sixteen figures of SHA-256 over the rows: two prints with the same are the same."""
        told = [(r.what, r.name, r.z_mm, r.angle_deg, r.lower_mm, r.upper_mm, r.found_mm, r.expanded_mm, r.bounds_mm,
                 r.verdict) for r in self.rows]  # fmt: skip
        return sha256(repr(told).encode()).hexdigest()[:16]

    @property
    def guarded(self) -> bool:
        """Whether its limits are narrowed by the uncertainty."""
        return all(row.guarded for row in self.rows)

    @property
    def in_limits(self) -> int:
        """How many limits are in limits."""
        return sum(row.verdict == "in" for row in self.rows)

    @property
    def asked(self) -> int:
        """How many limits there are."""
        return sum(row.verdict != "beside" for row in self.rows)


def report_of(job: Assessment, piece: int, place: int) -> BoreReport:
    """Return what is handed over of one bore of one piece: sizes place by place, form, run-out, depth, the line."""
    checked, made = job.check(piece, place), _made_beside(job, piece, place)
    rows = [*_sizes(checked), *_limits(checked), *_line(job, piece, place), *_features(made)]
    guarded = job.record.rule == "guarded"
    numbered = tuple(replace(row, number=number, guarded=guarded) for number, row in enumerate(rows, 1))
    temperatures = [(one.part_temp_c, one.gauge_temp_c, one.temp_u_c) for one in checked.sizes]
    return BoreReport(
        piece=piece, bore=checked.bore.name, place=place, rows=numbered,
        gauges=_gauges(checked, made, job.swept(piece, place), numbered),
        word=worst_word([checked.word, *_words_beside(job, piece, place, made)]),
        temperatures=temperatures[-1] if temperatures else (20.0, 20.0, 0.0),
    )  # fmt: skip


def _sizes(checked: Checked) -> list[ReportRow]:
    bore = checked.bore
    plugs = _plugs(checked)
    if not checked.places and plugs:
        return plugs
    if not checked.places:
        return [ReportRow(number=0, what="size", lower_mm=bore.lower_mm, upper_mm=bore.upper_mm)]
    return [
        ReportRow(number=0, what="size", z_mm=one.z_mm, angle_deg=one.angle_deg, lower_mm=bore.lower_mm,
                  upper_mm=bore.upper_mm, found_mm=one.value_mm, expanded_mm=one.expanded_mm, verdict=one.verdict)
        for one in sorted(checked.places, key=lambda place: (place.angle_deg, place.z_mm))
    ] + plugs  # fmt: skip


def _plugs(checked: Checked) -> list[ReportRow]:
    """Plugs as one row: between what the size lies by them; beside sizes they are evidence, no limit of their own."""
    bounds, bore = checked.bounds, checked.bore
    if bounds is None:
        return []
    within = (bounds.at_least_mm, bounds.at_most_mm)
    if checked.places and bounds.verdict == "undecided":
        return [ReportRow(number=0, what="plug", bounds_mm=within, verdict="beside")]
    return [ReportRow(number=0, what="plug", lower_mm=bore.lower_mm, upper_mm=bore.upper_mm, bounds_mm=within,
                      verdict=bounds.verdict or "undecided")]  # fmt: skip


def _limits(checked: Checked) -> list[ReportRow]:
    return [
        ReportRow(number=0, what=one.name, upper_mm=one.allowed_mm, found_mm=one.found.value_mm,
                  lower_mm=checked.bore.depth_lower_mm if one.name == "depth" else None,
                  expanded_mm=one.found.expanded_mm, verdict=one.found.verdict)
        for one in checked.limits if one.found is not None
    ]  # fmt: skip


def _words_beside(job: Assessment, piece: int, place: int, made: Sequence[FeatureChecked]) -> list[str]:
    """The words of what stands with a bore on its page: features, and the bores in line."""
    line = in_line(job, piece) if place == job.record.setup.bores[0].place else None
    lined = [] if line is None else [line.word if line.word in ("in", "over", "incomplete") else "not-proven"]
    return [*(one.word for one in made if one.lines), *lined]


def _line(job: Assessment, piece: int, place: int) -> list[ReportRow]:
    """The bores in line stand with the first of them."""
    found = in_line(job, piece)
    if found is None or place != job.record.setup.bores[0].place:
        return []
    word = {"in": "in", "over": "over", "incomplete": "incomplete"}.get(found.word, "undecided")
    return [ReportRow(number=0, what="in-line", upper_mm=found.asked_mm, found_mm=found.value_mm, verdict=word)]


_OF_WORD = {"in": "in", "over": "over", "metal-left": "under", "not-proven": "undecided"}


def _made_beside(job: Assessment, piece: int, place: int) -> Sequence[FeatureChecked]:
    """What is made beside the bores stands with the first of them."""
    return job.features(piece) if place == job.record.setup.bores[0].place else ()


def _features(made: Sequence[FeatureChecked]) -> list[ReportRow]:
    return [_feature(one, line) for one in made for line in one.lines]


def _feature(one: FeatureChecked, line: FeatureLine) -> ReportRow:
    return ReportRow(
        number=0, what=f"feature-{line.what}", name=one.feature.name, lower_mm=line.lower, upper_mm=line.upper,
        found_mm=line.value, expanded_mm=line.expanded, verdict=_OF_WORD.get(line.word, "incomplete"),
        is_angle=line.what == "angle", bounds_mm=_bounds(line),
    )  # fmt: skip


def _bounds(line: FeatureLine) -> tuple[float | None, float | None]:
    """Between what rings leave it, where nothing was read."""
    alone = line.bounds if line.value is None else None
    return (None, None) if alone is None else (alone.at_least_mm, alone.at_most_mm)


def _gauges(
    checked: Checked, features: Sequence[FeatureChecked], swept: RoundStanding | None, rows: tuple[ReportRow, ...]
) -> tuple[GaugeUsed, ...]:  # fmt: skip
    """Each gauge once, with the rows that it read; form follows from all gauges of sizes."""
    found: dict[tuple[str, GaugeCard], tuple[Gauge, date | None, set[int]]] = {}
    for gauge, card, due, numbers in (*_read_by(checked, features, rows), *_indicated(features, swept, rows)):
        found.setdefault((gauge.name, card), (gauge, due, set()))[2].update(numbers)
    return tuple(
        GaugeUsed(gauge=gauge, card=card, due_on=due, rows=tuple(sorted(numbers)))
        for (_, card), (gauge, due, numbers) in found.items()
    )  # fmt: skip


def _read_by(
    checked: Checked, features: Sequence[FeatureChecked], rows: tuple[ReportRow, ...]
) -> Iterator[tuple[Gauge, GaugeCard, date | None, set[int]]]:
    """Every reading's gauge, with the rows of the report that rest on it."""

    def of(*whats: str) -> set[int]:
        return {row.number for row in rows if row.what in whats}

    for size in checked.sizes:
        yield size.gauge, size.card, size.gauge_due_on, of("taper", "roundness") | _at(size, rows)
    for plug in checked.plugs:
        yield plug.gauge, plug.card, plug.gauge_due_on, of("plug")
    for depth in checked.depths:
        yield depth.gauge, depth.card, depth.gauge_due_on, of("depth")
    for one in features:
        named = {row.number for row in rows if row.name == one.feature.name and row.what == "feature-size"}
        for reading in (reading for line in one.lines for reading in line.readings):
            if reading.gauge is not None:
                yield reading.gauge, reading.card, reading.gauge_due_on, named


def _indicated(
    features: Sequence[FeatureChecked], swept: RoundStanding | None, rows: tuple[ReportRow, ...]
) -> Iterator[tuple[Gauge, GaugeCard, date | None, set[int]]]:
    """The same of indicators: of the sweep that counts, and of the last swing of each feature."""
    used = [] if swept is None else [(swept.round.indicator, "runout", "")]
    used += [
        (line.readings[-1].indicator, f"feature-{line.what}", one.feature.name)
        for one in features for line in one.lines if line.readings
    ]  # fmt: skip
    for indicator, what, name in used:
        if indicator is not None:
            numbers = {row.number for row in rows if (row.what, row.name) == (what, name)}
            yield Gauge(name=indicator.name, resolution_mm=indicator.step_mm), indicator.card, indicator.due_on, numbers


def _at(size: SizeRecord, rows: tuple[ReportRow, ...]) -> set[int]:
    """The row of the place where a size was read."""
    return {
        row.number for row in rows
        if row.what == "size" and row.z_mm is not None and abs(row.z_mm - size.z_mm) < _SAME
        and abs((row.angle_deg or 0.0) - size.angle_deg % 180) < _SAME
    }  # fmt: skip


#: Places that differ by less are the same [mm], [deg].
_SAME = 1e-9
