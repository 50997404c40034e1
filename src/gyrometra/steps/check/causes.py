"""What most likely made the bore the shape it has, in words: what is known of it, and the check that tells."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyrometra.bridge.units import Units
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.preflight import shown_by_machine
from gyroplan.assess import Cause, Evidence, causes_of
from gyroplan.machine import KINDS

_SHAPES = {
    "taper": "Taper", "curved": "Grows, but not straight", "bellmouth": "Bell mouth", "barrel": "Barrel",
    "hourglass": "Hourglass", "oval": "Oval",
}  # fmt: skip
_CAUSES = {
    "path": "the bar's path is not parallel to the axis",
    "edge-wears": "the edge wore on the way",
    "bar-bends-more": "the bar bends more the deeper it stands",
    "pads-wear": "pads or guides wore on the way",
    "path-leans": "a path out of line shows no taper where the bar turns",
    "springs-in": "the bar springs as the edge comes in or leaves",
    "edge-enters": "it was fed in too fast",
    "guide-lost": "the bar lost its guide at the end",
    "wall-gives": "the wall gives under the clamps",
    "bar-bends-middle": "the bar bends most between its bearings",
    "two-sides": "bored from both sides, or turned end for end",
    "clamping": "clamped out of round",
    "spindle-play": "play in the spindle or a centre",
    "unbalance": "what turns is out of balance",
    "head-tram": "the head leans against the table",
}  # fmt: skip
_TELLS = {
    "spring-pass": "one more pass at the same setting cuts only where the bar sprang",
    "new-edge": "a fresh edge at the same setting: the taper is gone if it was wear",
    "shallower": "half the depth halves it, if the bar bends",
    "pads": "measure the pads before and after",
    "lean": "sweep it at both ends: it leans, the sizes are alike",
    "slower-in": "feed in by hand: gone if it was that",
    "guide": "see whether the pilot still stands in its bush at the end",
    "unclamp": "slacken the clamps and measure again before it is moved",
    "third-bearing": "one more bearing takes it away: see Bar",
    "from-one-side": "the step or the waist stands where the two met",
    "push-pull": "push and pull at the spindle: see the machine's checks",
    "slower": "half the speed: unbalance goes with its square",
    "tram": "tram the head on two diameters",
}  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class CauseWords:
    """The shape with its figure, the likeliest cause, how to tell, what else it may be."""

    head: str
    likely: str
    known: str
    tell: str
    others: Sequence[str]


def cause_words(page: JobPage) -> CauseWords | None:
    """None where the bore's form needs no cause."""
    units = page.units
    found = causes_of(page.assessment, page.piece, page.place, lambda: shown_by_machine(page))
    if found is None:
        return None
    slope = ""
    if found.slope_mm_m is not None:
        way = "larger inside" if found.slope_mm_m > 0 else "smaller inside"
        slope = f", {way}: its wall slopes {abs(found.slope_mm_m):.3f} in 1000"
    first, *others = found.causes
    return CauseWords(
        head=f"{_SHAPES[found.shape]} {units.planned(found.size_mm)} on Ø{slope}", likely=_CAUSES[first.code],
        known=_known(first.evidence, units), tell=_TELLS[first.tells], others=[_other(one, units) for one in others],
    )  # fmt: skip


def _other(one: Cause, units: Units) -> str:
    known = _known(one.evidence, units)
    return f"{_CAUSES[one.code]}: {_TELLS[one.tells]}{f'; {known}' if known else ''}"


#: What is known of a cause, by its code; {size} is its figure, {check} the check of the machine it is from.
_KNOWN = {
    "machine": "{check} comes to {size} of it", "machine-little": "{check} comes to {size} at most",
    "worn": "{check} found {size} worn",
    "bends": "the last cuts bend the bar {size} on Ø", "bends-little": "the last cuts bend the bar only {size} on Ø",
    "stands-alike": "against it: the bar stands out alike all along",
    "drifts": "from piece to piece the sizes shrink by {size}",
    "drifts-little": "from piece to piece the sizes shrink by {size} only",
    "wrong-way": "against it: it is larger where the cut ended", "thin": "the wall left is thin, {size}",
    "thick": "against it: the wall left is {size} thick", "both-sides": "it is bored from both sides",
    "one-side": "against it: it is bored from one side", "balanced": "against it: nothing here turns unbalanced",
}  # fmt: skip


def _known(one: Evidence, units: Units) -> str:
    if not one.code:
        return ""
    check = "" if one.shown is None else f"{KINDS[one.shown.kind].label}, checked {one.shown.day:%d %b %Y},"
    return _KNOWN[one.code].format(size="" if one.figure_mm is None else units.planned(one.figure_mm), check=check)
