"""Views of True: the rounds of readings are logged by `steps.rounds`."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.http import Http404, HttpRequest, HttpResponse
from django.views.decorators.http import require_POST

from gyrometra.accounts.people import member
from gyrometra.crib.models import Indicator
from gyrometra.jobs.permissions import JobClosed
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.entries import EntryForm
from gyrometra.steps.shared.view import page_for, saved, show
from gyrometra.steps.true.form import ReadingForm, RoundForm
from gyrometra.steps.true.plates import round_initial, true
from gyrometra.truing import services as truing
from gyrometra.truing.models import Between
from gyroplan.assess import RoundStanding


def _correcting(request: HttpRequest, views: Sequence[RoundStanding]) -> int | None:
    """The read cell that the person has opened again, where there is one."""
    text = request.GET.get("place", "") if request.method == "GET" else ""
    place = int(text) if text.isdecimal() and len(text) < 6 else -1
    return place if views and place in views[-1].by_place and not views[-1].is_closed else None


def show_true(request: HttpRequest, page: JobPage, extra: dict[str, Any]) -> HttpResponse:
    correct = _correcting(request, page.truing.rounds)
    shown = true(page, correct)
    shown["correcting"] = correct is not None
    shown["form"] = ReadingForm(units=page.units)
    shown["round_form"] = RoundForm(units=page.units, initial=round_initial(page, page.truing.rounds))
    shown["has_indicator"] = Indicator.objects.filter(retired=False).exists()
    return show(request, page, "true", {**shown, **extra})


@require_POST
def log_between(request: HttpRequest, number: str, kind: str) -> HttpResponse:
    """Log that the jaws were moved as told, or that the work was disturbed."""
    page, form = page_for(request, number), EntryForm(request.POST)
    if kind not in Between.Kind.values or not form.is_valid():
        raise Http404
    try:
        truing.log_between(
            user=member(request), setup=page.job.setup, kind=kind, client_id=form.cleaned_data["client_id"],
            bore=page.bore_row if page.job.setup.way.several else None, piece=page.piece,
        )  # fmt: skip
    except JobClosed as refused:
        return show_true(request, page, {"refused": str(refused)})
    return saved(request, number, "true", show_true)
