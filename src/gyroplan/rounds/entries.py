"""What can stand in the log of truing."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field

from gyrocore import InvalidInput
from gyrocore.checks import require_finite, require_positive
from gyrocore.truing.sweep import require_places
from gyroplan.shape import STRICT


@dataclass(frozen=True, slots=True, kw_only=True)
class Begin:
    """A round is begun at these places on the work, in this order."""

    __pydantic_config__ = STRICT

    places_deg: list[float]
    #: Of this round alone, in place of the truing's own figure: how far "first again" may differ.
    closing_mm: float | None = None
    kind: Literal["begin"] = "begin"


@dataclass(frozen=True, slots=True, kw_only=True)
class Reading:
    """The reading at the place that waits."""

    __pydantic_config__ = STRICT

    reading_mm: float
    kind: Literal["reading"] = "reading"


@dataclass(frozen=True, slots=True, kw_only=True)
class Blocked:
    """The place that waits cannot be read: a port, a slot, a keyway."""

    __pydantic_config__ = STRICT

    kind: Literal["blocked"] = "blocked"


@dataclass(frozen=True, slots=True, kw_only=True)
class Again:
    """The first place read, once more: closes the round."""

    __pydantic_config__ = STRICT

    reading_mm: float
    kind: Literal["again"] = "again"


@dataclass(frozen=True, slots=True, kw_only=True)
class Moved:
    """The jaws were moved as told."""

    __pydantic_config__ = STRICT

    kind: Literal["moved"] = "moved"


@dataclass(frozen=True, slots=True, kw_only=True)
class Disturbed:
    """The work was re-clamped, knocked, turned round: what was read before says nothing any more."""

    __pydantic_config__ = STRICT

    kind: Literal["disturbed"] = "disturbed"


@dataclass(frozen=True, slots=True, kw_only=True)
class Undo:
    """Takes back the last entry that stands."""

    __pydantic_config__ = STRICT

    kind: Literal["undo"] = "undo"


Entry = Annotated[Begin | Reading | Blocked | Again | Moved | Disturbed | Undo, Field(discriminator="kind")]


def require_entry(prefix: str, entry: Entry) -> None:
    """Refuse an entry that could never fit; raises InvalidInput at `prefix.field`."""
    if isinstance(entry, (Reading, Again)):
        require_finite(**{f"{prefix}.reading_mm": entry.reading_mm})
    if isinstance(entry, Begin):
        require_positive(**{f"{prefix}.closing_mm": entry.closing_mm})
        if not entry.places_deg:
            raise InvalidInput(f"{prefix}.places_deg", "empty")
        try:
            require_places(entry.places_deg)
        except InvalidInput as error:
            field = error.field.replace("angles_deg", "places_deg")
            raise InvalidInput(
                f"{prefix}.{field}", error.code, given=error.given, allowed=error.allowed, **error.values
            ) from None
