"""Views of Bore: the pass in hand, and the cutting log."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any
from uuid import uuid5

from django.http import Http404, HttpRequest, HttpResponse

from gyrometra.accounts.people import member
from gyrometra.crib.models import Gauge
from gyrometra.cutting import services as cutting
from gyrometra.cutting.models import CutEntry
from gyrometra.steps.bore.acts import NotRead, act_of, rests_on, size_act
from gyrometra.steps.bore.chance import chance_plate
from gyrometra.steps.bore.form import ActForm, DivisionForm, PassSizeForm, RemarkForm, SeenForm
from gyrometra.steps.bore.pair import log_with_it
from gyrometra.steps.bore.plates import bore, guards_due
from gyrometra.steps.habits import habit
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.entries import EntryForm
from gyrometra.steps.shared.entry_view import entry_view, sent_by
from gyrometra.steps.shared.fine import fine_words, waiting_words
from gyrometra.steps.shared.linked import linked_gauge
from gyrometra.steps.shared.seen import Changed, require_passes, require_state, require_unchanged, seen_by
from gyrometra.steps.shared.view import show
from gyroplan.loop import Act, Touched, TouchOff, Zero


def show_bore(request: HttpRequest, page: JobPage, extra: dict[str, Any]) -> HttpResponse:
    to = request.GET.get("to", "") if request.method == "GET" else ""
    shown = bore(page, to)
    shown["size_form"] = PassSizeForm(units=page.units, bore=page.bore)
    shown["gauges"] = Gauge.objects.measuring(page.bore.lower_mm)
    shown["chance"] = chance_plate(page, habit(page, list(shown["gauges"]), member(request).username))
    if shown.get("mode") == "measure":
        last = page.cuts_logged.last_size
        used = last.gauge_id if last is not None else None
        shown["fine"] = fine_words(page, shown["gauges"], member(request).username, used)
        shown["waiting"] = _waiting(page)
        shown |= linked_gauge(page, shown["gauges"])
    return show(request, page, "bore", {**shown, **extra})


def _waiting(page: JobPage) -> str:
    """How long a warm part waits, where the size in hand was read warm."""
    last = page.cuts_logged.last_size
    if last is None or not page.cuts_logged.rows or page.cuts_logged.rows[-1] != last:
        return ""
    return waiting_words(page, float(last.part_temp_c), float(last.gauge_temp_c))


def _header(request: HttpRequest, page: JobPage, values: dict[str, Any], text: str = "") -> cutting.Header:
    return cutting.Header(sent=sent_by(request, values, text.strip()), bore=page.bore_row, piece=page.piece)


def _act(page: JobPage, header: cutting.Header, act: Act, values: dict[str, Any] | None = None) -> None:
    """Log an act: the page was read under the job's lock."""
    planned = (page.passes.work, page.at.log.planned_last)
    cutting.log_act(header=header, act=act, planned=lambda: planned, values=values)
    log_with_it(page, header, act)


@entry_view(lambda **_: ("bore", show_bore))
def log_cut(request: HttpRequest, page: JobPage, kind: str) -> dict[str, Any] | None:
    """Log a setting, a cut, a size, a remark, what was seen, a touched tool, a touch-off or a zeroed dial."""
    if kind not in _CUT_KINDS:
        raise Http404
    return _CUT_KINDS[kind](request, page)


def _set_or_cut(request: HttpRequest, page: JobPage, *, cut: bool) -> dict[str, Any] | None:
    require_state(seen_by(request), page)
    form = ActForm(request.POST)
    if not form.is_valid():
        return {"act_form": form}
    values = form.cleaned_data
    missing = _guards_missing(request, page)
    kept = {"ticked": request.POST.getlist("guard"), "typed_actual": values["actual"]}
    values["actual"] = values["actual"] or request.POST.get("habit", "")[:60]
    if missing and (not cut or values["through"]):
        return {**kept, "refused": f"Before power: {missing}. Tick it when it is done."}
    if page.boring.rests_until is not None and not cut:
        return {"refused": "Roughed work still rests: the finish passes wait."}
    try:
        act = act_of(page, values, cut=cut)
    except NotRead as refused:
        return {**kept, "refused": str(refused)}
    header = _header(request, page, values)
    guards = [guard.name for guard in guards_due(page) if guard.name in request.POST.getlist("guard")]
    _act(page, header, act, rests_on(page, values["number"]))
    if guards:
        text = ", ".join(guards)[:60]
        sent = replace(header.sent, client_id=uuid5(header.sent.client_id, "guard"), text=text)
        cutting.log_note(header=replace(header, sent=sent), kind=CutEntry.Kind.GUARD)
    return None


def _guards_missing(request: HttpRequest, page: JobPage) -> str:
    """The first step before power that is due and not ticked."""
    return next((guard.words for guard in guards_due(page) if guard.name not in request.POST.getlist("guard")), "")


def _bore_size(request: HttpRequest, page: JobPage) -> dict[str, Any] | None:
    require_passes(seen_by(request), page)
    rows, known = page.cuts_logged.rows, page.passes.known_mm
    joins = known if rows and rows[-1].kind == CutEntry.Kind.SIZE else None
    form = PassSizeForm(request.POST, units=page.units, bore=page.bore, expected_mm=known, joins_mm=joins)
    if not form.is_valid():
        return {"size_form": form}
    values, text = form.cleaned_data, request.POST.get("value", "")
    require_unchanged(seen_by(request), values["gauge"])
    act, kept = size_act(page, values, member(request).username)
    _act(page, _header(request, page, values, text), act, kept)
    return None


def _require_pass(page: JobPage, number: int) -> None:
    """Refuse words on a pass that is not planned any more; raises Changed."""
    if number > page.passes.count:
        raise Changed(f"There is no pass {number} any more: {page.passes.count} are planned.")


def _remark(request: HttpRequest, page: JobPage) -> dict[str, Any] | None:
    form = RemarkForm(request.POST)
    if not form.is_valid():
        return {"remark_form": form}
    values = form.cleaned_data
    _require_pass(page, values["number"])
    cutting.log_note(
        header=_header(request, page, values), kind=CutEntry.Kind.REMARK, number=values["number"],
        sound=values["sound"], look=values["look"],
    )  # fmt: skip
    return None


def _seen(request: HttpRequest, page: JobPage) -> dict[str, Any] | None:
    form = SeenForm(request.POST)
    if not form.is_valid():
        return {"seen_form": form}
    values = form.cleaned_data
    _require_pass(page, values["number"])
    cutting.log_note(
        header=_header(request, page, values, values["words"]), kind=CutEntry.Kind.SEEN, number=values["number"],
        chips=values["chips"], coolant=values["coolant"], edge=values["edge"],
    )  # fmt: skip
    return None


def _touched(request: HttpRequest, page: JobPage) -> dict[str, Any] | None:
    require_state(seen_by(request), page)
    _act(page, _header(request, page, EntryForm.of(request.POST)), Touched())
    return None


def _on_dial(request: HttpRequest, page: JobPage, *, touch_off: bool) -> dict[str, Any] | None:
    require_state(seen_by(request), page)
    form = DivisionForm(request.POST)
    if not form.is_valid():
        return {"refused": next(iter(form.errors.values()))[0]}
    values = form.cleaned_data
    number = None if values["at_division"] is None else float(values["at_division"])
    act: Act = TouchOff(at_division=number) if touch_off else Zero(at_division=number or 0.0)
    _act(page, _header(request, page, values), act)
    return None


_CUT_KINDS: dict[str, Callable[[HttpRequest, JobPage], dict[str, Any] | None]] = {
    "set": lambda request, page: _set_or_cut(request, page, cut=False),
    "cut": lambda request, page: _set_or_cut(request, page, cut=True),
    "size": _bore_size,
    "remark": _remark,
    "seen": _seen,
    "touched": _touched,
    "touch-off": lambda request, page: _on_dial(request, page, touch_off=True),
    "zero": lambda request, page: _on_dial(request, page, touch_off=False),
}
