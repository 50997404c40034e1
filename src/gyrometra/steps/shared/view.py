"""What the views of the six steps share: the page of a request, one step shown, and what follows a change."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from functools import partial
from typing import Any

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse

from gyrometra.accounts.people import member, units_shown
from gyrometra.bridge.units import Units
from gyrometra.jobs import services as jobs
from gyrometra.jobs.models import Job, PastSignOff, SetUp
from gyrometra.jobs.permissions import can_sign_verdict
from gyrometra.steps import progress
from gyrometra.steps.page import JobPage, page_of
from gyrometra.steps.shared.plate import rail
from gyrometra.steps.shared.seen import Seen, seen_on

#: A step as it is shown: request, page, and what a refusal or a form adds.
StepView = Callable[[HttpRequest, JobPage, dict[str, Any]], HttpResponse]


def units_of(request: HttpRequest) -> Units:
    """The unit that the page showed when something was typed into it; of a new page the account's own."""
    seen = _seen(request)
    if seen is not None:
        return Units(seen.unit)
    return units_shown(request)


def page_for(request: HttpRequest, number: str, *, held: bool = False, back: bool = False) -> JobPage:
    """The job of an address at its bore and piece; `held` until the transaction ends, where it is to be changed.

    With `back` as it was signed before it was reopened, where the address names that signature.
    """
    seen, units = _seen(request), units_of(request)
    of: dict[str, Any] = {"number": number} if seen is None else {"pk": seen.job}
    try:
        job = jobs.hold(**of) if held else Job.objects.whole().get(**of)
    except Job.DoesNotExist:
        raise Http404(f"There is no job {number}.") from None
    if seen is not None:
        return page_of(job, units, piece=seen.piece, bore=seen.bore, setup=_setup(job, pk=seen.setup))
    place, piece, number_of_setup = (_number(request, name) for name in ("bore", "piece", "setup"))
    setup = None if number_of_setup is None else _setup(job, place=number_of_setup)
    if number_of_setup is not None and setup is None:
        raise Http404(f"Job {number} has no such set-up.")
    past = _number(request, "signed") if back else None
    try:
        page = page_of(job, units, place, 1 if piece is None else piece, setup=setup, past=past)
    except PastSignOff.DoesNotExist:
        raise Http404(f"Job {number} has no such signature.") from None
    if (place is not None and place != page.place) or (piece is not None and piece != page.piece):
        raise Http404(f"Job {number} has no such bore or piece.")
    return page


def _setup(job: Job, **of: int) -> SetUp | None:
    """Another set-up of the job than that in hand; that in hand, or None where the job has none such."""
    (name, wanted), own = next(iter(of.items())), job.setup
    if getattr(own, name) == wanted:
        return own
    found: SetUp | None = SetUp.objects.whole().filter(job=job, **of).first()
    return found


def _seen(request: HttpRequest) -> Seen | None:
    """What an entry says its page showed, once it is checked."""
    seen: Seen | None = getattr(request, "seen", None)
    return seen


def _number(request: HttpRequest, name: str) -> int | None:
    """A whole number of the address; None where it names none, and 404 for what is no number."""
    text = request.GET.get(name, "")
    if not text:
        return None
    if not (text.isascii() and text.isdecimal() and len(text) < 6):
        raise Http404(f"{name} is no number.")
    return int(text)


def show(request: HttpRequest, page: JobPage, step: str, extra: dict[str, Any], template: str = "") -> HttpResponse:
    """One step, whole or as the part that htmx swaps."""
    context = {
        "page": page,
        "units": page.units,
        "job": page.job,
        "step": step,
        "way": page.job.setup.way,
        "rail": rail(page, step),
        "cautions": page.cautions(step),
        "can_sign": can_sign_verdict(member(request)),
        "fresh_id": uuid.uuid4,
        "seen": partial(seen_on, page, member(request).username),
        **extra,
    }
    context["base"] = "pages/bare.html" if request.htmx else "pages/base.html"  # type: ignore[attr-defined]
    return render(request, template or f"steps/{step}.html", context)


def saved(
    request: HttpRequest, number: str, step: str, view: StepView, page: JobPage | None = None, at: str = ""
) -> HttpResponse:
    """After a change: the stations are worked out again, and the step is shown as it stands now, with `at` open."""
    page = page or page_for(request, number)
    progress.keep(page)
    if request.htmx:  # type: ignore[attr-defined]
        return view(request, page, {})
    opened = f"{'&' if page.query else '?'}at={at}" if at else ""
    return redirect(reverse("step", args=(number, step)) + page.query + opened)


def version_of(request: HttpRequest) -> int:
    """The version of the job that the sender had before their eyes."""
    text = request.POST.get("version", "")
    return int(text) if text.isdecimal() and len(text) < 10 else 0
