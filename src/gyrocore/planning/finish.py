"""Feed against roughness."""

from __future__ import annotations

from dataclasses import dataclass

from gyrocore.checks import require_positive
from gyrocore.errors import InvalidInput
from gyrocore.formulas.surface import feed_for_ra_mm_rev, theoretical_ra_um, theoretical_rt_um
from gyrocore.notes import Note, note


@dataclass(frozen=True, slots=True, kw_only=True)
class Finish:
    """A feed with the roughness it leaves."""

    feed_mm_rev: float
    ra_um: float
    rt_um: float
    notes: tuple[Note, ...] = ()


def finish(*, nose_radius_mm: float, feed_mm_rev: float | None = None, ra_um: float | None = None) -> Finish:
    """Return the roughness a feed leaves, or the feed for a roughness.

    Parameters
    ----------
    nose_radius_mm : over 0 [mm]
    feed_mm_rev, ra_um : exactly one of the two, over 0 [mm/rev], [um]

    Returns
    -------
    Finish [mm/rev], [um]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds, at `ra_um` where not exactly one is given.

    References
    ----------
    `formulas.surface`.

    Examples
    --------
    >>> finish(nose_radius_mm=0.4, feed_mm_rev=0.08).ra_um.__round__(3)
    0.513
    """
    require_positive(nose_radius_mm=nose_radius_mm, feed_mm_rev=feed_mm_rev, ra_um=ra_um)
    if feed_mm_rev is None:
        if ra_um is None:
            raise InvalidInput("ra_um", "one_of_two", other="feed_mm_rev")
        feed_mm_rev = feed_for_ra_mm_rev(nose_radius_mm, ra_um)
    elif ra_um is not None:
        raise InvalidInput("ra_um", "only_one_of_two", given=ra_um, other="feed_mm_rev")
    notes = [note("geometry_only")]
    if feed_mm_rev > 2 * nose_radius_mm:
        notes.append(note("feed_past_nose", limit_mm=2 * nose_radius_mm))
    return Finish(
        feed_mm_rev=feed_mm_rev,
        ra_um=theoretical_ra_um(nose_radius_mm, feed_mm_rev),
        rt_um=theoretical_rt_um(nose_radius_mm, feed_mm_rev),
        notes=tuple(notes),
    )
