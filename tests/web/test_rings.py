"""Ring and gap gauges on outsides: alone they decide, beside readings they narrow or contradict, all is reported."""

from __future__ import annotations

import re
import uuid
from typing import Any

import pytest
from django.db import transaction
from django.db.utils import IntegrityError
from django.test import Client

from gyrometra.bridge.units import Units
from gyrometra.crib.models import Gauge
from gyrometra.inspection.models import FeatureReading
from gyrometra.jobs.models import Feature
from gyrometra.steps.page import open_page
from gyroplan.assess import FeatureLine
from tests.web.said import flat
from tests.web.test_features import log

pytestmark = pytest.mark.django_db

AT = "/jobs/P~2031~2F14"


def ring(client: Client, side: str, goes: str, *, feature: int | None = None, **more: Any) -> str:
    rim = Feature.objects.get(name="Rim").place if feature is None else feature
    gauge = Gauge.objects.get(name="Gap gauge 110 h9")
    sent = {"client_id": str(uuid.uuid4()), "gauge": gauge.pk, "feature": rim, "side": side, "goes": goes, **more}
    return flat(client.post(f"{AT}/ring/", sent, headers={"HX-Request": "true"}))


def size() -> FeatureLine:
    page = open_page("P 31/14", Units())
    rim = next(one for one in page.assessment.features(1) if one.feature.name == "Rim")
    return next(line for line in rim.lines if line.what == "size")


def narrow() -> None:
    """A gauge whose own error limit stays inside the limits."""
    Gauge.objects.filter(kind="ring").update(range_low_mm="109.916", range_high_mm="109.998")


def test_rings_alone_decide(corin: Client) -> None:
    assert "Gap gauge 110 h9" in flat(corin.get(f"{AT}/check/?at=features"))
    narrow()
    said = ring(corin, "go", "yes")
    assert "at most 109.999" in said
    assert "Rings alone leave it open" in said, "nothing says yet that it is not smaller"
    said = ring(corin, "no-go", "no")
    assert "at least 109.915, at most 109.999" in said
    assert size().word == "in"
    assert "go side goes" in said
    assert "no-go side does not go" in said
    report = flat(corin.get(f"{AT}/report/"))
    assert "109.915 to 109.999" in report
    assert "R-110" in report, "the gauge with its serial number"


@pytest.mark.parametrize(("side", "goes", "found"), [("go", "no", "metal-left"), ("no-go", "yes", "over")])
def test_an_outside_shrinks_as_it_is_cut(corin: Client, side: str, goes: str, found: str) -> None:
    Gauge.objects.filter(kind="ring").update(range_low_mm="109.911", range_high_mm="110.002")
    ring(corin, side, goes)
    assert size().word == found


def test_rings_that_contradict_each_other_or_a_reading_are_named(corin: Client) -> None:
    narrow()
    ring(corin, "go", "no")
    assert "cannot both be true" in ring(corin, "no-go", "yes")
    assert size().word == "not-proven"
    for row in FeatureReading.objects.filter(side__gt=""):
        corin.post(f"{AT}/take-back/check/", {
            "client_id": str(uuid.uuid4()), "undo": str(row.client_id), "what": "feature"})  # fmt: skip
    assert size().bounds is None
    micrometer = Gauge.objects.get(name="Outside micrometer 100-125").pk
    log(corin, size_place(), "109.960", gauge=micrometer)
    assert size().word == "in"
    said = ring(corin, "go", "no")
    assert "cannot both be true" in said
    assert size().word == "not-proven"


def size_place() -> int:
    return Feature.objects.get(name="Rim").place


def test_a_ring_proves_what_a_reading_leaves_open(corin: Client) -> None:
    narrow()
    micrometer = Gauge.objects.get(name="Outside micrometer 100-125").pk
    log(corin, size_place(), "109.998", gauge=micrometer)
    assert size().word == "not-proven", "too near the limit for this micrometer"
    ring(corin, "go", "yes")
    assert size().word == "in"


def test_a_worn_go_side_counts_and_one_tap_is_one_entry(corin: Client) -> None:
    narrow()
    Gauge.objects.filter(kind="ring").update(correction_mm="0.003", error_limit_mm=0)
    same = str(uuid.uuid4())
    for _ in range(2):
        ring(corin, "go", "yes", client_id=same)
    assert FeatureReading.objects.filter(side="go").count() == 1
    bounds = size().bounds
    assert bounds is not None
    assert bounds.at_most_mm == pytest.approx(110.001)
    assert size().word == "incomplete"


def test_what_is_wrong_is_said_or_refused(corin: Client) -> None:
    face = Feature.objects.get(name="Oil relief").place
    assert "not in this job any more" in ring(corin, "go", "yes", feature=face)
    assert FeatureReading.objects.filter(side__gt="").count() == 0
    plug = Gauge.objects.filter(kind="plug").first()
    assert plug is not None
    ring(corin, "go", "yes", gauge=plug.pk)
    ring(corin, "side", "yes")
    assert FeatureReading.objects.filter(side__gt="").count() == 0
    ring(corin, "go", "yes")
    row = FeatureReading.objects.get(side="go")
    row.pk, row.client_id, row.what = None, uuid.uuid4(), "runout"
    with pytest.raises(IntegrityError), transaction.atomic():
        row.save()


def test_a_ring_stands_in_no_list_of_gauges_that_read(corin: Client) -> None:
    page = flat(corin.get(f"{AT}/check/?at=features"))
    listed = re.findall(r"<option[^>]*>([^<]+)</option>", page)
    assert listed
    assert "Gap gauge 110 h9" not in listed
