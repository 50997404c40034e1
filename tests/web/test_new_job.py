"""A new job from six answers: what follows for what is not said."""

from __future__ import annotations

from typing import Any

import pytest
from django.test import Client

from gyrometra.accounts.models import User
from gyrometra.bridge.units import Units
from gyrometra.crib.models import Machine
from gyrometra.jobs.models import Job
from gyrometra.steps.page import open_page
from gyrometra.steps.work.begin import follows_from, next_number
from tests.web.said import flat

MM = Units("mm")
SIX = {"part": "Roller housing", "material": "grey iron", "found_d_0": "62.10", "wanted": "65 H7", "length_mm": "85"}


def six(machine: str = "Lathe 3", **more: Any) -> dict[str, Any]:
    return {**SIX, "machine": Machine.objects.get(name=machine).pk, **more}


@pytest.mark.parametrize(("newest", "following"), [
    ("Q-231", "Q-232"), ("P 31/19", "P 31/20"), ("0099", "0100"), ("7b", "8b"), ("rush", ""),
])  # fmt: skip
def test_the_number_counts_on(db: None, newest: str, following: str) -> None:
    Job.objects.filter(pk=Job.objects.order_by("-pk")[0].pk).update(number=newest)
    assert next_number() == following


def test_a_number_that_is_taken_is_passed_over(db: None) -> None:
    first, second = Job.objects.order_by("-pk")[:2]
    Job.objects.filter(pk=second.pk).update(number="q-301")
    Job.objects.filter(pk=first.pk).update(number="Q-300")
    assert next_number() == "Q-302"


def test_six_answers_make_a_job(corin: Client) -> None:
    answer = corin.post("/jobs/new/", six())
    assert answer.status_code == 302
    job = Job.objects.order_by("-pk")[0]
    bore = job.setup.bores.get()
    assert (job.part, job.quantity, job.setup.machine.name) == ("Roller housing", 1, "Lathe 3")
    assert job.setup.method in ("lathe-bar", "centres")
    assert float(bore.runout_limit_mm) == 0.03, "no closer than the tolerance, where nothing is said"
    assert [(float(one.z_mm), float(one.diameter_mm)) for one in bore.found.all()] == [(0, 62.1)]


def test_the_method_is_that_of_the_last_job_there(corin: Client) -> None:
    borer = Machine.objects.get(name="Borer 1")
    found = follows_from(borer)
    assert found is not None
    assert found.from_last
    fresh = Machine.objects.create(name="Mill 9", kind=Machine.Kind.MILL)
    able = follows_from(fresh)
    assert able is not None
    assert (able.method, able.reference, able.from_last) == ("head", "old-bore", False)
    assert follows_from(None) is None


def test_the_last_choices_are_offered(corin: Client) -> None:
    corin.post("/jobs/new/", six("Lathe 2", material="bronze"))
    page = flat(corin.get("/jobs/new/"))
    lathe = Machine.objects.get(name="Lathe 2")
    assert f'<option value="{lathe.pk}" selected>Lathe 2' in page
    assert '<option value="bronze" selected>' in page


@pytest.mark.parametrize(("left_out", "said"), [
    ((), ["2.915", "1.458 on radius", "2 rough, 1 test, 2 finish", "110"]),
    (("length_mm",), ["2.915", "Missing:</b> the length"]),
    (("part",), ["2.915", "110"]),
    (("wanted",), ["Missing:</b> finished size"]),
    (("found_d_0", "length_mm"), ["Missing:"]),
])  # fmt: skip
def test_what_the_answers_come_to_so_far(corin: Client, left_out: tuple[str, ...], said: list[str]) -> None:
    before = Job.objects.count()
    answer = corin.post("/jobs/new/look/", {name: value for name, value in six().items() if name not in left_out})
    text = flat(answer)
    for words in said:
        assert words in text
    assert "is missing" not in text, "what is not given yet is no fault"
    assert Job.objects.count() == before


def test_an_inch_user_gets_inches(corin: Client) -> None:
    User.objects.filter(username="corin").update(unit="in")
    text = flat(corin.post("/jobs/new/look/", six(found_d_0="2.445", wanted="2.5590 +0.0012/0", length_mm="3 1/4")))
    assert "0.1146" in text
    assert "3.25" in text or "3.250" in text


def test_in_an_empty_shop_the_page_says_what_is_needed(corin: Client) -> None:
    Machine.objects.update(retired=True)
    text = flat(corin.get("/jobs/new/"))
    assert "A job needs a machine" in text
    assert corin.post("/jobs/new/look/", SIX).status_code == 200


@pytest.mark.parametrize("wrong", [
    {"machine": "x"}, {"machine": "9" * 40}, {"wanted": "\0"}, {"length_mm": "abc"}, {"found_d_0": "-3"},
    {"number": "~"},
])  # fmt: skip
def test_nonsense_is_answered(corin: Client, wrong: dict[str, str]) -> None:
    assert corin.post("/jobs/new/look/", {**six(), **wrong}).status_code == 200
    assert corin.post("/jobs/new/", {**six(), **wrong}).status_code in (200, 302)


def test_a_job_is_copied_as_planned_and_not_as_found(corin: Client) -> None:
    before = open_page("Q-214", MM)
    answer = corin.post("/jobs/Q-214/copy/", {"unit": "mm"})
    made = open_page(Job.objects.order_by("-pk")[0].number, MM)
    assert answer.url == f"/jobs/{made.job.number}/work/"  # type: ignore[attr-defined]
    assert (made.job.part, made.job.due_on, made.job.made_by.username) == (before.job.part, None, "corin")
    same = ("machine", "method", "reference")
    assert [getattr(made.record.setup, name) for name in same] == [getattr(before.record.setup, name) for name in same]
    assert (made.at.bar, made.at.cutter, made.at.plan.rough_depth_mm) == (
        before.at.bar, before.at.cutter, before.at.plan.rough_depth_mm)  # fmt: skip
    assert (made.bore.upper_mm, made.bore.outside_mm, made.bore.found_mm) == (
        before.bore.upper_mm, before.bore.outside_mm, ())  # fmt: skip
    assert made.record.sizes == made.record.cuts == made.record.rounds == ()
    assert open_page("Q-214", MM).record == before.record, "the first is as it was"
    for step in ("work", "bar", "cuts", "true", "bore", "check", "sheet"):
        assert corin.get(f"/jobs/{made.job.number}/{step}/").status_code == 200


def test_a_signed_job_is_copied_too_and_its_line_of_bores(dagny: Client) -> None:
    for number in ("Q-198", "Q-221"):
        dagny.post(f"/jobs/{number}/copy/", {"unit": "mm"})
        made, first = (Job.objects.order_by("-pk")[0], Job.objects.get(number=number))
        assert [bore.name for bore in made.setup.bores.all()] == [bore.name for bore in first.setup.bores.all()]
        assert not hasattr(made, "signoff")


def test_a_lead_takes_a_closed_job_up_again(corin: Client, dagny: Client) -> None:
    def post(client: Client, what: str) -> str:
        fields = {"version": Job.objects.get(number="Q-230").version, "reason": "cracked", "unit": "mm"}
        return flat(client.post(f"/jobs/Q-230/{what}/", fields, headers={"HX-Request": "true"}))

    assert "A lead can reopen it" in post(corin, "close")
    assert "Only a lead takes a closed job up again" in post(corin, "reopen")
    assert Job.objects.get(number="Q-230").closed_reason == "cracked"
    post(dagny, "reopen")
    assert Job.objects.get(number="Q-230").closed_reason == ""


def test_notes_stand_on_work_and_on_the_sheet_and_go_with_a_copy(corin: Client) -> None:
    corin.post("/jobs/new/", six(number="N-1", notes="  The customer brings\nthe pin: fit it to that. "))
    words = "The customer brings the pin: fit it to that."
    assert words in flat(corin.get("/jobs/N-1/work/"))
    assert words in flat(corin.get("/jobs/N-1/sheet/"))
    corin.post("/jobs/N-1/copy/", {"unit": "mm"})
    assert Job.objects.get(number="N-2").notes == words
    assert "600" in flat(corin.post("/jobs/new/", six(number="N-3", notes="x" * 700)))
