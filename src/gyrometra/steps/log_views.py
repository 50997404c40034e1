"""Logging on the step pages: rounds, readings, cuts, sizes, and the lead's signature."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import suppress
from dataclasses import replace
from typing import Any
from uuid import uuid5

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect
from django.views.decorators.http import require_POST

from gyrocore import error_sentence
from gyrometra.accounts.people import member
from gyrometra.cutting import services as cutting
from gyrometra.cutting.models import CutEntry
from gyrometra.inspection import services as inspection
from gyrometra.jobs import services as jobs
from gyrometra.jobs.permissions import JobClosed
from gyrometra.steps import plates, progress
from gyrometra.steps.forms import (
    ActForm,
    CheckSizeForm,
    DepthForm,
    DivisionForm,
    EntryForm,
    PassSizeForm,
    ReadingForm,
    RemarkForm,
    RoundForm,
)
from gyrometra.steps.page import JobPage, open_page
from gyrometra.steps.views import STEP_VIEWS, page_for, saved, show
from gyrometra.truing import services as truing
from gyrometra.truing.models import Between, Round
from gyroplan.assess import signed_verdict
from gyroplan.loop import Act, Touched, TouchOff, Zero
from gyroplan.refusal import Refused


@require_POST
def begin_round(request: HttpRequest, number: str, purpose: str) -> HttpResponse:
    """Begin the next round of readings; with `moved`, after the jaws were moved as told."""
    if purpose not in Round.Purpose.values:
        raise Http404
    page = page_for(request, number)
    step = "true" if purpose == Round.Purpose.TRUE else "check"
    form = RoundForm(request.POST, units=page.units)
    if not form.is_valid():
        return STEP_VIEWS[step](request, page, {"round_form": form})
    of: dict[str, Any] = {"user": member(request), "setup": page.job.setup, "piece": page.piece,
          "bore": page.bore_row if step == "check" or page.job.setup.way.several else None}  # fmt: skip
    try:
        if request.POST.get("moved") == "yes":
            truing.log_between(**of, kind=Between.Kind.MOVED, client_id=form.cleaned_data.pop("client_id"))
        form.cleaned_data.pop("client_id", None)
        truing.open_round(**of, purpose=purpose, **form.cleaned_data)
    except JobClosed as refused:
        return STEP_VIEWS[step](request, page, {"refused": str(refused)})
    return saved(request, number, step)


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
        return STEP_VIEWS["true"](request, page, {"refused": str(refused)})
    return saved(request, number, "true")


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
        return STEP_VIEWS[step](request, page, {"form": form})
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
        return STEP_VIEWS[step](request, page, {"form": form, "taken": values["place"]})
    except truing.RoundClosed:
        return STEP_VIEWS[step](
            request,
            page_for(request, number),
            {"refused": f"{request.POST.get('value', '')} was not logged: the round is closed. Start a new sweep."},
        )
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
        return STEP_VIEWS[step](request, page, {"refused": str(refused)})
    return saved(request, number, step)


def _header(request: HttpRequest, page: JobPage, values: dict[str, Any], text: str = "") -> cutting.Header:
    return cutting.Header(
        user=member(request), bore=page.bore_row, client_id=values["client_id"], piece=page.piece,
        source=values["source"], text=text.strip()[:60],
    )  # fmt: skip


def _act(
    request: HttpRequest, page: JobPage, header: cutting.Header, act: Act, values: dict[str, Any] | None = None
) -> HttpResponse:  # fmt: skip
    """Log an act as it is decided under the lock; a refusal is shown on the page as it stands then."""
    number = page.job.number

    def planned() -> cutting.Plan:
        now = open_page(number, page.units, page.place, page.piece)
        return now.passes.work, now.at.log.planned_last

    try:
        cutting.log_act(header=header, act=act, planned=planned, values=values)
    except Refused as refused:
        why = error_sentence(refused.refusal.error, page.units.unit)
        return STEP_VIEWS["bore"](request, page_for(request, number), {"refused": why})
    except cutting.NothingPlanned:
        return STEP_VIEWS["bore"](request, page, {"refused": "Nothing is planned yet: see Work and Cuts."})
    except JobClosed as refused:
        return STEP_VIEWS["bore"](request, page, {"refused": str(refused)})
    return saved(request, number, "bore")


@require_POST
def log_cut(request: HttpRequest, number: str, kind: str) -> HttpResponse:
    """Log a setting, a cut, a size, a remark, a touched tool, a touch-off or a zeroed dial."""
    page = page_for(request, number)
    if kind not in _CUT_KINDS:
        raise Http404
    return _CUT_KINDS[kind](request, page)


def _set_or_cut(request: HttpRequest, page: JobPage, *, cut: bool) -> HttpResponse:
    form = ActForm(request.POST)
    if not form.is_valid():
        return STEP_VIEWS["bore"](request, page, {"act_form": form})
    values = form.cleaned_data
    missing = _guards_missing(request, page)
    kept = {"ticked": request.POST.getlist("guard"), "typed_actual": values["actual"]}
    if missing and (not cut or values["through"]):
        return STEP_VIEWS["bore"](
            request, page, {**kept, "refused": f"Before power: {missing}. Tick it when it is done."}
        )
    if page.boring.rests_until is not None and not cut:
        return STEP_VIEWS["bore"](request, page, {"refused": "Roughed work still rests: the finish passes wait."})
    try:
        act = plates.act_of(page, values, cut=cut)
    except plates.NotRead as refused:
        return STEP_VIEWS["bore"](request, page, {**kept, "refused": str(refused)})
    header = _header(request, page, values)
    answer = _act(request, page, header, act, plates.rests_on(page, values["number"]))
    _log_guards(request, page, header)
    return answer


def _guards_missing(request: HttpRequest, page: JobPage) -> str:
    """The first step before power that is due and not ticked."""
    return next(
        (guard.words for guard in plates.guards_due(page) if guard.name not in request.POST.getlist("guard")), ""
    )


def _log_guards(request: HttpRequest, page: JobPage, header: cutting.Header) -> None:
    """Steps that were ticked with a setting are kept with who and when."""
    ticked = [guard.name for guard in plates.guards_due(page) if guard.name in request.POST.getlist("guard")]
    if ticked:
        entry = replace(header, client_id=uuid5(header.client_id, "guard"), text=", ".join(ticked)[:60])
        with suppress(JobClosed):
            cutting.log_note(header=entry, kind=CutEntry.Kind.GUARD, text=entry.text)


def _bore_size(request: HttpRequest, page: JobPage) -> HttpResponse:
    rows, known = page.cuts_logged.rows, page.passes.known_mm
    joins = known if rows and rows[-1].kind == CutEntry.Kind.SIZE else None
    form = PassSizeForm(request.POST, units=page.units, bore=page.bore, expected_mm=known, joins_mm=joins)
    if not form.is_valid():
        return STEP_VIEWS["bore"](request, page, {"size_form": form})
    values, text = form.cleaned_data, request.POST.get("value", "")
    act, kept = plates.size_act(page, values, member(request).username)
    return _act(request, page, _header(request, page, values, text), act, kept)


def _remark(request: HttpRequest, page: JobPage) -> HttpResponse:
    form = RemarkForm(request.POST)
    if not form.is_valid():
        return STEP_VIEWS["bore"](request, page, {"remark_form": form})
    values = form.cleaned_data
    try:
        cutting.log_note(
            header=_header(request, page, values), kind=CutEntry.Kind.REMARK, number=values["number"],
            sound=values["sound"], look=values["look"],
        )  # fmt: skip
    except JobClosed as refused:
        return STEP_VIEWS["bore"](request, page, {"refused": str(refused)})
    return saved(request, page.job.number, "bore")


def _touched(request: HttpRequest, page: JobPage) -> HttpResponse:
    form = EntryForm(request.POST)
    if not form.is_valid():
        raise Http404
    return _act(request, page, _header(request, page, form.cleaned_data), Touched())


def _on_dial(request: HttpRequest, page: JobPage, *, touch_off: bool) -> HttpResponse:
    form = DivisionForm(request.POST)
    if not form.is_valid():
        return STEP_VIEWS["bore"](request, page, {"refused": next(iter(form.errors.values()))[0]})
    values = form.cleaned_data
    number = None if values["at_division"] is None else float(values["at_division"])
    act: Act = TouchOff(at_division=number) if touch_off else Zero(at_division=number or 0.0)
    return _act(request, page, _header(request, page, values), act)


_CUT_KINDS: dict[str, Callable[[HttpRequest, JobPage], HttpResponse]] = {
    "set": lambda request, page: _set_or_cut(request, page, cut=False),
    "cut": lambda request, page: _set_or_cut(request, page, cut=True),
    "size": _bore_size,
    "remark": _remark,
    "touched": _touched,
    "touch-off": lambda request, page: _on_dial(request, page, touch_off=True),
    "zero": lambda request, page: _on_dial(request, page, touch_off=False),
}


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
            user=member(request), bore=page.bore_row, gauge=values["gauge"], z_mm=values["z"],
            angle_deg=values["angle_deg"], value_mm=values["value_mm"], part_temp_c=values["part_temp_c"],
            gauge_temp_c=values["gauge_temp_c"], temp_u_c=values["temp_u_c"],
            text=request.POST.get("value", "").strip(), source=values["source"],
            client_id=values["client_id"], piece=page.piece,
        )  # fmt: skip
    except JobClosed as refused:
        return STEP_VIEWS["check"](request, page, {"refused": str(refused)})
    return saved(request, number, "check")


@require_POST
def log_depth(request: HttpRequest, number: str) -> HttpResponse:
    """Log the depth of a shoulder."""
    page = page_for(request, number)
    form = DepthForm(request.POST, units=page.units, bore=page.bore)
    if not page.bore_row.has_shoulder:
        raise Http404
    if not form.is_valid():
        return STEP_VIEWS["check"](request, page, {"depth_form": form})
    values = form.cleaned_data
    try:
        inspection.log_depth(
            user=member(request), bore=page.bore_row, gauge=values["gauge"], value_mm=values["value_mm"],
            text=request.POST.get("value", "").strip(), source=values["source"], client_id=values["client_id"],
            piece=page.piece,
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
    """The lead signs the verdict that was shown; anything but "in limits" is a concession with its reason."""
    page = page_for(request, number)

    def refuse(why: str) -> HttpResponse:
        return STEP_VIEWS["check"](request, page_for(request, number), {
            "refused": why, "reason": request.POST.get("reason", "")})  # fmt: skip

    waiting = plates.first_waiting(page)
    if waiting:
        return refuse(f"Incomplete: measure what is missing{waiting} before you sign.")
    try:
        inspection.sign_off(
            user=member(request), job=page.job, shown=request.POST.get("digest", ""),
            judge=lambda: signed_verdict(open_page(number, page.units, whole=True).assessment),
            reason=request.POST.get("reason", "")[:300],
        )  # fmt: skip
    except JobClosed as refused:
        return refuse(str(refused))
    except inspection.NotAllowed:
        return refuse("Only the lead signs a verdict.")
    except inspection.ShownOtherwise:
        progress.keep(open_page(number, page.units, whole=True))
        return refuse("The log has changed since this page was shown: look at the verdict again, then sign.")
    except inspection.NoReason:
        return refuse("Accepted by concession: give the reason, it is kept with your name.")
    return saved(request, number, "check")
