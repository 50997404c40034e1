"""Job numbers as shops write them."""

from __future__ import annotations

import uuid
from typing import Any

import pytest
from django.test import Client
from django.urls import reverse
from hypothesis import given
from hypothesis import strategies as st

from gyrometra.bridge.addresses import JOB_NUMBER, JobNumber
from gyrometra.bridge.units import Units
from gyrometra.crib.models import Gauge
from gyrometra.jobs.models import Job
from gyrometra.steps.forms import work_initial
from gyrometra.steps.page import open_page
from tests.web.said import flat

MM = Units("mm")
STEPS = ("work", "bar", "cuts", "true", "bore", "check", "sheet")


def renumbered(client: Client, to: str, number: str = "Q-214") -> Any:
    page = open_page(number, MM)
    shown = {key: value for key, value in work_initial(page.bore_row, MM).items() if value not in (None, False)}
    fields = {**shown, "number": to, "version": page.job.version, "unit": "mm"}
    return client.post(reverse("save-work", args=(number,)), fields, headers={"HX-Request": "true"})


@pytest.mark.parametrize("number", ["P 41/2", "31.7", "24-0815 (rush)", "Å 7#2", "no. 4", "new", "a/../b", "12+3 & 4"])
def test_any_number_has_its_address_and_every_page(corin: Client, dagny: Client, number: str) -> None:
    answer = renumbered(corin, number)
    assert answer.status_code == 200
    address = reverse("step", args=(number, "work"))
    assert answer["HX-Push-Url"] == address
    for step in STEPS:
        assert corin.get(reverse("step", args=(number, step))).status_code == 200
    fields = {"client_id": str(uuid.uuid4()), "value": "71.612", "z": 20, "angle_deg": 0,
              "gauge": Gauge.objects.get(name="Bore gauge 50-100").pk, "source": "typed"}  # fmt: skip
    page = corin.get(reverse("step", args=(number, "check"))).content.decode()
    assert reverse("log-size", args=(number,)) in page
    seen = page.split('name="seen" value="')[1].split('"')[0].replace("&quot;", '"')
    assert corin.post(reverse("log-size", args=(number,)), {**fields, "seen": seen})["X-Entry"].endswith("stored")
    assert number in flat(dagny.get("/")).replace("&amp;", "&")


def test_a_number_stands_once_whatever_its_case(corin: Client) -> None:
    assert "There is already a job Q-219" in flat(renumbered(corin, "q-219"))
    renumbered(corin, "p 31/2  b")
    assert Job.objects.filter(number="p 31/2 b").exists(), "as it was written, its spaces single"
    assert renumbered(corin, "P 31/2 b", "p 31/2 b").status_code == 200, "its own, in other letters"


@pytest.mark.parametrize("wrong", ["~7", "a%2F", "???", "4\u202e2", "- / -"])
def test_what_is_no_number_is_said_in_shop_words(corin: Client, wrong: str) -> None:
    said = flat(renumbered(corin, wrong))
    assert "A job number has letters, figures, spaces" in said
    assert Job.objects.filter(number="Q-214").exists()


def test_an_address_of_no_job_is_not_found(corin: Client) -> None:
    for number in ("~ZZ", "~C3", "%7E2F", "P~2041~2F2"):
        assert corin.get(f"/jobs/{number}/work/").status_code == 404


@given(st.from_regex(JOB_NUMBER, fullmatch=True))
def test_every_number_comes_back_from_its_address(number: str) -> None:
    part = JobNumber().to_url(number)
    assert "/" not in part
    assert JobNumber().to_python(part) == number
