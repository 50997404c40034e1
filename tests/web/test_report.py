"""The inspection report: asked against found from the frozen record, on a page, as PDF, its readings as a file."""

from __future__ import annotations

import csv
import io
import re

import pytest
from django.test import Client

from gyrometra.bridge.units import Units
from gyrometra.crib.models import Gauge
from gyrometra.steps.page import open_page
from gyrometra.steps.report import _ranges
from gyroplan.assess import report_of
from tests.web.said import flat
from tests.web.test_check import log, sign, whole

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
    table = list(csv.DictReader(io.StringIO(corin.get("/jobs/Q-214/readings.csv").content.decode())))
    assert len(table) == 8, "the struck-out one, and what struck it out"
    assert [row["value_mm"] for row in table if row["withdrawn"]] == ["72.06"]
    assert {row["serial"] for row in table} == {"G-117"}


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
    assert said.count("Inspection report") == 3
    assert said.count("Bores in line, Ø") == 1


def test_without_a_size_it_says_so(corin: Client) -> None:
    assert "Nothing is measured yet" in flat(corin.get("/jobs/Q-207/report/?of=job"))
    page = open_page("Q-214", Units())
    assert report_of(page.assessment, 1, 1).rows[0].verdict == "incomplete"


def test_numbers_in_a_row_are_a_range() -> None:
    assert list(_ranges([1, 2, 3, 5, 7, 8])) == ["1 to 3", "5", "7 to 8"]
    assert list(_ranges([])) == []
