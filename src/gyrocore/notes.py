"""A note travels with a result: a code with values, worded later and in the reader's unit."""

from __future__ import annotations

from dataclasses import dataclass

from gyrocore.errors import Value


@dataclass(frozen=True, slots=True)
class Note:
    """One remark on a result; `code` is a key of `wording.sentences.NOTES`."""

    code: str
    values: tuple[tuple[str, Value], ...] = ()


def note(code: str, **values: Value) -> Note:
    """Build a note; a value whose name ends in `_mm` is worded in the reader's unit."""
    return Note(code, tuple(values.items()))
