"""The damping that is believed of a bar: its kind's figure, moved by what its passes in this set-up sounded like."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt

from gyrocore import Cut, EdgeInCut, cutting_force
from gyrocore.checks import require_open_between, require_positive
from gyrocore.formulas.stability import peak_chatter_load_n_mm
from gyrocore.planning.overhang import DAMPING_FACTOR

_MOST = 0.99


@dataclass(frozen=True, slots=True, kw_only=True)
class Heard:
    """A pass that was cut with this bar and this cutter: as it was cut, and whether it chattered or ran quiet."""

    number: int
    cut: Cut
    chattered: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Believed:
    """The damping ratio believed, and the pass that moved it; None where none did."""

    ratio: float
    number: int | None = None
    chattered: bool = False


def believed_damping(ratio: float, stiffness_n_mm: float | None, heard: Sequence[Heard]) -> Believed:
    """Return the damping ratio that is believed of a bar as it stands.

    Parameters
    ----------
    ratio : of its kind, or the shop's own, over 0 and under 1
    stiffness_n_mm : at the cutter as it stands, over 0; None for a rigid bar, which nothing moves [N/mm]
    heard : passes cut with it here, oldest first

    Returns
    -------
    Believed

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    A cut chatters where the greatest load of any depth up to its own reaches 2 k z (1 + z). One that ran quiet shows
    that z is over the ratio at which it would just chatter, one that chattered that z is under it. The figure is moved
    as little as these allow, a later pass over an earlier one, and never past the factor within which damping is
    guessed at all (three).

    References
    ----------
    `peak_chatter_load_n_mm`, as `overhang` counts it; the factor as in the core contract (`chatter_certain_mm`).

    Examples
    --------
    >>> cut = Cut(kc11_mpa=1100, mc=0.25, depth_mm=0.5, feed_mm_rev=0.1)
    >>> believed_damping(0.03, 20000, [Heard(number=3, cut=cut, chattered=False)]).number is None
    True
    >>> round(believed_damping(0.03, 1500, [Heard(number=3, cut=cut, chattered=False)]).ratio, 4)
    0.09
    """
    require_open_between(0, 1, damping_ratio=ratio)
    require_positive(stiffness_n_mm=stiffness_n_mm)
    believed = Believed(ratio=ratio)
    if stiffness_n_mm is None:
        return believed
    for one in heard:
        border = _ratio_at(stiffness_n_mm, one.cut)
        moves = border < believed.ratio if one.chattered else border > believed.ratio
        if moves:
            held = min(max(border, ratio / DAMPING_FACTOR), ratio * DAMPING_FACTOR, _MOST)
            believed = Believed(ratio=held, number=one.number, chattered=one.chattered)
    return believed


def _ratio_at(stiffness_n_mm: float, cut: Cut) -> float:
    """The damping ratio at which a cut just begins to chatter: z of 2 k z (1 + z) = load."""
    force = cutting_force(cut)
    edge = EdgeInCut(
        kc_mpa=force.kc_mpa, entering_angle_deg=cut.entering_angle_deg, nose_radius_mm=cut.nose_radius_mm,
        feed_mm_rev=cut.feed_mm_rev, thrust_ratio=cut.thrust_ratio,
    )  # fmt: skip
    load = peak_chatter_load_n_mm(cut.depth_mm, edge)
    return (sqrt(1 + 2 * load / stiffness_n_mm) - 1) / 2
