"""Plans and logs as JSON, drawn at random, for the laws of the three states."""

from typing import Any

from hypothesis import strategies as st

GAUGES = [
    {"name": "B", "resolution_mm": 0.001, "error_limit_mm": 0.002, "single_sd_mm": 0.001},
    {"name": "C", "resolution_mm": 0.01, "correction_mm": 0.03},
]
WAYS: list[dict[str, Any]] = [
    {"way": "dial", "division_mm": 0.02, "divisions_per_turn": 100},
    {"way": "dial", "division_mm": 0.01, "divisions_per_turn": 50, "reads": "diameter", "numbers": "fall",
     "at_division": 12.5},
    {"way": "advance", "bit_tilt_deg": 30},
    {"way": "over-bar", "bar_diameter_mm": 40},
    {"way": "step", "bar_diameter_mm": 40},
    {"way": "micrometer", "scale_zero_mm": 0.2},
]  # fmt: skip


def bore_plan(way: dict[str, Any], **rules: Any) -> dict[str, Any]:
    """Q-214's bore, set in this way."""
    shop = {"rough_depth_mm": 0.5, "finish_depth_mm": 0.2, **rules}
    return {"bore": {"start_mm": 68.4, "lower_mm": 72.0, "upper_mm": 72.03}, "rules": shop, "setting": way,
            "gauges": GAUGES}  # fmt: skip


numbers = st.integers(1, 9)
#: One draw a step; what it means is decided from the state as it is then (see `entry_from`).
steps = st.lists(
    st.tuples(
        st.sampled_from(["told", "told", "cut", "cut", "size", "size", "wild", "actual", "bundle", "touched",
                         "touch-off", "zero", "undo"]),
        st.floats(-1, 1, allow_nan=False).map(lambda x: round(x, 4)),
        numbers,
    ),
    max_size=22,
)  # fmt: skip
plans = st.builds(
    bore_plan,
    st.sampled_from(WAYS),
    test_leave_mm=st.sampled_from([None, 0.8]),
    spring_passes=st.integers(0, 2),
    finish_passes=st.integers(1, 3),
)


def entry_from(step: tuple[str, float, int], state: dict[str, Any]) -> dict[str, Any]:
    """A sensible entry for the state, or a wild one."""
    what, amount, number = step
    hand = state["pass"] or number
    known = state["set_diameter_mm"] or state["known_mm"]
    simple: dict[str, dict[str, Any]] = {
        "told": {"kind": "set", "pass": hand},
        "cut": {"kind": "cut", "pass": hand},
        "size": {"kind": "size", "gauge": "B", "readings_mm": [known + amount / 50]},
        "wild": {"kind": "size", "gauge": "C", "readings_mm": [72 + amount, 72 + amount]},
        "actual": {"kind": "set", "pass": hand, "actual": (state["told"] or {}).get("reading_mm", 10) + amount},
        "bundle": {"kind": "cut", "pass": hand, "through": hand + number - 1},
        "touch-off": {"kind": "touch-off", "at_division": 49 * abs(amount)},
        "zero": {"kind": "zero", "at_division": 99 * abs(amount)},
    }
    return simple.get(what, {"kind": what})
