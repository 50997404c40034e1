"""Limits of size: ISO 286-1 classes, plus and minus, from-to; fits of two of them."""

from gyrocore.limits.fit import Fit, fit, fit_of
from gyrocore.limits.spec import Limits, read_limits

__all__ = ["Fit", "Limits", "fit", "fit_of", "read_limits"]
