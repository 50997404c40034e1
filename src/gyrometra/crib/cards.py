"""What the crib's pages print of each thing."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from django.utils import timezone

from gyrocore import bar_kind
from gyrometra.bridge.units import Units
from gyrometra.crib.models import Bar, CribItem, Cutter, Fixture, Gauge, Head, Indicator, Machine, Material, Size
from gyrometra.crib.records import bar_record


@dataclass(frozen=True, kw_only=True)
class Kind:
    """A kind of thing: its words."""

    key: str
    one: str
    many: str


@dataclass(frozen=True, kw_only=True)
class Card:
    """One thing in the list."""

    pk: int
    name: str
    facts: str
    warning: str = ""
    retired: bool = False
    notes: str = ""


KINDS = {
    "machine": Kind(key="machine", one="machine", many="Machines"),
    "head": Kind(key="head", one="boring head", many="Boring heads"),
    "bar": Kind(key="bar", one="bar", many="Boring bars"),
    "cutter": Kind(key="cutter", one="cutter", many="Cutters"),
    "gauge": Kind(key="gauge", one="bore gauge", many="Bore gauges"),
    "indicator": Kind(key="indicator", one="indicator", many="Indicators"),
    "material": Kind(key="material", one="material", many="Materials"),
    "fixture": Kind(key="fixture", one="fixture or packing", many="Fixtures and packing"),
    "size": Kind(key="size", one="size that exists", many="Sizes that exist"),
}


def model_of(kind: str) -> type[CribItem]:
    """The model of a kind."""
    return _MAKERS[kind][0]


def card_of(item: CribItem, units: Units) -> Card:
    """One thing with its facts, and whether it is out of use."""
    facts = next(make(item, units) for model, make in _MAKERS.values() if isinstance(item, model))
    overdue = isinstance(item, Gauge) and item.is_overdue(timezone.localdate())
    warning = "past its check date: not to be trusted" if overdue else ""
    return Card(pk=item.pk, name=item.name, facts=facts, warning=warning, retired=item.retired, notes=item.notes)


def _short(figure: Decimal) -> str:
    """A figure without trailing noughts."""
    return f"{figure.normalize():f}"


def _machine(machine: Machine, units: Units) -> str:
    speeds = [float(speed.rpm) for speed in machine.speeds.all()]
    many = "stepless" if machine.stepless else f"{len(speeds)} speeds"
    facts = f"{machine.get_kind_display()}, {many}, {speeds[0]:g} to {speeds[-1]:g} rpm"
    if machine.division_mm is not None:
        facts += f"; {_dial_words(machine.division_mm, machine.dial_reads, machine.divisions_per_turn, units)}"
    if machine.cuts_large_mm is not None:
        facts += f"; its bar cuts {units.signed(machine.cuts_large_mm)} on diameter"
    if machine.shoes:
        facts += f"; shoes {machine.get_shoes_display()}"
    if machine.power_kw is not None:
        facts += f"; {_short(machine.power_kw)} kW"
    if machine.centres_mm is not None:
        facts += f"; {units.length(machine.centres_mm)} between centres"
    cap = f"; unbalanced max {machine.unbalanced_max_rpm} rpm" if machine.unbalanced_max_rpm else ""
    return facts + cap


def _dial_words(division_mm: Any, reads: str, per_turn: int | None, units: Units) -> str:
    pitch = f" of {units.plain(division_mm * per_turn)}" if per_turn else ""
    return f"one division {units.fine(division_mm)} {units.label} on {reads}, {per_turn} a turn{pitch}"


def _head(head: Head, units: Units) -> str:
    holes = ", ".join(f"{hole.name} at {units.plain(hole.offset_mm)}" for hole in head.holes.all())
    cap = f"; max {head.max_rpm} rpm swung out" if head.max_rpm else ""
    return (
        f"{_dial_words(head.division_mm, head.dial_reads, head.divisions_per_turn, units)}; slide "
        f"{units.plain(head.slide_travel_mm)}; holes {holes}, shank Ø{units.plain(head.shank_mm)}{cap}"
    )


def _bar(bar: Bar, units: Units) -> str:
    what = bar_kind(bar.kind).label
    if bar.method == "line":
        return f"{what} Ø{units.plain(bar.diameter_mm)} x {units.length(bar.length_mm)}, runs in bearings"
    if bar.method == "centres":
        return f"{what} Ø{units.plain(bar.diameter_mm)} x {units.length(bar.length_mm)}, runs between centres"
    as_it_is = bar_record(bar)
    tip = f"; for a boring head, tip {units.plain(bar.tip_mm)} from its centre" if bar.tip_mm is not None else ""
    return (
        f"{what} Ø{units.plain(bar.diameter_mm)} x {units.length(bar.length_mm)}; "
        f"{'stands' if as_it_is.is_fixed else 'can stand'} out {units.length(as_it_is.reach_mm)}; "
        f"enters Ø{units.plain(bar.min_bore_mm)}{tip}{_more_of(bar, units)}"
    )


def _more_of(bar: Bar, units: Units) -> str:
    """Steps, damper and a second bit, where it has them."""
    steps = ", ".join(f"Ø{units.plain(thick)} for {units.length(length)}" for length, thick in bar.steps_mm)
    stands = "" if bar.tuned_turns is None else f", damper {_short(bar.tuned_turns)} turns out"
    table = f"; tuned at {', '.join(units.length(out) for out, _ in bar.tuned)}{stands}" if bar.tuned else ""
    pair = f"; two bits {units.plain(bar.bits_apart_mm)} apart" if bar.bits_apart_mm is not None else ""
    pads = f"; guide pads at Ø{units.plain(bar.pads_mm)}" if bar.pads_mm is not None else ""
    return (f"; {steps} from the tip" if steps else "") + table + pair + pads


def _corners(cutter: Cutter) -> str:
    if cutter.corners == 1 and not cutter.corners_used:
        return ""
    left = cutter.corners_left
    return f"; {left} of {cutter.corners} corners fresh" if left else "; no fresh corner left"


def _cutter(cutter: Cutter, units: Units) -> str:
    return (
        f"{cutter.get_made_of_display()}, nose {units.plain(cutter.nose_radius_mm)}, entering angle "
        f"{_short(cutter.entering_angle_deg)}° (lead {_short(90 - cutter.entering_angle_deg)}°), cuts from "
        f"{units.plain(cutter.least_depth_mm)}{_corners(cutter)}"
    )


def _gauge(gauge: Gauge, units: Units) -> str:
    due = f"; due {gauge.due_on:%d %b %Y}" if gauge.due_on else ""
    reach = f", {units.length(gauge.reach_mm)} deep" if gauge.reach_mm is not None else ""
    people = ", ".join(f"{person} {units.fine(sd)}" for person, sd in sorted(gauge.repeats_mm.items()))
    due += f"; repeats: {people}" if people else ""
    rods = ", ".join(f"{rod} {units.fine(adds)}" for rod, adds in sorted(gauge.rods_mm.items()))
    due += f"; rods: {rods}" if rods else ""
    return (
        f"{gauge.get_kind_display()}{reach}, {units.plain(gauge.range_low_mm)} to {units.plain(gauge.range_high_mm)}, "
        f"reads to {units.fine(gauge.resolution_mm)}, error limit {units.fine(gauge.error_limit_mm)}{due}"
    )


def _indicator(indicator: Indicator, units: Units) -> str:
    return f"one division {units.fine(indicator.step_mm)}, reads {units.plain(indicator.range_mm)} either way"


def _material(item: Material, units: Units) -> str:
    hard = f", {item.hardness}" if item.hardness else ""
    return (
        f"{item.get_family_display()}{hard}; kc1.1 {_short(item.kc11_mpa)} MPa, mc {_short(item.mc)}; carbide "
        f"{units.surface_speed(item.carbide_rough_m_min)} to {units.surface_speed(item.carbide_finish_m_min)}, "
        f"high-speed steel {units.surface_speed(item.hss_rough_m_min)} to "
        f"{units.surface_speed(item.hss_finish_m_min)}; "
        f"{_short(item.expansion_um_m_k)} µm/(m K)"
    )


def _fixture(item: Fixture, units: Units) -> str:
    sizes = [units.plain(size) for size in (item.length_mm, item.width_mm, item.height_mm) if size is not None]
    part = f", for {item.for_part}" if item.for_part else ""
    many = f"{item.count} x " if item.count > 1 else ""
    return f"{many}{item.get_kind_display()}: {item.purpose}{part}" + (
        f"; {' x '.join(sizes)} {units.label}" if sizes else ""
    )


def _size(item: Size, units: Units) -> str:
    play = "" if not item.play_mm else f", bore {units.signed(item.play_mm)} on the part"
    return f"{item.get_kind_display()}, Ø{units.plain(item.diameter_mm)}{play}; {item.have or 'none'} here"


_MAKERS: dict[str, tuple[type[CribItem], Callable[[Any, Units], str]]] = {
    "machine": (Machine, _machine), "head": (Head, _head), "bar": (Bar, _bar), "cutter": (Cutter, _cutter),
    "gauge": (Gauge, _gauge), "indicator": (Indicator, _indicator), "material": (Material, _material),
    "fixture": (Fixture, _fixture), "size": (Size, _size),
}  # fmt: skip
