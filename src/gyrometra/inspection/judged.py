"""The finished bore judged: joins the logs with `gyroplan.judge`, which decides."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from functools import cached_property
from typing import Any

from django.db.models import Max

from gyrocore import BoreForm, DiameterReading, Material, Station, bore_form
from gyrometra.cutting.models import CutEntry
from gyrometra.inspection.models import DepthReading, SizeReading
from gyrometra.jobs.gauges import GaugesAsTheyWere
from gyrometra.jobs.models import Bore, SetUp
from gyrometra.truing.models import Round
from gyrometra.truing.rounds import RoundView
from gyroplan import Gauge
from gyroplan.judge import CheckState, CheckWork, Depth, Entry, Figure, Place, Runout, Size, check_state

#: The level of inspection by how much a bore matters.
INSPECTION = {Bore.Matters.LITTLE: "reduced", Bore.Matters.DRAWN: "normal", Bore.Matters.MUCH: "critical"}
#: Words of the verdict plate by the state's.
PLATE = {"in": "in", "metal-left": "metal-left", "over": "over", "undecided": "not-proven", "incomplete": "incomplete"}
_ZONES = {
    "near": "a depth near the open face", "between": "a depth in the middle", "far": "a depth near the far end",
    "anywhere": "a depth",
}  # fmt: skip
_NTH = {1: "a direction", 2: "a second direction, 45° or more away,", 3: "three directions, 45° or more apart,"}
#: Readings asked at each place where inspection is critical.
_CRITICAL_READINGS = 2


@dataclass(frozen=True, slots=True, kw_only=True)
class Limit:
    """One limit beside size: what was found, what is allowed, and its verdict; None allowed is not asked [mm]."""

    name: str
    allowed_mm: float | None
    found: Figure | None


@dataclass
class Judged:
    """All that is known of one finished bore of one piece."""

    bore: Bore
    material: Material
    readings: list[SizeReading]
    depths: list[DepthReading]
    swept: RoundView | None
    today: date

    @cached_property
    def work(self) -> CheckWork:
        """What is asked, and the log, as the state takes it."""
        bore = self.bore
        known = GaugesAsTheyWere()
        entries: list[Entry] = [
            Size(z_mm=float(r.z_mm), angle_deg=float(r.angle_deg),
                 gauge=known.name_of(r.rests_on, r.gauge, r.by.username),
                 readings_mm=[float(r.value_mm)], part_temp_c=float(r.part_temp_c),
                 instrument_temp_c=float(r.gauge_temp_c), temp_u_c=float(r.temp_u_c))
            for r in self.readings
        ]  # fmt: skip
        if bore.depth_lower_mm is not None:
            entries += [
                Depth(gauge=known.name_of(r.rests_on, r.gauge, r.by.username), readings_mm=[float(r.value_mm)])
                for r in self.depths
            ]
        if self.swept is not None and self.swept.swing_mm is not None:
            step = float(self.swept.round.indicator.step_mm)
            entries.append(Runout(swing_mm=self.swept.swing_mm, expanded_mm=step))
        return CheckWork(
            length_mm=float(bore.length_mm), lower_mm=float(bore.lower_mm), upper_mm=float(bore.upper_mm),
            gauges=known.known or [Gauge(name="none yet", resolution_mm=0.001)],
            inspection=_inspection(bore), taper_limit_mm=_maybe(bore.taper_limit_mm),
            roundness_limit_mm=_maybe(bore.roundness_limit_mm), runout_limit_mm=_maybe(bore.runout_limit_mm),
            depth_lower_mm=_maybe(bore.depth_lower_mm), depth_upper_mm=_maybe(bore.depth_upper_mm),
            part_expansion_um_m_k=self.material.expansion_um_m_k, entries=entries,
        )  # fmt: skip

    @cached_property
    def state(self) -> CheckState:
        """What the log says."""
        return check_state(self.work).states[-1]

    @property
    def places(self) -> tuple[Place, ...]:
        """Every measured place, judged."""
        return self.state.places

    def place(self, z_mm: float, angle_deg: float) -> Place | None:
        """The place at a depth and in a direction."""
        at = (place for place in self.places if abs(place.z_mm - z_mm) < 1e-9)
        return next((place for place in at if abs(place.angle_deg - angle_deg % 180) < 1e-9), None)

    def rows_at(self, place: Place) -> list[SizeReading]:
        """The readings of a place."""
        return [
            r for r in self.readings
            if abs(float(r.z_mm) - place.z_mm) < 1e-9 and abs(float(r.angle_deg) % 180 - place.angle_deg) < 1e-9
        ]  # fmt: skip

    @cached_property
    def stations_mm(self) -> list[float]:
        """Depths that are measured."""
        return sorted({place.z_mm for place in self.places})

    @cached_property
    def form(self) -> BoreForm | None:
        """Shape along the depth: the likely causes follow from it."""
        if not self.places:
            return None
        stations = [
            Station(z_mm=z, diameters=tuple(
                DiameterReading(angle_deg=p.angle_deg, diameter_mm=p.value_mm) for p in self.places if p.z_mm == z
            ))
            for z in self.stations_mm
        ]  # fmt: skip
        bore = self.bore
        return bore_form(stations=stations, lower_mm=float(bore.lower_mm), upper_mm=float(bore.upper_mm))

    @property
    def expanded_mm(self) -> float:
        """The widest uncertainty of any place."""
        return max((place.expanded_mm for place in self.places), default=0.0)

    @property
    def deciding(self) -> tuple[Place, Place] | None:
        """The smallest and the largest place."""
        if not self.places:
            return None
        by_size = sorted(self.places, key=lambda place: place.value_mm)
        return by_size[0], by_size[-1]

    @property
    def lines(self) -> list[Limit]:
        """Every limit beside size."""
        bore, limits = self.bore, self.state.limits
        found = [
            Limit(name="Taper over the bore, on Ø", allowed_mm=_maybe(bore.taper_limit_mm), found=limits.taper),
            Limit(name="Roundness, half the ovality", allowed_mm=_maybe(bore.roundness_limit_mm),
                  found=limits.roundness),
            Limit(name="Run-out (TIR)", allowed_mm=_maybe(bore.runout_limit_mm), found=limits.runout),
        ]  # fmt: skip
        if limits.depth is not None:
            found.append(
                Limit(name="Depth of the shoulder", allowed_mm=_maybe(bore.depth_upper_mm), found=limits.depth)
            )
        return found

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
        return all(float(low) - 1e-9 <= place.value_mm <= float(high) + 1e-9 for place in self.places)

    @cached_property
    def missing(self) -> list[str]:
        """What keeps the verdict incomplete, first thing first."""
        words: dict[str, list[str]] = {
            "depths": [_ZONES[zone] for zone in self.state.coverage.zones_missing],
            "directions": [f"{_NTH[self.work.directions]} at one depth of each"],
            "runout": ["run-out of the finished bore"],
            "shoulder": ["depth of the shoulder"],
            "repeat": ["a second reading where the gauge's repeatability is not known"],
        }
        gaps = [one for code in self.state.missing for one in words[code]]
        return [*gaps, *self._missing_where_critical(), *self._overdue()]

    def _missing_where_critical(self) -> list[str]:
        if self.work.inspection != "critical":
            return []
        gaps = []
        once = sum(len(self.rows_at(place)) < _CRITICAL_READINGS for place in self.places)
        if once:
            gaps.append(f"a second reading at {once} places: inspection is critical")
        tenth = self.bore.tolerance_mm / 10
        if any(float(r.gauge.resolution_mm) > tenth + 1e-9 for r in self.readings):
            gaps.append("a finer gauge: it must read a tenth of the tolerance")
        return gaps

    def _overdue(self) -> list[str]:
        overdue = {r.gauge.name for r in self.readings if r.gauge.is_overdue(self.today)}
        return [f"{name} is past its check date" for name in sorted(overdue)]

    @property
    def word(self) -> str:
        """in, metal-left, over, not-proven or incomplete."""
        overall = self.state.overall
        if overall in ("in", "undecided") and self.missing:
            overall = "incomplete"
        return PLATE[overall]


def _inspection(bore: Bore) -> Any:
    return INSPECTION[Bore.Matters(bore.matters)]


def _maybe(value: object) -> float | None:
    return None if value is None else float(str(value))


def sizes_of(setup: SetUp) -> list[SizeReading]:
    """All standing sizes of a set-up, whichever bore; one query."""
    return list(SizeReading.objects.standing().filter(setup=setup).select_related("gauge", "by"))


def depths_of(setup: SetUp) -> list[DepthReading]:
    """All standing depths of shoulders; one query."""
    return list(DepthReading.objects.standing().filter(setup=setup).select_related("gauge", "by"))


def last_piece(setup: SetUp) -> int:
    """The highest number of a piece that has anything in its logs; 1 where none has."""
    logs = (CutEntry.objects, SizeReading.objects, DepthReading.objects, Round.objects)
    found = [rows.filter(setup=setup).aggregate(last=Max("piece"))["last"] for rows in logs]
    return max(number or 1 for number in found)


def worst_word(words: Sequence[str]) -> str:
    """The word that speaks for several bores or pieces: the worst."""
    return min(words, key=("over", "metal-left", "not-proven", "incomplete", "in").index, default="incomplete")
