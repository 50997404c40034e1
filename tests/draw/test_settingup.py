"""The whole part on Work, and setting up, drawn: to scale, and no text on another."""

from __future__ import annotations

from itertools import combinations

import pytest

from gyrodraw import (
    BesideBore,
    BushLayer,
    Flag,
    Labels,
    LineBore,
    Marks,
    OnPlate,
    Part,
    Scene,
    SideBar,
    StackPiece,
    bush_band,
    plate_view,
    sides_ruler,
    stack_view,
    work_band,
    work_line_band,
)
from tests.draw.test_scenes import WIDTHS, boxes, points_of

LABELS = Labels(length="32", now="Ø77.380", wanted="Ø80 H7", upper="+0.030", lower="0", wall="10.993 wall left",
                stations=[("6", "77.410"), ("28", "77.380")])  # fmt: skip
SEAT_A = Part(
    length_mm=32, found=[(6, 77.41), (28, 77.38)], aim_mm=80.015, outside=[(22, 128), (82, 102), (32, 110)],
    shoulder=True,
    beside=[BesideBore(from_mm=112, to_mm=136, now_mm=69.8, aim_mm=72.015, number="2", letter="B", words="Ø72 H7",
                       shoulder_mm=112)],
)  # fmt: skip
MARKS = Marks(number="1", letter="A", flags=[Flag(letter="A", words="Lathe 3"),
                                             Flag(letter="B", words="Lathe 3, a long name", left=True)])  # fmt: skip
SLIM = Part(length_mm=210, found=[(20, 34.21), (105, 34.2), (190, 34.22)], aim_mm=36.02, outside=[(210, 62)])
SLIM_LABELS = Labels(length="210", now="Ø34.200", wanted="Ø36 H8", upper="+0.039", lower="0", wall="12.990 wall left",
                     stations=[("20", "34.210"), ("105", "34.200"), ("190", "34.220")])  # fmt: skip
LINE = [LineBore(number=f"{n + 1}", name=f"H{n + 1}", start_mm=z, end_mm=z + 80, outside_mm=150, now_mm=87.5,
                 aim_mm=90.02, found="Ø87.500", wanted="Ø90 H7", here=n == 0)
        for n, z in enumerate((0, 620, 1120))]  # fmt: skip
BUSH = BushLayer(
    hub_mm=112, seat_mm=62.015, depth_mm=24, inside_mm=53.5, length_mm=23.8, outside_mm=62.055, hub_hatch="iron",
    bush_hatch="bronze", seat_words="Ø62.015", outside_words="Ø62.055", inside_words="Ø53.500", length_words="23.8",
    seat_zone_mm=(62.012, 62.018), bush_zone_mm=(62.046, 62.064),
    zone_words=("62.012", "62.018", "62.046", "62.064"), gap_words=("0.025", "0.055"), unsure_mm=0.003,
)  # fmt: skip


def scenes(width: float) -> list[Scene]:
    return [
        work_band(SEAT_A, LABELS, min(width, 860), MARKS),
        work_band(SLIM, SLIM_LABELS, min(width, 860), MARKS),
        work_line_band(LINE, [(0, 620, "620"), (620, 1120, "500")], "A", "iron", min(width, 860)),
        bush_band(BUSH, width),
        sides_ruler(210, SideBar(letter="A", depth_mm=115, reach_mm=115, words="A bores 115"),
                    SideBar(letter="B", depth_mm=97, reach_mm=115, words="B bores 97, overlap 2"), 780),
        plate_view([OnPlate(share=0.4, angle_deg=90, words="web 6.4 kg"),
                    OnPlate(share=0.8, angle_deg=270, words="1.25 kg", is_weight=True)], 12, 0.86, 288),
    ]  # fmt: skip


@pytest.mark.parametrize("width", WIDTHS)
def test_no_text_lies_on_another_or_off_the_sheet(width: float) -> None:
    for scene in scenes(width):
        for (a, *p), (b, *q) in combinations(boxes(scene), 2):
            apart = p[2] <= q[0] or q[2] <= p[0] or p[3] <= q[1] or q[3] <= p[1]
            assert apart, f"{scene.title} at {width}: {a!r} on {b!r}"
        for text, left, top, right, bottom in boxes(scene):
            assert left >= -1, f"{scene.title} at {width}: {text!r}"
            assert right <= scene.width + 1, f"{scene.title} at {width}: {text!r}"
            assert top >= 0, f"{scene.title} at {width}: {text!r}"
            assert bottom <= scene.height, f"{scene.title} at {width}: {text!r}"


def test_another_set_ups_seat_stands_at_its_own_place_in_the_same_body() -> None:
    scene = work_band(SEAT_A, LABELS, 860, MARKS)
    outline = points_of(scene, "outline")[0]
    left, right = min(x for x, _ in outline), max(x for x, _ in outline)
    scale = (right - left) / 136
    theirs = points_of(scene, "wanted-b")[0]
    assert [(right - x) / scale for x, _ in theirs] == pytest.approx([136, 112], abs=0.1)
    walls = points_of(scene, "wall")
    heights = {round(y, 1) for points in walls for _, y in points}
    assert len(heights) == 2, "each seat has its own wall, and the middle goes on as the first"
    assert (max(heights) - min(heights)) / scale == pytest.approx((77.38 - 69.8) / 2, abs=0.1)
    places = [s.place for s in scene.shapes if s.place]
    assert places == ["found1", "found1", "1", "2"], "both can be touched, and the figures as found"


def test_the_two_sides_are_drawn_at_one_scale_and_overlap() -> None:
    scene = scenes(1280)[4]
    a, b = points_of(scene, "letter-a")[0], points_of(scene, "letter-b")[0]
    wide = {"a": max(x for x, _ in a) - min(x for x, _ in a), "b": max(x for x, _ in b) - min(x for x, _ in b)}
    assert wide["a"] / wide["b"] == pytest.approx(115 / 97, rel=1e-3)
    assert max(x for x, _ in b) > min(x for x, _ in a), "they meet with an overlap"


def test_a_stack_reaches_from_the_table_to_the_foot() -> None:
    pieces = [StackPiece(height_mm=60, words="60"), StackPiece(height_mm=1.5, words="1.5"),
              StackPiece(height_mm=0.1, words="0.1")]  # fmt: skip
    scene = stack_view(pieces, 148.4, 210, ("210", "61.6", "148.4"))
    axis = points_of(scene, "axis")[0][0][1]
    table = points_of(scene, "wall")[0][0][1]
    foot = max(y for _, y in points_of(scene, "outline")[0])
    assert (table - foot) / (table - axis) == pytest.approx(61.6 / 210, rel=1e-2)


def test_zones_of_a_fit_keep_their_distances() -> None:
    scene = bush_band(BUSH, 1280)
    bush, guard = points_of(scene, "turned")[0], points_of(scene, "guard")[0]
    tall = max(y for _, y in bush) - min(y for _, y in bush)
    gap = min(y for _, y in guard) - max(y for _, y in bush)
    assert gap / tall == pytest.approx((62.046 - 62.021) / 0.018, rel=1e-2)
