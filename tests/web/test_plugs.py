"""Go and no-go: plugs alone decide the size, beside sizes they must agree, both are frozen and reported."""

from __future__ import annotations

import uuid
from typing import Any

import pytest
from django.db import connection, transaction
from django.db.utils import DatabaseError
from django.test import Client

from gyrometra.bridge.units import Units
from gyrometra.crib.models import Gauge
from gyrometra.inspection.models import PlugReading
from gyrometra.jobs.models import Bore
from gyrometra.steps.page import open_page
from tests.web.said import flat
from tests.web.test_check import log, sign, sweep, whole

pytestmark = pytest.mark.django_db


def plug(client: Client, side: str, goes: str, **more: Any) -> str:
    gauge = Gauge.objects.get(name="Plug 72 H7")
    sent = {"client_id": str(uuid.uuid4()), "gauge": gauge.pk, "side": side, "goes": goes, **more}
    return flat(client.post("/jobs/Q-214/plug/", sent, headers={"HX-Request": "true"}))


def only_size() -> None:
    Bore.objects.filter(setup__job__number="Q-214").update(taper_limit_mm=None, roundness_limit_mm=None)


def word() -> str:
    return open_page("Q-214", Units()).judged.word


def test_plugs_alone_decide(corin: Client) -> None:
    only_size()
    assert "Plug 72 H7" in flat(corin.get("/jobs/Q-214/check/")), "a plug of the crib that fits these limits"
    plug(corin, "go", "yes")
    assert word() == "incomplete", "nothing says yet that it is not larger"
    said = plug(corin, "no-go", "no")
    assert "the bore is at least 71.999, at most 72.031" in said
    # the plug's own error limit lies outside the limits: not proven, never in
    assert word() == "incomplete"
    sweep(corin, 6)
    assert word() == "not-proven"
    Gauge.objects.filter(name="Plug 72 H7").update(range_low_mm="72.002", range_high_mm="72.028")
    for side in ("no-go", "go"):
        corin.post("/jobs/Q-214/take-back/check/", {"what": "plug"})
        assert PlugReading.objects.standing().filter(side=side).count() == 0
    plug(corin, "go", "yes")
    said = plug(corin, "no-go", "no")
    assert word() == "in"
    assert "By plugs: at least 72.001, at most 72.029" in said


@pytest.mark.parametrize(("side", "goes", "found"), [("go", "no", "metal-left"), ("no-go", "yes", "over")])
def test_what_a_plug_says_of_a_bore_that_is_out(corin: Client, side: str, goes: str, found: str) -> None:
    only_size()
    Gauge.objects.filter(name="Plug 72 H7").update(range_low_mm="71.990", range_high_mm="72.040")
    plug(corin, side, goes)
    assert word() == found


def test_form_that_is_asked_is_not_seen_by_a_plug(corin: Client) -> None:
    Gauge.objects.filter(name="Plug 72 H7").update(range_low_mm="72.002", range_high_mm="72.028")
    plug(corin, "go", "yes")
    said = plug(corin, "no-go", "no")
    assert word() == "incomplete"
    assert "taper: a plug does not see it, read sizes" in said


def test_a_plug_and_sizes_that_cannot_both_be_true(corin: Client) -> None:
    whole(corin, {})
    assert word() == "in"
    said = plug(corin, "go", "no")
    assert word() == "incomplete"
    assert "cannot both be true" in said
    corin.post("/jobs/Q-214/take-back/check/", {"what": "plug"})
    assert word() == "in"
    plug(corin, "go", "yes")
    assert word() == "in", "they agree"


def test_a_double_tap_is_one_trial_and_the_log_stays(corin: Client) -> None:
    same = str(uuid.uuid4())
    for _ in range(2):
        plug(corin, "go", "yes", client_id=same)
    assert PlugReading.objects.count() == 1
    with pytest.raises(DatabaseError, match="append-only"), transaction.atomic(), connection.cursor() as cursor:
        cursor.execute("UPDATE inspection_plugreading SET goes = false")
    assert "Type the size" not in plug(corin, "sideways", "yes")
    assert PlugReading.objects.count() == 1


def test_signed_and_reported(corin: Client, dagny: Client) -> None:
    only_size()
    Gauge.objects.filter(name="Plug 72 H7").update(range_low_mm="72.002", range_high_mm="72.028")
    plug(corin, "go", "yes")
    plug(corin, "no-go", "no")
    sweep(corin, 6)
    sign(dagny)
    said = flat(corin.get("/jobs/Q-214/report/"))
    assert "Size, go and no-go" in said
    assert "72.001 to 72.029" in said
    assert "P-072" in said
    assert "In limits</b>" in said
    assert "Nothing" not in plug(corin, "go", "no")
    assert PlugReading.objects.count() == 2, "nothing is logged after the signature"


def test_a_plug_is_no_gauge_for_sizes(corin: Client) -> None:
    assert not Gauge.objects.measuring(72).filter(kind="plug").exists()
    with pytest.raises(Gauge.DoesNotExist):
        log(corin, 72.01, 20, gauge="Plug 999")
