"""Writing jobs and plans. Every change names its author and the version it was made on."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import asdict, dataclass
from datetime import date, datetime
from decimal import Decimal
from typing import Any
from uuid import UUID

from django.db import transaction
from django.utils import timezone

from gyrocore import Limits
from gyrometra.accounts.models import User
from gyrometra.bridge.units import Typed, to_decimal
from gyrometra.crib.models import Fixture, Machine, Material
from gyrometra.jobs import history
from gyrometra.jobs.models import (
    Bore,
    Feature,
    FoundSize,
    Interruption,
    Job,
    KeptAnswer,
    OnlyThere,
    OutsideStep,
    Plan,
    SetUp,
)
from gyrometra.jobs.permissions import (
    ChangedMeanwhile,
    lock_open,
    require_held,
    require_open,
    require_still_open,
)
from gyroplan.plan import plan_defaults


class NotLead(Exception):
    """Only a lead does that."""


class StillNeeded(Exception):
    """What was to be taken away is still needed."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Row:
    """Two lengths of a list: a depth and its size, or a step's length and diameter."""

    first_mm: Decimal
    second_mm: Decimal
    typed: Mapping[str, Typed]
    #: Of a size found: in which direction, where it was said.
    angle_deg: Decimal | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Break:
    """Keyways, ports and slots in the bore, and where."""

    kind: str
    from_mm: Decimal
    to_mm: Decimal
    width_mm: Decimal
    angle_deg: Decimal
    typed: Mapping[str, Typed]


@dataclass(frozen=True, slots=True, kw_only=True)
class There:
    """Another hole on the axis that is not cut, and where."""

    name: str
    from_mm: Decimal
    to_mm: Decimal
    diameter_mm: Decimal
    typed: Mapping[str, Typed]


@dataclass(frozen=True, slots=True, kw_only=True)
class FoundOf:
    """Whose sizes found are given: of all pieces alike, of one alone, or of that one no more."""

    piece: int | None = None
    no_more: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class WorkData:
    """What the Work page gives, read and guarded."""

    number: str
    part: str
    material: Material
    quantity: int
    due_on: date | None
    notes: str
    machine: Machine
    method: str
    holding: str
    reference: str
    room_behind_mm: Decimal | None
    coaxiality_mm: Decimal | None
    match_mm: Decimal | None
    fixtures: Sequence[Fixture]
    name: str
    start_mm: Decimal
    length_mm: Decimal
    ends: str
    depth_wanted: str
    depth: Limits | None
    mate_mm: Decimal | None
    play_mm: tuple[Decimal, Decimal] | None
    wanted: str
    limits: Limits
    target: str
    target_limits: Limits | None
    matters: str
    breaks: Sequence[Break]
    runout_limit_mm: Decimal
    roundness_limit_mm: Decimal | None
    taper_limit_mm: Decimal | None
    found: Sequence[Row]
    found_of: FoundOf
    outside: Sequence[Row]
    there: Sequence[There]
    typed: Mapping[str, Typed]
    only_trued: bool = False
    #: The outside of another job that the mating part is.
    mate_feature: Feature | None = None


@transaction.atomic
def create_job(*, user: User, work: WorkData, unit: str = "mm") -> Job:
    """Make a job with its set-up, bore and a plan that begins with figures for a bore of this size."""
    job = Job(number=work.number, made_by=user)
    _write_job(job, user, work)
    setup = SetUp(job=job)
    _write_setup(setup, work)
    _write_bore(Bore(setup=setup), work)
    begin_plan(setup, float(work.limits.upper_mm), unit)
    take_in_hand(job, setup)
    return job


def begin_plan(setup: SetUp, bore_mm: float, unit: str) -> None:
    """A plan that begins with figures for a bore of this size."""
    begins = asdict(plan_defaults(bore_mm, unit))
    Plan.objects.create(setup=setup, **{name: to_decimal(value) for name, value in begins.items()})


def take_in_hand(job: Job, setup: SetUp) -> None:
    """What the bench shows, and a job's pages unless they ask for another one."""
    job.setup = setup
    Job.objects.filter(pk=job.pk).update(setup=setup)


@transaction.atomic
def change_work(*, user: User, bore: Bore, version: int, work: WorkData) -> Job:
    """Change what is to be bored; refused where another changed it since `version`."""
    locked = lock_job(job=bore.setup.job, version=version)
    setup, own = SetUp.objects.get(pk=bore.setup_id), Bore.objects.get(pk=bore.pk)
    was_setup, was_bore = history.work_values(setup, own)
    _write_job(locked, user, work)
    _write_setup(setup, work)
    _write_bore(own, work)
    now_setup, now_bore = history.work_values(setup, own)
    history.record(job=locked, user=user, of="", before=was_setup, after=now_setup)
    history.record(job=locked, user=user, of=own.name, before=was_bore, after=now_bore)
    return locked


@transaction.atomic
def add_bore(*, user: User, like: Bore, version: int, name: str, start_mm: Decimal, typed: Mapping[str, Typed]) -> Bore:
    """Add a bore in line that is like another but for its place, and is not measured yet."""
    locked = lock_job(job=like.setup.job, version=version)
    last = Bore.objects.filter(setup=like.setup).order_by("-place")[0]
    bore = Bore.objects.get(pk=like.pk)
    kept = {key: entry for key, entry in bore.typed.items() if key.endswith("_limit_mm") or key == "length_mm"}
    bore.pk, bore._state.adding = None, True
    bore.name, bore.start_mm, bore.place = name, start_mm, last.place + 1
    bore.typed = {**kept, **typed}
    bore.save()
    stamp(locked, user)
    return bore


@transaction.atomic
def remove_bore(*, user: User, bore: Bore, version: int) -> None:
    """Take a bore out of the line; refused for the only one, and once anything of it is logged."""
    locked = lock_job(job=bore.setup.job, version=version)
    if not Bore.objects.filter(setup=bore.setup).exclude(pk=bore.pk).exists():
        raise StillNeeded("A job keeps one bore at least.")
    if bore.cuts.exists() or bore.sizes.exists() or bore.rounds.exists() or bore.shoulder_depths.exists():
        raise StillNeeded(f"{bore.name} has entries in its logs: they must stay, and so must it.")
    bore.delete()
    stamp(locked, user)


def hold(**of: Any) -> Job:
    """The job of a number or a key, with all that its pages need, held until the transaction ends; or DoesNotExist.

    What follows from what is read now is decided on what is there, whoever else is at it.
    """
    held: Job = Job.objects.whole().select_for_update(of=("self",)).get(**of)
    return held


def change_plan(
    *, user: User, job: Job, version: int, values: Mapping[str, Any], typed: Mapping[str, Typed],
    keep: Callable[[Job], None],
) -> None:  # fmt: skip
    """Change figures of the plan of a job that is held, on `job` itself too.

    Refused where another changed it since `version`, and after the signature. `keep` writes on the job what follows
    from the plan, before it is stored with its new version.
    """
    require_held(job)
    require_still_open(job)
    if job.version != version:
        raise ChangedMeanwhile(job)
    plan = job.setup.plan
    before = history.values_of(plan)
    for name, value in values.items():
        setattr(plan, name, value)
    kept = {name: entry for name, entry in plan.typed.items() if name not in values}
    plan.typed = {**kept, **typed}
    plan.save(update_fields=[*values, "typed"])
    history.record(job=job, user=user, of="", before=before, after=history.values_of(plan))
    keep(job)
    stamp(job, user)


@transaction.atomic
def keep_answer(
    *, user: User, job: Job, client_id: UUID, line: str, title: str, typed: Mapping[str, str], answer: str
) -> KeptAnswer:
    """Keep a bench line's answer with an open job; one sent twice is kept once."""
    lock_open(job)
    kept, _ = KeptAnswer.objects.get_or_create(
        client_id=client_id,
        defaults={"job": job, "line": line, "title": title, "typed": dict(typed), "answer": answer, "by": user},
    )
    return kept


@transaction.atomic
def drop_answer(*, user: User, job: Job, kept: KeptAnswer, client_id: UUID) -> None:
    """Take a kept answer back; it stays in the log, crossed out."""
    lock_open(job)
    if KeptAnswer.objects.filter(supersedes=kept).exists():
        return
    KeptAnswer.objects.create(
        job=job, line=kept.line, title=kept.title, typed=kept.typed, answer=kept.answer, by=user,
        client_id=client_id, supersedes=kept, withdrawn=True,
    )  # fmt: skip


@transaction.atomic
def close_job(*, user: User, job: Job, version: int, reason: str) -> None:
    """Give a job up, with the reason; nothing of it is lost, and it can be reopened."""
    locked = lock_job(job=job, version=version)
    _close(locked, user, reason.strip(), timezone.now())


@transaction.atomic
def reopen_job(*, user: User, job: Job, version: int) -> None:
    """Take a job up again that was closed, as a lead; a signed one stays signed."""
    if not user.is_lead:
        raise NotLead("Only a lead takes a closed job up again.")
    locked: Job = Job.objects.select_for_update(of=("self",)).select_related("changed_by").get(pk=job.pk)
    if locked.version != version:
        raise ChangedMeanwhile(locked)
    _close(locked, user, "", None)


def _close(job: Job, user: User, reason: str, at: datetime | None) -> None:
    history.record(job=job, user=user, of="", before={"closed": job.closed_reason}, after={"closed": reason})
    job.closed_reason, job.closed_by, job.closed_at = reason, user if reason else None, at
    stamp(job, user)


def lock_job(*, job: Job, version: int) -> Job:
    """The job, locked for this change; refuses a signed one and a stale version."""
    locked: Job = Job.objects.select_for_update(of=("self",)).select_related("changed_by").get(pk=job.pk)
    require_open(locked)
    if locked.version != version:
        raise ChangedMeanwhile(locked)
    return locked


#: All but which set-up is in hand: a page may look at another one meanwhile.
_COLUMNS = (
    "number", "part", "material", "quantity", "due_on", "notes", "version", "changed_by", "changed_at", "closed_reason",
    "closed_by", "closed_at", "stations", "piece_summaries", "setup_summaries", "stale",
)  # fmt: skip


def stamp(job: Job, user: User) -> None:
    """A new version of the job, by whom."""
    job.version += 1
    job.changed_by = user
    job.save(update_fields=_COLUMNS)


def _write_job(job: Job, user: User, work: WorkData) -> None:
    job.number, job.part, job.material = work.number, work.part, work.material
    job.quantity, job.due_on, job.notes = work.quantity, work.due_on, work.notes
    if job.pk is None:
        job.changed_by = user
        job.save()
    else:
        stamp(job, user)


def _write_setup(setup: SetUp, work: WorkData) -> None:
    setup.machine, setup.method, setup.reference = work.machine, work.method, work.reference
    setup.holding, setup.only_trued = work.holding, work.only_trued
    setup.room_behind_mm, setup.coaxiality_mm = work.room_behind_mm, work.coaxiality_mm
    setup.match_mm = work.match_mm
    kept = ("room_behind_mm", "coaxiality_mm", "match_mm")
    setup.typed = {name: work.typed[name] for name in kept if name in work.typed}
    setup.save()
    setup.fixtures.set(work.fixtures)


def _write_bore(bore: Bore, work: WorkData) -> None:
    limits = work.limits
    bore.name, bore.start_mm = work.name, work.start_mm
    bore.ends, bore.depth_wanted = work.ends, work.depth_wanted
    bore.depth_lower_mm = to_decimal(work.depth.lower_mm) if work.depth else None
    bore.depth_upper_mm = to_decimal(work.depth.upper_mm) if work.depth else None
    bore.length_mm, bore.wanted = work.length_mm, work.wanted
    bore.mate_mm, bore.mate_feature = work.mate_mm, work.mate_feature
    bore.play_least_mm, bore.play_most_mm = work.play_mm or (None, None)
    bore.nominal_mm = None if limits.nominal_mm is None else to_decimal(limits.nominal_mm)
    bore.lower_mm, bore.upper_mm = to_decimal(limits.lower_mm), to_decimal(limits.upper_mm)
    target = work.target_limits
    bore.target, bore.matters = work.target, work.matters
    bore.target_lower_mm = to_decimal(target.lower_mm) if target else None
    bore.target_upper_mm = to_decimal(target.upper_mm) if target else None
    bore.runout_limit_mm = work.runout_limit_mm
    bore.roundness_limit_mm, bore.taper_limit_mm = work.roundness_limit_mm, work.taper_limit_mm
    bore.typed = dict(work.typed)
    bore.save()
    _write_found(bore, work)
    bore.outside.all().delete()
    OutsideStep.objects.bulk_create(
        OutsideStep(bore=bore, place=place, length_mm=row.first_mm, diameter_mm=row.second_mm, typed=dict(row.typed))
        for place, row in enumerate(work.outside)
    )
    bore.there.all().delete()
    OnlyThere.objects.bulk_create(
        OnlyThere(bore=bore, place=place, name=one.name, from_mm=one.from_mm, to_mm=one.to_mm,
                  diameter_mm=one.diameter_mm, typed=dict(one.typed))
        for place, one in enumerate(work.there)
    )  # fmt: skip
    bore.interruptions.all().delete()
    Interruption.objects.bulk_create(
        Interruption(bore=bore, place=place, kind=one.kind, from_mm=one.from_mm, to_mm=one.to_mm,
                     width_mm=one.width_mm, angle_deg=one.angle_deg, typed=dict(one.typed))
        for place, one in enumerate(work.breaks)
    )  # fmt: skip


def _write_found(bore: Bore, work: WorkData) -> None:
    """The sizes found, of all pieces alike or of one alone."""
    of = work.found_of
    bore.found.filter(piece=of.piece).delete()
    if not of.no_more:
        FoundSize.objects.bulk_create(
            FoundSize(
                bore=bore, piece=of.piece, z_mm=row.first_mm, diameter_mm=row.second_mm, angle_deg=row.angle_deg,
                typed=dict(row.typed),
            ) for row in work.found
        )  # fmt: skip
