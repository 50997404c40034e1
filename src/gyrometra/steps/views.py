"""The six steps. A view joins form, service, figures and template; it decides nothing."""

from __future__ import annotations

import uuid
from collections.abc import Callable, Sequence
from typing import Any

from django.db import transaction
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from gyrometra.accounts.people import member
from gyrometra.bridge.units import Units
from gyrometra.crib.models import Gauge, Indicator, Machine
from gyrometra.jobs import services as jobs
from gyrometra.jobs.history import change_words
from gyrometra.jobs.models import Job
from gyrometra.jobs.permissions import ChangedMeanwhile, JobClosed, can_sign_verdict
from gyrometra.steps import plates, progress, scenes
from gyrometra.steps.forms import (
    BAR_FORMS,
    BoreForm,
    CheckSizeForm,
    CutsForm,
    PassSizeForm,
    PlanForm,
    ReadingForm,
    RoundForm,
    WorkForm,
    work_initial,
)
from gyrometra.steps.page import JobPage, open_page, page_of
from gyroplan.assess import RoundStanding


def units_of(request: HttpRequest) -> Units:
    """The unit that the page showed when something was typed into it; of a new page the account's own."""
    shown = request.headers.get("X-Unit", "")
    return Units(shown if request.method == "POST" and shown in ("mm", "in") else member(request).unit)


def page_for(request: HttpRequest, number: str, *, held: bool = False) -> JobPage:
    """The job of an address at its bore and piece; `held` until the transaction ends, where it is to be changed."""
    place, piece = (request.GET.get(name, "")[:6] for name in ("bore", "piece"))
    units = units_of(request)
    try:
        return page_of(
            jobs.hold(number) if held else Job.objects.whole().get(number=number), units,
            int(place) if place.isdecimal() else None, int(piece) if piece.isdecimal() else 1,
        )  # fmt: skip
    except Job.DoesNotExist:
        raise Http404(f"There is no job {number}.") from None


def show(request: HttpRequest, page: JobPage, step: str, extra: dict[str, Any]) -> HttpResponse:
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


def saved(request: HttpRequest, number: str, step: str, page: JobPage | None = None) -> HttpResponse:
    """After a change: the stations are worked out again, and the step is shown as it stands now."""
    page = page or page_for(request, number)
    progress.keep(page)
    if request.htmx:  # type: ignore[attr-defined]
        return STEP_VIEWS[step](request, page, {})
    return redirect(reverse("step", args=(number, step)) + page.query)


@require_http_methods(["GET", "POST"])
def new_job(request: HttpRequest) -> HttpResponse:
    """A new job from what came in."""
    user = member(request)
    units = Units(user.unit)
    form = WorkForm(request.POST or None, units=units)
    if request.method == "POST" and form.is_valid():
        job = jobs.create_job(user=user, work=form.work(), unit=form.units.unit)
        progress.keep(page_for(request, job.number))
        return redirect("step", number=job.number, step="work")
    machines = Machine.objects.filter(retired=False).exists()
    context = {"form": form, "has_machine": machines, "ghost": plates.ghost_rail()}
    return render(request, "steps/new.html", context)


@require_GET
def step(request: HttpRequest, number: str, step: str) -> HttpResponse:
    """One of the six steps."""
    if step not in STEP_VIEWS:
        raise Http404
    page = page_for(request, number)
    if page.job.stale:
        progress.refresh(page.job)
        page = page_for(request, number)
    return STEP_VIEWS[step](request, page, {})


#: So many changes are listed on Work, the newest first.
CHANGES_SHOWN = 30


def _work(request: HttpRequest, page: JobPage, extra: dict[str, Any]) -> HttpResponse:
    form = extra.pop("form", None) or WorkForm(
        units=page.units, initial=work_initial(page.bore_row, page.units), bore=page.bore_row
    )
    shown = {
        "form": form,
        "bands": scenes.work_scenes(page),
        "plates": plates.work(page),
        "bore_form": BoreForm(units=page.units, like=page.bore_row),
        "ways": plates.ways(page),
        "packing": plates.packing_words(page),
        "changes": [
            {"at": one.at, "by": one.by.username, "words": change_words(one, page.units)}
            for one in reversed(page.changes[-CHANGES_SHOWN:])
        ],
    }
    return show(request, page, "work", {**shown, **extra})


@require_POST
def add_bore(request: HttpRequest, number: str) -> HttpResponse:
    """One more bore in line, like the one that is shown."""
    page = page_for(request, number)
    form = BoreForm(request.POST, units=page.units, like=page.bore_row)
    if not form.is_valid():
        return _work(request, page, {"bore_form": form})
    try:
        bore = jobs.add_bore(
            user=member(request), like=page.bore_row, version=_version(request), typed=form.typed(), **form.cleaned_data
        )
    except (JobClosed, ChangedMeanwhile) as refused:
        return _work(request, page, {"bore_form": form, "refused": str(refused)})
    return saved(request, number, "work", open_page(number, page.units, bore.place, whole=True))


@require_POST
def remove_bore(request: HttpRequest, number: str) -> HttpResponse:
    """Take the bore that is shown out of the line."""
    page = page_for(request, number)
    try:
        jobs.remove_bore(user=member(request), bore=page.bore_row, version=_version(request))
    except (JobClosed, ChangedMeanwhile, jobs.StillNeeded) as refused:
        return _work(request, page, {"refused": str(refused)})
    return saved(request, number, "work", open_page(number, page.units, whole=True))


@require_POST
def close_job(request: HttpRequest, number: str) -> HttpResponse:
    """Give the job up, with the reason."""
    page, reason = page_for(request, number), request.POST.get("reason", "").strip()[:200]
    if not reason:
        return _work(request, page, {"close_error": "Why is it given up? The reason is kept with your name."})
    try:
        jobs.close_job(user=member(request), job=page.job, version=_version(request), reason=reason)
    except JobClosed as refused:
        return _work(request, page, {"refused": str(refused)})
    except ChangedMeanwhile as refused:
        return _work(request, page, {"close_error": str(refused), "close_reason": reason})
    return saved(request, number, "work")


@require_POST
def reopen_job(request: HttpRequest, number: str) -> HttpResponse:
    """Take a closed job up again."""
    page = page_for(request, number)
    try:
        jobs.reopen_job(user=member(request), job=page.job, version=_version(request))
    except ChangedMeanwhile as refused:
        return _work(request, page, {"refused": str(refused)})
    return saved(request, number, "work")


@require_POST
def save_work(request: HttpRequest, number: str) -> HttpResponse:
    """Change what is to be bored."""
    page = page_for(request, number)
    form = WorkForm(request.POST, units=page.units, bore=page.bore_row)
    if not form.is_valid():
        return _work(request, page, {"form": form, "stale": True})
    try:
        job = jobs.change_work(user=member(request), bore=page.bore_row, version=_version(request), work=form.work())
    except (JobClosed, ChangedMeanwhile) as refused:
        return _work(request, page, {"form": form, "refused": str(refused)})
    # other limits judge every piece anew
    answer = saved(request, job.number, "work", open_page(job.number, page.units, page.place, page.piece, whole=True))
    if job.number != number:
        answer["HX-Push-Url"] = reverse("step", args=(job.number, "work"))
    return answer


def _version(request: HttpRequest) -> int:
    text = request.POST.get("version", "")
    return int(text) if text.isdecimal() and len(text) < 10 else 0


def _plan_form(page: JobPage, form: type[PlanForm]) -> PlanForm:
    made = form(units=page.units, bore=page.bore_row, at=page.at, crib=page.crib)
    made.initial = made.initial_for()
    return made


def _bar_form(page: JobPage) -> type[PlanForm]:
    return BAR_FORMS[page.job.setup.method]


def _bar(request: HttpRequest, page: JobPage, extra: dict[str, Any]) -> HttpResponse:
    form = extra.pop("form", None) or _plan_form(page, _bar_form(page))
    way = page.record.setup.way
    shown = {
        "form": form,
        "has_head": page.record.setup.method != "head" or bool(page.crib.heads),
        "holes": plates.hole_rows(page),
        "table": plates.line_table(page),
        "opening": plates.opening_line(page),
        "packing": plates.packing_words(page),
        "tuning": plates.tuning_line(page),
        "bands": scenes.bar_scenes(page),
        "bar_list": plates.bar_list(page),
        "plates": plates.bar(page),
        "has_cutter": bool(page.crib.cutters),
        "has_line_bar": any(bar.method == way.bars for bar in page.crib_bars),
        "has_bar": bool(page.crib_bars),
    }
    return show(request, page, "bar", {**shown, **extra})


def _cuts(request: HttpRequest, page: JobPage, extra: dict[str, Any]) -> HttpResponse:
    form = extra.pop("form", None) or _plan_form(page, CutsForm)
    shown = {
        "form": form,
        "bands": scenes.cuts_scenes(page),
        "rows": plates.pass_rows(page),
        "plates": plates.cuts(page),
        "totals": plates.cut_totals(page),
    }
    return show(request, page, "cuts", {**shown, **extra})


def _save_plan(request: HttpRequest, number: str, step: str) -> HttpResponse:
    try:
        with transaction.atomic():
            page = page_for(request, number, held=True)
            form_class = _bar_form(page) if step == "bar" else CutsForm
            form = form_class(request.POST, units=page.units, bore=page.bore_row, at=page.at, crib=page.crib)
            if not form.is_valid():
                return STEP_VIEWS[step](request, page, {"form": form, "stale": True})
            changed: list[JobPage] = []

            def keep(_: Job) -> None:
                changed.append(page.replanned())
                progress.work_out(changed[0])

            jobs.change_plan(
                user=member(request), job=page.job, version=_version(request), values=form.plan_values(),
                typed=form.typed(), keep=keep,
            )  # fmt: skip
    except (JobClosed, ChangedMeanwhile) as refused:
        return STEP_VIEWS[step](request, page, {"form": form, "refused": str(refused), "stale": True})
    if request.htmx:  # type: ignore[attr-defined]
        return STEP_VIEWS[step](request, changed[0], {})
    return redirect(reverse("step", args=(number, step)) + page.query)


@require_POST
def save_bar(request: HttpRequest, number: str) -> HttpResponse:
    """Change reach, spring, bar or cutter."""
    return _save_plan(request, number, "bar")


@require_POST
def save_cuts(request: HttpRequest, number: str) -> HttpResponse:
    """Change speeds, feeds, depths or passes."""
    return _save_plan(request, number, "cuts")


def _correcting(request: HttpRequest, views: Sequence[RoundStanding]) -> int | None:
    """The read cell that the person has opened again, where there is one."""
    text = request.GET.get("place", "") if request.method == "GET" else ""
    place = int(text) if text.isdecimal() and len(text) < 6 else -1
    return place if views and place in views[-1].by_place and not views[-1].is_closed else None


def _true(request: HttpRequest, page: JobPage, extra: dict[str, Any]) -> HttpResponse:
    correct = _correcting(request, page.truing.rounds)
    shown = plates.true(page, correct)
    shown["correcting"] = correct is not None
    shown["form"] = ReadingForm(units=page.units)
    shown["round_form"] = RoundForm(units=page.units, initial=plates.round_initial(page, page.truing.rounds))
    shown["has_indicator"] = Indicator.objects.filter(retired=False).exists()
    return show(request, page, "true", {**shown, **extra})


def _bore(request: HttpRequest, page: JobPage, extra: dict[str, Any]) -> HttpResponse:
    to = request.GET.get("to", "") if request.method == "GET" else ""
    shown = plates.bore(page, to)
    shown["size_form"] = PassSizeForm(units=page.units, bore=page.bore)
    shown["gauges"] = Gauge.objects.measuring(page.bore.lower_mm)
    return show(request, page, "bore", {**shown, **extra})


def _check(request: HttpRequest, page: JobPage, extra: dict[str, Any]) -> HttpResponse:
    shown = plates.check(page)
    shown["bands"] = scenes.check_scenes(page, shown["angles"])
    shown["form"] = ReadingForm(units=page.units)
    shown["size_form"] = CheckSizeForm(units=page.units, bore=page.bore)
    shown["round_form"] = RoundForm(units=page.units, initial=plates.round_initial(page, page.sweeps))
    shown["gauges"] = Gauge.objects.measuring(page.bore.lower_mm)
    if page.bore_row.has_shoulder:
        shown["depth_gauges"] = Gauge.objects.measuring(page.bore.depth_lower_mm or 0)
    shown["has_indicator"] = Indicator.objects.filter(retired=False).exists()
    return show(request, page, "check", {**shown, **extra})


STEP_VIEWS: dict[str, Callable[[HttpRequest, JobPage, dict[str, Any]], HttpResponse]] = {
    "work": _work, "bar": _bar, "cuts": _cuts, "true": _true, "bore": _bore, "check": _check,
}  # fmt: skip
