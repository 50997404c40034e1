"""An entry that does not fit as things stand: it changes nothing, and says why."""

from __future__ import annotations

from dataclasses import dataclass

from gyrocore.errors import InvalidInput, Value


@dataclass(frozen=True, slots=True, kw_only=True)
class Refusal:
    """Which field of the entry does not fit, and the sentence (a code with values)."""

    field: str
    error: InvalidInput


class Refused(Exception):
    """Raised inside a replay where an entry does not fit; the replay turns it into a `Refusal`."""

    def __init__(self, field: str, code: str, **values: Value) -> None:
        given, allowed = values.pop("given", None), values.pop("allowed", None)
        self.refusal = Refusal(field=field, error=InvalidInput(field, code, given=given, allowed=allowed, **values))
        super().__init__(f"{field}: {code}")
