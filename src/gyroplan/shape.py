"""How a record looks as JSON: strict, nothing unknown, finite numbers. The dataclasses below are the schema."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import BeforeValidator, ConfigDict, Field

#: Set as `__pydantic_config__` of every dataclass that is read from JSON.
STRICT = ConfigDict(extra="forbid", strict=True, allow_inf_nan=False)


def _whole(value: Any) -> Any:
    """JSON knows one kind of number: 2.0 is a whole number."""
    return int(value) if isinstance(value, float) and value.is_integer() else value


Count = Annotated[int, BeforeValidator(_whole)]
#: The contract says `pass`, a keyword of Python.
PassNumber = Annotated[int, BeforeValidator(_whole), Field(alias="pass")]
