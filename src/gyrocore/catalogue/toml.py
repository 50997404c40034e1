"""Reading the tables of the catalogue."""

import tomllib
from importlib.resources import files
from typing import Any


def load(name: str) -> dict[str, Any]:
    """The entries of one table."""
    return tomllib.loads((files(__package__) / "data" / name).read_text(encoding="utf-8"))
