"""Limits of size: ISO 286-1 classes, plus and minus, from-to; fits of two of them."""

from gyrocore.limits.common_size import CommonSize, nearest_common
from gyrocore.limits.fit import Fit, fit, fit_of
from gyrocore.limits.spec import Limits, read_limits

__all__ = ["CommonSize", "Fit", "Limits", "fit", "fit_of", "nearest_common", "read_limits"]
