"""Centred by other means than a round of readings: how far the centre may then lie off, and what that does not see."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from gyrocore.checks import require_finite, require_not_negative, require_positive
from gyrocore.errors import InvalidInput

#: What is typed for each way [mm].
ASKED: Mapping[str, tuple[str, ...]] = {
    "eye": ("within_mm",), "plug": ("clearance_mm",), "coaxial": ("swing_mm",),
    "edge": ("left_mm", "right_mm", "front_mm", "back_mm", "sure_mm"),
}  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class Centring:
    """How far the centre may lie off, on radius [mm]; of an edge-finder where the middle is, and what it measured."""

    bound_mm: float
    middle_mm: tuple[float, float] | None = None
    across_mm: float | None = None
    along_mm: float | None = None


def centring(how: str, values: Mapping[str, float]) -> Centring:
    """Return what a centring proves.

    Parameters
    ----------
    how : `eye` (may lie off by `within_mm`), `plug` (`clearance_mm` on diameter), `coaxial` (`swing_mm` left, TIR),
        `edge` (the four coordinates where the finder touched, and how sure each touch is, `sure_mm`)
    values : what was typed [mm]

    Raises
    ------
    InvalidInput
        At the value that cannot be.

    Notes
    -----
    A plug sits within half its clearance; a coaxial indicator swings by twice the offset; the middle of two touches of
    an edge-finder lies between them whatever its tip measures, and each touch errs by as much as the typed doubt, so
    that a midpoint does so at worst.

    References
    ----------
    Derived here from the geometry of each way.
    """
    if how not in ASKED:
        raise InvalidInput("how", "unknown_choice", given=how, choices=", ".join(ASKED))
    require_finite(**dict(values))
    if how == "eye":
        require_positive(within_mm=values["within_mm"])
        return Centring(bound_mm=values["within_mm"])
    if how == "plug":
        require_not_negative(clearance_mm=values["clearance_mm"])
        return Centring(bound_mm=values["clearance_mm"] / 2)
    if how == "coaxial":
        require_not_negative(swing_mm=values["swing_mm"])
        return Centring(bound_mm=values["swing_mm"] / 2)
    require_not_negative(sure_mm=values["sure_mm"])
    across, along = values["right_mm"] - values["left_mm"], values["back_mm"] - values["front_mm"]
    if across == 0 or along == 0:
        raise InvalidInput("right_mm" if across == 0 else "back_mm", "repeated", given=values["right_mm"])
    middle = ((values["left_mm"] + values["right_mm"]) / 2, (values["front_mm"] + values["back_mm"]) / 2)
    # both coordinates err by as much as a touch does: together by the root of two
    return Centring(bound_mm=2**0.5 * values["sure_mm"], middle_mm=middle, across_mm=abs(across), along_mm=abs(along))
