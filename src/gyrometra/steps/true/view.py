"""Views of True: the rounds of readings are logged by `steps.rounds`."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.http import Http404, HttpRequest, HttpResponse

from gyrometra.crib.models import Indicator
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.entries import EntryForm
from gyrometra.steps.shared.entry_view import entry_view, sent_by
from gyrometra.steps.shared.view import show
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


@entry_view(lambda **_: ("true", show_true))
def log_between(request: HttpRequest, page: JobPage, kind: str) -> dict[str, Any] | None:
    """Log that the jaws were moved as told, or that the work was disturbed."""
    if kind not in Between.Kind.values:
        raise Http404
    truing.log_between(
        sent=sent_by(request, EntryForm.of(request.POST)), setup=page.job.setup, kind=kind,
        bore=page.bore_row if page.job.setup.way.several else None, piece=page.piece,
    )  # fmt: skip
    return None
