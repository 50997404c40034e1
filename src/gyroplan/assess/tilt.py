"""The lean of the axis: from two planes that were swept, or from runs along the wall; and what takes it out."""

from __future__ import annotations

from dataclasses import dataclass
from math import atan2, cos, degrees, hypot, radians, sin

from gyrocore import AxisLine, InvalidInput, Plane, axis_line
from gyrocore.checks import TOLERANCE
from gyroplan.assess.level import Lift, lifts_of
from gyroplan.assess.standing import Assessment
from gyroplan.assess.truing import RoundStanding


@dataclass(frozen=True, slots=True, kw_only=True)
class Tilt:
    """The axis through the planes that hold [mm]: its lean over the bore, and the order of the moves.

    The work is centred in the plane nearest to what holds it (`at`), by the jaws; then it is moved at the other plane
    (`tap`), which tilts it about the first.
    """

    line: AxisLine
    at: RoundStanding
    tap: RoundStanding
    over_mm: float
    lean_mm: float
    #: The way it leans as it goes in, and what the outer plane is moved by once the inner one is centred, and whither.
    lean_deg: float
    tap_mm: float
    tap_deg: float
    within: bool


def tilt_of(job: Assessment, piece: int, place: int) -> Tilt | None:
    """Return the lean from the planes that hold; None with fewer than two.

    Notes
    -----
    Jaws hold the work at its inner end: moving them shifts it whole, so that the plane nearest to them comes true and
    the other keeps the difference, off(outer) - off(inner). A tap at the outer plane takes that out. With three planes
    or more both are taken from the least-squares line. In two steadies each plane is moved by its own offset. True
    enough is each plane within half the run-out limit.

    References
    ----------
    `gyrocore.axis_line`; the two steps derived here from its moves.
    """
    planes = job.truing(piece, place).planes
    if len(planes) < 2:
        return None
    outer, inner = planes[0], planes[-1]
    depths = (outer.round.plane_mm or 0.0, inner.round.plane_mm or 0.0)
    try:
        line = axis_line(
            planes=[Plane(z_mm=one.round.plane_mm or 0.0, offset_x_mm=_off(one)[0], offset_y_mm=_off(one)[1])
                    for one in planes],
            adjust_z_mm=(depths[1], depths[0]), report_z_mm=(0.0, job.record.bore_at(place).length_mm),
        )  # fmt: skip
    except InvalidInput:
        return None
    by_jaws, by_tap = line.moves
    # two steadies: each moves its own plane about the other, so that nothing of the first move is left at the second
    went = (0.0, 0.0) if job.record.setup.way.each_end else (by_jaws.move_x_mm, by_jaws.move_y_mm)
    tap = (by_tap.move_x_mm - went[0], by_tap.move_y_mm - went[1])
    length = job.record.bore_at(place).length_mm
    return Tilt(
        line=line, at=inner, tap=outer, over_mm=length, lean_mm=line.tilt_mm_m * length / 1000,
        lean_deg=line.tilt_angle_deg, tap_mm=hypot(*tap), tap_deg=degrees(atan2(tap[1], tap[0])) % 360,
        within=job.truing(piece, place).within,
    )  # fmt: skip


def _off(one: RoundStanding) -> tuple[float, float]:
    return one.figures.offset if one.figures is not None else (0.0, 0.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class WallLean:
    """What the walls tell [mm]: the lean over the bore and whither, the taper on Ø, what levels or moves the work."""

    standing: RoundStanding
    over_mm: float
    lean_mm: float
    lean_deg: float | None
    taper_mm: float
    limit_mm: float
    #: Whether only the diameter through the walls was seen.
    one_way: bool
    #: What goes under each support; empty where the circle of the supports is not known.
    lifts: tuple[Lift, ...]
    #: What each wall reads from its first depth to its last once the lean is out: the taper alone, on radius.
    then_mm: float
    #: What the centre of the open face moves by, the way it leans, as the lean is taken out; None while the pivot's
    #: place is not known.
    carried_mm: float | None = None

    @property
    def within(self) -> bool:
        """Whether it leans no more over the bore than its run-out limit."""
        return self.standing.within


def wall_lean_of(job: Assessment, piece: int, place: int) -> WallLean | None:
    """Return the lean of the walls that were run along; None without such a round, or where they cannot tell.

    Notes
    -----
    An axis that leans toward an angle as it goes in stands on a base that rises toward that angle by as much: the
    supports are moved as for a face of that slope. Held in jaws, the open end moves the same way by the lean.

    References
    ----------
    `gyrocore.wall_runs`, `gyrocore.support_moves`; the base square to the axis, derived here.
    """
    standing = job.truing(piece, place).walls
    if standing is None or standing.runs is None or standing.tilt_mm is None or standing.runs.wall_slope_mm_m is None:
        return None
    depths, runs = standing.round.depths_mm, standing.runs
    run = max(depths) - min(depths)
    grows = standing.runs.wall_slope_mm_m
    sign = -1.0 if standing.round.swept_as == "inside" else 1.0
    return WallLean(
        standing=standing, over_mm=standing.length_mm, lean_mm=standing.tilt_mm, lean_deg=standing.tilt_angle_deg,
        taper_mm=2 * grows * standing.length_mm / 1000, limit_mm=standing.limit_mm,
        one_way=runs.tilt_along_mm_m is not None, lifts=_lifts(job, standing),
        then_mm=sign * grows * run / 1000, carried_mm=_carried(job, standing),
    )  # fmt: skip


def _carried(job: Assessment, standing: RoundStanding) -> float | None:
    """The pivot stands still: a plane so far before it moves by its distance times the slope."""
    pivot = job.record.setup.plan.pivot_mm
    if pivot is None or standing.tilt_mm is None or standing.length_mm <= TOLERANCE:
        return None
    return pivot * standing.tilt_mm / standing.length_mm


def _lifts(job: Assessment, standing: RoundStanding) -> tuple[Lift, ...]:
    if standing.tilt_mm is None or standing.length_mm <= TOLERANCE:
        return ()
    angle, tilt = radians(standing.tilt_angle_deg or 0.0), 1000 * standing.tilt_mm / standing.length_mm
    return lifts_of(job.record.setup, (tilt * cos(angle), tilt * sin(angle)))
