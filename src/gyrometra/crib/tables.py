"""The crib as tables: one a kind, with what matters of it in columns, what uses it, and how it stands."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

from gyrocore import bar_kind
from gyrodraw import BarSide, Scene, bar_side, bar_view
from gyrometra.bridge.units import Units
from gyrometra.crib.cards import KINDS, Kind, card_of, model_of
from gyrometra.crib.models import Bar, CribItem, Cutter, Fixture, Gauge, Head, Indicator, Machine, Material
from gyrometra.crib.queries import in_table, uses_of
from gyrometra.crib.records import bar_record

#: The longest bar of a list that is held at one end is so long on it; longer ones are broken off.
_LIST_BAR = 196.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Column:
    """A column: its head, what it prints of a thing, and what it is sorted by where that is not the text."""

    key: str
    head: str
    shown: Callable[[Any, Units], str]
    sorted_by: Callable[[Any], Any] | None = None

    @property
    def is_figure(self) -> bool:
        """Whether it stands at the right."""
        return self.sorted_by is not None


@dataclass(frozen=True, slots=True, kw_only=True)
class Cell:
    """One figure or word of a row."""

    head: str
    text: str
    is_figure: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Row:
    """A thing in its table."""

    pk: int
    name: str
    under: str
    cells: Sequence[Cell]
    used: Sequence[str]
    warning: str
    retired: bool
    scene: Scene | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Table:
    """One kind as it was asked for."""

    kind: Kind
    columns: Sequence[Column]
    rows: Sequence[Row]
    #: How many there are before the search.
    count: int
    asked: str
    sort: str


def _dial(item: Machine | Head, units: Units) -> str:
    if item.division_mm is None:
        return "no dial"
    return f"{units.fine(item.division_mm)} on {item.dial_reads}, {item.divisions_per_turn} a turn"


def _speeds(item: Machine) -> str:
    rpm = [float(one.rpm) for one in item.speeds.all()]
    return f"{rpm[0]:g} to {rpm[-1]:g}, {'stepless' if item.stepless else len(rpm)}"


def _maybe(value: Any, words: Callable[[Any], str]) -> str:
    return "" if value is None else words(value)


def _low(value: Any) -> float:
    return float("-inf") if value is None else float(value)


def _range(item: Gauge, units: Units) -> str:
    return f"{units.plain(item.range_low_mm)} to {units.plain(item.range_high_mm)}"


def _speed_pair(item: Material, made_of: str, units: Units) -> str:
    rough, finish = (getattr(item, f"{made_of}_{stage}_m_min") for stage in ("rough", "finish"))
    return f"{units.surface_speed(rough)} to {units.surface_speed(finish)}"


def reach_mm(bar: Bar) -> float:
    """How far it can stand out; nothing for one that is held at both ends."""
    return 0.0 if bar.method in ("line", "centres") else bar_record(bar).reach_mm


def reach_words(bar: Bar, units: Units) -> str:
    """The same in words."""
    return {"line": "in bearings", "centres": "in centres"}.get(bar.method) or units.length(reach_mm(bar))


COLUMNS: dict[str, tuple[Column, ...]] = {
    "machine": (
        Column(key="rpm", head="rpm", shown=lambda one, _: _speeds(one),
               sorted_by=lambda one: max(float(s.rpm) for s in one.speeds.all())),
        Column(key="dial", head="dial", shown=_dial),
        Column(key="cap", head="max, unbalanced", shown=lambda one, _: _maybe(one.unbalanced_max_rpm, str),
               sorted_by=lambda one: _low(one.unbalanced_max_rpm)),
        Column(key="axis", head="axis over table", shown=lambda one, u: _maybe(one.axis_height_mm, u.plain),
               sorted_by=lambda one: _low(one.axis_height_mm)),
    ),
    "head": (
        Column(key="dial", head="dial", shown=_dial),
        Column(key="slide", head="slide", shown=lambda one, u: u.plain(one.slide_travel_mm),
               sorted_by=lambda one: one.slide_travel_mm),
        Column(key="holes", head="holes", shown=lambda one, u: ", ".join(
            f"{hole.name} {u.plain(hole.offset_mm)}" for hole in one.holes.all())),
    ),
    "bar": (
        Column(key="d", head="Ø", shown=lambda one, u: u.plain(one.diameter_mm), sorted_by=lambda one: one.diameter_mm),
        Column(key="length", head="length", shown=lambda one, u: u.length(one.length_mm),
               sorted_by=lambda one: one.length_mm),
        Column(key="reach", head="reach", shown=reach_words, sorted_by=reach_mm),
        Column(key="enters", head="enters Ø", shown=lambda one, u: u.plain(one.min_bore_mm),
               sorted_by=lambda one: one.min_bore_mm),
    ),
    "cutter": (
        Column(key="made", head="made of", shown=lambda one, _: one.get_made_of_display()),
        Column(key="nose", head="nose", shown=lambda one, u: u.plain(one.nose_radius_mm),
               sorted_by=lambda one: one.nose_radius_mm),
        Column(key="angle", head="entering angle", shown=lambda one, _: f"{float(one.entering_angle_deg):g}°",
               sorted_by=lambda one: one.entering_angle_deg),
        Column(key="least", head="cuts from", shown=lambda one, u: u.plain(one.least_depth_mm),
               sorted_by=lambda one: one.least_depth_mm),
    ),
    "gauge": (
        Column(key="range", head="range", shown=_range, sorted_by=lambda one: one.range_low_mm),
        Column(key="step", head="reads to", shown=lambda one, u: u.fine(one.resolution_mm),
               sorted_by=lambda one: one.resolution_mm),
        Column(key="error", head="error limit", shown=lambda one, u: u.fine(one.error_limit_mm),
               sorted_by=lambda one: one.error_limit_mm),
        Column(key="due", head="check due", shown=lambda one, _: f"{one.due_on:%d %b %Y}" if one.due_on else "",
               sorted_by=lambda one: one.due_on.toordinal() if one.due_on else 10**9),
    ),
    "indicator": (
        Column(key="step", head="one division", shown=lambda one, u: u.fine(one.step_mm),
               sorted_by=lambda one: one.step_mm),
        Column(key="range", head="either way", shown=lambda one, u: u.plain(one.range_mm),
               sorted_by=lambda one: one.range_mm),
    ),
    "material": (
        Column(key="kc", head="kc1.1, MPa", shown=lambda one, _: f"{float(one.kc11_mpa):g}",
               sorted_by=lambda one: one.kc11_mpa),
        Column(key="grows", head="µm/(m °C)", shown=lambda one, _: f"{float(one.expansion_um_m_k):g}",
               sorted_by=lambda one: one.expansion_um_m_k),
        Column(key="carbide", head="carbide", shown=lambda one, u: _speed_pair(one, "carbide", u)),
        Column(key="hss", head="high-speed steel", shown=lambda one, u: _speed_pair(one, "hss", u)),
    ),
    "fixture": (
        Column(key="kind", head="kind", shown=lambda one, _: one.get_kind_display()),
        Column(key="size", head="size", shown=lambda one, u: " x ".join(
            u.plain(size) for size in (one.length_mm, one.width_mm, one.height_mm) if size is not None)),
        Column(key="high", head="high", shown=lambda one, u: _maybe(one.height_mm, u.plain),
               sorted_by=lambda one: _low(one.height_mm)),
        Column(key="count", head="how many", shown=lambda one, _: str(one.count), sorted_by=lambda one: one.count),
    ),
    "size": (
        Column(key="kind", head="kind", shown=lambda one, _: one.get_kind_display()),
        Column(key="d", head="Ø", shown=lambda one, u: u.plain(one.diameter_mm), sorted_by=lambda one: one.diameter_mm),
        Column(key="play", head="bore over it", shown=lambda one, u: u.signed(one.play_mm),
               sorted_by=lambda one: one.play_mm),
        Column(key="have", head="here", shown=lambda one, _: str(one.have), sorted_by=lambda one: one.have),
    ),
}  # fmt: skip


def _under(item: CribItem) -> str:
    """What stands under a thing's name."""
    if isinstance(item, Bar):
        return f"{bar_kind(item.kind).label}, {_FOR[item.method]}"
    if isinstance(item, Material):
        return f"{item.get_family_display()}; {item.source}"
    if isinstance(item, Fixture):
        return f"{item.purpose}{f', for {item.for_part}' if item.for_part else ''}"
    if isinstance(item, Machine) and item.shoes:
        return f"{item.get_kind_display()}, shoes {item.get_shoes_display()}"
    if isinstance(item, Machine | Gauge):
        return item.get_kind_display()
    return item.notes if isinstance(item, Cutter | Indicator | Head) else ""


_FOR = {"lathe-bar": "for a tool holder", "head": "for a boring head", "line": "line bar", "stand": "stand spindle",
        "centres": "between centres", "pilot": "pilot bar"}  # fmt: skip


def side_of(bar: Bar) -> BarSide:
    """A bar as it is drawn."""
    held = bar.method not in ("line", "centres", "pilot")
    steps = [(float(length), float(diameter)) for length, diameter in bar.steps_mm]
    return BarSide(length_mm=float(bar.length_mm), diameter_mm=float(bar.diameter_mm), steps_mm=steps,
                   reach_mm=reach_mm(bar) if held else None, bore_mm=float(bar.inner_diameter_mm))  # fmt: skip


def tabs() -> list[tuple[Kind, int]]:
    """Each kind and how many of it the shop has."""
    return [(kind, model_of(key)._default_manager.count()) for key, kind in KINDS.items()]


def table_of(kind: str, units: Units, *, asked: str = "", sort: str = "") -> Table:
    """One kind's table: searched for in everything it prints, sorted by a column; out of use last."""
    columns, items = COLUMNS[kind], in_table(model_of(kind))
    by = next((column for column in columns if column.key == sort), None)
    uses = uses_of(model_of(kind))
    if by is not None:
        items.sort(key=by.sorted_by or (lambda one: by.shown(one, units).lower()))
    items.sort(key=lambda one: one.retired)
    held = [float(one.length_mm) for one in items if isinstance(one, Bar) and one.method not in ("line", "centres")]
    longest = max(held, default=600.0)
    rows = [_row(item, columns, units, uses.get(item.pk, []), _LIST_BAR / longest) for item in items]
    words = asked.lower().split()
    kept = [row for row in rows if all(word in _text(row) for word in words)]
    return Table(kind=KINDS[kind], columns=columns, rows=kept, count=len(rows), asked=asked,
                 sort=by.key if by else "")  # fmt: skip


def _row(item: CribItem, columns: Sequence[Column], units: Units, used: Sequence[str], scale: float) -> Row:
    return Row(
        pk=item.pk, name=item.name, under=_under(item), used=used, warning=card_of(item, units).warning,
        retired=item.retired, cells=[
            Cell(head=one.head, text=one.shown(item, units), is_figure=one.is_figure) for one in columns
        ],
        scene=bar_side(side_of(item), scale) if isinstance(item, Bar) else None,
    )  # fmt: skip


def _text(row: Row) -> str:
    state = "out of use" if row.retired else ""
    return " ".join([row.name, row.under, row.warning, state, *row.used, *(cell.text for cell in row.cells)]).lower()


def bar_scene(bar: Bar, units: Units) -> Scene:
    """A bar to scale beside its fields."""
    side = side_of(bar)
    reach = "" if side.reach_mm is None else f"reach {units.length(side.reach_mm)}"
    clamped = "" if side.reach_mm is None else f"{units.length(side.length_mm - side.reach_mm)} clamped"
    return bar_view(side, (units.length(bar.length_mm), f"Ø{units.plain(bar.diameter_mm)}", reach, clamped))
