"""The set-up sheet of every way of boring: whole, on one A4 page, from our own files only."""

import re
from typing import Any

import pytest
from django.template.loader import render_to_string
from django.test import Client

from gyrometra.bridge.units import Units
from gyrometra.drawings import palette
from gyrometra.records import pdf, views
from gyrometra.records.pdf import NoPdf, set_on_paper
from gyrometra.steps.page import open_page
from tests.web.said import flat

EACH_WAY = ["Q-214", "Q-228", "Q-221", "Q-230"]


@pytest.mark.parametrize("unit", ["mm", "in"])
@pytest.mark.parametrize("number", EACH_WAY)
def test_the_sheet_of_each_way_fits_one_page(db: None, number: str, unit: str) -> None:
    context = views._context(open_page(number, Units(unit)))
    html = render_to_string("records/sheet_pdf.html", {**context, "units": Units(unit), "paper": True})
    pages = set_on_paper(html).pages
    assert len(pages) == 1
    assert 790 < pages[0].width < 797, "A4 in CSS pixels"


def test_the_pdf_is_one_and_carries_our_font(corin: Client) -> None:
    answer = corin.get("/jobs/Q-221/sheet.pdf")
    assert answer["Content-Type"] == "application/pdf"
    assert answer.content[:5] == b"%PDF-"
    assert answer["Content-Disposition"] == 'inline; filename="set-up-Q-221.pdf"'
    assert corin.get("/jobs/Q-999/sheet.pdf").status_code == 404


def test_the_sheet_of_a_line_has_every_bore(corin: Client) -> None:
    text = corin.get("/jobs/Q-221/sheet/").content.decode()
    for name, first in (("H1", "74.199"), ("H2", "74.179"), ("H3", "74.219")):
        assert f"<h2>{name}, " in text
        assert first in text
    assert "<b>Bearings at</b> -80; 1280" in text
    assert "Approach from the small side" not in text, "no dial is turned"
    head = flat(corin.get("/jobs/Q-228/sheet/"))
    assert "<b>Holes of the head:</b> A Ø26.000 to 66.000, use this one" in head


def test_without_the_libraries_the_sheet_says_what_to_do(corin: Client, monkeypatch: pytest.MonkeyPatch) -> None:
    def lacks(_: str) -> bytes:
        raise NoPdf("This machine lacks the library; print from the browser.")

    monkeypatch.setattr(views, "to_pdf", lacks)
    answer = corin.get("/jobs/Q-214/sheet.pdf")
    assert answer.status_code == 503
    assert "print from the browser" in answer.content.decode()
    assert "69.338" in answer.content.decode(), "the sheet itself is there"


@pytest.mark.parametrize("url", ["https://example.org/a.css", "file:///etc/passwd", "file:///", "/etc/passwd"])
def test_nothing_from_elsewhere_is_read(url: str) -> None:
    with pytest.raises(NoPdf):
        pdf._only_ours(url)


def test_every_role_that_is_drawn_has_its_style_on_paper(db: None) -> None:
    """The screen's style sheet is the one source; what it colours, paper colours alike."""
    known: Any = palette.roles()
    assert known["r-outline"] == {"stroke": "#16191E", "stroke-width": "2.4", "stroke-linejoin": "round"}
    assert known["t-figure-blue"]["fill"] == "#143C8C"
    assert known["a-middle"] == {"text-anchor": "middle"}
    for number in EACH_WAY:
        context = views._context(open_page(number, Units()))
        for shape in context["band"].shapes:
            if shape.kind == "path":
                assert known.get(f"r-{shape.role}"), shape.role
    assert not any(re.search(r"var\(", value) for style in known.values() for value in style.values())


def test_a_stranger_can_work_from_the_sheet(corin: Client) -> None:
    """Finished size and limits, bore as found, bar, cutter, method, holding, author; what was measured stands in."""
    text = corin.get("/jobs/Q-214/sheet/").content.decode()
    for said in ("72.000 to 72.030", "target 72.015", "≤ 0.020", "found, 120 deep <b>68.400", "Bar 7 Ø40, 165 out",
                 "Bit 3, nose R0.4", "held in a four-jaw chuck", "71.196", "Set up by"):  # fmt: skip
        assert said in text, said


def test_the_sheet_of_a_signed_job_carries_its_verdict(corin: Client) -> None:
    text = corin.get("/jobs/Q-198/sheet/").content.decode()
    assert "In limits. Signed by dagny" in text
    assert "Set up by" not in text
