"""A job typed in millimetres, changed by somebody who reads inches: what was not changed stays what it was."""

import uuid
from dataclasses import replace
from decimal import Decimal

from django.test import Client

from gyrometra.accounts.models import User
from gyrometra.bridge.units import Units
from gyrometra.crib.forms import FORMS
from gyrometra.crib.models import Bar, Gauge
from gyrometra.crib.values import initial_of
from gyrometra.steps.forms import CutsForm, LineBarForm
from gyrometra.steps.page import open_page
from gyrometra.steps.work.shown import work_initial

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
