"""The ask line: one typed sentence becomes one filled bench line."""

from __future__ import annotations

import re
from dataclasses import dataclass

from gyrocore import InvalidInput, read_limits
from gyrometra.bench.lines import LINES, Line
from gyrometra.bench.lines.cutting import material_named
from gyrometra.bridge.units import Units

_NUMBER = r"[-+−]?(?:\d+(?:[.,]\d+)?|[.,]\d+)"
_UNIT = (
    r"(?:\s?(?:thou|tenths?|hundredths? mm|microns?|um|µm|mm|cm|inch(?:es)?|in|ft/min|fpm|sfm|m/min|tpi|"
    r"[\"″”])(?![a-z]))?"
)
#: A length as people write it inside a sentence: whole and fraction belong together.
_SIZE = re.compile(rf"(?:\d+[ -])?\d+/\d+{_UNIT}|{_NUMBER}{_UNIT}", re.IGNORECASE)
#: Words that only separate figures.
_JOINING = re.compile(r"\b(?:over|at|from|to|for|of|and|x|mm/rev|rpm|out)\b", re.IGNORECASE)


class NotUnderstood(Exception):
    """The sentence that says what was not understood, and what would be."""


@dataclass(frozen=True)
class Asked:
    """A line and what to fill in."""

    line: type[Line]
    values: dict[str, str]

    def form(self, units: Units) -> Line:
        """The line, filled."""
        return self.line({f"{self.line.key}-{name}": value for name, value in self.values.items()}, units=units)


def understand(text: str, units: Units) -> Asked:
    """Which line is meant, with which figures; raises NotUnderstood."""
    asked = " ".join(text.split())
    first, _, rest = asked.partition(" ")
    if _is_sum(asked):
        return Asked(LINES["sum"], {"sum": asked})
    for line in LINES.values():
        if first.lower() in line.verbs:
            return _verb(line, rest, units)
    if _is_limits(asked):
        return _limits(asked)
    if _is_length(asked, units):
        return Asked(LINES["convert"], {"length": asked})
    raise NotUnderstood(f"{_short(asked)} is not understood. Write it like {_examples()}.")


def _is_sum(text: str) -> bool:
    """Lengths with a plus or a minus between them, spaces on both sides."""
    return bool(re.match(rf"^(?:\d+[ -])?(?:\d+/\d+|{_NUMBER}){_UNIT}\s+[-+−]\s+\S", text, re.IGNORECASE)) and bool(
        re.search(r"\s[-+−]\s", text)
    )


def _verb(line: type[Line], rest: str, units: Units) -> Asked:
    if line.key == "sum":
        return Asked(line, {"sum": rest})
    if line.key != "limits":
        return _filled(line, rest)
    pieces = rest.replace(",", " ").split()
    if len(pieces) == _PAIR and all(_is_length(piece, units) for piece in pieces):
        return _filled(LINES["play"], rest)
    return _limits(rest)


#: A bore and a shaft, both measured.
_PAIR = 2


def _is_limits(text: str) -> bool:
    """Whether it begins as limits do: a size with a class or deviations."""
    hole = re.split(r"\s*/\s*(?=[a-z])|,|\s+(?=[a-z]{1,2}\d)", text)[0]
    try:
        read_limits(hole)
    except InvalidInput as error:
        return bool(re.match(rf"^{_NUMBER}\s*[A-Za-z]{{1,2}}\d{{1,2}}\b", text)) and error.code != "no_limits"
    return True


def _limits(text: str) -> Asked:
    """`64 H7`, `64 H7/g6`, `64 H7 64 g6`, `72 H7, 71.99-72.01`."""
    pieces = re.split(r"\s*/\s*(?=[a-z])|\s*,\s+|\s+(?=[a-z]{1,2}\d)|\s+(?=\d[\d.]*\s*[a-z]{1,2}\d)", text, maxsplit=1)
    hole, shaft = pieces[0].strip(), pieces[1].strip() if len(pieces) > 1 else ""
    if not hole:
        raise NotUnderstood(f"Limits of what? Write it like {LINES['limits'].example}.")
    return Asked(LINES["limits"], {"hole": hole, "shaft": shaft})


def _is_length(text: str, units: Units) -> bool:
    try:
        units.read(text)
    except InvalidInput as error:
        return error.code not in ("not_a_length", "no_length", "unknown_unit", "two_numbers")
    return True


def _filled(line: type[Line], rest: str) -> Asked:
    sizes = _SIZE.findall(rest)
    words = " ".join(_JOINING.sub(" ", _SIZE.sub(" ", rest)).replace(",", " ").split())
    values: dict[str, str] = {}
    wanted = list(line.sizes)
    if line.word_field and words:
        values[line.word_field] = _choice(line, words)
        wanted = [name for name in wanted if name != line.word_field]
    elif words:
        raise NotUnderstood(f"{_short(words)} is not understood here. Write it like {line.example}.")
    if len(sizes) > len(wanted):
        raise NotUnderstood(f"{len(sizes)} figures were given; {line.title.lower()} takes {len(wanted)}. "
                            f"Write it like {line.example}.")  # fmt: skip
    values.update(zip(wanted, (size.strip() for size in sizes), strict=False))
    missing = [name for name in wanted if name not in values and name in _needed(line)]
    if missing:
        labels = ", ".join(str(line.base_fields[name].label) for name in missing)
        raise NotUnderstood(f"{line.title}: {labels} is missing. Write it like {line.example}.")
    return Asked(line, values)


def _needed(line: type[Line]) -> list[str]:
    form = line({}, units=Units())
    return [name for name in line.sizes if form.is_needed(name)]


def _choice(line: type[Line], words: str) -> str:
    """The word as the field takes it: a choice by any unlike part of its name, else as typed."""
    choices = dict(getattr(line.base_fields[line.word_field], "choices", []))
    if not choices:
        return words
    found = material_named(words) if line.word_field == "material" else None
    if found:
        return found.name
    lowered = words.lower()
    named = [key for key, label in choices.items() if lowered in (str(key), str(label).lower())]
    named = named or [key for key, label in choices.items() if lowered in str(label).lower()]
    if len(named) != 1:
        names = ", ".join(str(label) for label in choices.values())
        raise NotUnderstood(f"{_short(words)} is not known here; there are {names}.")
    return str(named[0])


def _short(text: str) -> str:
    return f"“{text[:50]}”" if text else "Nothing"


def _examples() -> str:
    return ", ".join(LINES[key].example for key in ("speed", "cutter", "half", "taper")) + ", 64 H7 or 2 11/16 in"
