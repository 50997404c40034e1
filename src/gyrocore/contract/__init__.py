"""The JSON face of the core (core contract): text in, text out, never a traceback."""

from __future__ import annotations

import json
import math
from collections.abc import Mapping
from dataclasses import fields, is_dataclass
from typing import Any

import numpy as np
from pydantic import TypeAdapter, ValidationError

from gyrocore.contract.table import CALCULATIONS, Calculation, calculation
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note
from gyrocore.wording import error_sentence, sentence

_TYPE_WORDS = {
    "float_type": "a number", "int_type": "a whole number", "int_from_float": "a whole number",
    "string_type": "text", "bool_type": "true or false", "list_type": "a list",
    "dict_type": "a table of names and numbers", "model_type": "an object",
    "model_attributes_type": "an object", "too_short": "a longer list", "too_long": "a shorter list",
    "string_too_long": "a shorter text", "literal_error": "one of the known words",
    "int_parsing_size": "a smaller whole number",
}  # fmt: skip
_LONGEST_SHOWN = 60


def schema(name: str, table: Mapping[str, Calculation] = CALCULATIONS) -> dict[str, Any]:
    """JSON Schema of a calculation's input and output."""
    entry = calculation(name, table)
    output = TypeAdapter(entry.result).json_schema(mode="serialization")
    _notes_are_sentences(output)
    return {"input": TypeAdapter(entry.input).json_schema(), "output": output}


def _notes_are_sentences(node: Any) -> None:
    """On paper a note is a code with values; on this interface it is a sentence."""
    if isinstance(node, dict):
        properties = node.get("properties", {})
        for key in ("notes", "reasons", "hints"):
            if key in properties:
                properties[key] = {"type": "array", "items": {"type": "string"}, "title": key.title()}
        node.get("$defs", {}).pop("Note", None)
        for child in node.values():
            _notes_are_sentences(child)


def run_text(name: str, text: str, table: Mapping[str, Calculation] = CALCULATIONS) -> tuple[dict[str, Any], bool]:
    """Work out one JSON text; returns the object to print and whether it is a result."""
    try:
        entry = calculation(name, table)
        return run(entry, _parse(text)), True
    except InvalidInput as error:
        return {"error": {"field": error.field, "message": error_sentence(error)}}, False


def run(entry: Calculation, values: dict[str, Any]) -> dict[str, Any]:
    """Work out one calculation from plain values; raises InvalidInput."""
    try:
        model = _read(entry.input, values)
    except ValidationError as error:
        raise _first_error(error) from None
    except OverflowError:
        raise InvalidInput("", "too_large") from None
    try:
        with np.errstate(over="raise", invalid="raise", divide="raise", under="ignore"):
            answer = _plain(entry.run(model))
    except InvalidInput:
        raise
    except (ArithmeticError, ValueError, RuntimeError):
        # figures so large or small that floats no longer hold them
        raise InvalidInput("", "too_large") from None
    _require_finite_answer(answer)
    return answer  # type: ignore[no-any-return]


_READERS: dict[type[Any], TypeAdapter[Any]] = {}


def _reader(shape: type[Any]) -> TypeAdapter[Any]:
    """Built once a shape: building takes longer than reading."""
    if shape not in _READERS:
        _READERS[shape] = TypeAdapter(shape)
    return _READERS[shape]


def _read(shape: type[Any], values: dict[str, Any]) -> Any:
    """Models read plain values; dataclasses read JSON, where strict means JSON's own types."""
    if is_dataclass(shape):
        return _reader(shape).validate_json(json.dumps(values))
    return _reader(shape).validate_python(values)


def _parse(text: str) -> dict[str, Any]:
    try:
        found = json.loads(text, object_pairs_hook=_no_repeats)
    except (json.JSONDecodeError, RecursionError, UnicodeError, ValueError):
        raise InvalidInput("", "malformed", given=text.strip()[:_LONGEST_SHOWN] or "nothing") from None
    if not isinstance(found, dict):
        raise InvalidInput("", "malformed", given=text.strip()[:_LONGEST_SHOWN])
    return found


def _no_repeats(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    found: dict[str, Any] = {}
    for key, value in pairs:
        if key in found:
            raise InvalidInput(key, "repeated_field")
        found[key] = value
    return found


def _first_error(error: ValidationError) -> InvalidInput:
    """The first fault as the core words it; unions name their branch, which no field has."""
    fault = error.errors(include_url=False)[0]
    path, kind, given = _path(fault["loc"]), fault["type"], fault.get("input")
    if kind in ("union_tag_invalid", "union_tag_not_found"):
        return _tag_error(path, fault)
    if kind == "missing":
        return InvalidInput(path, "missing")
    if kind == "extra_forbidden":
        return InvalidInput(path, "unknown_field", given=path)
    if kind == "finite_number":
        return InvalidInput(path, "not_finite", given=str(given))
    shown = json.dumps(given, default=str)[:_LONGEST_SHOWN]
    if kind == "literal_error":
        return InvalidInput(path, "unknown_choice", given=shown, choices=str(fault["ctx"]["expected"]))
    return InvalidInput(path, "wrong_type", given=shown, kind=_TYPE_WORDS.get(kind, "something else"))


_UNION_BRANCHES = ("str", "int", "float", "list[float]", "[key]")
#: Lists and fields whose things are told apart by a word, which pydantic puts into the path.
_TAGGED = ("entries", "setting")


def _path(places: tuple[int | str, ...]) -> str:
    """The dotted path of a fault, without the names of branches that no field has."""
    parts: list[str] = []
    for place in places:
        behind = [part for part in parts if not part.isdigit()]
        is_tag = behind == [parts[0]] and parts[0] in _TAGGED if parts else False
        if is_tag and isinstance(place, str) and parts[-1] != _SEEN:
            parts.append(_SEEN)
        elif place not in _UNION_BRANCHES:
            parts.append(str(place))
    return ".".join(part for part in parts if part != _SEEN)


_SEEN = "*"


def _tag_error(path: str, fault: Any) -> InvalidInput:
    word = str(fault["ctx"]["discriminator"]).strip("'")
    field = f"{path}.{word}"
    if fault["type"] == "union_tag_not_found":
        return InvalidInput(field, "missing")
    return InvalidInput(
        field, "unknown_choice", given=str(fault["ctx"]["tag"])[:_LONGEST_SHOWN], choices=fault["ctx"]["expected_tags"]
    )


def _plain(value: Any) -> Any:
    """Dataclasses, tuples and notes as plain JSON values."""
    if isinstance(value, Note):
        return sentence(value)
    if is_dataclass(value) and not isinstance(value, type):
        return {field.name: _plain(getattr(value, field.name)) for field in fields(value)}
    if isinstance(value, dict):
        return {name: _plain(item) for name, item in value.items()}
    if isinstance(value, (list, tuple)):
        return [_plain(item) for item in value]
    return value


def _require_finite_answer(value: Any) -> None:
    if isinstance(value, dict):
        value = list(value.values())
    if isinstance(value, list):
        for item in value:
            _require_finite_answer(item)
    elif isinstance(value, float) and not math.isfinite(value):
        raise InvalidInput("", "too_large")


__all__ = ["CALCULATIONS", "calculation", "run", "run_text", "schema"]
