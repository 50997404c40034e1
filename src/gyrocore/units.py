"""Reading lengths as people write them, strictly: what could mean two things is refused.

Source: the inch is 25.4 mm exactly (international yard and pound agreement, 1959). Which
writings are read and which are refused is chosen here; see the core contract, `length`.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from fractions import Fraction
from math import isfinite

from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note

MM_PER_INCH = Fraction(254, 10)

#: named unit -> (millimetres in one, the unit family it belongs to)
_NAMED: dict[str, tuple[Fraction, str]] = {
    "mm": (Fraction(1), "mm"),
    "cm": (Fraction(10), "mm"),
    "m": (Fraction(1000), "mm"),
    "um": (Fraction(1, 1000), "mm"),
    "µm": (Fraction(1, 1000), "mm"),
    "micron": (Fraction(1, 1000), "mm"),
    "microns": (Fraction(1, 1000), "mm"),
    '"': (MM_PER_INCH, "in"),
    "in": (MM_PER_INCH, "in"),
    "in.": (MM_PER_INCH, "in"),
    "inch": (MM_PER_INCH, "in"),
    "inches": (MM_PER_INCH, "in"),
    "thou": (MM_PER_INCH / 1000, "in"),
    **dict.fromkeys(("millionth", "millionths", "uin", "µin"), (MM_PER_INCH / 1_000_000, "in")),
}
_PARTS = {"hundredth": 100, "hundredths": 100, "thousandth": 1000, "thousandths": 1000}
_PART_OF = re.compile(r"^(?P<part>[a-z]+)\s+(?:of\s+an?\s+|of\s+)?(?P<unit>[a-z\"µ.]+)$")
_SPLIT = re.compile(r"^(?P<number>[-+]?[\d.,/\s-]*\d[.,]?)\s*(?P<unit>.*)$", re.DOTALL)
_PLAIN = re.compile(r"^[-+]?\s*(?:\d+(?:[.,]\d*)?|[.,]\d+)$")
_GROUPED = re.compile(r"^[-+]?\s*[1-9]\d{0,2}(?P<mark>[.,])\d{3}(?:(?P=mark)\d{3})*(?:[.,]\d*)?$")
_FRACTION = re.compile(r"^(?P<sign>[-+]?)\s*(?:(?P<whole>\d+)(?:\s+|\s*-\s*))?(?P<top>\d+)\s*/\s*(?P<bottom>\d+)$")
_CHARACTERS = {
    "\u201c": '"', "\u201d": '"', "\u2033": '"', "\u201f": '"', "''": '"',
    "\u2212": "-", "\u2010": "-", "\u2011": "-", "\u2012": "-", "\u2013": "-",
    "\u03bc": "µ", "\u00a0": " ", "\u202f": " ", "\u2009": " ", "\u2044": "/",
    "\u00bd": " 1/2", "\u00bc": " 1/4", "\u00be": " 3/4",
    "\u215b": " 1/8", "\u215c": " 3/8", "\u215d": " 5/8", "\u215e": " 7/8",
}  # fmt: skip
#: Longer texts are no length; the bound also keeps the arithmetic small.
_LONGEST = 60


@dataclass(frozen=True, slots=True)
class Length:
    """A length as understood: millimetres, and the family (`mm`, `in`) it was written in."""

    length_mm: float
    written_in: str
    notes: tuple[Note, ...]


def clean_text(text: str) -> str:
    """Straighten quotes, minus signs, vulgar fractions and odd spaces."""
    for odd, plain in _CHARACTERS.items():
        text = text.replace(odd, plain)
    return " ".join(text.split())


def read_length(text: str, unit: str, decimal_mark: str | None = None) -> Length:
    """Read one length as people write it.

    Parameters
    ----------
    text : what was typed, for instance `2 11/16 in`, `18 thou`, `72,03`
    unit : `mm` or `in`, meant when the text names none
    decimal_mark : `,` or `.`, the writer's own; then a comma is never doubtful

    Returns
    -------
    Length with `length_mm` [mm]

    Raises
    ------
    InvalidInput
        At `text`, with both meanings where there are two.

    References
    ----------
    Chosen here (core contract, `length`): strict, because a doubtful size scraps a part.

    Examples
    --------
    >>> read_length('2 11/16"', "mm").length_mm
    68.2625
    """
    if unit not in ("mm", "in"):
        raise InvalidInput("unit", "not_a_unit", given=unit)
    if decimal_mark not in (None, ",", "."):
        raise InvalidInput("decimal_mark", "not_a_mark", given=decimal_mark)
    exact, family = _read(clean_text(text), unit, decimal_mark)
    notes = (note("read_in_inches", length_mm=float(exact)),) if family == "in" else ()
    try:
        return Length(float(exact), family, notes)
    except OverflowError:
        raise InvalidInput("text", "not_a_length", given=text) from None


def _read(text: str, unit: str, mark: str | None) -> tuple[Fraction, str]:
    if not text:
        raise InvalidInput("text", "no_length", given=text)
    readable = len(text) <= _LONGEST and text.replace("µ", "u").isascii()
    found = _SPLIT.match(text) if readable else None
    if found is None:
        raise InvalidInput("text", "not_a_length", given=text[:_LONGEST])
    number, name = found["number"].strip(), found["unit"].strip().lower()
    scale, family = _unit_of(text, name, unit)
    if "/" in number:
        return _fraction(text, number, name, family) * scale, family
    return _decimal(text, number, mark) * scale, family


def _unit_of(text: str, name: str, unit: str) -> tuple[Fraction, str]:
    if not name:
        return _NAMED[unit]
    if name in _NAMED:
        return _NAMED[name]
    if name in ("tenth", "tenths"):
        if unit == "in":
            return MM_PER_INCH / 10000, "in"
        raise InvalidInput("text", "tenths_in_mm", given=text)
    if name in ("mil", "mils"):
        raise InvalidInput("text", "mil", given=text)
    if name in _PARTS:
        raise InvalidInput("text", "bare_part", given=text, part=name)
    part = _PART_OF.match(name)
    if part and part["part"] in _PARTS and part["unit"] in ("mm", "in", "inch", '"'):
        scale, family = _NAMED[part["unit"]]
        return scale / _PARTS[part["part"]], family
    raise InvalidInput("text", "unknown_unit", given=text, unit=name)


def _fraction(text: str, number: str, name: str, family: str) -> Fraction:
    found = _FRACTION.match(number)
    if found is None or int(found["bottom"]) == 0:
        raise InvalidInput("text", "not_a_fraction", given=text)
    if family != "in":
        raise InvalidInput("text", "fraction_in_mm", given=text, mark=name or "none")
    part = Fraction(int(found["top"]), int(found["bottom"]))
    if found["whole"] is not None and part >= 1:
        raise InvalidInput("text", "not_a_fraction", given=text)
    size = int(found["whole"] or 0) + part
    return -size if found["sign"] == "-" else size


def _decimal(text: str, number: str, mark: str | None) -> Fraction:
    if mark is not None:
        number = _own_mark(number, mark)
    if "," in number and "." in number:
        raise InvalidInput("text", "comma_and_point", given=text)
    if not _PLAIN.match(number):
        code = "two_numbers" if re.search(r"\d\s*-\s*\d|\d\s+\d", number) else "not_a_length"
        raise InvalidInput("text", code, given=text)
    if mark is None:
        _refuse_doubtful_comma(text, number)
    return Fraction(number.replace(" ", "").replace(",", "."))


def _own_mark(number: str, mark: str) -> str:
    """With the writer's own decimal mark, the other one only groups thousands."""
    other = "." if mark == "," else ","
    grouped = _GROUPED.match(number)
    if grouped and grouped["mark"] == other:
        number = number.replace(other, "")
    return number.replace(",", ".") if number.count(",") + number.count(".") == 1 else number


def _refuse_doubtful_comma(text: str, number: str) -> None:
    before, comma, after = number.lstrip("+- ").partition(",")
    if comma and len(after) == 3 and before.strip("0"):
        raise InvalidInput("text", "doubtful_comma", given=text, small=f"{before}.{after}", large=before + after)


#: A reading under this share of a division cannot be read off: something else was meant.
_LEAST_SHARE = 0.2


def read_indicator(text: str, unit: str, step_mm: float, pointed: str | None = None) -> Length:
    """Read an indicator reading as it is called out at the machine.

    Parameters
    ----------
    text : a whole number counts divisions of this indicator (on a 0.01 mm dial 27 is 0.27); a number under 1 with a
        point is in the unit (.0015 is 0.0015 in); a unit that is written out counts as written
    unit : `mm` or `in`, the unit shown
    step_mm : one division of this indicator, over 0 [mm]
    pointed : what a number over 1 with a point means, `divisions` or `unit`; None where it was never said

    Returns
    -------
    Length with `length_mm` [mm], signed

    Raises
    ------
    InvalidInput
        At `text`: not readable, in doubt (`reading_asked`), or finer than the indicator shows.

    References
    ----------
    Shop practice: an indicator is read in divisions. Chosen here, because a decimal point tells the unit apart.

    Examples
    --------
    >>> read_indicator("27", "mm", 0.01).length_mm
    0.27
    >>> round(read_indicator(".0015", "in", 0.0254).length_mm, 6)
    0.0381
    """
    plain = clean_text(text)
    number = plain.lstrip("+- ").replace(",", ".")
    negative = plain.startswith("-")
    if number.isdigit() and number.isascii():
        return _divisions(float(number), negative, step_mm)
    if not _POINTED.match(number):
        return read_length(text, unit)
    _refuse_doubtful_comma(text, plain)
    value = float(number)
    if value > 1:
        if pointed is None:
            raise InvalidInput("text", "reading_asked", given=text, divisions=number, in_unit=f"{number} {unit}")
        if pointed == "divisions":
            return _divisions(value, negative, step_mm)
    found = read_length(text, unit)
    if 0 < abs(found.length_mm) < _LEAST_SHARE * step_mm:
        raise InvalidInput("text", "reading_too_fine", given=text, size_mm=abs(found.length_mm), step_mm=step_mm)
    return found


@dataclass(frozen=True, slots=True, kw_only=True)
class Needle:
    """Where a needle stands, the middle of where it dances, and half of how far it does [mm]."""

    length_mm: float
    half_mm: float


def read_needle(
    text: str, unit: str, step_mm: float, pointed: str | None = None, per_turn: int | None = None
) -> Needle:
    """Read an indicator whose needle stands still or dances, with its revolution counter: `27`, `3 to 7`, `2t 15`.

    Parameters
    ----------
    text, unit, step_mm, pointed : as `read_indicator`; of a range each end by itself, whichever comes first
    per_turn : divisions of one turn of the hand, what the counter counts; None where it is not known

    Returns
    -------
    Needle: the middle, and half the range [mm]

    Raises
    ------
    InvalidInput
        At `text`, as `read_indicator`; turns of a hand whose divisions are not known (`turns_unknown`).

    References
    ----------
    Shop practice: the middle of a dancing needle is what it points at.

    Examples
    --------
    >>> found = read_needle("3 to 7", "mm", 0.001)
    >>> round(found.length_mm, 6), round(found.half_mm, 6)
    (0.005, 0.002)
    """
    ends = [piece for piece in _RANGE.split(text.strip(), maxsplit=1) if piece.strip()]
    if len(ends) < 2:
        return Needle(length_mm=_turned(text, unit, step_mm, pointed, per_turn), half_mm=0.0)
    one, other = (_turned(piece, unit, step_mm, pointed, per_turn) for piece in ends)
    return Needle(length_mm=(one + other) / 2, half_mm=abs(one - other) / 2)


def _turned(text: str, unit: str, step_mm: float, pointed: str | None, per_turn: int | None) -> float:
    """A reading, with the turns of the revolution counter before it; its sign counts for both."""
    found = _TURNS.match(clean_text(text))
    if found is None:
        return read_indicator(text, unit, step_mm, pointed).length_mm
    if per_turn is None:
        raise InvalidInput("text", "turns_unknown", given=text)
    rest = found["rest"]
    size = int(found["turns"]) * per_turn * step_mm
    if rest:
        size += read_indicator(rest, unit, step_mm, pointed).length_mm
    return -size if found["sign"] == "-" else size


_TURNS = re.compile(
    r"^(?P<sign>[+-]?)\s*(?P<turns>\d{1,3})\s*(?:t|turns?|rev)\s*\+?\s*(?P<rest>[\d.,].*)?$", re.IGNORECASE
)
_RANGE = re.compile(r"\s*\.\.+\s*|\s*…\s*|\s+to\s+", re.IGNORECASE)
_POINTED = re.compile(r"^\d*\.\d+$|^\d+\.$")


def _divisions(count: float, negative: bool, step_mm: float) -> Length:
    return Length(-count * step_mm if negative else count * step_mm, "mm", ())


_FEET_PER_METRE = 1 / 0.3048
_SPEED = re.compile(r"^(?P<number>[\d.,]+)\s*(?P<unit>.*)$")
_FEET = ("ft/min", "fpm", "sfm", "sfpm", "ft", "feet", "feet/min", "feet per minute")
_METRES = ("m/min", "m", "mpm", "metres per minute", "meters per minute")


def read_surface_speed(text: str, unit: str) -> float:
    """Read a surface speed: m/min, or ft/min where that is written or the reader's lengths are inches.

    Parameters
    ----------
    text : `90`, `90 m/min`, `295 ft/min`, `295 fpm`, `295 sfm`
    unit : `mm` or `in`; bare numbers are m/min or ft/min

    Returns
    -------
    surface speed [m/min]

    Raises
    ------
    InvalidInput
        At `text`.

    References
    ----------
    The foot is 0.3048 m exactly (international yard and pound agreement, 1959).

    Examples
    --------
    >>> round(read_surface_speed("90", "in"), 3)
    27.432
    """
    found = _SPEED.match(clean_text(text).lower())
    name = found["unit"].strip() if found else ""
    if found is None or name not in ("", *_FEET, *_METRES):
        raise InvalidInput("text", "not_a_speed", given=text)
    try:
        number = float(found["number"].replace(",", "."))
    except ValueError:
        raise InvalidInput("text", "not_a_speed", given=text) from None
    in_feet = name in _FEET or (not name and unit == "in")
    return number / _FEET_PER_METRE if in_feet else number


def feet_min(speed_m_min: float) -> float:
    """A surface speed in feet a minute [m/min] -> [ft/min]; raises InvalidInput where it is not finite."""
    if not isfinite(speed_m_min):
        raise InvalidInput("speed_m_min", "not_finite", given=speed_m_min)
    return speed_m_min * _FEET_PER_METRE
