"""Sheets to work from and to hand over."""

import re
from typing import Any

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.template.loader import render_to_string
from django.utils import timezone
from django.utils.http import content_disposition_header
from django.views.decorators.http import require_safe

from gyrometra.pages.context import shop
from gyrometra.records.pdf import NoPdf, to_pdf
from gyrometra.steps import plates
from gyrometra.steps.bar.scene import bar_scenes
from gyrometra.steps.bore.chance import habit_line
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.view import page_for
from gyroplan.assess import STEPS, minutes_of


def _context(page: JobPage) -> dict[str, Any]:
    """The whole set-up: plates and drawing once, the passes of every bore."""
    bores = [
        {
            "bore": one.bore,
            "wanted": one.wanted_words,
            "finished": plates.finished_bore(one),
            "rows": plates.pass_rows(one),
            "totals": plates.cut_totals(one),
        }
        for one in page.each
    ]
    minutes = minutes_of(page.assessment, page.piece)
    return {
        "page": page,
        "job": page.job,
        "bores": bores,
        "job_bores": page.bores,
        "many": len(bores) > 1,
        "minutes": f"{minutes:.1f}" if minutes else "",
        "plates": plates.sheet_plates(page),
        "title": plates.title_block(page),
        "signed": plates.signed_words(page),
        "band": bar_scenes(page)[1][1],
        "facts": plates.sheet_facts(page),
        "habit": habit_line(page, ""),
        "holes": plates.hole_rows(page),
        "table": plates.line_table(page),
        "bearings": "; ".join(page.units.plain(place) for place in page.job.setup.plan.bearings_mm),
        "cautions": list(dict.fromkeys(c for step in STEPS for c in page.cautions(step))),
        "printed": timezone.localtime(),
    }


@require_safe
def sheet(request: HttpRequest, number: str) -> HttpResponse:
    """The set-up sheet on one A4 page."""
    return render(request, "records/sheet.html", _context(page_for(request, number)))


@require_safe
def sheet_pdf(request: HttpRequest, number: str) -> HttpResponse:
    """The same as a PDF."""
    context = _context(page_for(request, number))
    html = render_to_string("records/sheet_pdf.html", {**shop(request), **context, "paper": True})
    try:
        content = to_pdf(html)
    except NoPdf as refused:
        return render(request, "records/sheet.html", {**context, "refused": str(refused)}, status=503)
    answer = HttpResponse(content, content_type="application/pdf")
    named = re.sub(r"[^\w.-]+", "-", context["job"].number)
    shown = content_disposition_header(as_attachment=False, filename=f"set-up-{named}.pdf")
    answer["Content-Disposition"] = shown or "inline"
    return answer
