"""Two people at one form: what each changed is kept; where both changed one field, the second is told."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any


def as_posted(value: Any) -> str:
    """A shown value as a browser sends it back unchanged."""
    if value is None or value is False:
        return ""
    return "on" if value is True else str(value).replace("\r\n", "\n").strip()


def merged(
    names: Iterable[str], posted: Mapping[str, Any], was: Mapping[str, str], now: Mapping[str, str]
) -> tuple[dict[str, str], list[str]]:
    """Fields as they are wanted now, and those that both changed, to unlike values.

    `was` is what the form showed when it was opened, `now` what it would show to whoever opens it now.
    """
    found, both = {}, []
    for name in names:
        mine, before, theirs = as_posted(posted.get(name)), was.get(name, ""), now.get(name, "")
        found[name] = theirs if mine == before else mine
        if mine not in (before, theirs) and theirs != before:
            both.append(name)
    return found, both
