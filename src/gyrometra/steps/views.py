"""The six steps. A view joins form, service, figures and template; it decides nothing."""

from __future__ import annotations

import uuid
from collections.abc import Callable, Sequence
from typing import Any

from django import forms
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from gyrometra.accounts.people import member
from gyrometra.bridge.units import Units
from gyrometra.crib.models import Cutter, Gauge, Head, Indicator, Machine
from gyrometra.cutting import services as cutting
from gyrometra.cutting.models import CutEntry
from gyrometra.inspection import services as inspection
from gyrometra.jobs import services as jobs
from gyrometra.jobs.models import Job
from gyrometra.jobs.permissions import ChangedMeanwhile, JobClosed, can_sign_verdict
from gyrometra.steps import plates, progress, scenes
from gyrometra.steps.forms import (
    BAR_FORMS,
    BoreForm,
    CheckSizeForm,
    CutsForm,
    EntryForm,
    GuardForm,
    PassSetForm,
    PassSizeForm,
    PlanForm,
    ReadingForm,
    RemarkForm,
    RoundForm,
    WorkForm,
    work_initial,
)
from gyrometra.steps.page import JobPage, open_page, page_of
from gyrometra.truing import services as truing
from gyrometra.truing.models import Round
from gyrometra.truing.rounds import RoundView


def _page(request: HttpRequest, number: str) -> JobPage:
    place, piece = (request.GET.get(name, "")[:6] for name in ("bore", "piece"))
    units = Units(member(request).unit)
    try:
        return open_page(number, units, int(place) if place.isdigit() else None, int(piece) if piece.isdigit() else 1)
    except Job.DoesNotExist:
        raise Http404(f"There is no job {number}.") from None


def _show(request: HttpRequest, page: JobPage, step: str, extra: dict[str, Any]) -> HttpResponse:
    """One step, whole or as the part that htmx swaps."""
    context = {
        "page": page,
        "job": page.job,
        "step": step,
        "way": page.job.setup.way,
        "rail": plates.rail(page, step),
        "cautions": page.cautions(step),
        "can_sign": can_sign_verdict(member(request)),
        "fresh_id": uuid.uuid4,
        **extra,
    }
    context["base"] = "pages/bare.html" if request.htmx else "pages/base.html"  # type: ignore[attr-defined]
    return render(request, f"steps/{step}.html", context)


def _saved(request: HttpRequest, number: str, step: str, page: JobPage | None = None) -> HttpResponse:
    """After a change: the stations are worked out again, and the step is shown as it stands now."""
    page = page or _page(request, number)
    progress.keep(page)
    if request.htmx:  # type: ignore[attr-defined]
        return _VIEWS[step](request, page, {})
    return redirect(reverse("step", args=(number, step)) + page.query)


@require_http_methods(["GET", "POST"])
def new_job(request: HttpRequest) -> HttpResponse:
    """A new job from what came in."""
    user = member(request)
    units = Units(user.unit)
    form = WorkForm(request.POST or None, units=units)
    if request.method == "POST" and form.is_valid():
        job = jobs.create_job(user=user, work=form.work())
        progress.keep(_page(request, job.number))
        return redirect("step", number=job.number, step="work")
    machines = Machine.objects.filter(retired=False).exists()
    context = {"form": form, "has_machine": machines, "ghost": plates.ghost_rail()}
    return render(request, "steps/new.html", context)


@require_GET
def step(request: HttpRequest, number: str, step: str) -> HttpResponse:
    """One of the six steps."""
    if step not in _VIEWS:
        raise Http404
    return _VIEWS[step](request, _page(request, number), {})


def _work(request: HttpRequest, page: JobPage, extra: dict[str, Any]) -> HttpResponse:
    form = extra.pop("form", None) or WorkForm(
        units=page.units, initial=work_initial(page.bore, page.units), bore=page.bore
    )
    shown = {
        "form": form,
        "bands": scenes.work_scenes(page),
        "plates": plates.work(page),
        "bore_form": BoreForm(units=page.units, like=page.bore),
        "ways": plates.ways(page),
        "packing": plates.packing_words(page),
    }
    return _show(request, page, "work", {**shown, **extra})


@require_POST
def add_bore(request: HttpRequest, number: str) -> HttpResponse:
    """One more bore in line, like the one that is shown."""
    page = _page(request, number)
    form = BoreForm(request.POST, units=page.units, like=page.bore)
    if not form.is_valid():
        return _work(request, page, {"bore_form": form})
    try:
        bore = jobs.add_bore(
            user=member(request), like=page.bore, version=_version(request), typed=form.typed(), **form.cleaned_data
        )
    except (JobClosed, ChangedMeanwhile) as refused:
        return _work(request, page, {"bore_form": form, "refused": str(refused)})
    return _saved(request, number, "work", open_page(number, page.units, bore.place))


@require_POST
def remove_bore(request: HttpRequest, number: str) -> HttpResponse:
    """Take the bore that is shown out of the line."""
    page = _page(request, number)
    try:
        jobs.remove_bore(user=member(request), bore=page.bore, version=_version(request))
    except (JobClosed, ChangedMeanwhile, jobs.StillNeeded) as refused:
        return _work(request, page, {"refused": str(refused)})
    return _saved(request, number, "work", open_page(number, page.units))


@require_POST
def save_work(request: HttpRequest, number: str) -> HttpResponse:
    """Change what is to be bored."""
    page = _page(request, number)
    form = WorkForm(request.POST, units=page.units, bore=page.bore)
    if not form.is_valid():
        return _work(request, page, {"form": form, "stale": True})
    try:
        job = jobs.change_work(user=member(request), bore=page.bore, version=_version(request), work=form.work())
    except (JobClosed, ChangedMeanwhile) as refused:
        return _work(request, page, {"form": form, "refused": str(refused)})
    answer = _saved(request, job.number, "work")
    if job.number != number:
        answer["HX-Push-Url"] = reverse("step", args=(job.number, "work"))
    return answer


def _version(request: HttpRequest) -> int:
    text = request.POST.get("version", "")
    return int(text) if text.isdigit() else 0


def _plan_form(page: JobPage, form: type[PlanForm]) -> PlanForm:
    made = form(units=page.units, bore=page.bore)
    made.initial = made.initial_for()
    return made


def _bar_form(page: JobPage) -> type[PlanForm]:
    return BAR_FORMS[page.job.setup.method]


def _bar(request: HttpRequest, page: JobPage, extra: dict[str, Any]) -> HttpResponse:
    form = extra.pop("form", None) or _plan_form(page, _bar_form(page))
    shown = {
        "form": form,
        "has_head": page.job.setup.method != "head" or Head.objects.filter(retired=False).exists(),
        "holes": plates.hole_rows(page),
        "table": plates.line_table(page),
        "opening": plates.opening_line(page),
        "tuning": plates.tuning_line(page),
        "bands": scenes.bar_scenes(page),
        "rows": plates.bar_rows(page),
        "plates": plates.bar(page),
        "has_cutter": Cutter.objects.filter(retired=False).exists(),
        "has_line_bar": bool(page.reckoning.bars),
        "has_bar": bool(page.bars),
    }
    return _show(request, page, "bar", {**shown, **extra})


def _cuts(request: HttpRequest, page: JobPage, extra: dict[str, Any]) -> HttpResponse:
    form = extra.pop("form", None) or _plan_form(page, CutsForm)
    shown = {
        "form": form,
        "bands": scenes.cuts_scenes(page),
        "rows": plates.pass_rows(page),
        "plates": plates.cuts(page),
        "totals": plates.cut_totals(page),
    }
    return _show(request, page, "cuts", {**shown, **extra})


def _save_plan(request: HttpRequest, number: str, step: str) -> HttpResponse:
    page = _page(request, number)
    form_class = _bar_form(page) if step == "bar" else CutsForm
    form = form_class(request.POST, units=page.units, bore=page.bore)
    if not form.is_valid():
        return _VIEWS[step](request, _page(request, number), {"form": form, "stale": True})
    try:
        jobs.change_plan(
            user=member(request),
            job=page.job,
            version=_version(request),
            values=form.cleaned_data,
            typed=form.typed(),
        )
    except (JobClosed, ChangedMeanwhile) as refused:
        fresh = _page(request, number)
        return _VIEWS[step](request, fresh, {"form": form, "refused": str(refused), "stale": True})
    return _saved(request, number, step, page_of(page.job, page.units, page.bore.place, page.piece))


@require_POST
def save_bar(request: HttpRequest, number: str) -> HttpResponse:
    """Change reach, spring, bar or cutter."""
    return _save_plan(request, number, "bar")


@require_POST
def save_cuts(request: HttpRequest, number: str) -> HttpResponse:
    """Change speeds, feeds, depths or passes."""
    return _save_plan(request, number, "cuts")


def _correcting(request: HttpRequest, views: Sequence[RoundView]) -> int | None:
    """The read cell that the person has opened again, where there is one."""
    text = request.GET.get("place", "") if request.method == "GET" else ""
    place = int(text) if text.isdigit() else -1
    return place if views and place in views[-1].by_place and not views[-1].is_closed else None


def _true(request: HttpRequest, page: JobPage, extra: dict[str, Any]) -> HttpResponse:
    correct = _correcting(request, page.rounds)
    shown = plates.true(page, correct)
    shown["correcting"] = correct is not None
    shown["form"] = ReadingForm(units=page.units)
    shown["round_form"] = RoundForm(units=page.units, initial=plates.round_initial(page.rounds, page.units))
    shown["has_indicator"] = Indicator.objects.filter(retired=False).exists()
    return _show(request, page, "true", {**shown, **extra})


@require_POST
def begin_round(request: HttpRequest, number: str, purpose: str) -> HttpResponse:
    """Begin the next round of readings."""
    page = _page(request, number)
    step = "true" if purpose == Round.Purpose.TRUE else "check"
    form = RoundForm(request.POST, units=page.units)
    if not form.is_valid():
        return _VIEWS[step](request, page, {"round_form": form})
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
        return _VIEWS[step](request, page, {"refused": str(refused)})
    return _saved(request, number, step)


def _round_view(page: JobPage, purpose: str) -> RoundView:
    views = page.rounds if purpose == Round.Purpose.TRUE else page.judged.runout_rounds
    if not views:
        raise Http404
    return views[-1]


@require_POST
def log_reading(request: HttpRequest, number: str, purpose: str) -> HttpResponse:
    """Log one reading of the open round."""
    page = _page(request, number)
    step = "true" if purpose == Round.Purpose.TRUE else "check"
    view = _round_view(page, purpose)
    form = ReadingForm(request.POST, units=page.units, round=view.round)
    if not form.is_valid():
        return _VIEWS[step](request, page, {"form": form})
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
        return _VIEWS[step](request, page, {"form": form, "taken": values["place"]})
    except JobClosed as refused:
        return _VIEWS[step](request, page, {"refused": str(refused)})
    return _saved(request, number, step)


@require_POST
def take_back(request: HttpRequest, number: str, step: str) -> HttpResponse:
    """Withdraw the last entry of a step's log; it stays there, crossed out."""
    page = _page(request, number)
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
        return _VIEWS[step](request, page, {"refused": str(refused)})
    return _saved(request, number, step)


def _bore(request: HttpRequest, page: JobPage, extra: dict[str, Any]) -> HttpResponse:
    shown = plates.bore(page)
    shown["size_form"] = PassSizeForm(units=page.units, bore=page.bore)
    shown["guard_form"] = GuardForm()
    shown["gauges"] = Gauge.objects.measuring(page.bore.lower_mm)
    return _show(request, page, "bore", {**shown, **extra})


@require_POST
def log_cut(request: HttpRequest, number: str, kind: str) -> HttpResponse:
    """Log a guard step, a setting, a size or a remark."""
    page = _page(request, number)
    makers: dict[str, tuple[Callable[[], forms.Form], str]] = {
        "guard": (lambda: GuardForm(request.POST), "guard_form"),
        "set": (lambda: PassSetForm(request.POST), "set_form"),
        "size": (lambda: PassSizeForm(request.POST, units=page.units, bore=page.bore), "size_form"),
        "remark": (lambda: RemarkForm(request.POST), "remark_form"),
    }
    if kind not in makers:
        raise Http404
    make, name = makers[kind]
    form = make()
    if not form.is_valid():
        return _bore(request, page, {name: form})
    try:
        if kind == "set" and form.cleaned_data["through"]:
            cutting.log_settings(
                user=member(request), bore=page.bore, client_id=form.cleaned_data["client_id"],
                source=form.cleaned_data["source"], piece=page.piece,
                settings=plates.bundle_values(page, form.cleaned_data["through"]),
            )  # fmt: skip
            return _saved(request, number, "bore")
        values = plates.cut_values(page, kind, form.cleaned_data, request.POST.get("value", ""))
        cutting.log_cut(user=member(request), bore=page.bore, piece=page.piece, kind=CutEntry.Kind(kind), **values)
    except JobClosed as refused:
        return _bore(request, page, {"refused": str(refused)})
    return _saved(request, number, "bore")


def _check(request: HttpRequest, page: JobPage, extra: dict[str, Any]) -> HttpResponse:
    shown = plates.check(page)
    shown["bands"] = scenes.check_scenes(page, shown["angles"])
    shown["form"] = ReadingForm(units=page.units)
    shown["size_form"] = CheckSizeForm(units=page.units, bore=page.bore)
    shown["round_form"] = RoundForm(
        units=page.units, initial=plates.round_initial(page.judged.runout_rounds, page.units)
    )
    shown["gauges"] = Gauge.objects.measuring(page.bore.lower_mm)
    shown["has_indicator"] = Indicator.objects.filter(retired=False).exists()
    return _show(request, page, "check", {**shown, **extra})


@require_POST
def log_size(request: HttpRequest, number: str) -> HttpResponse:
    """Log one size of the finished bore."""
    page = _page(request, number)
    form = CheckSizeForm(request.POST, units=page.units, bore=page.bore)
    if not form.is_valid():
        return _check(request, page, {"size_form": form})
    values = form.cleaned_data
    try:
        inspection.log_size(
            user=member(request), bore=page.bore, gauge=values["gauge"], z_mm=values["z"],
            angle_deg=values["angle_deg"], value_mm=values["value_mm"], part_temp_c=values["part_temp_c"],
            text=request.POST.get("value", "").strip(), source=values["source"],
            client_id=values["client_id"], repeat=values["repeat"], piece=page.piece,
        )  # fmt: skip
    except JobClosed as refused:
        return _check(request, page, {"refused": str(refused)})
    return _saved(request, number, "check")


@require_POST
def drop_answer(request: HttpRequest, number: str, pk: int) -> HttpResponse:
    """Take a kept answer of a bench line back."""
    page = _page(request, number)
    kept = next((answer for answer in page.kept_answers if answer.pk == pk), None)
    form = EntryForm(request.POST)
    if kept is not None and form.is_valid():
        try:
            jobs.drop_answer(user=member(request), job=page.job, kept=kept, client_id=form.cleaned_data["client_id"])
        except JobClosed as refused:
            return _show(request, page, "work", {"refused": str(refused)})
    return redirect("step", number, "work")


@require_POST
def sign(request: HttpRequest, number: str) -> HttpResponse:
    """The lead signs the verdict."""
    page = _page(request, number)
    waiting = plates.first_waiting(page)
    if waiting:
        return _check(request, page, {"refused": f"Incomplete: measure what is missing{waiting} before you sign."})
    try:
        inspection.sign_off(user=member(request), job=page.job, verdict=plates.signed_verdict(page, timezone.now()))
    except JobClosed as refused:
        return _check(request, page, {"refused": str(refused)})
    except inspection.NotAllowed:
        return _check(request, page, {"refused": "Only the lead signs a verdict."})
    return _saved(request, number, "check")


_VIEWS: dict[str, Callable[[HttpRequest, JobPage, dict[str, Any]], HttpResponse]] = {
    "work": _work, "bar": _bar, "cuts": _cuts, "true": _true, "bore": _bore, "check": _check,
}  # fmt: skip
