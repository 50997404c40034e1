"""What is asked of a bore: its limits, the shop's rules for the passes, and what sets the cutter."""

from __future__ import annotations

from dataclasses import dataclass

from gyrocore import InvalidInput, PassPlan, PassRules, pass_plan
from gyrocore.checks import require_finite, require_not_negative, require_positive
from gyroplan.loop.setting import OverBarWay, StepWay, Way
from gyroplan.shape import STRICT, Count

#: Where `pass_plan` names a field of its own: the field of this plan.
_FIELDS = {
    "start_diameter_mm": "bore.start_mm", "aim_diameter_mm": "bore.aim_mm",
    "hone_allowance_mm": "bore.hone_allowance_mm",
}  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class BoreInWork:
    """The bore as found (its smallest size) and as it must become; the allowance is on diameter [mm]."""

    __pydantic_config__ = STRICT

    start_mm: float
    lower_mm: float
    upper_mm: float
    aim_mm: float | None = None
    hone_allowance_mm: float = 0.0

    @property
    def bored_aim_mm(self) -> float:
        """The target of the bored hole; it never moves."""
        aim = (self.lower_mm + self.upper_mm) / 2 if self.aim_mm is None else self.aim_mm
        return aim - self.hone_allowance_mm

    @property
    def bored_lower_mm(self) -> float:
        """The lower limit of the bored hole."""
        return self.lower_mm - self.hone_allowance_mm

    @property
    def bored_upper_mm(self) -> float:
        """The upper limit of the bored hole."""
        return self.upper_mm - self.hone_allowance_mm


@dataclass(frozen=True, slots=True, kw_only=True)
class Rules:
    """What the shop lays down for its passes; depths are radial, `test_leave_mm` is on diameter [mm]."""

    __pydantic_config__ = STRICT

    rough_depth_mm: float
    finish_depth_mm: float
    finish_passes: Count = 2
    min_depth_mm: float = 0.05
    spring_passes: Count = 0
    test_leave_mm: float | None = None

    @property
    def finish_ask_mm(self) -> float:
        """The depth that a finish pass is asked to have: the shop's, or its share of what the test cut leaves."""
        if self.test_leave_mm is None:
            return self.finish_depth_mm
        return self.test_leave_mm / 2 / self.finish_passes

    def for_plan(self, hone_allowance_mm: float) -> PassRules:
        """The same as `pass_plan` takes them."""
        return PassRules(
            rough_depth_mm=self.rough_depth_mm,
            finish_depth_mm=self.finish_depth_mm,
            finish_passes=self.finish_passes,
            min_depth_mm=self.min_depth_mm,
            hone_allowance_mm=hone_allowance_mm,
            spring_passes=self.spring_passes,
            test_leave_mm=self.test_leave_mm,
        )


def first_plan(bore: BoreInWork, rules: Rules) -> PassPlan:
    """The passes as `pass_plan` gives them, its fields named as they are here; raises InvalidInput."""
    aim = bore.bored_aim_mm + bore.hone_allowance_mm
    try:
        return pass_plan(
            start_diameter_mm=bore.start_mm, aim_diameter_mm=aim, rules=rules.for_plan(bore.hone_allowance_mm)
        )
    except InvalidInput as error:
        field_name = _FIELDS.get(error.field, f"rules.{error.field}")
        if field_name == "bore.aim_mm" and bore.aim_mm is None:
            field_name = "bore.upper_mm"
        raise InvalidInput(field_name, error.code, given=error.given, allowed=error.allowed, **error.values) from None


def require_asked(bore: BoreInWork, rules: Rules, way: Way, prefix: str = "") -> None:
    """Refuse what could never be; raises InvalidInput at its field, below `prefix`."""
    try:
        _require_bore(bore)
        first_plan(bore, rules)
        way.require()
        if isinstance(way, (OverBarWay, StepWay)) and way.bar_diameter_mm >= bore.start_mm:
            raise InvalidInput("setting.bar_diameter_mm", "not_under", given=way.bar_diameter_mm, allowed=bore.start_mm)
    except InvalidInput as error:
        raise InvalidInput(
            prefix + error.field, error.code, given=error.given, allowed=error.allowed, **error.values
        ) from None


def _require_bore(bore: BoreInWork) -> None:
    require_positive(**{"bore.start_mm": bore.start_mm, "bore.lower_mm": bore.lower_mm, "bore.upper_mm": bore.upper_mm})
    if bore.upper_mm < bore.lower_mm:
        raise InvalidInput("bore.upper_mm", "limits_upside_down", given=bore.upper_mm, allowed=bore.lower_mm)
    require_finite(**{"bore.aim_mm": bore.aim_mm})
    if bore.aim_mm is not None and not bore.lower_mm <= bore.aim_mm <= bore.upper_mm:
        raise InvalidInput(
            "bore.aim_mm", "not_between", given=bore.aim_mm, least=bore.lower_mm, most=bore.upper_mm,
            allowed=bore.upper_mm,
        )  # fmt: skip
    require_not_negative(**{"bore.hone_allowance_mm": bore.hone_allowance_mm})
