"""In, under, over, or too near to call."""

from __future__ import annotations

from dataclasses import dataclass

from gyrocore.checks import TOLERANCE, require_between, require_finite, require_not_negative
from gyrocore.choices import RuleName
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note


@dataclass(frozen=True, slots=True, kw_only=True)
class Verdict:
    """The verdict on one size, what is to the aim, and the room to each limit [mm]."""

    verdict: str
    to_aim_mm: float
    room_low_mm: float
    room_high_mm: float
    notes: tuple[Note, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class AtMost:
    """The verdict on something that must not exceed a limit (run-out, taper, ovality) [mm]."""

    verdict: str
    room_mm: float


def verdict(
    *,
    value_mm: float,
    lower_mm: float,
    upper_mm: float,
    expanded_mm: float = 0.0,
    rule: RuleName = "guarded",
    guard_factor: float = 1.0,
    aim_mm: float | None = None,
) -> Verdict:
    """Judge a measured size against its limits.

    Parameters
    ----------
    value_mm : measured size [mm]
    lower_mm, upper_mm : limits, lower not over upper [mm]
    expanded_mm : expanded uncertainty, 0 or more [mm]
    rule : `guarded` or `simple`
    guard_factor : share of the uncertainty used as guard band, 0 to 1
    aim_mm : the size aimed at, the middle by default [mm]

    Returns
    -------
    Verdict [mm]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds; at `upper_mm` where the limits are upside down.

    References
    ----------
    ISO 14253-1, decision rules with the whole expanded uncertainty as guard band (the 2017
    edition's default band is smaller, hence the factor).

    Examples
    --------
    >>> verdict(value_mm=72.002, lower_mm=72, upper_mm=72.03, expanded_mm=0.003).verdict
    'undecided-low'
    """
    require_finite(value_mm=value_mm, lower_mm=lower_mm, upper_mm=upper_mm, aim_mm=aim_mm)
    require_not_negative(expanded_mm=expanded_mm)
    if lower_mm > upper_mm:
        raise InvalidInput("upper_mm", "limits_upside_down", given=upper_mm, allowed=lower_mm)
    if rule not in ("guarded", "simple"):
        raise InvalidInput("rule", "not_a_rule", given=rule)
    require_between(0, 1, guard_factor=guard_factor)
    guard = expanded_mm * guard_factor if rule == "guarded" else 0.0
    aim = (lower_mm + upper_mm) / 2 if aim_mm is None else aim_mm
    low, high = value_mm - lower_mm, upper_mm - value_mm
    return Verdict(
        verdict=_call(low, high, guard),
        to_aim_mm=aim - value_mm,
        room_low_mm=low,
        room_high_mm=high,
        notes=(note("guarded_rule", guard_mm=guard) if rule == "guarded" else note("simple_rule"),),
    )


def _call(room_low: float, room_high: float, guard: float) -> str:
    if room_low >= guard - TOLERANCE and room_high >= guard - TOLERANCE:
        return "in"
    if room_low < -guard - TOLERANCE:
        return "under"
    if room_high < -guard - TOLERANCE:
        return "over"
    return "undecided-low" if room_low <= room_high else "undecided-high"


def judge_at_most(
    *, found_mm: float, allowed_mm: float, expanded_mm: float = 0.0, rule: RuleName = "guarded"
) -> AtMost:
    """Judge a form or run-out that must not exceed a limit.

    Parameters
    ----------
    found_mm : 0 or more [mm]
    allowed_mm : 0 or more [mm]
    expanded_mm : expanded uncertainty of what was found, 0 or more [mm]
    rule : `guarded` or `simple`

    Returns
    -------
    AtMost: `in`, `over` or `undecided-high`, and the room left [mm]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    References
    ----------
    As `verdict`, with an upper limit alone.

    Examples
    --------
    >>> judge_at_most(found_mm=0.019, allowed_mm=0.02, expanded_mm=0.002).verdict
    'undecided-high'
    """
    require_not_negative(found_mm=found_mm, allowed_mm=allowed_mm, expanded_mm=expanded_mm)
    if rule not in ("guarded", "simple"):
        raise InvalidInput("rule", "not_a_rule", given=rule)
    room = allowed_mm - found_mm
    guard = expanded_mm if rule == "guarded" else 0.0
    return AtMost(verdict=_call(float("inf"), room, guard), room_mm=room)
