"""Reading limits as people write them: a class, plus and minus, or from-to."""

from __future__ import annotations

import re
from dataclasses import dataclass

from gyrocore.checks import TOLERANCE, require_positive
from gyrocore.errors import InvalidInput
from gyrocore.limits import iso286
from gyrocore.notes import Note, note
from gyrocore.units import clean_text, read_length

_CLASS = re.compile(r"^(?P<size>.*?)\s*(?P<letter>JS|js|[A-Za-z]{1,2})\s?(?P<grade>\d{1,2})$")
_UNIT = re.compile(r"(?P<unit>\"|\b(?:mm|inch(?:es)?|in|thou|um|µm|microns?|cm)\b|in$|mm$)\s*$", re.I)


@dataclass(frozen=True, slots=True)
class Limits:
    """Two limits of size, with the nominal size and the class where the writing has one [mm]."""

    nominal_mm: float | None
    lower_mm: float
    upper_mm: float
    tolerance_mm: float
    middle_mm: float
    notes: tuple[Note, ...]
    class_name: str | None = None


@dataclass(frozen=True, slots=True)
class _Reader:
    """How bare numbers are read: the writer's unit and decimal mark."""

    unit: str
    mark: str | None


#: Units that are written behind a deviation alone: the size before it keeps the writer's own.
_SUB_UNITS = ("thou", "um", "µm", "micron", "microns")


def read_limits(
    spec: str, nominal_mm: float | None = None, decimal_mark: str | None = None, unit: str = "mm"
) -> Limits:
    """Read limits of size.

    Parameters
    ----------
    spec : `72 H7`, `H7`, `72 +0.03/0`, `72 ±0.01`, `72.00-72.03`, `72.00/72.03`
    nominal_mm : nominal size where the spec has none [mm]
    decimal_mark : the writer's own decimal mark, see `units.read_length`
    unit : `mm` or `in`, meant where the spec names none

    Returns
    -------
    Limits, all [mm]

    Raises
    ------
    InvalidInput
        At `spec`, or at `nominal_mm` where it is missing or contradicts the spec.

    References
    ----------
    Classes: ISO 286-1:2010 (`iso286`). The writings: core contract, `limits`.

    Examples
    --------
    >>> read_limits("72 H7").upper_mm
    72.03
    """
    require_positive(nominal_mm=nominal_mm)
    text = clean_text(spec)
    if not text:
        raise InvalidInput("spec", "no_limits", given=spec)
    text = text.replace("+/-", "±").lstrip("Øø⌀ ")
    if unit not in ("mm", "in"):
        raise InvalidInput("unit", "not_a_unit", given=unit)
    mark = _Reader(unit, decimal_mark)
    found = _CLASS.match(text)
    if found and (found["letter"].lower() in iso286.COVERED + iso286.NOT_COVERED or len(found["letter"]) == 1):
        return _by_class(found, nominal_mm, mark)
    shared = _UNIT.search(text)
    written = shared["unit"] if shared else ""
    if "±" in text:
        return _symmetric(text, written, nominal_mm, mark)
    return _plain(text, written, nominal_mm, mark)


def _plain(text: str, unit: str, nominal_mm: float | None, mark: _Reader) -> Limits:
    deviated = _split_deviations(text)
    if deviated:
        return _by_deviations(deviated, unit, nominal_mm, mark)
    return _by_range(text, unit, nominal_mm, mark)


def _number(text: str, unit: str, mark: _Reader) -> float:
    """One number of a spec; the unit at the end of the spec counts for those without."""
    text = text.strip()
    bare = re.fullmatch(r"[-+]?\s*[\d.,/\s-]*", text) is not None
    if bare and unit:
        text = f"{text} {unit}"
    try:
        length = read_length(text, mark.unit, mark.mark)
    except InvalidInput as error:
        raise InvalidInput("spec", error.code, given=error.given, allowed=error.allowed, **error.values) from None
    return length.length_mm


def _nominal(text: str, unit: str, nominal_mm: float | None, mark: _Reader) -> float:
    if not text.strip():
        if nominal_mm is None:
            raise InvalidInput("nominal_mm", "nominal_missing")
        return nominal_mm
    size = _number(text, "" if unit.lower() in _SUB_UNITS else unit, mark)
    if size <= 0:
        raise InvalidInput("spec", "not_positive", given=size, allowed=0)
    if nominal_mm is not None and abs(size - nominal_mm) > TOLERANCE:
        raise InvalidInput("nominal_mm", "nominal_contradicts", given=nominal_mm, allowed=size)
    return size


def _by_class(found: re.Match[str], nominal_mm: float | None, mark: _Reader) -> Limits:
    nominal = _nominal(found["size"], "", nominal_mm, mark)
    if mark.unit == "in" and nominal > iso286.LARGEST_MM and found["size"].strip():
        raise InvalidInput("spec", "class_in_inches", given=found.string, size=found["size"].strip())
    letter, grade = found["letter"], int(found["grade"])
    try:
        lower, upper = iso286.deviations_um(nominal, letter, grade)
    except InvalidInput as error:
        at_nominal = error.code == "size_not_covered" and not found["size"].strip()
        field = "nominal_mm" if at_nominal else "spec"
        raise InvalidInput(field, error.code, given=error.given, allowed=error.allowed, **error.values) from None
    return _limits(nominal, nominal + lower / 1000, nominal + upper / 1000, f"{letter}{grade}")


def _symmetric(text: str, unit: str, nominal_mm: float | None, mark: _Reader) -> Limits:
    left, _, right = text.partition("±")
    if not right.strip() or right.strip()[0] in "+-":
        raise InvalidInput("spec", "no_limits", given=text)
    _refuse_mixed_units(text, left, right)
    nominal = _nominal(left, unit, nominal_mm, mark)
    deviation = _number(right, unit, mark)
    return _limits(nominal, nominal - deviation, nominal + deviation)


def _split_deviations(text: str) -> tuple[str, str, str] | None:
    """Nominal, upper and lower deviation texts, where the spec is written that way."""
    number = r"[-+]\s*(?:\d+\s*/\s*[1-9]\d*(?=\s*[a-z\"])|[\d.,]+)|(?<![\d.,])0(?:[.,]0*)?"
    unit = r"(?:\s*(?:\"|mm|in|inch|thou|um|µm|microns?))?"
    found = re.match(
        rf"^(?P<nominal>.*?)(?P<a>(?:{number}){unit})\s*(?:/|\s)\s*(?P<b>(?:{number}){unit})$",
        text,
        re.IGNORECASE,
    )
    if found is None or (found["a"][0] not in "+-" and found["b"][0] not in "+-"):
        return None
    nominal = found["nominal"]
    glued = nominal and nominal[-1] in "0123456789.," and found["a"][0] not in "+-"
    if glued or nominal.rstrip().endswith("/"):
        return None
    return nominal, found["a"], found["b"]


def _by_deviations(parts: tuple[str, str, str], unit: str, nominal_mm: float | None, mark: _Reader) -> Limits:
    left, first, second = parts
    _refuse_mixed_units(" ".join(parts), left, first + second)
    nominal = _nominal(left, unit, nominal_mm, mark)
    upper, lower = _number(first, unit, mark), _number(second, unit, mark)
    if upper <= lower:
        raise InvalidInput("spec", "upside_down", given=f"{first.strip()}/{second.strip()}")
    return _limits(nominal, nominal + lower, nominal + upper)


def _refuse_mixed_units(text: str, size: str, deviation: str) -> None:
    """An inch size with deviations that name no unit could mean inches or millimetres."""
    if re.search(r"\"|in", size) and not re.search(r"[a-zA-Zµ\"]", deviation):
        raise InvalidInput("spec", "deviation_unit", given=text)


def _by_range(text: str, unit: str, nominal_mm: float | None, mark: _Reader) -> Limits:
    ends = _range_ends(text, unit, mark)
    if not ends:
        raise InvalidInput("spec", "no_limits", given=text)
    if len(ends) > 1:
        raise InvalidInput("spec", "two_ranges", given=text)
    lower, upper = ends[0]
    if lower <= 0:
        raise InvalidInput("spec", "not_positive", given=lower, allowed=0)
    if upper <= lower:
        raise InvalidInput("spec", "reversed_range", given=text)
    return _limits(nominal_mm, lower, upper)


def _range_ends(text: str, unit: str, mark: _Reader) -> list[tuple[float, float]]:
    """Every way of reading the text as two sizes; a text that is one size gives none."""
    try:
        _number(text, unit, mark)
        return []
    except InvalidInput as error:
        if error.code not in (
            "two_numbers",
            "not_a_fraction",
            "not_a_length",
            "unknown_unit",
            "comma_and_point",
        ):
            raise
    found, doubt = [], None
    for cut in re.finditer(r"\s+to\s+|-|/", text):
        left, right = text[: cut.start()], text[cut.end() :]
        if cut.start() == 0 or (cut[0] == "/" and _whole_both_sides(left, right)):
            continue
        try:
            found.append((_number(left, unit, mark), _number(right, unit, mark)))
        except InvalidInput as error:
            if error.code in ("doubtful_comma", "comma_and_point", "mil", "bare_part"):
                doubt = error
    if not found and doubt:
        raise doubt
    return [pair for pair in found if pair[1] > 0] or found


def _whole_both_sides(left: str, right: str) -> bool:
    """Whether the slash between them stands in a fraction."""
    before = re.search(r"[\d.,]+\s*$", left)
    after = re.match(r"\s*[\d.,]+", right)
    if not before or not after:
        return False
    return before[0].strip().isdigit() and after[0].strip().isdigit()


def _limits(nominal: float | None, lower: float, upper: float, class_name: str | None = None) -> Limits:
    if upper - lower <= 0:
        raise InvalidInput("spec", "equal_limits", given=lower)
    if lower <= 0:
        raise InvalidInput("spec", "not_positive", given=lower, allowed=0)
    notes = (note("iso_class", name=class_name),) if class_name else ()
    return Limits(nominal, lower, upper, upper - lower, (lower + upper) / 2, notes, class_name)
