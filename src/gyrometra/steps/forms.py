"""Forms of the six steps. They read and guard; the core decides what a figure means."""

from gyrometra.steps.bar.form import BAR_FORMS, BarForm, CentresBarForm, HeadBarForm, LineBarForm, PilotBarForm
from gyrometra.steps.bore.form import ActForm, DivisionForm, PassSizeForm, RemarkForm
from gyrometra.steps.check.form import CheckSizeForm, DepthForm
from gyrometra.steps.cuts.form import CutsForm
from gyrometra.steps.shared.entries import EntryForm
from gyrometra.steps.shared.plan_form import PlanForm
from gyrometra.steps.true.form import ReadingForm, RoundForm
from gyrometra.steps.work.form import BoreForm, WorkForm
from gyrometra.steps.work.shown import work_initial

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
