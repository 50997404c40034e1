"""What goes and does not go, and what was read, as bounds on one bore's size."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyrocore.checks import TOLERANCE, require_not_negative, require_positive
from gyrocore.choices import SeenBy, SizeVerdict
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note


@dataclass(frozen=True, slots=True, kw_only=True)
class Seen:
    """A gauge that goes, one that does not go, or a size that was read, with its expanded uncertainty [mm]."""

    kind: SeenBy
    size_mm: float
    expanded_mm: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class GaugeBounds:
    """Between what the size lies; None where nothing bounds it [mm]."""

    at_least_mm: float | None
    at_most_mm: float | None
    consistent: bool
    verdict: SizeVerdict | None
    notes: tuple[Note, ...] = ()


def gauge_bounds(
    *, seen: Sequence[Seen], lower_mm: float | None = None, upper_mm: float | None = None
) -> GaugeBounds:  # fmt: skip
    """Return between what a bore's size lies, by all that was tried and read.

    Parameters
    ----------
    seen : one or more: `go`, `no-go` or `value`, its size over 0, its expanded uncertainty 0 or more [mm]
    lower_mm, upper_mm : limits of size, both or neither, the lower not over the upper [mm]

    Returns
    -------
    GaugeBounds [mm]; the verdict is None without limits, or where the evidence contradicts itself

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    A plug of size s that goes: the bore is at least s - U; one that does not: at most s + U; a value x: from x - U to
    x + U. The tightest of each counts. A plug tells the narrowest place it passes: form beyond it is not seen.

    References
    ----------
    Derived here, with the whole expanded uncertainty as guard as in ISO 14253-1.

    Examples
    --------
    >>> plugs = [Seen(kind="go", size_mm=72.0, expanded_mm=0.002), Seen(kind="no-go", size_mm=72.03)]
    >>> gauge_bounds(seen=plugs, lower_mm=71.99, upper_mm=72.03).verdict
    'in'
    """
    _require(seen, lower_mm, upper_mm)
    least = max((one.size_mm - one.expanded_mm for one in seen if one.kind != "no-go"), default=None)
    most = min((one.size_mm + one.expanded_mm for one in seen if one.kind != "go"), default=None)
    consistent = least is None or most is None or least <= most + TOLERANCE
    notes = [] if consistent else [note("bounds_contradict", at_least_mm=least, at_most_mm=most)]
    if any(one.kind != "value" for one in seen):
        notes.append(note("plug_sees_narrowest"))
    verdict = None
    if consistent and lower_mm is not None and upper_mm is not None:
        verdict = _verdict(least, most, lower_mm, upper_mm)
    return GaugeBounds(
        at_least_mm=least, at_most_mm=most, consistent=consistent, verdict=verdict, notes=tuple(notes)
    )  # fmt: skip


def _verdict(least: float | None, most: float | None, lower: float, upper: float) -> SizeVerdict:
    if most is not None and most < lower - TOLERANCE:
        return "under"
    if least is not None and least > upper + TOLERANCE:
        return "over"
    if least is None or most is None:
        return "undecided"
    return "in" if least >= lower - TOLERANCE and most <= upper + TOLERANCE else "undecided"


def _require(seen: Sequence[Seen], lower_mm: float | None, upper_mm: float | None) -> None:
    if not seen:
        raise InvalidInput("seen", "empty")
    for place, one in enumerate(seen):
        if one.kind not in ("go", "no-go", "value"):
            raise InvalidInput(f"seen.{place}.kind", "unknown_choice", given=one.kind, choices="go, no-go, value")
        require_positive(**{f"seen.{place}.size_mm": one.size_mm})
        require_not_negative(**{f"seen.{place}.expanded_mm": one.expanded_mm})
    require_positive(lower_mm=lower_mm, upper_mm=upper_mm)
    if (lower_mm is None) != (upper_mm is None):
        field = "lower_mm" if lower_mm is None else "upper_mm"
        raise InvalidInput(field, "missing")
    if lower_mm is not None and upper_mm is not None and upper_mm < lower_mm:
        raise InvalidInput("upper_mm", "limits_upside_down", given=upper_mm, allowed=lower_mm)
