"""Views of True: the rounds of readings are logged by `steps.rounds`."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Any
from uuid import uuid5

from django.http import Http404, HttpRequest, HttpResponse
from django.views.decorators.http import require_POST

from gyrometra.crib.models import Indicator
from gyrometra.jobs.entries import Sent
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.entries import EntryForm
from gyrometra.steps.shared.entry_view import entry_view, sent_by
from gyrometra.steps.shared.linked import linked
from gyrometra.steps.shared.plan_form import PlanForm
from gyrometra.steps.shared.plan_view import plan_form, save_plan
from gyrometra.steps.shared.preflight import machine_lines
from gyrometra.steps.shared.seen import Changed
from gyrometra.steps.shared.view import show
from gyrometra.steps.true.because import because_of
from gyrometra.steps.true.bound import reopened_words
from gyrometra.steps.true.coaxial import tries_of, tries_typed
from gyrometra.steps.true.face import FaceForm, face_on_true
from gyrometra.steps.true.form import CentredForm, ReadingForm, RoundForm
from gyrometra.steps.true.line import DroopForm, line_on_true, missing_words
from gyrometra.steps.true.moved import moved_form, told_of
from gyrometra.steps.true.plates import round_initial, true
from gyrometra.steps.true.start import start_on_true
from gyrometra.steps.true.tilt import WallForm, tilt_on_true, walls_on_true
from gyrometra.truing import services as truing
from gyrometra.truing.models import Between
from gyroplan.assess import RoundStanding, is_by_face, is_moved_at_bearings, moved_by


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
    shown["round_form"] = RoundForm(
        units=page.units, initial=round_initial(page, page.truing.rounds), way=page.record.setup.way
    )
    shown["centred_form"] = CentredForm(units=page.units)
    shown["tries"] = tries_of(request.POST or None, page.units)
    shown["reopened"] = reopened_words(page)
    shown["hows"] = Between.How.choices
    shown["moved_form"] = moved_form(page)
    indicator = Indicator.objects.filter(retired=False).first()
    shown["has_indicator"] = indicator is not None
    if is_moved_at_bearings(page.assessment):
        refused = extra.pop("form", None) if isinstance(extra.get("form"), DroopForm) else None
        droop = page.record.setup.plan.droop_mm
        shown |= {"line": line_on_true(page), "line_missing": missing_words(page), "round_notes": [],
                  "droop_words": page.units.planned(droop) if droop else "0",
                  "droop_form": refused or plan_form(page, DroopForm)}  # fmt: skip
    if is_by_face(page.assessment):
        refused = extra.pop("form", None) if isinstance(extra.get("form"), FaceForm) else None
        shown |= {"level": face_on_true(page), "by_face": True, "face_form": refused or plan_form(page, FaceForm)}
    if page.truing.walls is not None or page.record.setup.reference == "wall":
        refused = extra.pop("form", None) if isinstance(extra.get("form"), WallForm) else None
        shown |= {"walls": walls_on_true(page), "face_form": refused or plan_form(page, WallForm)}
    shown["tilt"] = tilt_on_true(page)
    if not page.truing.rounds:
        shown |= {"start_lines": machine_lines(page), "mode": "start"}
    shown["start"] = start_on_true(page, indicator)
    told_else = shown["parts"] or shown.get("walls") or shown.get("line")
    shown["folded"] = bool(shown["lines"]) and not shown["open_round"] and bool(told_else)
    shown["go_on"] = go_on_from(page, shown)
    shown["because"] = because_of(page, shown)
    shown |= linked(page, page.truing.open_round)
    shown["moved"], shown["words"] = _begin_words(page, shown)
    return show(request, page, "true", {**shown, **extra})


def go_on_from(page: JobPage, shown: dict[str, Any]) -> dict[str, str]:
    """Whether the work is true enough to be bored, and what that rests on; empty for not yet."""
    line = shown.get("line")
    if shown["open_round"] is not None or not (page.truing.within or (line is not None and line.within)):
        return {}
    tilt = shown["tilt"]
    return {"words": ", true in one plane" if tilt is not None and len(tilt.planes) == 1 else ""}


def _begin_words(page: JobPage, shown: dict[str, Any]) -> tuple[str, str]:
    """What the next round is after: a move that was told, a plane that waits, or a check; `yes` logs the move."""
    line, walls, tilt = shown.get("line"), shown.get("walls"), shown["tilt"]
    walls = walls if walls is not None and page.truing.rounds[-1].round.is_walls else None
    if walls is not None and walls.lean and not walls.within:
        return "yes", "Moves made: read the walls again"
    if shown["moves"] or (line is not None and not line.within):
        return "yes", "Moves made, sweep again"
    standing = page.truing.standing
    if standing is not None and standing.within and not page.truing.within:
        return ("yes", "Tapped: sweep again") if tilt is not None and tilt.tap else ("", "Sweep the other plane")
    if page.truing.within:
        return "", "Check it again"
    return "", "Run along the walls" if page.record.setup.reference == "wall" else "Start a sweep"


@require_POST
def save_true(request: HttpRequest, number: str) -> HttpResponse:
    """Change how far the indicator's arm droops, or on which circles a face is read and held."""
    return save_plan(request, number, "true", show_true, _plan_form_of)


def _plan_form_of(page: JobPage) -> type[PlanForm]:
    if is_by_face(page.assessment):
        return FaceForm
    return DroopForm if is_moved_at_bearings(page.assessment) else WallForm


@entry_view(lambda **_: ("true", show_true))
def log_between(request: HttpRequest, page: JobPage, kind: str) -> dict[str, Any] | None:
    """Log that the jaws were moved as told, or that the work was disturbed."""
    how = request.POST.get("how", "")
    if kind not in Between.Kind.values or (how and how not in Between.How.values):
        raise Http404
    really: tuple[float, float] | tuple[()] = ()
    if kind == Between.Kind.MOVED and "really_0" in request.POST:
        form, told = moved_form(page, request.POST), told_of(page)
        if form is None or told is None:
            raise Changed("Nothing is told to move any more: look at the round again.")
        if not form.is_valid():
            return {"moved_form": form}
        really = moved_by(told, form.cleaned_data["amounts_mm"])
    sent = sent_by(request, EntryForm.of(request.POST))
    truing.log_between(
        sent=sent, setup=page.job.setup, kind=kind,
        bore=page.bore_row if page.job.setup.way.several else None, piece=page.piece, how=how, really_mm=really,
    )  # fmt: skip
    tell_other_bores(page, sent, kind, how)
    return None


@entry_view(lambda **_: ("true", show_true))
def log_centred(request: HttpRequest, page: JobPage) -> dict[str, Any] | None:
    """Log that the work was centred by eye, over a plug, with a coaxial indicator or an edge-finder."""
    form = CentredForm(request.POST, units=page.units)
    if not form.is_valid():
        return {"centred_form": form}
    values, tries = (
        form.cleaned_data,
        tries_typed(request.POST, page.units) if form.cleaned_data["how"] == "coaxial" else {},
    )
    truing.log_centred(
        sent=sent_by(request, EntryForm.of(request.POST)), setup=page.job.setup, how=values["how"],
        bound_mm=values["found"].bound_mm, values={**values["numbers"], **tries},
        bore=page.bore_row if page.job.setup.way.several else None, piece=page.piece,
    )  # fmt: skip
    return None


def tell_other_bores(page: JobPage, sent: Sent, kind: str, how: str = "") -> None:
    """The bar is one: moved or disturbed for one bore it is so for every bore that was swept from it."""
    if not page.job.setup.way.several:
        return
    for one in page.each:
        if one.place != page.place and one.truing.rounds:
            own = replace(sent, client_id=uuid5(sent.client_id, f"{kind} {one.place}"))
            truing.log_between(sent=own, setup=page.job.setup, kind=kind, bore=one.bore_row, piece=page.piece, how=how)
