"""True by other ways, as typed on its page: sign, wanted offset, turns of the counter, plug and eye, disturbances."""

from __future__ import annotations

import re
import uuid
from typing import Any

import pytest
from django.test import Client

from gyrometra.bridge.units import Units
from gyrometra.crib.models import Indicator
from gyrometra.jobs.models import SetUp
from gyrometra.steps.page import open_page
from gyrometra.steps.shared.seen import seen_on
from gyrometra.truing.models import Between, Reading, Round
from tests.web.said import flat
from tests.web.test_check import log
from tests.web.test_tilt import HX, begin, read

pytestmark = pytest.mark.django_db
#: The outside of Q-223 lies 0.040 to jaw 1, in microns of its eight places.
TO_JAW_1 = [40, 28, 0, -28, -40, -28, 0, 28, 40]


def post(client: Client, address: str, **fields: Any) -> str:
    sent = {"client_id": str(uuid.uuid4()), **fields}
    return flat(client.post(f"/jobs/Q-223/{address}/", sent, headers={**HX, "X-Unit": fields.get("unit", "mm")}))


def test_plus_is_plunger_out(corin: Client) -> None:
    begin(corin, "Q-223", method="sweep", plus="out")
    said = read(corin, "Q-223", [-one for one in TO_JAW_1])
    assert "Slacken jaw <b>3</b>" in said
    assert "Tighten jaw <b>1</b>" in said
    assert "+ is plunger out." in said
    # jaw 1 read -40 and will read 0: the indicator's own sign
    assert "indicator at jaw 1: <b>-0.040</b> to <b>0</b>" in said
    assert '<option value="out" selected>' in said, "the next round asks nothing anew"


def test_wanted_off_centre_on_purpose(corin: Client) -> None:
    begin(corin, "Q-223", method="sweep", target_mm="0.040", target_deg="0")
    said = read(corin, "Q-223", TO_JAW_1)
    assert "wanted off centre on purpose" in said
    assert "0.040 to jaw 1" in said
    assert "Centred well enough" in said
    row = Round.objects.filter(setup__job__number="Q-223").latest("pk")
    assert (float(row.target_mm or 0), float(row.target_deg or 0)) == (0.04, 0.0)
    assert 'value="0.04"' in said, "the next round wants the same"


def test_turns_of_the_counter_and_beyond_the_scale(corin: Client) -> None:
    begin(corin, "Q-223", method="sweep")
    said = post(corin, "reading/true", value="1t 20", place="0")
    assert "how many divisions one turn of this indicator&#x27;s hand has is not known" in said
    Indicator.objects.filter(name="Indicator 1").update(per_turn=100)
    post(corin, "reading/true", value="1t 20", place="0")
    post(corin, "reading/true", value="-1 turn", place="1")
    post(corin, "reading/true", value=">500", place="2")
    post(corin, "reading/true", value="beyond -500", place="3")
    rows = {one.place: one for one in Reading.objects.filter(round__setup__job__number="Q-223")}
    assert float(rows[0].value_mm) == pytest.approx(0.120)
    assert float(rows[1].value_mm) == pytest.approx(-0.100)
    assert (rows[2].value_mm, rows[2].text) == (None, "off+")
    assert (rows[3].value_mm, rows[3].text) == (None, "off-")


@pytest.mark.parametrize(
    ("fields", "words"),
    [
        ({"how": "plug", "clearance_mm": "0.02"}, "over a plug or pilot"),
        ({"how": "coaxial", "swing_mm": "0.012"}, "0.006"),
        ({"how": "edge", "left_mm": "-30", "right_mm": "30", "front_mm": "10", "back_mm": "70.1", "sure_mm": "0.005"},
         "They differ by 0.100: oval, or a touch slipped."),
    ],
)  # fmt: skip
def test_centred_another_way_closes_the_step(corin: Client, fields: dict[str, str], words: str) -> None:
    said = post(corin, "centred", **fields)
    assert words in said
    assert "Go on to Bore" in said
    assert "tilt" in said, "what it does not see is said"
    assert f"by {fields['how']}, ±" in said, "the rail says by what"


def test_by_eye_is_an_entry_and_no_proof(corin: Client) -> None:
    said = post(corin, "centred", how="eye", within_mm="0.5")
    assert "not proven within" in said
    assert "Go on to Bore" not in said
    assert "by eye ±0.500, sweep it" in said
    assert Round.objects.filter(method="eye", indicator=None).count() == 1
    inch = post(corin, "centred", how="eye", within_mm="0.02", unit="in")
    assert "±0.508" in inch or "±0.0200" in inch
    # no reading is added to it
    eye = Round.objects.filter(method="eye").latest("pk")
    seen = seen_on(open_page("Q-223", Units()), "corin", eye.pk)
    post(corin, "reading/true", value="3", place="0", seen=seen)
    assert not Reading.objects.filter(round=eye).exists()
    # a double tap is one entry
    same = str(uuid.uuid4())
    for _ in range(2):
        post(corin, "centred", how="plug", clearance_mm="0.01", client_id=same)
    assert Round.objects.filter(method="plug").count() == 1
    for step in ("work", "bar", "cuts", "true", "bore", "check"):
        assert corin.get(f"/jobs/Q-223/{step}/").status_code == 200
    assert corin.get("/jobs/Q-223/sheet/").status_code == 200


@pytest.mark.parametrize(
    ("fields", "words"),
    [
        ({"how": "plug"}, "Clearance of the plug, on Ø is missing."),
        ({"how": "coaxial", "swing_mm": "-0.01"}, "must be"),
        ({"how": "eye", "within_mm": "a hair"}, "a hair cannot be read as a size"),
        ({"how": "edge", "left_mm": "3", "right_mm": "3", "front_mm": "1", "back_mm": "2", "sure_mm": "0.01"}, "twice"),
        ({"how": "sorcery"}, "choose one of the list"),
    ],
)  # fmt: skip
def test_a_centring_that_cannot_be_is_said_at_its_field(corin: Client, fields: dict[str, str], words: str) -> None:
    assert words in post(corin, "centred", **fields)
    assert not Round.objects.filter(setup__job__number="Q-223").exists()


def test_what_happened_to_it_lists_what_to_read_again(corin: Client) -> None:
    begin(corin, "Q-223", method="sweep", plane_mm="50")
    read(corin, "Q-223", [0] * 9)
    begin(corin, "Q-223", method="sweep", plane_mm="10")
    said = read(corin, "Q-223", [0] * 9)
    assert "True in 2 planes" in said
    said = post(corin, "between/disturbed", how="heated")
    assert "It was heated: let it cool to the shop first. Read again: the plane at 10, the plane at 50." in said
    assert Between.objects.get(setup__job__number="Q-223", kind="disturbed").how == "heated"
    assert "True in 2 planes" not in said
    begin(corin, "Q-223", method="sweep", plane_mm="50")
    assert "Read again" not in flat(corin.get("/jobs/Q-223/true/"))
    assert corin.post("/jobs/Q-223/between/disturbed/", {"how": "sung at"}, headers=HX).status_code == 404


def test_seen_from_the_other_end_the_drawing_is_mirrored_and_the_jaws_are_the_same(corin: Client) -> None:
    quarter = [0, 28, 40, 28, 0, -28, -40, -28, 0]  # 0.040 to jaw 2
    begin(corin, "Q-223", method="sweep")
    usual = read(corin, "Q-223", quarter)
    begin(corin, "Q-223", method="sweep", view="other")
    other = read(corin, "Q-223", quarter)
    assert "seen from the other end" in other
    for said in (usual, other):
        assert "Slacken jaw <b>4</b>" in said
        assert "Tighten jaw <b>2</b>" in said

    def jaw_2(said: str) -> float:
        found = re.search(r'class="t-jaw-number a-middle" x="([\d.]+)" y="[\d.]+">2<', said)
        assert found is not None
        return float(found[1])

    assert jaw_2(usual) > 230 > jaw_2(other), "at the right from the tailstock, else at the left"


def test_a_plane_is_touched_in_the_drawing(corin: Client) -> None:
    said = flat(corin.get("/jobs/Q-223/true/"))
    assert "Plane A, 75 deep" in said, "the inner one is A, as it is called once it was read"
    assert "Plane B, 8 deep" in said
    assert said.count('data-place="plane-A"') == 2, "in the drawing and beside the depth"
    begin(corin, "Q-223", method="sweep", plane_mm="8")
    assert "Plane A, 75 deep" not in flat(corin.get("/jobs/Q-223/true/"))
    said = read(corin, "Q-223", [0] * 9)
    assert '"A, 75 deep"' in said.replace(">A, 75 deep<", '>"A, 75 deep"<'), "one plane read, the other is offered"
    assert re.search(r'data-plane="8" aria-pressed="true">B, 8 deep<', said)


def test_a_table_is_moved_by_its_dial(corin: Client) -> None:
    said = flat(corin.get("/jobs/Q-228/true/"))
    # 0.024 on a dial of 0.02 a division
    assert "its dial: 1.2 div, past and back<" in said


def test_what_was_measured_before_a_weld_is_measured_anew(corin: Client) -> None:
    log(corin, 71.9, 20)
    warned = "after it was measured: let it cool, true it again, then measure every size anew."
    assert warned not in flat(corin.get("/jobs/Q-214/check/"))
    corin.post("/jobs/Q-214/between/disturbed/", {"client_id": str(uuid.uuid4()), "how": "knocked"}, headers=HX)
    assert warned not in flat(corin.get("/jobs/Q-214/check/")), "a knock changes no size"
    corin.post("/jobs/Q-214/between/disturbed/", {"client_id": str(uuid.uuid4()), "how": "welded"}, headers=HX)
    said = flat(corin.get("/jobs/Q-214/check/"))
    assert warned in said
    assert "every size anew: it was welded after the 1 that were read" in said
    assert "before it was welded or heated: counts no more" in said, "it stays in the log"
    assert "measure anew" in said, "the rail says so"
    log(corin, 71.9, 70)
    said = flat(corin.get("/jobs/Q-214/check/"))
    assert warned not in said
    checked = open_page("Q-214", Units()).judged
    assert [place.z_mm for place in checked.places] == [70], "what was read before is not averaged in"
    assert len(checked.pulled) == 1


def test_moved_otherwise_than_told(corin: Client) -> None:
    begin(corin, "Q-223", method="sweep")
    said = read(corin, "Q-223", TO_JAW_1)
    assert "Moved otherwise" in said
    refused = post(corin, "between/moved", really_0="")
    assert "Type by how much it was really moved." in refused
    # told 0.040 from jaw 1 to jaw 3, half of it made: nobody is told that the move went wrong
    said = post(corin, "between/moved", really_0="0.020")
    assert "Moved otherwise than told: it should lie 0.020 mm off centre now." in said
    row = Between.objects.filter(setup__job__number="Q-223").latest("pk")
    assert row.really_mm == [-0.02, 0.0]
    begin(corin, "Q-223", method="sweep")
    said = read(corin, "Q-223", [one // 2 for one in TO_JAW_1])
    assert "half as far" not in said
    assert 'data-entry="moved"' in said, "what is left is told anew"


def test_a_faceplate_is_tapped_once_at_a_clock_position(corin: Client) -> None:
    setup = SetUp.objects.get(job__number="Q-223")
    SetUp.objects.filter(pk=setup.pk).update(holding="faceplate")
    begin(corin, "Q-223", method="sweep")
    # off by 0.028 to 0 and as much to 90 degrees: 0.040 at half past one
    said = read(corin, "Q-223", [28, 40, 28, 0, -28, -40, -28, 0, 28])
    assert "Tap the work on the plate at 1:30, toward 7:30 (mark 3-4)" in said
    assert re.search(r'<p class="jawno">0\.0(39|40)', said)
    assert said.count('class="jawno"') == 1
    assert "By the clock, seen from the tailstock." in said
    post(corin, "between/moved", really_0="-0.040")
    assert "it should lie 0.079 mm off centre" in flat(corin.get("/jobs/Q-223/true/")) or "0.080 mm off" in flat(
        corin.get("/jobs/Q-223/true/")
    )


def test_before_the_first_round_stands_what_is_in_for_reading_and_what_was_not_ticked_is_said(corin: Client) -> None:
    said = flat(corin.get("/jobs/Q-223/true/"))
    for words in ("Spindle out of gear", "Rotary stop set", "Indicator stands firm", "Press the plunger in by"):
        assert words in said
    assert "Run-out limit (TIR)" in said
    said = begin(corin, "Q-223", method="sweep", ticks="asked", guard=["stop", "holder", "nonsense"])
    assert Round.objects.get(setup__job__number="Q-223").values == {"ticked": ["stop", "holder"]}
    said = flat(corin.get("/jobs/Q-223/true/"))
    assert "Not ticked before it: spindle out of gear." in said
    assert "Press the plunger in by" not in said, "asked once, before the first"


def test_work_that_is_true_enough_is_taken_apart(corin: Client) -> None:
    begin(corin, "Q-223", method="sweep")
    # 0.004 to jaw 1, an oval that swings by 0.020, nothing else
    said = read(corin, "Q-223", [14, 3, -10, -3, 6, -3, -10, 3, 14])
    assert "Centred well enough" in said
    assert "=" in said
    parts = re.findall(r'class="t-part(?:-blue)? [^>]*>([\d.]+)<', said)
    assert parts == ["0.004", "0.020", "0.000"]
    assert "toward jaw 1" in said
    assert "One turn at the indicator, mm" in said
    assert said.index("Go on to Bore") < said.index("Check it again"), "what is done next stands first"


def test_a_coaxial_indicator_is_wound_to_its_smallest_swing_x_then_y(corin: Client) -> None:
    """The hole lies at 0.120 and -0.050: each swing is twice how far it is from where the slide stands."""
    swings = {0.0: 0.26, 0.1: 0.1077, 0.2: 0.18868}
    tried = {f"x-{what}_{n}": str(value) for n, pair in enumerate(swings.items(), 1)
             for what, value in zip(("at", "swing"), pair, strict=True)}  # fmt: skip
    said = flat(corin.get("/jobs/Q-223/coaxial/", {**tried, "unit": "mm"}))
    assert "Wind X to <b>0.120</b>" in said
    assert "it swings 0.100 there: that is Y, wind it next." in said
    inch = flat(corin.get("/jobs/Q-223/coaxial/", {**tried, "unit": "in"}))
    assert "Wind X to <b>0.1200</b> <small>in" in inch
    # twice the swing of a plunger: three tries tell
    twice = {name: str(2 * float(value)) if "swing" in name else value for name, value in tried.items()}
    said = flat(corin.get("/jobs/Q-223/coaxial/", {**twice, "unit": "mm"}))
    assert "Wind X to <b>0.120</b>" in said
    assert "It shows 2.0 times the run-out" in said
    y = {"y-at_1": "0", "y-swing_1": "0.1", "y-at_2": "-0.1", "y-swing_2": "0.1"}
    said = flat(corin.get("/jobs/Q-223/coaxial/", {**y, "unit": "mm"}))
    assert "Wind Y to <b>-0.050</b>" in said
    assert "what is left" in said
    assert not Round.objects.filter(setup__job__number="Q-223").exists(), "nothing is logged by asking"
    post(corin, "centred", how="coaxial", swing_mm="0.006", **tried, **y)
    kept = Round.objects.get(method="coaxial").values
    assert kept["swing_mm"] == 0.006
    assert (kept["x-at_2"], kept["y-at_2"]) == ("0.1", "-0.1"), "as it was typed"


@pytest.mark.parametrize(
    ("tried", "words"),
    [
        ({"x-at_1": "0"}, "Give the position and its swing."),
        ({"x-at_1": "0", "x-swing_1": "-1"}, "must be"),
        ({"x-at_1": "here", "x-swing_1": "1"}, "here cannot be read as a size"),
        ({"x-at_1": "1", "x-swing_1": "0.2", "x-at_2": "1", "x-swing_2": "0.3"}, "Try two positions or more"),
        ({"x-at_1": "0", "x-swing_1": "0.1", "x-at_2": "1", "x-swing_2": "0.3", "x-at_3": "2", "x-swing_3": "0.1"},
         "no least between them"),
    ],
)  # fmt: skip
def test_tries_that_tell_no_least_are_said(corin: Client, tried: dict[str, str], words: str) -> None:
    said = flat(corin.get("/jobs/Q-223/coaxial/", tried))
    assert words in said
    assert "Wind" not in said


def take_back(client: Client, undo: str, **fields: str) -> str:
    sent = {"client_id": str(uuid.uuid4()), "what": "happened", "undo": undo, **fields}
    return flat(client.post("/jobs/Q-223/take-back/true/", sent, headers=HX))


def undo_on(said: str) -> str:
    """The entry that the page's undo names."""
    found = re.search(r'name="undo" value="([^"]+)"><input type="hidden" name="what" value="happened"', said)
    return found[1] if found else ""


def test_a_centring_is_taken_back_and_the_round_before_it_stands_again(corin: Client) -> None:
    begin(corin, "Q-223", method="sweep")
    said = read(corin, "Q-223", [0, 1, 0, -1, 0, 1, 0, -1, 0])
    assert undo_on(said) == "", "a round that was read is not undone by one tap"
    said = post(corin, "centred", how="eye", within_mm="0.5")
    assert "by eye ±0.500, sweep it" in said
    assert "Undo the centring" in said
    entry, sent = undo_on(said), str(uuid.uuid4())
    for _ in range(2):  # a double tap is one entry
        said = take_back(corin, entry, client_id=sent)
    assert "true in one plane" in said
    assert "taken back" in said, "it stays in the list"
    assert Between.objects.filter(setup__job__number="Q-223", kind="withdrawn").count() == 1
    assert Round.objects.filter(setup__job__number="Q-223", method="eye").count() == 1
    before = Between.objects.count()
    take_back(corin, entry)
    assert Between.objects.count() == before, "it was not the last any more"
    said = post(corin, "between/disturbed", how="knocked")
    assert "moved, read it again" in said, "what happens after it counts for the round that stands"
    said = take_back(corin, undo_on(said))
    assert "true in one plane" in said
    post(corin, "centred", how="plug", clearance_mm="0.01")
    assert [one.number for one in Round.objects.filter(setup__job__number="Q-223").order_by("pk")] == [1, 2, 3]
    assert "by plug, ±0.005" in flat(corin.get("/jobs/Q-223/true/"))


def test_a_disturbance_and_a_move_logged_by_mistake_are_taken_back(corin: Client) -> None:
    begin(corin, "Q-223", method="sweep")
    read(corin, "Q-223", TO_JAW_1)
    said = post(corin, "between/disturbed", how="knocked")
    assert "Undo disturbed" in said
    said = take_back(corin, undo_on(said))
    assert 'data-entry="moved"' in said, "its moves are told again"
    said = post(corin, "between/moved", really_0="0.020")
    assert "Undo what was moved" in said
    said = take_back(corin, undo_on(said))
    assert "Moved otherwise than told" not in said
    rows = Between.objects.filter(setup__job__number="Q-223").order_by("pk")
    assert [(one.kind, one.withdrawn) for one in rows] == [
        ("disturbed", False), ("disturbed", True), ("moved", False), ("moved", True),
    ]  # fmt: skip


@pytest.mark.parametrize(
    ("job", "words"),
    [
        ("Q-219", ["c + A cos t + B sin t", "positions read</dt> <dd>8 of 8", "a division</dt> <dd>0.001 mm"]),
        ("Q-216", ["c + A cos t + B sin t", "derived in gyrocore: sweep"]),
        ("Q-233", ["half the difference of opposite walls", "supports on Ø</dt> <dd>240", "screw, a turn</dt> <dd>1"]),
        ("Q-214", ["its diameters differ by 4 a", "run-out limit, half of it allowed</dt> <dd>0.020"]),
    ],
)  # fmt: skip
def test_every_figure_says_what_it_rests_on(corin: Client, job: str, words: list[str]) -> None:
    said = re.sub(r"\s+", " ", flat(corin.get(f"/jobs/{job}/true/")))
    for one in words:
        assert one in said


def test_a_centring_says_what_it_rests_on(corin: Client) -> None:
    said = post(corin, "centred", how="plug", clearance_mm="0.02")
    assert "a plug sits within half its clearance" in said
    assert re.search(r"<dt>clearance</dt>\s*<dd>0.020</dd>", said)


def test_a_move_under_half_a_division_is_not_told(corin: Client) -> None:
    begin(corin, "Q-223", method="sweep")
    said = read(corin, "Q-223", [40, 29, 0, -28, -40, -28, 0, 28, 40])
    assert re.findall(r'<p class="jawno">([\d.]+)</p>', said) == ["0.040"]
    assert "Slacken jaw <b>3</b>" in said
    assert "Slacken jaw <b>4</b>" not in said
    assert 'name="really_1"' not in said
    said = post(corin, "between/moved", really_0="0.020")
    assert "it should lie 0.020 mm off centre now" in said
