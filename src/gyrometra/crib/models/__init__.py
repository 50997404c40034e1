"""What the shop owns: machines, bars, cutters, gauges, indicators, materials, fixtures."""

from gyrometra.crib.models.base import CribChange, CribItem, Numbers, Reads, mm
from gyrometra.crib.models.gauges import Gauge, GaugeQuerySet, Indicator
from gyrometra.crib.models.machines import Machine, MachineSpeed
from gyrometra.crib.models.stock import Fixture, Material, Size
from gyrometra.crib.models.tools import Bar, Cutter, Head, Hole

__all__ = [
    "Bar", "CribChange", "CribItem", "Cutter", "Fixture", "Gauge", "GaugeQuerySet", "Head", "Hole",
    "Indicator", "Machine", "MachineSpeed", "Material", "Numbers", "Reads", "Size", "mm",
]  # fmt: skip
