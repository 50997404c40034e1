"""What a person had before their eyes when they typed an entry: it travels with the entry, and is checked.

Nothing falls back to a neighbour. An entry names its job, set-up, bore, piece, round or state of the pass, its author
and its unit; where one of them is not what it was, the entry is refused with what changed.
"""

from __future__ import annotations

from datetime import datetime, timedelta
from hashlib import sha256
from typing import Any, Literal, cast
from uuid import UUID

from django.db.models import Model
from django.http import HttpRequest
from django.utils import timezone
from pydantic import BaseModel, ConfigDict, Field, ValidationError

from gyrometra.accounts.people import member
from gyrometra.steps.page import JobPage
from gyroplan.loop import BoreState

Unit = Literal["mm", "in"]
_Key = Field(ge=1, le=2**31 - 1)
#: A clock that is set back or a tablet found after a month: longer ago than this is not believed.
_LONGEST_AGO = timedelta(days=90)


class Changed(Exception):
    """What an entry refers to is not as it was shown."""


class OtherUser(Exception):
    """The entry was typed by somebody else than is signed in now."""

    def __init__(self, by: str, now: str) -> None:
        super().__init__(f"Typed by {by}; {now} is signed in here now. It waits until {by} signs in.")


class Seen(BaseModel):
    """The place of an entry, as its page showed it."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    by: str = Field(max_length=150)
    unit: Unit
    job: int = _Key
    setup: int = _Key
    bore: int = _Key
    piece: int = _Key
    #: When the page was made, by the server's clock.
    at: datetime
    #: The round that is being read.
    round: int | None = Field(default=None, ge=1, le=2**31 - 1)
    #: Passes that were cut.
    passes: int | None = Field(default=None, ge=0, le=9999)
    #: The state of the pass in hand, as `state_mark` gives it.
    state: str = Field(default="", max_length=20)


def seen_on(page: JobPage, by: str, round_key: int | None = None) -> str:
    """What a page shows, as its forms carry it."""
    seen = Seen(
        by=by, unit=cast(Unit, page.units.unit), job=page.job.pk, setup=page.job.setup.pk, bore=page.bore_row.pk,
        piece=page.piece, at=timezone.now(), round=round_key,
        passes=len(page.passes.done), state=state_mark(page.passes.state),
    )  # fmt: skip
    return seen.model_dump_json(exclude_defaults=True)


def state_mark(state: BoreState | None) -> str:
    """A short mark of what is told: another pass in hand, another move or another size gives another one."""
    if state is None:
        return ""
    told = (state.phase, state.in_hand, state.told, state.stands_at, state.set_diameter_mm, state.known_mm,
            state.verdict, len(state.passes_left))  # fmt: skip
    return sha256(repr(told).encode()).hexdigest()[:16]


def read_seen(request: HttpRequest) -> Seen:
    """The place of the entry that was posted; raises Changed, OtherUser."""
    try:
        seen = Seen.model_validate_json(request.POST.get("seen", "")[:1000])
    except ValidationError:
        raise Changed("This page does not say what it showed: load it again, then type it once more.") from None
    user = member(request)
    if seen.by != user.username:
        raise OtherUser(seen.by, user.username)
    return seen


def seen_by(request: HttpRequest) -> Seen:
    """The same, once it is read."""
    seen: Seen = request.seen  # type: ignore[attr-defined]
    return seen


def require_place(seen: Seen, page: JobPage) -> None:
    """Refuse an entry whose set-up, bore or piece is not part of its job any more; raises Changed."""
    if seen.setup != page.job.setup.pk:
        raise Changed("The set-up it was typed for is not there any more.")
    if page.record.setup.closed_reason:
        raise Changed(f"Set-up {page.record.setup.letter} was given up: {page.record.setup.closed_reason}.")
    if seen.bore not in [bore.pk for bore in page.rows.bores]:
        raise Changed("The bore it was typed for is not in this job any more.")
    if seen.piece > page.job.quantity:
        raise Changed(f"It was typed for piece {seen.piece}; this job has {page.job.quantity} now.")


def require_state(seen: Seen, page: JobPage) -> None:
    """Refuse a tap on a pass that is not told any more as it was shown; raises Changed."""
    if seen.state != state_mark(page.passes.state):
        raise Changed("The log has changed since this page was shown: look at the pass again.")


def require_passes(seen: Seen, page: JobPage) -> None:
    """Refuse a size of a bore that was cut on since; raises Changed."""
    done = len(page.passes.done)
    if page.passes.state is not None and seen.passes != done:
        raise Changed(f"Typed after {seen.passes or 0} passes; {done} are cut now. Measure the bore as it is.")


def require_unchanged(seen: Seen, thing: Any) -> None:
    """Refuse a reading by a gauge or an indicator that was changed since; raises Changed."""
    at: datetime | None = getattr(thing, "changed_at", None)
    if isinstance(thing, Model) and at is not None and at > seen.at:
        raise Changed(
            f"{thing} was changed at {timezone.localtime(at):%H:%M}, after this page was shown: look at it, then send "
            "this again."
        )


def typed_at(request: HttpRequest) -> datetime | None:
    """When the entry was typed: so long before now as the browser says, whatever its clock shows."""
    text = request.POST.get("age_ms", "")
    if not (text.isdecimal() and text.isascii() and len(text) < 14):
        return None
    ago = timedelta(milliseconds=int(text))
    return timezone.now() - ago if ago <= _LONGEST_AGO else None


def named(request: HttpRequest, field: str) -> UUID | None:
    """An entry that a form names by its own id; None where it names none."""
    try:
        return UUID(request.POST.get(field, ""))
    except ValueError:
        return None
