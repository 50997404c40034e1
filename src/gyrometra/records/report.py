"""The inspection report: of a bore, a piece or the whole job, on a page, as A4 PDF, its readings as CSV."""

from __future__ import annotations

import csv
import re
from io import StringIO
from typing import Any

import segno
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.template.loader import render_to_string
from django.urls import reverse
from django.utils import timezone
from django.utils.http import content_disposition_header
from django.utils.safestring import mark_safe
from django.views.decorators.http import require_safe

from gyrometra.crib.exchange import no_formula
from gyrometra.pages.context import shop
from gyrometra.records.pdf import NoPdf, to_pdf
from gyrometra.steps.page import JobPage, open_page, other_pages
from gyrometra.steps.readings import CSV_HEAD, csv_rows
from gyrometra.steps.report import report_pages
from gyrometra.steps.report_summary import report_summary
from gyrometra.steps.shared.view import page_for

#: What a report can be of; more pages than this are asked for piece by piece.
CHOICES = {"bore": "This bore", "piece": "This piece", "job": "The whole job"}
MOST_PAGES = 60


def _pages(page: JobPage, of: str) -> list[JobPage]:
    """Each bore of a piece; a set-up that is only set true has nothing to report of a bore."""
    return [one for one in _all_pages(page, of) if not one.record.setup.only_trued]


def _all_pages(page: JobPage, of: str) -> list[JobPage]:
    if of == "bore":
        return [page]
    if of == "piece":
        return page.each
    whole = open_page(page.job.number, page.units, setup=page.record.setup.place, whole=True, past=page.past)
    setups = sorted((whole, *other_pages(whole)), key=lambda one: one.record.setup.place)
    return [
        bore for setup in setups if not setup.record.setup.closed_reason
        for piece in setup.assessment.begun for bore in setup.at_piece(piece).each
    ]  # fmt: skip


def _context(request: HttpRequest, number: str) -> dict[str, Any]:
    page = page_for(request, number, back=True)
    of = request.GET.get("of", "piece")
    of = of if of in CHOICES else "piece"
    pages = _pages(page, of)
    reports, shown = report_pages(page, pages[:MOST_PAGES]), pages[:MOST_PAGES]
    signoff = getattr(page.job, "signoff", None)
    address = request.build_absolute_uri(reverse("report", args=(number,)))
    code = segno.make(address, error="m").svg_inline(omitsize=True, border=0, svgclass="qr", lineclass=None)
    return {
        "page": page, "job": page.job, "of": of, "choices": _choices(page), "printed": timezone.localtime(),
        "reports": reports, "summary": report_summary(shown[0], shown, reports) if shown else None, "units": page.units,
        "refused": f"{len(pages)} pages: the first {MOST_PAGES} stand here." if len(pages) > MOST_PAGES else "",
        "signed_by": signoff.by.username if signoff is not None else "",
        "signed_at": f"{timezone.localtime(signoff.at):%d %b %Y, %H:%M}" if signoff is not None else "",
        "code": mark_safe(code),  # noqa: S308 - drawn here from our own address, no text of a person in it
    }  # fmt: skip


def _choices(page: JobPage) -> list[tuple[str, str]]:
    """A bore by itself only where there are several; the whole job only where that is more than this piece."""
    more = page.job.quantity > 1 or page.has_setups
    kept = {"bore": page.is_several, "piece": True, "job": more}
    return [(key, words) for key, words in CHOICES.items() if kept[key]] if page.is_several or more else []


@require_safe
def report(request: HttpRequest, number: str) -> HttpResponse:
    """The report on the screen."""
    return render(request, "records/report.html", _context(request, number))


@require_safe
def report_pdf(request: HttpRequest, number: str) -> HttpResponse:
    """The same as a PDF."""
    context = _context(request, number)
    html = render_to_string("records/report_pdf.html", {**shop(request), **context, "paper": True})
    try:
        content = to_pdf(html)
    except NoPdf as refused:
        return render(request, "records/report.html", {**context, "refused": str(refused)}, status=503)
    return _file(content, "application/pdf", context["job"].number, "report", "pdf")


@require_safe
def report_csv(request: HttpRequest, number: str) -> HttpResponse:
    """Every reading of the set-up, as it was logged."""
    page, text = page_for(request, number), StringIO()
    writer = csv.writer(text)
    writer.writerow(CSV_HEAD)
    for row in csv_rows(page):
        writer.writerow([no_formula(cell) for cell in row])
    return _file(text.getvalue().encode(), "text/csv; charset=utf-8", page.job.number, "readings", "csv")


def _file(content: bytes, kind: str, number: str, name: str, ending: str) -> HttpResponse:
    answer = HttpResponse(content, content_type=kind)
    named = re.sub(r"[^\w.-]+", "-", number)
    shown = content_disposition_header(as_attachment=ending == "csv", filename=f"{name}-{named}.{ending}")
    answer["Content-Disposition"] = shown or "inline"
    return answer
