"""The Cuts form: cutter, speeds, feeds, depths, passes, and what the cutter is set with."""

from __future__ import annotations

from datetime import date
from typing import Any

from django import forms

from gyrocore import InvalidInput
from gyrometra.bridge.choices import ChoiceOfRow
from gyrometra.bridge.fields import LengthField, SurfaceSpeedField
from gyrometra.crib.models import Cutter
from gyrometra.jobs.models import Plan
from gyrometra.steps.shared.plan_form import PlanForm
from gyroplan.assess import AtBore, cap_of, passes_of, require_passes, speeds_of, wanted_speed


class CutsForm(PlanForm):
    """Cutter, speeds, feeds, depths and passes."""

    cutter = ChoiceOfRow(Cutter.objects.filter(retired=False), label="Cutter", required=False)
    rough_speed_m_min = SurfaceSpeedField(label="Roughing speed", required=False)
    finish_speed_m_min = SurfaceSpeedField(label="Finishing speed", required=False)
    max_rpm = forms.IntegerField(label="Max rpm", required=False, min_value=1, max_value=20000)
    rough_feed_mm_rev = LengthField(label="Roughing feed per rev", ask_over_mm=2)
    finish_feed_mm_rev = LengthField(label="Finishing feed per rev", ask_over_mm=2)
    rough_depth_mm = LengthField(label="Max roughing depth, radial", ask_over_mm=12)
    finish_depth_mm = LengthField(label="Finishing depth, radial", ask_over_mm=5)
    finish_passes = forms.IntegerField(label="Finish passes", min_value=1, max_value=9)
    spring_passes = forms.IntegerField(label="Spring passes", min_value=0, max_value=5)
    test_first = forms.TypedChoiceField(
        label="Test cut first",
        choices=[("True", "yes"), ("False", "no")],
        coerce=lambda text: text == "True",
    )
    test_leave_mm = LengthField(label="Test cut short by, on diameter", required=False, ask_over_mm=10)
    hone_allowance_mm = LengthField(label="Left for honing, on diameter", positive=False, least=0, ask_over_mm=2)
    set_with = forms.ChoiceField(label="Cutter set with", choices=Plan.SetWith.choices, required=False)
    jig_zero_mm = LengthField(label="Jig reads, tip flush with the bar", required=False, positive=False)
    rest_until = forms.DateField(
        label="Let it settle until",
        required=False,
        widget=forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d"),
    )

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        for stage in ("rough", "finish"):
            speed = wanted_speed(self.at, stage)
            self.fields[f"{stage}_speed_m_min"].widget.attrs["placeholder"] = (
                self.units.surface_speed(speed) if speed else ""
            )
        cap = cap_of(self.at)
        self.fields["max_rpm"].widget.attrs["placeholder"] = f"{cap:g}" if cap else ""
        self.fields["test_leave_mm"].widget.attrs["placeholder"] = "as finish takes"
        if self.job.setup.way.set_by != "over-bar":
            del self.fields["set_with"], self.fields["jig_zero_mm"]

    _FIELDS = {
        "min_depth_mm": "cutter",
        "spindle_speeds_rpm": "max_rpm",
        "surface_speed_m_min": "rough_speed_m_min",
        "start_diameter_mm": "rough_depth_mm",
        "aim_diameter_mm": "rough_depth_mm",
    }

    def _guard_rest(self, until: date | None) -> None:
        """The rest must end before the work is due."""
        due = self.job.due_on
        if until is not None and due is not None and until > due:
            self.add_error("rest_until", f"It would rest until {until:%d %b %Y}, but the work is due {due:%d %b %Y}.")

    def clean(self) -> dict[str, Any]:
        """The core refuses passes that rub, and a cap under every speed."""
        values = super().clean() or {}
        self._guard_rest(values.get("rest_until"))
        if self.errors:
            return values
        trial = self.trial()
        try:
            if trial.start_mm is not None:
                require_passes(trial)
        except InvalidInput as error:
            self.refuse(error, self._FIELDS, "rough_depth_mm")
            return values
        self._guard_setting(values, trial)
        passes = passes_of(trial)
        speeds = speeds_of(passes, None)
        for refused in (passes.by.refused, passes.plan.refused, speeds.rough.refused, speeds.finish.refused):
            if refused is not None:
                self.refuse(refused, self._FIELDS, "max_rpm")
        return values

    def _guard_setting(self, values: dict[str, Any], trial: AtBore) -> None:
        """A way that only moves by an amount starts from a measured bore; a jig has a zero of its own."""
        if values.get("set_with") == Plan.SetWith.INDICATOR and trial.start_mm is None:
            self.add_error("set_with", "An indicator shows an amount only: measure the bore first, on Work.")
        if values.get("set_with") == Plan.SetWith.JIG and values.get("jig_zero_mm") is None:
            self.add_error("jig_zero_mm", "What the jig reads with the point flush with the bar is missing.")
