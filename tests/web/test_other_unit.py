"""A job typed in millimetres, changed by somebody who reads inches: what was not changed stays what it was."""

import uuid
from dataclasses import replace
from decimal import Decimal
from typing import Any

import pytest
from django.test import Client

from gyrometra.accounts.models import User
from gyrometra.bridge.units import Units
from gyrometra.crib.forms import FORMS
from gyrometra.crib.models import Bar, Gauge
from gyrometra.crib.values import initial_of
from gyrometra.jobs.models import Plan
from gyrometra.steps.forms import BarForm, CutsForm, LineBarForm
from gyrometra.steps.page import open_page
from gyrometra.steps.work.shown import work_initial
from tests.web.test_bad_input import plan_of, work_of

INCH = Units("in")
FIGURES = ("rough_depth_mm", "finish_depth_mm", "rough_feed_mm_rev", "finish_feed_mm_rev")


def test_one_figure_changed_in_inches_leaves_the_others_of_the_plan_as_they_were(corin: Client) -> None:
    User.objects.filter(username="corin").update(unit="in")
    before = open_page("Q-214", INCH).job.setup.plan
    shown = CutsForm(units=INCH, bore=open_page("Q-214", INCH).bore_row, at=open_page("Q-214", INCH).at).initial_for()
    fields = {name: value for name, value in shown.items() if value is not None}
    changed = {**fields, "hone_allowance_mm": "0.0005", "version": open_page("Q-214", INCH).job.version}

    corin.post("/jobs/Q-214/save/cuts/", changed)

    after = open_page("Q-214", INCH).job.setup.plan
    assert after.hone_allowance_mm == Decimal("0.0127")
    assert [getattr(after, name) for name in FIGURES] == [getattr(before, name) for name in FIGURES]
    assert after.typed == {**before.typed, "hone_allowance_mm": {"text": "0.0005", "unit": "in"}}


def test_one_figure_changed_in_inches_leaves_the_bore_as_it_was_found_and_its_limits(corin: Client) -> None:
    """The demo job is typed in millimetres; its passes are cut, so a bore as found that moved would be refused."""
    User.objects.filter(username="corin").update(unit="in")
    page = open_page("Q-214", INCH)
    fields = {key: value for key, value in work_initial(page.bore_row, INCH).items() if value is not None}

    corin.post("/jobs/Q-214/save/work/", {**fields, "part": "Trunnion", "version": page.job.version})

    after = open_page("Q-214", INCH)
    assert after.job.part == "Trunnion"
    assert replace(after.bore, key=page.bore.key) == page.bore
    assert after.bore_row.typed["runout_limit_mm"] == page.bore_row.typed["runout_limit_mm"]


def test_one_figure_changed_in_inches_leaves_the_others_of_a_bar(dagny: Client) -> None:
    User.objects.filter(username="dagny").update(unit="in")
    bar = Bar.objects.get(name="Bar 3")
    shown = {key: value for key, value in initial_of(bar, FORMS["bar"], INCH).items() if value not in (None, False)}

    dagny.post(f"/crib/bar/{bar.pk}/", {**shown, "notes": "hangs by the door"})

    after = Bar.objects.get(pk=bar.pk)
    assert after.notes == "hangs by the door"
    assert (after.diameter_mm, after.length_mm) == (bar.diameter_mm, bar.length_mm)


def test_one_figure_changed_in_inches_leaves_the_bearings_where_they_are(corin: Client) -> None:
    User.objects.filter(username="corin").update(unit="in")
    page = open_page("Q-221", INCH)
    shown = LineBarForm(units=INCH, bore=page.bore_row, at=page.at).initial_for()
    fields = {name: value for name, value in shown.items() if value is not None}

    corin.post("/jobs/Q-221/save/bar/", {**fields, "chip_clearance_mm": "0.2", "version": page.job.version})

    after = open_page("Q-221", INCH).job.setup.plan
    assert after.chip_clearance_mm == Decimal("5.08")
    assert after.bearings_mm == page.job.setup.plan.bearings_mm
    assert after.typed["bearings_mm"] == page.job.setup.plan.typed["bearings_mm"]


def test_a_place_measured_in_millimetres_is_the_same_place_in_inches(corin: Client, dagny: Client) -> None:
    User.objects.filter(username="dagny").update(unit="in")
    gauge = Gauge.objects.measuring(72)[0].pk
    for client, z, size in ((corin, "20", "72.012"), (dagny, INCH.plain(20), "2.83511")):
        entry = {"client_id": str(uuid.uuid4()), "z": z, "angle_deg": "0", "value": size, "gauge": gauge}
        assert client.post("/jobs/Q-214/size/", entry, headers={"HX-Request": "true"}).status_code == 200
    judged = open_page("Q-214", INCH).judged
    assert [(place.z_mm, place.angle_deg) for place in judged.places] == [(20.0, 0.0)]
    assert len(judged.sizes_at(judged.places[0])) == 2


@pytest.mark.parametrize(("step", "save"), [("bar", "bar"), ("cuts", "cuts"), ("work", "work")])
def test_a_form_is_read_in_the_unit_it_was_shown_in(corin: Client, step: str, save: str) -> None:
    """The unit is switched on another device; a form that stands open is saved: no figure of it is another one."""
    text = corin.get(f"/jobs/Q-214/{step}/").content.decode()
    form = text[text.index("/save/" + save) :].split("</form>", 1)[0]
    assert '<input type="hidden" name="unit" value="mm">' in form
    made = {"bar": BarForm, "cuts": CutsForm}.get(step)
    fields = {**(plan_of("Q-214", made) if made else work_of("Q-214")), "unit": "mm"}
    before = _figures()
    User.objects.filter(username="corin").update(unit="in")
    answer = corin.post(f"/jobs/Q-214/save/{save}/", fields, headers={"HX-Request": "true"})
    assert answer.status_code == 200
    assert _figures() == before


def test_a_line_is_answered_in_the_unit_it_was_shown_in(corin: Client) -> None:
    User.objects.filter(username="corin").update(unit="in")
    text = corin.get("/ask/?q=half+2.418+4.972&unit=mm").content.decode()
    assert "mm" in text
    assert '<input type="hidden" name="unit" value="mm">' in text


def _figures() -> list[Any]:
    job = open_page("Q-214", Units()).job
    plan = {field.name: getattr(job.setup.plan, field.attname) for field in Plan._meta.fields if field.name != "typed"}
    bore = open_page("Q-214", Units()).bore
    return [sorted(plan.items(), key=str), bore]
