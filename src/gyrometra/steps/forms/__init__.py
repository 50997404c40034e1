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
from gyrometra.steps.forms.plan import BAR_FORMS, BarForm, CutsForm, HeadBarForm, LineBarForm, PlanForm
from gyrometra.steps.forms.work import BoreForm, WorkForm, work_initial

__all__ = [
    "BAR_FORMS",
    "BarForm",
    "BoreForm",
    "CheckSizeForm",
    "CutsForm",
    "EntryForm",
    "GuardForm",
    "HeadBarForm",
    "LineBarForm",
    "PassSetForm",
    "PassSizeForm",
    "PlanForm",
    "ReadingForm",
    "RemarkForm",
    "RoundForm",
    "WorkForm",
    "work_initial",
]
