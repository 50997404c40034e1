"""The open protocol, read strictly: a batch is taken whole, or refused whole with the reading that is at fault."""

from __future__ import annotations

import json
from dataclasses import dataclass
from datetime import datetime
from decimal import Decimal, InvalidOperation
from typing import Any

from django.utils.dateparse import parse_datetime
from django.utils.timezone import is_aware

from gyrocore.units import MM_PER_INCH

#: Readings of one request; characters of an id; how far any indicator reads [mm].
MOST_IN_BATCH, LONGEST_ID, MOST_MM = 1000, 64, Decimal(1000)
_IN_MM = {
    "mm": Decimal(1), "um": Decimal("0.001"), "in": Decimal(MM_PER_INCH.numerator) / MM_PER_INCH.denominator,
}  # fmt: skip


class BadBatch(Exception):
    """What came is not the protocol."""


@dataclass(frozen=True, slots=True)
class Sent:
    """A reading as it was sent [mm]."""

    ident: str
    value_mm: Decimal
    pressed: bool
    at: datetime | None


def read_batch(body: bytes) -> list[Sent]:
    """The readings of a request; raises BadBatch with a sentence that names which, what was given and what may be."""
    try:
        said = json.loads(body)
    except (ValueError, RecursionError):
        raise BadBatch("The body is not JSON.") from None
    if not isinstance(said, dict):
        raise BadBatch('The body must be an object: {"unit": "mm", "readings": [...]}.')
    unit, rows = said.get("unit", "mm"), said.get("readings")
    if not isinstance(unit, str) or unit not in _IN_MM:
        raise BadBatch(f"unit must be mm, um or in; {str(unit)[:20]} was given.")
    if not isinstance(rows, list) or not 1 <= len(rows) <= MOST_IN_BATCH:
        count = len(rows) if isinstance(rows, list) else "none"
        raise BadBatch(f"readings must be a list of 1 to {MOST_IN_BATCH}; {count} came.")
    found = [_reading(row, number, _IN_MM[unit]) for number, row in enumerate(rows, 1)]
    if len({one.ident for one in found}) < len(found):
        raise BadBatch("Two readings of this batch have the same id.")
    return found


def _reading(row: Any, number: int, factor: Decimal) -> Sent:
    if not isinstance(row, dict):
        raise BadBatch(f"Reading {number} is not an object.")
    ident, press = row.get("id"), row.get("press", False)
    if not isinstance(ident, str) or not 1 <= len(ident) <= LONGEST_ID or not ident.isprintable():
        raise BadBatch(f"Reading {number}: id must be a text of 1 to {LONGEST_ID} characters.")
    if not isinstance(press, bool):
        raise BadBatch(f"Reading {number}: press must be true or false.")
    return Sent(ident, _value(row.get("value"), number, factor), press, _time(row.get("at"), number))


def _value(value: Any, number: int, factor: Decimal) -> Decimal:
    text = str(value)[:40] if isinstance(value, int | float | str) and not isinstance(value, bool) else ""
    try:
        found = Decimal(text)
        within = found.is_finite() and abs(found * factor) <= MOST_MM
    except InvalidOperation:
        within = False
    if not within:
        raise BadBatch(f"Reading {number}: value must be a number within {MOST_MM} mm; {text or 'none'} was given.")
    return (found * factor).quantize(Decimal("0.000001"))


def _time(value: Any, number: int) -> datetime | None:
    if value is None:
        return None
    try:
        at = parse_datetime(value) if isinstance(value, str) else None
    except ValueError:
        at = None
    if at is None or not is_aware(at):
        raise BadBatch(f"Reading {number}: at must be a time with its zone, as 2026-11-28T07:15:00.250Z.")
    return at
