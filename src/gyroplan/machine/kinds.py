"""What can be checked of a machine: what is asked, on which machines, and the one figure that is followed."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from math import hypot
from types import MappingProxyType

from gyrocore import SpindleCheck, SpindleReading, spindle_check

#: Values of a check, by the name of what was asked: lengths [mm], directions [deg].
Values = Mapping[str, float]

_LATHE, _TURNING_BAR = frozenset({"lathe"}), frozenset({"mill", "borer"})
_ALL = frozenset({"lathe", "mill", "borer", "portable", "stand"})


@dataclass(frozen=True, slots=True, kw_only=True)
class Asked:
    """One figure that is asked: a reading with its sign, a swing, a distance, or a direction from the mark."""

    name: str
    label: str
    kind: str = "reading"
    required: bool = True


@dataclass(frozen=True, slots=True, kw_only=True)
class Kind:
    """One check: its figure is `figure` words, due every so many days unless the shop says otherwise."""

    key: str
    label: str
    machines: frozenset[str]
    asked: tuple[Asked, ...]
    figure: str
    how: str
    every_days: int


def _kind(
    key: str, label: str, machines: frozenset[str], figure: str, every_days: int, how: str, *asked: Asked
) -> Kind:  # fmt: skip
    return Kind(key=key, label=label, machines=machines, asked=asked, figure=figure, how=how, every_days=every_days)


def _a(name: str, label: str, kind: str = "reading", *, required: bool = True) -> Asked:
    return Asked(name=name, label=label, kind=kind, required=required)


#: How often: general, chosen here for a jobbing shop; each machine can have its own.
KINDS: Mapping[str, Kind] = MappingProxyType({
    one.key: one for one in (
        _kind("spindle", "Spindle", frozenset({"lathe", "mill", "borer"}), "run-out at the far place", 180,
              "A test bar in the spindle: the swing near the nose and farther out, and where from the mark it reads "
              "highest, clockwise. Turn the bar end for end, or half round, to leave its own run-out out.",
              _a("near_mm", "Near: from the nose", "distance"), _a("near_tir_mm", "Near: run-out (TIR)", "swing"),
              _a("near_deg", "Near: highest at, degrees", "angle"), _a("far_mm", "Far: from the nose", "distance"),
              _a("far_tir_mm", "Far: run-out (TIR)", "swing"), _a("far_deg", "Far: highest at, degrees", "angle")),
        _kind("play", "Play", _ALL, "play", 180,
              "Indicator against the spindle, the bar or the centre: push and pull by hand, both readings with signs.",
              _a("push_mm", "Pushed"), _a("pull_mm", "Pulled")),
        _kind("centre", "Centres", _LATHE, "run-out of the headstock centre", 90,
              "Indicator on the cone of the headstock centre, one turn: before work goes between centres.",
              _a("swing_mm", "Run-out (TIR)", "swing")),
        _kind("tailstock", "Tailstock", _LATHE, "tailstock off the axis", 180,
              "A true bar between centres, the indicator run along it: tail end less head end, plus away from the "
              "operator, over the length of the bar.",
              _a("off_mm", "Tail less head"), _a("over_mm", "Over", "distance")),
        _kind("slope", "Saddle or table", frozenset({"lathe", "borer"}), "slope over a metre", 365,
              "Indicator from the spindle on the saddle or table, moved along the bed: far end less near end, plus is "
              "higher, over how far it went.",
              _a("rise_mm", "Far less near"), _a("over_mm", "Over", "distance")),
        _kind("tram", "Head to table", _TURNING_BAR, "out of square over a metre", 90,
              "Indicator on an arm in the spindle, swept over the table: right less left, and front less back, on the "
              "circle it sweeps.",
              _a("across_mm", "Right less left"), _a("along_mm", "Front less back"),
              _a("circle_mm", "Circle swept, Ø", "distance")),
        _kind("wear", "Pads and shoes", frozenset({"portable", "stand", "borer"}), "worn on radius", 365,
              "Pads, shoes or bushes that guide the bar: thickness as new less thickness now.",
              _a("worn_mm", "Worn", "swing")),
    )
})  # fmt: skip


def kinds_of(machine_kind: str) -> tuple[Kind, ...]:
    """The checks of a kind of machine, in their order."""
    return tuple(one for one in KINDS.values() if machine_kind in one.machines)


def limited_mm(kind: str, values: Values) -> float:
    """The figure of a check that is limited and followed [mm]; slopes and squareness over a metre.

    References: derived here; a sweep of a table on a circle of diameter d tells the lean along each axis as the
    difference of its two readings over d.
    """
    if kind == "spindle":
        return values["far_tir_mm"]
    if kind == "play":
        return abs(values["push_mm"] - values["pull_mm"])
    if kind == "tailstock":
        return abs(values["off_mm"])
    if kind == "slope":
        return 1000 * abs(values["rise_mm"]) / values["over_mm"]
    if kind == "tram":
        return 1000 * hypot(values["across_mm"], values["along_mm"]) / values["circle_mm"]
    return values["swing_mm" if kind == "centre" else "worn_mm"]


def spindle_of(values: Values, tool_length_mm: float) -> SpindleCheck:
    """What a spindle that was read near and far comes to at a tool of this length."""
    near = SpindleReading(
        distance_mm=values["near_mm"], total_reading_mm=values["near_tir_mm"], high_angle_deg=values["near_deg"]
    )
    far = SpindleReading(
        distance_mm=values["far_mm"], total_reading_mm=values["far_tir_mm"], high_angle_deg=values["far_deg"]
    )
    return spindle_check(near=near, far=far, tool_length_mm=tool_length_mm)
