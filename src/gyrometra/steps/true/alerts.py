"""What is wrong with a round, or with the move before it, in words."""

from __future__ import annotations

from gyrocore import error_sentence, sentence
from gyrometra.bridge.units import Units
from gyroplan.assess import RoundStanding

#: What a move seems to have done instead of what was told.
_SUSPECTS = {
    "wrong-way": "The last move went the wrong way: it took the work twice as far off. Check the sign of the readings "
    "and from where the {place}s are numbered.",
    "twice": "The last move went twice as far as told: half the difference moves the work, not all of it.",
    "half": "The last move went half as far as told: the opposite side may have held.",
    "mirrored": "The last move went right along one pair and wrong along the other: are the {place}s numbered "
    "clockwise, {seen}?",
    "other-jaws": "The last move went square to what was told: the other pair was moved, or 0 degrees is "
    "not at the mark.",
}  # fmt: skip


def alerts_of(shown: RoundStanding | None, standing: RoundStanding | None, units: Units) -> list[str]:
    """What is wrong with the round that is shown, or with the move before it."""
    cannot = error_sentence(shown.cannot_tell, units.unit) if shown is not None and shown.cannot_tell else ""
    off = off_scale_words(shown) if shown is not None else ""
    every = (_void_words(shown, units), off, _not_round_words(shown, units), _suspect_words(standing), cannot)
    return [words for words in every if words]


def _suspect_words(view: RoundStanding | None) -> str:
    if view is None or view.figures is None or view.figures.suspect is None:
        return ""
    place = view.way.place_word.strip() or "place"
    return _SUSPECTS[view.figures.suspect].format(place=place, seen=view.way.seen_from)


def _void_words(view: RoundStanding | None, units: Units) -> str:
    """Why a round says nothing."""
    if view is None or not view.is_void:
        return ""
    back = view.came_back_off_mm
    if back is not None and abs(back) > view.closing_mm:
        return (
            f"Back at start it read {units.planned(abs(back))} off, {units.planned(view.closing_mm)} allowed: the "
            "indicator is loose, or the work moved. The round is void."
        )
    return "The round was not read to its end: it says nothing." if not view.cannot_tell else ""


def _not_round_words(view: RoundStanding | None, units: Units) -> str:
    """Four readings that cannot be those of one circle: an oval, or a slip."""
    circle = None if view is None else view.by_circle
    if circle is None or circle.holds is not False:
        return ""
    return " ".join(sentence(one, units.unit) for one in circle.notes)


def off_scale_words(view: RoundStanding) -> str:
    """Readings past the end of the scale say only which way: bring it back on to the scale first."""
    places = view.off_scale
    if not places:
        return ""
    outside = view.round.surface != "inside"
    angles = view.round.angles_deg
    place, text = next(iter(places.items()))
    high = text.endswith("+") != view.round.plus_out
    name = view.way.place_name(angles[place])
    toward = "away from" if high == outside else "toward"
    return f"Off the scale at {name}: move the work {toward} {name} until the needle comes back, then sweep again."
