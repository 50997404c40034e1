"""A face set true by its own swing: how it leans, and what is put under which support to level it."""

from __future__ import annotations

from dataclasses import dataclass
from math import atan2, cos, degrees, hypot, radians, sin

from gyrocore import InvalidInput, Pivot, SupportPoint, support_moves
from gyroplan.assess.standing import Assessment
from gyroplan.record import SetUpRecord


@dataclass(frozen=True, slots=True, kw_only=True)
class Lift:
    """What one support does, negative is lowered; the screw's turns where its pitch is known [mm]."""

    name: str
    lift_mm: float
    turns: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class FaceLevel:
    """A face as it was swept: its swing, its lean, the lifts that level it."""

    swing_mm: float
    #: How much it rises over its own lean, and toward which angle.
    tilt_mm_m: float
    high_deg: float
    limit_mm: float
    lifts: tuple[Lift, ...]
    read_mm: float
    supports_mm: float
    #: Whether it leans no more than is allowed; its own form is left out.
    within: bool


def is_by_face(job: Assessment) -> bool:
    """Whether the work is set true to a face."""
    return job.record.setup.reference == "face"


def level_of(job: Assessment, piece: int) -> FaceLevel | None:
    """Return how the swept face leans and what levels it; None without a standing round, or its two circles.

    A reading rises where the face stands nearer. Its first harmonic a cos t + b sin t, read on a circle of diameter D,
    is a plane that rises 2000 a / D and 2000 b / D toward 0 and 90 degrees [mm/m] (derived here: a plane cut by a
    circle); what is left of the swing is the face's own form, which no support cures.
    """
    setup = job.record.setup
    standing = job.truing(piece, setup.bores[0].place).standing
    read, supports = setup.plan.face_read_mm, setup.plan.supports_mm
    if not is_by_face(job) or standing is None or standing.figures is None or read is None or supports is None:
        return None
    a, b = standing.figures.offset
    tilt = (2000 * a / read, 2000 * b / read)
    lifts = lifts_of(setup, tilt)
    if not lifts:
        return None
    return FaceLevel(
        swing_mm=max(standing.total_mm or 0.0, standing.swing_mm or 0.0), tilt_mm_m=hypot(*tilt),
        high_deg=degrees(atan2(tilt[1], tilt[0])) % 360, limit_mm=setup.tightest_runout_mm, lifts=lifts, read_mm=read,
        supports_mm=supports, within=standing.within,
    )  # fmt: skip


def lifts_of(setup: SetUpRecord, tilt_mm_m: tuple[float, float]) -> tuple[Lift, ...]:
    """Return what each support does to level a base that rises so much toward 0 and 90 degrees.

    Shims and packing only add: the lowest stays. Over a pivot in the middle of the supports one screw is lowered as
    much as the opposite one is raised. Empty where the circle of the supports is not known.
    """
    supports = setup.plan.supports_mm
    if supports is None:
        return ()
    points = [
        SupportPoint(name=name, x_mm=supports / 2 * cos(radians(at)), y_mm=supports / 2 * sin(radians(at)))
        for name, at in setup.way.places_deg.items()
    ]  # fmt: skip
    pivot = Pivot(x_mm=0.0, y_mm=0.0) if setup.plan.level_about == "pivot" else None
    try:
        found = support_moves(
            points=points, tilt_x_mm_m=tilt_mm_m[0], tilt_y_mm_m=tilt_mm_m[1], about=setup.plan.level_about,
            pivot=pivot, screw_pitch_mm=setup.machine.screw_pitch_mm,
        )  # fmt: skip
    except InvalidInput:
        return ()
    return tuple(Lift(name=one.name, lift_mm=one.lift_mm, turns=one.turns) for one in found.moves)
