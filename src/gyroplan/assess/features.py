"""Faces, bands, outsides, reliefs and distances of a piece: each limit judged by itself; and what facing takes."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from datetime import date

from gyrocore import (
    AngledFace,
    CentreDistance,
    GaugeBounds,
    InvalidInput,
    angled_face,
    centre_distance,
    face_time,
    judge_at_most,
)
from gyrocore.judging.verdict import verdict
from gyroplan.assess.at import AtBore
from gyroplan.assess.bounds import lies_within
from gyroplan.assess.check import worst_word
from gyroplan.assess.rings import contradict, ring_bounds
from gyroplan.assess.speeds import cap_of, machine_speed, swings_unbalanced, wanted_speed
from gyroplan.gauges import Expansions, GaugeNames, SizeTaken, believed_size
from gyroplan.record import FeatureReadingRecord, FeatureRecord, JobRecord, PlanRecord, Quantity

#: Steel gauges are used on every part; both at the same temperature here, so that the growth of neither counts.
_AS_COLD = Expansions()
#: Readings of a size that are asked where inspection is critical (as for a bore's places).
_READINGS = {"critical": 2}


@dataclass(frozen=True, slots=True, kw_only=True)
class FeatureLine:
    """One limit of a feature: what is asked, what was found with its expanded uncertainty, the verdict."""

    what: Quantity
    #: None: nothing below is refused.
    lower: float | None
    upper: float
    value: float | None = None
    expanded: float | None = None
    word: str = "incomplete"
    #: Read once by a gauge whose repeatability is not known.
    unrepeated: bool = False
    #: That, or its gauges disagree: nothing beside it makes it sure.
    unsure: bool = False
    readings: tuple[FeatureReadingRecord, ...] = ()
    #: Between what it lies by rings that were tried.
    bounds: GaugeBounds | None = None
    #: Rings, or a ring and what was read, cannot both be true.
    contradicts: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class FeatureChecked:
    """A feature of one piece, judged."""

    feature: FeatureRecord
    lines: tuple[FeatureLine, ...]

    @property
    def word(self) -> str:
        """The worst of its limits."""
        return worst_word([line.word for line in self.lines]) if self.lines else "in"


def features_of(record: JobRecord, piece: int, today: date) -> tuple[FeatureChecked, ...]:
    """Return every feature of a piece, judged.

    Parameters
    ----------
    record : the job at one of its set-ups
    piece : from 1
    today : a gauge that is overdue proves nothing

    Returns
    -------
    FeatureChecked in the order of the features
    """
    own = [one for one in record.feature_readings if one.piece == piece]
    how = _How(today=today, rule=record.rule)
    return tuple(
        FeatureChecked(feature=one, lines=_lines(one, [r for r in own if r.feature == one.place], how))
        for one in record.setup.features
    )


@dataclass(frozen=True, slots=True)
class _How:
    """On which day, and by which rule, it is judged."""

    today: date
    rule: str


def _lines(feature: FeatureRecord, own: Sequence[FeatureReadingRecord], how: _How) -> tuple[FeatureLine, ...]:
    found = []
    for what, lower, upper in asked_of(feature):
        readings = tuple(one for one in own if one.what == what)
        line = FeatureLine(what=what, lower=lower, upper=upper, readings=readings)
        found.append(_JUDGED[what](feature, line, how) if readings else line)
    return tuple(found)


def asked_of(feature: FeatureRecord) -> list[tuple[Quantity, float | None, float]]:
    """Each limit that is asked of a feature: what, least, most."""
    asked: list[tuple[Quantity, float | None, float]] = []
    if feature.lower_mm is not None and feature.upper_mm is not None:
        asked.append(("size", feature.lower_mm, feature.upper_mm))
    if feature.angle_lower_deg is not None and feature.angle_upper_deg is not None:
        asked.append(("angle", feature.angle_lower_deg, feature.angle_upper_deg))
    if feature.runout_limit_mm is not None:
        asked.append(("runout", None, feature.runout_limit_mm))
    if feature.form_limit_mm is not None:
        asked.append(("form", None, feature.form_limit_mm))
    return asked


def _size(feature: FeatureRecord, line: FeatureLine, how: _How) -> FeatureLine:
    """What was read, and what rings say of it; by a gauge past its date nothing is proven."""
    read = [one for one in line.readings if not one.side]
    found = _read(feature, line, read, how) if read else line
    bounds = ring_bounds(line.readings, line.lower, line.upper)
    found = found if bounds is None else _with_rings(feature, found, bounds)
    overdue = is_late(line.readings, how.today)
    return replace(found, word="incomplete") if overdue and found.word in ("in", "not-proven") else found


def _read(
    feature: FeatureRecord, line: FeatureLine, readings: Sequence[FeatureReadingRecord], how: _How
) -> FeatureLine:  # fmt: skip
    """All readings together, each by its own gauge; a distance over walls with what the walls are known to."""
    names, taken = GaugeNames(), []
    for one in readings:
        if one.gauge is not None:
            taken.append(SizeTaken(gauge=names.name_of(one.gauge), readings_mm=[at_centres(one).distance_mm]))
    believed = believed_size(taken, names.known, _AS_COLD)
    walls = max(one.walls_expanded_mm for one in readings)
    expanded = (believed.expanded_mm**2 + walls**2) ** 0.5
    word = _between(feature, line, (believed.value_mm, expanded), how.rule)
    if word in ("in", "not-proven") and len(readings) < _READINGS.get(feature.inspection, 1):
        word = "incomplete"
    if word == "in" and (believed.unrepeated or believed.agree is False):
        word = "not-proven"
    unsure = believed.unrepeated or believed.agree is False
    return replace(
        line, value=believed.value_mm, expanded=expanded, word=word, unrepeated=believed.unrepeated, unsure=unsure
    )  # fmt: skip


def _with_rings(feature: FeatureRecord, line: FeatureLine, bounds: GaugeBounds) -> FeatureLine:
    """Alone rings decide; beside readings they prove what these leave open, or contradict them."""
    read = None if line.value is None or line.expanded is None else (line.value, line.expanded)
    found = replace(line, bounds=bounds, contradicts=contradict(bounds, read))
    if found.contradicts:
        return replace(found, word="not-proven")
    if read is None:
        can_cut = feature.grows is not None and (bounds.verdict == "under") == feature.grows
        out = "metal-left" if can_cut else "over"
        words = {"in": "in", "under": out, "over": out}
        return replace(found, word=words.get(bounds.verdict or "", "incomplete"))
    open_still = found.word == "not-proven" and not found.unsure
    low, high = read[0] - read[1], read[0] + read[1]
    if open_still and line.lower is not None and lies_within(low, high, bounds, (line.lower, line.upper)):
        return replace(found, word="in")
    return found


def is_late(readings: Sequence[FeatureReadingRecord], today: date) -> bool:
    """Whether something that read is past its check date: it proves nothing."""
    return any(one.due_on is not None and one.due_on < today for one in readings)


def at_centres(reading: FeatureReadingRecord) -> CentreDistance:
    """A reading as a distance of centres; of anything but a distance as it is."""
    if reading.over == "centres":
        return CentreDistance(distance_mm=reading.value, expanded_mm=0.0)
    return centre_distance(
        reading_mm=reading.value, over=reading.over, first_mm=reading.first_mm, second_mm=reading.second_mm
    )


def _angle(feature: FeatureRecord, line: FeatureLine, how: _How) -> FeatureLine:
    last = line.readings[-1]
    return _found(
        line, last.value, last.expanded, _between(feature, line, (last.value, last.expanded), how.rule, grows=None)
    )


def _at_most(feature: FeatureRecord, line: FeatureLine, how: _How) -> FeatureLine:
    last = line.readings[-1]
    judged = judge_at_most(found_mm=last.value, allowed_mm=line.upper, expanded_mm=last.expanded, rule=how.rule)
    word = {"in": "in", "over": "over", "undecided-high": "not-proven"}[judged.verdict]
    late = is_late([last], how.today) and word != "over"
    return _found(line, last.value, last.expanded, "incomplete" if late else word)


_JUDGED: dict[str, Callable[[FeatureRecord, FeatureLine, _How], FeatureLine]] = {
    "size": _size, "angle": _angle, "runout": _at_most, "form": _at_most,
}  # fmt: skip
_AS_FEATURE = object()


def _between(
    feature: FeatureRecord, line: FeatureLine, found: tuple[float, float], rule: str, grows: object = _AS_FEATURE
) -> str:
    """In words of the verdict: what can still be cut away is metal left, what cannot is over."""
    value, expanded = found
    called = verdict(
        value_mm=value, expanded_mm=expanded, lower_mm=line.lower or 0.0, upper_mm=line.upper, rule=rule
    ).verdict
    if called == "in":
        return "in"
    if called.startswith("undecided"):
        return "not-proven"
    can = feature.grows if grows is _AS_FEATURE else grows
    return "metal-left" if can is not None and (called == "under") == can else "over"


def _found(line: FeatureLine, value: float, expanded: float, word: str) -> FeatureLine:
    return replace(line, value=value, expanded=expanded, word=word)


@dataclass(frozen=True, slots=True, kw_only=True)
class FeatureCut:
    """What making a face takes: passes along the axis, each so deep, at one spindle speed [mm], [min]."""

    passes: int
    depth_mm: float
    minutes: float
    rpm: float
    #: Of a band: its width along the slope, its height, and where the top slide stands.
    band: AngledFace | None = None


def face_speed_rpm(at: AtBore, feature: FeatureRecord) -> float | None:
    """The spindle speed that this machine has for a face, at its outer edge; None without a cutter or a needed cap."""
    wanted, cap = wanted_speed(at, "rough"), cap_of(at)
    if wanted is None or feature.outer_mm is None or (cap is None and swings_unbalanced(at)):
        return None
    try:
        return machine_speed(at.machine, feature.outer_mm, wanted, cap).set_rpm
    except InvalidInput:
        return None


def cut_of(feature: FeatureRecord, plan: PlanRecord, rpm: float | None) -> FeatureCut | None:
    """Return what facing takes; None while its ring, what comes off or the speed is not known, or nothing is faced.

    Passes of the plan's roughing depth at its roughing feed and the last at its finishing feed, each over the whole
    ring at one spindle speed (`face_time`); a band's way is the width along its slope.
    """
    inner, outer, stock = feature.inner_mm or 0.0, feature.outer_mm, feature.stock_mm
    if feature.kind not in ("face", "length", "band") or outer is None or stock is None or rpm is None or stock <= 0:
        return None
    band, across = band_of(feature), (inner, outer)
    if band is not None:
        across = (0.0, 2 * band.width_mm)
    passes = max(1, -(-round(stock * 1e6) // round(plan.rough_depth_mm * 1e6)))
    each = [plan.rough_feed_mm_rev] * (passes - 1) + [plan.finish_feed_mm_rev]
    try:
        minutes = sum(
            face_time(outer_diameter_mm=across[1], inner_diameter_mm=across[0], feed_mm_rev=feed, rpm=rpm).minutes
            for feed in each
        )  # fmt: skip
    except InvalidInput:
        return None
    return FeatureCut(passes=passes, depth_mm=stock / passes, minutes=minutes, rpm=rpm, band=band)


def band_of(feature: FeatureRecord) -> AngledFace | None:
    """The measures of an angled face at the middle of its limits; None where it is none, or its ring is not known."""
    low, high = feature.angle_lower_deg, feature.angle_upper_deg
    if feature.kind != "band" or low is None or high is None or feature.inner_mm is None or feature.outer_mm is None:
        return None
    try:
        return angled_face(
            angle_deg=(low + high) / 2, inner_diameter_mm=feature.inner_mm, outer_diameter_mm=feature.outer_mm,
            deepen_mm=feature.stock_mm or 0.0,
        )  # fmt: skip
    except InvalidInput:
        return None
