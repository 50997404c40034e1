"""Forms of the crib: a thing of the shop in under half a minute."""

from __future__ import annotations

from gyrometra.crib.forms.base import CribForm
from gyrometra.crib.forms.gauges import GaugeForm, IndicatorForm
from gyrometra.crib.forms.machines import MachineForm
from gyrometra.crib.forms.stock import FixtureForm, MaterialForm, SizeForm
from gyrometra.crib.forms.tools import BarForm, CutterForm, HeadForm

FORMS: dict[str, type[CribForm]] = {
    "machine": MachineForm, "head": HeadForm, "bar": BarForm, "cutter": CutterForm, "gauge": GaugeForm,
    "indicator": IndicatorForm, "material": MaterialForm, "fixture": FixtureForm,
    "size": SizeForm,
}  # fmt: skip

__all__ = ["FORMS", "CribForm"]
