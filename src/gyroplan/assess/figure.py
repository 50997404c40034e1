"""A figure that is found, or the reason why there is none."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Generic, TypeVar

from gyrocore import InvalidInput

T = TypeVar("T")


@dataclass(frozen=True)  # with slots a generic one cannot be made by `Figure[Line]()` on Python 3.11
class Figure(Generic[T]):
    """A figure: found; or refused, with the rule that refuses it; or waiting for something, by name."""

    value: T | None = None
    refused: InvalidInput | None = None
    #: Code of what is missing: bore-found, bar, cutter, head, bearings, drive, play, gauge, cap.
    missing: str = ""


def found_or_refused(work: Callable[[], T]) -> Figure[T]:
    """Work a figure out; the core's refusal is kept beside it."""
    try:
        return Figure(work())
    except InvalidInput as error:
        return Figure(refused=error)
