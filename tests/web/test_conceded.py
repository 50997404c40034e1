"""Accepted limit by limit, each with its reason; a signature taken back with a reason, and kept."""

import re
from typing import Any

import pytest
from django.db import DatabaseError, connection, transaction
from django.test import Client

from gyrometra.bridge.units import Units
from gyrometra.jobs.models import Job, PastSignOff, SignOff
from gyrometra.steps.page import open_page
from gyroplan.assess import not_in_limits
from tests.web.said import flat
from tests.web.test_check import MM, log, sign, whole

#: The size at one place over, and the taper with it.
OVER = {(20, 0): 72.045, (20, 90): 72.045}


def keys() -> dict[str, str]:
    return {one.what: one.key for one in not_in_limits(open_page("Q-214", MM).assessment)}


def reopen(client: Client, why: str, signed: int | None = None) -> str:
    pk = SignOff.objects.get(job__number="Q-214").pk if signed is None else signed
    return flat(client.post("/jobs/Q-214/sign/reopen/", {"signed": pk, "why": why}, headers={"HX-Request": "true"}))


def test_each_limit_has_its_own_reason(dagny: Client) -> None:
    whole(dagny, OVER, swing=40)
    found = not_in_limits(open_page("Q-214", MM).assessment)
    assert [(one.what, one.verdict, one.of) for one in found] == [
        ("size", "over", ""), ("taper", "over", ""), ("runout", "over", ""),
    ]  # fmt: skip
    assert found[0].found_mm == pytest.approx(72.045, abs=1e-6), "the worst place speaks"
    page = flat(dagny.get("/jobs/Q-214/check/"))
    assert "3 limits: a reason of its own for each" in page
    assert "Size, Ø 72.045, over (72.000 to 72.030)" in page.replace("72.0450", "72.045").replace("0000", "000")
    known = keys()
    refused = sign(dagny, **{f"because-{known['size']}": "ring is 72.02 after lapping"})
    assert "give the reason" in refused
    assert not SignOff.objects.filter(job__number="Q-214").exists()
    assert "ring is 72.02 after lapping" in refused, "nothing typed is lost"
    sign(dagny, reason="customer knows, note 7", **{f"because-{known['size']}": "ring is 72.02 after lapping"})
    kept = SignOff.objects.get(job__number="Q-214").verdict["concessions"]
    assert [(one["what"], one["reason"]) for one in kept] == [
        ("size", "ring is 72.02 after lapping"), ("taper", "customer knows, note 7"),
        ("runout", "customer knows, note 7"),
    ]  # fmt: skip
    report = flat(dagny.get("/jobs/Q-214/report/"))
    assert "Because: ring is 72.02 after lapping" in report
    assert re.search(r"Taper over the bore, on Ø 0\.046, over \(at most", report)
    assert report.count("Because: customer knows, note 7") == 1, "limits accepted alike stand together"
    assert "Because: ring is 72.02" in flat(dagny.get("/jobs/Q-214/sheet/"))


def test_nothing_is_conceded_in_limits(dagny: Client) -> None:
    whole(dagny, {})
    assert not_in_limits(open_page("Q-214", MM).assessment) == ()
    sign(dagny)
    assert SignOff.objects.get(job__number="Q-214").verdict["concessions"] == []


def test_an_inch_reader_reads_inches(dagny: Client) -> None:
    whole(dagny, OVER)
    inch = Units("in")
    page = open_page("Q-214", inch)
    dagny.post("/unit/", {"unit": "in", "next": "/jobs/Q-214/check/"})
    shown = flat(dagny.get("/jobs/Q-214/check/"))
    assert f"Size, Ø {inch.planned(72.045)}, over" in shown
    assert page.units.label == "in"


def test_a_signature_is_taken_back_with_a_reason_and_kept(dagny: Client, corin: Client) -> None:
    whole(dagny, {})
    sign(dagny)
    first = SignOff.objects.get(job__number="Q-214")
    assert "Only a lead" in reopen(corin, "mine")
    assert "Why is it reopened?" in reopen(dagny, "  ")
    assert SignOff.objects.filter(pk=first.pk).exists()
    shown = reopen(dagny, "gauge found 0.01 off after a knock")
    assert "Signed before: In limits, by dagny" in shown
    assert "gauge found 0.01 off after a knock" in shown
    past = PastSignOff.objects.get(job__number="Q-214")
    assert (past.at, past.verdict, past.record) == (first.at, first.verdict, first.record)
    assert not hasattr(Job.objects.get(number="Q-214"), "signoff")
    assert "not signed so any more" in reopen(dagny, "once more", signed=first.pk), "a double tap says so"
    log(dagny, 72.012, 70)
    sign(dagny)
    again = SignOff.objects.get(job__number="Q-214")
    assert again.pk != first.pk
    assert "Signed before" in flat(dagny.get("/jobs/Q-214/report/"))
    assert "reopened: gauge found" in flat(dagny.get("/jobs/Q-214/work/?at=more"))


def test_the_database_lets_no_signature_go_without_its_copy(dagny: Client) -> None:
    whole(dagny, {})
    sign(dagny)
    row = SignOff.objects.get(job__number="Q-214")

    def gone() -> Any:
        with transaction.atomic(), connection.cursor() as cursor:
            cursor.execute("DELETE FROM jobs_signoff WHERE id = %s", [row.pk])

    with pytest.raises(DatabaseError, match="append-only"):
        gone()
    PastSignOff.objects.create(
        job=row.job, by=row.by, at=row.at, verdict={**row.verdict, "word": "over"}, record=row.record,
        calculations=row.calculations, reopened_by=row.by, reason="another verdict than was signed",
    )  # fmt: skip
    with pytest.raises(DatabaseError, match="append-only"):
        gone()


def test_every_way_forward_of_a_bore_that_is_over(dagny: Client) -> None:
    """Measure again, fit the part, the next size, a bush, concession, another blank; never cut or hone."""
    whole(dagny, OVER)
    shown = flat(dagny.get("/jobs/Q-214/check/"))
    for way in ("Measure again", "Fit the mating part to it", "Next size", "Bush or sleeve", "Accept by concession",
                "Start again"):  # fmt: skip
        assert f"<b>{way}" in shown
    assert "no: both make it larger" in shown
    assert 'href="/jobs/Q-214/bush/"' in shown
    assert dagny.get("/jobs/Q-214/bush/").status_code == 200
    before = Job.objects.count()
    again = dagny.post("/jobs/Q-214/copy/", {"unit": "mm"})
    assert Job.objects.count() == before + 1
    made = Job.objects.get(number=again.headers["Location"].split("/")[2])
    assert open_page(made.number, MM).judged.word == "incomplete", "another blank, measured anew"
    assert open_page("Q-214", MM).judged.word == "over", "this record stays"


def test_metal_left_is_cut_honed_or_conceded(dagny: Client) -> None:
    whole(dagny, {(z, angle): 71.9 for z in (20, 70, 120) for angle in (0, 90)})
    shown = flat(dagny.get("/jobs/Q-214/check/"))
    assert "<b>Finish cut</b> <span>0.115 on diameter" in shown
    assert "<b>Hone</b>" in shown
    assert "Make a bush" not in shown


def test_the_report_of_a_signature_that_was_taken_back_can_be_printed_again(corin: Client, dagny: Client) -> None:
    whole(corin, {})
    sign(dagny)
    first = flat(corin.get("/jobs/Q-214/report/"))
    reopen(dagny, "gauge found 0.01 off")
    key = PastSignOff.objects.get().pk
    log(corin, 72.029, 20)
    assert f"/jobs/Q-214/report/?signed={key}" in flat(corin.get("/jobs/Q-214/check/"))
    now, then = (flat(corin.get(f"/jobs/Q-214/report/{query}")) for query in ("", f"?signed={key}"))
    digest = re.compile(r"Digest ([0-9a-f ]{19})")
    assert digest.findall(then) == digest.findall(first) != digest.findall(now)
    assert "In limits</b>" in then
    assert "Signed then, and reopened since" in then
    assert "Reopened since" in then
    assert "gauge found 0.01 off" in then
    assert "Draft, not signed" in now
    assert f"report.pdf?of=piece&amp;signed={key}" in then.replace("&signed", "&amp;signed")
    assert corin.get(f"/jobs/Q-214/report.pdf?signed={key}").content[:5] == b"%PDF-"
    assert not SignOff.objects.filter(job__number="Q-214").exists(), "looked at, not signed again"
    for wrong in (f"signed={key + 1}", "signed=x", "signed=²"):
        assert corin.get(f"/jobs/Q-214/report/?{wrong}").status_code == 404
    assert corin.get(f"/jobs/Q-219/report/?signed={key}").status_code == 404, "another job's"
