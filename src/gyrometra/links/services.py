"""Linking a gauge, taking in what it sends, and who listens to it."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import timedelta
from decimal import Decimal
from hashlib import sha256
from secrets import token_urlsafe
from typing import Any
from uuid import NAMESPACE_URL, UUID, uuid5

from django.db import transaction
from django.utils.timezone import now

from gyrometra.accounts.models import User
from gyrometra.crib.models import Gauge, Indicator
from gyrometra.links.models import GaugeLink, LinkReading
from gyrometra.links.protocol import Sent

#: Live values are kept so long: sent again within it they are known. What was pressed is kept.
KEPT_FOR = timedelta(hours=1)
_PRUNED_EVERY = timedelta(minutes=1)


class OtherValue(Exception):
    """A reading of this id is stored already with another value."""


class UnknownToken(Exception):
    """No link has this token."""


class LinkEnded(Exception):
    """The token was ended."""


def hashed(token: str) -> str:
    """What is stored of a token."""
    return sha256(token.encode()).hexdigest()


def link_gauge(
    *, user: User, item: Indicator | Gauge, name: str, set_mm: Decimal | None = None
) -> tuple[GaugeLink, str]:
    """Make a token for an indicator or a gauge; it is returned once and kept nowhere."""
    token = token_urlsafe(32)
    of: dict[str, Any] = {"gauge": item, "set_mm": set_mm} if isinstance(item, Gauge) else {"indicator": item}
    link = GaugeLink.objects.create(**of, name=name or item.name[:40], token_hash=hashed(token), made_by=user)
    return link, token


def end_link(link: GaugeLink) -> None:
    """The token counts no more; what it sent stays."""
    GaugeLink.objects.filter(pk=link.pk, ended_at__isnull=True).update(ended_at=now(), listener=None)


@transaction.atomic
def take_in(token: str, sent: Sequence[Sent]) -> tuple[int, int]:
    """Store a batch: how many were new, how many were known. Raises UnknownToken, LinkEnded, OtherValue."""
    link = GaugeLink.objects.only("pk", "ended_at", "pruned_at").filter(token_hash=hashed(token)).first()
    if link is None:
        raise UnknownToken("This token is not known.")
    if link.ended_at is not None:
        raise LinkEnded("This token was ended.")
    came = now()
    known = dict(
        LinkReading.objects.filter(link=link, ident__in=[one.ident for one in sent]).values_list("ident", "value_mm")
    )
    for one in sent:
        if one.ident in known and known[one.ident] != one.value_mm:
            raise OtherValue(f"{one.ident} is stored as {known[one.ident]}; {one.value_mm} came.")
    fresh = [
        LinkReading(link=link, ident=one.ident, value_mm=one.value_mm, pressed=one.pressed, at=one.at, came_at=came)
        for one in sent
        if one.ident not in known
    ]
    LinkReading.objects.bulk_create(fresh, ignore_conflicts=True)  # sent twice in the same moment: stored once
    seen: dict[str, object] = {"seen_at": came}
    if link.pruned_at is None or came - link.pruned_at > _PRUNED_EVERY:
        LinkReading.objects.filter(link=link, pressed=False, came_at__lt=came - KEPT_FOR).delete()
        seen["pruned_at"] = came
    GaugeLink.objects.filter(pk=link.pk).update(**seen)
    return len(fresh), len(sent) - len(fresh)


def listen(*, user: User, link: GaugeLink, listener: UUID) -> int:
    """From now on this page takes what is pressed, and no other; returns the number of the last that was pressed."""
    GaugeLink.objects.filter(pk=link.pk).update(listener=listener, listened_by=user)
    last = LinkReading.objects.filter(link=link, pressed=True).order_by("-pk").values_list("pk", flat=True).first()
    return last or 0


def entry_id(reading: LinkReading) -> UUID:
    """The id of the log entry that a pressed reading becomes: one, however often it is sent and by whichever page."""
    return uuid5(NAMESPACE_URL, f"gauge-link:{reading.link_id}:{reading.ident}")
