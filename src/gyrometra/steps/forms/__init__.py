"""Forms of the six steps. They read and guard; the core decides what a figure means."""

from gyrometra.steps.forms.cuts import CutsForm
from gyrometra.steps.forms.logs import (
    ActForm,
    CheckSizeForm,
    DepthForm,
    DivisionForm,
    EntryForm,
    PassSizeForm,
    ReadingForm,
    RemarkForm,
    RoundForm,
)
from gyrometra.steps.forms.plan import (
    BAR_FORMS,
    BarForm,
    CentresBarForm,
    HeadBarForm,
    LineBarForm,
    PilotBarForm,
    PlanForm,
)
from gyrometra.steps.forms.work import BoreForm, WorkForm
from gyrometra.steps.forms.work_shown import work_initial

__all__ = [
    "BAR_FORMS",
    "ActForm",
    "BarForm",
    "BoreForm",
    "CentresBarForm",
    "CheckSizeForm",
    "CutsForm",
    "DepthForm",
    "DivisionForm",
    "EntryForm",
    "HeadBarForm",
    "LineBarForm",
    "PassSizeForm",
    "PilotBarForm",
    "PlanForm",
    "ReadingForm",
    "RemarkForm",
    "RoundForm",
    "WorkForm",
    "work_initial",
]
