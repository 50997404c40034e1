"""Passes as they come out: what is left is shared anew, bundles, the test cut, settings, proven speeds, power."""

import uuid
from decimal import Decimal
from typing import Any

import pytest
from django.test import Client

from gyrocore import surface_speed_m_min
from gyrometra.bridge.units import Units
from gyrometra.crib.models import Bar, Cutter, Gauge, Machine
from gyrometra.cutting.models import CutEntry
from gyrometra.jobs.models import Job, Plan
from gyrometra.steps import plates
from gyrometra.steps.cuts.plates import proven_rows
from gyrometra.steps.forms import BarForm, CutsForm
from gyrometra.steps.page import JobPage, open_page
from gyroplan.assess import pockets_of
from gyroplan.record import MachineRecord
from tests.web.said import flat
from tests.web.test_bad_input import plan_of

MM = Units()
ALL_GUARDS = ["locked", "cleared", "swung", "gauge"]


def log(client: Client, job: str, kind: str, query: str = "", **fields: Any) -> str:
    values = {"client_id": str(uuid.uuid4()), **fields}
    return client.post(f"/jobs/{job}/cut/{kind}/{query}", values, follow=True).content.decode()


def cut(client: Client, job: str, number: int, query: str = "", **fields: Any) -> str:
    """Set a pass, every step before power ticked, and cut it."""
    log(client, job, "set", query, number=number, guard=ALL_GUARDS, **fields)
    return log(client, job, "cut", query, number=number)


def size(client: Client, job: str, text: str, **fields: Any) -> str:
    gauge = Gauge.objects.measuring(open_page(job, MM).bore.lower_mm)[0]
    return log(client, job, "size", gauge=gauge.pk, value=text, **fields)


def kinds(page: JobPage) -> list[tuple[str, float]]:
    assert page.passes.plan.value is not None
    return [(cut.kind, round(cut.depth_mm, 4)) for cut in page.passes.plan.value.passes]


def cuts(client: Client, number: str, **changes: str) -> str:
    return client.post(
        f"/jobs/{number}/save/cuts/", {**plan_of(number, CutsForm), **changes}, follow=True
    ).content.decode()


def test_what_is_left_is_shared_anew_after_each_size(corin: Client) -> None:
    assert kinds(open_page("Q-214", MM))[3:] == [("finish", 0.2048), ("finish", 0.2048)], "test came to 71.196"
    cut(corin, "Q-214", 4)
    text = size(corin, "Q-214", "71.65", number=4)
    assert kinds(open_page("Q-214", MM))[4:] == [("finish", 0.1825)]
    assert "72.015" in text
    cut(corin, "Q-214", 5)
    size(corin, "Q-214", "71.98", number=5)
    assert kinds(open_page("Q-214", MM))[5:] == [("spring", 0)], "thinner than the edge cuts: let it spring off"
    log(corin, "Q-214", "cut", number=6)
    size(corin, "Q-214", "72.006", number=6)
    state = open_page("Q-214", MM).passes.state
    assert state is not None
    assert (state.phase, state.verdict) == ("done", "in"), "what is left is thinner than the edge cuts"


def test_depths_can_change_while_passes_are_cut(corin: Client) -> None:
    cuts(corin, "Q-214", finish_passes="3")
    page = open_page("Q-214", MM)
    assert [kind for kind, _ in kinds(page)] == ["rough", "rough", "test", "finish", "finish", "finish"]
    assert [one.number for one in page.passes.done] == [1, 2, 3]
    assert "cut</small>" in corin.get("/jobs/Q-214/cuts/").content.decode()


def test_a_cutter_that_would_rub_is_refused_and_what_is_cut_stays_in_sight(corin: Client) -> None:
    coarse = Cutter.objects.create(
        name="Bit 9", made_of="carbide", nose_radius_mm=Decimal("0.8"), least_depth_mm=Decimal("0.22")
    )
    page = corin.post("/jobs/Q-214/save/bar/", {**plan_of("Q-214", BarForm), "cutter": coarse.pk})
    assert "thinner than the least depth of 0.22 mm: it would rub" in page.content.decode()
    Cutter.objects.filter(name="Bit 3").update(least_depth_mm=Decimal("0.22"))
    after = open_page("Q-214", MM)
    assert kinds(after)[:3] == [("rough", 0.4692), ("rough", 0.4692), ("test", 0.4692)]
    assert [one.measured_mm is not None for one in after.passes.done] == [False, False, True]


def test_a_bundle_is_logged_by_one_tap_and_sent_twice_stored_once(corin: Client) -> None:
    cuts(corin, "Q-219", rough_depth_mm="0.1")
    page = open_page("Q-219", MM)
    last = plates.bore(page)["bundle"]
    run = page.speeds.planned[:last]
    assert len(run) > 3
    assert run[-1].cut.kind == "test"
    table = corin.get("/jobs/Q-219/cuts/").content.decode()
    assert f"<b>1 to {len(run) - 1}</b>" in table, "equal roughing stands on one line"
    assert f"Passes 1 to {last}<br>done" in flat(corin.get("/jobs/Q-219/bore/"))
    entry = str(uuid.uuid4())
    for _ in range(2):
        log(corin, "Q-219", "cut", number=1, through=last, client_id=entry, guard=ALL_GUARDS)
    assert CutEntry.objects.filter(setup__job__number="Q-219", kind="cut").count() == 1
    after = open_page("Q-219", MM)
    assert [one.number for one in after.passes.done] == list(range(1, last + 1))
    assert after.passes.known_mm == pytest.approx(run[-1].cut.diameter_mm, abs=1e-5)
    moved = sum(row.setting.told.amount for row in run if row.setting.told)
    assert after.passes.state is not None
    assert after.passes.state.stands_at == pytest.approx(moved % 100, abs=0.01)


def test_a_test_cut_comes_first_unless_it_is_skipped(corin: Client) -> None:
    assert Plan().test_first
    assert [kind for kind, _ in kinds(open_page("Q-219", MM))].count("test") == 1
    text = cuts(corin, "Q-219", test_first="False")
    assert "test" not in [kind for kind, _ in kinds(open_page("Q-219", MM))]
    assert "No test cut: an error of the first setting" in text
    thin = cuts(corin, "Q-219", test_first="True", test_leave_mm="0.05")
    assert "leaves the 2 finish passes under 0.05 mm each" in thin
    cuts(corin, "Q-219", test_leave_mm="", finish_depth_mm="0.45", rough_depth_mm="0.5")
    plan = open_page("Q-219", MM)
    assert plan.passes.every, "too thin for a test of its own accord: it is left out, not refused"


@pytest.mark.parametrize(
    ("changes", "number", "words"),
    [
        ({"set_with": ""}, "74.199", "over bar and tip"),
        ({"set_with": "protrusion"}, "14.199", "tip above the bar"),
        ({"set_with": "jig", "jig_zero_mm": "25"}, "39.199", "jig reads"),
        ({"set_with": "indicator"}, "0.409", "along the bit"),
    ],
)
def test_the_cutter_of_a_line_bar_is_set_in_four_ways(
    corin: Client, changes: dict[str, str], number: str, words: str
) -> None:
    cuts(corin, "Q-221", **changes)
    plate = plates.cuts(open_page("Q-221", MM))[2]
    assert plate.number == number
    assert words in plate.words
    assert plate.because is not None


def test_a_bit_that_leans_is_pushed_further(corin: Client) -> None:
    bar = open_page("Q-221", MM).job.setup.plan.bar
    assert bar is not None
    bar.tilt_deg = Decimal(60)
    bar.save()
    cuts(corin, "Q-221", set_with="indicator")
    assert plates.cuts(open_page("Q-221", MM))[2].number == "0.819", "twice the radial move at 60 degrees"


def test_settings_that_cannot_be_are_refused(corin: Client) -> None:
    assert "point flush with the bar is missing" in cuts(corin, "Q-221", set_with="jig")
    page = open_page("Q-221", MM)
    page.bore_row.found.all().delete()
    assert "measure the bore first" in cuts(corin, "Q-221", set_with="indicator")
    assert "set_with" not in corin.get("/jobs/Q-214/cuts/").content.decode(), "a lathe's slide is set by its dial"


def test_a_speed_that_cut_well_is_offered_and_taken(corin: Client) -> None:
    """Q-214 was roughed at 280 rpm, quiet and clean; Q-219 is bronze and has nothing proved."""
    assert proven_rows(open_page("Q-219", MM)) == []
    log(corin, "Q-214", "remark", number=3, sound="quiet", look="clean")
    proved = surface_speed_m_min(71.215, 280)
    row = proven_rows(open_page("Q-214", MM))[0]
    assert (row.field, row.value) == ("rough_speed_m_min", f"{proved:.0f} m/min")
    assert "in Q-214" in row.words
    cuts(corin, "Q-214", rough_speed_m_min=row.value)
    assert all(r.field != "rough_speed_m_min" for r in proven_rows(open_page("Q-214", MM)))


def test_a_machine_too_weak_says_do_not_run(corin: Client) -> None:
    assert "kW at the spindle" in plates.cut_totals(open_page("Q-219", MM))["power"]
    Machine.objects.filter(name="Lathe 3").update(power_kw=Decimal("0.05"))
    Machine.objects.filter(name="Lathe 2").update(power_kw=Decimal("0.05"))
    plate = plates.cuts(open_page("Q-219", MM))[0]
    assert plate.state == "bad"
    assert plate.governs == "Do not run. Power:"
    assert "Do not run" in corin.get("/jobs/Q-219/cuts/").content.decode()


def test_a_feed_is_one_that_the_machine_has(corin: Client) -> None:
    Machine.objects.filter(name="Lathe 3").update(feeds_mm_rev=[0.06, 0.11, 0.18])
    planned = open_page("Q-214", MM).speeds.planned
    assert [row.feed_mm_rev for row in planned] == [0.18, 0.18, 0.18, 0.06, 0.06]
    machine = MachineRecord(name="L", kind="lathe", feeds_mm_rev=(0.1, 0.2))
    bare = MachineRecord(name="M", kind="lathe")
    assert (machine.feed_had(0.05), machine.feed_had(0.2), bare.feed_had(0.07)) == (0.1, 0.2, 0.07)


def test_speeds_in_a_pocket_are_named(corin: Client) -> None:
    assert "chatters at any speed" in plates.cut_totals(open_page("Q-214", MM))["pockets"]
    machine = Machine.objects.get(name="Lathe 3")
    Bar.objects.filter(name="Bar 7").update(diameter_mm=28)
    assert "Changing the speed will not cure chatter here" in plates.cut_totals(open_page("Q-214", MM))["pockets"]
    found = open_page("Q-214", MM)
    assert found.bar.frequency_hz is not None
    machine.speeds.create(lever="D", rpm=Decimal(round(60 * found.bar.frequency_hz / 4)))
    words = plates.cut_totals(open_page("Q-214", MM))["pockets"]
    assert "begins deeper: 1 of the machine's." in words
    assert f"{60 * found.bar.frequency_hz / 4:.0f} rpm " in words


def test_old_entries_without_a_kind_are_read_as_planned(corin: Client) -> None:
    """One tap used to say that the cutter was set and the pass cut."""
    job = Job.objects.get(number="Q-214")
    made = CutEntry.objects.create(
        setup=job.setup, bore=job.setup.bores.all()[0], kind="set", number=4, by=job.made_by, client_id=uuid.uuid4(),
        value_mm=Decimal("71.615"), change_mm=Decimal("0.419"), divisions=Decimal(10),
    )  # fmt: skip
    assert made.pass_kind == ""
    assert kinds(open_page("Q-214", MM))[3:] == [("finish", 0.2), ("finish", 0.2095)]


def phase() -> str:
    state = open_page("Q-214", MM).passes.state
    assert state is not None
    return state.phase


def test_a_touched_tip_voids_its_setting(corin: Client) -> None:
    """Measured since: the dial counts anew. Not measured: nothing is set before it is."""
    text = log(corin, "Q-214", "touched")
    assert "Touch the wall again: the dial counts from there." in text
    assert phase() == "touch-off"
    refused = log(corin, "Q-214", "set", number=4, guard=ALL_GUARDS)
    assert "Not saved" in refused
    log(corin, "Q-214", "touch-off", at_division="0")
    following = open_page("Q-214", MM).speeds.planned[3].setting
    assert following.told is not None
    assert following.told.to_division == pytest.approx(10.2375), "counted from where the tip touched"
    cut(corin, "Q-214", 4)
    assert phase() == "measure", "the first cut after a touch is measured"
    log(corin, "Q-214", "touched")
    size(corin, "Q-214", "71.60", number=4)
    log(corin, "Q-214", "touch-off", at_division="0")
    cut(corin, "Q-214", 5)
    assert len(open_page("Q-214", MM).passes.done) == 5


def test_a_touch_is_taken_back_like_any_entry(corin: Client) -> None:
    before = open_page("Q-214", MM).passes.state
    log(corin, "Q-214", "touched")
    corin.post("/jobs/Q-214/take-back/bore/", {"client_id": str(uuid.uuid4())})
    assert open_page("Q-214", MM).passes.state == before


def test_the_depth_where_chatter_begins_is_said(db: None) -> None:
    """The overhang at which this depth begins to chatter, and whether it does at this overhang, are one law."""
    assert (
        "No depth up to ten times this cut chatters at any speed."
        in plates.cut_totals(open_page("Q-214", MM))["pockets"]
    )
    Bar.objects.filter(name="Bar 7").update(diameter_mm=28)
    page = open_page("Q-214", MM)
    found, out = pockets_of(page.passes, page.bar).value, page.bar.overhung.value
    assert found is not None
    assert found.least_limit_mm is not None
    assert out is not None
    limit = next(one.at_mm for one in out.limits if one.criterion == "chatter")
    assert limit is not None
    assert limit < 165
    assert found.least_limit_mm <= (72.015 - 71.196) / 4, "past the limit on the ruler, and past it in depth"
    assert f"chatter begins at {MM.about(found.least_limit_mm)} deep." in plates.cut_totals(page)["pockets"]


def test_a_pass_that_ran_quiet_moves_what_is_believed_of_the_bar(corin: Client) -> None:
    """Bar 7 at 20 would chatter by its kind's damping; a pass of this set-up that ran quiet says otherwise."""
    Bar.objects.filter(name="Bar 7").update(diameter_mm=20)
    before = open_page("Q-219", MM)
    cuts(corin, "Q-219", test_first="False")
    corin.post("/jobs/Q-219/save/bar/", {**plan_of("Q-219", BarForm), "bar": Bar.objects.get(name="Bar 7").pk,
                                         "budget_mm": "1"})  # fmt: skip
    before = open_page("Q-219", MM)
    assert before.bar.believed is not None
    assert before.bar.believed.number is None
    assert before.bar_verdict is not None
    assert (before.bar_verdict.state, before.bar_verdict.by) == ("caution", "chatter")
    cut(corin, "Q-219", 1)
    log(corin, "Q-219", "remark", number=1, sound="quiet", look="clean")
    after = open_page("Q-219", MM)
    assert after.bar.believed is not None
    assert (after.bar.believed.number, after.bar.believed.chattered) == (1, False)
    assert after.bar.believed.ratio > before.bar.believed.ratio
    assert "pass 1 ran quiet here" in corin.get("/jobs/Q-219/bar/").content.decode()
    log(corin, "Q-219", "remark", number=1, sound="squeal", look="waves")
    worse = open_page("Q-219", MM)
    assert worse.bar.believed is not None
    assert worse.bar.believed.number is None or worse.bar.believed.chattered
