"""The damping believed of a bar: laws of how passes move it, and the verdict that follows."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gyrocore import BarData, BarSection, Cut, EdgeInCut, InvalidInput, cutting_force, stability
from gyroplan.plan import Heard, PassLoad, believed_damping, overhang_verdict, response_verdict

CUT = Cut(kc11_mpa=1100, mc=0.25, depth_mm=0.4, feed_mm_rev=0.1, nose_radius_mm=0.4)


def heard(chattered: bool, depth_mm: float = 0.4, number: int = 1) -> Heard:
    cut = Cut(kc11_mpa=1100, mc=0.25, depth_mm=depth_mm, feed_mm_rev=0.1, nose_radius_mm=0.4)
    return Heard(number=number, cut=cut, chattered=chattered)


def limit_at(ratio: float, stiffness: float) -> float | None:
    force = cutting_force(CUT)
    edge = EdgeInCut(kc_mpa=force.kc_mpa, entering_angle_deg=90, nose_radius_mm=0.4, feed_mm_rev=0.1, thrust_ratio=0.5)
    return stability(stiffness_n_mm=stiffness, damping_ratio=ratio, natural_frequency_hz=300, depth_mm=0.4,
                     edge=edge).limit_depth_mm  # fmt: skip


@given(
    ratio=st.floats(0.005, 0.2), stiffness=st.floats(100, 1e5),
    passes=st.lists(st.tuples(st.booleans(), st.floats(0.05, 3)), max_size=6),
)  # fmt: skip
def test_it_is_never_moved_past_the_factor_and_only_as_far_as_needed(
    ratio: float, stiffness: float, passes: list[tuple[bool, float]]
) -> None:
    found = believed_damping(ratio, stiffness, [heard(c, d, n) for n, (c, d) in enumerate(passes)])
    assert ratio / 3 - 1e-12 <= found.ratio <= 3 * ratio + 1e-12
    assert (found.number is None) == (found.ratio == ratio) or found.number is not None
    if found.number is not None:
        assert passes[found.number][0] is found.chattered


def test_a_quiet_pass_shows_that_its_depth_does_not_chatter() -> None:
    stiffness = 4000.0
    assert (limit_at(0.03, stiffness) or 9) < 0.4, "by the kind's damping it may chatter"
    found = believed_damping(0.03, stiffness, [heard(chattered=False, number=4)])
    assert (found.number, found.chattered) == (4, False)
    assert (limit_at(found.ratio * 1.001, stiffness) or 9) >= 0.4


def test_a_pass_that_chattered_moves_it_down_and_a_later_one_counts_more() -> None:
    stiffness = 6000.0
    assert (limit_at(0.03, stiffness) or 9) > 0.4
    down = believed_damping(0.03, stiffness, [heard(chattered=True)])
    assert down.ratio < 0.03
    again = believed_damping(0.03, stiffness, [heard(chattered=True), heard(chattered=False, depth_mm=2.5, number=2)])
    assert again.ratio > down.ratio
    assert again.number == 2


def test_what_says_nothing_moves_nothing() -> None:
    assert believed_damping(0.03, 1e6, [heard(chattered=False)]).number is None, "it would not chatter anyhow"
    assert believed_damping(0.03, None, [heard(chattered=True)]).number is None, "a rigid bar"
    with pytest.raises(InvalidInput):
        believed_damping(1.0, 1500, [])


def test_chatter_is_certain_by_the_kind_whatever_was_heard() -> None:
    load = PassLoad(number=1, kind="rough", cut=CUT, budget_mm=1, budget_from="own")
    bar, data = BarSection(kind="steel", diameter_mm=25), BarData()
    by_kind = overhang_verdict(bar, data, [load], 200)
    moved = overhang_verdict(bar, data, [load], 200, believed=0.06)
    assert by_kind is not None
    assert moved is not None
    assert moved.limit("certain") == by_kind.limit("certain")
    assert (moved.limit("chatter").at_mm or 0) > (by_kind.limit("chatter").at_mm or 0)
    held = response_verdict(2600, 300, 0.03, [load])
    quiet = response_verdict(2600, 300, 0.03, [load], believed=0.09)
    assert held is not None
    assert quiet is not None
    assert (held.state, quiet.state) == ("caution", "ok")
