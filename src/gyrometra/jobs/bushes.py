"""Bushes and shafts that are made to suit a bore: what is asked of one, and the job that makes it."""

from __future__ import annotations

from collections.abc import Mapping
from decimal import Decimal
from math import ceil, floor
from typing import Any

from django.db import transaction

from gyrocore import Limits
from gyrometra.accounts.models import User
from gyrometra.bridge.units import Typed, to_decimal
from gyrometra.crib.models import Machine
from gyrometra.jobs.models import Bore, Bush, Feature, Job, OutsideStep, SetUp
from gyrometra.jobs.permissions import lock_open
from gyrometra.jobs.services import FoundOf, Row, StillNeeded, WorkData, create_job

#: What the outside of a bush is called in its own job, where it is read and judged.
OUTSIDE = "Outside"
#: A shaft whose blank is not known is turned from so much more, on diameter (chosen here).
BLANK_OVER_MM = Decimal(4)
#: How far the bore of a bush may lie off before it is finished in place, either way (chosen here: it is bored again).
TURNED_WITHIN_MM = 0.05


def bush_for(bore: Bore, piece: int) -> Bush | None:
    """The bush that is asked for of a bore of one piece."""
    return Bush.objects.select_related("material", "job").filter(seat=bore, piece=piece).first()


@transaction.atomic
def keep_bush(
    *, user: User, seat: Bore, piece: int, values: Mapping[str, Any], finish: Limits | None,
    typed: Mapping[str, Typed],
) -> Bush:  # fmt: skip
    """Store what is asked of a bush; the last word stands."""
    bush, _ = Bush.objects.select_for_update().get_or_create(
        seat=seat, piece=piece, defaults={**values, **_finish(finish), "typed": dict(typed), "changed_by": user}
    )
    for name, value in {**values, **_finish(finish)}.items():
        setattr(bush, name, value)
    bush.typed, bush.changed_by = dict(typed), user
    bush.save()
    return bush


def _finish(finish: Limits | None) -> dict[str, Decimal | None]:
    if finish is None:
        return {"finish_lower_mm": None, "finish_upper_mm": None}
    return {"finish_lower_mm": to_decimal(finish.lower_mm), "finish_upper_mm": to_decimal(finish.upper_mm)}


@transaction.atomic
def make_job(
    *, user: User, bush: Bush, number: str, lower_mm: float, upper_mm: float, turned_mm: float | None, unit: str
) -> Job:  # fmt: skip
    """Make the job of a bush: its bore as it is turned before pressing, its outside at the middle of its limits.

    Of a solid shaft, `turned_mm` None: its outside alone, the blank set true.
    """
    locked = Bush.objects.select_for_update(of=("self",)).select_related("seat__setup__job").get(pk=bush.pk)
    if locked.job is not None:
        raise StillNeeded(f"Its job is {locked.job.number} already.")
    machine = Machine.objects.filter(kind=Machine.Kind.LATHE, retired=False).order_by("name").first()
    if machine is None:
        raise StillNeeded("The crib has no lathe to turn it on: add one.")
    aim = to_decimal((lower_mm + upper_mm) / 2)
    found = []
    if turned_mm is None:
        blank = locked.blank_outside_mm or aim + BLANK_OVER_MM
        limits = Limits(None, float(blank), float(blank), 0.0, float(blank), ())
        found = [Row(first_mm=Decimal(0), second_mm=blank, typed={})]
        wanted = ""
    else:
        limits = Limits(None, turned_mm - TURNED_WITHIN_MM, turned_mm + TURNED_WITHIN_MM, 2 * TURNED_WITHIN_MM,
                        turned_mm, ())  # fmt: skip
        wanted = f"{turned_mm - TURNED_WITHIN_MM:.3f}-{turned_mm + TURNED_WITHIN_MM:.3f}"
    if locked.blank_inside_mm and turned_mm is not None:
        found = [Row(first_mm=Decimal(0), second_mm=locked.blank_inside_mm, typed={})]
    part = f"{locked.seat.setup.job.part}, {locked.kind}"
    made = create_job(user=user, unit=unit, work=WorkData(
        number=number, part=part[:80], only_trued=turned_mm is None, material=locked.material, quantity=1,
        due_on=locked.seat.setup.job.due_on,
        notes="", machine=machine, method="lathe-bar", holding="", reference=SetUp.Reference.OUTSIDE,
        room_behind_mm=None, coaxiality_mm=None, match_mm=None, fixtures=[], name="bore", start_mm=Decimal(0),
        length_mm=locked.length_mm + (locked.flange_mm or 0), ends=Bore.Ends.THROUGH,
        depth_wanted="", depth=None, mate_mm=None, play_mm=None,
        wanted=wanted, limits=limits, target="",
        target_limits=None, matters=Bore.Matters.LITTLE, breaks=[], runout_limit_mm=to_decimal(upper_mm - lower_mm),
        roundness_limit_mm=None, taper_limit_mm=None, found=found, found_of=FoundOf(),
        there=[], outside=[*_flange(locked), Row(first_mm=locked.length_mm, second_mm=aim, typed={})], typed={},
    ))  # fmt: skip
    Feature.objects.create(
        setup=made.setup,
        place=1,
        name=OUTSIDE,
        kind=Feature.Kind.OUTSIDE,
        length_mm=locked.length_mm,
        z_mm=locked.flange_mm or 0,
        **_outside(lower_mm, upper_mm),
        stock_mm=locked.blank_outside_mm - aim if locked.blank_outside_mm and locked.blank_outside_mm > aim else None,
    )
    take_over(bush=locked, lower_mm=lower_mm, upper_mm=upper_mm, job=made)
    return made


def _flange(bush: Bush) -> list[Row]:
    """The step of the outside that stays outside the seat, at the open face."""
    if bush.flange_mm is None or bush.flange_diameter_mm is None:
        return []
    return [Row(first_mm=bush.flange_mm, second_mm=bush.flange_diameter_mm, typed={})]


def _outside(lower_mm: float, upper_mm: float) -> dict[str, Any]:
    """The limits of its outside, rounded inward to a tenth of a micron, as they are written and as they are judged."""
    lower, upper = ceil(lower_mm * 1e4 - 1e-6) / 1e4, floor(upper_mm * 1e4 + 1e-6) / 1e4
    return {"wanted": f"{lower:.4f}-{upper:.4f}", "lower_mm": to_decimal(lower), "upper_mm": to_decimal(upper)}


@transaction.atomic
def take_over(*, bush: Bush, lower_mm: float, upper_mm: float, job: Job | None = None) -> None:
    """The limits of its outside as they are now, of the seat as it is measured; its job's outside becomes their middle.

    Refused where its job is signed or closed: it was made to what was said then.
    """
    if bush.job is not None:
        lock_open(bush.job)
        aim = to_decimal((lower_mm + upper_mm) / 2)
        seat_step = OutsideStep.objects.filter(bore__setup__job=bush.job, place=len(_flange(bush)))
        seat_step.update(diameter_mm=aim, typed={})
        Feature.objects.filter(setup__job=bush.job, name=OUTSIDE, kind=Feature.Kind.OUTSIDE).update(
            **_outside(lower_mm, upper_mm), typed={}
        )
    bush.lower_mm, bush.upper_mm = to_decimal(lower_mm), to_decimal(upper_mm)
    bush.now_lower_mm, bush.now_upper_mm = bush.lower_mm, bush.upper_mm
    if job is not None:
        bush.job = job
    bush.save(update_fields=["lower_mm", "upper_mm", "now_lower_mm", "now_upper_mm", "job"])


def keep_now(*, bush: Bush, limits: tuple[float, float] | None) -> None:
    """The limits of its outside by the seat as it is measured now; None where it cannot be made to suit any more."""
    now = (None, None) if limits is None else (to_decimal(limits[0]), to_decimal(limits[1]))
    if now != (bush.now_lower_mm, bush.now_upper_mm):
        bush.now_lower_mm, bush.now_upper_mm = now
        bush.save(update_fields=["now_lower_mm", "now_upper_mm"])


def made_for(job: Job) -> list[Bush]:
    """What is made to suit the bores of a job, each with its own job."""
    rows = Bush.objects.select_related("seat__setup", "material", "job")
    return list(rows.filter(seat__setup__job=job, job__isnull=False))
