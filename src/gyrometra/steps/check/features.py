"""Faces, bands, outsides, reliefs and distances on Check: each limit a row that judges, and where it is read."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date
from decimal import Decimal
from typing import Any
from uuid import UUID

from django import forms

from gyrocore import InvalidInput, unit_slip
from gyrometra.bridge.choices import ChoiceOfRow
from gyrometra.bridge.units import to_decimal
from gyrometra.crib.models import Gauge, Indicator
from gyrometra.inspection.models import FeatureReading
from gyrometra.inspection.services import ReadOfFeature
from gyrometra.steps import progress_words
from gyrometra.steps.check.plugs import between_words
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.entries import EntryForm, worded
from gyrometra.steps.work.features import FORM_OF, SIZE_OF
from gyroplan.assess import RINGED, FeatureLine, at_centres, is_late
from gyroplan.record import FeatureReadingRecord, FeatureRecord, letter_of

What, Over = FeatureReading.What, FeatureReading.Over
#: What an indicator reads as a swing: run-out about the axis, or the feature's own form.
_SWINGS = (What.RUNOUT, What.FORM)
#: Gauges that suit a kind of feature first.
_SUITS = {
    "face": ("depth", "calliper"), "length": ("outside", "calliper", "depth"), "band": ("calliper", "outside"),
    "outside": ("outside", "calliper"), "relief": ("inside", "calliper", "two-point", "three-point"),
    "distance": ("inside", "outside", "calliper"),
}  # fmt: skip
#: A size farther than this from what is asked is asked once more (chosen here, as for bores).
_FAR_MM, _FAR_SHARE = 2.0, 0.05
#: How well a plain protractor tells an angle (chosen here: half its division of 10 minutes, rounded up).
PROTRACTOR_DEG = Decimal("0.1")


@dataclass(frozen=True, slots=True, kw_only=True)
class RingRow:
    """A ring or gap gauge with the sides that were not tried yet: their words and sizes."""

    pk: int
    name: str
    sides: Sequence[tuple[str, str]]


@dataclass(frozen=True, slots=True, kw_only=True)
class FeatureRow:
    """A limit of a feature as it is printed, with what its entry form needs."""

    feature: FeatureRecord
    what: str
    name: str
    asked: str
    found: str
    doubt: str
    word: str
    words: str
    readings: Sequence[tuple[str, str, UUID]]
    #: Ring and gap gauges near its limits, each side not yet tried.
    rings: Sequence[RingRow] = ()
    gauges: Sequence[Gauge] = ()
    #: Of a distance: the sizes of both bores are known, so that it can be read over walls.
    over_walls: str = ""
    #: Typed into just now, and refused.
    here: bool = False


@dataclass(frozen=True, slots=True)
class _Gauges:
    """What can be taken in hand: gauges that read, and rings that are tried."""

    reading: Sequence[Gauge] = ()
    rings: Sequence[Gauge] = ()

    @classmethod
    def of(cls, page: JobPage, needed: bool) -> _Gauges:
        if not needed or page.is_locked:
            return cls()
        ringed = any(one.kind in RINGED for one in page.record.setup.features)
        return cls(list(Gauge.objects.reading()), list(Gauge.objects.tried("ring")) if ringed else [])


def feature_rows(page: JobPage, refused: FeatureEntryForm | RingForm | None = None) -> list[FeatureRow]:
    """Every limit of every feature of this set-up, for this piece."""
    found, at = page.assessment.features(page.piece), refused.at if refused else ("", "")
    gauges = _Gauges.of(page, bool(found))
    rows = [_row(page, one.feature, line, gauges) for one in found for line in one.lines]
    return [replace(row, here=(str(row.feature.place), row.what) == at) for row in rows]


def indicators_for(rows: Sequence[FeatureRow]) -> list[Indicator]:
    """Indicators in use, where a run-out is asked."""
    if not any(row.what in _SWINGS for row in rows):
        return []
    return list(Indicator.objects.filter(retired=False).order_by("step_mm", "name"))


def _row(page: JobPage, feature: FeatureRecord, line: FeatureLine, gauges: _Gauges) -> FeatureRow:
    words = _degrees if line.what == "angle" else page.units.planned
    asked = f"at most {words(line.upper)}" if line.lower is None else f"{words(line.lower)} to {words(line.upper)}"
    labels = {What.SIZE: SIZE_OF_KIND[feature.kind], What.ANGLE: "angle", What.RUNOUT: "run-out (TIR)",
              What.FORM: FORM_OF.get(feature.kind, "form")}  # fmt: skip
    rows = page.rows.features
    walls = walls_of(page, feature)
    return FeatureRow(
        feature=feature, what=line.what, name=labels[What(line.what)], asked=asked,
        found=between_words(line.bounds, page.units) if line.value is None else words(line.value), word=line.word,
        doubt="" if line.expanded is None else f"± {words(line.expanded)}",
        words=_line_words(line, page.today),
        readings=[(rows[one.key].text or words(one.value), _with_words(page, rows[one.key]), rows[one.key].client_id)
                  for one in line.readings if one.key in rows],
        rings=_rings(page, feature, line, gauges.rings),
        gauges=_in_order(gauges.reading, feature) if line.what == "size" else (),
        over_walls="" if walls is None else f"Ø{page.units.planned(walls[0])} here, Ø{page.units.planned(walls[1])} in "
                                            f"set-up {letter_of(feature.to_setup or 1)}",
    )  # fmt: skip


SIZE_OF_KIND = {str(kind): words[:1].lower() + words[1:] for kind, words in SIZE_OF.items()}


def _rings(page: JobPage, feature: FeatureRecord, line: FeatureLine, rings: Sequence[Gauge]) -> list[RingRow]:
    if line.what != "size" or line.lower is None or feature.kind not in RINGED:
        return []
    tried = {(row.gauge_id, row.side) for row in page.rows.features.values()
             if row.side and row.feature.place == feature.place}  # fmt: skip
    rows = [
        RingRow(pk=ring.pk, name=ring.name, sides=[
            (side, page.units.planned(ring.side_mm(side))) for side in ("go", "no-go") if (ring.pk, side) not in tried
        ])
        for ring in rings if ring.fits(line.lower, line.upper)
    ]  # fmt: skip
    return [row for row in rows if row.sides]


def _line_words(line: FeatureLine, today: date) -> str:
    if line.contradicts:
        return "Not proven: the ring, and what was read or tried beside it, cannot both be true"
    if line.value is None and line.bounds is None:
        return "not measured"
    if line.word == "not-proven" and line.unrepeated:
        return "Not proven: read it once more"
    if line.word == "incomplete":
        if is_late(line.readings, today):
            return "Its gauge is past its check date"
        return "Rings alone leave it open" if line.value is None else "Critical: read it once more"
    return progress_words.VERDICT_WORDS[line.word]


def _with_words(page: JobPage, row: FeatureReading) -> str:
    """By whom, when, with what; a distance over walls as the centre distance it means."""
    by = row.gauge or row.indicator or "protractor"
    if row.side:
        return f"{row.by.username}, {by}: {row.side} side {'goes' if row.goes else 'does not go'}"
    if row.over == Over.CENTRES:
        return f"{row.by.username}, {by}"
    record = next(one for one in page.record.feature_readings if one.key == row.pk)
    centres = page.units.planned(at_centres(record).distance_mm)
    words = f"{row.by.username}, {by}, {row.get_over_display()}: {centres} centre to centre"
    return f"{words}; the bores were measured anew since: read it once more" if _moved(page, record) else words


#: Sizes of two bores nearer than this are the same.
_SAME_MM = 5e-5


def _moved(page: JobPage, reading: FeatureReadingRecord) -> bool:
    """Whether one of the two bores that a distance was read over is known otherwise by now."""
    feature = next(one for one in page.record.setup.features if one.place == reading.feature)
    walls = walls_of(page, feature)
    then = (reading.first_mm or 0.0, reading.second_mm or 0.0)
    return walls is not None and any(abs(now - was) > _SAME_MM for now, was in zip(walls, then, strict=False))


def _in_order(gauges: Sequence[Gauge], feature: FeatureRecord) -> list[Gauge]:
    """Those that suit the kind and have the size in their range first, the finest of them first."""
    size, suits = feature.aim_mm or 0.0, _SUITS[feature.kind]

    def rank(gauge: Gauge) -> tuple[int, float, str]:
        inside = float(gauge.range_low_mm) <= size <= float(gauge.range_high_mm)
        return (0 if inside and gauge.kind in suits else 1 if inside else 2, float(gauge.resolution_mm), gauge.name)

    return sorted(gauges, key=rank)


def _degrees(value: float) -> str:
    return f"{value:.2f}".rstrip("0").rstrip(".") + "°"


def walls_of(page: JobPage, feature: FeatureRecord) -> tuple[float, float, float] | None:
    """Sizes of this bore and of the other axis' first bore, as measured, with what both are known to on radius [mm]."""
    other = next((one for one in page.record.others if one.place == feature.to_setup), None)
    far = next(((size, doubt) for piece, size, doubt in other.first_bore_mm if piece == page.piece), None) if other \
        else None  # fmt: skip
    own = page.assessment.check(page.piece, page.bores[0].place)
    if feature.kind != "distance" or far is None or own.mean_mm is None:
        return None
    return own.mean_mm, far[0], ((own.expanded_mm / 2) ** 2 + (far[1] / 2) ** 2) ** 0.5


class RingForm(EntryForm):
    """One side of a ring or gap gauge: it goes over, or it does not."""

    feature = forms.IntegerField(min_value=1, max_value=99_999)
    gauge = ChoiceOfRow(Gauge.objects.filter(retired=False, kind="ring"), empty_label=None)
    side = forms.ChoiceField(choices=[("go", "go"), ("no-go", "no-go")])
    goes = forms.ChoiceField(choices=[("yes", "goes"), ("no", "does not go")])
    is_far = False

    @property
    def at(self) -> tuple[str, str]:
        """The row that it was tried on."""
        return str(self.data.get("feature", "")), str(What.SIZE)

    def tried(self) -> ReadOfFeature:
        """What was tried."""
        values = self.cleaned_data
        gauge: Gauge = values["gauge"]
        return ReadOfFeature(
            what=What.SIZE, value=gauge.side_mm(values["side"]), gauge=gauge, side=values["side"],
            goes=values["goes"] == "yes",
        )  # fmt: skip


class FeatureEntryForm(EntryForm):
    """One reading of a limit of a feature."""

    feature = forms.IntegerField(min_value=1, max_value=99_999)
    what = forms.ChoiceField(choices=What.choices)
    value = forms.CharField(max_length=60, error_messages={"required": "Type the reading, then Enter."})
    gauge = ChoiceOfRow(Gauge.objects.reading(), required=False)
    indicator = ChoiceOfRow(Indicator.objects.filter(retired=False), required=False)
    over = forms.ChoiceField(choices=Over.choices, required=False)
    doubt_deg = forms.DecimalField(required=False, min_value=0, max_value=10, max_digits=6, decimal_places=4)
    #: The text typed, once more: a reading far from what is asked is asked before it is logged.
    sure = forms.CharField(max_length=60, required=False)

    def __init__(self, *args: Any, page: JobPage, **kwargs: Any) -> None:
        self.page, self.units = page, page.units
        self.is_far = False
        super().__init__(*args, **kwargs)

    @property
    def at(self) -> tuple[str, str]:
        """The row that was typed into."""
        return str(self.data.get("feature", "")), str(self.data.get("what", ""))

    @property
    def record(self) -> FeatureRecord | None:
        """The feature, as it is asked for now."""
        place = self.cleaned_data.get("feature")
        return next((one for one in self.page.record.setup.features if one.place == place), None)

    def clean(self) -> dict[str, Any]:
        """Read it as what it is: a length, an angle, a swing; with what can tell it."""
        values = super().clean() or {}
        feature, what, text = self.record, values.get("what"), values.get("value")
        if feature is None or what is None or text is None:
            return values
        if what == What.ANGLE:
            values["read"] = self._angle(text, values)
        elif what in _SWINGS:
            values["read"] = self._swing(text, values, str(what))
        else:
            values["read"] = self._size(text, values, feature)
        return values

    def _angle(self, text: str, values: dict[str, Any]) -> ReadOfFeature | None:
        try:
            value = Decimal(text.replace("°", "").replace(",", ".").strip())
        except ArithmeticError:
            value = Decimal(-1)
        if not 0 <= value < 90:
            self.add_error("value", f"An angle from square is from 0 to under 90 degrees; {text} was given.")
            return None
        doubt = values.get("doubt_deg")
        return ReadOfFeature(what=What.ANGLE, value=value, expanded=PROTRACTOR_DEG if doubt is None else doubt)

    def _length(self, text: str) -> Decimal | None:
        try:
            return self.units.read(text)
        except InvalidInput as error:
            self.add_error("value", worded(error, self.units))
            return None

    def _swing(self, text: str, values: dict[str, Any], what: str) -> ReadOfFeature | None:
        value, indicator = self._length(text), values.get("indicator")
        if indicator is None:
            self.add_error("indicator", "Which indicator read it?")
        if value is None or indicator is None:
            return None
        if not 0 <= value <= 2 * indicator.range_mm:
            plain, most = self.units.plain, 2 * indicator.range_mm
            self.add_error("value", f"{text} reads as {plain(value)} {self.units.label}; a swing is 0 or more, and "
                                    f"{indicator.name} goes to {plain(most)}.")  # fmt: skip
            return None
        return ReadOfFeature(what=what, value=value, indicator=indicator, expanded=indicator.step_mm)

    def _size(self, text: str, values: dict[str, Any], feature: FeatureRecord) -> ReadOfFeature | None:
        value, gauge, over = self._length(text), values.get("gauge"), values.get("over") or Over.CENTRES
        if gauge is None:
            self.add_error("gauge", "Which gauge read it?")
        walls = walls_of(self.page, feature) if over != Over.CENTRES else None
        if over != Over.CENTRES and walls is None:
            self.add_error("over", "Over the walls needs both bores measured first: measure them, or read it centre to "
                                   "centre.")  # fmt: skip
        if value is None or gauge is None or self.errors or not self._is_likely(value, feature, over, walls, text):
            return None
        if not gauge.range_low_mm <= value <= gauge.range_high_mm:
            plain, low, high = self.units.plain, gauge.range_low_mm, gauge.range_high_mm
            self.add_error("value", f"{text} reads as {plain(value)} {self.units.label}; {gauge.name} measures "
                                    f"{plain(low)} to {plain(high)}.")  # fmt: skip
            return None
        if walls is None:
            return ReadOfFeature(what=What.SIZE, value=value, gauge=gauge)
        return ReadOfFeature(what=What.SIZE, value=value, gauge=gauge, over=over, first_mm=to_decimal(walls[0]),
                             second_mm=to_decimal(walls[1]), walls_expanded_mm=to_decimal(walls[2]))  # fmt: skip

    def _is_likely(
        self, value: Decimal, feature: FeatureRecord, over: str, walls: tuple[float, float, float] | None, text: str
    ) -> bool:
        """Near what is asked, else asked once more; a wrong unit is named with what it likely was."""
        aim, words = feature.aim_mm or float(value), self.units.plain
        radii = 0.0 if walls is None else (walls[0] + walls[1]) / 2
        expected = aim - radii if over == Over.NEAR else aim + radii
        if value <= 0:
            self.add_error("value", f"It must be over 0; {text} was given.")
            return False
        slip = unit_slip(value_mm=float(value), expected_mm=expected)
        if slip is not None:
            self.add_error("value", f"{text} is 25.4 times off. Did you mean {words(slip.likely_mm)} "
                                    f"{self.units.label}?")  # fmt: skip
            return False
        sure = str(self.cleaned_data.get("sure") or "").strip() == text.strip()
        if not sure and abs(float(value) - expected) > max(_FAR_MM, _FAR_SHARE * expected):
            self.is_far = True
            self.add_error("value", f"{text} reads as {words(value)} {self.units.label}, but about "
                                    f"{words(expected)} is asked. Is it meant?")  # fmt: skip
            return False
        return True
