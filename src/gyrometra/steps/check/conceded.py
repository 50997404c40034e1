"""Concessions on Check and on reports: each limit that is not in limits in words, with the reason it was accepted."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from django.utils.timezone import localtime

from gyrometra.bridge.units import Units
from gyrometra.steps import progress_words
from gyrometra.steps.check.verdict import LIMIT_NAMES
from gyrometra.steps.page import JobPage
from gyroplan.assess import NotIn

#: Limits by their name in a report.
WHATS = {
    "size": "Size, Ø", "plug": "Size, go and no-go", "in-line": "Bores in line, Ø",
    **LIMIT_NAMES,
}  # fmt: skip
OF_FEATURE = {"size": "size", "angle": "angle", "runout": "run-out (TIR)", "form": "form"}
VERDICTS = {"over": "over", "under": "metal left", "undecided": "not proven", "incomplete": "not measured"}
#: So many limits have a line of their own; the rest are accepted by the one reason for all.
_MOST = 12


@dataclass(frozen=True, kw_only=True)
class ConcededLine:
    """One limit that would be accepted: its key, and what it is."""

    key: str
    words: str
    reason: str = ""


def what_words(what: str, name: str) -> str:
    """The name of a limit."""
    if what.startswith("feature-"):
        return f"{name}: {OF_FEATURE[what.removeprefix('feature-')]}"
    return WHATS[what]


def degrees(value: float) -> str:
    """An angle as it is printed."""
    return f"{value:.2f}".rstrip("0").rstrip(".") + "°"


def to_concede(found: Sequence[NotIn], units: Units, typed: Mapping[str, str]) -> list[ConcededLine]:
    """Each limit that a signature would accept, with what was typed for it."""
    return [ConcededLine(key=one.key, words=_words(one, units), reason=typed.get(one.key, "")) for one in found[:_MOST]]


def reasons_typed(form: Mapping[str, Any]) -> dict[str, str]:
    """The reasons of a form by the key of their limit."""
    found = {name.removeprefix("because-"): str(form[name]) for name in form if name.startswith("because-")}
    return {key: "".join(one if one.isprintable() else " " for one in text).strip()[:200]
            for key, text in found.items() if text.strip()}  # fmt: skip


def kept_values(found: Sequence[NotIn]) -> list[dict[str, Any]]:
    """The limits as they are kept with a signature, each still without its reason."""
    return [
        {"key": one.key, "setup": one.setup, "of": one.of, "what": one.what, "name": one.name,
         "lower_mm": one.lower_mm, "upper_mm": one.upper_mm, "found_mm": one.found_mm, "verdict": one.verdict,
         "is_angle": one.is_angle}
        for one in found
    ]  # fmt: skip


def conceded_words(verdict: Mapping[str, Any], units: Units) -> list[str]:
    """Each limit that was accepted, with its reason; of signatures of an older make the one reason."""
    kept = verdict.get("concessions")
    if kept is None:
        return [str(verdict["reason"])] if verdict.get("reason") else []
    told: dict[str, list[str]] = {}
    for one in kept:
        reason = one["reason"]
        named = NotIn(**{name: value for name, value in one.items() if name not in ("key", "reason")})
        told.setdefault(reason, []).append(_words(named, units))
    return [f"{'; '.join(limits)}. Because: {reason}" for reason, limits in told.items()]


@dataclass(frozen=True, kw_only=True)
class PastWords:
    """A signature that was taken back, with who and why; its key leads to the report as it was signed."""

    key: int
    words: str


def past_words(page: JobPage) -> list[PastWords]:
    """Signatures that were taken back, oldest first."""
    day = "{:%d %b %Y %H:%M}".format
    return [
        PastWords(key=one.pk, words=(
            f"{progress_words.VERDICT_WORDS.get(str(one.verdict.get('word', '')), 'Signed')}, by {one.by.username} "
            f"{day(localtime(one.at))}; reopened by {one.reopened_by.username} {day(localtime(one.reopened_at))}: "
            f"{one.reason}"))
        for one in page.past_signoffs
    ]  # fmt: skip


def _words(one: NotIn, units: Units) -> str:
    shown = degrees if one.is_angle else units.planned
    of = f"{one.of} in set-up {one.setup}".strip() if one.setup else one.of
    if one.what in ("match", "piece"):
        head = f"{of[:1].upper()}{of[1:]}"
    else:
        head = what_words(one.what, one.name) + (f" of {of}" if of else "")
    found = "" if one.found_mm is None else f" {shown(one.found_mm)}"
    asked = asked_words(units, one.lower_mm, one.upper_mm, is_angle=one.is_angle)
    return f"{head}{found}, {VERDICTS[one.verdict]}" + (f" ({asked})" if asked else "")


def asked_words(
    units: Units, lower: float | None, upper: float | None, *, is_angle: bool, most: str = "at most "
) -> str:
    """Limits as they are asked: of a size rounded inward, nobody is told one that the drawing does not allow."""
    if upper is None:
        return ""
    if lower is None:
        return f"{most}{degrees(upper) if is_angle else units.fine(upper)}"
    low, high = (degrees, degrees) if is_angle else (units.lowest, units.highest)
    return f"{low(lower)} to {high(upper)}"
