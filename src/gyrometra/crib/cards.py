"""What the crib's pages print of each thing."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from django.utils import timezone

from gyrocore import bar_kind
from gyrometra.bridge.fields import LengthField
from gyrometra.bridge.units import Units
from gyrometra.crib.forms import CribForm
from gyrometra.crib.models import Bar, CribItem, Cutter, Gauge, Head, Indicator, Machine


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


KINDS = {
    "machine": Kind(key="machine", one="machine", many="Machines"),
    "head": Kind(key="head", one="boring head", many="Boring heads"),
    "bar": Kind(key="bar", one="bar", many="Boring bars"),
    "cutter": Kind(key="cutter", one="cutter", many="Cutters"),
    "gauge": Kind(key="gauge", one="bore gauge", many="Bore gauges"),
    "indicator": Kind(key="indicator", one="indicator", many="Indicators"),
}


def cards(units: Units) -> list[tuple[Kind, list[Card]]]:
    """All things by kind; one query a kind, one for the speeds and one for the holes."""
    return [
        (KINDS["machine"], [_machine(m, units) for m in Machine.objects.prefetch_related("speeds")]),
        (KINDS["head"], [_head(h, units) for h in Head.objects.prefetch_related("holes")]),
        (KINDS["bar"], [_bar(b, units) for b in Bar.objects.all()]),
        (KINDS["cutter"], [_cutter(c, units) for c in Cutter.objects.all()]),
        (KINDS["gauge"], [_gauge(g, units) for g in Gauge.objects.all()]),
        (KINDS["indicator"], [_indicator(i, units) for i in Indicator.objects.all()]),
    ]


def _machine(machine: Machine, units: Units) -> Card:
    speeds = machine.speeds_rpm()
    facts = f"{machine.get_kind_display()}, {len(speeds)} speeds, {speeds[0]:g} to {speeds[-1]:g} rpm"
    if machine.division_mm is not None:
        facts += f"; {_dial_words(machine.division_mm, machine.dial_reads, machine.divisions_per_turn, units)}"
    if machine.cuts_large_mm is not None:
        facts += f"; its bar cuts {units.signed(machine.cuts_large_mm)} on diameter"
    if machine.shoes:
        facts += f"; shoes {machine.get_shoes_display()}"
    cap = f"; unbalanced at most {machine.unbalanced_max_rpm} rpm" if machine.unbalanced_max_rpm else ""
    return Card(pk=machine.pk, name=machine.name, retired=machine.retired, facts=facts + cap)


def _dial_words(division_mm: Any, reads: str, per_turn: int | None, units: Units) -> str:
    return f"one division {units.fine(division_mm)} {units.label} on {reads}, {per_turn} a turn"


def _head(head: Head, units: Units) -> Card:
    holes = ", ".join(f"{hole.name} at {units.plain(hole.offset_mm)}" for hole in head.holes.all())
    cap = f"; at most {head.max_rpm} rpm swung out" if head.max_rpm else ""
    return Card(
        pk=head.pk,
        name=head.name,
        retired=head.retired,
        facts=f"{_dial_words(head.division_mm, head.dial_reads, head.divisions_per_turn, units)}; slide "
        f"{units.plain(head.slide_travel_mm)}; holes {holes}, shank Ø{units.plain(head.shank_mm)}{cap}",
    )


def _bar(bar: Bar, units: Units) -> Card:
    what = bar_kind(bar.kind).label
    if bar.method == "line":
        facts = f"{what} Ø{units.plain(bar.diameter_mm)} x {units.length(bar.length_mm)}, runs in bearings"
        return Card(pk=bar.pk, name=bar.name, retired=bar.retired, facts=facts)
    tip = f"; for a boring head, tip {units.plain(bar.tip_mm)} from its centre" if bar.tip_mm is not None else ""
    return Card(
        pk=bar.pk,
        name=bar.name,
        retired=bar.retired,
        facts=f"{what} Ø{units.plain(bar.diameter_mm)} x {units.length(bar.length_mm)}; "
        f"{'stands' if bar.is_fixed else 'can stand'} out {units.length(bar.reach_mm)}; "
        f"enters Ø{units.plain(bar.min_bore_mm)}{tip}",
    )


def _cutter(cutter: Cutter, units: Units) -> Card:
    return Card(
        pk=cutter.pk,
        name=cutter.name,
        retired=cutter.retired,
        facts=f"{cutter.get_made_of_display()}, nose {units.plain(cutter.nose_radius_mm)}, entering angle "
        f"{cutter.entering_angle_deg:g}° (lead {90 - cutter.entering_angle_deg:g}°), cuts from "
        f"{units.plain(cutter.least_depth_mm)}",
    )


def _gauge(gauge: Gauge, units: Units) -> Card:
    due = f"; due {gauge.due_on:%d %b %Y}" if gauge.due_on else ""
    overdue = gauge.is_overdue(timezone.localdate())
    return Card(
        pk=gauge.pk,
        name=gauge.name,
        retired=gauge.retired,
        facts=f"{units.plain(gauge.range_low_mm)} to {units.plain(gauge.range_high_mm)}, reads to "
        f"{units.fine(gauge.resolution_mm)}, error limit {units.fine(gauge.error_limit_mm)}{due}",
        warning="past its check date: not to be trusted" if overdue else "",
    )


def _indicator(indicator: Indicator, units: Units) -> Card:
    return Card(
        pk=indicator.pk,
        name=indicator.name,
        retired=indicator.retired,
        facts=f"one division {units.fine(indicator.step_mm)}, reads {units.plain(indicator.range_mm)} either way",
    )


def initial_of(item: CribItem, form_class: type[CribForm], units: Units) -> dict[str, Any]:
    """What the form shows for a stored thing."""
    shown: dict[str, Any] = {}
    for name, field in form_class.base_fields.items():
        if name == "speeds" and isinstance(item, Machine):
            shown[name] = "\n".join(f"{s.lever} {s.rpm.normalize():f}".strip() for s in item.speeds.all())
            continue
        if name == "holes" and isinstance(item, Head):
            shown[name] = "\n".join(f"{hole.name} {units.plain(hole.offset_mm)}" for hole in item.holes.all())
            continue
        value = getattr(item, name)
        shown[name] = units.shown(value, item.typed.get(name)) if isinstance(field, LengthField) else value
    return shown
