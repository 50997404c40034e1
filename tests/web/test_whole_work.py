"""Batches, a bore between centres or on a pilot bar, boring methods compared, and what holds the work."""

import re
import uuid
from decimal import Decimal
from typing import Any

import pytest
from django.template.loader import render_to_string
from django.test import Client

from gyrometra.accounts.models import User
from gyrometra.bridge.units import Units
from gyrometra.crib.models import Bar, Gauge, Indicator, Machine
from gyrometra.cutting.models import CutEntry
from gyrometra.inspection.models import SizeReading
from gyrometra.jobs.models import Bore, Job
from gyrometra.records import views
from gyrometra.records.pdf import set_on_paper
from gyrometra.steps import plates, progress, progress_words
from gyrometra.steps.forms import CentresBarForm, PilotBarForm
from gyrometra.steps.page import open_page
from gyroplan.assess import alike, shown_digest, worst_named
from tests.web.said import missing_words
from tests.web.test_bad_input import plan_of, work_of
from tests.web.test_passes import ALL_GUARDS

MM = Units()


def work(client: Client, job: str, **changes: Any) -> str:
    return client.post(f"/jobs/{job}/save/work/", {**work_of(job), **changes}, follow=True).content.decode()


def sizes(client: Client, job: str, values: list[tuple[str, str, str]], query: str = "", **more: str) -> str:
    bore = open_page(job, MM).bore
    gauge = Gauge.objects.measuring(bore.lower_mm)[0]
    text = ""
    for z, angle, value in values:
        fields = {"client_id": str(uuid.uuid4()), "gauge": gauge.pk, "z": z, "angle_deg": angle, "value": value, **more}
        text = client.post(f"/jobs/{job}/size/{query}", fields, follow=True).content.decode()
    return text


# ---------------------------------------------------------------- keyways, ports and slots


def test_a_keyway_is_drawn_slows_the_cut_and_is_skipped_when_swept(corin: Client) -> None:
    before = open_page("Q-219", MM).speeds.wanted("rough")
    text = work(corin, "Q-219", break_kind_0="keyway", break_from_0="0", break_to_0="80", break_width_0="14",
                break_angle_0="90")  # fmt: skip
    assert "keyway at 90°" in text
    page = open_page("Q-219", MM)
    assert page.speeds.wanted("rough") == pytest.approx(0.75 * (before or 0))
    assert "Interrupted by keyway: speeds are 75 %" in corin.get("/jobs/Q-219/cuts/").content.decode()
    indicator = Indicator.objects.get(name="Indicator 1")
    fields = {"method": "sweep", "places": "8", "indicator": indicator.pk}
    swept = corin.post("/jobs/Q-219/round/true/", fields, follow=True).content.decode()
    assert swept.count("keyway: x skips") == 1, "of eight places only the one at 90 degrees"
    own = corin.get("/jobs/Q-219/work/?at=breaks").content.decode()
    assert re.search(r'name="break_width_0"[^>]*value="14"', own), "as it was typed"


@pytest.mark.parametrize(
    ("changes", "says"),
    [
        (
            {"break_kind_0": "port", "break_from_0": "10", "break_to_0": "8", "break_width_0": "6"},
            "must end past 10 mm",
        ),
        (
            {"break_kind_0": "port", "break_from_0": "10", "break_to_0": "500", "break_width_0": "6"},
            "lies past its end",
        ),
        ({"break_kind_0": "port", "break_from_0": "10", "break_to_0": "20"}, "Wide across the wall is missing"),
        ({"break_from_0": "10"}, "Say what is there"),
        ({"break_kind_0": "port", "break_from_0": "10", "break_to_0": "20", "break_width_0": "0"}, "must be over 0"),
        ({"target": "71.9-72.01"}, "Your own target must lie inside the limits, 72 mm to 72.03 mm"),
        ({"target": "72"}, "gives no two limits"),
        ({"match_mm": "-1"}, "must be over 0"),
    ],
)
def test_work_that_cannot_be(corin: Client, changes: dict[str, str], says: str) -> None:
    text = work(corin, "Q-214", **changes)
    assert says in text
    assert 'class="err"' in text.split('class="placepanel')[1], "the place where it is refused stands open"


# ---------------------------------------------------------------- target, matters, alike, pieces


def test_the_own_target_is_aimed_at_and_judged_beside_the_limits(corin: Client) -> None:
    work(corin, "Q-219", target="80.000-80.010")
    page = open_page("Q-219", MM)
    assert page.bore.aim_mm == pytest.approx(80.005)
    assert page.passes.plan.value is not None
    assert page.passes.plan.value.bored_diameter_mm == pytest.approx(80.005)
    assert "your own target" in plates.work(page)[0].words[1]
    sizes(corin, "Q-219", [("20", "0", "80.015")])
    text = corin.get("/jobs/Q-219/check/").content.decode()
    assert "Your own target 80.000-80.010: not every place inside" in text


def test_a_bore_that_matters_much_asks_for_more(corin: Client) -> None:
    work(corin, "Q-219", matters="much")
    suggested = plates.check(open_page("Q-219", MM))["suggested"]
    assert (suggested["z"], suggested["angle"]) == ("16", "0")
    places = [(z, angle) for angle in ("0", "60", "120") for z in ("16", "55", "94")]
    sizes(corin, "Q-219", [(z, a, "80.015") for z, a in places])
    missing = missing_words(open_page("Q-219", MM))
    assert "a second reading at 9 places: inspection is critical" in missing
    sizes(corin, "Q-219", [(z, a, "80.016") for z, a in places])
    assert missing_words(open_page("Q-219", MM)) == ["run-out of the finished bore"]
    work(corin, "Q-219", matters="little")
    assert open_page("Q-219", MM).judged.work.directions == 2, "a limit of roundness needs two"


def test_pieces_have_their_own_logs_and_must_be_alike(corin: Client, dagny: Client) -> None:
    first = [(z, a, "55.012") for a in ("0", "60", "120") for z in ("29", "100", "171")]
    sizes(corin, "Q-207", first)
    assert "2 are needed" in corin.get("/jobs/Q-207/check/").content.decode()
    sizes(corin, "Q-207", [(z, a, "55.023") for z, a, _ in first], "?piece=2")
    assert sorted(set(SizeReading.objects.values_list("piece", flat=True))) == [1, 2]
    text = corin.get("/jobs/Q-207/check/?piece=2").content.decode()
    assert "No match: piece 2 is 0.011 over piece 1, 0.008 asked" in text
    assert "not every place inside" in text
    assert "Ø55.012" in text, "the table of pieces shows the other one"
    assert open_page("Q-207", MM, None, 1).judged.sizes
    assert open_page("Q-207", MM, None, 3).judged.sizes == ()
    refused = dagny.post("/jobs/Q-207/sign/?piece=2").content.decode()
    assert "measure what is missing of piece 1 before you sign" in refused


def test_the_next_action_names_the_piece_in_hand(corin: Client) -> None:
    following = progress_words.next_words(Job.objects.get(number="Q-207").stations["next"], MM)
    assert following["words"].startswith("Piece 1: ")
    assert following["query"].endswith("piece=1")
    entry = {"client_id": str(uuid.uuid4()), "number": "1", "guard": ALL_GUARDS}
    corin.post("/jobs/Q-207/cut/set/?piece=3", entry)
    assert CutEntry.objects.filter(setup__job__number="Q-207").values_list("piece", flat=True)[0] == 3
    assert plates.guards_due(open_page("Q-207", MM, None, 2)) != []
    third = open_page("Q-207", MM, None, 3)
    assert (plates.guards_due(third), third.assessment.begun) == ([], [3])
    corin.post("/jobs/Q-207/take-back/bore/?piece=3", {"client_id": str(uuid.uuid4())})
    state = open_page("Q-207", MM, None, 3).passes.state
    assert state is not None
    assert state.phase == "set"
    for query in ("piece=900", "piece=0", "bore=7", "piece=²"):
        assert corin.get(f"/jobs/Q-207/bore/?{query}").status_code == 404, "nothing falls back to a neighbour"


# ---------------------------------------------------------------- between centres, pilot bar


def paper(job: str) -> Any:
    """The pages of a job's set-up sheet."""
    context = views._context(open_page(job, MM))
    return set_on_paper(render_to_string("records/sheet_pdf.html", {**context, "units": MM, "paper": True})).pages


def between(client: Client, **changes: Any) -> str:
    """Q-223 as a job between centres, with its bar and cutter."""
    work(client, "Q-223", method="centres")
    values = {**plan_of("Q-223", CentresBarForm), "bar": Bar.objects.get(name="Centres bar 2").pk,
              "cutter": open_page("Q-214", MM).at.cutter.key, **changes}  # type: ignore[union-attr]  # fmt: skip
    return client.post("/jobs/Q-223/save/bar/", values, follow=True).content.decode()


def test_a_bar_between_centres_says_where_the_bit_stands(corin: Client) -> None:
    text = between(corin)
    page = open_page("Q-223", MM)
    found = page.bar.centres.value
    assert found is not None
    length = float(page.bore.length_mm)
    assert found.layout.least_bar_length_mm == pytest.approx(60 + 2 * length + 10)
    assert found.bit_mm == pytest.approx((found.layout.bit_from_mm + (found.layout.bit_to_mm or 0)) / 2)
    a, b = found.bit_mm or 0, 560 - (found.bit_mm or 0)
    moment = 3.14159265 * 38**4 / 64
    assert found.response is not None
    assert found.response.stiffness_n_mm == pytest.approx(3 * 205_000 * moment * 560 / (a * b) ** 2, rel=1e-4)
    assert "Put the bit at, from the driver&#x27;s centre" in text
    assert "the saddle travels" in text
    assert page.job.stations["steps"][1]["code"] in ("centres", "centres_over")
    assert "over bar and tip" in corin.get("/jobs/Q-223/cuts/").content.decode(), "a turning bar is set over its back"
    assert corin.get("/jobs/Q-223/true/").status_code == 200
    assert len(paper("Q-223")) == 1


def test_a_bar_too_short_between_centres_is_not_run(corin: Client) -> None:
    Bar.objects.filter(name="Centres bar 2").update(length_mm=120)
    text = between(corin)
    assert "Least bar between centres" in text
    assert "Do not run" in text
    job = Job.objects.get(number="Q-223")
    assert job.stations["steps"][1]["code"] == "centres_short"
    assert progress_words.next_words(job.stations["next"], MM)["words"] == "A longer bar between centres"
    Machine.objects.filter(name="Lathe 3").update(centres_mm=100, travel_mm=50)
    Machine.objects.filter(name="Lathe 2").update(centres_mm=100, travel_mm=50)
    text = corin.get("/jobs/Q-223/bar/").content.decode()
    assert "The machine takes 100 mm between centres" in text
    assert "The saddle must travel" in text


def test_a_work_shorter_than_its_bores_is_refused(corin: Client) -> None:
    assert "Its bores reach to" in between(corin, work_length_mm="5")


def test_a_pilot_bar_proves_no_more_than_its_play(corin: Client) -> None:
    work(corin, "Q-207", method="pilot", coaxiality_mm="0.02")
    values = {**plan_of("Q-207", PilotBarForm), "guide_play_mm": ""}
    text = corin.post("/jobs/Q-207/save/bar/", values, follow=True).content.decode()
    assert "play in the guides, on diameter" in text
    values = {**plan_of("Q-207", PilotBarForm), "guide_play_mm": "0.03"}
    text = corin.post("/jobs/Q-207/save/bar/", values, follow=True).content.decode()
    line = open_page("Q-207", MM).bar.line.value
    assert line is not None
    assert line.guidance is not None
    assert line.guidance.worst_mm == pytest.approx(0.015), "between its guides half the play"
    assert line.off_line_mm >= 0.03
    assert not line.straight_enough
    assert line.holds, "it may run: what its play does not prove is measured"
    assert Job.objects.get(number="Q-207").stations["steps"][1]["state"] == "done"
    assert "Guides prove too little:" in text
    assert "closer than that is measured" in text
    assert len(paper("Q-207")) == 1


def test_a_pilot_bar_is_swept_and_nothing_is_moved(corin: Client) -> None:
    work(corin, "Q-207", method="pilot")
    indicator = Indicator.objects.get(name="Indicator 1")
    fields = {"method": "sweep", "places": "8", "indicator": indicator.pk}
    corin.post("/jobs/Q-207/round/true/", fields)
    text = ""
    for place, value in enumerate(["0", "20", "45", "60", "50", "25", "-5", "-10", "0"]):
        reading = {"client_id": str(uuid.uuid4()), "place": place, "value": value, "source": "typed"}
        text = corin.post("/jobs/Q-207/reading/true/", reading, follow=True).content.decode()
    assert "The bar swings in its guides" in text
    assert "nothing here can be moved" in text
    assert "Slacken" not in text
    following = progress_words.next_words(Job.objects.get(number="Q-207").stations["next"], MM)
    assert following["words"] == "Piece 1: The bar swings in its guides: closer bushes, or measure"
    assert following["figure"] == "0.070"


def test_two_bits_cut_two_bores_at_once(corin: Client) -> None:
    Bar.objects.filter(name="Line bar 1").update(bits_apart_mm=620)
    text = corin.get("/jobs/Q-221/bar/").content.decode()
    assert "Two bits cut H1 and H2 at once" in text
    assert "matched pair" in text
    Bar.objects.filter(name="Line bar 1").update(bits_apart_mm=300)
    assert "no two bores of one size lie so" in corin.get("/jobs/Q-221/bar/").content.decode()


def test_the_ways_are_compared_by_stiffness_and_time(corin: Client) -> None:
    rows = {row.key: row for row in plates.ways(open_page("Q-219", MM))}
    assert set(rows) == {"lathe-bar", "head", "line", "stand", "centres", "pilot"}
    assert "N/µm with the stiffest" in rows["lathe-bar"].compare
    assert "min cutting time" in rows["lathe-bar"].compare
    assert all(not row.compare for row in rows.values() if not row.can)


def test_what_holds_the_work_is_on_the_sheet(corin: Client) -> None:
    text = corin.get("/jobs/Q-207/sheet/").content.decode()
    assert "Roller-hub plate" in text
    assert "55.008-55.022" in text
    assert Bore.objects.get(setup__job__number="Q-207").matters == "much"


def test_a_large_batch_has_a_few_tabs_and_pieces_with_entries_stay(corin: Client) -> None:
    work(corin, "Q-207", quantity="400")
    page = open_page("Q-207", MM, None, 37)
    assert [piece for piece, _ in page.piece_tabs] == [1, 34, 35, 36, 37, 38, 39, 40, 400]
    sizes(corin, "Q-207", [("29", "0", "55.012")], "?piece=37")
    assert "Piece 37 has entries in its logs" in work(corin, "Q-207", quantity="8")
    assert Job.objects.get(number="Q-207").quantity == 400


def test_a_pass_that_two_people_tap_is_set_once(corin: Client, dagny: Client) -> None:
    for client in (corin, dagny):
        client.post("/jobs/Q-214/cut/set/", {
            "client_id": str(uuid.uuid4()), "number": "4", "guard": ALL_GUARDS})  # fmt: skip
    assert CutEntry.objects.filter(setup__job__number="Q-214", kind="set", number=4).count() == 1


def test_the_bench_is_searched_by_state_too(corin: Client) -> None:
    def found(words: str) -> set[str]:
        return set(re.findall(r"Q-\d+", corin.get(f"/?q={words}", headers={"HX-Request": "true"}).content.decode()))

    assert found("signed") == {"Q-198"}
    assert found("settling") == {"Q-225"}
    assert "Q-198" not in found("open")
    assert found("open+bronze") == {"Q-219", "Q-233"}


def test_packing_says_how_high_the_works_own_axis_must_lie(corin: Client) -> None:
    words = plates.packing_words(open_page("Q-207", MM))
    assert words.startswith("The axis lies 320 over table or saddle; Roller-hub plate 40 under the work:")
    assert words.endswith("must lie 280 over its foot.")
    assert "must lie 280 over its foot" in corin.get("/jobs/Q-207/work/?at=setup").content.decode()
    Machine.objects.filter(name="Borer 1").update(axis_height_mm=30)
    assert "stand higher than the axis" in plates.packing_words(open_page("Q-207", MM))
    assert plates.packing_words(open_page("Q-214", MM)) == ""


def test_power_stands_in_the_because_of_the_speed(db: None) -> None:
    because = plates.cuts(open_page("Q-214", MM))[0].because
    assert because is not None
    assert any(name == "power = kc a f v / 60" for name, _ in because.inputs)


# ---------------------------------------------------------------- large batches


def many_pieces(count: int = 60) -> None:
    """Q-207 as a batch, each piece but the last measured at its places, all 0.012 over the bottom limit."""
    job = Job.objects.get(number="Q-207")
    Job.objects.filter(pk=job.pk).update(quantity=count)
    bore, by = job.setup.bores.all()[0], User.objects.get(username="corin")
    gauge = Gauge.objects.measuring(bore.lower_mm)[0]
    SizeReading.objects.bulk_create(
        SizeReading(setup=job.setup, bore=bore, piece=piece, gauge=gauge, z_mm=z, angle_deg=angle, by=by,
                    value_mm=bore.lower_mm + Decimal("0.012"), client_id=uuid.uuid4())
        for piece in range(1, count) for z in (20, 100, 180) for angle in (0, 90)
    )  # fmt: skip
    progress.keep(open_page("Q-207", MM, whole=True))


def test_a_batch_is_judged_without_reading_every_log(db: None) -> None:
    many_pieces()
    page = open_page("Q-207", MM, piece=60)
    assert len(page.rows.sizes) == 0, "the logs of the other pieces are left out"
    assert len(page.assessment.begun) == 59
    whole = open_page("Q-207", MM, piece=60, whole=True)
    assert worst_named(page.assessment) == worst_named(whole.assessment), "what is kept says what the logs say"
    assert shown_digest(page.assessment) == shown_digest(whole.assessment)
    assert alike(page.assessment) == alike(whole.assessment)


def test_other_limits_judge_every_piece_anew(corin: Client) -> None:
    many_pieces(20)
    before = dict(worst_named(open_page("Q-207", MM, piece=20).assessment))
    assert before["piece 3"] == "incomplete", "its run-out is not swept"
    work(corin, "Q-207", wanted="55.02-55.03", target="")
    after = dict(worst_named(open_page("Q-207", MM, piece=20).assessment))
    assert after["piece 3"] == "metal-left"
