"""Sheets to work from and to hand over."""

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import render
from django.utils import timezone
from django.views.decorators.http import require_GET

from gyrometra.accounts.people import member
from gyrometra.bridge.units import Units
from gyrometra.jobs.models import Job
from gyrometra.steps import plates, progress, scenes
from gyrometra.steps.page import open_page


@require_GET
def sheet(request: HttpRequest, number: str) -> HttpResponse:
    """The set-up sheet on one A4 page."""
    try:
        page = open_page(number, Units(member(request).unit))
    except Job.DoesNotExist:
        raise Http404 from None
    context = {
        "page": page,
        "job": page.job,
        "rows": plates.pass_rows(page),
        "totals": plates.cut_totals(page),
        "plates": [*plates.bar(page), *plates.cuts(page)],
        "band": scenes.bar_scenes(page)[1][1],
        "cautions": list(dict.fromkeys(c for step in progress.STEPS for c in page.cautions(step))),
        "printed": timezone.localtime(),
    }
    return render(request, "records/sheet.html", context)
