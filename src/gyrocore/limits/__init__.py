"""Limits of size: ISO 286-1 classes, plus and minus, from-to; fits of two of them."""

from gyrocore.limits.common_size import CommonSize, nearest_common
from gyrocore.limits.fit import Fit, fit, fit_of
from gyrocore.limits.spec import Limits, read_limits
from gyrocore.limits.suit import fit_with_part, limits_to_suit

__all__ = [
    "CommonSize", "Fit", "Limits", "fit", "fit_of", "fit_with_part", "limits_to_suit", "nearest_common", "read_limits",
]  # fmt: skip
