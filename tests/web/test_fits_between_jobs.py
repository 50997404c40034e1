"""Two parts that must suit each other: a shaft to a seat that was measured, a bore to a shaft that was measured."""

from __future__ import annotations

import pytest
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext

from gyrometra.bridge.units import Units
from gyrometra.jobs.models import Bore, Bush, Feature
from gyrometra.steps.page import open_page
from tests.web.said import flat
from tests.web.test_features import address, gauge, log
from tests.web.test_places import HX, bush, measure, save, shown

MM = Units("mm")
SHAFT = {"kind": "shaft", "least_mm": "-0.060", "most_mm": "-0.020", "length_mm": "30", "material": "steel",
         "put_in": "press", "blank_outside_mm": "", "unit": "mm"}  # fmt: skip


def shaft(client: Client, **fields: str) -> str:
    return flat(client.post("/jobs/Q-228/bush/", {**SHAFT, **fields}, headers=HX))


def made_shaft(client: Client) -> str:
    shaft(client)
    client.post("/jobs/Q-228/bush/make/", {"unit": "mm"})
    job = Bush.objects.get(seat__setup__job__number="Q-228").job
    assert job is not None
    return job.number


def test_a_running_shaft_has_no_bore_and_no_press(corin: Client) -> None:
    said = shaft(corin)
    assert "Shaft outside, on diameter" in said
    assert "61.970 to 61.980" in said, "62.030 - 0.060 to 62.000 - 0.020"
    assert "Clearance, least, on diameter" in said
    assert "goes in by hand" in said
    assert "Press force" not in said
    assert "Bore in place" not in said
    kept = Bush.objects.get(seat__setup__job__number="Q-228")
    assert (kept.kind, kept.finish_lower_mm, kept.finish) == ("shaft", None, "")
    assert "Press force, at most" in shaft(corin, least_mm="0.03", most_mm="0.08")
    assert "Heat the hub to" in shaft(corin, least_mm="0.03", most_mm="0.08", put_in="heat")
    assert "Cool the shaft to" in shaft(corin, least_mm="0.03", most_mm="0.08", put_in="cool")
    assert "must be over 62.0" in shaft(corin, least_mm="0.03", most_mm="0.08", blank_outside_mm="50")
    assert "the seat with its uncertainty takes" in shaft(corin, least_mm="-0.04")


def test_a_shaft_by_class_is_the_class_in_this_seat(corin: Client) -> None:
    """62 f7 is -0.030 / -0.060 (ISO 286-1:2010): so much under the seat at its limits, 62.000 to 62.030."""
    shaft(corin, fit_class="f7", least_mm="", most_mm="")
    kept = Bush.objects.get(seat__setup__job__number="Q-228")
    assert (float(kept.least_mm), float(kept.most_mm)) == pytest.approx((61.940 - 62.030, 61.970 - 62.000))


def test_a_shaft_keeps_nothing_of_the_bush_it_was_asked_as_before(corin: Client) -> None:
    bush(corin, flange_mm="6", flange_diameter_mm="80", blank_inside_mm="30")
    number = made_shaft(corin)
    kept = Bush.objects.get(job__number=number)
    assert (kept.flange_mm, kept.blank_inside_mm, float(kept.leave_mm)) == (None, None, 0.0)
    assert [length for length, _ in open_page(number, MM).bore.outside_mm] == [30.0]


def test_a_shaft_becomes_a_job_without_a_cut_bore(corin: Client) -> None:
    number = made_shaft(corin)
    page = open_page(number, MM)
    assert page.record.setup.only_trued
    outside = Feature.objects.get(setup__job__number=number)
    assert (outside.kind, float(outside.lower_mm or 0), float(outside.upper_mm or 0)) == ("outside", 61.97, 61.98)
    assert 'Made to suit <a href="/jobs/Q-228/bush/' in flat(corin.get(f"/jobs/{address(number)}/work/"))
    measure(corin, 62.018)
    own = flat(corin.get(f"/jobs/{address(number)}/work/"))
    assert "The seat was measured anew" in own
    kept = Bush.objects.get(job__number=number)
    unsure = max(one.expanded_mm for one in open_page("Q-228", MM).judged.places)
    assert float(kept.now_lower_mm or 0) == pytest.approx(62.018 + unsure - 0.060, abs=1e-6)
    assert float(kept.now_upper_mm or 0) == pytest.approx(62.018 - unsure - 0.020, abs=1e-6)
    corin.post("/jobs/Q-228/bush/make/", {"unit": "mm"})
    assert "measured anew" not in flat(corin.get(f"/jobs/{address(number)}/work/"))
    said = shaft(corin, most_mm="-0.015")
    assert "Take the new limits over" in said, "another fit moves its limits too"
    assert "measured anew" in flat(corin.get(f"/jobs/{address(number)}/work/"))
    assert "makes a shaft" in bush(corin, kind="bush"), "its job is made: it stays a shaft"
    with CaptureQueriesContext(connection) as queries:
        corin.get(f"/jobs/{address(number)}/work/", headers=HX)
    assert len(queries) <= 12


def test_a_bore_is_made_to_suit_a_shaft_that_was_measured_elsewhere(corin: Client) -> None:
    feature = Feature.objects.get(setup__job__number="P 31/14", name="Rim")
    log(corin, feature.place, "109.962", gauge=gauge("Outside micrometer 100-125"))
    feature.refresh_from_db()
    assert float(feature.found_mm or 0) == pytest.approx(109.962, abs=0.02)
    text = flat(corin.get("/jobs/Q-223/work/?at=fit", headers=HX))
    assert f"P 31/14, {feature.name} Ø{feature.found_mm:.3f}" in text
    save(corin, "Q-223", "bore", **{**shown(corin, "Q-223", "bore"), "wanted": "90 H7"})
    fields = {**shown(corin, "Q-223", "fit"), "mate_feature": str(feature.pk)}
    save(corin, "Q-223", "fit", **fields)
    bore = Bore.objects.get(setup__job__number="Q-223")
    assert (bore.mate_feature_id, bore.mate_mm) == (feature.pk, feature.found_mm)
    assert "Part, measured in P 31/14:" in flat(corin.get("/jobs/Q-223/work/"))
    log(corin, feature.place, "109.972", gauge=gauge("Outside micrometer 100-125"))
    log(corin, feature.place, "109.972", gauge=gauge("Outside micrometer 100-125"))
    text = flat(corin.get("/jobs/Q-223/work/"))
    assert "Measured anew in P 31/14:" in text
    assert "mating part measured in none to " in flat(corin.get("/jobs/Q-223/work/?at=more"))
    # its readings struck out leave the bore as it is, and Work can still be saved
    Feature.objects.filter(pk=feature.pk).update(found_mm=None)
    assert "no longer; here" in flat(corin.get("/jobs/Q-223/work/"))
    said = save(corin, "Q-223", "bore", **{**shown(corin, "Q-223", "bore"), "runout_limit_mm": "0.025"})
    assert 'class="err"' not in said
    assert Bore.objects.get(pk=bore.pk).mate_feature_id == feature.pk
    Feature.objects.filter(pk=feature.pk).update(found_mm=feature.found_mm + 1)
    # the field cleared takes the new size over; another size typed unties the two
    save(corin, "Q-223", "fit", **{**shown(corin, "Q-223", "fit"), "mate_feature": str(feature.pk), "mate_mm": ""})
    bore.refresh_from_db()
    feature.refresh_from_db()
    assert bore.mate_mm == feature.found_mm
    save(corin, "Q-223", "fit", **{**shown(corin, "Q-223", "fit"), "mate_feature": str(feature.pk), "mate_mm": "109.5"})
    bore.refresh_from_db()
    assert (bore.mate_feature_id, float(bore.mate_mm or 0)) == (None, 109.5)
