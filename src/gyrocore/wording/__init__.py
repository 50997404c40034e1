"""Code + values + unit -> the sentence a machinist reads."""

from __future__ import annotations

from decimal import ROUND_HALF_UP, Decimal

from gyrocore.errors import InvalidInput, Value
from gyrocore.notes import Note
from gyrocore.wording.sentences import ERRORS, NOTES

_UNIT_WORDS = {
    "_m_min": " m/min", "_mm_rev": " mm/rev", "_mm_100mm": " mm in 100", "_mm": " mm",
    "_rpm": " rpm", "_mpa": " MPa", "_gpa": " GPa", "_hz": " Hz", "_deg": " deg", "_um": " um",
    "_n_mm": " N/mm", "_c": " C",
}  # fmt: skip
_MM_PER_INCH = 25.4
#: Values that are counts, whatever the unit of the field they stand with.
_COUNTS = ("passes", "count")
_LARGEST_SHOWN = 1e300
#: Past this a float holds no halves to round.
_LARGEST_ROUNDED = 1e12


def length_words(value_mm: float, unit: str = "mm", *, digits: int | None = None) -> str:
    """A length as printed: 0.001 mm or 0.0001 in unless digits are given; no trailing noise."""
    size = value_mm if unit == "mm" else value_mm / _MM_PER_INCH
    places = digits if digits is not None else (3 if unit == "mm" else 4)
    text = rounded_words(size, places)
    if digits is None and "." in text:
        text = text.rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text


def rounded_words(value: float, places: int) -> str:
    """A number to so many places, halves away from zero, as a person rounds: 71.6055 is 71.606."""
    if abs(value) >= _LARGEST_ROUNDED:
        return f"{value:.{places}f}"
    step = Decimal(1).scaleb(-places)
    shown = Decimal(repr(round(value, 9))).quantize(step, rounding=ROUND_HALF_UP)
    return f"{shown:f}"


def field_words(field: str) -> str:
    """A field's name as words: `bar.overhang_mm` -> `overhang`."""
    last = [part for part in field.split(".") if not part.isdigit()][-1:] or ["this"]
    name = last[0]
    for suffix in sorted(_UNIT_WORDS, key=len, reverse=True):
        if name.endswith(suffix):
            name = name[: -len(suffix)]
            break
    return name.replace("_", " ")


def _field_unit(field: str) -> str:
    parts = [part for part in field.split(".") if not part.isdigit()]
    name = parts[-1] if parts else ""
    for suffix in sorted(_UNIT_WORDS, key=len, reverse=True):
        if name.endswith(suffix):
            return suffix
    return ""


def _value_words(name: str, value: Value, unit: str) -> str:
    if isinstance(value, bool) or value is None or isinstance(value, str):
        return str(value)
    if abs(value) > _LARGEST_SHOWN:
        return "a number too large to print"
    if name.endswith("_mm") and not name.endswith("_n_mm"):
        return f"{length_words(float(value), unit)} {unit}"
    if name.endswith("_rpm"):
        return f"{value:.0f}"
    return f"{value:.6g}"


def sentence(remark: Note, unit: str = "mm") -> str:
    """The note as a sentence, lengths in `unit`."""
    words = {name: _value_words(name, value, unit) for name, value in remark.values}
    return NOTES[remark.code].format(**words)


def error_sentence(error: InvalidInput, unit: str = "mm", what: str | None = None) -> str:
    """The error as a sentence, lengths in `unit`; `what` is the page's own word for the field."""
    suffix = _field_unit(error.field)
    what = what or field_words(error.field)

    def words(name: str, value: Value) -> str:
        if name in _COUNTS:
            return str(value)
        if name.endswith("_mm") or isinstance(value, (str, bool)) or value is None:
            return _value_words(name, value, unit)
        if suffix == "_mm":
            return _value_words("_mm", value, unit)
        return _value_words("", value, unit) + _UNIT_WORDS.get(suffix, "")

    values = {name: words(name, value) for name, value in error.values.items()}
    values["given"] = words("given", error.given)
    values["allowed"] = words("allowed", error.allowed)
    values["What"] = what[:1].upper() + what[1:]
    return ERRORS[error.code].format(**values)
