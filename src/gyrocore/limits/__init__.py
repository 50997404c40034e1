"""Limits of size: ISO 286-1 classes, plus and minus, from-to."""

from gyrocore.limits.spec import Limits, read_limits

__all__ = ["Limits", "read_limits"]
