"""How a shaft sits in a hole: clearance, interference, or either."""

from __future__ import annotations

from dataclasses import dataclass

from gyrocore.checks import TOLERANCE
from gyrocore.choices import DecimalMark
from gyrocore.errors import InvalidInput
from gyrocore.limits.spec import Limits, read_limits
from gyrocore.notes import Note, note


@dataclass(frozen=True, slots=True, kw_only=True)
class Fit:
    """Greatest and least clearance, negative is interference [mm], and the kind of fit."""

    max_clearance_mm: float
    min_clearance_mm: float
    kind: str
    notes: tuple[Note, ...] = ()


def fit(*, hole: str, shaft: str, decimal_mark: DecimalMark | None = None) -> Fit:
    """Return the clearances of a hole and a shaft written as specs.

    Parameters
    ----------
    hole, shaft : specs as `read_limits` reads them, each with its own size; a class of the right kind
    decimal_mark : the writer's own decimal mark, see `units.read_length`

    Returns
    -------
    Fit: clearances [mm], kind `clearance`, `interference` or `transition`

    Raises
    ------
    InvalidInput
        At `hole` or `shaft`; at `shaft` where the two have unlike nominal sizes.

    References
    ----------
    ISO 286-1:2010, 3.3 (kinds of fit).

    Examples
    --------
    >>> fit(hole="72 H7", shaft="72 g6").kind
    'clearance'
    """
    in_hole, on_shaft = _read("hole", hole, decimal_mark), _read("shaft", shaft, decimal_mark)
    for field, limits, is_hole in (("hole", in_hole, True), ("shaft", on_shaft, False)):
        if limits.class_name and limits.class_name[0].isupper() != is_hole:
            code = "shaft_class_on_hole" if is_hole else "hole_class_on_shaft"
            raise InvalidInput(field, code, given=limits.class_name)
    sizes = in_hole.nominal_mm, on_shaft.nominal_mm
    if None not in sizes and abs((sizes[0] or 0) - (sizes[1] or 0)) > TOLERANCE:
        raise InvalidInput("shaft", "unlike_nominals", given=sizes[1], hole_mm=sizes[0])
    return fit_of(in_hole, on_shaft)


def fit_of(hole: Limits, shaft: Limits) -> Fit:
    """Return the clearances of limits already read.

    Parameters
    ----------
    hole, shaft : limits of size [mm]

    Returns
    -------
    Fit [mm]

    References
    ----------
    ISO 286-1:2010, 3.3: the kind follows from the sign of the extreme clearances.

    Examples
    --------
    >>> fit_of(read_limits("72 H7"), read_limits("72 p6")).kind
    'interference'
    """
    most, least = hole.upper_mm - shaft.lower_mm, hole.lower_mm - shaft.upper_mm
    if least >= -TOLERANCE:
        kind, remark = "clearance", note("fit_clearance", least_mm=least, most_mm=most)
    elif most <= TOLERANCE:
        kind, remark = "interference", note("fit_interference", least_mm=-most, most_mm=-least)
    else:
        kind, remark = "transition", note("fit_transition", play_mm=most, press_mm=-least)
    return Fit(max_clearance_mm=most, min_clearance_mm=least, kind=kind, notes=(remark,))


def _read(field: str, spec: str, decimal_mark: str | None) -> Limits:
    try:
        return read_limits(spec, None, decimal_mark)
    except InvalidInput as error:
        raise InvalidInput(field, error.code, given=error.given, allowed=error.allowed, **error.values) from None
