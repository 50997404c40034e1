"""Logging of rounds: of the truing, and of the finished bore's sweep; and what is taken back of any log."""

from __future__ import annotations

from dataclasses import replace
from typing import Any
from uuid import uuid5

from django.http import Http404, HttpRequest

from gyrometra.cutting import services as cutting
from gyrometra.inspection import services as inspection
from gyrometra.steps.bore.pair import take_back_with_it
from gyrometra.steps.bore.view import show_bore
from gyrometra.steps.check.view import show_check
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.entries import EntryForm
from gyrometra.steps.shared.entry_view import Shown, entry_view, sent_by
from gyrometra.steps.shared.seen import Changed, named, require_unchanged, seen_by
from gyrometra.steps.shared.view import StepView
from gyrometra.steps.true.before import ticked_of
from gyrometra.steps.true.form import ReadingForm, RoundForm, logged_text
from gyrometra.steps.true.view import show_true, tell_other_bores
from gyrometra.steps.work.features import part_length_mm
from gyrometra.truing import services as truing
from gyrometra.truing.models import Between, Round

#: The steps that have a log.
VIEWS: dict[str, StepView] = {"true": show_true, "bore": show_bore, "check": show_check}


def _of_purpose(purpose: str) -> Shown:
    """Truing is read on True, the finished bore on Check."""
    if purpose not in Round.Purpose.values:
        raise Http404
    return ("true", show_true) if purpose == Round.Purpose.TRUE else ("check", show_check)


def _of_step(step: str) -> Shown:
    if step not in VIEWS:
        raise Http404
    return step, VIEWS[step]


@entry_view(_of_purpose)
def begin_round(request: HttpRequest, page: JobPage, purpose: str) -> dict[str, Any] | None:
    """Begin the next round of readings; with `moved`, after the jaws were moved as told."""
    check = purpose == Round.Purpose.CHECK
    part = None if page.is_several else part_length_mm(page)
    form = RoundForm(request.POST, units=page.units, part_mm=part, way=page.record.setup.way)
    if not form.is_valid():
        return {"round_form": form}
    values = dict(form.cleaned_data)
    if check:
        values |= {"plane_mm": None, "target_mm": None}
    sent = sent_by(request, {"client_id": values.pop("client_id")})
    of: dict[str, Any] = {"setup": page.job.setup, "piece": page.piece,
          "bore": page.bore_row if check or page.job.setup.way.several else None}  # fmt: skip
    if request.POST.get("moved") == "yes":
        moved = replace(sent, client_id=uuid5(sent.client_id, "moved"))
        truing.log_between(sent=moved, kind=Between.Kind.MOVED, **of)
        if not check:
            tell_other_bores(page, moved, Between.Kind.MOVED)
    truing.open_round(sent=sent, purpose=purpose, ticked=ticked_of(request), **of, **values)
    return None


def _round_read(request: HttpRequest, page: JobPage) -> Round:
    """The round that the page showed; it must be one of this piece."""
    key = seen_by(request).round
    if key is None or key not in page.rows.rounds or page.rows.rounds[key].piece != page.piece:
        raise Changed("The round it was typed for is not there.")
    return page.rows.rounds[key]


@entry_view(_of_purpose)
def log_reading(request: HttpRequest, page: JobPage, purpose: str) -> dict[str, Any] | None:
    """Log one reading of the round that was shown."""
    read = _round_read(request, page)
    if read.purpose != purpose:
        raise Changed("The round it was typed for is read on another page.")
    form = ReadingForm(request.POST, units=page.units, round=read)
    if not form.is_valid():
        return {"form": form}
    require_unchanged(seen_by(request), read.indicator)
    values, text = form.cleaned_data, request.POST.get("value", "").strip()
    try:
        truing.log_reading(
            sent=sent_by(request, values, logged_text(text) if values["value"] is None else text), round=read,
            place=values["place"], value_mm=values["value"], pointed=request.POST.get("pointed", ""),
            correct=request.POST.get("correct") == "yes",
        )  # fmt: skip
    except truing.PlaceTaken:
        return {"form": form, "taken": values["place"]}
    return None


@entry_view(_of_step)
def take_back(request: HttpRequest, page: JobPage, step: str) -> dict[str, Any] | None:
    """Withdraw the entry of a step's log that is named; it stays there, crossed out."""
    sent, undo = sent_by(request, EntryForm.of(request.POST)), named(request, "undo")
    what = request.POST.get("what", "")
    if step == "bore":
        cutting.take_back(sent=sent, bore=page.bore_row, undo=undo, piece=page.piece)
        take_back_with_it(page, sent, undo)
    elif step == "check" and what in ("size", "depth"):
        inspection.take_back(sent=sent, bore=page.bore_row, undo=undo, piece=page.piece, depth=what == "depth")
    elif step == "check" and what == "plug":
        inspection.take_back_plug(sent=sent, bore=page.bore_row, undo=undo, piece=page.piece)
    elif step == "check" and what == "feature":
        inspection.take_back_feature(sent=sent, job=page.job, undo=undo, piece=page.piece)
    elif step == "true" and what == "happened":
        bore = page.bore_row if page.job.setup.way.several else None
        truing.take_back_happened(sent=sent, setup=page.job.setup, bore=bore, piece=page.piece, undo=undo)
    else:
        truing.take_back(sent=sent, round=_round_read(request, page), undo=undo)
    return None
