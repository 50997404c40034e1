"""Bad input: a sentence at its field, what was typed kept, nothing saved, never a 500."""

import uuid
from typing import Any

import pytest
from django.test import Client

from gyrometra.bridge.units import Units
from gyrometra.crib.models import Gauge, Indicator, Machine
from gyrometra.cutting.models import CutEntry
from gyrometra.jobs.models import Job
from gyrometra.steps.forms import BarForm, CutsForm, work_initial
from gyrometra.steps.page import open_page

MM = Units("mm")


def work_of(number: str) -> dict[str, Any]:
    page = open_page(number, MM)
    return {**work_initial(page.bore_row, MM), "version": page.job.version}


def plan_of(number: str, form: Any) -> dict[str, Any]:
    page = open_page(number, MM)
    shown = form(units=MM, bore=page.bore_row, at=page.at).initial_for()
    return {**{k: v for k, v in shown.items() if v is not None}, "version": page.job.version}


@pytest.mark.parametrize(
    ("field", "typed", "says"),
    [
        ("wanted", "68 H7", "must be over what is there now"),
        ("wanted", "72.03-72.00", "the first size must be the smaller one"),
        ("wanted", "72 +0/+0.03", "the upper deviation comes first"),
        ("wanted", "72", "gives no two limits"),
        ("length_mm", "0", "must be over 0"),
        ("length_mm", "-140", "must be over 0"),
        ("length_mm", "1,250", "could be 1.250 or 1250"),
        ("length_mm", "11/16", "could be a fraction of an inch"),
        ("length_mm", "long", "cannot be read as a size"),
        ("length_mm", "999999", "far outside of what it usually is"),
        ("length_mm", "999999 mm", "longer than 100 m"),
        ("runout_limit_mm", "-0.02", "must be over 0"),
        ("room_behind_mm", "-1", "must be 0 or more"),
        ("found_z_0", "150", "lies past its end"),
        ("found_d_1", "2.69", "25.4 times off"),
        ("found_d_0", "", "is missing in this row"),
        ("outside_d_0", "60", "must be over the bore"),
        ("number", "Q-219", "There is already a job Q-219"),
    ],
)
def test_work(corin: Client, field: str, typed: str, says: str) -> None:
    before = Job.objects.get(number="Q-214").version
    page = corin.post("/jobs/Q-214/save/work/", {**work_of("Q-214"), field: typed}, headers={"HX-Request": "true"})
    text = page.content.decode()
    assert page.status_code == 200
    assert says in text
    assert not typed or f'value="{typed}"' in text
    assert Job.objects.get(number="Q-214").version == before


def test_the_bore_as_found_stands_once_a_pass_is_set(corin: Client) -> None:
    """The first pass was set from it; limits and depths may change, and what is left is shared anew."""
    work = {**work_of("Q-214"), "found_d_0": "68.30"}
    assert "3 passes are set already" in corin.post("/jobs/Q-214/save/work/", work).content.decode()
    assert corin.post("/jobs/Q-214/save/work/", {**work_of("Q-214"), "wanted": "73 H7"}).status_code == 302
    page = open_page("Q-214", MM)
    assert page.passes.plan.value is not None
    kinds = [cut.kind for cut in page.passes.plan.value.passes]
    assert kinds == ["rough", "rough", "test", "rough", "rough", "finish", "finish"]
    assert page.passes.plan.value.passes[-1].diameter_mm == pytest.approx(73.015)


@pytest.mark.parametrize(
    ("step", "form", "field", "typed", "says"),
    [
        ("bar", BarForm, "overrun_mm", "13", "there is only 12 mm of room behind the work"),
        ("bar", BarForm, "clear_mm", "-1", "must be 0 or more"),
        ("bar", BarForm, "budget_mm", "0", "must be over 0"),
        ("bar", BarForm, "bar", "99999", "Bar: choose one of the list"),
        ("cuts", CutsForm, "rough_depth_mm", "0.06", "the least depth may be"),
        ("cuts", CutsForm, "finish_depth_mm", "0.02", "it would rub"),
        ("cuts", CutsForm, "max_rpm", "20", "Every spindle speed is over the largest allowed"),
        ("cuts", CutsForm, "test_leave_mm", "0.1", "leave 0.2 mm or more"),
        ("cuts", CutsForm, "finish_passes", "0", "Finish passes must be 1 or more; 0 was given"),
    ],
)
def test_plan(corin: Client, step: str, form: Any, field: str, typed: str, says: str) -> None:
    number = "Q-214" if step == "bar" else "Q-219"
    before = Job.objects.get(number=number).version
    values = {**plan_of(number, form), field: typed}
    page = corin.post(f"/jobs/{number}/save/{step}/", values, headers={"HX-Request": "true"})
    text = page.content.decode()
    assert page.status_code == 200
    assert says in text
    assert "Worked out before this change" in text
    assert Job.objects.get(number=number).version == before


@pytest.mark.parametrize(
    ("typed", "says"),
    [
        ("27.000", "Say which, once; it is remembered."),
        ("1010", "Off the scale is a reading too"),
        ("1.3 mm", "Off the scale is a reading too"),
        ("y", "cannot be read"),
        ("", "Type the reading"),
        ("1,250", "could be"),
    ],
)
def test_readings(corin: Client, typed: str, says: str) -> None:
    indicator = Indicator.objects.get(name="Indicator 1")
    corin.post("/jobs/Q-219/round/true/", {"method": "sweep", "places": 8, "indicator": indicator.pk})
    page = corin.post("/jobs/Q-219/reading/true/", {"value": typed, "place": 0, "client_id": str(uuid.uuid4())})
    assert says in page.content.decode()


@pytest.mark.parametrize(
    ("typed", "says"),
    [("2.8193", "25.4 times off"), ("120", "Is it meant?"), ("abc", "cannot be read"), ("", "Type the size")],
)
def test_sizes(corin: Client, typed: str, says: str) -> None:
    gauge = Gauge.objects.get(name="Bore gauge 50-100")
    fields = {"value": typed, "number": 3, "gauge": gauge.pk, "client_id": str(uuid.uuid4())}
    assert says in corin.post("/jobs/Q-214/cut/size/", fields).content.decode()
    fields = {"value": typed, "z": "20", "angle_deg": "0", "gauge": gauge.pk, "client_id": str(uuid.uuid4())}
    assert says in corin.post("/jobs/Q-214/size/", fields).content.decode()


def test_every_step_before_power_is_asked(corin: Client) -> None:
    fields = {"client_id": str(uuid.uuid4()), "number": 1, "guard": ["locked", "cleared"]}
    page = corin.post("/jobs/Q-219/cut/set/", fields)
    assert "Before power: One turn by hand, nothing fouls" in page.content.decode()
    assert not CutEntry.objects.filter(setup__job__number="Q-219").exists()


@pytest.mark.parametrize(
    ("speeds", "says"),
    [("", "A machine without speeds"), ("fast", "is no speed"), ("A-1 45, B-1 45", "stands here twice")],
)
def test_a_machine_needs_speeds(dagny: Client, speeds: str, says: str) -> None:
    fields = {"name": "Lathe 9", "speeds": speeds, "division_mm": "0.02", "divisions_per_turn": "100",
              "dial_reads": "radius"}  # fmt: skip
    page = dagny.post("/crib/machine/new/", fields)
    assert page.status_code == 200
    assert says in page.content.decode()
    assert not Machine.objects.filter(name="Lathe 9").exists()
