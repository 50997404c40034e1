"""What a bar cuts large, learned from its cuts, and where to set it next."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import erf, floor, sqrt

from gyrocore.checks import TOLERANCE, require_finite, require_positive
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note


@dataclass(frozen=True, slots=True, kw_only=True)
class SetAndMeasured:
    """One cut: the diameter set for and the diameter that came out [mm]."""

    set_diameter_mm: float
    measured_diameter_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Habit:
    """What is known of a bar before these cuts, and how one cut and its measuring scatter [mm]."""

    prior_bias_mm: float = 0.0
    prior_sd_mm: float = 0.02
    reading_sd_mm: float = 0.005


#: Nothing is known of the bar yet.
FIRST_CUT = Habit()


@dataclass(frozen=True, slots=True, kw_only=True)
class NextCut:
    """The bar's habit as now known, the setting it asks for, and what to expect [mm]."""

    bias_mm: float
    bias_sd_mm: float
    set_diameter_mm: float
    predicted_mm: float
    predicted_sd_mm: float
    chance_in_limits: float
    notes: tuple[Note, ...] = ()


def next_cut(
    *,
    history: Sequence[SetAndMeasured],
    aim_mm: float,
    limits_mm: tuple[float, float],
    habit: Habit = FIRST_CUT,
    dial_step_mm: float | None = None,
) -> NextCut:
    """Return the setting for the next cut with the bar's habit taken off.

    Parameters
    ----------
    history : earlier cuts of this bar, may be empty [mm]
    aim_mm : size wanted, over 0 [mm]
    limits_mm : lower and upper limit of size, the lower not over the upper [mm]
    habit : prior bias, its doubt over 0, scatter of one cut and its measuring over 0 [mm]
    dial_step_mm : what one division is on diameter, None for no dial, over 0 [mm]

    Returns
    -------
    NextCut [mm]; the chance is from 0 to 1

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds, with the cut's place in the list.

    Notes
    -----
    bias = measured - set. Normal prior and normal readings: the precisions 1/sd^2 add, the bias is their
    weighted mean. Set = aim - bias, down to a whole number of dial steps so that an error leaves metal.
    Cuts are taken as independent; a habit that drifts (wear) is not seen.

    References
    ----------
    Conjugate update of a normal mean with known variance (any textbook of Bayesian statistics).

    Examples
    --------
    >>> cut = SetAndMeasured(set_diameter_mm=71.2, measured_diameter_mm=71.21)
    >>> next_cut(history=[cut], aim_mm=72.015, limits_mm=(72, 72.03)).bias_mm.__round__(4)
    0.0094
    """
    _require(history, aim_mm, limits_mm, habit, dial_step_mm)
    bias, bias_sd = learned_bias_mm(history, habit)
    setting = aim_mm - bias
    if dial_step_mm is not None:
        setting = floor(setting / dial_step_mm + TOLERANCE) * dial_step_mm
    predicted, spread = setting + bias, sqrt(bias_sd**2 + habit.reading_sd_mm**2)
    lower, upper = limits_mm
    chance = _below(upper, predicted, spread) - _below(lower, predicted, spread)
    return NextCut(
        bias_mm=bias,
        bias_sd_mm=bias_sd,
        set_diameter_mm=setting,
        predicted_mm=predicted,
        predicted_sd_mm=spread,
        chance_in_limits=chance,
        notes=_notes(len(history), bias, aim_mm, limits_mm),
    )


def learned_bias_mm(history: Sequence[SetAndMeasured], habit: Habit) -> tuple[float, float]:
    """Return what the bar cuts large, and how well that is known.

    Parameters
    ----------
    history : earlier cuts [mm]
    habit : prior bias and the two scatters, both over 0 [mm]

    Returns
    -------
    bias and its standard deviation [mm]

    References
    ----------
    As `next_cut`.

    Examples
    --------
    >>> learned_bias_mm([], Habit(prior_bias_mm=0.01))
    (0.01, 0.02)
    """
    if not history:
        return habit.prior_bias_mm, habit.prior_sd_mm
    trust, per_cut = habit.prior_sd_mm**-2, habit.reading_sd_mm**-2
    total = trust + len(history) * per_cut
    weighed = sum(cut.measured_diameter_mm - cut.set_diameter_mm for cut in history) * per_cut
    return (habit.prior_bias_mm * trust + weighed) / total, 1 / sqrt(total)


def _below(limit_mm: float, mean_mm: float, sd_mm: float) -> float:
    """Chance that a normal value falls under the limit."""
    return (1 + erf((limit_mm - mean_mm) / (sd_mm * sqrt(2)))) / 2


def _require(
    history: Sequence[SetAndMeasured],
    aim_mm: float,
    limits_mm: tuple[float, float],
    habit: Habit,
    dial_step_mm: float | None,
) -> None:
    for place, cut in enumerate(history):
        require_positive(
            **{
                f"history.{place}.set_diameter_mm": cut.set_diameter_mm,
                f"history.{place}.measured_diameter_mm": cut.measured_diameter_mm,
            }
        )
    lower, upper = limits_mm
    require_positive(aim_mm=aim_mm, lower_mm=lower, upper_mm=upper)
    if upper < lower:
        raise InvalidInput("upper_mm", "limits_upside_down", given=upper, allowed=lower)
    require_finite(prior_bias_mm=habit.prior_bias_mm)
    require_positive(prior_sd_mm=habit.prior_sd_mm, reading_sd_mm=habit.reading_sd_mm, dial_step_mm=dial_step_mm)


def _notes(count: int, bias_mm: float, aim_mm: float, limits_mm: tuple[float, float]) -> tuple[Note, ...]:
    notes = [note("habit_from_cuts", count=count, bias_mm=bias_mm) if count else note("habit_from_prior")]
    if not limits_mm[0] <= aim_mm <= limits_mm[1]:
        notes.append(note("aim_outside_limits", aim_mm=aim_mm))
    return tuple(notes)
