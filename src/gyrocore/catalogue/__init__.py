"""What the rules need to know of materials, bars, ways of boring and cautions; every entry says its source.

The entries are the TOML files in `data/`: a rule's figures stand there, and nowhere else.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from types import MappingProxyType

from gyrocore.catalogue.holdings import Holding, held, holdings, holdings_for
from gyrocore.catalogue.methods import Method, method, methods
from gyrocore.catalogue.toml import load
from gyrocore.checks import require_between, require_open_between, require_positive
from gyrocore.errors import InvalidInput


@dataclass(frozen=True, slots=True, kw_only=True)
class BarKind:
    """Overhang rule (times diameter), modulus, damping and density of a kind of bar."""

    label: str
    rule_ratio: float
    youngs_modulus_gpa: float
    damping_ratio: float
    density_kg_m3: float
    source: str


@dataclass(frozen=True, slots=True, kw_only=True)
class SpeedPair:
    """Surface speeds for roughing and finishing [m/min]."""

    rough: float
    finish: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Material:
    """Hatch, Kienzle constants, expansion and speeds of a material class."""

    key: str
    label: str
    hatch: str
    kc11_mpa: float
    mc: float
    thrust_ratio: float
    expansion_um_m_k: float
    speed_m_min: Mapping[str, SpeedPair]
    source: str
    #: Of elasticity; None where not known, as in records of an older make.
    youngs_modulus_gpa: float | None = None
    poisson: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Caution:
    """A caution: the bold fact, then what to do."""

    code: str
    method: str
    steps: tuple[str, ...]
    fact: str
    act: str
    source: str
    materials: tuple[str, ...] = ()


@cache
def bar_kinds() -> Mapping[str, BarKind]:
    """All kinds of bar by key."""
    found = {key: BarKind(**entry) for key, entry in load("bar_kinds.toml").items()}
    for kind in found.values():
        require_positive(rule_ratio=kind.rule_ratio, density_kg_m3=kind.density_kg_m3)
        require_between(50, 700, youngs_modulus_gpa=kind.youngs_modulus_gpa)
        require_open_between(0, 1, damping_ratio=kind.damping_ratio)
    return MappingProxyType(found)


def bar_kind(kind: str) -> BarKind:
    """One kind of bar; an unknown one is refused at `kind`."""
    try:
        return bar_kinds()[kind]
    except KeyError:
        raise InvalidInput("kind", "unknown_choice", given=kind, choices=", ".join(bar_kinds())) from None


@cache
def materials() -> Mapping[str, Material]:
    """All materials by key."""
    found = {}
    for key, entry in load("materials.toml").items():
        speeds = {name: SpeedPair(**pair) for name, pair in entry.pop("speed_m_min").items()}
        found[key] = Material(key=key, speed_m_min=MappingProxyType(speeds), **entry)
        _require_material(found[key])
    return MappingProxyType(found)


def _require_material(one: Material) -> None:
    """Refuse figures that no metal has: a slip in the table is found when it is read, not at the machine."""
    require_between(200, 5000, kc11_mpa=one.kc11_mpa)
    require_between(0, 0.6, mc=one.mc)
    require_between(0, 2, thrust_ratio=one.thrust_ratio)
    require_between(0, 150, expansion_um_m_k=one.expansion_um_m_k)
    require_between(1, 700, youngs_modulus_gpa=one.youngs_modulus_gpa)
    require_open_between(0, 0.5, poisson=one.poisson)
    for pair in one.speed_m_min.values():
        require_between(1, 2000, rough=pair.rough)
        require_between(pair.rough, 3000, finish=pair.finish)


def material(key: str) -> Material:
    """One material; an unknown one is refused at `material`."""
    try:
        return materials()[key]
    except KeyError:
        raise InvalidInput("material", "unknown_choice", given=key, choices=", ".join(materials())) from None


@cache
def _cautions() -> tuple[Caution, ...]:
    found = []
    for entry in load("cautions.toml")["caution"]:
        entry["steps"] = tuple(entry["steps"])
        entry["materials"] = tuple(entry.get("materials", ()))
        found.append(Caution(**entry))
    return tuple(found)


def cautions(*, method: str, step: str, material_key: str) -> tuple[Caution, ...]:
    """The cautions that bite at a step of a method, in this material."""
    return tuple(
        entry
        for entry in _cautions()
        if entry.method in (method, "any")
        and step in entry.steps
        and (not entry.materials or material_key in entry.materials)
    )


__all__ = [
    "BarKind",
    "Caution",
    "Holding",
    "Material",
    "Method",
    "SpeedPair",
    "bar_kind",
    "bar_kinds",
    "cautions",
    "held",
    "holdings",
    "holdings_for",
    "material",
    "materials",
    "method",
    "methods",
]  # fmt: skip
