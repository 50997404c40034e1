"""The JSON input of a function, made from its own parameters: names, types and defaults, nothing written twice.

A parameter that is a dataclass is an object of its own name, or is spread: its fields stand beside the others.
"""

from __future__ import annotations

import inspect
from collections.abc import Callable, Mapping, Sequence
from dataclasses import MISSING, fields, is_dataclass
from functools import cache
from types import NoneType, UnionType
from typing import Annotated, Any, Literal, Union, get_args, get_origin, get_type_hints

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field, create_model

from gyrocore.choices import Choices

Text = Annotated[str, Field(max_length=500)]


def _whole(value: Any) -> Any:
    """JSON knows one kind of number: 2.0 is a whole number."""
    return int(value) if isinstance(value, float) and value.is_integer() else value


Count = Annotated[int, BeforeValidator(_whole)]


class Input(BaseModel):
    """Strict: no unknown fields, no conversions, finite numbers."""

    model_config = ConfigDict(extra="forbid", strict=True, allow_inf_nan=False)


class Derived:
    """A function with the JSON input that was made from it."""

    def __init__(
        self, function: Callable[..., Any], spread: Sequence[str] = (), names: Mapping[str, str] | None = None
    ) -> None:
        """`spread` names dataclass parameters whose fields stand beside the others; `names` renames fields for JSON."""
        self.function, self.spread, self.names = function, tuple(spread), dict(names or {})
        hints = get_type_hints(function, include_extras=True)
        self.parameters = {
            name: (hints[name], parameter.default) for name, parameter in inspect.signature(function).parameters.items()
        }
        self.input: type[Input] = create_model(f"{function.__name__}_input", __base__=Input, **self._fields())

    def _fields(self) -> dict[str, Any]:
        made: dict[str, Any] = {}
        for name, (hint, default) in self.parameters.items():
            if name in self.spread:
                inner = _dataclass_in(hint)
                for field, (kind, own) in _dataclass_fields(inner).items():
                    made[self.names.get(field, field)] = (kind, own)
            else:
                made[self.names.get(name, name)] = (_json(hint), ... if default is inspect.Parameter.empty else default)
        return made

    def run(self, model: Input) -> Any:
        """Call the function with what the input says."""
        return self.function(**{name: self._value(name, hint, model) for name, (hint, _) in self.parameters.items()})

    def _value(self, name: str, hint: Any, model: Input) -> Any:
        def read(field: str, kind: Any) -> Any:
            return _python(kind, getattr(model, self.names.get(field, field)))

        if name not in self.spread:
            return read(name, hint)
        inner = _dataclass_in(hint)
        own = get_type_hints(inner, include_extras=True)
        return inner(**{field.name: read(field.name, own[field.name]) for field in fields(inner)})


def _dataclass_in(hint: Any) -> Any:
    """The dataclass of a hint, which may also be None."""
    return hint if is_dataclass(hint) else next(part for part in get_args(hint) if is_dataclass(part))


def _dataclass_fields(shape: Any) -> dict[str, tuple[Any, Any]]:
    hints = get_type_hints(shape, include_extras=True)
    return {f.name: (_json(hints[f.name]), _default(f)) for f in fields(shape)}


def _default(field: Any) -> Any:
    if field.default is not MISSING:
        return field.default
    return ... if field.default_factory is MISSING else Field(default_factory=field.default_factory)


@cache
def _object(shape: Any) -> type[Input]:
    """A dataclass as a JSON object."""
    made: dict[str, Any] = dict(_dataclass_fields(shape))
    return create_model(shape.__name__, __base__=Input, **made)


def _json(hint: Any) -> Any:
    """A parameter's type as JSON has it."""
    origin, parts = get_origin(hint), get_args(hint)
    if origin is Annotated:
        choices = next((extra for extra in parts[1:] if isinstance(extra, Choices)), None)
        return _json(parts[0]) if choices is None else Literal[choices.words]
    if origin in (Union, UnionType):
        # a name that may be a number is taken as it is written
        return hint if set(parts) == {str, int} else Union[tuple(_json(part) for part in parts)]  # noqa: UP007
    if isinstance(hint, type) and is_dataclass(hint):
        return _object(hint)
    if origin is None:
        return {int: Count, str: Text, NoneType: None}.get(hint, hint)
    return _listed_json(origin, parts)


def _listed_json(origin: Any, parts: tuple[Any, ...]) -> Any:
    """Pairs, tables and lists."""
    if origin is tuple and len(parts) == 2 and parts[1] is not Ellipsis:
        return Annotated[list[_json(parts[0])], Field(min_length=2, max_length=2)]  # type: ignore[misc]
    if issubclass(origin, Mapping):
        return dict[str, _json(parts[1])]  # type: ignore[misc]
    return list[_json(parts[0])]  # type: ignore[misc]


def _python(hint: Any, value: Any) -> Any:
    """What was read, as the parameter takes it: objects as their dataclasses, pairs as tuples."""
    if value is None:
        return None
    if isinstance(value, Input):
        shape = _dataclass_of(hint)
        own = get_type_hints(shape, include_extras=True)
        return shape(**{f.name: _python(own[f.name], getattr(value, f.name)) for f in fields(shape)})
    if isinstance(value, list):
        inner = _item_of(hint)
        made = [_python(inner, item) for item in value]
        return tuple(made) if _is_tuple(hint) else made
    return value


def _parts(hint: Any) -> tuple[Any, ...]:
    return get_args(hint) if get_origin(hint) in (Union, UnionType, Annotated) else (hint,)


def _dataclass_of(hint: Any) -> Any:
    return next(part for part in _parts(hint) if is_dataclass(part))


def _listed(hint: Any) -> Any:
    return next(part for part in _parts(hint) if get_origin(part) is not None and get_args(part))


def _item_of(hint: Any) -> Any:
    return get_args(_listed(hint))[0]


def _is_tuple(hint: Any) -> bool:
    return get_origin(_listed(hint)) is tuple
