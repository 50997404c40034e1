"""What most likely made a bore the shape it has: by which part turns, and by what is known of machine, set-up and run.

Each cause has the one check that tells it from the next.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from gyrocore import BoreForm
from gyroplan.assess.check import Checked
from gyroplan.assess.evidence import NOTHING, Case, Evidence, Shown, evidence_of
from gyroplan.assess.standing import Assessment

#: Form under this share of the tolerance needs no cause (chosen here).
_WORTH = 1 / 6


@dataclass(frozen=True, slots=True, kw_only=True)
class Cause:
    """A likely cause, the likeliest first: its code, the check that tells it from the next, what is known of it."""

    code: str
    tells: str
    evidence: Evidence = NOTHING


@dataclass(frozen=True, slots=True, kw_only=True)
class Causes:
    """The shape that is explained, its size [mm], the slope of the wall where it tapers [mm/m], and its causes."""

    shape: str
    size_mm: float
    slope_mm_m: float | None
    causes: tuple[Cause, ...]


#: By shape and by which part turns: causes in the order in which they are met (shop practice, editable), each with the
#: check that proves or rules it out.
_BY_SHAPE: dict[tuple[str, str], tuple[tuple[str, str], ...]] = {
    ("taper", "work"): (("path", "spring-pass"), ("edge-wears", "new-edge"), ("bar-bends-more", "shallower")),
    ("taper", "bar"): (("edge-wears", "new-edge"), ("pads-wear", "pads"), ("path-leans", "lean")),
    ("curved", "work"): (("edge-wears", "new-edge"), ("bar-bends-more", "shallower")),
    ("curved", "bar"): (("edge-wears", "new-edge"), ("pads-wear", "pads")),
    ("bellmouth", "work"): (("springs-in", "spring-pass"), ("edge-enters", "slower-in")),
    ("bellmouth", "bar"): (("springs-in", "spring-pass"), ("guide-lost", "guide")),
    ("barrel", "work"): (("wall-gives", "unclamp"), ("bar-bends-more", "shallower")),
    ("barrel", "bar"): (("bar-bends-middle", "third-bearing"), ("wall-gives", "unclamp")),
    ("hourglass", "work"): (("two-sides", "from-one-side"), ("wall-gives", "unclamp")),
    ("hourglass", "bar"): (("two-sides", "from-one-side"), ("pads-wear", "pads")),
    ("oval", "work"): (("clamping", "unclamp"), ("spindle-play", "push-pull"), ("unbalance", "slower")),
    ("oval", "bar"): (("clamping", "unclamp"), ("head-tram", "tram"), ("spindle-play", "push-pull")),
}  # fmt: skip


def causes_of(
    job: Assessment, piece: int, place: int, shown: Callable[[], Sequence[Shown]] = tuple
) -> Causes | None:  # fmt: skip
    """Return what most likely made the bore the shape it has; None where it is good, or hardly measured.

    Parameters
    ----------
    job, piece, place : the bore
    shown : tells what the machine's own checks make of this bore; asked only where there is a shape to explain

    Notes
    -----
    The causes of a shape stand in the order in which they are met; what is known of one moves it before or behind those
    of which nothing is known (`evidence_of`).
    """
    checked = job.check(piece, place)
    form = checked.form
    if form is None:
        return None
    worth = _WORTH * (checked.bore.upper_mm - checked.bore.lower_mm)
    turns = "work" if job.record.setup.way.turns == "work" else "bar"
    shape, size = _shape(form, checked, worth)
    found = _BY_SHAPE.get((shape, turns))
    if found is None:
        return None
    case = Case(job=job, piece=piece, place=place, size_mm=size, form=form, shown=shown())
    causes = [Cause(code=code, tells=tells, evidence=evidence_of(code, case)) for code, tells in found]
    slope = 5 * form.taper_mm_100mm if shape == "taper" and form.taper_mm_100mm is not None else None
    ranked = sorted(causes, key=lambda one: -one.evidence.weight)
    return Causes(shape=shape, size_mm=size, slope_mm_m=slope, causes=tuple(ranked))


def _shape(form: BoreForm, checked: Checked, worth: float) -> tuple[str, float]:
    """The larger of what runs along the bore and what runs round it, where it is worth a cause."""
    means = [one.mean_mm for one in form.stations]
    along, round_it = max(means) - min(means), form.ovality_mm
    if max(along, round_it) < worth:
        return "", 0.0
    return (form.shape, along) if along >= round_it else ("oval", round_it)
