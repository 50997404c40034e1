"""How the work is held: what that makes of a method of boring."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cache
from types import MappingProxyType

from gyrocore.catalogue.methods import Method, method
from gyrocore.catalogue.toml import load
from gyrocore.errors import InvalidInput


@dataclass(frozen=True, slots=True, kw_only=True)
class Holding:
    """A way of holding: the methods it goes with, how the work is trued in it, whether it turns unbalanced.

    `trued`, `place_word`, `moved` and `unbalanced` are empty where the method's own stand.
    """

    key: str
    label: str
    methods: tuple[str, ...]
    holding: str
    source: str
    trued: str = ""
    place_word: str | None = None
    moved: str = ""
    jaws: bool = False
    unbalanced: bool | None = None
    outer: str = "Tap it to"
    each_end: bool = False
    tapped: bool = False


@cache
def holdings() -> Mapping[str, Holding]:
    """All ways of holding by key."""
    found = {}
    for key, entry in load("holdings.toml").items():
        found[key] = Holding(key=key, methods=tuple(entry.pop("methods")), **entry)
    return MappingProxyType(found)


#: What a method is held with unless another is said.
_USUAL = {
    "lathe-bar": "four-jaw", "head": "clamps", "line": "in-place", "stand": "stand", "centres": "saddle",
    "pilot": "in-place",
}  # fmt: skip


def holdings_for(method_key: str) -> tuple[Holding, ...]:
    """What a method can be held with, the usual one first; an unknown method is refused at `method`."""
    usual = _USUAL[method(method_key).key]
    fitting = [one for one in holdings().values() if method_key in one.methods]
    return tuple(sorted(fitting, key=lambda one: one.key != usual))


def held(method_key: str, holding_key: str = "") -> Method:
    """A method of boring as the work is held; empty is the usual way.

    Raises InvalidInput at `holding` for one that does not go with the method.
    """
    way, key = method(method_key), holding_key or _USUAL[method(method_key).key]
    one = next((one for one in holdings_for(method_key) if one.key == key), None)
    if one is None:
        fitting = ", ".join(one.label for one in holdings_for(method_key))
        raise InvalidInput("holding", "unknown_choice", given=holding_key, choices=fitting)
    return replace(
        way, holding=one.holding, trued=one.trued or way.trued, moved=one.moved or way.moved, jaws=one.jaws,
        place_word=way.place_word if one.place_word is None else one.place_word,
        unbalanced=way.unbalanced if one.unbalanced is None else one.unbalanced, outer=one.outer,
        each_end=one.each_end, tapped=one.tapped,
    )  # fmt: skip
