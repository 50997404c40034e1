"""What speaks for or against a cause of a bore's shape: the machine's own checks, the set-up, the bar, the run."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from types import MappingProxyType

from gyrocore import BoreForm
from gyroplan.assess.batch import batch_of
from gyroplan.assess.standing import Assessment, Boring

#: A figure under this share of the shape explains little of it (chosen here).
_LITTLE = 0.25
#: A wall under this share of the radius gives under clamps; from the other share on it hardly does (chosen here).
_THIN, _THICK = 0.2, 0.5
#: How a cause is ranked of which nothing is known, for and against which something speaks that has no figure; one with
#: a figure is ranked by its share of the shape.
_UNKNOWN, _FOR, _AGAINST = 0.35, 0.6, 0.1


@dataclass(frozen=True, slots=True, kw_only=True)
class Shown:
    """What a check of the machine makes of this bore: its kind, the figure [mm], what it is of, when it was read."""

    kind: str
    figure_mm: float
    is_on: str
    day: date


@dataclass(frozen=True, slots=True, kw_only=True)
class Evidence:
    """What is known of a cause: a code, where it has one its figure on Ø [mm], and the check that it is from."""

    code: str
    weight: float
    figure_mm: float | None = None
    shown: Shown | None = None


NOTHING = Evidence(code="", weight=_UNKNOWN)


@dataclass(frozen=True, slots=True, kw_only=True)
class Case:
    """The shape that is looked into: its size [mm], its form, the bore it is of."""

    job: Assessment
    piece: int
    place: int
    size_mm: float
    form: BoreForm
    shown: Sequence[Shown]

    @property
    def boring(self) -> Boring:
        """Passes, bar and wall of the bore."""
        return self.job.boring(self.piece, self.place)


def evidence_of(cause: str, case: Case) -> Evidence:
    """Return what speaks for or against a cause; `NOTHING` where nothing is known.

    Parameters
    ----------
    cause : a code of `causes`
    case : the shape, and what the machine's checks make of this bore

    Notes
    -----
    A cause with a figure counts by its share of the shape, up to the whole of it: what the machine's check comes to,
    twice what the governing pass bends the bar, what sizes drift from piece to piece (wear over one bore shows as taper
    in it and as drift after it).

    References
    ----------
    Derived here; the ranks of what has no figure are chosen here.
    """
    look = _LOOK.get(cause)
    return NOTHING if look is None else look(case)


def _figure(code: str, figure_mm: float, case: Case, shown: Shown | None = None) -> Evidence:
    share = figure_mm / case.size_mm if case.size_mm > 0 else 0.0
    if share < _LITTLE:
        return Evidence(code=f"{code}-little", weight=_AGAINST, figure_mm=figure_mm, shown=shown)
    return Evidence(code=code, weight=min(1.0, share), figure_mm=figure_mm, shown=shown)


def _machine(is_on: str, *kinds: str) -> Callable[[Case], Evidence]:
    """By the machine's check that shows most of this shape."""

    def look(case: Case) -> Evidence:
        found = [one for one in case.shown if one.kind in kinds and one.is_on == is_on]
        most = max(found, key=lambda one: one.figure_mm, default=None)
        return NOTHING if most is None else _figure("machine", most.figure_mm, case, most)

    return look


def _worn(case: Case) -> Evidence:
    """What pads or guides have worn: the axis lies off by it, so that it is no figure of the shape."""
    found = next((one for one in case.shown if one.kind == "wear" and one.figure_mm >= _LITTLE * case.size_mm), None)
    return NOTHING if found is None else Evidence(code="worn", weight=_FOR, figure_mm=found.figure_mm, shown=found)


def _bends(case: Case) -> Evidence:
    """The most that bending can make: all of it gone at one end."""
    found = case.boring.bar.deflection
    return NOTHING if found is None else _figure("bends", 2 * found.spring_mm, case)


def _stands_alike(case: Case) -> Evidence:
    """A bar in a holder stands out as far all along: it bends alike wherever the cut is alike."""
    held = case.job.record.setup.way.bar_in == "holder"
    return Evidence(code="stands-alike", weight=_AGAINST) if held else NOTHING


def _wears(case: Case) -> Evidence:
    """Wear leaves less and less: smaller the way it was fed, and from piece to piece."""
    means = [one.mean_mm for one in case.form.stations]
    if means[-1] > means[0]:  # the far end was cut last
        return Evidence(code="wrong-way", weight=_AGAINST)
    batch = batch_of(case.job, case.place)
    if batch is None or batch.drift is None:
        return NOTHING
    return _figure("drifts", max(0.0, -batch.drift.slope_mm_piece), case)


def _wall(case: Case) -> Evidence:
    left, radius = case.boring.wall_left_mm, case.job.record.bore_at(case.place).aim_mm / 2
    if left is None or _THIN * radius <= left < _THICK * radius:
        return NOTHING
    thin = left < _THIN * radius
    return Evidence(code="thin" if thin else "thick", weight=_FOR if thin else _AGAINST, figure_mm=left)


def _turned_round(case: Case) -> Evidence:
    setup = case.job.record.setup
    both = setup.side == "other" or setup.plan.side_depth_mm is not None
    return Evidence(code="both-sides" if both else "one-side", weight=_FOR if both else _AGAINST)


def _heavy(case: Case) -> Evidence:
    heavy = case.job.record.setup.way.unbalanced
    return NOTHING if heavy else Evidence(code="balanced", weight=_AGAINST)


_LOOK: Mapping[str, Callable[[Case], Evidence]] = MappingProxyType(
    {
        "path": _machine("taper on Ø", "slope", "tailstock"),
        "spindle-play": _machine("oval", "play"),
        "pads-wear": _worn,
        "bar-bends-more": _stands_alike,
        "springs-in": _bends,
        "bar-bends-middle": _bends,
        "edge-wears": _wears,
        "wall-gives": _wall,
        "clamping": _wall,
        "two-sides": _turned_round,
        "unbalance": _heavy,
    }
)
