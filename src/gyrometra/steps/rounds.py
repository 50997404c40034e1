"""Logging of rounds: of the truing, and of the finished bore's sweep; and what is taken back of any log."""

from __future__ import annotations

from typing import Any

from django.http import Http404, HttpRequest, HttpResponse
from django.views.decorators.http import require_POST

from gyrometra.accounts.people import member
from gyrometra.cutting import services as cutting
from gyrometra.inspection import services as inspection
from gyrometra.jobs.permissions import JobClosed
from gyrometra.steps.bore.view import show_bore
from gyrometra.steps.check.view import show_check
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.entries import EntryForm
from gyrometra.steps.shared.view import StepView, page_for, saved
from gyrometra.steps.true.form import ReadingForm, RoundForm
from gyrometra.steps.true.view import show_true
from gyrometra.truing import services as truing
from gyrometra.truing.models import Between, Round

#: The steps that have a log.
VIEWS: dict[str, StepView] = {"true": show_true, "bore": show_bore, "check": show_check}


@require_POST
def begin_round(request: HttpRequest, number: str, purpose: str) -> HttpResponse:
    """Begin the next round of readings; with `moved`, after the jaws were moved as told."""
    if purpose not in Round.Purpose.values:
        raise Http404
    page = page_for(request, number)
    step = "true" if purpose == Round.Purpose.TRUE else "check"
    form = RoundForm(request.POST, units=page.units)
    if not form.is_valid():
        return VIEWS[step](request, page, {"round_form": form})
    of: dict[str, Any] = {"user": member(request), "setup": page.job.setup, "piece": page.piece,
          "bore": page.bore_row if step == "check" or page.job.setup.way.several else None}  # fmt: skip
    try:
        if request.POST.get("moved") == "yes":
            truing.log_between(**of, kind=Between.Kind.MOVED, client_id=form.cleaned_data.pop("client_id"))
        form.cleaned_data.pop("client_id", None)
        truing.open_round(**of, purpose=purpose, **form.cleaned_data)
    except JobClosed as refused:
        return VIEWS[step](request, page, {"refused": str(refused)})
    return saved(request, number, step, VIEWS[step])


def _last_round(page: JobPage, purpose: str) -> Round:
    views = page.truing.rounds if purpose == Round.Purpose.TRUE else page.sweeps
    if not views:
        raise Http404
    return page.rows.rounds[views[-1].round.key]


@require_POST
def log_reading(request: HttpRequest, number: str, purpose: str) -> HttpResponse:
    """Log one reading of the open round."""
    if purpose not in Round.Purpose.values:
        raise Http404
    page = page_for(request, number)
    step = "true" if purpose == Round.Purpose.TRUE else "check"
    last = _last_round(page, purpose)
    form = ReadingForm(request.POST, units=page.units, round=last)
    if not form.is_valid():
        return VIEWS[step](request, page, {"form": form})
    values = form.cleaned_data
    try:
        truing.log_reading(
            user=member(request),
            round=last,
            place=values["place"],
            value_mm=values["value"],
            text=request.POST.get("value", "").strip().lower()
            if values["value"] is None
            else request.POST.get("value", "").strip(),
            pointed=request.POST.get("pointed", ""),
            source=values["source"],
            client_id=values["client_id"],
            correct=request.POST.get("correct") == "yes",
        )
    except truing.PlaceTaken:
        return VIEWS[step](request, page, {"form": form, "taken": values["place"]})
    except truing.RoundClosed:
        return VIEWS[step](
            request,
            page_for(request, number),
            {"refused": f"{request.POST.get('value', '')} was not logged: the round is closed. Start a new sweep."},
        )
    except JobClosed as refused:
        return VIEWS[step](request, page, {"refused": str(refused)})
    return saved(request, number, step, VIEWS[step])


@require_POST
def take_back(request: HttpRequest, number: str, step: str) -> HttpResponse:
    """Withdraw the last entry of a step's log; it stays there, crossed out."""
    page = page_for(request, number)
    form = EntryForm(request.POST)
    if not form.is_valid() or step not in ("true", "bore", "check"):
        raise Http404
    user, bore, entry = member(request), page.bore_row, form.cleaned_data["client_id"]
    try:
        if step == "bore":
            cutting.take_back(user=user, bore=bore, client_id=entry, piece=page.piece)
        elif step == "check" and request.POST.get("what") in ("size", "depth"):
            pk = request.POST.get("pk", "")
            inspection.take_back(
                user=user,
                bore=bore,
                client_id=entry,
                piece=page.piece,
                depth=request.POST["what"] == "depth",
                pk=int(pk) if pk.isdecimal() and len(pk) < 12 else None,
            )
        else:
            purpose = Round.Purpose.TRUE if step == "true" else Round.Purpose.CHECK
            truing.take_back(user=user, round=_last_round(page, purpose), client_id=entry)
    except JobClosed as refused:
        return VIEWS[step](request, page, {"refused": str(refused)})
    return saved(request, number, step, VIEWS[step])
