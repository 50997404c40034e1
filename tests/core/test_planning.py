"""Bars, dials and passes."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from gyrocore import (
    BarCandidate,
    Dial,
    InvalidInput,
    PassRules,
    bar_kinds,
    catalogue,
    cautions,
    choose_bar,
    first_cut_depths,
    head_dial,
    materials,
    methods,
    pass_plan,
    reach_needed,
)


def bar(name: str, diameter: float, reach: float, **more: object) -> BarCandidate:
    values: dict[str, object] = {"kind": "steel", "shank_mm": diameter, "min_bore_mm": diameter * 1.1, **more}
    return BarCandidate(name=name, diameter_mm=diameter, reach_mm=reach, **values)  # type: ignore[arg-type]


def test_rule_and_stiffness_and_the_reasons() -> None:
    found = choose_bar(
        candidates=[bar("thin", 32, 200), bar("stout", 40, 180), bar("short", 40, 120), bar("fat", 66, 200)],
        needed_reach_mm=165, bore_mm=68.4, chip_clearance_mm=5,
    )  # fmt: skip
    assert (found.by_rule, found.by_stiffness) == ("stout", "stout")
    assert [row.name for row in found.ranked][:2] == ["stout", "thin"]
    why = {row.name: [reason.code for reason in row.reasons] for row in found.ranked}
    assert why == {"stout": [], "thin": [], "short": ["too_short"], "fat": ["bore_too_small", "no_chip_room"]}


def test_picks_differ_where_a_bar_has_a_fixed_reach() -> None:
    found = choose_bar(
        candidates=[bar("free", 25, 200), bar("fixed", 40, 190, fixed_reach=True)],
        needed_reach_mm=165, bore_mm=68.4, chip_clearance_mm=5,
    )  # fmt: skip
    assert (found.by_rule, found.by_stiffness) == ("free", "fixed")
    assert found.notes[0].code == "picks_differ_reach"


def test_a_shank_the_holder_does_not_take() -> None:
    found = choose_bar(candidates=[bar("a", 25, 200)], needed_reach_mm=100, bore_mm=60, chip_clearance_mm=2,
                       holder_shanks_mm=[20, 32])  # fmt: skip
    assert found.by_rule is None
    assert found.ranked[0].reasons[0].code == "shank_not_held"


def test_repeated_bars_are_refused_at_the_second() -> None:
    with pytest.raises(InvalidInput) as refused:
        choose_bar(candidates=[bar("a", 25, 200), bar("a", 20, 200)], needed_reach_mm=1, bore_mm=60,
                   chip_clearance_mm=2)  # fmt: skip
    assert refused.value.field == "candidates.1.name"


@given(st.floats(10, 200), st.floats(10, 200), st.sampled_from(["radius", "diameter"]), st.integers(10, 250))
def test_dial_arithmetic_closes(have: float, want: float, reads: str, per_turn: int) -> None:
    dial = Dial(division_mm=0.02, divisions_per_turn=per_turn, reads=reads)
    move = head_dial(measured_diameter_mm=have, target_diameter_mm=want, dial=dial, at_division=3)
    worth = 0.04 if reads == "radius" else 0.02
    assert move.divisions * worth == pytest.approx(want - have, abs=1e-9)
    assert move.turns * per_turn + move.odd_divisions == pytest.approx(move.divisions, abs=1e-6)
    assert abs(move.odd_divisions) < per_turn + 1e-6
    assert 0 <= move.set_to_division < per_turn
    off = (3 + move.divisions - move.set_to_division) / per_turn
    assert off == pytest.approx(round(off), abs=1e-6)


def test_whole_turns_are_not_lost_to_rounding() -> None:
    dial = Dial(division_mm=0.1, divisions_per_turn=10, reads="diameter")
    move = head_dial(measured_diameter_mm=70.1, target_diameter_mm=71.1, dial=dial)
    assert (move.turns, move.set_to_division) == (1, 0)
    back = head_dial(measured_diameter_mm=71.1, target_diameter_mm=70.1, dial=dial)
    assert back.turns == -1
    assert "wind_back" in [note.code for note in back.notes]


def plan(start: float, aim: float, **rules: object) -> list[tuple[str, float, float, bool]]:
    values: dict[str, object] = {"rough_depth_mm": 0.5, "finish_depth_mm": 0.2, **rules}
    found = pass_plan(start_diameter_mm=start, aim_diameter_mm=aim, rules=PassRules(**values))  # type: ignore[arg-type]
    return [(p.kind, round(p.depth_mm, 6), round(p.diameter_mm, 6), p.measure_after) for p in found.passes]


def test_the_plan_of_the_trunnion_housing() -> None:
    assert plan(68.4, 72.015) == [
        ("rough", 0.469167, 69.338333, False),
        ("rough", 0.469167, 70.276667, False),
        ("rough", 0.469167, 71.215, True),
        ("finish", 0.2, 71.615, True),
        ("finish", 0.2, 72.015, True),
    ]


def test_a_test_cut_stops_short_and_the_finish_shares_it() -> None:
    found = plan(68.4, 72.0, test_leave_mm=0.6)
    assert [row[0] for row in found] == ["rough", "rough", "test", "finish", "finish"] or found[-3][0] == "test"
    test = next(row for row in found if row[0] == "test")
    assert test[2] == pytest.approx(71.4)
    assert [row[1] for row in found if row[0] == "finish"] == [0.15, 0.15]
    assert [row[3] for row in found if row[0] == "rough"] == [False] * (len(found) - 3)


@pytest.mark.parametrize(
    ("start", "aim", "kinds"),
    [
        (71.94, 72.0, ["finish"]),  # under the least depth: one pass
        (71.8, 72.0, ["finish", "finish"]),  # no room for roughing
        (71.85, 72.0, ["finish"]),  # two would rub
        (71.12, 72.0, ["finish", "finish"]),  # a rest too thin is shared
        (71.1, 72.0, ["rough", "finish", "finish"]),  # a rest of exactly the least depth is cut
    ],
)
def test_thin_stock(start: float, aim: float, kinds: list[str]) -> None:
    assert [row[0] for row in plan(start, aim)] == kinds


@given(
    st.floats(20, 200), st.floats(0.02, 12), st.floats(0.1, 2), st.floats(0.05, 0.4), st.integers(1, 4),
    st.floats(0.01, 0.05), st.integers(0, 3),
)  # fmt: skip
def test_laws_of_the_plan(
    start: float, stock: float, rough: float, fine: float, count: int, least: float, springs: int
) -> None:
    rules = PassRules(rough_depth_mm=rough, finish_depth_mm=fine, finish_passes=count, min_depth_mm=least,
                      spring_passes=springs)  # fmt: skip
    found = pass_plan(start_diameter_mm=start, aim_diameter_mm=start + stock, rules=rules)
    cutting = [p for p in found.passes if p.kind != "spring"]
    assert 2 * sum(p.depth_mm for p in found.passes) == pytest.approx(found.stock_mm, abs=1e-9)
    assert found.passes[-1].diameter_mm == pytest.approx(start + stock)
    assert all(p.depth_mm <= rough + 1e-9 for p in cutting if p.kind == "rough")
    if stock / 2 >= least:
        assert all(p.depth_mm >= least - 1e-9 for p in cutting)
    roughing = [p for p in cutting if p.kind == "rough"]
    if len(roughing) > 1:
        assert sum(p.depth_mm for p in roughing) > (len(roughing) - 1) * rough - 1e-6
    assert sum(p.kind == "spring" for p in found.passes) == springs


@pytest.mark.parametrize(
    ("rules", "start", "aim", "field"),
    [
        ({"min_depth_mm": 0.3}, 68, 72, "min_depth_mm"),
        ({"finish_depth_mm": 0.04}, 68, 72, "min_depth_mm"),
        ({}, 72, 72, "aim_diameter_mm"),
        ({"hone_allowance_mm": 4.0}, 68, 72, "hone_allowance_mm"),
        ({"test_leave_mm": 0.1}, 68, 72, "test_leave_mm"),
        ({"test_leave_mm": 3.95}, 68, 72, "test_leave_mm"),
        ({"finish_passes": 0}, 68, 72, "finish_passes"),
    ],
)
def test_plans_that_cannot_be(rules: dict[str, object], start: float, aim: float, field: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        plan(start, aim, **rules)
    assert refused.value.field == field


def test_reach_and_room() -> None:
    assert reach_needed(bore_length_mm=140, overrun_mm=5, clear_mm=20, room_behind_mm=5).reach_mm == 165
    with pytest.raises(InvalidInput) as refused:
        reach_needed(bore_length_mm=140, overrun_mm=13, clear_mm=20, room_behind_mm=12)
    assert (refused.value.field, refused.value.code) == ("overrun_mm", "overrun_past_room")


def test_first_cut_between_two_circles() -> None:
    """Brute force: depth of cut round a circle of 68.4 whose centre lies 0.3 off, bored to 69.34."""

    turn = np.linspace(0, 2 * np.pi, 100_001)
    wall = 0.3 * np.cos(turn) + np.sqrt(34.2**2 - (0.3 * np.sin(turn)) ** 2)
    found = first_cut_depths(cut_diameter_mm=69.34, found_mm=[68.4], off_centre_mm=0.3)
    assert found.smallest_mm == pytest.approx(34.67 - wall.max(), abs=1e-9)
    assert found.largest_mm == pytest.approx(34.67 - wall.min(), abs=1e-9)


def test_every_entry_of_the_catalogue_says_its_source() -> None:
    entries = [*bar_kinds().values(), *materials().values(), *methods().values(),
               *cautions(method="lathe-bar", step="bore", material_key="steel")]  # fmt: skip
    assert all(entry.source.strip() for entry in entries)


def test_a_slip_in_the_table_of_materials_is_refused(monkeypatch: pytest.MonkeyPatch) -> None:
    table = catalogue.load("materials.toml")
    table["steel"]["kc11_mpa"] = 17.0
    monkeypatch.setattr(catalogue, "load", lambda name: table)
    with pytest.raises(InvalidInput) as caught:
        catalogue.materials.__wrapped__()
    assert caught.value.field == "kc11_mpa"
