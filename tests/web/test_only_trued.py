"""Work that is only set true: made without a finished size, read on True, judged by its last round, signed."""

from __future__ import annotations

import uuid
from typing import Any

import pytest
from django.test import Client

from gyrometra.bridge.units import Units
from gyrometra.crib.models import Indicator, Machine
from gyrometra.jobs.models import Job, SetUp, SignOff
from gyrometra.steps.page import open_page
from gyroplan.assess import steps_of
from tests.web.said import flat

MM = Units("mm")
NEW = {"number": "P 31/50", "part": "Stock for a cam", "material": "steel", "found_d_0": "60", "length_mm": "80",
       "runout_limit_mm": "0.03", "only_trued": "on", "unit": "mm"}  # fmt: skip
ADDRESS = "/jobs/P~2031~2F50"


def made(client: Client, **more: str) -> Any:
    lathe = Machine.objects.filter(kind="lathe").order_by("name")[0].pk
    return client.post("/jobs/new/", {**NEW, "machine": str(lathe), **more})


def sweep(client: Client, *readings: str) -> None:
    begun = {"method": "sweep", "places": "4", "indicator": Indicator.objects.get(name="Indicator 1").pk}
    client.post(f"{ADDRESS}/round/true/", {**begun, "client_id": str(uuid.uuid4())})
    for place, text in enumerate([*readings, readings[0]]):
        entry = {"value": text, "place": place, "client_id": str(uuid.uuid4())}
        client.post(f"{ADDRESS}/reading/true/", entry)


def test_stock_is_set_true_judged_and_signed_without_a_cut(dagny: Client) -> None:
    assert made(dagny).status_code == 302
    page = open_page("P 31/50", MM)
    assert (page.record.setup.only_trued, page.bore.wanted, page.bore.aim_mm) == (True, "", 60.0)
    lines = {one.step: (one.state, one.code) for one in steps_of(page.assessment).steps}
    assert lines["cuts"] == lines["bar"] == lines["bore"] == ("done", "not_cut")
    assert lines["check"] == ("ahead", "not_trued")
    for step in ("work", "bar", "cuts", "true", "bore", "check", "sheet"):
        text = flat(dagny.get(f"{ADDRESS}/{step}/"))
        assert ("Only set true: nothing is cut" in text) == (step in ("bar", "cuts", "bore"))
    sweep(dagny, "0", "40", "80", "40")
    assert "Incomplete" in flat(dagny.get(f"{ADDRESS}/check/")), "0.04 off is not within half of 0.03"
    sweep(dagny, "0", "5", "10", "5")
    text = flat(dagny.get(f"{ADDRESS}/check/"))
    assert "Set true: centre offset 0.005, run-out limit 0.030" in text
    digest = text.split('name="digest" value="')[1].split('"')[0]
    dagny.post(f"{ADDRESS}/sign/", {"digest": digest, "unit": "mm"})
    assert SignOff.objects.get(job__number="P 31/50").verdict["word"] == "in"


def test_the_surface_that_is_read_has_its_size(corin: Client) -> None:
    text = flat(made(corin, found_d_0=""))
    assert "The size of the surface that is read is missing" in text
    assert not Job.objects.filter(number="P 31/50").exists()


@pytest.mark.parametrize(("number", "stays"), [("Q-214", True), ("Q-223", False)])
def test_a_job_that_is_cut_stays_one_that_is_cut(corin: Client, number: str, stays: bool) -> None:
    page = open_page(number, MM)
    setup = page.job.setup
    sent = {"version": page.job.version, "unit": "mm", "at": "setup", "machine": setup.machine_id,
            "method": setup.method, "holding": setup.holding, "reference": setup.reference, "room_behind_mm": "12",
            "only_trued": "on"}  # fmt: skip
    text = flat(corin.post(f"/jobs/{number}/save/work/", sent, headers={"HX-Request": "true"}))
    assert SetUp.objects.get(pk=setup.pk).only_trued is not stays
    assert ('class="err"' in text) is stays
    if not stays:
        back = {**sent, "version": open_page(number, MM).job.version}
        del back["only_trued"]
        corin.post(f"/jobs/{number}/save/work/", back, headers={"HX-Request": "true"})
        assert SetUp.objects.get(pk=setup.pk).only_trued is False
        assert open_page(number, MM).bore.wanted == page.bore.wanted
