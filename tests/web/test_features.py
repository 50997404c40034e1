"""Faces, bands, outsides, reliefs and distances on Work and Check: added, changed, taken off, read, judged."""

from __future__ import annotations

import re
import uuid
from typing import Any

import pytest
from django.test import Client

from gyrometra.bridge.units import Units
from gyrometra.crib.models import Gauge, Indicator
from gyrometra.inspection.models import FeatureReading
from gyrometra.jobs.copies import copy_job
from gyrometra.jobs.models import Feature, Job
from gyrometra.steps.page import JobPage, open_page
from gyroplan.assess import job_word, worst_named
from tests.web.said import flat

MM = Units("mm")
COLLAR, BRACKET = "P 31/14", "P 31/16"
HX = {"HX-Request": "true"}


def address(number: str) -> str:
    return number.replace(" ", "~20").replace("/", "~2F")


def page_of(number: str = COLLAR, setup: int | None = None) -> JobPage:
    return open_page(number, MM, setup=setup)


def save(client: Client, number: str = COLLAR, *, feature: int | str = "", kind: str = "", setup: int = 1,
         unit: str = "mm", **fields: Any) -> str:  # fmt: skip
    page = page_of(number, setup)
    query = f"?setup={setup}" if page.has_setups else ""
    sent = {"version": page.job.version, "unit": unit, "at": "feature", "feature": feature, "kind": kind, **fields}
    return flat(client.post(f"/jobs/{address(number)}/feature/save/{query}", sent, headers=HX))


def log(client: Client, feature: int, value: str, number: str = COLLAR, *, what: str = "size", setup: int = 1,
        entry: str = "", **fields: Any) -> Any:  # fmt: skip
    query = f"?setup={setup}" if page_of(number, setup).has_setups else ""
    sent = {"feature": feature, "what": what, "value": value, "client_id": entry or str(uuid.uuid4()), **fields}
    return client.post(f"/jobs/{address(number)}/feature/log/{query}", sent, headers=HX)


def gauge(name: str) -> int:
    return Gauge.objects.get(name=name).pk


def test_a_face_is_added_and_shown_where_it_lies(corin: Client) -> None:
    said = save(corin, "Q-223", kind="face", name="Shoulder", wanted="30 ±0.05", runout_limit_mm="0.03")
    made = Feature.objects.get(setup__job__number="Q-223")
    assert (float(made.lower_mm or 0), float(made.upper_mm or 0), made.place) == (29.95, 30.05, 1)
    assert "Take it off the list" in said
    text = flat(corin.get("/jobs/Q-223/work/"))
    assert "Shoulder" in text
    assert "30 ±0.05, run-out 0.03" in text
    assert ("Shoulder", "incomplete") in worst_named(page_of("Q-223").assessment)
    assert "Shoulder" in flat(corin.get("/jobs/Q-223/work/?at=more")), "it stands in the history"


@pytest.mark.parametrize(
    ("kind", "fields", "said"),
    [
        ("face", {"name": "Face 9"}, "Give a limit"),
        ("face", {"name": "Rim", "wanted": "12 ±0.1"}, "There is a Rim in this set-up already"),
        ("face", {"name": "bore", "wanted": "12 ±0.1"}, "There is a bore in this set-up already"),
        ("face", {"name": "F", "wanted": "64 ±0.1"}, "The part is 60 mm long; this would lie at 64.1"),
        ("band", {"name": "F", "wanted": "78 ±0.1", "angle": "steep"}, "Type the angle with its limits"),
        ("band", {"name": "F", "wanted": "78 ±0.1", "angle": "95 ±1"}, "from 0 to under 90 degrees"),
        ("face", {"name": "F", "wanted": "12 ±0.1", "outer_mm": "70", "inner_mm": "72"}, "72 mm is not inside"),
        ("outside", {"name": "F", "wanted": "110 H7"}, "110 H7 is a class for a bore. For an outside type 110 h7"),
        ("outside", {"name": "F", "wanted": "108 h7", "z_mm": "20", "length_mm": "10"},
         "Rim lies there already, 0 to 25"),
        ("relief", {"name": "F", "wanted": "74 ±0.1", "z_mm": "55", "length_mm": "10"}, "this would lie at 65"),
        ("distance", {"name": "F", "wanted": "150 ±0.02"}, "It is another set-up of this job: add it first"),
        ("face", {"name": "F", "wanted": "12 +"}, "12 +"),
    ],
)  # fmt: skip
def test_a_wrong_feature_gets_its_sentence_and_keeps_what_was_typed(
    corin: Client, kind: str, fields: dict[str, str], said: str
) -> None:
    before = Feature.objects.count()
    text = save(corin, kind=kind, **fields)
    assert said in text
    assert all(f'value="{typed}"' in text for typed in fields.values())
    assert Feature.objects.count() == before


def test_a_change_keeps_the_rest_and_an_inch_reader_means_inches(corin: Client) -> None:
    rim = Feature.objects.get(name="Rim")
    shown = flat(corin.get(f"/jobs/{address(COLLAR)}/work/?at=feature&feature={rim.place}"))
    fields = dict(re.findall(r'name="(\w+)" value="([^"]*)"', shown))
    assert fields["length_mm"] == "25"
    corin.post("/unit/", {"unit": "in", "next": "/"})
    text = save(corin, feature=rim.place, unit="in", name="Rim", wanted="4.330-4.331", z_mm="0", length_mm="1.0",
                runout_limit_mm="0.001", stock_mm="")  # fmt: skip
    rim.refresh_from_db()
    assert (float(rim.length_mm or 0), float(rim.runout_limit_mm or 0), rim.stock_mm) == (25.4, 0.0254, None)
    assert float(rim.lower_mm or 0) == pytest.approx(109.982)
    assert 'value="4.330-4.331"' in text


def test_one_that_was_read_stays_and_another_is_taken_off_and_put_back(corin: Client) -> None:
    relief, rim = Feature.objects.get(name="Oil relief"), Feature.objects.get(name="Rim")
    log(corin, rim.place, "109.96", gauge=gauge("Outside micrometer 100-125"))
    drop = f"/jobs/{address(COLLAR)}/feature/drop/"
    sent: dict[str, Any] = {"unit": "mm", "version": page_of().job.version, "feature": rim.place}
    assert "has readings in its log" in flat(corin.post(drop, sent, headers=HX))
    corin.post(drop, {**sent, "feature": relief.place}, headers=HX)
    assert "Oil relief" not in [one.name for one in page_of().record.setup.features]
    assert "Oil relief, taken off the list" in flat(corin.get(f"/jobs/{address(COLLAR)}/work/?at=feature"))
    sent["version"] = page_of().job.version
    corin.post(drop, {**sent, "feature": relief.place, "back": "yes"}, headers=HX)
    assert "Oil relief" in [one.name for one in page_of().record.setup.features]


def test_every_limit_is_read_judged_and_told(corin: Client) -> None:
    places = {one.name: one.place for one in page_of().record.setup.features}
    text = flat(log(corin, places["Rim"], "109.96", gauge=gauge("Outside micrometer 100-125")))
    assert "109.960" in text
    assert "In limits" in text
    log(corin, places["Rim"], "0.012", what="runout", indicator=Indicator.objects.get(name="Indicator 1").pk)
    log(corin, places["Seat band"], "78.02", gauge=gauge("Calliper 1"))
    said = flat(log(corin, places["Seat band"], "30.2", what="angle", doubt_deg="0.1"))
    assert "30.2°" in said
    words = {one.feature.name: one.word for one in page_of().assessment.features(1)}
    assert (words["Rim"], words["Seat band"], words["Face 1"]) == ("in", "in", "incomplete")
    over = flat(log(corin, places["Oil relief"], "74.5", gauge=gauge("Calliper 1")))
    assert "Oil relief" in over.split("Also in this job", 1)[1]
    assert job_word(page_of().assessment) == "over"


def test_a_slip_is_named_a_far_one_asked_and_a_double_tap_is_one_reading(corin: Client) -> None:
    rim, mic = Feature.objects.get(name="Rim").place, gauge("Outside micrometer 100-125")
    assert "25.4 times off" in flat(log(corin, rim, "4.331", gauge=mic))
    assert "about 109.957 is asked. Is it meant?" in flat(log(corin, rim, "120", gauge=mic))
    assert "Which gauge read it?" in flat(log(corin, rim, "109.96"))
    assert "measures 100 to 125" in flat(log(corin, rim, "90", gauge=mic, sure="90"))
    assert "Which indicator read it?" in flat(log(corin, rim, "0.012", what="runout"))
    assert "from 0 to under 90 degrees" in flat(log(corin, 2, "95", what="angle"))
    assert not FeatureReading.objects.exists()
    entry = str(uuid.uuid4())
    for _ in range(2):
        log(corin, rim, "109.96", gauge=mic, entry=entry)
    assert FeatureReading.objects.count() == 1
    first = FeatureReading.objects.get()
    answer = corin.post(f"/jobs/{address(COLLAR)}/take-back/check/", {"what": "feature", "undo": str(first.client_id)})
    assert answer.status_code in (200, 302)
    assert FeatureReading.objects.standing().count() == 0
    assert FeatureReading.objects.count() == 2, "it stays in the log, crossed out"


def test_a_reading_of_what_is_not_there_any_more_is_refused_by_name(corin: Client) -> None:
    answer = log(corin, 99, "109.96", gauge=gauge("Calliper 1"))
    assert (answer.status_code, answer["X-Entry"].split()[1]) == (409, "refused")
    assert "is not in this job any more" in flat(answer)


def measure(client: Client, setup: int, *sizes: str, with_gauge: str) -> None:
    for z, size in zip(("6", "20", "34"), sizes, strict=True):
        sent = {"z": z, "angle_deg": "0", "value": size, "gauge": gauge(with_gauge), "client_id": str(uuid.uuid4())}
        client.post(f"/jobs/{address(BRACKET)}/size/?setup={setup}", sent)


def test_a_distance_is_moved_by_the_dial_and_proved_between_the_walls(corin: Client) -> None:
    work = f"/jobs/{address(BRACKET)}/work/?setup=2&at=feature&feature=1"
    text = flat(corin.get(work))
    assert "37" in text
    assert "turns 100.0 div" in text, "150 mm by divisions of 0.02, 200 a turn"
    assert "107.0 div where it was wound back before" in text
    calliper = gauge("Calliper 1")
    refused = flat(log(corin, 1, "104.0", BRACKET, setup=2, gauge=calliper, over="near-walls"))
    assert "Over the walls needs both bores measured first" in refused
    measure(corin, 1, "52.012", "52.014", "52.013", with_gauge="Bore gauge 50-100")
    measure(corin, 2, "40.010", "40.012", "40.011", with_gauge="Bore gauge 35-60")
    assert "103.988" in flat(corin.get(work)), "150 less half of 52.013 and of 40.011"
    log(corin, 1, "103.99", BRACKET, setup=2, gauge=calliper, over="near-walls")
    line = page_of(BRACKET, 2).assessment.features(1)[0].lines[0]
    assert line.value == pytest.approx(103.99 + (52.013 + 40.011) / 2)
    assert line.word == "not-proven", "a calliper does not tell two hundredths"
    check = f"/jobs/{address(BRACKET)}/check/?setup=2&at=features"
    assert "150.002 centre to centre" in flat(corin.get(check))
    assert "measured anew since" not in flat(corin.get(check))
    measure(corin, 1, "52.022", "52.024", "52.023", with_gauge="Bore gauge 50-100")
    assert "the bores were measured anew since: read it once more" in flat(corin.get(check))


def test_an_axis_that_a_distance_is_taken_from_is_not_taken_away_and_two_axes_do_not_clash(corin: Client) -> None:
    page = page_of(BRACKET, 1)
    sent = {"version": page.job.version, "unit": "mm"}
    text = flat(corin.post(f"/jobs/{address(BRACKET)}/setups/remove/?setup=1", sent, headers=HX))
    assert "A distance is taken from the axis of set-up A" in text
    assert "both finish" not in flat(corin.get(f"/jobs/{address(BRACKET)}/work/"))


def test_a_copy_asks_the_same_and_knows_its_own_axis(dagny: Client) -> None:
    job = Job.objects.get(number=BRACKET)
    made = copy_job(user=job.made_by, job=job, number="P 31/99")
    feature = Feature.objects.get(setup__job=made)
    assert feature.to_setup is not None
    assert (feature.name, feature.to_setup.job, feature.setup.job) == ("To shaft A", made, made)


@pytest.mark.parametrize("query", ["?at=feature&feature=99", "?at=feature&feature=²", "?at=feature&kind=foo"])
def test_an_address_of_no_feature_shows_what_can_be_added(corin: Client, query: str) -> None:
    answer = corin.get(f"/jobs/{address(COLLAR)}/work/{query}")
    assert answer.status_code == 200
    assert "Square face, by its depth" in flat(answer)
    assert corin.post(f"/jobs/{address(COLLAR)}/feature/save/", {"kind": "foo"}).status_code == 404
    assert corin.post(f"/jobs/{address(COLLAR)}/feature/drop/", {"feature": "99"}).status_code == 404


def test_a_bush_by_its_class_is_made_with_an_outside_that_is_read_and_judged(corin: Client) -> None:
    asked = {"unit": "mm", "material": "bronze", "finish": "54 H8", "leave_mm": "0.5", "length_mm": "23.8",
             "blank_outside_mm": "68", "blank_inside_mm": "48", "put_in": "press", "least_mm": "",
             "most_mm": ""}  # fmt: skip
    refused = flat(corin.post("/jobs/Q-228/bush/", {**asked, "fit_class": "H7"}, headers=HX))
    assert "H7 is no class of a shaft for 62: type one like p6, r6 or s6." in refused
    text = flat(corin.post("/jobs/Q-228/bush/", {**asked, "fit_class": "r6"}, headers=HX))
    # 62 r6 is +0.060/+0.041; the seat is not measured and stands at its limits, 62.000 to 62.030
    assert 'name="least_mm" value="0.011"' in text
    assert 'name="most_mm" value="0.060"' in text
    corin.post("/jobs/Q-228/bush/make/", {"unit": "mm"})
    made = Feature.objects.get(
        kind="outside", setup__job__part__endswith="bush", setup__job__suits__seat__setup__job__number="Q-228"
    )
    assert (round(float(made.lower_mm or 0), 3), round(float(made.upper_mm or 0), 3)) == (62.041, 62.06)
    number = made.setup.job.number
    assert ("Outside", "incomplete") in worst_named(page_of(number).assessment)


def test_an_oval_is_found_in_two_directions_at_one_depth(corin: Client) -> None:
    page = page_of("Q-223")
    sent = {"version": page.job.version, "unit": "mm", "at": "found", "found_z_0": "20", "found_d_0": "58.20",
            "found_z_1": "20", "found_d_1": "58.32"}  # fmt: skip
    twice = flat(corin.post("/jobs/Q-223/save/work/", sent, headers=HX))
    assert "stands here twice: give each its direction" in twice
    text = flat(corin.post("/jobs/Q-223/save/work/", {**sent, "found_a_0": "0", "found_a_1": "90"}, headers=HX))
    assert "58.320 at 90°" in text
    assert "oval as found by 0.120, 20 deep" in text
    now = page_of("Q-223").bore
    assert (now.smallest_found_mm, now.oval_found_mm) == (58.2, (pytest.approx(0.12), 20.0))
    assert "found, 20 deep, at 90°" in flat(corin.get("/jobs/Q-223/sheet/"))
    again = flat(corin.get("/jobs/Q-223/work/?at=found"))
    assert 'name="found_a_1" value="90"' in again


def test_a_hole_on_the_line_that_is_not_cut_stands_in_its_drawing(corin: Client) -> None:
    page = page_of("Q-221")
    sent = {"version": page.job.version, "unit": "mm", "at": "there", "there_name_0": "gland", "there_from_0": "200",
            "there_to_0": "230", "there_d_0": "95"}  # fmt: skip
    text = flat(corin.post("/jobs/Q-221/save/work/", sent, headers=HX))
    drawing = text.split('class="workband', 1)[1].split("</svg>", 1)[0]
    assert "gland" in drawing
    assert "not cut" in drawing
    bar = flat(corin.get("/jobs/Q-221/bar/"))
    assert "Set and take out the bit" in bar


def test_a_flanged_bush_keeps_its_flange_outside_the_seat(corin: Client) -> None:
    asked = {"unit": "mm", "material": "bronze", "finish": "54 H8", "leave_mm": "0.5", "length_mm": "23.8",
             "blank_outside_mm": "", "blank_inside_mm": "48", "put_in": "press", "least_mm": "0.025",
             "most_mm": "0.060"}  # fmt: skip
    half = flat(corin.post("/jobs/Q-228/bush/", {**asked, "flange_mm": "6"}, headers=HX))
    assert "go together: give both or neither" in half
    small = flat(corin.post("/jobs/Q-228/bush/", {**asked, "flange_mm": "6", "flange_diameter_mm": "60"}, headers=HX))
    assert "must be over 62.06" in small
    text = flat(corin.post("/jobs/Q-228/bush/", {**asked, "flange_mm": "6", "flange_diameter_mm": "74"}, headers=HX))
    assert "a flange Ø74 x 6 stays outside the seat" in text
    assert "78" in text, "the blank: the flange and twice what is left on it"
    corin.post("/jobs/Q-228/bush/make/", {"unit": "mm"})
    made = Feature.objects.get(kind="outside", setup__job__suits__seat__setup__job__number="Q-228")
    bore = page_of(made.setup.job.number).bore
    assert bore.outside_mm[0] == (6.0, 74.0)
    assert bore.length_mm == pytest.approx(29.8)
    assert float(made.z_mm) == 6.0


def test_the_form_of_a_feature_is_asked_by_its_own_name(corin: Client) -> None:
    save(corin, "Q-223", kind="outside", name="Rim", wanted="110 h7", form_limit_mm="0.02")
    text = flat(corin.get("/jobs/Q-223/work/"))
    assert "Ø110 h7, roundness 0.02" in text
    assert "roundness 0.02" in flat(corin.get("/jobs/Q-223/sheet/"))
    place = Feature.objects.get(setup__job__number="Q-223").place
    rows = flat(corin.get("/jobs/Q-223/check/?at=features"))
    assert "roundness" in rows
    indicator = Indicator.objects.get(name="Indicator 1").pk
    said = flat(log(corin, place, "0.012", "Q-223", what="form", indicator=indicator))
    assert "In limits" in said
    over = flat(log(corin, place, "0.03", "Q-223", what="form", indicator=indicator))
    assert "Over" in over
    assert "Which indicator read it?" in flat(log(corin, place, "0.01", "Q-223", what="form"))
    assert "Flatness limit" in flat(corin.get("/jobs/Q-223/work/?at=feature&kind=face"))
