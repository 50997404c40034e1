"""What every log entry carries, and that one sent twice is stored once."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Any, TypeVar
from uuid import UUID

from django.db.models import Model
from django.utils.timezone import localtime

from gyrometra.accounts.models import User


@dataclass(frozen=True, slots=True, kw_only=True)
class Sent:
    """Who sent an entry, its own id, how it came, what was typed, and when."""

    user: User
    client_id: UUID
    source: str = "typed"
    text: str = ""
    typed_at: datetime | None = None
    #: Of all that was sent: the same id with another digest is another entry.
    digest: str = ""

    @property
    def columns(self) -> dict[str, Any]:
        """As a log's row stores it."""
        return {
            "by": self.user, "client_id": self.client_id, "source": self.source, "text": self.text,
            "typed_at": self.typed_at, "digest": self.digest,
        }  # fmt: skip


class StoredOtherwise(Exception):
    """An entry of this id is stored already, and says something else."""

    def __init__(self, known: Any) -> None:
        what = f" as {known.text}" if getattr(known, "text", "") else ""
        super().__init__(
            f"An entry of this id was stored already{what}, by {known.by.username} at "
            f"{localtime(known.at):%d %b %H:%M}. It stands; what came now was not stored."
        )


class NotTheLast(Exception):
    """What was to be undone is not the last entry any more."""


Row = TypeVar("Row", bound=Model)


def stored_before(model: type[Row], sent: Sent) -> Row | None:
    """The entry of this id, None where there is none; raises StoredOtherwise where it is not the same entry."""
    rows: Any = model
    known: Any = rows.objects.filter(client_id=sent.client_id).first()
    if known is not None and (known.by_id, known.digest) != (sent.user.pk, sent.digest):
        raise StoredOtherwise(known)
    found: Row | None = known
    return found
