"""The only guards. Each refuses with the field's name and never changes a value."""

from __future__ import annotations

import math
from collections.abc import Iterable

from gyrocore.errors import InvalidInput

#: Comparisons of sizes, speeds and depths are made to this (core contract).
TOLERANCE = 1e-9


def require_finite(**fields: float | None) -> None:
    """Refuse nan and infinity; None is passed over."""
    for field, value in fields.items():
        if value is not None and not math.isfinite(value):
            raise InvalidInput(field, "not_finite", given=str(value))


def require_positive(**fields: float | None) -> None:
    """Refuse anything not over 0; None is passed over."""
    require_finite(**fields)
    for field, value in fields.items():
        if value is not None and value <= 0:
            raise InvalidInput(field, "not_positive", given=value, allowed=0)


def require_not_negative(**fields: float | None) -> None:
    """Refuse anything under 0; None is passed over."""
    require_finite(**fields)
    for field, value in fields.items():
        if value is not None and value < 0:
            raise InvalidInput(field, "negative", given=value, allowed=0)


def require_between(least: float, most: float, **fields: float | None) -> None:
    """Refuse anything outside least..most, ends allowed; None is passed over."""
    require_finite(**fields)
    for field, value in fields.items():
        if value is not None and not least <= value <= most:
            raise InvalidInput(field, "not_between", given=value, least=least, most=most, allowed=most)


def require_open_between(least: float, most: float, **fields: float | None) -> None:
    """Refuse anything outside least..most, ends refused too; None is passed over."""
    require_finite(**fields)
    for field, value in fields.items():
        if value is not None and not least < value < most:
            raise InvalidInput(field, "not_open_between", given=value, least=least, most=most, allowed=most)


def require_whole(least: int, **fields: int) -> None:
    """Refuse a count under `least`."""
    for field, value in fields.items():
        if value < least:
            raise InvalidInput(field, "too_few", given=value, allowed=least)


def require_unique(field: str, names: Iterable[str | int]) -> None:
    """Refuse a repeated name; the error points at its second place."""
    seen: set[str | int] = set()
    for place, name in enumerate(names):
        if name in seen:
            raise InvalidInput(field.replace("*", str(place)), "repeated", given=name)
        seen.add(name)
