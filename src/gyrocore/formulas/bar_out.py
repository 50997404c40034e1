"""A stepped bar as it stands out of its holder: stiffness, frequency, and the plain bar that is as stiff."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import pi

from gyrocore.checks import TOLERANCE, require_positive
from gyrocore.errors import InvalidInput
from gyrocore.formulas.bar_response import BarResponse, Tool, bar_response
from gyrocore.formulas.beam_model import STEEL, BarMaterial, Segment, Support


@dataclass(frozen=True, slots=True, kw_only=True)
class BarOut:
    """What stands out: its response at the cutter, and the plain solid bar of the same stiffness [mm]."""

    response: BarResponse
    equal_diameter_mm: float


def segments_out(steps: Sequence[Segment], shank: Segment, out_mm: float) -> list[Segment]:
    """Return the part of a bar that stands out, from the holder's face to the cutter.

    Parameters
    ----------
    steps : sections from the cutter's end, lengths and diameters over 0 [mm]
    shank : the plain bar behind them; its length does not count [mm]
    out_mm : over 0 [mm]

    Returns
    -------
    sections from the holder to the cutter [mm]

    Raises
    ------
    InvalidInput
        At `out_mm` where it is not over 0.

    References
    ----------
    Derived here: steps are taken from the cutter's end until the overhang is used up.

    Examples
    --------
    >>> neck = Segment(length_mm=60, diameter_mm=30)
    >>> [(s.length_mm, s.diameter_mm) for s in segments_out([neck], Segment(length_mm=1, diameter_mm=40), 165)]
    [(105, 40), (60, 30)]
    """
    require_positive(out_mm=out_mm)
    found, left = [], out_mm
    for step in steps:
        if left <= TOLERANCE:
            break
        length = min(step.length_mm, left)
        found.append(Segment(length_mm=length, diameter_mm=step.diameter_mm, inner_diameter_mm=step.inner_diameter_mm))
        left -= length
    if left > TOLERANCE:
        found.append(Segment(length_mm=left, diameter_mm=shank.diameter_mm, inner_diameter_mm=shank.inner_diameter_mm))
    return found[::-1]


def bar_out(*, segments: Sequence[Segment], material: BarMaterial = STEEL) -> BarOut:
    """Return how a clamped bar answers at its cutter, and the plain bar that is as stiff.

    Parameters
    ----------
    segments : from the holder's face to the cutter [mm]
    material : Young's modulus [GPa], density [kg/m3]

    Returns
    -------
    BarOut [mm/N], [N/mm], [Hz], [mm]

    Raises
    ------
    InvalidInput
        As `bar_response`.

    Notes
    -----
    The equal diameter solves 3 E I / L^3 = k for a solid round bar: with it the limits of a plain bar
    hold for the stepped one at this overhang; at others they are near, since the steps stay where they are.

    References
    ----------
    `bar_response`; the cantilever of a plain bar, solved for its diameter.

    Examples
    --------
    >>> round(bar_out(segments=[Segment(length_mm=165, diameter_mm=40)]).equal_diameter_mm, 3)
    40.0
    """
    length = sum(segment.length_mm for segment in segments)
    found = bar_response(
        segments=segments,
        supports=[Support(position_mm=0, kind="clamped")],
        tool=Tool(position_mm=length),
        material=material,
    )
    if found.stiffness_n_mm is None:  # pragma: no cover - a clamped bar gives at its end
        raise InvalidInput("segments", "bar_left_free")
    moment = found.stiffness_n_mm * length**3 / (3 * material.youngs_modulus_gpa * 1000)
    return BarOut(response=found, equal_diameter_mm=(64 * moment / pi) ** 0.25)
