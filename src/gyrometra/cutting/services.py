"""Logging the cuts: what a tap means is decided under the job's lock, from the log as it is then."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from typing import Any
from uuid import UUID, uuid5

from django.db import transaction

from gyrometra.cutting.models import CutEntry
from gyrometra.cutting.record import planned_values
from gyrometra.jobs.entries import NotTheLast, Sent, stored_before
from gyrometra.jobs.models import Bore
from gyrometra.jobs.permissions import lock_open
from gyroplan import Gauge
from gyroplan.loop import Act, BoreWork, Cut, Planned, Set, Size, Touched, TouchOff, Zero, entry_for, plan_entry

#: The plan with its log, None where there is none; and the plan as the log knows it last.
Plan = tuple[BoreWork | None, Planned | None]


class NothingPlanned(Exception):
    """There is no plan for this bore to log against."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Header:
    """What every entry carries: who sent it and when, and for which bore of which piece."""

    sent: Sent
    bore: Bore
    piece: int = 1


_KINDS = {
    Set: CutEntry.Kind.SET, Cut: CutEntry.Kind.CUT, Size: CutEntry.Kind.SIZE, Touched: CutEntry.Kind.TOUCHED,
    TouchOff: CutEntry.Kind.TOUCH_OFF, Zero: CutEntry.Kind.ZERO,
}  # fmt: skip


@transaction.atomic
def log_act(
    *, header: Header, act: Act, planned: Callable[[], Plan], values: Mapping[str, Any] | None = None
) -> CutEntry:
    """Append what an act becomes as things stand; one sent twice is stored once.

    `planned` reads the bore's plan and log anew, under the lock. Raises Refused where the act does not fit, JobClosed
    after the signature, NothingPlanned without a plan.
    """
    lock_open(header.bore.setup.job)
    known = stored_before(CutEntry, header.sent)
    if known is not None:
        return known
    work, planned_last = planned()
    if work is None:
        raise NothingPlanned
    entry = entry_for(_with_gauge(work, act), act)
    plan = plan_entry(work, planned_last)
    if plan is not None:
        own = uuid5(header.sent.client_id, "plan")
        _append(header, CutEntry.Kind.PLAN, client_id=own, rests_on=planned_values(plan))
    return _append(header, _KINDS[type(entry)], client_id=header.sent.client_id, **_columns(entry), **(values or {}))


def _with_gauge(work: BoreWork, act: Act) -> BoreWork:
    """A gauge that measures here for the first time is not in the log yet; its card is checked by the form."""
    if not isinstance(act, Size) or act.gauge in [gauge.name for gauge in work.gauges]:
        return work
    return replace(work, gauges=[*work.gauges, Gauge(name=act.gauge, resolution_mm=0.001)])


def _append(header: Header, kind: str, *, client_id: UUID, **values: Any) -> CutEntry:
    return CutEntry.objects.create(
        setup=header.bore.setup, bore=header.bore, piece=header.piece, kind=kind,
        **{**header.sent.columns, "client_id": client_id, **values},
    )  # fmt: skip


def _columns(entry: Act) -> dict[str, Any]:
    """The columns that an entry of the loop fills."""
    if isinstance(entry, Set):
        return {"number": entry.number, "actual": None if entry.actual is None else round(entry.actual, 12)}
    if isinstance(entry, Cut):
        return {"number": entry.number, "through": entry.through}
    if isinstance(entry, (TouchOff, Zero)):
        return {"at_division": entry.at_division}
    if isinstance(entry, Size):
        return {"part_temp_c": entry.part_temp_c, "gauge_temp_c": entry.instrument_temp_c, "temp_u_c": entry.temp_u_c}
    return {}


@transaction.atomic
def log_note(*, header: Header, kind: str, **values: Any) -> CutEntry:
    """Append guard steps or a remark: nothing of the loop follows from them."""
    lock_open(header.bore.setup.job)
    known = stored_before(CutEntry, header.sent)
    if known is not None:
        return known
    of_bore = None if kind == CutEntry.Kind.GUARD else header.bore
    return CutEntry.objects.create(
        setup=header.bore.setup, bore=of_bore, piece=header.piece, kind=kind, **{**header.sent.columns, **values},
    )  # fmt: skip


#: What an undo can take back.
ACTS = (
    CutEntry.Kind.SET, CutEntry.Kind.CUT, CutEntry.Kind.SIZE, CutEntry.Kind.TOUCHED, CutEntry.Kind.TOUCH_OFF,
    CutEntry.Kind.ZERO,
)  # fmt: skip
_SAME = (
    "kind", "piece", "number", "value_mm", "actual", "change_mm", "divisions", "setting_mm", "through", "at_division",
    "part_temp_c", "gauge_temp_c", "temp_u_c", "rests_on", "pass_kind", "rpm", "gauge", "text",
)  # fmt: skip


@transaction.atomic
def take_back(*, sent: Sent, bore: Bore, undo: UUID | None, piece: int = 1) -> CutEntry:
    """Withdraw the bore's last standing act, the one named; it stays in the log, crossed out. Raises NotTheLast."""
    lock_open(bore.setup.job)
    known = stored_before(CutEntry, sent)
    if known is not None:
        return known
    last = CutEntry.objects.standing().filter(bore=bore, piece=piece, kind__in=ACTS).order_by("-pk").first()
    if last is None or last.client_id != undo:
        raise NotTheLast
    return CutEntry.objects.create(
        setup=bore.setup, bore=bore, supersedes=last, withdrawn=True,
        **{**sent.columns, **{name: getattr(last, name) for name in _SAME}},
    )  # fmt: skip
