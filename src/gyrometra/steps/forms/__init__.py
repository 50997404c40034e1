"""Forms of the six steps. They read and guard; the core decides what a figure means."""

from gyrometra.steps.forms.logs import (
    CheckSizeForm,
    EntryForm,
    GuardForm,
    PassSetForm,
    PassSizeForm,
    ReadingForm,
    RemarkForm,
    RoundForm,
)
from gyrometra.steps.forms.plan import BarForm, CutsForm, PlanForm
from gyrometra.steps.forms.work import WorkForm, work_initial

__all__ = [
    "BarForm",
    "CheckSizeForm",
    "CutsForm",
    "EntryForm",
    "GuardForm",
    "PassSetForm",
    "PassSizeForm",
    "PlanForm",
    "ReadingForm",
    "RemarkForm",
    "RoundForm",
    "WorkForm",
    "work_initial",
]
