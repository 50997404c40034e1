"""The finished bore of one piece judged: the log as `gyroplan.judge` takes it, and what follows from its state."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from gyrocore import BoreForm, DiameterReading, GaugeBounds, Station, bore_form
from gyroplan.assess.bounds import bounds_of, contradicts, felt_of, narrowed
from gyroplan.assess.reopened import is_void_since
from gyroplan.assess.tapers import TwoTapers, two_tapers
from gyroplan.assess.truing import RoundStanding, swept_of, walls_of
from gyroplan.gauges import Gauge, GaugeNames
from gyroplan.judge import CheckState, CheckWork, Depth, Entry, Figure, Place, Runout, Size, check_state
from gyroplan.record import BoreRecord, DepthRecord, JobRecord, PlugRecord, SizeRecord

#: Words of the verdict by the state's.
VERDICTS = {
    "in": "in", "metal-left": "metal-left", "over": "over", "undecided": "not-proven", "incomplete": "incomplete",
}  # fmt: skip
#: The worst verdict first.
WORST_FIRST = ("over", "metal-left", "not-proven", "incomplete", "in")
#: Readings asked at each place where inspection is critical.
_CRITICAL_READINGS = 2
_NO_GAUGE = Gauge(name="none yet", resolution_mm=0.001)


@dataclass(frozen=True, slots=True, kw_only=True)
class LimitFound:
    """One limit beside size: what was found, what is allowed, and its verdict; None allowed is not asked [mm]."""

    #: taper, roundness, runout, depth.
    name: str
    allowed_mm: float | None
    found: Figure | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Gap:
    """Something that keeps the verdict incomplete: a code with what its sentence names."""

    code: str
    count: int = 0
    name: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Checked:
    """All that is known of one finished bore of one piece."""

    bore: BoreRecord
    work: CheckWork
    state: CheckState
    sizes: tuple[SizeRecord, ...]
    depths: tuple[DepthRecord, ...]
    #: Shape along the depth; None before a size.
    form: BoreForm | None
    #: What is missing, first thing first.
    missing: tuple[Gap, ...]
    #: in, metal-left, over, not-proven or incomplete.
    word: str
    #: Sides of plugs that were tried, and between what they say that the size lies.
    plugs: tuple[PlugRecord, ...] = ()
    bounds: GaugeBounds | None = None
    #: Between what it lies where a set gauge was felt.
    felt: GaugeBounds | None = None
    #: Places that are in limits only by what was tried beside what was read.
    by_bounds: tuple[tuple[float, float], ...] = ()
    #: Sizes that say nothing any more: the piece was welded or heated after them.
    pulled: tuple[SizeRecord, ...] = ()
    #: Its taper by the wall that was run along, beside that of its sizes.
    tapers: TwoTapers | None = None

    @property
    def by_plugs(self) -> bool:
        """Whether plugs alone tell the size."""
        return self.bounds is not None and not self.places

    @property
    def places(self) -> tuple[Place, ...]:
        """Every measured place, judged."""
        return self.state.places

    def place(self, z_mm: float, angle_deg: float) -> Place | None:
        """The place at a depth and in a direction."""
        at = (place for place in self.places if abs(place.z_mm - z_mm) < 1e-9)
        return next((place for place in at if abs(place.angle_deg - angle_deg % 180) < 1e-9), None)

    def sizes_at(self, place: Place) -> list[SizeRecord]:
        """The readings of a place."""
        return _sizes_at(self.sizes, place)

    @property
    def stations_mm(self) -> list[float]:
        """Depths that are measured."""
        return sorted({place.z_mm for place in self.places})

    @property
    def expanded_mm(self) -> float:
        """The widest uncertainty of any place."""
        return max((place.expanded_mm for place in self.places), default=0.0)

    @property
    def extremes(self) -> tuple[Place, Place] | None:
        """The smallest and the largest place."""
        if not self.places:
            return None
        by_size = sorted(self.places, key=lambda place: place.value_mm)
        return by_size[0], by_size[-1]

    @property
    def limits(self) -> list[LimitFound]:
        """Every limit beside size."""
        bore, limits = self.bore, self.state.limits
        found = [
            LimitFound(name="taper", allowed_mm=bore.taper_limit_mm, found=limits.taper),
            LimitFound(name="roundness", allowed_mm=bore.roundness_limit_mm, found=limits.roundness),
            LimitFound(name="runout", allowed_mm=bore.runout_limit_mm, found=limits.runout),
        ]
        if limits.depth is not None:
            found.append(LimitFound(name="depth", allowed_mm=bore.depth_upper_mm, found=limits.depth))
        return found

    @property
    def mean_mm(self) -> float | None:
        """The mean size, for bores that must match."""
        return self.form.mean_mm if self.form else None

    @property
    def on_target(self) -> bool | None:
        """Whether every place lies inside the owner's own target; None without a target or without sizes."""
        low, high = self.bore.target_lower_mm, self.bore.target_upper_mm
        if low is None or high is None or not self.places:
            return None
        return all(low - 1e-9 <= place.value_mm <= high + 1e-9 for place in self.places)


def check_of(
    record: JobRecord, piece: int, place: int, sweeps: Sequence[RoundStanding], today: date
) -> Checked:  # fmt: skip
    """Return the check of one finished bore of one piece, with its sweeps and the runs along its wall."""
    of = (place, piece)
    every = tuple(one for one in record.sizes if (one.bore, one.piece) == of)
    since = is_void_since(record, piece)
    sizes, pulled = tuple(one for one in every if not since(one.at)), tuple(one for one in every if since(one.at))
    depths = tuple(one for one in record.depths if (one.bore, one.piece) == of and not since(one.at))
    bore = record.bore_at(place)
    swept = swept_of(sweeps)
    work = _work(record, bore, sizes, depths, swept)
    read = check_state(work).states[-1]
    plugs = tuple(one for one in record.plugs if (one.bore, one.piece) == of and not since(one.at))
    bounds, felt = bounds_of(bore, plugs), felt_of(plugs)
    state = narrowed(read, work, bounds)
    missing = (*_gaps(state, work), *_critical(work, state, sizes), *_overdue((*sizes, *plugs), swept, today))
    overall = state.overall
    if bounds is not None and not state.places:
        missing, overall = _by_plugs(state, bounds, missing)
    if contradicts(state.places, bounds, felt):
        missing = (*missing, Gap(code="plug_contradicts"))
        overall = overall if state.places else "incomplete"
    if pulled and not sizes and bounds is None:
        missing = (Gap(code=f"before_{since(pulled[-1].at)}", count=len(pulled)), *missing)
        overall = "incomplete"
    tapers = two_tapers(state.places, walls_of(sweeps))
    if tapers is not None and tapers.contradict and bore.taper_limit_mm is not None:
        missing = (*missing, Gap(code="tapers_contradict"))
    overall = "incomplete" if missing and overall in ("in", "undecided") else overall
    return Checked(
        bore=bore, work=work, state=state, sizes=sizes, depths=depths, form=_form(bore, state), missing=missing,
        word=VERDICTS[overall], plugs=plugs, pulled=pulled, tapers=tapers, bounds=bounds, felt=felt,
        by_bounds=tuple((now.z_mm, now.angle_deg) for now, then in zip(state.places, read.places, strict=True)
                        if now.verdict != then.verdict),
    )  # fmt: skip


#: What plugs stand in for: a plug passes every depth and every direction.
_BY_PLUG = ("directions", "repeat")
_OVERALL = {"in": "in", "under": "metal-left", "over": "over", "undecided": "undecided"}


def _by_plugs(state: CheckState, bounds: GaugeBounds, missing: tuple[Gap, ...]) -> tuple[tuple[Gap, ...], str]:
    """The verdict of plugs alone: they decide the size."""
    missing = tuple(one for one in missing if one.code not in _BY_PLUG and not one.code.startswith("depth_"))
    return (*missing, *_unmeasured(state)), _OVERALL[bounds.verdict or "undecided"]


def _unmeasured(state: CheckState) -> list[Gap]:
    """Form that is asked and that no plug sees."""
    named = {"taper": state.limits.taper, "roundness": state.limits.roundness}
    return [Gap(code="plug_sees_no_form", name=name) for name, one in named.items()
            if one is not None and one.verdict == "incomplete"]  # fmt: skip


def _work(
    record: JobRecord, bore: BoreRecord, sizes: Sequence[SizeRecord], depths: Sequence[DepthRecord],
    swept: RoundStanding | None,
) -> CheckWork:  # fmt: skip
    names = GaugeNames()
    entries: list[Entry] = [
        Size(z_mm=one.z_mm, angle_deg=one.angle_deg, gauge=names.name_of(one.gauge), readings_mm=[one.value_mm],
             part_temp_c=one.part_temp_c, instrument_temp_c=one.gauge_temp_c, temp_u_c=one.temp_u_c)
        for one in sizes
    ]  # fmt: skip
    if bore.depth_lower_mm is not None:
        entries += [Depth(gauge=names.name_of(one.gauge), readings_mm=[one.value_mm]) for one in depths]
    if swept is not None and swept.swing_mm is not None:
        entries.append(Runout(swing_mm=swept.swing_mm, expanded_mm=swept.round.indicator_step_mm))
    return CheckWork(
        length_mm=bore.length_mm, lower_mm=bore.lower_mm, upper_mm=bore.upper_mm, gauges=names.known or [_NO_GAUGE],
        rule=record.rule,
        inspection=bore.inspection, taper_limit_mm=bore.taper_limit_mm, roundness_limit_mm=bore.roundness_limit_mm,
        runout_limit_mm=bore.runout_limit_mm, depth_lower_mm=bore.depth_lower_mm, depth_upper_mm=bore.depth_upper_mm,
        part_expansion_um_m_k=record.material.expansion_um_m_k, entries=entries,
    )  # fmt: skip


def _form(bore: BoreRecord, state: CheckState) -> BoreForm | None:
    """Shape along the depth: the likely causes follow from it."""
    if not state.places:
        return None
    stations = [
        Station(z_mm=z, diameters=tuple(
            DiameterReading(angle_deg=p.angle_deg, diameter_mm=p.value_mm) for p in state.places if p.z_mm == z
        ))
        for z in sorted({place.z_mm for place in state.places})
    ]  # fmt: skip
    return bore_form(stations=stations, lower_mm=bore.lower_mm, upper_mm=bore.upper_mm)


def _gaps(state: CheckState, work: CheckWork) -> list[Gap]:
    found = []
    for code in state.missing:
        if code == "depths":
            found += [Gap(code=f"depth_{zone}") for zone in state.coverage.zones_missing]
        else:
            found.append(Gap(code=code, count=work.directions if code == "directions" else 0))
    return found


def _critical(work: CheckWork, state: CheckState, sizes: Sequence[SizeRecord]) -> list[Gap]:
    if work.inspection != "critical":
        return []
    gaps = []
    once = sum(len(_sizes_at(sizes, place)) < _CRITICAL_READINGS for place in state.places)
    if once:
        gaps.append(Gap(code="second_readings", count=once))
    tenth = (work.upper_mm - work.lower_mm) / 10
    if any(one.gauge.resolution_mm > tenth + 1e-9 for one in sizes):
        gaps.append(Gap(code="finer_gauge"))
    return gaps


def _overdue(
    sizes: Sequence[SizeRecord | PlugRecord], swept: RoundStanding | None, today: date
) -> list[Gap]:  # fmt: skip
    """Gauges past their check date, and the indicator of the sweep that counts."""
    late = {one.gauge.name for one in sizes if one.gauge_due_on is not None and one.gauge_due_on < today}
    indicator = None if swept is None else swept.round.indicator
    if indicator is not None and indicator.due_on is not None and indicator.due_on < today:
        late.add(indicator.name)
    return [Gap(code="gauge_overdue", name=name) for name in sorted(late)]


def _sizes_at(sizes: Sequence[SizeRecord], place: Place) -> list[SizeRecord]:
    return [
        one for one in sizes
        if abs(one.z_mm - place.z_mm) < 1e-9 and abs(one.angle_deg % 180 - place.angle_deg) < 1e-9
    ]  # fmt: skip


def worst_word(words: Sequence[str]) -> str:
    """The word that speaks for several bores or pieces: the worst."""
    return min(words, key=WORST_FIRST.index, default="incomplete")
