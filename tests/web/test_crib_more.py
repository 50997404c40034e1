"""More of what the shop owns: materials, fixtures, stepped and tuned bars, corners, who repeats, checks."""

import io
import uuid
from decimal import Decimal
from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from PIL import Image

from gyrometra.bridge.units import Units
from gyrometra.crib.forms import FORMS
from gyrometra.crib.general import put_in_missing
from gyrometra.crib.models import Bar, CribChange, Fixture, Gauge, Machine, Material
from gyrometra.crib.records import gauge_record, machine_record
from gyrometra.crib.values import plain_of
from gyrometra.jobs.models import Job
from gyrometra.steps import plates
from gyrometra.steps.forms import BarForm
from gyrometra.steps.page import open_page
from tests.web.test_bad_input import plan_of, work_of

MM = Units()


def keep(client: Client, kind: str, item: Any, **changes: str) -> str:
    """Change a thing as its page does: all of its fields, with some typed over."""
    fields = {**plain_of(item), **changes}
    return client.post(f"/crib/{kind}/{item.pk}/", fields, follow=True).content.decode()


def test_a_material_is_changed_on_its_page_and_reaches_the_jobs(
    dagny: Client, django_capture_on_commit_callbacks: Any
) -> None:
    iron = Material.objects.get(family="grey-iron")
    with django_capture_on_commit_callbacks(execute=True):
        text = keep(dagny, "material", iron, carbide_finish_m_min="40", hardness="210 HB")
    assert "is in the crib" in text
    assert open_page("Q-214", MM).speeds.finish.value.exact_rpm == pytest.approx(40_000 / 3.14159265 / 72.015)  # type: ignore[union-attr]
    page = dagny.get(f"/crib/material/{iron.pk}/").content.decode()
    assert "Carbide, finishing, surface speed 90 m/min to 40 m/min" in page, "the history says what it was"
    assert "Used by" in page
    assert "Q-214" in page
    assert b"is used by" in dagny.post(f"/crib/material/{iron.pk}/retire/", follow=True).content
    assert not Material.objects.get(pk=iron.pk).retired, "open jobs rest on it"


def test_an_own_material_is_offered_with_its_class(dagny: Client) -> None:
    fields = {**plain_of(Material.objects.get(family="grey-iron")), "name": "tough iron", "kc11_mpa": "1400",
              "source": "our own cuts, spring"}  # fmt: skip
    dagny.post("/crib/material/new/", fields)
    dagny.post("/jobs/Q-223/save/work/", {**work_of("Q-223"), "material": "tough iron"})
    page = open_page("Q-223", MM)
    assert (page.job.material.name, page.at.material.kc11_mpa) == ("tough iron", 1400)
    assert page.at.material.hatch == "iron"
    assert any("dust" in caution.fact for caution in page.cautions("bore"))
    assert "tough iron, carbide, roughing" in dagny.get("/ask/?q=speed+64+tough").content.decode()
    wrong = dagny.post("/crib/material/new/", {**fields, "name": "x", "mc": "1.2", "kc11_mpa": "5"}).content.decode()
    assert wrong.count('class="err"') == 2


def test_the_general_materials_are_put_in_once(db: None) -> None:
    before = Material.objects.count()
    put_in_missing(Material)
    assert Material.objects.count() == before == 10


def picture(kind: str = "PNG", side: int = 2400) -> SimpleUploadedFile:
    out = io.BytesIO()
    Image.new("RGB", (side, side // 2), "#884422").save(out, kind)
    return SimpleUploadedFile("plate.png", out.getvalue())


def test_a_fixture_keeps_its_picture_and_its_jobs(dagny: Client) -> None:
    plate = Fixture.objects.get(name="Roller-hub plate")
    address = f"/crib/fixture/{plate.pk}/picture/"
    assert dagny.get(address).status_code == 404
    dagny.post(address, {"picture": picture()})
    answer = dagny.get(address)
    with Image.open(io.BytesIO(answer.content)) as shown:
        assert (shown.format, shown.size) == ("JPEG", (1600, 800))
    text = dagny.get(f"/crib/fixture/{plate.pk}/").content.decode()
    assert "Picture of Roller-hub plate" in text
    assert "Used by Q-207." in text
    assert "picture" in [change.what for change in CribChange.objects.filter(kind="fixture", item_id=plate.pk)]
    refused = dagny.post(f"/crib/fixture/{plate.pk}/retire/", follow=True).content.decode()
    assert "is used by Q-207: plan with another one there first." in refused


@pytest.mark.parametrize("content", [b"", b"no picture at all", b"\x89PNG\r\n\x1a\n cut short"])
def test_what_is_no_picture_is_refused(dagny: Client, content: bytes) -> None:
    plate = Fixture.objects.get(name="Packing 60")
    files = {"picture": SimpleUploadedFile("x.png", content)} if content else {}
    text = dagny.post(f"/crib/fixture/{plate.pk}/picture/", files, follow=True).content.decode()
    assert "Choose a picture first." in text or "no picture that can be read" in text
    assert Fixture.objects.get(pk=plate.pk).picture is None


def test_checks_of_a_machine_stand_in_its_history(dagny: Client) -> None:
    lathe = Machine.objects.get(name="Lathe 3")
    text = dagny.post(f"/crib/machine/{lathe.pk}/check/", {"words": "spindle 0.008 total at the nose"}, follow=True)
    assert "check: spindle 0.008 total at the nose" in text.content.decode()
    empty = dagny.post(f"/crib/machine/{lathe.pk}/check/", {"words": " "}, follow=True).content.decode()
    assert "Write what was checked" in empty


def test_a_stepped_bar_is_as_stiff_as_its_steps(corin: Client) -> None:
    """Neck Ø28 for 55 from the tip, Ø36 behind it, 165 out: by the areas of the bending moment."""
    page = open_page("Q-214", MM)
    bar = Bar.objects.get(name="Bar 8, necked")
    moment = [3.14159265 * d**4 / 64 for d in (28, 36)]
    give = (55**3 / moment[0] + (165**3 - 55**3) / moment[1]) / (3 * 205_000)
    row = next(r for r in plates.bar_list(page).rows if "necked" in r.words)
    assert float(row.stiffness) == pytest.approx(1 / give / 1000, abs=0.05)
    corin.post("/jobs/Q-214/save/bar/", {**plan_of("Q-214", BarForm), "bar": bar.pk})
    after = open_page("Q-214", MM)
    assert after.bar.stiffness_n_mm == pytest.approx(1 / give)
    assert after.bar.overhung.value is not None
    rule = next(limit.at_mm for limit in after.bar.overhung.value.limits if limit.criterion == "rule")
    assert 4 * 28 < (rule or 0) < 4 * 36, "by the plain bar that is as stiff"


def test_a_stepped_bar_needs_room_for_its_thickest_part(corin: Client) -> None:
    """As stiff as a plain bar of some 33, but 36 thick: with 16.5 for chips each side the bore of 68.4 has no room."""
    values = {**plan_of("Q-214", BarForm), "chip_clearance_mm": "16.5"}
    corin.post("/jobs/Q-214/save/bar/", values)
    row = next(r for r in plates.bar_list(open_page("Q-214", MM)).rows if "necked" in r.words)
    assert row.state == "out"
    assert "bar and clearance need 69 mm, the bore is 68.4 mm" in row.reason


def test_a_tuned_bar_says_what_its_owners_table_says(corin: Client) -> None:
    bar = Bar.objects.get(name="Bar 14, tuned")
    values = {**plan_of("Q-214", BarForm), "bar": bar.pk}
    text = corin.post("/jobs/Q-214/save/bar/", values, follow=True).content.decode()
    assert "is not tuned for this overhang" in text
    assert "200 (1.5 turns)" in text
    text = corin.post(
        "/jobs/Q-214/save/bar/", {**plan_of("Q-214", BarForm), "out_mm": "200"}, follow=True
    ).content.decode()
    assert "Turn the damper 0.75 turns in, to 1.5 out" in text
    Bar.objects.filter(pk=bar.pk).update(tuned_turns=Decimal("1.5"))
    assert "right for this overhang" in corin.get("/jobs/Q-214/bar/").content.decode()


@pytest.mark.parametrize(
    ("kind", "name", "changes", "says"),
    [
        ("bar", "Bar 7", {"steps_mm": "400 32"}, "longer than the bar of 300 mm"),
        ("bar", "Bar 7", {"steps_mm": "40 60"}, "thicker than the smallest bore it enters"),
        ("bar", "Bar 7", {"steps_mm": "40"}, "is no pair of figures"),
        ("bar", "Bar 7", {"tuned": "200 1.5"}, "Only a damped bar has a damper"),
        ("bar", "Bar 14, tuned", {"tuned": "200 1.5; 200 2"}, "stands in the table twice"),
        ("bar", "Bar 14, tuned", {"tuned": "200 many"}, "is no number of turns"),
        ("bar", "Bar 14, tuned", {"tuned": "-200 2"}, "must be over 0"),
        ("cutter", "Bit 3", {"corners": "2", "corners_used": "3"}, "It has 2 corners"),
        ("gauge", "Bore gauge 50-100", {"repeats_mm": "corin"}, "has no figure"),
        ("gauge", "Bore gauge 50-100", {"repeats_mm": "corin wide"}, "cannot be read as a size"),
        ("machine", "Lathe 3", {"feeds_mm_rev": "0.1; -0.2"}, "A feed must be over 0"),
        ("machine", "Lathe 3", {"power_kw": "0"}, "or more; 0 was given"),
        ("material", "steel", {"family": "cheese"}, "choose one of the list"),
    ],
)
def test_what_cannot_be_is_refused_in_words(
    dagny: Client, kind: str, name: str, changes: dict[str, str], says: str
) -> None:
    item = FORMS[kind].model._default_manager.get(name=name)
    assert says in keep(dagny, kind, item, **changes)


def test_how_well_a_person_repeats_counts(corin: Client) -> None:
    gauge = Gauge.objects.get(name="Bore gauge 50-100")
    gauge.repeats_mm = {"corin": 0.004}
    assert (gauge.single_sd_of("corin"), gauge.single_sd_of("edda")) == (0.004, 0.001)
    assert gauge_record(gauge, "corin").single_sd_mm == 0.004


def test_a_gauge_that_does_not_reach_is_refused(corin: Client) -> None:
    Gauge.objects.filter(name="Bore gauge 50-100").update(reach_mm=Decimal(60))
    gauge = Gauge.objects.get(name="Bore gauge 50-100")
    fields = {"client_id": str(uuid.uuid4()), "gauge": gauge.pk, "z": "70", "angle_deg": "0", "value": "72.01"}
    text = corin.post("/jobs/Q-214/size/", fields, follow=True).content.decode()
    assert "measures 60 mm deep; 70 was given" in text


def test_gauges_that_measure_the_bore_come_first(db: None) -> None:
    assert Gauge.objects.measuring(Decimal(102))[0].name == "Bore gauge 100-160"
    assert Gauge.objects.measuring(Decimal(72))[0].name == "Bore gauge 50-100", "the finer of two"


def test_the_overhang_is_typed_or_dragged_as_one_figure(corin: Client) -> None:
    corin.post("/jobs/Q-214/save/bar/", {**plan_of("Q-214", BarForm), "out_mm": "190"})
    plan = Job.objects.get(number="Q-214").setup.plan
    assert float(plan.clear_mm) == 45
    assert "clear_mm" not in plan.typed, "the overhang set it"
    text = corin.post("/jobs/Q-214/save/bar/", {**plan_of("Q-214", BarForm), "out_mm": "120"}).content.decode()
    assert "must hang out 145 at least to bore through; 120 was given" in text
    corin.post("/jobs/Q-214/save/bar/", {**plan_of("Q-214", BarForm), "clear_mm": "15"})
    assert open_page("Q-214", MM).bar.out_mm == 160


def test_another_bar_opens_the_bore_up(corin: Client) -> None:
    """Ø50 needs a bore of 70: it can only finish what a thinner one has opened up."""
    thin, stout = Bar.objects.get(name="Bar 9"), Bar.objects.get(name="Bar 11")
    values = {**plan_of("Q-214", BarForm), "bar": stout.pk, "opening_bar": thin.pk}
    text = corin.post("/jobs/Q-214/save/bar/", values, follow=True).content.decode()
    page = open_page("Q-214", MM)
    assert page.bar.entry_mm == pytest.approx(71.215)
    row = next(r for r in plates.bar_list(page).rows if "Bar 11" in r.words)
    assert row.state == "ok"
    line = plates.opening_line(page)
    assert line is not None
    assert line.words in text
    assert "the bar below then enters Ø71.215" in line.words
    opening = page.bar.opening
    assert opening is not None
    assert opening.cut.depth_mm == pytest.approx((71.215 - 68.4) / 6)
    assert page.passes.heaviest is not None
    assert page.passes.heaviest.depth_mm < 0.25, "the stout bar carries only the finish passes"
    assert "Used by" in corin.get(f"/crib/bar/{thin.pk}/").content.decode()


def test_a_stepless_machine_takes_the_exact_speed_within_its_range(dagny: Client) -> None:
    lathe = Machine.objects.get(name="Lathe 3")
    assert "stepless" in keep(dagny, "machine", lathe, speeds="60-2000")
    lathe.refresh_from_db()
    assert (lathe.stepless, machine_record(lathe).speeds_rpm) == (True, [60, 2000])
    page = open_page("Q-214", MM)
    assert page.speeds.rough.value is not None
    assert page.speeds.rough.value.set_rpm == pytest.approx(70_000 / 3.14159265 / 71.215)
    stepless = machine_record(lathe)
    assert stepless.speeds_for(40, None) == ([60], None), "slower than it goes: its slowest, and a note"
    assert stepless.speeds_for(5000, None) == (None, 2000)
    assert stepless.speeds_for(500, 450) == (None, 450)
    assert "60-2000" in dagny.get(f"/crib/machine/{lathe.pk}/").content.decode()
    lathe.refresh_from_db()
    assert "slower speed to a faster one" in keep(dagny, "machine", lathe, speeds="2000-60")
    assert "45 to 180, 3" in keep(dagny, "machine", lathe, speeds="A-1 45; A-2 90; 180")
    lathe.refresh_from_db()
    assert not lathe.stepless
