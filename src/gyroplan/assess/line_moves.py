"""A line bar brought on to its housings: what each bearing is moved by, from the sweeps of the two end bores."""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot

from gyrocore import InvalidInput, SweptHousing, line_bar_moves
from gyroplan.assess.lines import response_of
from gyroplan.assess.standing import Assessment
from gyroplan.record import BoreRecord


@dataclass(frozen=True, slots=True, kw_only=True)
class SweptBore:
    """A bore as it was swept from the bar: its centre up and to the right, what is struck off, where it truly lies."""

    name: str
    z_mm: float
    up_mm: float
    right_mm: float
    #: How far the bar hangs low there, and the tip of the indicator's arm.
    sag_mm: float
    droop_mm: float
    true_up_mm: float
    true_right_mm: float
    #: How far it will lie off the line once the moves are made.
    left_mm: float
    total_mm: float | None = None
    doubt_mm: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class BearingMoved:
    """What a bearing is moved by, up and to the right; negative is down and to the left [mm]."""

    number: int
    z_mm: float
    up_mm: float
    right_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class LineMoves:
    """The bearings' moves on to the line through the two end bores, and what they rest on."""

    bores: tuple[SweptBore, ...]
    moves: tuple[BearingMoved, ...]
    limit_mm: float
    #: Bores between the ends that were not swept: nothing is said of them.
    unseen: tuple[str, ...] = ()
    #: Bearings that must be slack while it is swept and moved.
    slack: tuple[int, ...] = ()
    #: The bar's own line in its two bearings, drawn.
    curve: tuple[tuple[float, float], ...] = ()

    @property
    def worst_mm(self) -> float:
        """How far the worst of the swept bores lies off now."""
        return max(hypot(one.true_up_mm, one.true_right_mm) for one in self.bores)

    @property
    def within(self) -> bool:
        """Whether both end bores lie true enough as the bar stands."""
        return self.worst_mm <= self.limit_mm / 2 + 1e-9


def is_moved_at_bearings(job: Assessment) -> bool:
    """Whether the axis is moved at two bearings that both end bores decide."""
    return job.record.setup.moves_bearings


def missing_for_moves(job: Assessment, piece: int) -> tuple[str, ...]:
    """What must still be swept, or stood, before the bearings' moves can be told."""
    bores = job.record.setup.bores
    ends = [bore.name for bore in (bores[0], bores[-1]) if job.truing(piece, bore.place).standing is None]
    lacks = () if len(job.record.setup.plan.bearings_mm) >= 2 else ("where the bearings stand, on Bar",)
    bar = () if job.record.setup.plan.bar is not None else ("the bar, on Bar",)
    return (*(f"a sweep of {name}" for name in ends), *lacks, *bar)


def line_moves_of(job: Assessment, piece: int) -> LineMoves | None:
    """Return the moves of the two outer bearings, from the standing sweeps of this piece's bores.

    None while one of the end bores has no standing sweep, or bar and bearings are not known. The bar lies in its two
    outer bearings while it is swept; bearings between them are slack.
    """
    setup = job.record.setup
    if not is_moved_at_bearings(job) or missing_for_moves(job, piece):
        return None
    at, ordered = job.boring(piece, setup.bores[0].place).passes.at, sorted(setup.plan.bearings_mm)
    two = (ordered[0], ordered[-1])
    if at.bar is None or two[0] == two[1]:
        return None
    try:
        response = response_of(at, at.bar, two)
        found = _moves(job, piece, {row.bore: row.sag_mm for row in response.rows}, two)
    except InvalidInput:
        return None
    slack = tuple(number for number in range(2, len(ordered)))
    return LineMoves(
        bores=found[0], moves=found[1], limit_mm=setup.tightest_runout_mm, slack=slack, curve=response.curve,
        unseen=tuple(one.name for one in setup.bores if one.name not in [swept.name for swept in found[0]]),
    )  # fmt: skip


def _moves(
    job: Assessment, piece: int, sags: dict[str, float], two: tuple[float, float]
) -> tuple[tuple[SweptBore, ...], tuple[BearingMoved, ...]]:
    setup = job.record.setup
    droop = setup.plan.droop_mm
    swept = [(bore, standing) for bore in setup.bores
             if (standing := job.truing(piece, bore.place).standing) is not None]  # fmt: skip
    housings = [
        SweptHousing(
            name=bore.name, z_mm=_middle_mm(bore), off_x_mm=standing.figures.offset[0],
            off_y_mm=standing.figures.offset[1], sag_mm=sags.get(bore.name, 0.0), droop_mm=droop,
        )
        for bore, standing in swept if standing.figures is not None
    ]  # fmt: skip
    datum = (setup.bores[0].name, setup.bores[-1].name)
    found = line_bar_moves(housings=housings, bearings_mm=two, datum=datum)
    bores = tuple(
        SweptBore(
            name=one.name, z_mm=one.z_mm, up_mm=one.off_x_mm, right_mm=one.off_y_mm, sag_mm=one.sag_mm, droop_mm=droop,
            true_up_mm=true.true_x_mm, true_right_mm=true.true_y_mm, left_mm=true.off_mm, total_mm=standing.total_mm,
            doubt_mm=(standing.sweep.eccentricity_sd_mm or 0.0) * 2 if standing.sweep else 0.0,
        )
        for one, true, (_, standing) in zip(housings, found.housings, swept, strict=True)
    )  # fmt: skip
    ordered = sorted(setup.plan.bearings_mm)
    numbers = {two[0]: 1, two[1]: len(ordered)}
    moves = tuple(
        BearingMoved(number=numbers[one.z_mm], z_mm=one.z_mm, up_mm=one.move_x_mm, right_mm=one.move_y_mm)
        for one in found.moves
    )
    return bores, moves


def _middle_mm(bore: BoreRecord) -> float:
    return bore.start_mm + bore.length_mm / 2
