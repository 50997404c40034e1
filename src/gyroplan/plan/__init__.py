"""What a plan asks of a bar: every pass it is to cut, and one verdict over all of them."""

from gyroplan.plan.bars import (
    BarVerdict,
    Deflection,
    Limit,
    overhang_verdict,
    response_verdict,
    worst_deflection,
)
from gyroplan.plan.damping import Believed, Heard, believed_damping
from gyroplan.plan.defaults import PlanDefaults, plan_defaults
from gyroplan.plan.loads import ROUGHING, PassLoad, distinct, loads_of

__all__ = [
    "ROUGHING", "BarVerdict", "Believed", "Deflection", "Heard", "Limit", "PassLoad", "PlanDefaults",
    "believed_damping", "distinct", "loads_of", "overhang_verdict", "plan_defaults", "response_verdict",
    "worst_deflection",
]  # fmt: skip
