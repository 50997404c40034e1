"""What a bar on its supports does at the cutter: give, sag, lowest frequency."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from math import pi

from gyrocore.checks import TOLERANCE, require_between, require_not_negative
from gyrocore.formulas.beam_model import STEEL, BarMaterial, BeamModel, Segment, Support, build_beam, require_bar
from gyrocore.notes import Note, note


@dataclass(frozen=True, slots=True, kw_only=True)
class Tool:
    """Where the cutter stands along the bar [mm] and what it weighs [kg]."""

    position_mm: float
    mass_kg: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class BarResponse:
    """Give and stiffness at the cutter on radius, sag under own weight, lowest mode, mass of the bar."""

    compliance_mm_n: float
    stiffness_n_mm: float | None
    sag_mm: float
    natural_frequency_hz: float
    mass_kg: float
    notes: tuple[Note, ...] = ()


def bar_mass_kg(segments: Sequence[Segment], density_kg_m3: float) -> float:
    """Return the mass of a stepped bar.

    Parameters
    ----------
    segments : sections of the bar [mm]
    density_kg_m3 : over 0 [kg/m3]

    Returns
    -------
    mass [kg]

    References
    ----------
    Volume times density.

    Examples
    --------
    >>> round(bar_mass_kg([Segment(length_mm=1000, diameter_mm=60)], 7850), 2)
    22.2
    """
    volume = sum(s.length_mm * pi * (s.diameter_mm**2 - s.inner_diameter_mm**2) / 4 for s in segments)
    return density_kg_m3 * volume * 1e-9


def bar_response(
    *,
    segments: Sequence[Segment],
    supports: Sequence[Support],
    tool: Tool,
    material: BarMaterial = STEEL,
) -> BarResponse:
    """Return give, sag and lowest frequency of a bar at its cutter.

    Parameters
    ----------
    segments : left to right, lengths and diameters over 0 [mm]
    supports : places within the bar; together they must hold it [mm]
    tool : place within the bar [mm], mass 0 or more [kg]
    material : Young's modulus over 0 [GPa], density over 0 [kg/m3]

    Returns
    -------
    BarResponse [mm/N], [N/mm] (None on a rigid support), [mm], [Hz], [kg]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds; at `supports` where the bar is left free to move.

    Notes
    -----
    Shear and the turning inertia of the section are left out: a bar shorter than some five diameters is
    softer than said. Supports without a stiffness of their own are taken as rigid, which flatters too.

    References
    ----------
    Euler-Bernoulli beam theory; `formulas.beam_model`.

    Examples
    --------
    >>> found = bar_response(segments=[Segment(length_mm=165, diameter_mm=40)], tool=Tool(position_mm=165),
    ...                      supports=[Support(position_mm=0, kind="clamped")])
    >>> round(found.natural_frequency_hz)
    1050
    """
    length = require_bar(segments, material, supports)
    require_between(0, length, tool_position_mm=tool.position_mm)
    require_not_negative(tool_mass_kg=tool.mass_kg)
    beam = build_beam(segments, material, supports, [tool.position_mm])
    return response_at(beam, tool, bar_mass_kg(segments, material.density_kg_m3), _notes(supports))


def response_at(beam: BeamModel, tool: Tool, mass_kg: float, notes: tuple[Note, ...] = ()) -> BarResponse:
    """Return the response of a bar already modelled, with a node at the tool's place.

    Parameters
    ----------
    beam : model with a node where the tool stands
    tool : place [mm], mass [kg]
    mass_kg : of the bar alone [kg]
    notes : remarks that go with it

    Returns
    -------
    BarResponse

    References
    ----------
    As `bar_response`.

    Examples
    --------
    >>> bar = [Segment(length_mm=100, diameter_mm=20)]
    >>> beam = build_beam(bar, BarMaterial(), [Support(position_mm=0, kind="clamped")], [100])
    >>> response_at(beam, Tool(position_mm=0), 0.25).stiffness_n_mm is None
    True
    """
    give = beam.compliances_mm_n([tool.position_mm])[0]
    node = beam.node_at(tool.position_mm)
    on_rigid = 2 * node not in beam.free
    return BarResponse(
        compliance_mm_n=give,
        stiffness_n_mm=None if on_rigid or give <= 0 else 1 / give,
        sag_mm=float(beam.sag_mm(tool.position_mm, tool.mass_kg)[node]),
        natural_frequency_hz=beam.lowest_frequency_hz(tool.position_mm, tool.mass_kg),
        mass_kg=mass_kg,
        notes=(*notes, note("tool_on_support")) if on_rigid else notes,
    )


def _notes(supports: Sequence[Support]) -> tuple[Note, ...]:
    rigid = [s for s in supports if s.stiffness_n_mm is None]
    softest = [s for s in supports if s.kind == "bearing"]
    remarks = [note("euler_bernoulli")]
    if rigid:
        remarks.append(note("supports_rigid", count=len(rigid)))
    places = sorted(s.position_mm for s in softest)
    if any(b - a <= TOLERANCE for a, b in pairwise(places)):
        remarks.append(note("two_supports_one_place"))
    return tuple(remarks)
