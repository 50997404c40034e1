"""The plan worked out from stored figures: the same answers as the core gives by itself."""

import math

import pytest
from django.test import Client

from gyrocore import Cut, cutting_force, spindle_speed
from gyrometra.bridge.units import Units, to_decimal
from gyrometra.crib.models import Bar, Cutter, Machine
from gyrometra.crib.records import bar_record, machine_record
from gyrometra.jobs.models import Job
from gyrometra.steps import plates, progress_words
from gyrometra.steps.forms import BarForm, CutsForm
from gyrometra.steps.page import open_page
from tests.web.test_bad_input import plan_of

MM, INCH = Units("mm"), Units("in")


def test_speeds_are_of_this_machine_and_one_lever_for_roughing(db: None) -> None:
    page = open_page("Q-214", MM)
    rough = [row for row in page.speeds.planned if row.is_roughing]
    assert {row.rpm for row in rough} == {280}
    exact = spindle_speed(diameter_mm=71.215, surface_speed_m_min=70).exact_rpm
    assert page.speeds.rough.value is not None
    assert page.speeds.rough.value.exact_rpm == pytest.approx(exact)
    assert page.at.machine.lever_for(280) == "B-3"


def test_the_cap_is_never_passed_and_five_percent_over_is_shown(corin: Client) -> None:
    corin.post("/jobs/Q-214/save/cuts/", {**plan_of("Q-214", CutsForm), "max_rpm": "224"})
    page = open_page("Q-214", MM)
    assert {row.rpm for row in page.speeds.planned} == {224}
    assert plates.cuts(page)[0].governs == "Limited by max rpm 224:"
    corin.post("/jobs/Q-214/save/cuts/", {**plan_of("Q-214", CutsForm), "max_rpm": "", "rough_speed_m_min": "60"})
    page = open_page("Q-214", MM)
    assert page.speeds.rough.value is not None
    assert page.speeds.rough.value.set_rpm == 280
    assert any("% over" in word for word in plates.cuts(page)[0].words)


def test_the_bar_carries_the_heaviest_pass_that_is_left(db: None) -> None:
    page = open_page("Q-214", MM)
    cut = Cut(kc11_mpa=1100, mc=0.25, depth_mm=(72.015 - 71.196) / 4, feed_mm_rev=0.08)
    assert page.passes.force.value is not None
    assert page.passes.force.value.radial_n == pytest.approx(cutting_force(cut).radial_n)
    assert page.at.budget_mm == pytest.approx(0.0075), "a quarter of the tolerance"


def test_an_own_budget_governs(corin: Client) -> None:
    corin.post("/jobs/Q-214/save/bar/", {**plan_of("Q-214", BarForm), "budget_mm": "1 tenths"})
    assert float(open_page("Q-214", MM).at.budget_mm) == pytest.approx(0.0075), "tenths are refused in mm"
    corin.post("/jobs/Q-214/save/bar/", {**plan_of("Q-214", BarForm), "budget_mm": "0.0005"})
    page = open_page("Q-214", MM)
    assert page.bar.overhung.value is not None
    assert (page.bar.overhung.value.state, page.bar.overhung.value.by) == ("stop", "deflection")
    assert page.job.stations["steps"][1]["state"] == "bad"
    assert plates.bar(page)[0].state == "bad"


def test_without_a_cutter_the_plates_say_what_is_missing(corin: Client) -> None:
    corin.post("/jobs/Q-214/save/bar/", {**plan_of("Q-214", BarForm), "cutter": ""})
    page = open_page("Q-214", MM)
    assert [plate.number for plate in plates.bar(page)] == ["165", "", ""]
    assert "the cutter" in plates.cuts(page)[0].reason
    assert corin.get("/jobs/Q-214/cuts/").status_code == 200
    assert progress_words.next_words(page.job.stations["next"], MM)["words"] == "Choose the cutter"


def test_the_first_cut_says_whether_the_work_is_trued(db: None) -> None:
    before, after = open_page("Q-223", MM).boring, open_page("Q-214", MM).boring
    assert before.off_centre_mm is None, "half the run-out limit counts"
    assert before.speeds.first_cut.value is not None
    assert before.speeds.first_cut.value.largest_mm - before.speeds.first_cut.value.smallest_mm >= 0.03
    assert after.off_centre_mm is not None
    assert 0 < after.off_centre_mm < 0.01, "as trued"


def test_passes_turn_the_dial_on_from_where_it_stands(db: None) -> None:
    rows = open_page("Q-214", MM).speeds.planned
    stand = 0.0
    for row in rows:
        assert row.setting.told is not None
        stand = (stand + row.setting.told.amount) % 100
        assert row.setting.stands_at == pytest.approx(stand, abs=2e-3), "the log keeps three places"
    total = sum(row.setting.told.amount for row in rows if row.setting.told)
    assert total == pytest.approx((72.015 - 68.4 + 71.215 - 71.196) / 0.04), "and what it came out small"


def test_an_eccentric_hole_is_bored_round_as_the_bar_copies_it(db: None) -> None:
    """Two springs in line: the bar at its tip, and the cut's radial force a millimetre of depth."""
    page = open_page("Q-223", MM)
    assert page.boring.copied is None, "no bar is picked yet"
    page = open_page("Q-214", MM)
    assert page.boring.copied is not None
    assert page.speeds.first_cut.value is not None
    assert page.passes.force.value is not None
    assert page.passes.heaviest is not None
    found = page.boring.copied
    swing, ratio, count = found.swing_mm, found.share, found.round_at
    assert swing == pytest.approx(page.speeds.first_cut.value.largest_mm - page.speeds.first_cut.value.smallest_mm)
    bar = 3 * 205_000 * math.pi * 40**4 / 64 / 165**3
    cut = page.passes.force.value.radial_n / page.passes.heaviest.depth_mm
    assert ratio == pytest.approx(cut / (bar + cut))
    assert swing * ratio**count <= 0.02
    assert plates.cut_totals(open_page("Q-214", MM))["copied"] == "", "its first cut is made"
    assert "so pass 1 is within" in plates.cut_totals(open_page("Q-219", MM))["copied"]


def test_time_is_of_all_passes(db: None) -> None:
    page = open_page("Q-214", MM)
    assert page.speeds.minutes == pytest.approx(3 * 145 / (0.2 * 280) + 2 * 145 / (0.08 * 355))


@pytest.mark.parametrize("number", ["Q-214", "Q-219", "Q-198", "Q-223", "Q-228", "Q-221"])
def test_next_actions_are_worded_in_both_units(db: None, number: str) -> None:
    job = Job.objects.get(number=number)
    metric, inch = (progress_words.next_words(job.stations["next"], units) for units in (MM, INCH))
    assert metric["words"]
    assert metric["words"] == inch["words"]
    if metric["figure"]:
        assert metric["figure"] != inch["figure"]


def test_the_demo_jobs_stand_where_the_shop_left_them(db: None) -> None:
    steps = {j.number: (j.stations["next"]["step"], j.stations["next"]["code"]) for j in Job.objects.all()}
    assert steps == {
        "P 31/2": ("true", "begin_truing"),
        "Q-216": ("true", "move_jaws"),
        "Q-233": ("bar", "choose_head"),
        "P 31/4": ("bar", "choose_bar"),
        "P 31/14": ("true", "begin_truing"),
        "P 31/16": ("bar", "choose_head"),
        "P 31/18": ("true", "begin_truing"),
        "P 31/6": ("true", "begin_truing"),
        "P 31/8": ("bar", "choose_line_bar"),
        "P 31/10": ("bar", "choose_bar"),
        "P 31/12": ("bar", "choose_bar"),
        "Q-214": ("bore", "bore_to"),
        "Q-219": ("true", "move_jaws"),
        "Q-198": ("check", "signed"),
        "Q-223": ("bar", "choose_bar"),
        "Q-228": ("true", "move_it"),
        "Q-221": ("bar", "one_more_bearing"),
        "Q-230": ("bore", "bore_to"),
        "Q-225": ("bore", "settling"),
        "Q-207": ("true", "begin_truing"),
    }


def test_units_between_people_and_the_store() -> None:
    assert MM.measured(72.0123, 0.001) == "72.012"
    assert MM.measured(72.0123, 0.01) == "72.01"
    assert MM.measured(72.0123, 0.002) == "72.012"
    assert INCH.planned(25.4) == "1.0000"
    assert INCH.measured(25.4, 0.00254) == "1.0000"
    # a gauge of the other unit: no figure that it cannot tell, none lost that it can
    assert [INCH.measured(63.51524, step) for step in (0.01, 0.001, 0.05)] == ["2.5006", "2.50060", "2.5006"]
    assert [MM.measured(72.0344, 25.4 * step) for step in (0.0005, 0.0001, 0.001)] == ["72.034", "72.034", "72.03"]
    assert MM.measured(12.025, 0.025) == "12.025"
    assert (MM.signed(0.03), MM.signed(-0.03), MM.signed(0)) == ("+0.030", "-0.030", "0")
    assert (MM.limit(221.09), MM.length(140.0), MM.length(139.7)) == ("221", "140", "139.7")
    assert MM.shown(to_decimal(68.2625), {"text": "2 11/16 in", "unit": "mm"}) == "2 11/16 in"
    assert INCH.shown(to_decimal(72), {"text": "72", "unit": "mm"}) == "2.8346"
    assert MM.shown(None, None) == ""
    assert (INCH.small(0.001), INCH.small(0.01), MM.small(0.00042), MM.small(0)) == (
        "0.00004",
        "0.0004",
        "0.0004",
        "0.000",
    )
    assert (MM.fine(0.0254), MM.fine(0.0075), MM.fine(0.02), INCH.fine(0.0254)) == ("0.0254", "0.0075", "0.02", "0.001")


def test_what_was_typed_is_echoed_as_understood(corin: Client) -> None:
    text = corin.get("/jobs/Q-223/work/?at=found").content.decode()
    assert 'value="2.2952 in"' in text
    assert "= 58.298 mm" in text
    assert "= 60.000 to 60.030 mm" in corin.get("/jobs/Q-223/work/").content.decode()


@pytest.mark.parametrize(
    ("kind", "fields"),
    [
        ("bar", {"name": "Bar 20", "method": "lathe-bar", "kind": "carbide", "diameter_mm": '1"',
                 "length_mm": "10 in"}),
        ("cutter", {"name": "Bit 9", "made_of": "hss", "nose_radius_mm": "1/32 in", "entering_angle_deg": "75",
                    "least_depth_mm": "1.5 thou"}),
    ],
)  # fmt: skip
def test_the_crib_takes_inches_and_keeps_them_as_typed(dagny: Client, kind: str, fields: dict[str, str]) -> None:
    assert dagny.post(f"/crib/{kind}/new/", fields).status_code == 302
    item = {"bar": Bar, "cutter": Cutter}[kind].objects.get(name=fields["name"])
    assert item.typed
    text = dagny.get(f"/crib/{kind}/{item.pk}/").content.decode()
    assert fields["name"] in text
    assert ('value="1&quot;"' in text) is (kind == "bar")
    if isinstance(item, Bar):
        assert (float(item.diameter_mm), bar_record(item).reach_mm) == (25.4, 254 - 3 * 25.4)


@pytest.mark.parametrize(
    ("kind", "fields", "says"),
    [
        ("bar", {"name": "Bar 7", "method": "lathe-bar", "kind": "steel", "diameter_mm": "40", "length_mm": "300"},
         "There is already a Bar 7"),
        ("bar", {"name": "B", "method": "lathe-bar", "kind": "steel", "diameter_mm": "40", "length_mm": "100"},
         "leaves nothing"),
        ("bar", {"name": "B", "method": "lathe-bar", "kind": "steel", "diameter_mm": "40", "length_mm": "300",
                 "min_bore_mm": "30"},
         "cannot enter a bore smaller than itself"),
        ("gauge", {"name": "G", "range_low_mm": "60", "range_high_mm": "50", "resolution_mm": "0.001",
                   "error_limit_mm": "0"}, "the larger size comes last"),
        ("indicator", {"name": "I", "step_mm": "0", "range_mm": "1"}, "must be over 0"),
    ],
)  # fmt: skip
def test_the_crib_refuses_what_cannot_be(dagny: Client, kind: str, fields: dict[str, str], says: str) -> None:
    assert says in dagny.post(f"/crib/{kind}/new/", fields).content.decode()


def test_a_machines_speeds_are_sorted_and_keep_their_levers(dagny: Client) -> None:
    machine = Machine.objects.get(name="Lathe 2")
    speeds = machine_record(machine).speeds_rpm
    assert speeds == sorted(speeds)
    fields = {"name": "Lathe 2", "kind": "lathe", "speeds": "b-2 500\n45, a-1 90", "division_mm": "0.001 in",
              "divisions_per_turn": "125", "dial_reads": "diameter"}  # fmt: skip
    dagny.post(f"/crib/machine/{machine.pk}/", fields)
    assert [(s.lever, float(s.rpm)) for s in machine.speeds.all()] == [("", 45), ("A-1", 90), ("B-2", 500)]


def test_members_are_added_by_the_lead_alone(dagny: Client, corin: Client) -> None:
    fields = {"username": "ansa", "password": "a-long-enough-word", "role": "machinist"}
    assert b"Add someone" not in corin.get("/members/").content
    corin.post("/members/", fields)
    assert dagny.post("/members/", fields).status_code == 302
    assert b"ansa" in dagny.get("/members/").content
    assert b"There is already a" in dagny.post("/members/", fields).content


def test_things_in_use_are_not_taken_away_and_others_can_be_put_back(dagny: Client) -> None:
    used, free = Bar.objects.get(name="Bar 7"), Bar.objects.get(name="Bar 3")
    text = dagny.post(f"/crib/bar/{used.pk}/retire/", follow=True).content.decode()
    assert "Bar 7 is used by Q-214, Q-216, Q-225: plan with another one there first." in text
    assert "Used by Q-214, Q-216, Q-225." in dagny.get(f"/crib/bar/{used.pk}/").content.decode()
    dagny.post(f"/crib/bar/{free.pk}/retire/")
    assert "Bar 3 " not in dagny.get("/jobs/Q-214/bar/").content.decode()
    assert "out of use" in dagny.get("/crib/?kind=bar").content.decode()
    dagny.post(f"/crib/bar/{free.pk}/retire/")
    assert "Bar 3 " in dagny.get("/jobs/Q-214/bar/").content.decode()
