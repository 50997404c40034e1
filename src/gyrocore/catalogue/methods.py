"""The ways of boring that the planner knows, each with what follows from it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from types import MappingProxyType

from gyrocore.catalogue.toml import load
from gyrocore.errors import InvalidInput


@dataclass(frozen=True, slots=True, kw_only=True)
class Method:
    """A way of boring: machines that can do it, which part turns, what holds and what trues the axis.

    `places` are the four places of a sweep from 0 degrees clockwise, as the operator names them;
    `set_by` says what a cut is set with: a slide's dial, a head's dial, a micrometer over the bar, or a
    setting micrometer. `bar_in` is what holds the bar (holder, head, bearings, centres, spindle), `bars` the way
    whose bars of the crib it takes. `moved` is what truing moves: the work itself, what holds the axis, or
    nothing at all, where bores already cut hold it (`moved_is`).
    """

    key: str
    label: str
    machines: tuple[str, ...]
    turns: str
    holding: str
    axis: str
    trued: str
    set_by: str
    bar_in: str
    bars: str
    places: tuple[str, str, str, str]
    place_word: str
    seen_from: str
    moved: str
    moved_is: str
    several: bool
    faults: str
    source: str
    #: Whether four jaws that move one by one hold the work.
    jaws: bool = False
    #: Whether what turns is unbalanced by the way itself: a head that is set over.
    unbalanced: bool = False
    #: What is done at the plane away from the holding, with a place behind it; and whether each end is moved by itself,
    #: about the other one, instead of the work whole by what holds it.
    outer: str = "Tap it to"
    each_end: bool = False
    #: Whether one tap moves it any way at once: there are no jaws, screws or dials that move it along two directions.
    tapped: bool = False

    def place_name(self, angle_deg: float) -> str:
        """A place of the sweep as the operator names it: `jaw 1`, `1-2` between two, else the angle."""
        quarter, rest = divmod(angle_deg % 360, 90)
        here, following = self.places[int(quarter)], self.places[(int(quarter) + 1) % 4]
        if rest == 0:
            return f"{self.place_word}{here}"
        return f"{here}-{following}" if rest == 45 else f"{angle_deg % 360:.0f}°"

    @property
    def places_deg(self) -> dict[str, float]:
        """The four places with their angles [deg]."""
        return {name: 90.0 * place for place, name in enumerate(self.places)}


@cache
def methods() -> Mapping[str, Method]:
    """All ways of boring by key."""
    found = {}
    for key, entry in load("methods.toml").items():
        machines, places = tuple(entry.pop("machines")), tuple(entry.pop("places"))
        found[key] = Method(key=key, machines=machines, places=places, **entry)
    return MappingProxyType(found)


def method(key: str) -> Method:
    """One way of boring; an unknown one is refused at `method`."""
    try:
        return methods()[key]
    except KeyError:
        raise InvalidInput("method", "unknown_choice", given=key, choices=", ".join(methods())) from None
