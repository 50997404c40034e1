"""What the forms of the plan have in common."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from datetime import date
from decimal import Decimal
from typing import Any

from gyrocore import InvalidInput, error_sentence
from gyrometra.bridge.choices import ChoiceOfRow
from gyrometra.bridge.fields import LengthField, SurfaceSpeedField, TypedForm
from gyrometra.bridge.units import Typed
from gyrometra.crib.models import Bar, Cutter, Head
from gyrometra.crib.offered import Offered
from gyrometra.crib.records import bar_record, cutter_record, head_record
from gyrometra.jobs.models import Bore
from gyroplan.assess import AtBore, require_passes

#: What the core says where a cutter's least depth is more than a pass is deep.
_RUBS = ("rough_under_twice_least", "finish_under_least", "test_too_thin", "test_leaves_too_thin")


class PlanForm(TypedForm):
    """A part of the plan; the fields that are shown are the ones that are written."""

    #: Fields that are not the plan's own.
    not_stored: tuple[str, ...] = ()

    def __init__(self, *args: Any, bore: Bore, at: AtBore, crib: Offered | None = None, **kwargs: Any) -> None:
        self.bore, self.job, self.at = bore, bore.setup.job, at
        super().__init__(*args, **kwargs)
        offered = Offered() if crib is None else crib
        for name, field in self.fields.items():
            if isinstance(field, ChoiceOfRow):
                field.offer(self._offered(name, offered))
            elif isinstance(field, LengthField | SurfaceSpeedField) and name not in self.not_stored:
                plan = self.job.setup.plan
                value, typed = getattr(plan, name), plan.typed.get(name)
                self.stands(name, self._shown(field, value, typed), value, typed)

    def _offered(self, name: str, crib: Offered) -> Sequence[Any]:
        """What a field chooses from: bars for this method only, where there are two kinds of them."""
        if name in ("bar", "opening_bar"):
            own = self.at.setup.way.bars
            return [bar for bar in crib.bars_by_name if bar.method == own]
        return crib.cutters if name == "cutter" else crib.heads

    def initial_for(self) -> dict[str, Any]:
        """Stored values, as typed where that still means the same."""
        plan = self.job.setup.plan
        shown: dict[str, Any] = {}
        for name, field in self.fields.items():
            if name in self.not_stored:
                continue
            value = getattr(plan, name)
            if isinstance(field, LengthField | SurfaceSpeedField):
                value = self._shown(field, value, plan.typed.get(name))
            elif isinstance(value, date):
                value = value.isoformat()
            elif isinstance(value, Decimal):
                value = f"{value.normalize():f}"
            shown[name] = getattr(value, "pk", value)
        return shown

    def _shown(self, field: LengthField | SurfaceSpeedField, value: Any, typed: Typed | None) -> str:
        return self.units.shown(value, typed) if isinstance(field, LengthField) else self.speed_shown(value, typed)

    def speed_shown(self, value: Any, typed: Typed | None) -> str:
        """A surface speed: as typed where that still means the same, else with its unit."""
        if value is None:
            return ""
        if typed and (typed["unit"] == self.units.unit or any(sign.isalpha() for sign in typed["text"])):
            return typed["text"]
        return self.units.surface_speed(value)

    def guard_cutter(self, values: dict[str, Any]) -> None:
        """A cutter whose least depth is more than a planned pass would rub: refused before it is picked."""
        if values.get("cutter") is None or values["cutter"] == self.job.setup.plan.cutter:
            return
        trial = self.trial()
        if trial.start_mm is None:
            return
        try:
            require_passes(trial)
        except InvalidInput as error:
            if error.code not in _RUBS:
                return
            self.add_error("cutter", error_sentence(error, self.units.unit, "its least depth"))

    def plan_values(self) -> dict[str, Any]:
        """What is to be stored of the plan."""
        return {name: value for name, value in self.cleaned_data.items() if name not in self.not_stored}

    def trial(self) -> AtBore:
        """The plan with these values, not stored and nothing cut yet: so that the core can refuse them."""
        values = {name: _recorded(value) for name, value in self.plan_values().items()}
        record = self.at.record
        setup = replace(record.setup, plan=replace(record.setup.plan, **values))
        return replace(self.at, record=replace(record, setup=setup, cuts=()))


def _recorded(value: Any) -> Any:
    """A value of a form as a plan's record has it."""
    made: dict[type, Callable[[Any], Any]] = {
        Decimal: float, list: tuple, Bar: bar_record, Cutter: cutter_record, Head: head_record,
    }  # fmt: skip
    make = made.get(type(value))
    return value if make is None else make(value)
