"""Work as places beside a drawing: one opened, its fields alone sent; set-ups worked out; a bush to suit a bore."""

from __future__ import annotations

import io
import re
import uuid
from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext
from PIL import Image

from gyrometra.bridge.units import Units
from gyrometra.crib.models import Fixture, Gauge, Machine, Material
from gyrometra.jobs.models import Bore, Bush, Job, JobPhoto
from gyrometra.steps.bar.plates import bar_list
from gyrometra.steps.page import open_page
from gyrometra.steps.work.places import PANELS
from tests.web.said import flat

MM = Units("mm")
HX = {"HX-Request": "true"}


def save(client: Client, number: str, at: str, *, unit: str = "mm", **fields: Any) -> str:
    page = open_page(number, Units(unit))
    sent = {"version": page.job.version, "unit": unit, "at": at, **fields}
    return flat(client.post(f"/jobs/{number}/save/work/", sent, headers=HX))


_PAGE_S_OWN = ("csrfmiddlewaretoken", "fixtures", "at", "unit", "version")


def shown(client: Client, number: str, at: str) -> dict[str, str]:
    """The fields of an open place as the page shows them."""
    text = (
        client.get(f"/jobs/{number}/work/?at={at}").content.decode().split('class="placepanel')[1].split("</form>")[0]
    )
    fields = dict(re.findall(r'<input[^>]*name="([^"]+)"[^>]*?value="([^"]*)"', text))
    for name, options in re.findall(r'<select name="([^"]+)".*?>(.*?)</select>', text, re.S):
        chosen = re.search(r'<option value="([^"]*)" selected', options)
        fields[name] = chosen[1] if chosen else ""
    return {name: value for name, value in fields.items() if name not in _PAGE_S_OWN}


def test_a_place_sends_its_own_fields_and_the_rest_stands(corin: Client) -> None:
    before = open_page("Q-223", MM)
    said = save(corin, "Q-223", "found", found_z_0="20", found_d_0="58.25", found_z_1="", found_d_1="")
    assert "58.250" in said
    after = open_page("Q-223", MM)
    assert after.bore.found_mm == ((20, 58.25),)
    assert (after.bore.wanted, after.bore.outside_mm, after.job.part) == (
        before.bore.wanted, before.bore.outside_mm, before.job.part)  # fmt: skip


@pytest.mark.parametrize("number", ["Q-223", "Q-228", "Q-207", "P~2031~2F8"])
@pytest.mark.parametrize("at", list(PANELS))
def test_a_place_sent_as_it_is_shown_changes_nothing(corin: Client, number: str, at: str) -> None:
    real = number.replace("~20", " ").replace("~2F", "/")
    page = open_page(real, MM)
    fields: dict[str, Any] = {**shown(corin, number, at), "at": at, "unit": "mm", "version": page.job.version}
    if at == "setup":
        fields["fixtures"] = [str(one.pk) for one in page.job.setup.fixtures.all()]
    if at == "part":
        fields["notes"] = page.job.notes
    changes = page.job.changes.count()
    answer = corin.post(f"/jobs/{number}/save/work/", fields, headers=HX)
    assert answer.status_code == 200
    assert 'class="err"' not in answer.content.decode()
    again = open_page(real, MM)
    assert again.job.changes.count() == changes, "nothing is told as changed"
    assert again.record.setup == page.record.setup


def test_what_is_refused_elsewhere_is_named_with_its_place(corin: Client) -> None:
    said = save(corin, "Q-223", "outside", outside_l_0="24", outside_d_0="50")
    assert "The outside must be over the bore" in said
    said = save(corin, "Q-223", "bore", **{**shown(corin, "Q-223", "bore"), "wanted": "58 H7"})
    assert 'at=found#place">Bore found</a>' in said or "The wanted size must be over what is there now" in said


def test_every_bore_of_every_set_up_is_listed_and_numbered_once(corin: Client) -> None:
    for setup in (1, 2):
        text = corin.get(f"/jobs/P~2031~2F4/work/?setup={setup}").content.decode()
        rows = re.findall(r'data-place="(\d)"\s+href', text)
        assert rows == ["1", "2", "3"]
        assert "Ø80 H7, 32 to a shoulder" in flat(corin.get(f"/jobs/P~2031~2F4/work/?setup={setup}"))
        assert "Ø72 H7, 24 to a shoulder" in flat(corin.get(f"/jobs/P~2031~2F4/work/?setup={setup}"))


def test_work_asks_no_more_of_the_database_for_more(corin: Client) -> None:
    for path in ("/jobs/Q-214/work/", "/jobs/Q-221/work/", "/jobs/Q-214/work/?at=setup"):
        corin.get(path)
        with CaptureQueriesContext(connection) as asked:
            corin.get(path)
        assert len(asked) <= 12, path


def setting(client: Client, number: str, what: str, **fields: Any) -> str:
    page = open_page(number.replace("~20", " ").replace("~2F", "/"), MM)
    plan = page.job.setup.plan
    stored = {"overlap_mm": "2", "plate_holes": str(plan.plate_holes), "weight_step_kg": str(plan.weight_step_kg)}
    sent = {**stored, "version": page.job.version, "unit": "mm", "at": "setup", **fields}
    return flat(client.post(f"/jobs/{number}/save/setting/{what}/", sent, headers=HX))


def test_a_side_is_bored_as_deep_as_the_bar_reaches(corin: Client) -> None:
    text = flat(corin.get("/jobs/P~2031~2F6/work/?at=setup"))
    assert "One side cannot:" in text
    assert "Bar 2 reaches 115 of 210" in text
    assert "200 less 75 clamped, less 10 clear" in text
    assert "a side ends before that" in setting(corin, "P~2031~2F6", "sides", side_depth_mm="210")
    setting(corin, "P~2031~2F6", "sides", side_depth_mm="100")
    page = open_page("P 31/6", MM)
    assert (page.at.bored_mm, page.bar.out_mm) == (100, 110)
    assert "set right through" not in flat(corin.get("/jobs/P~2031~2F6/bar/"))


def test_the_other_side_finds_the_depths_from_its_own_face(corin: Client) -> None:
    gauge = Gauge.objects.get(name="Bore gauge 35-60").pk
    for z in ("40", "80"):
        for angle in ("0", "90"):
            fields = {"client_id": str(uuid.uuid4()), "value": "36.02", "z": z, "angle_deg": angle, "gauge": gauge}
            assert corin.post("/jobs/P~2031~2F6/size/", fields, headers=HX)["X-Entry"].endswith("stored")
    job = Job.objects.get(number="P 31/6")
    fields = {"what": "on", "version": job.version, "unit": "mm", "side": "other", "method": "lathe-bar",
              "machine": Machine.objects.get(name="Lathe 2").pk, "reference": "outside", "reason": ""}  # fmt: skip
    corin.post("/jobs/P~2031~2F6/setups/add/", fields, headers=HX)
    second = open_page("P 31/6", MM, setup=2)
    assert [z for z, _ in second.bore.found_mm] == [130, 170], "210 less 80, 210 less 40"


def test_packing_is_found_from_what_the_crib_owns(corin: Client) -> None:
    text = flat(corin.get("/jobs/P~2031~2F8/work/?at=setup"))
    assert "Packing 60 + Plate 1.5 + Shim 0.1" in text
    Fixture.objects.filter(name="Plate 1.5").update(retired=True)
    assert "Plate 1.5 +" not in flat(corin.get("/jobs/P~2031~2F8/work/?at=setup"))
    Fixture.objects.filter(kind="packing").update(retired=True)
    assert "packing with a height, in the crib" in flat(corin.get("/jobs/P~2031~2F8/work/?at=setup"))


def test_weights_at_the_holes_and_the_speed_that_is_left(corin: Client) -> None:
    text = flat(corin.get("/jobs/P~2031~2F10/work/?at=setup"))
    assert "1.25 kg at 270°" in text
    masses = {"what_0": "web", "kg_0": "6.4", "out_0": "72", "at_0": "90", "plate_radius_mm": "140"}
    said = setting(corin, "P~2031~2F10", "balance", **{**masses, "out_0": ""})
    assert "How far off the axis does it lie?" in said
    assert 'value="6.4"' in said, "what was typed stays"
    said = setting(corin, "P~2031~2F10", "balance", **masses, kg_1="1", what_1="web", out_1="10", at_1="0")
    assert "web stands here twice" in said
    setting(corin, "P~2031~2F10", "balance", **masses, force_limit_n="1")
    assert open_page("P 31/10", MM).speeds.cap_rpm < 500, "the force allows less than the machine"
    assert corin.post("/jobs/P~2031~2F10/save/setting/wishes/", {}).status_code == 404


def test_a_holding_goes_with_its_method(corin: Client) -> None:
    page = open_page("Q-223", MM)
    fields = {**shown(corin, "Q-223", "setup"), "holding": "vice"}
    said = save(corin, "Q-223", "setup", **fields)
    assert "Vice does not go with bar in the lathe" in said
    save(corin, "Q-223", "setup", **{**shown(corin, "Q-223", "setup"), "holding": "faceplate"})
    assert "mark 1" in flat(corin.get("/jobs/Q-223/true/")) or open_page("Q-223", MM).record.setup.way.jaws is False
    assert "bolted to the faceplate" in flat(corin.get("/jobs/Q-223/sheet/"))
    assert page.record.setup.way.jaws


ASKED = {"least_mm": "0.025", "most_mm": "0.060", "material": "bronze", "finish": "54 H8", "leave_mm": "0.5",
         "length_mm": "23.8", "put_in": "press", "blank_outside_mm": "", "blank_inside_mm": "",
         "unit": "mm"}  # fmt: skip


def bush(client: Client, **fields: str) -> str:
    return flat(client.post("/jobs/Q-228/bush/", {**ASKED, **fields}, headers=HX))


def measure(client: Client, value: float) -> None:
    gauge = Gauge.objects.get(name="Bore gauge 50-100").pk
    for z in ("6", "20"):
        for angle in ("0", "90"):
            fields = {"client_id": str(uuid.uuid4()), "value": f"{value:.3f}", "z": z, "angle_deg": angle,
                      "gauge": gauge}  # fmt: skip
            assert client.post("/jobs/Q-228/size/", fields, headers=HX)["X-Entry"].endswith("stored")


def test_a_bush_follows_the_seat_that_was_measured(corin: Client) -> None:
    assert "not measured: at its limits" in flat(corin.get("/jobs/Q-228/bush/"))
    assert "62.055 to 62.060" in bush(corin), "62.030 + 0.025 to 62.000 + 0.060"
    measure(corin, 62.012)
    text = flat(corin.get("/jobs/Q-228/bush/"))
    assert "as measured on Check" in text
    asked = open_page("Q-228", MM)
    unsure = max(one.expanded_mm for one in asked.judged.places)
    found = re.search(r"(62\.\d{3}) to (62\.\d{3})</p>", text)
    assert found
    assert 0 <= float(found[1]) - (62.012 + unsure + 0.025) < 1e-3, "rounded inward"
    assert 0 <= (62.012 - unsure + 0.060) - float(found[2]) < 1e-3


def test_a_bush_becomes_a_job_that_says_when_its_seat_is_measured_anew(corin: Client) -> None:
    bush(corin)
    answer = corin.post("/jobs/Q-228/bush/make/", {"unit": "mm"})
    made = Bush.objects.get(seat__setup__job__number="Q-228").job
    assert made is not None
    assert answer["Location"].endswith(f"/jobs/{made.number}/work/")
    own = flat(corin.get(f"/jobs/{made.number}/work/"))
    assert "Made to suit" in own
    assert "62.055 to 62.060 mm" in own
    assert "measured anew" not in own
    bore = Bore.objects.get(setup__job=made)
    assert (float(bore.lower_mm), float(bore.upper_mm), bore.setup.reference) == (53.45, 53.55, "outside")
    assert made.material.name == "bronze"
    measure(corin, 62.012)
    assert "The seat was measured anew" in flat(corin.get(f"/jobs/{made.number}/work/"))
    corin.post("/jobs/Q-228/bush/make/", {"unit": "mm"})
    own = flat(corin.get(f"/jobs/{made.number}/work/"))
    assert "measured anew" not in own, "taken over"
    kept = Bush.objects.get(seat__setup__job__number="Q-228")
    aim = (float(kept.lower_mm or 0) + float(kept.upper_mm or 0)) / 2
    outside = open_page(made.number, MM).bore.outside_mm
    assert outside[0][1] == pytest.approx(aim), "one figure: the drawing has the new outside too"
    again = corin.post("/jobs/Q-207/bush/make/?piece=3", {"unit": "mm"})
    assert again["Location"] == "/jobs/Q-207/bush/?piece=3", "of the piece that was shown"
    assert Bush.objects.filter(seat__setup__job__number="Q-228").count() == 1, "no second job"
    assert Job.objects.filter(part="Cider press, crosshead, bush").count() == 1


@pytest.mark.parametrize(("fields", "says"), [
    ({"most_mm": "0.04"}, "the seat with its uncertainty takes"),
    ({"finish": "61.4 H8", "leave_mm": "0"}, "cannot be pressed"),
    ({"finish": ""}, "Bore in place is missing"),
    ({"length_mm": "-3"}, "must be over 0"),
    ({"blank_outside_mm": "60"}, "must be over"),
    ({"material": "cheese"}, "Made of"),
])  # fmt: skip
def test_a_bush_that_cannot_be_is_told_at_its_field(corin: Client, fields: dict[str, str], says: str) -> None:
    said = bush(corin, **fields)
    assert says in said
    assert "23.8" in said or "-3" in said, "what was typed stays"
    assert not Bush.objects.filter(seat__setup__job__number="Q-228").exists()


def test_heat_and_cold_carry_their_cautions(corin: Client) -> None:
    assert "Press force, at most" in bush(corin)
    hot = bush(corin, put_in="heat")
    assert "Heat the hub to" in hot
    assert "The hub is hot for a long time" in hot
    assert "Cold liquids and ice burn" in bush(corin, put_in="cool")


def test_a_material_of_which_only_the_class_is_known(dagny: Client) -> None:
    fields = {"name": "Old pump casing", "family": "spheroidal-iron", "hardness": "", "source": ""}
    dagny.post("/crib/material/new/", fields)
    made = Material.objects.get(name="Old pump casing")
    general = Material.objects.get(name="spheroidal iron")
    assert (made.kc11_mpa, made.mc, made.source) == (general.kc11_mpa, general.mc, general.source)
    assert made.data.youngs_modulus_gpa == 170


def picture() -> SimpleUploadedFile:
    out = io.BytesIO()
    Image.new("RGB", (900, 600), "#884422").save(out, "JPEG")
    return SimpleUploadedFile("in.jpg", out.getvalue())


def test_pictures_stand_with_a_job_until_they_are_taken_away(corin: Client, dagny: Client) -> None:
    assert "Choose a picture first" in flat(corin.post("/jobs/Q-223/photos/picture/", {"words": "as it came"}))
    corin.post("/jobs/Q-223/photos/picture/", {"picture": picture(), "words": "as it came in"})
    kept = JobPhoto.objects.get(job__number="Q-223")
    text = flat(corin.get("/jobs/Q-223/work/?at=more"))
    assert "as it came in" in text
    assert corin.get(f"/jobs/Q-223/photos/{kept.pk}/")["Content-Type"] == "image/jpeg"
    assert corin.get(f"/jobs/Q-214/photos/{kept.pk}/").status_code == 404, "of another job"
    corin.post(f"/jobs/Q-223/photos/{kept.pk}/drop/", {})
    assert corin.get(f"/jobs/Q-223/photos/{kept.pk}/").status_code == 404
    corin.post(f"/jobs/Q-223/photos/{kept.pk}/drop/", {"back": "yes"})
    assert corin.get(f"/jobs/Q-223/photos/{kept.pk}/").status_code == 200
    no = SimpleUploadedFile("x.jpg", b"no picture at all")
    assert "no picture that can be read" in flat(corin.post("/jobs/Q-223/photos/picture/", {"picture": no}))
    assert "Keep the picture" not in flat(dagny.get("/jobs/Q-198/work/?at=more")), "a signed job takes none"
    corin.post("/jobs/Q-198/photos/picture/", {"picture": picture()})
    assert not JobPhoto.objects.filter(job__number="Q-198").exists()


def test_what_held_it_the_last_time_is_said(corin: Client) -> None:
    first = Job.objects.get(number="Q-207")
    Job.objects.filter(number="Q-223").update(part=first.part)
    assert "Last time, <a" in corin.get("/jobs/Q-223/work/?at=setup").content.decode()
    assert "Borer 1, in place, in its own frame, Roller-hub plate" in flat(corin.get("/jobs/Q-223/work/?at=setup"))
    assert "Last time" not in flat(corin.get("/jobs/Q-219/work/?at=setup"))


def test_a_shoulder_behind_which_nothing_is_left_is_refused(corin: Client) -> None:
    fields = {**shown(corin, "Q-228", "bore"), "length_mm": "70", "depth_wanted": "70 +0.1/0"}
    assert "nothing is left behind it" in save(corin, "Q-228", "bore", **fields)


def test_two_set_ups_that_finish_one_bore_are_told(corin: Client) -> None:
    assert "both finish" not in flat(corin.get("/jobs/P~2031~2F4/work/")), "each has its own side"
    job = Job.objects.get(number="Q-223")
    fields = {"what": "more", "version": job.version, "unit": "mm", "side": "first", "method": "lathe-bar",
              "machine": Machine.objects.get(name="Lathe 3").pk, "reference": "outside", "reason": ""}  # fmt: skip
    corin.post("/jobs/Q-223/setups/add/", fields)
    assert "Set-ups A and B both finish bore at the same place" in flat(corin.get("/jobs/Q-223/work/"))


def test_what_is_only_there_is_kept_listed_and_passed(corin: Client) -> None:
    said = save(corin, "Q-223", "there", there_name_0="Oil hole", there_from_0="10", there_to_0="4", there_d_0="30")
    assert "It must end past 10 mm" in said
    assert "Its size is missing" in save(corin, "Q-223", "there", there_name_0="Oil hole", there_from_0="0",
                                         there_to_0="4")  # fmt: skip
    fields = {"there_name_0": "oil hole", "there_from_0": "0", "there_to_0": "4", "there_d_0": "1.2 in"}
    said = save(corin, "Q-223", "there", **fields)
    assert "Oil hole" in said
    assert "the bar must pass it" in said
    page = open_page("Q-223", MM)
    assert page.at.narrowest_mm == pytest.approx(30.48)
    assert any(row.state == "out" and row.words.startswith("Bar 7") for row in bar_list(page).rows)
    assert shown(corin, "Q-223", "there")["there_d_0"] == "1.2 in", "as it was typed"
    corin.post("/jobs/Q-223/copy/", {"unit": "mm"})
    copy = Job.objects.order_by("-pk")[0]
    assert open_page(copy.number, MM).bore.there == page.bore.there


def test_two_people_at_two_places_are_no_conflict_and_at_one_are_told(corin: Client, dagny: Client) -> None:
    bore, outside = shown(corin, "Q-223", "bore"), shown(dagny, "Q-223", "outside")
    version = open_page("Q-223", MM).job.version
    assert "Not saved" not in save(corin, "Q-223", "bore", **{**bore, "runout_limit_mm": "0.025"})
    said = save(dagny, "Q-223", "outside", **{**outside, "outside_d_0": "86", "version": version})
    assert "after you opened it" not in said
    page = open_page("Q-223", MM)
    assert (page.bore.runout_limit_mm, page.bore.outside_mm[0][1]) == (0.025, 86), "both stand"
    said = save(dagny, "Q-223", "bore", **{**bore, "runout_limit_mm": "0.04", "version": version})
    assert "corin changed this job" in said or "dagny changed this job" in said
    assert open_page("Q-223", MM).bore.runout_limit_mm == 0.025


def test_what_was_changed_of_setting_up_is_told_in_words(corin: Client) -> None:
    setting(corin, "P~2031~2F10", "balance", what_0="web", kg_0="5", out_0="72", at_0="90", plate_radius_mm="140")
    told = flat(corin.get("/jobs/P~2031~2F10/work/?at=more"))
    assert (
        "masses on the plate web 6.4 kg, 72 mm at 90°; clamps 1.1 kg, 130 mm at 200° to web 5 kg, 72 mm at 90°" in told
    )
    assert "force allowed, N 60 to none" in told


def test_the_sheet_says_what_was_worked_out_before_anything_is_clamped(corin: Client) -> None:
    assert "115 deep from this side, then turn round" in flat(corin.get("/jobs/P~2031~2F6/sheet/"))
    packed = flat(corin.get("/jobs/P~2031~2F8/sheet/"))
    assert "Packing 60 + Plate 1.5 + Shim 0.1 = 61.6, front and back; Shim 0.1 more under the low feet" in packed
    plate = flat(corin.get("/jobs/P~2031~2F10/sheet/"))
    assert "1.25 kg at 270°, 2 kg at 300°, 140 off the axis, clockwise from the mark; no faster than 500 rpm" in plate
    assert "bolted to the faceplate" in plate


def test_a_changed_outside_is_told_too(corin: Client) -> None:
    save(corin, "Q-223", "outside", **{**shown(corin, "Q-223", "outside"), "outside_d_0": "86"})
    told = flat(corin.get("/jobs/Q-223/work/?at=more"))
    assert "outside 24 of 84; 36 of 118; 24 of 84 to 24 of 86; 36 of 118; 24 of 84" in told
    changes = open_page("Q-223", MM).job.changes.count()
    save(corin, "Q-223", "outside", **shown(corin, "Q-223", "outside"))
    assert open_page("Q-223", MM).job.changes.count() == changes, "the same again is no change"


def test_an_example_is_made_once_and_only_where_there_is_no_job(corin: Client) -> None:
    before = Job.objects.count()
    assert corin.post("/jobs/example/")["Location"] == "/"
    assert Job.objects.count() == before
