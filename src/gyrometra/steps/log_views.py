"""Logging on the step pages: rounds, readings, cuts, sizes, and the lead's signature."""

from __future__ import annotations

from collections.abc import Callable

from django import forms
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect
from django.utils import timezone
from django.views.decorators.http import require_POST

from gyrometra.accounts.people import member
from gyrometra.cutting import services as cutting
from gyrometra.cutting.models import CutEntry
from gyrometra.inspection import services as inspection
from gyrometra.jobs import services as jobs
from gyrometra.jobs.permissions import JobClosed
from gyrometra.steps import plates
from gyrometra.steps.forms import (
    CheckSizeForm,
    EntryForm,
    GuardForm,
    PassSetForm,
    PassSizeForm,
    ReadingForm,
    RemarkForm,
    RoundForm,
)
from gyrometra.steps.page import JobPage
from gyrometra.steps.views import STEP_VIEWS, page_for, saved, show
from gyrometra.truing import services as truing
from gyrometra.truing.models import Round
from gyrometra.truing.rounds import RoundView


@require_POST
def begin_round(request: HttpRequest, number: str, purpose: str) -> HttpResponse:
    """Begin the next round of readings."""
    page = page_for(request, number)
    step = "true" if purpose == Round.Purpose.TRUE else "check"
    form = RoundForm(request.POST, units=page.units)
    if not form.is_valid():
        return STEP_VIEWS[step](request, page, {"round_form": form})
    try:
        bore = page.bore if step == "check" or page.job.setup.way.several else None
        truing.open_round(
            user=member(request),
            setup=page.job.setup,
            bore=bore,
            piece=page.piece,
            purpose=purpose,
            **form.cleaned_data,
        )
    except JobClosed as refused:
        return STEP_VIEWS[step](request, page, {"refused": str(refused)})
    return saved(request, number, step)


def _round_view(page: JobPage, purpose: str) -> RoundView:
    views = page.rounds if purpose == Round.Purpose.TRUE else page.judged.runout_rounds
    if not views:
        raise Http404
    return views[-1]


@require_POST
def log_reading(request: HttpRequest, number: str, purpose: str) -> HttpResponse:
    """Log one reading of the open round."""
    page = page_for(request, number)
    step = "true" if purpose == Round.Purpose.TRUE else "check"
    view = _round_view(page, purpose)
    form = ReadingForm(request.POST, units=page.units, round=view.round)
    if not form.is_valid():
        return STEP_VIEWS[step](request, page, {"form": form})
    values = form.cleaned_data
    try:
        truing.log_reading(
            user=member(request),
            round=view.round,
            place=values["place"],
            value_mm=values["value"],
            text=request.POST.get("value", "").strip(),
            source=values["source"],
            client_id=values["client_id"],
            correct=request.POST.get("correct") == "yes",
        )
    except truing.PlaceTaken:
        return STEP_VIEWS[step](request, page, {"form": form, "taken": values["place"]})
    except JobClosed as refused:
        return STEP_VIEWS[step](request, page, {"refused": str(refused)})
    return saved(request, number, step)


@require_POST
def take_back(request: HttpRequest, number: str, step: str) -> HttpResponse:
    """Withdraw the last entry of a step's log; it stays there, crossed out."""
    page = page_for(request, number)
    form = EntryForm(request.POST)
    if not form.is_valid() or step not in ("true", "bore", "check"):
        raise Http404
    user, bore, entry = member(request), page.bore, form.cleaned_data["client_id"]
    try:
        if step == "bore":
            cutting.take_back(user=user, bore=bore, client_id=entry, piece=page.piece)
        elif step == "check" and request.POST.get("what") == "size":
            inspection.take_back(user=user, bore=bore, client_id=entry, piece=page.piece)
        else:
            purpose = Round.Purpose.TRUE if step == "true" else Round.Purpose.CHECK
            truing.take_back(user=user, round=_round_view(page, purpose).round, client_id=entry)
    except JobClosed as refused:
        return STEP_VIEWS[step](request, page, {"refused": str(refused)})
    return saved(request, number, step)


@require_POST
def log_cut(request: HttpRequest, number: str, kind: str) -> HttpResponse:
    """Log a guard step, a setting, a size or a remark."""
    page = page_for(request, number)
    makers: dict[str, tuple[Callable[[], forms.Form], str]] = {
        "guard": (lambda: GuardForm(request.POST), "guard_form"),
        "set": (lambda: PassSetForm(request.POST), "set_form"),
        "size": (lambda: PassSizeForm(request.POST, units=page.units, bore=page.bore), "size_form"),
        "remark": (lambda: RemarkForm(request.POST), "remark_form"),
        "touched": (lambda: EntryForm(request.POST), "touched_form"),
    }
    if kind not in makers:
        raise Http404
    make, name = makers[kind]
    form = make()
    if not form.is_valid():
        return STEP_VIEWS["bore"](request, page, {name: form})
    if kind == "set" and page.ledger.needs_size:
        why = "The tip was touched after a pass that is not measured: measure the bore first, then set from that size."
        return STEP_VIEWS["bore"](request, page, {"refused": why})
    try:
        if kind == "set" and form.cleaned_data["through"]:
            cutting.log_settings(
                user=member(request), bore=page.bore, client_id=form.cleaned_data["client_id"],
                source=form.cleaned_data["source"], piece=page.piece,
                settings=plates.bundle_values(page, form.cleaned_data["through"]),
            )  # fmt: skip
            return saved(request, number, "bore")
        values = plates.cut_values(page, kind, form.cleaned_data, request.POST.get("value", ""))
        cutting.log_cut(user=member(request), bore=page.bore, piece=page.piece, kind=CutEntry.Kind(kind), **values)
    except JobClosed as refused:
        return STEP_VIEWS["bore"](request, page, {"refused": str(refused)})
    return saved(request, number, "bore")


@require_POST
def log_size(request: HttpRequest, number: str) -> HttpResponse:
    """Log one size of the finished bore."""
    page = page_for(request, number)
    form = CheckSizeForm(request.POST, units=page.units, bore=page.bore)
    if not form.is_valid():
        return STEP_VIEWS["check"](request, page, {"size_form": form})
    values = form.cleaned_data
    try:
        inspection.log_size(
            user=member(request), bore=page.bore, gauge=values["gauge"], z_mm=values["z"],
            angle_deg=values["angle_deg"], value_mm=values["value_mm"], part_temp_c=values["part_temp_c"],
            text=request.POST.get("value", "").strip(), source=values["source"],
            client_id=values["client_id"], repeat=values["repeat"], piece=page.piece,
        )  # fmt: skip
    except JobClosed as refused:
        return STEP_VIEWS["check"](request, page, {"refused": str(refused)})
    return saved(request, number, "check")


@require_POST
def drop_answer(request: HttpRequest, number: str, pk: int) -> HttpResponse:
    """Take a kept answer of a bench line back."""
    page = page_for(request, number)
    kept = next((answer for answer in page.kept_answers if answer.pk == pk), None)
    form = EntryForm(request.POST)
    if kept is not None and form.is_valid():
        try:
            jobs.drop_answer(user=member(request), job=page.job, kept=kept, client_id=form.cleaned_data["client_id"])
        except JobClosed as refused:
            return show(request, page, "work", {"refused": str(refused)})
    return redirect("step", number, "work")


@require_POST
def sign(request: HttpRequest, number: str) -> HttpResponse:
    """The lead signs the verdict."""
    page = page_for(request, number)
    waiting = plates.first_waiting(page)
    if waiting:
        return STEP_VIEWS["check"](
            request, page, {"refused": f"Incomplete: measure what is missing{waiting} before you sign."}
        )
    try:
        inspection.sign_off(user=member(request), job=page.job, verdict=plates.signed_verdict(page, timezone.now()))
    except JobClosed as refused:
        return STEP_VIEWS["check"](request, page, {"refused": str(refused)})
    except inspection.NotAllowed:
        return STEP_VIEWS["check"](request, page, {"refused": "Only the lead signs a verdict."})
    return saved(request, number, "check")
