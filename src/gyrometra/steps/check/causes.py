"""What most likely made the bore the shape it has, in words: by which part turns, with the check that tells."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyrometra.steps.page import JobPage
from gyroplan.assess import causes_of

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
    tell: str
    others: Sequence[str]


def cause_words(page: JobPage) -> CauseWords | None:
    """None where the bore's form needs no cause."""
    found, units = causes_of(page.assessment, page.piece, page.place), page.units
    if found is None:
        return None
    slope = ""
    if found.slope_mm_m is not None:
        way = "larger inside" if found.slope_mm_m > 0 else "smaller inside"
        slope = f", {way}: its wall slopes {abs(found.slope_mm_m):.3f} in 1000"
    first, *others = found.causes
    return CauseWords(
        head=f"{_SHAPES[found.shape]} {units.planned(found.size_mm)} on Ø{slope}", likely=_CAUSES[first.code],
        tell=_TELLS[first.tells], others=[f"{_CAUSES[one.code]}: {_TELLS[one.tells]}" for one in others],
    )  # fmt: skip
