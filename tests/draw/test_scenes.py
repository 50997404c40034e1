"""Drawings: true to one scale, inside their sheet, texts clear of one another at every width."""

import re
from dataclasses import replace
from itertools import combinations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from gyrodraw import (
    BarLayer,
    Broken,
    CentresLayer,
    Crown,
    Detail,
    DialFace,
    Housing,
    InBore,
    Labels,
    LineLayer,
    Part,
    PassLine,
    RulerLimit,
    Rung,
    SagCurve,
    Scene,
    Shell,
    SpanRuler,
    WallPoint,
    Walls,
    bar_band,
    bore_band,
    centres_band,
    check_band,
    convergence_chart,
    cuts_band,
    dial_crown,
    dial_face,
    dial_scale,
    lever_gate,
    line_band,
    strip_section,
    work_band,
)
from gyrodraw.hatch import hatch
from gyrodraw.scene import number

WIDTHS = (1280.0, 760.0, 390.0)
PART = Part(
    length_mm=140,
    found=[(20, 68.42), (70, 68.41), (120, 68.40)],
    aim_mm=72.015,
    outside=[(26, 98), (84, 93), (30, 112)],
    hatch="iron",
)
LABELS = Labels(
    length="140", now="Ø68.400", wanted="Ø72 H7", upper="+0.030", lower="0", wall="10.492 wall left",
    stations=[("20", "68.420"), ("70", "68.410"), ("120", "68.400")],
)  # fmt: skip
#: Size of a role's letters in pixels, as in the style sheet; others are 16.
SIZES = {"figure": 18, "figure-blue": 18, "measured": 20, "ruler-figure": 20, "small": 14, "deviation": 14,
         "tick-figure": 14, "jaw-number": 20, "off-words": 18, "move-words": 17, "reading": 15,
         "disc-number": 16, "lever-text": 15, "lever-on-text": 15, "chart-figure": 15,
         "figure-blue-small": 15, "deviation-ink": 15, "tag-words": 15}  # fmt: skip


def layer(reach: str = "165") -> BarLayer:
    limits = [
        RulerLimit(name="Chatter", at_mm=241, figure="241", words="76 in hand", detail="where 0.469 deep chatters",
                   state="ok", governs=False),
        RulerLimit(name="Deflection", at_mm=150, figure="150", words="15 over", detail="springs 0.009 of 0.008",
                   state="hard", governs=True),
        RulerLimit(name="Rule of thumb", at_mm=160, figure="160", words="5 over", detail="4 x D, advice",
                   state="advice", governs=False),
    ]  # fmt: skip
    return BarLayer(
        diameter_mm=40, overrun_mm=5, clear_mm=20, bar_words="Bar 7 · steel Ø40", reach_words=reach,
        part_words=("5", "140", "20"), spring_mm=0.003, spring_words="springs 0.003, drawn x 1000", limits=limits,
    )  # fmt: skip


SHELLS = [
    Shell(number=n + 1, depth_mm=d, kind=k, depth=f"{d:.3f}", feed="0.2", size=f"Ø{70 + n:.3f}")
    for n, (d, k) in enumerate([(0.469, "rough"), (0.469, "rough"), (0.469, "test"), (0.2, "finish"), (0.2, "finish")])
]
FACE = DialFace(
    angles_deg=[45.0 * n for n in range(8)],
    outward_mm=[0.03, 0.028, 0.015, -0.011, -0.026, -0.027, -0.014, 0.012],
    words=["0", "-0.002", "+0.011", "+0.037", "+0.052", "+0.053", "+0.040", "+0.014"],
    limit_mm=0.02,
    offset_mm=(0.0268, 0.0129),
    offset_words="0.030",
    moves={
        "3": ("slacken", "slacken"),
        "1": ("tighten", "0.027"),
        "4": ("slacken", "slacken"),
        "2": ("tighten", "0.013"),
    },
)
TABLE = replace(
    FACE, places=("back", "right", "front", "left"), jaws=False, seen_from="seen from the spindle", moves={}
)
POINTS = [WallPoint(z_mm=z, value_mm=72 + v, words=f"{72 + v:.3f}", verdict=c)
          for z, v, c in ((20, 0.012, "in"), (70, 0.001, "undecided-low"), (120, 0.05, "over"))]  # fmt: skip
WALLS = Walls(
    length_mm=140, lower_mm=72, upper_mm=72.03, guard_mm=0.003, lower_words="72.000 bottom limit",
    upper_words="72.030 top limit", first=POINTS, second=POINTS, names=("Ø at 0°", "Ø at 90°"), hatch="bronze",
    depths=[(20, "20"), (70, "70"), (120, "120")],
)  # fmt: skip
RUNGS = [
    Rung(number=1, at_mm=69.34, above="Ø69.338", below="came out 69.340", state="done"),
    Rung(number=2, at_mm=70.277, above="Ø70.277", below="this pass", state="now"),
    Rung(number=3, at_mm=71.215, above="Ø71.215"),
]
LADDER = PassLine(
    start_mm=68.4, start_words="Ø68.400", known_mm=69.34, lower_mm=72, upper_mm=72.03,
    limits_words=("72.000", "72.030"), rungs=RUNGS, from_mm=68.4,
)  # fmt: skip
OVER = replace(LADDER, known_mm=72.06, from_mm=71.95, zoom_words="on Ø, the last\n0.110 to scale",
               over_words="0.030 over", size_words="72.060 ±0.004")  # fmt: skip
ZOOMED = replace(LADDER, known_mm=71.196, from_mm=70.99, zoom_words="on Ø, the last\n1.043 to scale",
                 rungs=[Rung(number=3, at_mm=71.196, above="Ø71.215", below="came out 71.196", state="done"),
                        Rung(number=4, at_mm=71.606, above="Ø71.606", below="this pass", state="now"),
                        Rung(number=5, at_mm=72.015, above="Ø72.015")])  # fmt: skip
INSIDE = InBore(what="bar", bar_mm=40, words="Bar 7 · 165 out", length_words="140 to go")
GAUGE = InBore(what="gauge", bar_mm=1, words="Bore gauge 50-100", length_words="140", size_words="Ø72.060",
               size_state="bad", note_words="±0.004")  # fmt: skip
DETAIL = Detail(depth_mm=0.47, left_mm=0.87, depth_words="0.470 deep, on radius", left_words="0.870 left after it",
                nose_mm=0.4, nose_words="nose R0.4")  # fmt: skip


HEAD = replace(layer(), centre_mm=18, holder="Head 2, face", out_mm=190)
LINE = LineLayer(
    housings=[Housing(name=f"H{n + 1}", start_mm=z, end_mm=z + 80, outside_mm=150, bore_mm=90, words="Ø90 H7")
              for n, z in enumerate((0, 620, 1120))],
    bearings_mm=[-80, 1280], proposed_mm=580, bar_mm=60, bar_length_mm=1500, bar_words="Line bar 1 Ø60 x 1500",
    hatch="iron",
    spans=[SpanRuler(left_mm=-80, right_mm=580, allowed_mm=420, words="660, 180 in hand", state="ok"),
           SpanRuler(left_mm=580, right_mm=1480, allowed_mm=420, words="900, 60 over 840, advice", state="advice")],
    sags=[SagCurve(points=[(-80, 0), (600, 0.073), (1280, 0)], bearings_mm=[-80, 1280], words="0.073 at worst on 2",
                   role="sag-over"),
          SagCurve(points=[(-80, 0), (250, 0.002), (580, 0), (930, 0.002), (1280, 0)], bearings_mm=[-80, 580, 1280],
                   words="0.002 at worst on 3", role="sprung")],
    gaps=[(0, 620, "620"), (620, 1120, "500")],
)  # fmt: skip


BROKEN = replace(
    PART,
    breaks=[Broken(start_mm=0, end_mm=60, groove_mm=4, words="keyway at 0°"),
            Broken(start_mm=90, end_mm=102, groove_mm=None, words="cross hole at 270°")],
)  # fmt: skip
CENTRES = CentresLayer(
    bar_mm=38, bar_length_mm=560, driver_mm=40, tail_mm=20, work_length_mm=180, bored_from_mm=0, bored_to_mm=180,
    overrun_mm=5, outside_mm=120, bore_mm=60, hatch="iron", bit_mm=285, bit_from_mm=225, bit_to_mm=345,
    bar_words="Centres bar 2 Ø38", bit_words="285", travel_words="the saddle travels 190",
    range_words="bit from 225 to 345 are OK", length_words="560",
)  # fmt: skip
SHORT = replace(CENTRES, bar_length_mm=300, bit_mm=None, bit_to_mm=None, length_words="300", bit_words="",
                range_words="the bar is too short: no place for the bit")  # fmt: skip
FAR = replace(layer(), limits=[replace(limit, at_mm=900.0, figure="900") for limit in layer().limits])


def scenes(width: float) -> list[Scene]:
    return [
        work_band(PART, LABELS, width),
        work_band(BROKEN, LABELS, width),
        centres_band(CENTRES, width),
        centres_band(SHORT, width),
        bar_band(PART, FAR, width),
        bar_band(PART, layer(), width),
        bar_band(PART, HEAD, width),
        line_band(LINE, width),
        cuts_band(PART, SHELLS, "140", width),
        bore_band(PART, INSIDE, LADDER, DETAIL, width),
        bore_band(PART, GAUGE, OVER, None, width),
        bore_band(PART, GAUGE, ZOOMED, None, width),
        check_band(WALLS, width),
        dial_face(FACE, min(width, 460), 372 if width > 600 else 320),
        dial_face(TABLE, min(width, 460), 372 if width > 600 else 320),
    ]


def boxes(scene: Scene) -> list[tuple[str, float, float, float, float]]:
    """Where each text lies, by the widths of a semi-condensed letter."""
    found = []
    for shape in scene.shapes:
        if shape.kind != "text" or not shape.text:
            continue
        size = SIZES.get(shape.role, 16)
        wide = 0.47 * size * len(shape.text)
        x = float(shape.x) - {"start": 0, "middle": wide / 2, "end": wide}[shape.anchor]
        found.append((shape.text, x, float(shape.y) - 0.72 * size, x + wide, float(shape.y)))
    return found


@pytest.mark.parametrize("width", WIDTHS)
def test_no_text_lies_on_another(width: float) -> None:
    for scene in scenes(width):
        for (a, *p), (b, *q) in combinations(boxes(scene), 2):
            apart = p[2] <= q[0] or q[2] <= p[0] or p[3] <= q[1] or q[3] <= p[1]
            assert apart, f"{scene.title} at {width}: {a!r} on {b!r}"


@pytest.mark.parametrize("width", WIDTHS)
def test_texts_stay_on_the_sheet(width: float) -> None:
    for scene in scenes(width):
        for text, left, top, right, bottom in boxes(scene):
            assert left >= -1, f"{scene.title} at {width}: {text!r}"
            assert right <= scene.width + 1, f"{scene.title} at {width}: {text!r}"
            assert top >= 0, f"{scene.title} at {width}: {text!r}"
            assert bottom <= scene.height, f"{scene.title} at {width}: {text!r}"


def points_of(scene: Scene, role: str) -> list[list[tuple[float, float]]]:
    paths = [shape.path for shape in scene.shapes if shape.role == role]
    return [[(float(x), float(y)) for x, y in re.findall(r"[ML](-?[\d.]+) (-?[\d.]+)", path)] for path in paths]


@pytest.mark.parametrize("width", WIDTHS)
def test_the_work_is_drawn_to_one_scale_both_ways(width: float) -> None:
    scene = work_band(PART, LABELS, width)
    outline = points_of(scene, "outline")[0]
    across = max(x for x, _ in outline) - min(x for x, _ in outline)
    wall = points_of(scene, "wall")[0][0][1]
    up = wall - min(y for _, y in outline)
    assert across / 140 == pytest.approx(up / ((112 - 68.40) / 2), rel=1e-2)


def test_the_ruler_has_the_scale_of_the_bar() -> None:
    scene = bar_band(PART, layer(), 1280)
    outline = points_of(scene, "outline")[0]
    scale = (max(x for x, _ in outline) - min(x for x, _ in outline)) / 140
    holder = points_of(scene, "phantom")[0][1][0]
    ticks = [points[0][0] for points in points_of(scene, "tick") + points_of(scene, "tick-governs")]
    assert sorted(round((holder - x) / scale) for x in ticks) == [150, 160, 241]


def test_the_dial_face_shows_the_arrow_however_small_the_error() -> None:
    small = DialFace(
        angles_deg=FACE.angles_deg, outward_mm=[0.0001] * 8, words=[""] * 8, limit_mm=0.02,
        offset_mm=(0.00005, 0.0), offset_words="0.000", moves={},
    )  # fmt: skip
    (start, tip) = points_of(dial_face(small), "off-centre")[0]
    assert ((tip[0] - start[0]) ** 2 + (tip[1] - start[1]) ** 2) ** 0.5 >= 20
    assert tip[1] < start[1], "toward jaw 1 is up"


def test_jaws_run_clockwise_from_the_top() -> None:
    scene = dial_face(FACE)
    jaws = {s.text: (float(s.x), float(s.y)) for s in scene.shapes if s.role == "jaw-number"}
    assert jaws["1"][1] < jaws["2"][1] < jaws["3"][1]
    assert jaws["2"][0] > jaws["1"][0] > jaws["4"][0]


@settings(max_examples=60)
@given(
    st.sampled_from(["iron", "steel", "bronze", "aluminium"]), st.floats(0, 500), st.floats(0, 300),
    st.floats(2, 400), st.floats(2, 200),
)  # fmt: skip
def test_hatch_never_leaves_its_box(kind: str, left: float, top: float, width: float, height: float) -> None:
    scene = Scene(1000, 1000, "hatch")
    hatch(scene, (left, top, left + width, top + height), kind)
    for shape in scene.shapes:
        for x, y in re.findall(r"[ML](-?[\d.]+) (-?[\d.]+)", shape.path):
            assert left - 0.01 <= float(x) <= left + width + 0.01
            assert top - 0.01 <= float(y) <= top + height + 0.01


def test_hatches_of_the_materials_differ() -> None:
    drawn = set()
    for kind in ("iron", "steel", "bronze", "aluminium", "plastic"):
        scene = Scene(100, 100, "hatch")
        hatch(scene, (0, 0, 90, 60), kind)
        drawn.add("".join(shape.role + shape.path for shape in scene.shapes))
    assert len(drawn) == 5


def test_an_unknown_outside_is_a_broken_wall() -> None:
    part = Part(length_mm=100, found=[(10, 50)], aim_mm=52, outside=())
    wave = [p for p in points_of(work_band(part, Labels(stations=[("10", "50")]), 1280), "narrow") if len(p) > 8]
    assert wave


def test_verdicts_speak_by_shape_too() -> None:
    roles = [shape.role for shape in check_band(WALLS, 1280).shapes]
    assert roles.count("mark-near") == roles.count("mark-over") == roles.count("place") == 2


def test_convergence_marks_a_void_round_and_the_expected_one() -> None:
    scene = convergence_chart([(1, 0.8, "0.800", False), (2, 0.2, "0.200", True), (3, 0.05, "0.050", False)], 0.02,
                              "limit 0.020", (0.003, "0.003"))  # fmt: skip
    roles = [shape.role for shape in scene.shapes]
    assert (roles.count("place-void"), roles.count("place-expected"), roles.count("place-solid")) == (1, 1, 2)
    heights = {s.role: float(s.path.split()[1].split("a")[0]) for s in scene.shapes if s.role.startswith("place")}
    assert heights["place-expected"] > heights["place-void"], "less run-out lies lower"


def test_levers_and_scales() -> None:
    gate = lever_gate(["A-1", "A-2", "B-1", "B-2"], "B-2")
    assert [s.text for s in gate.shapes if s.role == "lever-on-text"] == ["B", "2"]
    assert [s.text for s in dial_scale(96, per_turn=100).shapes if s.kind == "text"] == ["90", "0"]


def test_strip_fits_its_strip() -> None:
    for points in points_of(strip_section(PART), "outline"):
        assert all(0 <= x <= 124 and 0 <= y <= 62 for x, y in points)


@given(st.floats(-1e6, 1e6))
def test_numbers_print_with_a_point_and_no_exponent(value: float) -> None:
    assert re.fullmatch(r"-?\d+(\.\d{1,2})?", number(value))


@pytest.mark.parametrize("width", WIDTHS)
def test_a_line_job_is_drawn_to_one_scale(width: float) -> None:
    scene = line_band(LINE, width)
    bar = points_of(scene, "bar")[0]
    length, thick = bar[1][0] - bar[0][0], bar[2][1] - bar[1][1]
    assert length / 1500 == pytest.approx(thick / 60, rel=1e-2)
    housings = points_of(scene, "outline")
    assert len(housings) == 6, "three bores in full section"
    assert (housings[2][0][0] - housings[0][0][0]) / length == pytest.approx(620 / 1500, rel=1e-2)


def test_a_span_past_twice_the_rule_is_marked_and_the_new_bearing_is_blue() -> None:
    roles = [shape.role for shape in line_band(LINE, 1280).shapes]
    assert roles.count("over-advice") == 1
    assert roles.count("bearing-new") == 2
    assert roles.count("sag-over") == 1
    assert "x 500" in [shape.text for shape in line_band(LINE, 1280).shapes]


def test_a_counterbore_shows_what_stands_behind_its_shoulder() -> None:
    part = Part(length_mm=24, found=[(6, 54)], aim_mm=62, outside=[(70, 112)], shoulder=True)
    outline = points_of(work_band(part, Labels(stations=[("6", "54")]), 1280), "outline")[0]
    wanted = points_of(work_band(part, Labels(stations=[("6", "54")]), 1280), "wanted")
    across = max(x for x, _ in outline) - min(x for x, _ in outline)
    assert (max(x for x, _ in wanted[0]) - min(x for x, _ in wanted[0])) / across == pytest.approx(24 / 70, rel=1e-2)
    assert len(wanted) == 2, "the wall and the shoulder"


def test_positions_with_words_are_boxes() -> None:
    gate = lever_gate(["1-LOW", "2-LOW", "1-HIGH", "2-HIGH"], "2-HIGH")
    assert [s.text for s in gate.shapes if s.role == "lever-on-text"] == ["2", "high"]
    assert [s.text for s in dial_scale(74.1, unit_step=0.01).shapes if s.kind == "text"] == ["74.05", "74.15"]


@pytest.mark.parametrize("width", WIDTHS)
def test_a_job_between_centres_is_drawn_to_one_scale_at_both_ends_of_its_travel(width: float) -> None:
    scene = centres_band(CENTRES, width)
    bar = points_of(scene, "bar")[0]
    scale = (bar[1][0] - bar[0][0]) / 560
    assert (bar[2][1] - bar[1][1]) / 38 == pytest.approx(scale, rel=2e-2)
    begun = points_of(scene, "outline")[0]
    ended = max(points_of(scene, "phantom"), key=lambda points: points[1][0] - points[0][0])
    assert (begun[0][0] - ended[0][0]) / scale == pytest.approx(190, rel=2e-2), "it travels past both ends of the bore"
    bit = points_of(scene, "cutter")[0][0][0]
    assert (begun[0][0] - bit) / scale == pytest.approx(5, abs=0.5), "clear where the cut begins"
    assert (bit - ended[0][0] - 180 * scale) / scale == pytest.approx(5, abs=0.5), "and where it ends"
    assert "cutter" not in [shape.role for shape in centres_band(SHORT, width).shapes]


def test_what_breaks_the_wall_stands_at_its_place() -> None:
    wall = points_of(work_band(BROKEN, LABELS, 1280), "wall")[0]
    left, right = min(x for x, _ in wall), max(x for x, _ in wall)
    gaps = points_of(work_band(BROKEN, LABELS, 1280), "break")
    assert [(right - b[1][0]) / (right - left) * 140 for b in gaps] == pytest.approx([0, 90], abs=0.2)
    assert [(right - b[0][0]) / (right - left) * 140 for b in gaps] == pytest.approx([60, 102], abs=0.2)


def test_a_limit_off_the_sheet_is_broken_off_and_only_a_bar_in_its_holder_is_dragged() -> None:
    ticks = [s for s in bar_band(PART, FAR, 1280).shapes if s.role.startswith("tick")]
    assert not ticks
    assert bar_band(PART, FAR, 1280).drag_scale
    assert bar_band(PART, HEAD, 1280).drag_scale is None


@pytest.mark.parametrize("now", [0, 5, 29, 30])
def test_of_many_passes_the_ones_about_the_pass_in_hand_are_drawn(now: int) -> None:
    states = ["done" if n < now else "now" if n == now else "ahead" for n in range(30)]
    rungs = [Rung(number=n + 1, at_mm=70 + n, above=f"Ø{70 + n}", state=state) for n, state in enumerate(states)]
    line = replace(LADDER, start_mm=69, from_mm=69, lower_mm=99, upper_mm=99.1, known_mm=69 + now, rungs=rungs)
    ladder = bore_band(PART, INSIDE, line, None, 1280)
    numbers = [s.text for s in ladder.shapes if s.role in ("disc-number", "disc-open-number")]
    assert len(numbers) > 20
    assert len(set(numbers)) == len(numbers)
    assert str(min(now + 1, 30)) in numbers
    many = [Shell(number=n + 1, depth_mm=0.1, kind="rough", depth="0.100", feed="0.2", size=f"Ø{70 + n}", done=n < now)
            for n in range(30)]  # fmt: skip
    drawn = cuts_band(PART, many, "140", 1280)
    assert str(min(now + 1, 30)) in [s.text for s in drawn.shapes if s.role == "disc-number"]
    assert "9 of 30 passes; all in the list below" in [s.text for s in drawn.shapes]


@pytest.mark.parametrize(("rises", "divisions"), [(True, 10.2), (False, 10.2), (True, -3), (True, 60), (False, 99)])
def test_the_crown_has_its_target_under_the_mark(rises: bool, divisions: float) -> None:
    """The window shows where the dial stands, or, for a long move, the whole ring; no text meets another."""
    target = (70.4 + (divisions if rises else -divisions)) % 100
    crown = Crown(stands=70.4, target=target, divisions=divisions, per_turn=100, rises=rises,
                  stands_words="70.4 now", target_words=f"{target:.1f}")  # fmt: skip
    scene = dial_crown(crown)
    texts = {shape.text for shape in scene.shapes if shape.kind == "text"}
    assert "70.4 now" in texts
    for (a, *p), (b, *q) in combinations(boxes(scene), 2):
        apart = p[2] <= q[0] or q[2] <= p[0] or p[3] <= q[1] or q[3] <= p[1]
        assert apart, f"{a!r} on {b!r}"


def test_over_is_drawn_from_the_top_limit_to_the_size() -> None:
    """The hatched excess is as long as it is, at the scale of the limits."""
    scene = bore_band(PART, GAUGE, OVER, None, 1280)
    points = points_of(scene, "over-hard")[0]
    left, right = min(x for x, _ in points), max(x for x, _ in points)
    cross = points_of(scene, "mark-over")[0]
    assert right == pytest.approx((min(x for x, _ in cross) + max(x for x, _ in cross)) / 2, abs=0.1)
    assert left < right
    assert not [s for s in scene.shapes if s.role == "limit-zone"], "nothing green past the limit"
