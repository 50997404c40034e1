"""The bench grown up: calendar, search, pages of many jobs, and work that rests."""

import uuid
from datetime import date, timedelta
from typing import Any

import pytest
from django.test import Client
from django.utils import timezone

from gyrometra.bench.calendar import calendar
from gyrometra.bench.strips import PAGE
from gyrometra.bridge.units import Units
from gyrometra.crib.models import Gauge, Machine
from gyrometra.jobs.models import Job, Plan
from gyrometra.steps import progress_words
from gyrometra.steps.forms import CutsForm
from gyrometra.steps.page import open_page
from tests.web.test_bad_input import plan_of, work_of
from tests.web.test_passes import ALL_GUARDS

MM = Units()


def numbers(text: str) -> list[str]:
    return [part.split("</b>")[0] for part in text.split('<span class="who"><b>')[1:]]


@pytest.mark.parametrize(
    ("typed", "found"),
    [
        ("q-22", {"Q-221", "Q-223", "Q-225", "Q-228"}),
        ("carousel", {"Q-221", "Q-223", "P 31/8"}),
        ("carousel iron", {"Q-221", "P 31/8"}),
        ("mill", {"Q-228", "Q-233", "P 31/16"}),
        ("borer", {"Q-207", "P 31/2"}),
        ("p 31/", {"P 31/2", "P 31/4", "P 31/6", "P 31/8", "P 31/10", "P 31/12", "P 31/14", "P 31/16", "P 31/18"}),
        ("nothing like it", set()),
    ],
)
def test_jobs_are_found_by_what_is_written_on_them(corin: Client, typed: str, found: set[str]) -> None:
    text = corin.get("/", {"q": typed}, headers={"HX-Request": "true"}).content.decode()
    assert set(numbers(text)) == found
    assert "<html" not in text
    assert ("No job has" in text) is (not found)


def test_many_jobs_come_in_pages_with_the_signed_last(corin: Client, django_assert_num_queries: Any) -> None:
    fields = work_of("Q-214")
    for n in range(PAGE + 5):
        corin.post("/jobs/new/", {**fields, "number": f"X-{n:02}"})
    with django_assert_num_queries(13):
        first = corin.get("/").content.decode()
    assert len(numbers(first)) == PAGE
    assert numbers(first)[0] == f"X-{PAGE + 4:02}"
    assert 'class="strips dense"' in first
    second = corin.get("/?page=2").content.decode()
    last = numbers(corin.get("/?page=99").content.decode())
    assert last[-1] == "Q-198", "signed"
    assert not set(numbers(first)) & set(numbers(second))
    assert not set(numbers(first)) & set(last)
    assert corin.get("/?page=x").status_code == 200


def test_the_calendar_shows_what_rests_and_what_is_due(db: None) -> None:
    found = calendar(timezone.localdate())
    assert found is not None
    words = [shape.text for shape in found.scenes[0][1].shapes if shape.kind == "text"]
    assert any(word.startswith("Q-225 Orchard crusher roll, ") and word.endswith("12 days") for word in words)
    assert any(
        word.startswith("Bore gauge 18-35, was due") and word.endswith("Take it off the bench") for word in words
    )
    assert any(word.startswith("Inside micrometer 50-75, ") and word.endswith("2 days") for word in words)
    assert not any("Bore gauge 35-60" in word for word in words), "due in 40 days"


def test_an_empty_calendar_is_not_drawn(db: None) -> None:
    Gauge.objects.update(due_on=None)
    Machine.objects.update(retired=True)
    Plan.objects.filter(setup__job__signoff=None).update(rest_until=None)
    assert calendar(timezone.localdate()) is None


def test_more_than_fits_is_counted(db: None) -> None:
    Gauge.objects.update(due_on=timezone.localdate() + timedelta(days=3))
    Machine.objects.update(retired=True)
    for n in range(8):
        gauge = Gauge.objects.all()[0]
        gauge.pk, gauge.name, gauge._state.adding = None, f"Gauge {n}", True
        gauge.save()
    found = calendar(timezone.localdate())
    assert found is not None
    assert found.more == Gauge.objects.count() - 6


# ---------------------------------------------------------------- rest between roughing and finishing


def test_finishing_waits_until_the_work_has_rested(corin: Client) -> None:
    job = Job.objects.get(number="Q-225")
    assert job.stations["next"]["code"] == "settling"
    text = corin.get("/jobs/Q-225/bore/?to=set").content.decode()
    assert "settling till" in text
    assert 'id="set-pass"' not in text
    refused = corin.post(
        "/jobs/Q-225/cut/set/", {"client_id": str(uuid.uuid4()), "number": 4, "guard": ALL_GUARDS}, follow=True
    ).content.decode()
    assert "Roughed work still rests" in refused
    assert open_page("Q-225", MM).boring.rests_until is not None
    Plan.objects.filter(setup__job=job).update(rest_until=timezone.localdate())
    assert open_page("Q-225", MM).boring.rests_until is None
    assert 'id="set-pass"' in corin.get("/jobs/Q-225/bore/?to=set").content.decode()


def test_a_rest_that_has_ended_is_said_without_a_change(db: None) -> None:
    today = timezone.localdate()
    for day, words in ((today + timedelta(days=1), "Settling till"), (today, "Rested: finish it now")):
        found = {"step": "bore", "code": "settling", "values": {"day": day.isoformat()}}
        assert progress_words.next_words(found, MM)["words"] == words


def test_a_rest_past_the_due_date_is_refused(corin: Client) -> None:
    due: date = Job.objects.get(number="Q-225").due_on or timezone.localdate()
    late = due + timedelta(days=1)
    fields = {**plan_of("Q-225", CutsForm), "rest_until": late.isoformat()}
    text = corin.post("/jobs/Q-225/save/cuts/", fields).content.decode()
    assert f"but the work is due {due:%d %b %Y}" in text
    assert late.isoformat() in text, "what was typed is kept"
    assert open_page("Q-225", MM).job.setup.plan.rest_until != late
