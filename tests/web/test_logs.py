"""Logs are append-only, entries sent twice stand once, signed jobs and stale pages are refused."""

import uuid
from typing import Any

import pytest
from django.db import DatabaseError, transaction
from django.test import Client

from gyrometra.bridge.units import Units
from gyrometra.crib.models import Bar, Gauge, Indicator
from gyrometra.cutting.models import CutEntry
from gyrometra.inspection.models import SizeReading
from gyrometra.jobs.models import Job, SignOff
from gyrometra.steps.forms import BarForm
from gyrometra.steps.page import open_page
from gyrometra.truing.models import Reading
from tests.web.said import flat, missing_words
from tests.web.test_bad_input import plan_of, work_of
from tests.web.test_check import sign

MM = Units("mm")


@pytest.mark.parametrize("model", [Reading, CutEntry, SizeReading, SignOff])
def test_the_database_refuses_to_change_or_delete(db: None, model: Any) -> None:
    row = model.objects.first()
    with pytest.raises(DatabaseError, match="append-only"), transaction.atomic():
        row.save()
    with pytest.raises(DatabaseError, match="append-only"), transaction.atomic():
        model.objects.filter(pk=row.pk).delete()


def begin(client: Client) -> None:
    indicator = Indicator.objects.get(name="Indicator 1")
    client.post("/jobs/Q-219/round/true/", {"method": "sweep", "places": 4, "indicator": indicator.pk})


def read(client: Client, value: str, place: int, entry: str | None = None, **more: str) -> str:
    fields = {"value": value, "place": place, "client_id": entry or str(uuid.uuid4()), "source": "cable", **more}
    return client.post("/jobs/Q-219/reading/true/", fields, headers={"HX-Request": "true"}).content.decode()


def test_a_reading_sent_twice_stands_once(corin: Client) -> None:
    begin(corin)
    count, entry = Reading.objects.count(), str(uuid.uuid4())
    read(corin, "12", 0, entry)
    read(corin, "12", 0, entry)
    assert Reading.objects.count() == count + 1
    made = Reading.objects.get(client_id=entry)
    assert (float(made.value_mm), made.text, made.source, made.by.username) == (0.012, "12", "cable", "corin")


def test_two_tablets_at_one_place_are_told_and_both_are_kept(corin: Client, dagny: Client) -> None:
    begin(corin)
    read(corin, "12", 0)
    assert "stands there already" in read(dagny, "15", 0)
    read(dagny, "15", 0, correct="yes")
    place = list(Reading.objects.filter(round__setup__job__number="Q-219", place=0).order_by("-pk")[:2])
    assert place[0].supersedes_id == place[1].pk


def test_taking_back_crosses_out_and_keeps(corin: Client) -> None:
    begin(corin)
    read(corin, "12", 0)
    corin.post("/jobs/Q-219/take-back/true/", {"client_id": str(uuid.uuid4())})
    view = open_page("Q-219", MM).truing.rounds[-1]
    assert view.next_place == 0
    assert Reading.objects.filter(round=view.round.key).count() == 2


def test_a_round_decides_only_when_it_comes_back(corin: Client) -> None:
    begin(corin)
    for place, value in enumerate(["0", "-3", "-5", "-2"]):
        read(corin, value, place)
    assert open_page("Q-219", MM).truing.rounds[-1].is_closed is False
    text = read(corin, "9", 4)
    assert "The round is void" in text
    page = open_page("Q-219", MM)
    assert page.truing.rounds[-1].is_void
    assert "Tighten jaw" not in text, "a void round tells no move, nor does the page tell the last one's again"


def test_the_same_round_done_well_is_within(corin: Client) -> None:
    begin(corin)
    for place, value in enumerate(["0", "-3", "-5", "-2", "1"]):
        text = read(corin, value, place)
    assert "Centred well enough" in text
    assert Job.objects.get(number="Q-219").stations["next"]["step"] == "bore"


def test_a_plan_changed_meanwhile_is_refused_with_who_and_when(corin: Client, dagny: Client) -> None:
    mine, theirs = plan_of("Q-214", BarForm), plan_of("Q-214", BarForm)
    dagny.post("/jobs/Q-214/save/bar/", {**theirs, "clear_mm": "25"})
    text = corin.post("/jobs/Q-214/save/bar/", {**mine, "clear_mm": "30"}).content.decode()
    assert "dagny changed this job at" in text
    assert 'value="30"' in text
    assert float(open_page("Q-214", MM).job.setup.plan.clear_mm) == 25


def test_typed_text_is_kept_beside_its_value(corin: Client) -> None:
    corin.post("/jobs/Q-214/save/work/", {**work_of("Q-214"), "length_mm": "5 1/2 in", "found_d_0": "68,42"})
    page = open_page("Q-214", MM)
    assert float(page.bore.length_mm) == 139.7
    assert page.bore_row.typed["length_mm"] == {"text": "5 1/2 in", "unit": "mm"}
    assert 'value="5 1/2 in"' in corin.get("/jobs/Q-214/work/").content.decode()


def test_a_signed_job_changes_no_more(dagny: Client) -> None:
    job = Job.objects.get(number="Q-198")
    gauge, indicator = Gauge.objects.get(name="Bore gauge 35-60"), Indicator.objects.all()[0]
    entry = str(uuid.uuid4())
    tries = [
        ("save/work/", work_of("Q-198")),
        ("round/true/", {"method": "sweep", "places": 8, "indicator": indicator.pk}),
        ("cut/remark/", {"client_id": entry, "number": 1, "sound": "quiet", "look": "clean"}),
        ("size/", {"client_id": entry, "value": "45.01", "z": "12", "angle_deg": "0", "gauge": gauge.pk}),
        ("sign/", {}),
    ]
    for path, fields in tries:
        text = dagny.post(f"/jobs/Q-198/{path}", fields).content.decode()
        assert "Signed off by dagny" in text, path
    assert Job.objects.get(pk=job.pk).version == job.version
    assert SignOff.objects.filter(job=job).count() == 1


def test_only_the_lead_signs_and_never_an_incomplete_bore(corin: Client, dagny: Client) -> None:
    assert "Incomplete" in sign(dagny)
    measure(corin, 72.011)
    assert "Only the lead signs" in corin.post("/jobs/Q-214/sign/").content.decode()
    stale = dagny.post("/jobs/Q-214/sign/", {"digest": "0" * 64}).content.decode()
    assert "look at the verdict again" in stale, "only what was shown is signed"
    assert "Signed by" in sign(dagny)


def measure(client: Client, size: float, runout: int = 4) -> str:
    gauge, indicator = Gauge.objects.get(name="Bore gauge 50-100"), Indicator.objects.get(name="Indicator 1")
    for z in (20, 70, 120):
        for angle in (0, 90):
            fields = {"client_id": str(uuid.uuid4()), "value": f"{size:.3f}", "z": z, "angle_deg": angle,
                      "gauge": gauge.pk}  # fmt: skip
            client.post("/jobs/Q-214/size/", fields)
    client.post("/jobs/Q-214/round/check/", {"method": "sweep", "places": 4, "indicator": indicator.pk})
    for place, value in enumerate([0, runout, 2 * runout, runout, 0]):
        fields = {"value": str(-value), "place": place, "client_id": str(uuid.uuid4())}
        page = client.post("/jobs/Q-214/reading/check/", fields, headers={"HX-Request": "true"})
    return page.content.decode()


@pytest.mark.parametrize(
    ("size", "runout", "word"),
    [(72.012, 4, "in"), (71.96, 4, "metal-left"), (72.05, 4, "over"), (72.001, 4, "not-proven"), (72.012, 15, "over")],
)
def test_verdicts_name_the_way_forward(corin: Client, size: float, runout: int, word: str) -> None:
    text = measure(corin, size, runout)
    assert open_page("Q-214", MM).judged.word == word
    assert f'class="vp {word}"' in text


def test_anything_not_entered_is_incomplete(corin: Client) -> None:
    gauge = Gauge.objects.get(name="Bore gauge 50-100")
    fields = {"client_id": str(uuid.uuid4()), "value": "72.012", "z": 20, "angle_deg": 0, "gauge": gauge.pk}
    corin.post("/jobs/Q-214/size/", fields)
    page = open_page("Q-214", MM)
    assert page.judged.word == "incomplete"
    assert missing_words(page) == [
        "a depth in the middle", "a depth near the far end",
        "a second direction, 45° or more away, at one depth of each", "run-out of the finished bore",
    ]  # fmt: skip


def test_a_change_twice_the_commanded_one_is_named_and_kept(corin: Client) -> None:
    gauge = Gauge.objects.get(name="Bore gauge 50-100")
    for kind in ("set", "cut"):
        answer = {"client_id": str(uuid.uuid4()), "number": 4, "guard": ["gauge", "swung"]}
        corin.post(f"/jobs/Q-214/cut/{kind}/", answer)
    fields = {"client_id": str(uuid.uuid4()), "value": "72.034", "number": 4, "gauge": gauge.pk}
    text = corin.post("/jobs/Q-214/cut/size/", fields, headers={"HX-Request": "true"}).content.decode()
    assert "The change came out twice of what was set" in text
    assert CutEntry.objects.filter(text="72.034").exists()


def test_several_sizes_of_one_pass_give_mean_and_spread(corin: Client) -> None:
    row = open_page("Q-214", MM).passes.done[2]
    assert row.measured_mm == pytest.approx(71.196)
    text = corin.get("/jobs/Q-214/bore/").content.decode()
    assert "0.019 small" in text


def test_the_next_setting_takes_in_what_the_last_pass_came_to(db: None) -> None:
    following = open_page("Q-214", MM).speeds.planned[3].setting
    assert following.told is not None
    assert following.told.amount == pytest.approx((72.015 - 71.196) / 2 / 0.04), "the rest, shared alike"


def test_a_change_in_the_crib_reaches_the_bench(
    dagny: Client, django_capture_on_commit_callbacks: Any, django_assert_max_num_queries: Any
) -> None:
    """It is marked on every job that uses it, in one query, and worked out when the job is next shown."""
    bar = Bar.objects.get(name="Bar 7")
    fields = {"name": "Bar 7", "method": "lathe-bar", "kind": "steel", "diameter_mm": "20", "length_mm": "300"}
    with django_capture_on_commit_callbacks(execute=True), django_assert_max_num_queries(20):
        dagny.post(f"/crib/bar/{bar.pk}/", fields)
    assert Job.objects.get(number="Q-214").stale
    assert "Do not run" in dagny.get("/").content.decode()
    job = Job.objects.get(number="Q-214")
    assert (job.stale, job.stations["steps"][1]["state"]) == (False, "bad")
    assert "Do not run" in dagny.get("/jobs/Q-214/bar/").content.decode()
    Job.objects.filter(number="Q-214").update(stale=True, stations={**job.stations, "steps": [
        {**step, "state": "done"} for step in job.stations["steps"]
    ]})  # fmt: skip
    dagny.get("/jobs/Q-214/cuts/")
    assert Job.objects.get(number="Q-214").stations["steps"][1]["state"] == "bad", "its own page refreshes it too"


def test_opposite_flats_move_half_the_difference(corin: Client) -> None:
    indicator = Indicator.objects.get(name="Indicator 1")
    corin.post("/jobs/Q-223/round/true/", {"method": "flats", "places": 8, "indicator": indicator.pk})
    for place, value in enumerate(["80", "10", "20", "10", "80"]):
        fields = {"value": value, "place": place, "client_id": str(uuid.uuid4())}
        text = corin.post("/jobs/Q-223/reading/true/", fields, headers={"HX-Request": "true"}).content.decode()
    view = open_page("Q-223", MM).truing.rounds[-1]
    assert view.round.places == 4
    assert view.total_mm == pytest.approx(0.06)
    assert [(m.slacken, m.tighten, round(m.by_mm, 6)) for m in view.moves] == [("3", "1", 0.03)]
    assert "indicator at jaw 1:" in text


def test_how_far_first_again_may_differ_is_the_shops_to_say(corin: Client) -> None:
    indicator = Indicator.objects.get(name="Indicator 1")
    fields = {"method": "sweep", "places": 4, "indicator": indicator.pk, "closing_mm": "0.02"}
    corin.post("/jobs/Q-219/round/true/", fields)
    for place, value in enumerate(["0", "-3", "-5", "-2", "9"]):
        read(corin, value, place)
    assert open_page("Q-219", MM).truing.rounds[-1].within


def test_readings_in_inches_are_thou(corin: Client) -> None:
    corin.post("/unit/", {"unit": "in", "next": "/"})
    begin(corin)
    read(corin, "0.0025", 0)
    assert float(open_page("Q-219", MM).truing.rounds[-1].values_mm[0] or 0) == 0.0635
    read(corin, "2.5 thou", 1)
    assert float(open_page("Q-219", MM).truing.rounds[-1].values_mm[1] or 0) == 0.0635
    assert "less than a fifth" in read(corin, "0.000001", 2), "under a fifth of the indicator's step: asked"


def test_a_renumbered_job_takes_its_address_along(corin: Client) -> None:
    fields = {**work_of("Q-214"), "number": "Q-314"}
    page = corin.post("/jobs/Q-214/save/work/", fields, headers={"HX-Request": "true"})
    assert page.headers["HX-Push-Url"] == "/jobs/Q-314/work/"
    assert corin.get("/jobs/Q-314/work/").status_code == 200


@pytest.mark.parametrize(
    ("values", "says"),
    [
        (["x", "3", "x", "4", "3"], "A circle needs three different places"),
        (["0", "3", "x", "-2", "0"], "Centred well enough"),
    ],
)
def test_blocked_places_are_passed_over_and_said(corin: Client, values: list[str], says: str) -> None:
    begin(corin)
    for place, value in enumerate(values):
        text = read(corin, value, place)
    assert says in text


def test_first_again_cannot_be_blocked(corin: Client) -> None:
    begin(corin)
    for place, value in enumerate(["0", "1", "2", "1"]):
        read(corin, value, place)
    assert "First again closes the round" in read(corin, "x", 4)


def test_a_read_cell_is_opened_again_and_the_correction_supersedes(corin: Client) -> None:
    begin(corin)
    read(corin, "12", 0)
    read(corin, "13", 1)
    text = flat(corin.get("/jobs/Q-219/true/?place=0"))
    assert 'name="place" value="0"' in text
    assert 'name="correct" value="yes"' in text
    read(corin, "11", 0, correct="yes")
    view = open_page("Q-219", MM).truing.rounds[-1]
    assert (view.values_mm[:2], view.next_place) == ([0.011, 0.013], 2)
    assert 'name="place" value="2"' in flat(corin.get("/jobs/Q-219/true/?place=9"))


def test_a_reading_is_refused_once_the_job_is_closed(corin: Client) -> None:
    """The round was open when the job was given up: what is typed then is not logged."""
    begin(corin)
    read(corin, "12", 0)
    job = Job.objects.get(number="Q-219")
    corin.post("/jobs/Q-219/close/", {"version": job.version, "reason": "cracked"})
    count = Reading.objects.count()
    text = corin.post(
        "/jobs/Q-219/reading/true/", {"client_id": str(uuid.uuid4()), "place": 1, "value": "5"}, follow=True
    ).content.decode()
    assert "Closed: cracked. Reopen it on Work" in text
    assert Reading.objects.count() == count


def test_a_gauge_that_is_not_there_any_more_is_a_change(corin: Client) -> None:
    fields = {"client_id": str(uuid.uuid4()), "value": "71.9", "z": "20", "angle_deg": "0", "gauge": "99999"}
    answer = corin.post("/jobs/Q-214/size/", fields)
    assert (answer.status_code, answer["X-Entry"].split()[1]) == (409, "refused")
    assert "71.9" in answer.content.decode(), "what was typed is kept"
    fields["gauge"] = ""
    assert corin.post("/jobs/Q-214/size/", {**fields, "client_id": str(uuid.uuid4())}).status_code == 200
