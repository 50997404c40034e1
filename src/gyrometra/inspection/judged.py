"""The finished bore judged: every place with its uncertainty, form, run-out, and the way forward."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import date
from functools import cached_property

from django.db.models import Max

from gyrocore import (
    AtMost,
    BoreForm,
    DiameterReading,
    Material,
    Measurement,
    Station,
    Verdict,
    Warmth,
    bore_form,
    judge_at_most,
    measurement,
    verdict,
)
from gyrometra.cutting.models import CutEntry
from gyrometra.inspection.models import SizeReading
from gyrometra.jobs.models import Bore, SetUp
from gyrometra.truing.models import Round
from gyrometra.truing.rounds import RoundView, last_standing


@dataclass(frozen=True, slots=True, kw_only=True)
class Asked:
    """The least that a verdict stands on: depths, directions at each, readings at each place, how fine a gauge."""

    stations: int
    directions: int
    repeats: int = 1
    fine: bool = False


#: By how much a bore matters. As drawn: two ends and the middle, two directions. Where it matters much also a third
#: direction (lobes), every place twice, and a gauge that reads a tenth of the tolerance (shop practice, editable).
ASKED = {
    Bore.Matters.LITTLE: Asked(stations=2, directions=1),
    Bore.Matters.DRAWN: Asked(stations=3, directions=2),
    Bore.Matters.MUCH: Asked(stations=3, directions=3, repeats=2, fine=True),
}
#: Words of the verdict plate by the core's verdict.
PLATE = {"in": "in", "under": "metal-left", "over": "over", "undecided-low": "not-proven",
         "undecided-high": "not-proven"}  # fmt: skip


@dataclass
class Place:
    """One depth in one direction: its repeats, what they are worth, and the verdict."""

    z_mm: float
    angle_deg: float
    readings: list[SizeReading] = field(default_factory=list)
    measured: Measurement | None = None
    verdict: Verdict | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class FormLine:
    """A form or run-out against its limit; None where nothing is asked or known."""

    name: str
    found_mm: float | None
    allowed_mm: float | None
    judged: AtMost | None


@dataclass
class Judged:
    """All that is known of the finished bore."""

    bore: Bore
    material: Material
    readings: list[SizeReading]
    runout_rounds: list[RoundView]
    today: date

    @cached_property
    def places(self) -> dict[tuple[float, float], Place]:
        """Every measured place, judged."""
        found: dict[tuple[float, float], Place] = {}
        for reading in self.readings:
            key = (float(reading.z_mm), float(reading.angle_deg))
            found.setdefault(key, Place(*key)).readings.append(reading)
        for place in found.values():
            self._judge(place)
        return found

    def _judge(self, place: Place) -> None:
        bore, gauge = self.bore, place.readings[-1].gauge
        expansion = self.material.expansion_um_m_k
        place.measured = measurement(
            readings_mm=[float(r.value_mm) for r in place.readings],
            gauge=gauge.data_for(place.readings[-1].by.username),
            warmth=Warmth(part_temp_c=float(place.readings[-1].part_temp_c), part_expansion_um_m_k=expansion),
            tolerance_mm=bore.tolerance_mm,
        )
        place.verdict = verdict(
            value_mm=place.measured.value_mm,
            expanded_mm=place.measured.expanded_mm,
            lower_mm=float(bore.lower_mm),
            upper_mm=float(bore.upper_mm),
        )

    @cached_property
    def stations_mm(self) -> list[float]:
        """Depths that are measured."""
        return sorted({z for z, _ in self.places})

    @cached_property
    def form(self) -> BoreForm | None:
        """Taper, ovality and shape."""
        if not self.places:
            return None
        stations = [
            Station(
                z_mm=z,
                diameters=tuple(
                    DiameterReading(angle_deg=p.angle_deg, diameter_mm=p.measured.value_mm)
                    for p in self.places.values()
                    if p.z_mm == z and p.measured
                ),
            )
            for z in self.stations_mm
        ]
        bore = self.bore
        return bore_form(stations=stations, lower_mm=float(bore.lower_mm), upper_mm=float(bore.upper_mm))

    @property
    def expanded_mm(self) -> float:
        """The widest uncertainty of any place."""
        return max((p.measured.expanded_mm for p in self.places.values() if p.measured), default=0.0)

    @cached_property
    def deciding(self) -> tuple[Place, Place] | None:
        """The smallest and the largest place."""
        if not self.places:
            return None
        by_size = sorted(self.places.values(), key=lambda p: p.measured.value_mm if p.measured else 0)
        return by_size[0], by_size[-1]

    @cached_property
    def runout(self) -> RoundView | None:
        """The round that swept the finished bore."""
        return last_standing(self.runout_rounds)

    @cached_property
    def lines(self) -> list[FormLine]:
        """Taper, ovality and run-out against what is asked."""
        bore, form = self.bore, self.form
        length = float(bore.length_mm)
        many = len(self.stations_mm) > 1
        taper = abs(form.taper_mm_100mm) * length / 100 if form and many and form.taper_mm_100mm is not None else None
        oval = form.ovality_mm if form and self._directions >= 2 else None
        runout = self.runout.total_mm if self.runout else None
        return [
            self._line("Taper over the bore", taper, bore.taper_limit_mm, self.expanded_mm),
            # Ovality of a station is twice the two-point roundness deviation of an oval.
            self._line("Roundness, half the ovality", None if oval is None else oval / 2,
                       bore.roundness_limit_mm, self.expanded_mm / 2),
            self._line("Run-out, total reading", runout, bore.runout_limit_mm, self._runout_doubt),
        ]  # fmt: skip

    @property
    def _runout_doubt(self) -> float:
        return float(self.runout.round.indicator.step_mm) if self.runout else 0.0

    @staticmethod
    def _line(name: str, found: float | None, allowed: object, doubt: float) -> FormLine:
        if found is None or allowed is None:
            return FormLine(name=name, found_mm=found, allowed_mm=_maybe(allowed), judged=None)
        judged = judge_at_most(found_mm=found, allowed_mm=float(str(allowed)), expanded_mm=doubt)
        return FormLine(name=name, found_mm=found, allowed_mm=float(str(allowed)), judged=judged)

    @property
    def _directions(self) -> int:
        counts: dict[float, set[float]] = {}
        for z, angle in self.places:
            counts.setdefault(z, set()).add(angle % 180)
        return min((len(angles) for angles in counts.values()), default=0)

    @property
    def asked(self) -> Asked:
        """What a verdict of this bore stands on, by how much it matters."""
        return ASKED[Bore.Matters(self.bore.matters)]

    @property
    def mean_mm(self) -> float | None:
        """The mean size, for bores that must be alike."""
        return self.form.mean_mm if self.form else None

    @property
    def on_target(self) -> bool | None:
        """Whether every place lies inside the owner's own target; None without a target or without sizes."""
        low, high = self.bore.target_lower_mm, self.bore.target_upper_mm
        if low is None or high is None or not self.places:
            return None
        sizes = [place.measured.value_mm for place in self.places.values() if place.measured]
        return all(float(low) - 1e-9 <= size <= float(high) + 1e-9 for size in sizes)

    @cached_property
    def missing(self) -> list[str]:
        """What keeps the verdict incomplete, first thing first."""
        gaps, asked = [], self.asked
        if len(self.stations_mm) < asked.stations:
            ends = "two ends and the middle" if asked.stations > 2 else "both ends"
            gaps.append(f"{asked.stations - len(self.stations_mm)} more depths ({ends})")
        if self._directions < asked.directions:
            nth = {1: "a", 2: "a second", 3: "a third"}[asked.directions]
            gaps.append(f"{nth} direction at every depth")
        once = [place for place in self.places.values() if len(place.readings) < asked.repeats]
        if once:
            gaps.append(f"a second reading at {len(once)} places: this bore matters much")
        if asked.fine and any(p.measured and not p.measured.fine_enough for p in self.places.values()):
            gaps.append("a finer gauge: it must read a tenth of the tolerance")
        overdue = {p.gauge.name for p in self.readings if p.gauge.is_overdue(self.today)}
        gaps += [f"{name} is past its check date" for name in sorted(overdue)]
        if self.runout is None:
            gaps.append("run-out of the finished bore")
        return gaps

    @cached_property
    def word(self) -> str:
        """in, metal-left, over, not-proven or incomplete."""
        calls = [p.verdict.verdict for p in self.places.values() if p.verdict]
        form_calls = [line.judged.verdict for line in self.lines if line.judged]
        if "over" in calls or "over" in form_calls:
            return "over"
        if self.missing or not calls:
            return "incomplete"
        if "under" in calls:
            return "metal-left"
        if all(call == "in" for call in calls + form_calls):
            return "in"
        return "not-proven"


def _maybe(value: object) -> float | None:
    return None if value is None else float(str(value))


def sizes_of(setup: SetUp) -> list[SizeReading]:
    """All standing sizes of a set-up, whichever bore; one query."""
    return list(SizeReading.objects.standing().filter(setup=setup).select_related("gauge", "by"))


def last_piece(setup: SetUp) -> int:
    """The highest number of a piece that has anything in its logs; 1 where none has."""
    logs = (CutEntry.objects, SizeReading.objects, Round.objects)
    found = [rows.filter(setup=setup).aggregate(last=Max("piece"))["last"] for rows in logs]
    return max(number or 1 for number in found)
