"""Spring passes: how much the bore grew with the setting left, against what the bar stood off by the beam model."""

from __future__ import annotations

from dataclasses import dataclass

from gyroplan.assess.habit import SPRING_LEFT, deflection_of
from gyroplan.assess.standing import Boring


@dataclass(frozen=True, slots=True, kw_only=True)
class SpringPass:
    """A spring pass [mm], on diameter."""

    number: int
    #: How much the bore grew; None where it was not measured before it and after it, or is still to be cut.
    grew_mm: float | None
    #: How much the bar stood off before it, by the beam model.
    stood_off_mm: float

    @property
    def share(self) -> float | None:
        """Which share of it came back; None where either is not known."""
        return None if self.grew_mm is None or self.stood_off_mm <= 0 else self.grew_mm / self.stood_off_mm


@dataclass(frozen=True, slots=True, kw_only=True)
class Springs:
    """The spring passes of a bore that are cut, oldest first, and the one in hand."""

    cut: tuple[SpringPass, ...]
    in_hand: SpringPass | None
    #: The elastic share learned from those that were measured; None where none was.
    share: float | None

    @property
    def foreseen_mm(self) -> float | None:
        """How much the one in hand should grow the bore, on diameter."""
        if self.in_hand is None:
            return None
        return self.in_hand.stood_off_mm * (1 - SPRING_LEFT if self.share is None else self.share)


def springs_of(boring: Boring) -> Springs:
    """Return what the spring passes of a bore grew, and what the one in hand should.

    Notes
    -----
    The bar stands off by 2 radial force over stiffness after a pass, on diameter; a spring pass takes back a share of
    it. The share over several is by least squares through nothing: sum(grew stood) / sum(stood^2). Until one was
    measured, all but `SPRING_LEFT` is foreseen.

    References
    ----------
    Deflection as `gyrocore.overhang`; the share by ordinary least squares.
    """
    stood, size, found = 0.0, None, list[SpringPass]()
    for one in boring.passes.done:
        if one.kind == "spring":
            grew = None if one.measured_mm is None or size is None else one.measured_mm - size
            found.append(SpringPass(number=one.number, grew_mm=grew, stood_off_mm=stood))
            stood = stood * SPRING_LEFT if grew is None else max(0.0, stood - grew)
        else:
            stood = 2 * deflection_of(boring, one)
        size = one.measured_mm
    known = [(one.grew_mm, one.stood_off_mm) for one in found if one.share is not None and one.grew_mm is not None]
    share = sum(g * s for g, s in known) / sum(s * s for _, s in known) if known else None
    state = boring.passes.state
    hand = state.hand if state else None
    ahead = SpringPass(number=hand.number, grew_mm=None, stood_off_mm=stood) if hand and hand.kind == "spring" else None
    return Springs(cut=tuple(found), in_hand=ahead, share=share)
