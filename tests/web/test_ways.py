"""The ways of boring: a head on the mill, a bar in bearings, several bores on one axis."""

import uuid
from decimal import Decimal
from typing import Any

import pytest
from django.test import Client

from gyrometra.bridge.units import Units
from gyrometra.crib.models import Bar, Head, Indicator, Machine
from gyrometra.crib.records import head_record, machine_record
from gyrometra.cutting.models import CutEntry
from gyrometra.jobs.models import Bore, Job, Plan
from gyrometra.steps import plates
from gyrometra.steps.forms import HeadBarForm, LineBarForm, work_initial
from gyrometra.steps.page import open_page
from gyroplan.assess import Line
from tests.web.said import flat
from tests.web.test_bad_input import plan_of, work_of
from tests.web.test_passes import ALL_GUARDS

MM = Units()


def bar_text(client: Client, number: str, form: Any, **changes: Any) -> str:
    return client.post(f"/jobs/{number}/save/bar/", {**plan_of(number, form), **changes}).content.decode()


# ---------------------------------------------------------------- boring head


def test_the_hole_nearest_the_axis_that_reaches_is_picked(db: None) -> None:
    """Tip 13 from the bar's centre, slide 20: hole A cuts 26 to 66, B only from 56."""
    page = open_page("Q-228", MM)
    assert [(h.hole, h.smallest_mm, h.largest_mm, h.reason) for h in page.bar.holes.value.rows] == [  # type: ignore[union-attr]
        ("A", 26, 66, ""), ("B", 56, 96, "wide"), ("C", 86, 126, "wide"),
    ]  # fmt: skip
    hole, out, spring = plates.bar(page)
    assert (hole.number, out.number) == ("A", "75")
    assert "needs a hole of Ø21.000 first" in hole.words
    assert float(spring.number) == pytest.approx(
        abs(page.passes.force.value.radial_n) * 75**3 / (3 * 205_000 * 3.14159265 * 20**4 / 64), abs=5e-4  # type: ignore[union-attr]
    )  # fmt: skip


def test_the_heads_own_dial_and_cap_count(db: None) -> None:
    page = open_page("Q-228", MM)
    first = page.speeds.planned[0].setting
    assert first.told is not None
    assert first.told.amount == pytest.approx((first.to_mm - first.from_mm) / 2 / 0.01)
    assert page.speeds.cap_rpm == 400, "the head swung out, under the machine's 480"
    assert all(row.rpm is not None and row.rpm <= 400 for row in page.speeds.planned)


def test_a_head_that_does_not_reach_says_do_not_run(corin: Client) -> None:
    Head.objects.filter(name="Head 2").update(slide_travel_mm=Decimal(10))
    text = corin.get("/jobs/Q-228/bar/").content.decode()
    assert "Do not run. No hole reaches:" in text
    assert "does not reach the finished size" in text


def test_without_the_head_the_page_says_so(corin: Client) -> None:
    bar_text(corin, "Q-228", HeadBarForm, head="")
    text = corin.get("/jobs/Q-228/bar/").content.decode()
    assert "the boring head" in text
    assert Job.objects.get(number="Q-228").stations["next"]["code"] == "choose_head"
    assert corin.get("/jobs/Q-228/cuts/").status_code == 200


def test_a_shoulder_stops_the_cutter(db: None) -> None:
    page = open_page("Q-228", MM)
    assert float(page.at.plan.overrun_mm) == 5
    assert page.at.overrun_mm == 0
    assert page.bar.reach.value is not None
    assert page.bar.reach.value.reach_mm == 24 + 12
    depth = plates.cuts(open_page("Q-228", MM))[-1]
    assert (depth.label, depth.number) == ("Depth stop, from touch at the face", "24.050")


def test_the_table_is_moved_not_jaws(corin: Client) -> None:
    text = corin.get("/jobs/Q-228/true/").content.decode()
    assert "Move the table to the right" in text
    assert "jaw" not in text.split("<main")[1].split("caut")[0].lower().replace("jawno", "").replace("jaws", "")


# ---------------------------------------------------------------- bar in bearings


def stops(line: Line) -> str:
    """What stops a bar in bearings; empty where nothing does."""
    return line.verdict.by if line.verdict and line.verdict.state == "stop" else ""


def test_two_bearings_do_not_hold_and_a_third_does(db: None) -> None:
    page = open_page("Q-221", MM)
    assert page.bar.line.value is not None
    assert page.bar.better_line is not None
    assert not page.bar.line.value.holds
    assert page.bar.line.value.verdict_at("H2").by == "chatter"  # type: ignore[union-attr]
    assert page.bar.better_line.holds
    assert page.bar.better_line.bearings_mm == (-80, 580, 1280)
    assert plates.bar(page)[0].number == "580"


def test_chatter_at_the_softest_place_is_a_hard_limit(db: None) -> None:
    """Two bearings leave the middle bore soft: chatter begins far under the cut; a third one cures it."""
    page = open_page("Q-221", MM)
    assert page.bar.line.value is not None
    assert page.bar.better_line is not None
    assert page.bar.line.value.softest.bore == "H2"
    assert stops(page.bar.line.value) == "chatter"
    assert stops(page.bar.better_line) == ""
    assert page.bar.line.value.chatter is not None
    assert page.bar.line.value.chatter.limit_depth_mm is not None
    assert page.bar.line.value.chatter.limit_depth_mm < (page.bar.line.value.depth_mm or 0)
    Plan.objects.filter(setup__job__number="Q-221").update(budget_mm=Decimal(1))
    soft = open_page("Q-221", MM)
    assert soft.bar.line.value is not None
    assert stops(soft.bar.line.value) == "chatter"
    assert not soft.bar.line.value.holds, "the spring is allowed, the chatter is not"
    Plan.objects.filter(setup__job__number="Q-221").update(cutter=None)
    unknown = open_page("Q-221", MM)
    assert unknown.bar.line.value is not None
    assert unknown.bar.line.value.chatter is None


def test_standing_the_third_bearing_brings_the_job_on(corin: Client) -> None:
    bar_text(corin, "Q-221", LineBarForm, bearings_mm="-80; 580; 1280")
    job = Job.objects.get(number="Q-221")
    assert job.stations["steps"][1]["state"] == "done"
    assert job.stations["next"] == {
        "step": "true",
        "code": "begin_truing",
        "values": {"of": "H1", "place": 1, "number": 1},
    }
    text = corin.get("/").content.decode()
    assert "/jobs/Q-221/true/?bore=1" in text
    assert "H1: Sweep the work" in text


@pytest.mark.parametrize(
    ("typed", "says"),
    [
        ("-80", "needs two or more; 1 was given"),
        ("-80; 40", "stands inside H1"),
        ("-80; -80", "stands here twice"),
        ("-80; wide", "cannot be read as a size"),
        ("1,250; 2000", "could be"),
    ],
)
def test_bearings_that_cannot_be(corin: Client, typed: str, says: str) -> None:
    text = bar_text(corin, "Q-221", LineBarForm, bearings_mm=typed)
    assert says in text
    assert typed in text, "what was typed is kept"
    assert open_page("Q-221", MM).job.setup.plan.bearings_mm == [-80, 1280]


def test_a_blind_bore_has_both_bearings_before_it(corin: Client) -> None:
    work_text(corin, "Q-207", ends="blind", outside_l_0="230")
    assert "no bearing can stand past it" in bar_text(corin, "Q-207", LineBarForm)
    corin.post("/jobs/Q-207/save/bar/", {**plan_of("Q-207", LineBarForm), "bearings_mm": "-300; -20"})
    page = open_page("Q-207", MM)
    assert page.bar.line.value is not None
    assert page.bar.line.value.layout.rows[0].mode == "overhung"
    assert page.bar.line.value.layout.rows[0].distance_mm == 220
    assert page.at.overrun_mm == 0


def test_a_bar_too_short_for_its_bearings(corin: Client) -> None:
    Bar.objects.filter(name="Line bar 1").update(length_mm=Decimal(1400))
    bar_text(corin, "Q-221", LineBarForm, bearings_mm="-80; 580; 1280")
    text = corin.get("/jobs/Q-221/bar/").content.decode()
    assert "Bar too short:" in text
    assert "bearings, bores and travel need 1440 mm" in text


def test_each_bore_has_its_own_passes_set_over_the_bar(db: None) -> None:
    for place, start in ((1, 87.58), (2, 87.50), (3, 87.66)):
        page = open_page("Q-221", MM, place)
        assert page.at.start_mm == pytest.approx(start)
        for row in page.speeds.planned:
            assert row.setting.told is not None
            assert row.setting.told.amount == pytest.approx((60 + row.cut.diameter_mm) / 2)


def test_logs_of_one_bore_leave_the_others_alone(corin: Client) -> None:
    def post(kind: str, place: int, **values: Any) -> None:
        fields = {"client_id": str(uuid.uuid4()), "guard": ALL_GUARDS, **values}
        assert corin.post(f"/jobs/Q-221/cut/{kind}/?bore={place}", fields).url.endswith(f"bore={place}")  # type: ignore[attr-defined]

    post("set", 2, number=1)
    states = [open_page("Q-221", MM, place).passes.state for place in (1, 2, 3)]
    assert [state.phase for state in states if state] == ["set", "cut", "set"]
    post("cut", 2, number=1)
    assert [len(open_page("Q-221", MM, place).passes.done) for place in (1, 2, 3)] == [0, 1, 0]
    assert "74.179" in corin.get("/jobs/Q-221/bore/?bore=2").content.decode()


def test_the_bar_is_trued_at_both_end_bores(corin: Client) -> None:
    fields = {"method": "sweep", "places": "4", "indicator": Indicator.objects.get(name="Indicator 1").pk}
    for place in (1, 3):
        corin.post(f"/jobs/Q-221/round/true/?bore={place}", fields)
        for cell, value in enumerate(("0", "3", "6", "2", "0")):
            entry = {"client_id": str(uuid.uuid4()), "place": cell, "value": value}
            corin.post(f"/jobs/Q-221/reading/true/?bore={place}", entry)
        stations = Job.objects.get(number="Q-221").stations["steps"]
        assert (stations[3]["state"] == "done") is (place == 3)
    assert open_page("Q-221", MM, 2).truing.rounds == ()
    text = flat(corin.get("/jobs/Q-221/true/?bore=2"))
    assert "The bar is trued at the two end bores, H1 and H3; H2 follows from them." in text
    assert 'href="?bore=3"' in text


def test_the_time_of_all_bores_and_of_all_pieces(corin: Client) -> None:
    minutes = open_page("Q-207", MM).speeds.minutes
    assert minutes is not None
    assert f"{8 * minutes / 60:.1f} h for 8 pieces" in corin.get("/jobs/Q-207/cuts/").content.decode()
    total = sum(open_page("Q-221", MM, place).speeds.minutes or 0 for place in (1, 2, 3))
    assert f"All bores <b>{total:.0f} min</b>" in corin.get("/jobs/Q-221/cuts/?bore=2").content.decode()


def test_a_bore_to_suit_a_measured_part(corin: Client) -> None:
    work_text(corin, "Q-223", wanted="", mate_mm="59.992", play_mm="0.010 to 0.034")
    bore = open_page("Q-223", MM).bore_row
    assert (float(bore.lower_mm), float(bore.upper_mm)) == (60.002, 60.026)
    assert bore.wanted == "60.002-60.026 mm"
    text = corin.get("/jobs/Q-223/work/?at=fit").content.decode()
    assert "to 0.034: clearance" in text
    assert 'value="0.01 to 0.034"' in text, "the clearance is shown again, the limits are left to follow"
    assert work_initial(bore, MM)["wanted"] == ""


def test_the_fit_of_a_class_with_a_measured_part_is_shown(db: None) -> None:
    fit = plates.work(open_page("Q-228", MM))[2]
    assert fit.label == "Least clearance with the part, on diameter"
    assert (fit.number, fit.unit) == ("-0.041", "mm")
    assert fit.words[0] == "to -0.011: interference"


# ---------------------------------------------------------------- boring stand


def test_the_micrometer_is_set_small_by_what_the_bar_cuts_large(db: None) -> None:
    """Nothing is known but the crib's 0.012 before a pass is measured."""
    first = open_page("Q-230", MM).speeds.planned[0].setting
    assert first.told is not None
    assert first.told.amount == pytest.approx(first.to_mm - 0.012)


def test_the_habit_is_learned_from_what_came_out(db: None) -> None:
    """An absolute way takes off what the last measured pass came out over what it was set to."""
    page = open_page("Q-230", MM)
    over = page.passes.done[-1].came_over_mm
    following = page.speeds.planned[len(page.passes.done)].setting
    assert over is not None
    assert abs(over) > 1e-3
    assert following.told is not None
    assert following.told.amount == pytest.approx(following.to_mm - 0.012 - over)


def test_the_stand_ends_short_for_the_hone_and_says_its_habit(corin: Client) -> None:
    page = open_page("Q-230", MM)
    assert page.passes.plan.value is not None
    assert page.passes.plan.value.bored_diameter_mm == pytest.approx(102.0175 - 0.06)
    text = corin.get("/jobs/Q-230/bore/").content.decode()
    assert "Set on the micrometer" in text
    shown = plates.cuts(open_page("Q-230", MM))[2]
    assert shown.number == plates.bore(open_page("Q-230", MM))["dial"].number, "Cuts and Bore say one setting"
    assert "on diameter is left for honing" in corin.get("/jobs/Q-230/cuts/").content.decode()
    assert "shoes out while it bores" in corin.get("/crib/").content.decode()
    assert CutEntry.objects.filter(setup__job__number="Q-230", kind="set").count() == 2


# ---------------------------------------------------------------- bores in line


def add(client: Client, **fields: str) -> str:
    version = Job.objects.get(number="Q-221").version
    return client.post("/jobs/Q-221/bores/add/?bore=3", {"version": version, **fields}, follow=True).content.decode()


def test_a_bore_is_added_like_the_one_shown_and_taken_out_again(corin: Client) -> None:
    add(corin, name="H4", start_mm="1400")
    bore = Bore.objects.get(setup__job__number="Q-221", name="H4")
    assert (bore.place, bore.wanted, float(bore.start_mm), bore.found.count()) == (4, "90 H7", 1400, 0)
    assert Job.objects.get(number="Q-221").stations["next"]["values"] == {"of": "H4", "place": 4}
    version = Job.objects.get(number="Q-221").version
    corin.post("/jobs/Q-221/bores/remove/?bore=4", {"version": version})
    assert not Bore.objects.filter(pk=bore.pk).exists()


@pytest.mark.parametrize(
    ("fields", "says"),
    [
        ({"name": "h1", "start_mm": "1400"}, "There is already a bore H1"),
        ({"name": "H4", "start_mm": "1150"}, "H4 would overlap H3, which ends at 1200 mm"),
        ({"name": "", "start_mm": "1400"}, "Name is missing"),
    ],
)
def test_a_bore_that_does_not_fit_is_refused(corin: Client, fields: dict[str, str], says: str) -> None:
    assert says in add(corin, **fields)
    assert Bore.objects.filter(setup__job__number="Q-221").count() == 3


def test_a_bore_with_entries_stays(corin: Client) -> None:
    fields = {"client_id": str(uuid.uuid4()), "number": 1, "guard": ALL_GUARDS}
    corin.post("/jobs/Q-221/cut/set/?bore=2", fields)
    version = Job.objects.get(number="Q-221").version
    text = corin.post("/jobs/Q-221/bores/remove/?bore=2", {"version": version}).content.decode()
    assert "H2 has entries in its logs" in text
    version = Job.objects.get(number="Q-214").version
    text = corin.post("/jobs/Q-214/bores/remove/", {"version": version}).content.decode()
    assert "A job keeps one bore at least" in text


def work_text(client: Client, number: str, place: int = 1, **changes: Any) -> str:
    page = open_page(number, MM, place)
    fields = {**work_initial(page.bore_row, MM), "version": page.job.version, **changes}
    return client.post(f"/jobs/{number}/save/work/?bore={place}", fields).content.decode()


@pytest.mark.parametrize(
    ("number", "changes", "says"),
    [
        ("Q-214", {"method": "line"}, "Lathe 3 is a lathe; bar in bearings, work still needs a portable bar or a"),
        ("Q-221", {"method": "lathe-bar"}, "has 3 bores in line"),
        ("Q-221", {"start_mm": "600"}, "H1 would overlap H2, which runs from 620 mm to 700 mm"),
        ("Q-221", {"name": "H3"}, "There is already a bore H3 in this line"),
        ("Q-228", {"depth_wanted": ""}, "Shoulder depth is missing"),
        ("Q-228", {"length_mm": "30"}, "its length must lie from 24 mm to 24.1 mm; 30 mm was given"),
        ("Q-228", {"depth_wanted": "24"}, "gives no two limits"),
        ("Q-214", {"depth_wanted": "24 +0.1/0"}, "Only a counterbore has a shoulder"),
        ("Q-214", {"wanted": ""}, "or the part that it must suit and the clearance"),
        ("Q-214", {"wanted": "", "play_mm": "0.01 to 0.04"}, "The part's own measured size is missing"),
        ("Q-214", {"mate_mm": "71.99", "play_mm": "0.01 to 0.04"}, "are both given; leave one of them empty"),
        ("Q-214", {"wanted": "", "mate_mm": "71.99", "play_mm": "0.04 to 0.01"}, "must be over the least, 0.04 mm"),
        ("Q-214", {"wanted": "", "mate_mm": "71.99", "play_mm": "0.01"}, "gives no two clearances"),
        ("Q-214", {"wanted": "", "mate_mm": "71.99", "play_mm": "tight to loose"}, "cannot be read as a size"),
        ("Q-214", {"wanted": "", "mate_mm": "68", "play_mm": "0.01 to 0.04"}, "must be over what is there now"),
    ],
)
def test_work_that_cannot_be_says_why(corin: Client, number: str, changes: dict[str, str], says: str) -> None:
    before = Job.objects.get(number=number).version
    assert says in work_text(corin, number, **changes).replace("&#x27;", "'")
    assert Job.objects.get(number=number).version == before


def test_the_ways_are_compared_with_reasons(corin: Client) -> None:
    rows = {row.key: row for row in plates.ways(open_page("Q-214", MM))}
    assert (rows["lathe-bar"].picked, rows["lathe-bar"].can) == (True, True)
    assert rows["head"].words == "no bar for it fits and reaches", "they stand out 75 and 95; 165 is needed"
    head = {row.key: row for row in plates.ways(open_page("Q-228", MM))}["head"]
    assert "2 of 2 bars fit and reach" in head.words
    assert rows["line"].words.startswith("on Borer 1, Line rig")
    line = {row.key: row for row in plates.ways(open_page("Q-221", MM))}
    assert line["lathe-bar"].words == "bores one bore at a set-up; there are 3 in line"
    Machine.objects.filter(kind__in=["mill", "borer"]).update(retired=True)
    assert "the crib has no mill or horizontal borer" in corin.get("/jobs/Q-214/work/?at=methods").content.decode()


def test_a_job_can_change_its_way_while_nothing_is_set(corin: Client) -> None:
    mill = Machine.objects.get(name="Mill 1").pk
    fields = {**work_of("Q-223"), "method": "head", "machine": mill}
    corin.post("/jobs/Q-223/save/work/", fields)
    job = Job.objects.get(number="Q-223")
    assert (job.setup.way.turns, job.stations["next"]["code"]) == ("bar", "choose_head")
    fields = {**work_of("Q-214"), "method": "head", "machine": mill}
    assert "passes are set already" in corin.post("/jobs/Q-214/save/work/", fields).content.decode()


# ---------------------------------------------------------------- crib


@pytest.mark.parametrize(
    ("kind", "fields", "says"),
    [
        ("machine", {"name": "L9", "kind": "lathe", "speeds": "A 90", "dial_reads": "radius"},
         "one division is missing"),
        ("machine", {"name": "M9", "kind": "mill", "speeds": "A 90", "dial_reads": "radius", "division_mm": "0.02"},
         "Divisions a turn is missing"),
        ("head", {"name": "H", "division_mm": "0.01", "divisions_per_turn": "50", "dial_reads": "radius",
                  "slide_travel_mm": "16", "shank_mm": "20", "holes": "A 0\nA 15"}, "Hole A stands here twice"),
        ("head", {"name": "H", "division_mm": "0.01", "divisions_per_turn": "50", "dial_reads": "radius",
                  "slide_travel_mm": "16", "shank_mm": "20", "holes": "first"}, "Type a hole and its offset"),
        ("head", {"name": "H", "division_mm": "0.01", "divisions_per_turn": "50", "dial_reads": "radius",
                  "slide_travel_mm": "16", "shank_mm": "20", "holes": "A far"}, "cannot be read as a size"),
        ("bar", {"name": "B", "method": "head", "kind": "steel", "diameter_mm": "20", "length_mm": "120",
                 "tip_mm": "9"}, "The tip must stand past the bar"),
        ("bar", {"name": "B", "method": "head", "kind": "steel", "diameter_mm": "20", "length_mm": "120"},
         "A bar for a boring head needs it"),
        ("bar", {"name": "B", "method": "stand", "kind": "steel", "diameter_mm": "60", "length_mm": "500",
                 "tip_mm": "40"}, "Only a bar for a boring head has this figure"),
        ("bar", {"name": "B", "method": "stand", "kind": "line-bar", "diameter_mm": "60", "length_mm": "1500"},
         "A bar in bearings is a line bar"),
    ],
)  # fmt: skip
def test_the_crib_refuses_machines_heads_and_bars(dagny: Client, kind: str, fields: dict[str, str], says: str) -> None:
    assert says in dagny.post(f"/crib/{kind}/new/", fields).content.decode()


def test_a_mill_needs_no_slide_dial_and_a_head_keeps_its_holes(dagny: Client) -> None:
    dagny.post("/crib/machine/new/", {"name": "M9", "kind": "mill", "speeds": "1 90", "dial_reads": "radius"})
    assert machine_record(Machine.objects.get(name="M9")).dial is None
    head = Head.objects.get(name="Head 2")
    text = dagny.get(f"/crib/head/{head.pk}/").content.decode()
    assert "B 15" in text
    assert "Used by Q-228." in text
    assert [hole.offset_mm for hole in head_record(head).holes] == [0, 15, 30]
    assert "has no dial of its own" in dagny.get(
        "/lines/dial/", {"dial-have": "70", "dial-want": "71", "dial-machine": Machine.objects.get(name="M9").pk}
    ).content.decode()  # fmt: skip
