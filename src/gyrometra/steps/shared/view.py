"""What the views of the six steps share: the page of a request, one step shown, and what follows a change."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from typing import Any

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse

from gyrometra.accounts.people import member
from gyrometra.bridge.units import Units
from gyrometra.jobs import services as jobs
from gyrometra.jobs.models import Job
from gyrometra.jobs.permissions import can_sign_verdict
from gyrometra.steps import progress
from gyrometra.steps.page import JobPage, page_of
from gyrometra.steps.shared.plate import rail

#: A step as it is shown: request, page, and what a refusal or a form adds.
StepView = Callable[[HttpRequest, JobPage, dict[str, Any]], HttpResponse]


def units_of(request: HttpRequest) -> Units:
    """The unit that the page showed when something was typed into it; of a new page the account's own."""
    shown = request.headers.get("X-Unit", "")
    return Units(shown if request.method == "POST" and shown in ("mm", "in") else member(request).unit)


def page_for(request: HttpRequest, number: str, *, held: bool = False) -> JobPage:
    """The job of an address at its bore and piece; `held` until the transaction ends, where it is to be changed."""
    place, piece = (request.GET.get(name, "")[:6] for name in ("bore", "piece"))
    units = units_of(request)
    try:
        return page_of(
            jobs.hold(number) if held else Job.objects.whole().get(number=number), units,
            int(place) if place.isdecimal() else None, int(piece) if piece.isdecimal() else 1,
        )  # fmt: skip
    except Job.DoesNotExist:
        raise Http404(f"There is no job {number}.") from None


def show(request: HttpRequest, page: JobPage, step: str, extra: dict[str, Any]) -> HttpResponse:
    """One step, whole or as the part that htmx swaps."""
    context = {
        "page": page,
        "job": page.job,
        "step": step,
        "way": page.job.setup.way,
        "rail": rail(page, step),
        "cautions": page.cautions(step),
        "can_sign": can_sign_verdict(member(request)),
        "fresh_id": uuid.uuid4,
        **extra,
    }
    context["base"] = "pages/bare.html" if request.htmx else "pages/base.html"  # type: ignore[attr-defined]
    return render(request, f"steps/{step}.html", context)


def saved(request: HttpRequest, number: str, step: str, view: StepView, page: JobPage | None = None) -> HttpResponse:
    """After a change: the stations are worked out again, and the step is shown as it stands now."""
    page = page or page_for(request, number)
    progress.keep(page)
    if request.htmx:  # type: ignore[attr-defined]
        return view(request, page, {})
    return redirect(reverse("step", args=(number, step)) + page.query)


def version_of(request: HttpRequest) -> int:
    """The version of the job that the sender had before their eyes."""
    text = request.POST.get("version", "")
    return int(text) if text.isdecimal() and len(text) < 10 else 0
