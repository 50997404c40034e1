"""Views of Bore: the pass in hand, and the cutting log."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import suppress
from dataclasses import replace
from typing import Any
from uuid import uuid5

from django.http import Http404, HttpRequest, HttpResponse
from django.views.decorators.http import require_POST

from gyrocore import error_sentence
from gyrometra.accounts.people import member
from gyrometra.crib.models import Gauge
from gyrometra.cutting import services as cutting
from gyrometra.cutting.models import CutEntry
from gyrometra.jobs.permissions import JobClosed
from gyrometra.steps.bore.acts import NotRead, act_of, rests_on, size_act
from gyrometra.steps.bore.form import ActForm, DivisionForm, PassSizeForm, RemarkForm
from gyrometra.steps.bore.plates import bore, guards_due
from gyrometra.steps.page import JobPage, open_page
from gyrometra.steps.shared.entries import EntryForm
from gyrometra.steps.shared.view import page_for, saved, show
from gyroplan.loop import Act, Touched, TouchOff, Zero
from gyroplan.refusal import Refused


def show_bore(request: HttpRequest, page: JobPage, extra: dict[str, Any]) -> HttpResponse:
    to = request.GET.get("to", "") if request.method == "GET" else ""
    shown = bore(page, to)
    shown["size_form"] = PassSizeForm(units=page.units, bore=page.bore)
    shown["gauges"] = Gauge.objects.measuring(page.bore.lower_mm)
    return show(request, page, "bore", {**shown, **extra})


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
        return show_bore(request, page_for(request, number), {"refused": why})
    except cutting.NothingPlanned:
        return show_bore(request, page, {"refused": "Nothing is planned yet: see Work and Cuts."})
    except JobClosed as refused:
        return show_bore(request, page, {"refused": str(refused)})
    return saved(request, number, "bore", show_bore)


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
        return show_bore(request, page, {"act_form": form})
    values = form.cleaned_data
    missing = _guards_missing(request, page)
    kept = {"ticked": request.POST.getlist("guard"), "typed_actual": values["actual"]}
    if missing and (not cut or values["through"]):
        return show_bore(request, page, {**kept, "refused": f"Before power: {missing}. Tick it when it is done."})
    if page.boring.rests_until is not None and not cut:
        return show_bore(request, page, {"refused": "Roughed work still rests: the finish passes wait."})
    try:
        act = act_of(page, values, cut=cut)
    except NotRead as refused:
        return show_bore(request, page, {**kept, "refused": str(refused)})
    header = _header(request, page, values)
    answer = _act(request, page, header, act, rests_on(page, values["number"]))
    _log_guards(request, page, header)
    return answer


def _guards_missing(request: HttpRequest, page: JobPage) -> str:
    """The first step before power that is due and not ticked."""
    return next((guard.words for guard in guards_due(page) if guard.name not in request.POST.getlist("guard")), "")


def _log_guards(request: HttpRequest, page: JobPage, header: cutting.Header) -> None:
    """Steps that were ticked with a setting are kept with who and when."""
    ticked = [guard.name for guard in guards_due(page) if guard.name in request.POST.getlist("guard")]
    if ticked:
        entry = replace(header, client_id=uuid5(header.client_id, "guard"), text=", ".join(ticked)[:60])
        with suppress(JobClosed):
            cutting.log_note(header=entry, kind=CutEntry.Kind.GUARD, text=entry.text)


def _bore_size(request: HttpRequest, page: JobPage) -> HttpResponse:
    rows, known = page.cuts_logged.rows, page.passes.known_mm
    joins = known if rows and rows[-1].kind == CutEntry.Kind.SIZE else None
    form = PassSizeForm(request.POST, units=page.units, bore=page.bore, expected_mm=known, joins_mm=joins)
    if not form.is_valid():
        return show_bore(request, page, {"size_form": form})
    values, text = form.cleaned_data, request.POST.get("value", "")
    act, kept = size_act(page, values, member(request).username)
    return _act(request, page, _header(request, page, values, text), act, kept)


def _remark(request: HttpRequest, page: JobPage) -> HttpResponse:
    form = RemarkForm(request.POST)
    if not form.is_valid():
        return show_bore(request, page, {"remark_form": form})
    values = form.cleaned_data
    try:
        cutting.log_note(
            header=_header(request, page, values), kind=CutEntry.Kind.REMARK, number=values["number"],
            sound=values["sound"], look=values["look"],
        )  # fmt: skip
    except JobClosed as refused:
        return show_bore(request, page, {"refused": str(refused)})
    return saved(request, page.job.number, "bore", show_bore)


def _touched(request: HttpRequest, page: JobPage) -> HttpResponse:
    form = EntryForm(request.POST)
    if not form.is_valid():
        raise Http404
    return _act(request, page, _header(request, page, form.cleaned_data), Touched())


def _on_dial(request: HttpRequest, page: JobPage, *, touch_off: bool) -> HttpResponse:
    form = DivisionForm(request.POST)
    if not form.is_valid():
        return show_bore(request, page, {"refused": next(iter(form.errors.values()))[0]})
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
