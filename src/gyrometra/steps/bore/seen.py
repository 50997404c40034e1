"""What was seen of a pass on Bore: chips, coolant, the edge, words; and what follows for the next pass."""

from __future__ import annotations

from dataclasses import dataclass

from gyrometra.cutting.models import CutEntry
from gyrometra.steps.page import JobPage

#: What can be said of a pass, as it is asked, with the choices.
ASKED = (
    ("chips", "Chips", CutEntry.Chips.choices), ("coolant", "Coolant", CutEntry.Coolant.choices),
    ("edge", "Edge", CutEntry.Edge.choices),
)  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class Asked:
    """One thing that can be said: its choices, and which stands."""

    name: str
    label: str
    choices: list[tuple[str, str, bool]]


def asked(page: JobPage, number: int) -> list[Asked]:
    """What can be said of a pass; coolant stands until something else is said."""
    return [
        Asked(name=name, label=label, choices=[(key, str(words), key == _standing(page, number, name))
                                               for key, words in choices])
        for name, label, choices in ASKED
    ]  # fmt: skip


def _standing(page: JobPage, number: int, name: str) -> str:
    rows = [row for row in page.cuts_logged.seen if name == "coolant" or row.number == number]
    return next((str(found) for row in reversed(rows) if (found := getattr(row, name))), "")


def seen_words(page: JobPage, number: int) -> str:
    """What was said of a pass, in one line."""
    own = [row for row in page.cuts_logged.seen if row.number == number]
    said = []
    for name, label, _ in ASKED:
        last = next((row for row in reversed(own) if getattr(row, name)), None)
        if last is not None:
            said.append(f"{label.lower()} {getattr(last, f'get_{name}_display')()}")
    return "; ".join((*said, *(row.text for row in own if row.text)))


def seen_notes(page: JobPage) -> list[str]:
    """What the last pass that was spoken of asks before the next."""
    done, left = page.passes.done, page.passes.left
    if not done or not left:
        return []
    number = done[-1].number
    chips, edge = _standing(page, number, "chips"), _standing(page, number, "edge")
    notes = [_CHIPS[chips].format(feeds=_feeds(page))] if chips in _CHIPS else []
    return [*notes, _EDGE[edge]] if edge in _EDGE else notes


_CHIPS = {
    "packed": "Chips pack in the bore: clear them out before the next pass; they push the bar and score the wall.",
    "long": "Long chips: more feed or a deeper pass breaks them{feeds}. Stop before you clear them.",
}
_EDGE = {
    "worn": "The edge is worn: turn or grind it before a pass that can end in the limits; its setting is void then.",
    "chipped": "The edge is chipped: change it, then measure before the next setting; the last pass came out smaller.",
    "built-up": "Built-up edge: it cuts large, then breaks off and cuts small. More speed, or oil.",
}


def _feeds(page: JobPage) -> str:
    """The feed of the next pass, and the next higher one that the machine has."""
    row = next((one for one in page.speeds.planned if one.cut.number == page.passes.left[0].number), None)
    if row is None or not row.feed_mm_rev:
        return ""
    units, feed = page.units, row.feed_mm_rev
    more = min((one for one in page.record.setup.machine.feeds_mm_rev if one > feed + 1e-9), default=None)
    now = f": {units.fine(feed)} a turn is planned"
    return f"{now}, {units.fine(more)} is next on this machine" if more is not None else now
