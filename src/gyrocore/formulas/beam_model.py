"""A stepped bar on its real supports, as a chain of Euler-Bernoulli elements.

Two degrees of freedom a node: deflection [mm] and slope [rad]. Nodes stand at every step, support and
point asked for, so that static answers are exact; the pieces between are short enough for the frequency.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from math import ceil, pi, sqrt

import numpy as np
from numpy.typing import NDArray
from scipy.linalg import LinAlgError, cho_factor, cho_solve, eigh

from gyrocore.checks import TOLERANCE, require_between, require_positive
from gyrocore.choices import SupportKind
from gyrocore.errors import InvalidInput
from gyrocore.formulas.beam import second_moment_mm4

#: Standard gravity [m/s^2] (core contract).
GRAVITY_M_S2 = 9.80665
#: No element is longer than this share of the bar; the lowest frequency then errs under 1e-5.
_LEAST_PIECES = 24

Matrix = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True)
class Segment:
    """A length of bar of one section [mm]."""

    length_mm: float
    diameter_mm: float
    inner_diameter_mm: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Support:
    """`clamped` holds place and slope, `bearing` place alone; a stiffness of None is rigid."""

    position_mm: float
    kind: SupportKind
    rotational_stiffness_nm_rad: float | None = None
    stiffness_n_mm: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class BarMaterial:
    """What the bar is made of; steel unless said otherwise."""

    youngs_modulus_gpa: float = 205.0
    density_kg_m3: float = 7850.0


STEEL = BarMaterial()


def require_bar(segments: Sequence[Segment], material: BarMaterial, supports: Sequence[Support]) -> float:
    """Refuse a bar that cannot be or that its supports leave free; returns its length [mm]."""
    if not segments:
        raise InvalidInput("segments", "empty")
    for place, piece in enumerate(segments):
        try:
            require_positive(length_mm=piece.length_mm)
            second_moment_mm4(piece.diameter_mm, piece.inner_diameter_mm)
        except InvalidInput as error:
            raise error.under(f"segments.{place}") from None
    require_positive(youngs_modulus_gpa=material.youngs_modulus_gpa, density_kg_m3=material.density_kg_m3)
    length = sum(piece.length_mm for piece in segments)
    _require_supports(supports, length)
    return length


def _require_supports(supports: Sequence[Support], length_mm: float) -> None:
    if not supports:
        raise InvalidInput("supports", "empty")
    for place, support in enumerate(supports):
        try:
            require_between(0, length_mm, position_mm=support.position_mm)
            _require_support(support)
        except InvalidInput as error:
            raise error.under(f"supports.{place}") from None
    places = [support.position_mm for support in supports]
    clamped = any(support.kind == "clamped" for support in supports)
    if not clamped and max(places) - min(places) <= TOLERANCE:
        raise InvalidInput("supports", "bar_left_free")


def _require_support(support: Support) -> None:
    if support.kind not in ("clamped", "bearing"):
        raise InvalidInput("kind", "unknown_choice", given=support.kind, choices="clamped, bearing")
    turning = support.rotational_stiffness_nm_rad
    if turning is not None and support.kind == "bearing":
        raise InvalidInput("rotational_stiffness_nm_rad", "only_clamped", given=turning)
    require_positive(rotational_stiffness_nm_rad=turning, stiffness_n_mm=support.stiffness_n_mm)


@dataclass(frozen=True, slots=True, kw_only=True)
class BeamModel:
    """The assembled bar: nodes [mm], stiffness [N, mm], mass [kg, mm], load of its own weight [N, mm]."""

    nodes_mm: Matrix
    stiffness: Matrix
    mass: Matrix
    weight: Matrix
    free: NDArray[np.intp]

    def node_at(self, position_mm: float) -> int:
        """The node at a place that was asked for when the model was built."""
        return int(np.argmin(np.abs(self.nodes_mm - position_mm)))

    def deflections_mm(self, load: Matrix) -> Matrix:
        """Deflection at every node under a load at all degrees of freedom."""
        answer = np.zeros_like(load)
        part = np.ix_(self.free, self.free)
        try:
            answer[self.free] = cho_solve(cho_factor(self.stiffness[part]), load[self.free])
        except LinAlgError:
            raise InvalidInput("supports", "bar_left_free") from None
        return answer[0::2]

    def compliances_mm_n(self, positions_mm: Sequence[float]) -> list[float]:
        """Radial give at each place under a unit force there [mm/N]."""
        nodes = [self.node_at(place) for place in positions_mm]
        loads = np.zeros((len(self.weight), len(nodes)))
        loads[[2 * node for node in nodes], range(len(nodes))] = 1.0
        answer = self.deflections_mm(loads)
        return [float(max(answer[node, column], 0.0)) for column, node in enumerate(nodes)]

    def sag_mm(self, position_mm: float, tool_mass_kg: float = 0.0) -> Matrix:
        """Deflection at every node under own weight and a tool's weight, down positive [mm]."""
        load = self.weight.copy()
        load[2 * self.node_at(position_mm)] += tool_mass_kg * GRAVITY_M_S2
        return self.deflections_mm(load)

    def lowest_frequency_hz(self, position_mm: float, tool_mass_kg: float = 0.0) -> float:
        """Lowest lateral mode with a point mass at the tool [Hz].

        The largest root of M x = mu K x is the lowest mode, and comes out with the least rounding.
        """
        mass = self.mass.copy()
        place = 2 * self.node_at(position_mm)
        mass[place, place] += tool_mass_kg
        part, count = np.ix_(self.free, self.free), len(self.free)
        try:
            roots = eigh(mass[part], self.stiffness[part], eigvals_only=True, subset_by_index=[count - 1, count - 1])
        except LinAlgError:
            raise InvalidInput("supports", "bar_left_free") from None
        return sqrt(1000.0 / float(roots[0])) / (2 * pi)


def build_beam(
    segments: Sequence[Segment],
    material: BarMaterial,
    supports: Sequence[Support],
    points_mm: Sequence[float] = (),
) -> BeamModel:
    """Return the assembled model of a stepped bar.

    Parameters
    ----------
    segments : left to right, as `require_bar` demands [mm]
    material : Young's modulus [GPa], density [kg/m3]
    supports : places from the left end [mm], stiffness [N/mm], [Nm/rad]
    points_mm : further places that must have a node, within the bar [mm]

    Returns
    -------
    BeamModel

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds; at `supports` where the bar is left free to move.

    References
    ----------
    Cubic Hermite beam element with consistent mass and load; see any text on the finite element method
    for beams. Static deflections at nodes are exact for such elements.

    Examples
    --------
    >>> beam = build_beam([Segment(length_mm=165, diameter_mm=40)], BarMaterial(),
    ...                   [Support(position_mm=0, kind="clamped")], [165])
    >>> round(1 / beam.compliances_mm_n([165])[0])
    17204
    """
    length = require_bar(segments, material, supports)
    ends = np.concatenate(([0.0], np.cumsum([piece.length_mm for piece in segments])))
    nodes = _nodes(ends, [*(s.position_mm for s in supports), *points_mm], length)
    size = 2 * len(nodes)
    stiffness, mass, weight = np.zeros((size, size)), np.zeros((size, size)), np.zeros(size)
    middles = (nodes[:-1] + nodes[1:]) / 2
    owners = np.clip(np.searchsorted(ends, middles) - 1, 0, len(segments) - 1)
    for place, (owner, span) in enumerate(zip(owners, np.diff(nodes), strict=True)):
        piece, at = segments[owner], slice(2 * place, 2 * place + 4)
        area = pi * (piece.diameter_mm**2 - piece.inner_diameter_mm**2) / 4
        moment = second_moment_mm4(piece.diameter_mm, piece.inner_diameter_mm)
        per_mm = material.density_kg_m3 * area * 1e-9
        stiffness[at, at] += 1000 * material.youngs_modulus_gpa * moment * _bending(span)
        mass[at, at] += per_mm * _inertia(span)
        weight[at] += per_mm * GRAVITY_M_S2 * np.array([span / 2, span**2 / 12, span / 2, -(span**2) / 12])
    held = _hold(supports, nodes, stiffness)
    free = np.array([n for n in range(size) if n not in held], dtype=np.intp)
    return BeamModel(nodes_mm=nodes, stiffness=stiffness, mass=mass, weight=weight, free=free)


def _nodes(ends: Matrix, points: Sequence[float], length: float) -> Matrix:
    """Every place that needs a node, with pieces between them no longer than a share of the bar."""
    marks = np.unique(np.clip(np.concatenate((ends, points)), 0.0, length))
    marks = marks[np.concatenate(([True], np.diff(marks) > TOLERANCE))]
    pieces = [
        np.linspace(a, b, ceil(_LEAST_PIECES * (b - a) / length - TOLERANCE), endpoint=False)
        for a, b in pairwise(marks)
    ]
    return np.concatenate((*pieces, marks[-1:]))


def _bending(span: float) -> Matrix:
    """Stiffness of an element per E I."""
    a, b, c, d = 12 / span**3, 6 / span**2, 4 / span, 2 / span
    return np.array([[a, b, -a, b], [b, c, -b, d], [-a, -b, a, -b], [b, d, -b, c]])


def _inertia(span: float) -> Matrix:
    """Consistent mass of an element per unit of length."""
    s = span
    rows = [
        [156, 22 * s, 54, -13 * s],
        [22 * s, 4 * s * s, 13 * s, -3 * s * s],
        [54, 13 * s, 156, -22 * s],
        [-13 * s, -3 * s * s, -22 * s, 4 * s * s],
    ]
    return np.array(rows) * s / 420


def _hold(supports: Sequence[Support], nodes: Matrix, stiffness: Matrix) -> set[int]:
    """Add the springs of the supports; returns the degrees of freedom held rigidly."""
    held = set()
    for support in supports:
        place = 2 * int(np.argmin(np.abs(nodes - support.position_mm)))
        if support.stiffness_n_mm is None:
            held.add(place)
        else:
            stiffness[place, place] += support.stiffness_n_mm
        if support.kind != "clamped":
            continue
        if support.rotational_stiffness_nm_rad is None:
            held.add(place + 1)
        else:
            stiffness[place + 1, place + 1] += 1000 * support.rotational_stiffness_nm_rad
    return held
