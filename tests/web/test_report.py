"""The inspection report: asked against found from the frozen record, on a page, as PDF, its readings as a file."""

from __future__ import annotations

import csv
import io
import re
from typing import Any

import pytest
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext

from gyrometra.bridge.units import Units
from gyrometra.crib.models import Gauge, Indicator
from gyrometra.jobs.models import Feature
from gyrometra.steps.page import open_page
from gyrometra.steps.report import _ranges
from gyroplan.assess import report_of
from tests.web.said import flat
from tests.web.test_batch_and_sizes import run_of
from tests.web.test_check import log, sign, whole
from tests.web.test_features import log as log_feature
from tests.web.test_plugs import plug

pytestmark = pytest.mark.django_db
REPORT = "/jobs/Q-214/report/"


def rows(text: str) -> list[list[str]]:
    body = text.split('class="reprows"')[1].split("</table>", maxsplit=1)[0]
    return [[re.sub(r"<[^>]+>", " ", cell).strip() for cell in re.findall(r"<td[^>]*>(.*?)</td>", row, re.S)]
            for row in re.findall(r"<tr>(.*?)</tr>", body.split("<tbody>")[1], re.S)]  # fmt: skip


def test_every_limit_is_asked_accepted_and_found(corin: Client) -> None:
    whole(corin, {(120, 0): 72.009, (20, 0): 72.015})
    said = flat(corin.get(REPORT))
    found = rows(said)
    assert [row[1] for row in found[:6]] == ["Size, Ø"] * 6
    assert found[0][2:7] == ["20 deep, 0°", "72.000 to 72.030", "72.004 to 72.026", "72.015", "0.004"]
    names = [row[1] for row in found[6:]]
    assert names == ["Taper over the bore, on Ø", "Roundness, half the ovality", "Run-out (TIR)"]
    # accepted is asked less the uncertainty that stands beside it
    taper = found[6]
    assert float(taper[4].removeprefix("≤ ")) == pytest.approx(
        float(taper[3].removeprefix("≤ ")) - float(taper[6]), abs=0.0011)  # fmt: skip
    assert "G-117" in said
    assert "C-26-041" in said
    assert "1 to 8" in said, "the rows that rest on the gauge"
    assert "Draft, not signed" in said
    assert "In limits</b>" not in said, "no verdict before the signature"


def test_signed_it_is_read_from_what_was_signed(corin: Client, dagny: Client) -> None:
    whole(corin, {})
    sign(dagny)
    before = flat(corin.get(REPORT))
    assert "In limits</b>" in before
    assert "Concessions: none." in before
    assert "dagny" in before.split("Signed, lead")[1]
    digest = re.search(r"Digest ([0-9a-f ]{19})", before)
    assert digest is not None
    Gauge.objects.filter(name="Bore gauge 50-100").update(
        error_limit_mm="0.009", serial="other", certificate="other", due_on=None
    )
    after = flat(corin.get(REPORT))
    assert "G-117" in after, "the gauge as it was when it was signed"
    assert digest[1] in after
    assert rows(after) == rows(before)


def test_a_concession_stands_at_its_row_and_in_the_head(corin: Client, dagny: Client) -> None:
    whole(corin, {(120, 0): 72.045})
    sign(dagny, reason="Owner agrees: looser fit, J. to be told")
    said = flat(corin.get(REPORT))
    assert "Concessions: Owner agrees: looser fit" in said
    assert sum("over, accepted" in row[7] for row in rows(said)) >= 1
    assert "Over</b>" in said, "the large word is the worst row's"


def test_what_was_struck_out_is_said(corin: Client) -> None:
    whole(corin, {})
    log(corin, 72.060, 20)
    corin.post("/jobs/Q-214/take-back/check/", {"what": "size"})
    said = flat(corin.get(REPORT))
    assert re.search(r"corin: 72\.060 at 20, 0°", said)
    assert "Not judged" in said
    table = [row for row in readings(corin) if row["what"] == "size"]
    assert len(table) == 8, "the struck-out one, and what struck it out"
    assert [row["value_mm"] for row in table if row["withdrawn"]] == ["72.06"]
    assert {row["serial"] for row in table} == {"G-117"}


def readings(client: Client, at: str = "Q-214") -> list[dict[str, str]]:
    return list(csv.DictReader(io.StringIO(client.get(f"/jobs/{at}/readings.csv").content.decode())))


def test_every_kind_of_reading_stands_in_the_file(corin: Client) -> None:
    whole(corin, {}, swing=8)
    plug(corin, "no-go", "no")
    swept = [row for row in readings(corin) if row["what"].startswith("run-out round")]
    assert [(row["angle_deg"], row["value_mm"]) for row in swept] == [
        ("0", "0"), ("90", "0.004"), ("180", "0.008"), ("270", "0.004"), ("", "0")]  # fmt: skip
    assert swept[-1]["what"].endswith("back at start")
    assert all(row["what"].startswith("truing round") for row in readings(corin) if row["gauge"].startswith("Indicator")
               and row not in swept)  # fmt: skip
    tried = [row for row in readings(corin) if row["result"] == "does not go"]
    assert [(row["what"], row["value_mm"], row["gauge"]) for row in tried] == [("no-go", "72.03", "Plug 72 H7")]
    rim, band = (Feature.objects.get(name=name).place for name in ("Rim", "Seat band"))
    log_feature(corin, rim, "109.960", gauge=Gauge.objects.get(name="Outside micrometer 100-125").pk)
    log_feature(corin, band, "30.1", what="angle")
    found = {(row["of"], row["what"], row["value_mm"], row["result"]) for row in readings(corin, "P~2031~2F14")}
    assert {("Rim", "size", "109.96", ""), ("Seat band", "angle", "", "30.1 deg")} <= found


def test_a_report_reads_the_same_however_many_bores(corin: Client, django_assert_num_queries: Any) -> None:
    with CaptureQueriesContext(connection) as of_one:
        corin.get("/jobs/Q-221/report/?of=bore")
    with django_assert_num_queries(len(of_one)):
        said = corin.get("/jobs/Q-221/report/?of=piece").content.decode()
    assert said.count('class="reprows"') == 3
    with CaptureQueriesContext(connection) as sheet_of_one:
        corin.get("/jobs/Q-214/sheet/")
    with CaptureQueriesContext(connection) as sheet_of_three:
        corin.get("/jobs/Q-221/sheet/")
    assert len(sheet_of_three) <= len(sheet_of_one) + 1


def test_a_cell_that_is_a_formula_is_text(corin: Client) -> None:
    whole(corin, {})
    Gauge.objects.filter(name="Bore gauge 50-100").update(serial="=1+1")
    assert "'=1+1" in corin.get("/jobs/Q-214/readings.csv").content.decode()


def test_as_a_pdf_it_is_a4(corin: Client) -> None:
    whole(corin, {})
    answer = corin.get("/jobs/Q-214/report.pdf")
    assert answer.content[:5] == b"%PDF-"
    assert answer["Content-Disposition"] == 'inline; filename="report-Q-214.pdf"'


@pytest.mark.parametrize("of", ["bore", "piece", "job", "nonsense"])
@pytest.mark.parametrize("number", ["Q-198", "Q-207", "Q-221", "Q-228"])
def test_of_a_bore_a_piece_and_a_job(corin: Client, number: str, of: str) -> None:
    assert corin.get(f"/jobs/{number}/report/?of={of}").status_code == 200


def test_a_line_has_one_page_a_bore_and_its_line_once(corin: Client) -> None:
    said = flat(corin.get("/jobs/Q-221/report/"))
    assert said.count("Inspection report") == 4, "three bores, and what they come to together"
    assert said.count("Bores in line, Ø") == 1


def test_without_a_size_it_says_so(corin: Client) -> None:
    assert "Nothing is measured yet" in flat(corin.get("/jobs/Q-207/report/?of=job"))
    page = open_page("Q-214", Units())
    assert report_of(page.assessment, 1, 1).rows[0].verdict == "incomplete"


def test_numbers_in_a_row_are_a_range() -> None:
    assert list(_ranges([1, 2, 3, 5, 7, 8])) == ["1 to 3", "5", "7 to 8"]
    assert list(_ranges([])) == []


def test_an_indicator_stands_among_the_gauges_and_past_its_date_proves_nothing(corin: Client) -> None:
    Indicator.objects.filter(name="Indicator 1").update(serial="I-7", certificate="C-26-090")
    whole(corin, {})
    said = flat(corin.get(REPORT))
    assert re.search(r"<td>Indicator 1</td> *<td>I-7</td> *<td>0\.001</td> *<td>C-26-090</td>", said)
    assert open_page("Q-214", Units("mm")).judged.word == "in"
    log_feature(corin, Feature.objects.get(name="Rim").place, "0.01", what="runout",
                indicator=Indicator.objects.get(name="Indicator 1").pk)  # fmt: skip
    assert "I-7" in flat(corin.get("/jobs/P~2031~2F14/report/"))
    Indicator.objects.update(due_on="2020-01-31")
    judged = open_page("Q-214", Units("mm")).judged
    assert (judged.word, [gap.code for gap in judged.missing]) == ("incomplete", ["gauge_overdue"])
    assert "Indicator 1 is past its check date" in flat(corin.get("/jobs/Q-214/check/"))
    assert "Its gauge is past its check date" in flat(corin.get("/jobs/P~2031~2F14/check/?at=features"))


def test_a_batch_has_a_first_page_with_every_piece_and_its_run(corin: Client, dagny: Client) -> None:
    run_of(corin, 55.020, 55.017, 55.014)
    said = flat(corin.get("/jobs/Q-207/report/?of=job"))
    first = said.split('class="sheet report"')[1]
    assert re.findall(r"<td>(Piece \d)</td>", first) == ["Piece 1", "Piece 2", "Piece 3"]
    assert "55.000 to 55.030" in first
    assert first.count("incomplete") == 3, "their run-out is not swept yet"
    assert "Draft, not signed" in first
    assert "0 of 3 bores in limits" in first
    assert "Each piece 0.0030 smaller than the one before" in first
    assert re.search(r"<dt>Together</dt><dd>(No m|M)atch: piece 1 is 0\.006 over piece 3", first)
    assert said.count('class="sheet report"') == 4
    assert corin.get("/jobs/Q-207/report.pdf?of=job").content[:5] == b"%PDF-"
    alone = flat(corin.get("/jobs/Q-207/report/?of=piece&piece=2"))
    assert alone.count('class="sheet report"') == 1, "one bore of one piece says it all on its own page"


def test_a_page_is_no_better_than_the_worst_of_its_rows(corin: Client) -> None:
    """A rim turned too small is told by the word of the page that it stands on."""
    log_feature(corin, Feature.objects.get(name="Rim").place, "109.800",
                gauge=Gauge.objects.get(name="Outside micrometer 100-125").pk)  # fmt: skip
    page = open_page("P 31/14", Units())
    assert page.judged.word == "incomplete", "its bore is not measured"
    assert report_of(page.assessment, 1, 1).word == "over"
