"""The oval of a bore that was swept: what no move cures, and from which size on a cut clears it."""

from __future__ import annotations

from dataclasses import dataclass

from gyroplan.assess.truing import RoundStanding

#: An oval whose second harmonic is smaller than this is none (chosen here: two steps of a fine indicator) [mm].
_LEAST_MM = 0.002


@dataclass(frozen=True, slots=True, kw_only=True)
class Oval:
    """What its two diameters differ by [mm], toward which angle it is wide [deg], the size from which it is gone."""

    differs_mm: float
    wide_deg: float
    clear_mm: float | None


def oval_of(view: RoundStanding, start_mm: float | None) -> Oval | None:
    """Return the oval of a swept bore; None where it has none that counts, or another surface was swept.

    Notes
    -----
    A wall at r0 + a cos 2t is 4 a wider one way than the other; inside, the plunger stands out where it is wide, a
    quarter turn from where the harmonic reads highest. A cut to a circle clears it once its radius is a, and the
    offset of the centre, over the mean.

    References
    ----------
    Derived here from the second harmonic of `gyrocore.sweep`.
    """
    if view.sweep is None or view.round.surface != "inside":
        return None
    found = next((one for one in view.sweep.form if one.order == 2), None)
    if found is None or found.amplitude_mm < _LEAST_MM:
        return None
    clear = None if start_mm is None else start_mm + 2 * (found.amplitude_mm + (view.off_centre_mm or 0.0))
    return Oval(differs_mm=4 * found.amplitude_mm, wide_deg=(found.angle_deg + 90) % 180, clear_mm=clear)
