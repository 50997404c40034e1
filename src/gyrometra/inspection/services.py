"""Logging sizes and depths of the finished bore, and signing off."""

from __future__ import annotations

import json
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from decimal import Decimal
from typing import Any
from uuid import UUID

from django.db import transaction

from gyrocore import CALCULATIONS
from gyrometra.accounts.models import User
from gyrometra.crib.models import Gauge, Indicator
from gyrometra.inspection.models import DepthReading, FeatureReading, PlugReading, SizeReading
from gyrometra.inspection.repeats import gauge_in_hand
from gyrometra.jobs import history
from gyrometra.jobs.entries import NotTheLast, Sent, stored_before
from gyrometra.jobs.gauges import mate_values
from gyrometra.jobs.models import Bore, Feature, Job, PastSignOff, SignOff
from gyrometra.jobs.permissions import can_sign_verdict, lock_open


class NotAllowed(Exception):
    """This person may not do that."""


class ShownOtherwise(Exception):
    """What was shown when the signature was given is not what the log says now."""


class NoReason(Exception):
    """A concession needs its reason, and so does taking a signature back; names the limit that has none."""


@transaction.atomic
def log_size(
    *, sent: Sent, bore: Bore, gauge: Gauge, z_mm: Decimal, angle_deg: Decimal, value_mm: Decimal,
    part_temp_c: Decimal, gauge_temp_c: Decimal, temp_u_c: Decimal, piece: int = 1,
) -> SizeReading:  # fmt: skip
    """Log one diameter; one sent twice is stored once. All readings of a place belong together."""
    lock_open(bore.setup.job)
    known = stored_before(SizeReading, sent)
    if known is not None:
        return known
    return SizeReading.objects.create(
        setup=bore.setup, bore=bore, piece=piece, z_mm=z_mm, angle_deg=angle_deg, gauge=gauge, value_mm=value_mm,
        part_temp_c=part_temp_c, gauge_temp_c=gauge_temp_c, temp_u_c=temp_u_c,
        rests_on=gauge_in_hand(gauge, sent.user.username, bore.setup), **sent.columns,
    )  # fmt: skip


@transaction.atomic
def log_depth(*, sent: Sent, bore: Bore, gauge: Gauge, value_mm: Decimal, piece: int = 1) -> DepthReading:
    """Log one depth of the shoulder; one sent twice is stored once."""
    lock_open(bore.setup.job)
    known = stored_before(DepthReading, sent)
    if known is not None:
        return known
    return DepthReading.objects.create(
        setup=bore.setup, bore=bore, piece=piece, gauge=gauge, value_mm=value_mm,
        rests_on=gauge_in_hand(gauge, sent.user.username, bore.setup), **sent.columns,
    )  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class Tried:
    """What was tried, and what came of it; the size where it is not the plug's own [mm]."""

    side: str
    gauge: Gauge | None = None
    goes: bool = False
    felt: str = ""
    size_mm: Decimal = Decimal(0)
    #: What the mating part is known to.
    expanded_mm: Decimal = Decimal(0)


@transaction.atomic
def log_plug(*, sent: Sent, bore: Bore, tried: Tried, piece: int = 1) -> PlugReading:
    """Log that a plug or the mating part goes or not, or how a set gauge felt; one sent twice is stored once."""
    lock_open(bore.setup.job)
    known = stored_before(PlugReading, sent)
    if known is not None:
        return known
    gauge, username = tried.gauge, sent.user.username
    rests_on = mate_values(tried.expanded_mm) if gauge is None else gauge_in_hand(gauge, username, bore.setup)
    return PlugReading.objects.create(
        setup=bore.setup, bore=bore, piece=piece, gauge=gauge, side=tried.side, goes=tried.goes, felt=tried.felt,
        size_mm=_size_of(tried), rests_on=rests_on, **sent.columns,
    )  # fmt: skip


def _size_of(tried: Tried) -> Decimal:
    """The size of the side that was tried; what its go side has worn is its gauge's correction."""
    if tried.gauge is None or tried.side == PlugReading.Side.SET:
        return tried.size_mm
    return tried.gauge.side_mm(tried.side)


@transaction.atomic
def take_back_plug(*, sent: Sent, bore: Bore, undo: UUID | None, piece: int = 1) -> PlugReading:
    """Withdraw a standing trial, the one named; it stays in the log, crossed out. Raises NotTheLast."""
    lock_open(bore.setup.job)
    known = stored_before(PlugReading, sent)
    if known is not None:
        return known
    last: PlugReading | None = PlugReading.objects.standing().filter(bore=bore, piece=piece, client_id=undo).first()
    if last is None:
        raise NotTheLast
    kept = {name: getattr(last, name) for name in ("gauge", "side", "goes", "felt", "size_mm", "rests_on")}
    return PlugReading.objects.create(
        setup=bore.setup, bore=bore, piece=piece, supersedes=last, withdrawn=True, **kept, **sent.columns
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadOfFeature:
    """What was read of a feature, and with what."""

    what: str
    value: Decimal
    gauge: Gauge | None = None
    indicator: Indicator | None = None
    expanded: Decimal = Decimal(0)
    over: str = FeatureReading.Over.CENTRES
    first_mm: Decimal | None = None
    second_mm: Decimal | None = None
    walls_expanded_mm: Decimal = Decimal(0)
    #: The side of a ring or gap gauge that was tried; its size is the value.
    side: str = ""
    goes: bool = False


@transaction.atomic
def log_feature(*, sent: Sent, feature: Feature, read: ReadOfFeature, piece: int = 1) -> FeatureReading:
    """Log one reading of a face, band, outside, relief or distance; one sent twice is stored once."""
    lock_open(feature.setup.job)
    known = stored_before(FeatureReading, sent)
    if known is not None:
        return known
    rests_on = {} if read.gauge is None else gauge_in_hand(read.gauge, sent.user.username, feature.setup)
    columns = {name: getattr(read, name) for name in _READ}
    return FeatureReading.objects.create(
        setup=feature.setup, feature=feature, piece=piece, rests_on=rests_on, **columns, **sent.columns
    )


_READ = ("what", "value", "gauge", "indicator", "expanded", "over", "first_mm", "second_mm", "walls_expanded_mm",
         "side", "goes")  # fmt: skip


@transaction.atomic
def take_back_feature(*, sent: Sent, job: Job, undo: UUID | None, piece: int = 1) -> FeatureReading:
    """Withdraw the standing reading of a feature that is named; it stays in the log, crossed out."""
    lock_open(job)
    known = stored_before(FeatureReading, sent)
    if known is not None:
        return known
    rows = FeatureReading.objects.standing().filter(setup__job=job, piece=piece, client_id=undo)
    last: FeatureReading | None = rows.first()
    if last is None:
        raise NotTheLast
    kept = {name: getattr(last, name) for name in (*_READ, "setup", "feature", "rests_on")}
    return FeatureReading.objects.create(
        piece=piece, supersedes=last, withdrawn=True, **kept, **{**sent.columns, "text": last.text}
    )


_SIZE = ("z_mm", "angle_deg", "part_temp_c", "gauge_temp_c", "temp_u_c")


@transaction.atomic
def take_back(
    *, sent: Sent, bore: Bore, undo: UUID | None, piece: int = 1, depth: bool = False
) -> SizeReading | DepthReading:
    """Withdraw the standing size or depth that is named; it stays in the log, crossed out. Raises NotTheLast."""
    lock_open(bore.setup.job)
    model: type[SizeReading] | type[DepthReading] = DepthReading if depth else SizeReading
    known: SizeReading | DepthReading | None = stored_before(model, sent)
    if known is not None:
        return known
    last = model.objects.standing().filter(bore=bore, piece=piece, client_id=undo).first()
    if last is None:
        raise NotTheLast
    kept = {} if depth else {name: getattr(last, name) for name in _SIZE}
    return model.objects.create(
        setup=bore.setup, bore=bore, piece=piece, gauge=last.gauge, value_mm=last.value_mm, rests_on=last.rests_on,
        supersedes=last, withdrawn=True, **kept, **{**sent.columns, "text": last.text},
    )  # fmt: skip


@transaction.atomic
def sign_off(
    *, user: User, job: Job, shown: str, judge: Callable[[], tuple[str, dict[str, Any], str]], reason: str = "",
    reasons: Mapping[str, str] | None = None,
) -> SignOff:  # fmt: skip
    """The lead signs the verdict that was shown; afterwards nothing about the job changes.

    `judge` works digest and verdict out anew, under the lock, and writes the job down as it was judged: a signed job is
    read from there. Anything but "in" is accepted by concession: each of `verdict["concessions"]` by its own reason in
    `reasons`, else by the one for all. Raises NotAllowed, JobClosed, ShownOtherwise, NoReason.
    """
    if not can_sign_verdict(user):
        raise NotAllowed
    lock_open(job)
    digest, verdict, record = judge()
    if digest != shown:
        raise ShownOtherwise
    conceded = _with_reasons(verdict, reasons or {}, reason.strip())
    return SignOff.objects.create(
        job=job, by=user, verdict={**verdict, "digest": digest, "reason": reason.strip(), "concessions": conceded},
        record=json.loads(record), calculations=CALCULATIONS,
    )  # fmt: skip


def _with_reasons(verdict: Mapping[str, Any], reasons: Mapping[str, str], for_all: str) -> list[dict[str, Any]]:
    """What is accepted, each limit with why."""
    if verdict["word"] == "in":
        return []
    limits = verdict.get("concessions", [])
    conceded = [{**one, "reason": reasons.get(one["key"], "") or for_all} for one in limits]
    bare = next((one for one in conceded if not one["reason"]), None)
    if bare is not None or not (conceded or for_all):
        raise NoReason(bare["key"] if bare else "")
    return conceded


@transaction.atomic
def reopen_signed(*, user: User, job: Job, signed: int, reason: str) -> PastSignOff:
    """Take a signature back, as a lead, with the reason: both are kept, and the job is open again.

    `signed` is the signature that was shown. Raises NotAllowed, NoReason, ShownOtherwise.
    """
    if not can_sign_verdict(user):
        raise NotAllowed
    if not reason.strip():
        raise NoReason
    Job.objects.select_for_update(of=("self",)).get(pk=job.pk)
    signoff = SignOff.objects.filter(job=job, pk=signed).first()
    if signoff is None:
        raise ShownOtherwise
    past = PastSignOff.objects.create(
        job=job, by=signoff.by, at=signoff.at, verdict=signoff.verdict, record=signoff.record,
        calculations=signoff.calculations, reopened_by=user, reason=reason.strip(),
    )  # fmt: skip
    signoff.delete()
    said = f"{signoff.verdict.get('word', '')}, by {signoff.by.username}"
    history.record(job=job, user=user, of="", before={"signed": said}, after={"signed": f"reopened: {past.reason}"})
    return past
