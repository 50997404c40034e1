"""What a bar does beyond its setting, learned from its cuts: a steady part, a share of its deflection, the scatter."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt

import numpy as np

from gyrocore.checks import require_finite, require_not_negative, require_open_between, require_positive
from gyrocore.notes import Note, note


@dataclass(frozen=True, slots=True, kw_only=True)
class SeenCut:
    """One measured cut: how much larger than set it came out, and what its deflection alone would have made [mm].

    `apart_mm`: how far it may lie off for reasons that the next cut does not share, 0 for a cut alike.
    """

    off_mm: float
    model_mm: float = 0.0
    apart_mm: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class HabitPrior:
    """What is believed before a cut is seen [mm].

    The steady part with its doubt; how much of the modelled deflection shows, with its doubt; the scatter of one cut
    and its measuring, and how many cuts that belief is worth; what share of its weight a cut keeps for each newer one.
    """

    bias_mm: float = 0.0
    bias_sd_mm: float = 0.01
    share: float = 1.0
    share_sd: float = 0.4
    scatter_mm: float = 0.005
    worth_cuts: float = 4.0
    keeps: float = 0.97


#: Nothing is known of the bar yet.
NOTHING_SEEN = HabitPrior()


@dataclass(frozen=True, slots=True, kw_only=True)
class LearnedHabit:
    """What the next cut is expected to come out over its setting, how sure that is, and what it is made of [mm]."""

    off_mm: float
    off_sd_mm: float
    bias_mm: float
    bias_sd_mm: float
    share: float
    scatter_mm: float
    cuts: int
    notes: tuple[Note, ...] = ()


def learned_habit(
    *, seen: Sequence[SeenCut], model_mm: float = 0.0, prior: HabitPrior = NOTHING_SEEN
) -> LearnedHabit:  # fmt: skip
    """Return what a bar's next cut is expected to come out over its setting.

    Parameters
    ----------
    seen : measured cuts, the oldest first, may be empty [mm]
    model_mm : what the deflection alone would make of the next cut [mm]
    prior : what is believed before: standard deviations, scatter and worth over 0, `keeps` over 0 and under 1 or 1 [mm]

    Returns
    -------
    LearnedHabit [mm]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds, with the cut's place in the list.

    Notes
    -----
    off = bias + share x model + scatter. Normal bias and share, their doubt in units of the scatter, and an inverse
    gamma variance: with weights w = keeps^(newer cuts) s0^2/(s0^2 + apart^2), so that cuts alike count first, the
    precisions add up, L = L0 + sum w x x', and the variance is (worth s0^2 + what the fit leaves) / (worth + sum w).
    The doubt of `off` is that of bias and share alone, the next cut scatters beside it. Older cuts count less, so that
    wear is followed; a jump is not seen until it is cut.

    References
    ----------
    Conjugate normal inverse-gamma regression (any textbook of Bayesian statistics); forgetting by powers derived here.

    Examples
    --------
    >>> cuts = [SeenCut(off_mm=0.012), SeenCut(off_mm=0.010), SeenCut(off_mm=0.011)]
    >>> found = learned_habit(seen=cuts)
    >>> (round(found.off_mm, 4), round(found.scatter_mm, 4))
    (0.0101, 0.0043)
    """
    _require(seen, model_mm, prior)
    newest, own = len(seen) - 1, prior.scatter_mm**2
    weights = np.array(
        [prior.keeps ** (newest - place) * own / (own + one.apart_mm**2) for place, one in enumerate(seen)],
        dtype=np.float64,
    )
    rows = np.array([[1.0, one.model_mm] for one in seen], dtype=np.float64).reshape(-1, 2)
    offs = np.array([one.off_mm for one in seen], dtype=np.float64)
    believed = np.array([prior.bias_mm, prior.share])
    before = np.diag([(prior.scatter_mm / prior.bias_sd_mm) ** 2, (prior.scatter_mm / prior.share_sd) ** 2])
    after = before + (rows * weights[:, None]).T @ rows
    means = np.linalg.solve(after, before @ believed + (rows * weights[:, None]).T @ offs)
    left = float((weights * (offs - rows @ means) ** 2).sum() + (means - believed) @ before @ (means - believed))
    scatter = sqrt((prior.worth_cuts * prior.scatter_mm**2 + left) / (prior.worth_cuts + float(weights.sum())))
    at = np.array([1.0, model_mm])
    spread = scatter**2 * np.linalg.inv(after)
    said = note("habit_from_cuts", count=len(seen), bias_mm=float(means[0])) if seen else note("habit_from_prior")
    return LearnedHabit(
        off_mm=float(at @ means), off_sd_mm=sqrt(float(at @ spread @ at)), bias_mm=float(means[0]),
        bias_sd_mm=sqrt(float(spread[0, 0])), share=float(means[1]), scatter_mm=scatter, cuts=len(seen),
        notes=(said,),
    )  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class Foretold:
    """How far off three ways of foretelling were on these cuts, each from those before it, on average [mm]."""

    learned_mm: float
    #: Set as told: no habit at all.
    as_told_mm: float
    #: The last cut's error taken off the next.
    copied_mm: float
    cuts: int

    @property
    def is_proven(self) -> bool:
        """Whether what was learned beat both others, by a tenth, over three cuts or more."""
        return self.cuts >= _ENOUGH and self.learned_mm < _BETTER * min(self.as_told_mm, self.copied_mm)


#: So many cuts must have been foretold before a habit is called proven, and so much better (chosen here).
_ENOUGH, _BETTER = 3, 0.9
#: So many cuts are learned from before one is foretold.
_BEGUN = 2


def foretold(*, seen: Sequence[SeenCut], prior: HabitPrior = NOTHING_SEEN) -> Foretold:
    """Return how well a bar's habit would have foretold its own cuts, against no habit and a blind copy.

    Parameters
    ----------
    seen : measured cuts, the oldest first, may be empty [mm]
    prior : as for `learned_habit` [mm]

    Returns
    -------
    Foretold, mean absolute errors [mm]; 0 where there is nothing to foretell

    Raises
    ------
    InvalidInput
        As `learned_habit`.

    References
    ----------
    One step ahead, each cut from the ones before it (prequential test); derived here.

    Examples
    --------
    >>> foretold(seen=[SeenCut(off_mm=0.01 + 0.002 * (n % 2)) for n in range(8)]).is_proven
    True
    """
    ahead = [
        learned_habit(seen=seen[:place], model_mm=seen[place].model_mm, prior=prior).off_mm
        for place in range(_BEGUN, len(seen))
    ]
    if not ahead:
        return Foretold(learned_mm=0.0, as_told_mm=0.0, copied_mm=0.0, cuts=0)
    later, earlier = [one.off_mm for one in seen[_BEGUN:]], [one.off_mm for one in seen[_BEGUN - 1 : -1]]
    count = len(ahead)
    return Foretold(
        learned_mm=sum(abs(a - b) for a, b in zip(later, ahead, strict=True)) / count,
        as_told_mm=sum(abs(one) for one in later) / count,
        copied_mm=sum(abs(a - b) for a, b in zip(later, earlier, strict=True)) / count, cuts=count,
    )  # fmt: skip


def _require(seen: Sequence[SeenCut], model_mm: float, prior: HabitPrior) -> None:
    for place, one in enumerate(seen):
        require_finite(**{f"seen.{place}.off_mm": one.off_mm, f"seen.{place}.model_mm": one.model_mm})
        require_not_negative(**{f"seen.{place}.apart_mm": one.apart_mm})
    require_finite(model_mm=model_mm, bias_mm=prior.bias_mm, share=prior.share)
    require_positive(
        bias_sd_mm=prior.bias_sd_mm, share_sd=prior.share_sd, scatter_mm=prior.scatter_mm, worth_cuts=prior.worth_cuts
    )
    require_open_between(0.0, 1.0 + 1e-9, keeps=prior.keeps)
