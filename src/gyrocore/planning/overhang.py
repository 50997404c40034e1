"""How far a bar may hang out: by rule, by bending, by chatter; the least governs."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TypeVar

from gyrocore.catalogue import bar_kind
from gyrocore.checks import TOLERANCE, require_open_between, require_positive
from gyrocore.choices import BarKindName
from gyrocore.errors import InvalidInput
from gyrocore.formulas.beam import overhang_for_stiffness_mm, second_moment_mm4
from gyrocore.formulas.cutting_force import Cut, CuttingForce, cutting_force
from gyrocore.formulas.stability import EdgeInCut, peak_chatter_load_n_mm
from gyrocore.notes import Note, note

_T = TypeVar("_T")
CRITERIA = ("rule", "deflection", "chatter")
#: Radial forces under this set no limit by bending (core contract, `overhang`).
_LEAST_FORCE_N = 0.001
#: Damping of a bar in its holder is not known better than to this factor (core contract, `overhang`).
DAMPING_FACTOR = 3.0
_MOST_DAMPING = 0.99


@dataclass(frozen=True, slots=True, kw_only=True)
class BarSection:
    """What bends: kind and section of a bar."""

    kind: BarKindName
    diameter_mm: float
    inner_diameter_mm: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class BarData:
    """Values in place of the kind's own; None takes the catalogue's."""

    rule_ratio: float | None = None
    damping_ratio: float | None = None
    youngs_modulus_gpa: float | None = None
    bearing_spacing_mm: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class OverhangLimit:
    """One limit; None where this criterion sets none."""

    criterion: str
    overhang_mm: float | None
    binding: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Overhang:
    """The limits, which governs, and how a needed overhang stands against them."""

    limits: tuple[OverhangLimit, ...]
    governing: str
    safe_overhang_mm: float
    hard_limit_mm: float | None
    ratio: float
    needed_ok: bool | None
    exceeded: tuple[str, ...]
    #: The chatter limit at three times the damping: past it, chatter is as good as certain.
    chatter_certain_mm: float
    #: `ok`, `caution` or `stop`; None without a needed overhang.
    state: str | None
    notes: tuple[Note, ...] = ()


def overhang(
    *,
    bar: BarSection,
    cut: Cut,
    budget_mm: float,
    needed_mm: float | None = None,
    data: BarData | None = None,
) -> Overhang:
    """Return how far a bar may hang out.

    Parameters
    ----------
    bar : kind and section [mm]
    cut : the heaviest cut it must carry
    budget_mm : allowed spring at the cutter, on radius, over 0 [mm]
    needed_mm : overhang that the work asks for [mm]
    data : in place of the kind's rule ratio, damping, modulus; bearing spacing of a line bar

    Returns
    -------
    Overhang [mm]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    Rule: ratio x D, advice. Deflection: |radial force| / stiffness = budget. Chatter: the overhang
    at which no depth up to the cut's own chatters, with the cut's own kc and feed. The holder's
    own give is left out, so the hard limits err on the long side. Damping is not known better than to a factor of
    three: past the chatter limit is a caution, past the limit at three times the damping is a stop.

    References
    ----------
    `formulas.beam`, `formulas.cutting_force`, `formulas.stability`; ratios: `catalogue`.

    Examples
    --------
    >>> bar = BarSection(kind="steel", diameter_mm=40)
    >>> cut = Cut(kc11_mpa=1100, mc=0.25, depth_mm=0.47, feed_mm_rev=0.2)
    >>> overhang(bar=bar, cut=cut, budget_mm=0.0075, needed_mm=165).exceeded
    ('rule',)
    """
    data = data or BarData()
    kind = bar_kind(bar.kind)
    moment = _within("bar", lambda: second_moment_mm4(bar.diameter_mm, bar.inner_diameter_mm))
    force = _within("cut", lambda: cutting_force(cut))
    _require_data(budget_mm, needed_mm, data, bar.kind)
    modulus = data.youngs_modulus_gpa or kind.youngs_modulus_gpa
    damping = data.damping_ratio or kind.damping_ratio
    bending, spacing = 1000 * modulus * moment, data.bearing_spacing_mm
    reach: dict[str, float | None] = {"rule": (data.rule_ratio or kind.rule_ratio) * bar.diameter_mm}
    reach["deflection"] = _by_deflection(bending, force, budget_mm, spacing)
    reach["chatter"] = _by_chatter(bending, force, cut, damping, spacing)
    certain = _by_chatter(bending, force, cut, min(_MOST_DAMPING, DAMPING_FACTOR * damping), spacing)
    return _judged(reach, certain, bar, needed_mm, spacing)


def _within(prefix: str, make: Callable[[], _T]) -> _T:
    """Run a guarded step; its errors carry the prefix of the nested input."""
    try:
        return make()
    except InvalidInput as error:
        raise error.under(prefix) from None


def _require_data(budget_mm: float, needed_mm: float | None, data: BarData, kind: str) -> None:
    require_positive(budget_mm=budget_mm, needed_mm=needed_mm, rule_ratio=data.rule_ratio)
    require_open_between(0, 1, damping_ratio=data.damping_ratio)
    require_positive(youngs_modulus_gpa=data.youngs_modulus_gpa, bearing_spacing_mm=data.bearing_spacing_mm)
    if data.bearing_spacing_mm is not None and kind != "line-bar":
        raise InvalidInput("bearing_spacing_mm", "only_line_bar", given=data.bearing_spacing_mm)


def _by_deflection(bending: float, force: CuttingForce, budget_mm: float, spacing: float | None) -> float | None:
    push = abs(force.radial_n)
    if push < _LEAST_FORCE_N:
        return None
    return overhang_for_stiffness_mm(bending, push / budget_mm, spacing)


def _by_chatter(bending: float, force: CuttingForce, cut: Cut, damping: float, spacing: float | None) -> float:
    edge = EdgeInCut(
        kc_mpa=force.kc_mpa,
        entering_angle_deg=cut.entering_angle_deg,
        nose_radius_mm=cut.nose_radius_mm,
        feed_mm_rev=cut.feed_mm_rev,
        thrust_ratio=cut.thrust_ratio,
    )
    load = peak_chatter_load_n_mm(cut.depth_mm, edge)
    return overhang_for_stiffness_mm(bending, load / (2 * damping * (1 + damping)), spacing)


def _judged(
    reach: dict[str, float | None], certain: float, bar: BarSection, needed_mm: float | None, spacing: float | None
) -> Overhang:
    given = {name: value for name, value in reach.items() if value is not None}
    safe = min(given.values())
    governing = next(name for name in CRITERIA if given.get(name, safe + 1) <= safe + TOLERANCE)
    hard = [given[name] for name in ("deflection", "chatter") if name in given]
    exceeded = (
        ()
        if needed_mm is None
        else tuple(name for name in CRITERIA if name in given and needed_mm > given[name] + TOLERANCE)
    )
    stops = {"deflection": given.get("deflection"), "chatter": certain}
    stopped = _first_exceeded(stops, needed_mm)
    state = None if needed_mm is None else "stop" if stopped else "caution" if exceeded else "ok"
    return Overhang(
        limits=tuple(
            OverhangLimit(
                criterion=name,
                overhang_mm=reach[name],
                binding="advice" if name == "rule" else "hard",
            )
            for name in CRITERIA
        ),
        governing=governing,
        safe_overhang_mm=safe,
        hard_limit_mm=min(hard) if hard else None,
        ratio=safe / bar.diameter_mm,
        needed_ok=None if needed_mm is None else needed_mm <= safe + TOLERANCE,
        exceeded=exceeded,
        chatter_certain_mm=certain,
        state=state,
        notes=(
            note("overhang_governs", criterion=governing, safe_mm=safe),
            *_past_notes(exceeded, stopped, stops, given),
            *_kind_notes(bar.kind, spacing, reach),
        ),
    )


def _first_exceeded(stops: dict[str, float | None], needed_mm: float | None) -> str | None:
    """The least of the limits that forbid, where the needed overhang is past it."""
    past = {name: at for name, at in stops.items() if at is not None and (needed_mm or 0.0) > at + TOLERANCE}
    return min(past, key=lambda name: past[name]) if past else None


def _past_notes(
    exceeded: tuple[str, ...], stopped: str | None, stops: dict[str, float | None], given: dict[str, float]
) -> tuple[Note, ...]:
    """What is said of a needed overhang that is past a limit: the limit that says so, with its own figure."""
    if stopped is not None:
        return (note("past_hard_limit", criterion=stopped, at_mm=stops[stopped]),)
    if "chatter" in exceeded:
        return (note("may_chatter", at_mm=given["chatter"]),)
    return (note("past_advice"),) if exceeded else ()


def _kind_notes(kind: str, spacing: float | None, reach: dict[str, float | None]) -> tuple[Note, ...]:
    notes = []
    if reach["deflection"] is None:
        notes.append(note("no_radial_push"))
    if kind == "line-bar" and spacing is None:
        notes.append(note("line_bar_as_clamped"))
    return (*notes, note("holder_is_rigid"))
