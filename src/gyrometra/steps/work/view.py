"""Views of Work: what came in and what it must become; bores in line; closing; kept answers."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.contrib import messages
from django.db import IntegrityError, transaction
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_http_methods, require_POST

from gyrometra.accounts.people import member, units_shown, words_typed
from gyrometra.crib import starter
from gyrometra.crib.models import Gauge
from gyrometra.jobs import copies
from gyrometra.jobs import services as jobs
from gyrometra.jobs.history import change_words, link_names
from gyrometra.jobs.models import SetUp
from gyrometra.jobs.permissions import ChangedMeanwhile, JobClosed
from gyrometra.jobs.photos import photos_of
from gyrometra.steps import progress
from gyrometra.steps.bush.suited import suited_words
from gyrometra.steps.page import JobPage, open_page
from gyrometra.steps.shared.entries import EntryForm
from gyrometra.steps.shared.fine import fine_words
from gyrometra.steps.shared.plan_form import PlanForm
from gyrometra.steps.shared.plan_view import save_plan
from gyrometra.steps.shared.plate import ghost_rail
from gyrometra.steps.shared.view import StepView, page_for, saved, show, version_of
from gyrometra.steps.sheet import packing_words
from gyrometra.steps.work import begin
from gyrometra.steps.work.feature_view import drop_feature_view, feature_shown, save_feature_view
from gyrometra.steps.work.form import BoreForm, WorkForm
from gyrometra.steps.work.last_time import last_time
from gyrometra.steps.work.places import (
    PANELS,
    as_sent,
    at_query,
    errors_elsewhere,
    opened,
    panel_of,
    place_digest,
    place_links,
    place_rows,
    version_sent,
)
from gyrometra.steps.work.plates import work
from gyrometra.steps.work.scene import whole_scenes
from gyrometra.steps.work.setting_plates import setting_plates
from gyrometra.steps.work.setting_up import FORMS as SETTING_FORMS
from gyrometra.steps.work.setting_up import setting_up
from gyrometra.steps.work.setting_up import shown as shown_setting
from gyrometra.steps.work.setups import SetUpForm, add_setup_view, change_setup_view, setup_rows
from gyrometra.steps.work.shown import work_initial
from gyrometra.steps.work.ways import ways
from gyrometra.steps.work.whole import PlacedBore, clashes, placed_bores, setups_of


@require_http_methods(["GET", "HEAD", "POST"])
def new_job(request: HttpRequest) -> HttpResponse:
    """A new job from six answers; all else follows, or is said now or later."""
    user, units = member(request), units_shown(request)
    if request.method == "POST":
        form = begin.new_form(request.POST, user, units)
        if form.is_valid():
            try:
                job = jobs.create_job(user=user, work=form.work(), unit=form.units.unit)
            except IntegrityError:  # in the same moment another took the number
                form.add_error("number", f"There is already a job {form.cleaned_data['number']}. Give another number.")
            else:
                progress.keep(page_for(request, job.number))
                return redirect("step", number=job.number, step="work")
        _, seen = begin.look(request.POST, user, units)
    else:
        form, seen = WorkForm(initial=begin.last_choices(user), units=units), None
        begin.let_follow(form)
    return render(request, "steps/new.html", {
        **_answers(form, seen), "units": units, "has_machine": bool(form.machines()), "ghost": ghost_rail(),
    })  # fmt: skip


@require_POST
def try_example(request: HttpRequest) -> HttpResponse:
    """A job to look round in, with general figures for whatever the crib has none of; once, however often tapped."""
    user = member(request)
    if begin.has_jobs():
        return redirect("bench")
    try:
        with transaction.atomic():
            if starter.lacking():
                starter.put_in(user=user)
            form = begin.example_form(user)
            job = jobs.create_job(user=user, work=form.work()) if form.is_valid() else None
    except IntegrityError:  # in the same moment another tap made it
        return redirect("bench")
    if job is None:
        messages.warning(request, "The example needs a machine that bores: add one, then try again.")
        return redirect("bench")
    progress.keep(page_for(request, job.number))
    return redirect("step", number=job.number, step="work")


@require_POST
def look_at_new(request: HttpRequest) -> HttpResponse:
    """What the answers of a new job come to so far; nothing is stored."""
    units = units_shown(request)
    form, seen = begin.look(request.POST, member(request), units)
    return render(request, "steps/new_look.html", {**_answers(form, seen), "units": units, "swap": True})


def _answers(form: WorkForm, seen: begin.Look | None) -> dict[str, Any]:
    """The six with the fields behind them; a blank one is not refused before the job is made."""
    return {
        "form": form, "look": seen, "answers": [(name, words, form[name]) for name, words in begin.ANSWERS],
        "open_places": begin.refused_places(form),
    }  # fmt: skip


#: So many changes are listed on Work, the newest first.
CHANGES_SHOWN = 30


def show_work(request: HttpRequest, page: JobPage, extra: dict[str, Any]) -> HttpResponse:
    """The drawing with the open place beside it; under it the list of places, a set-up, the methods, or the history."""
    form = extra.pop("form", None) or WorkForm(
        units=page.units,
        initial=work_initial(page.bore_row, page.units, page.piece),
        bore=page.bore_row,
        piece=page.piece,
    )
    at = extra.pop("at", "") or opened(request, form)
    setups = setups_of(page)
    bores, rows = placed_bores(page, setups), setup_rows(page, setups)
    refused, place = extra.pop("feature_form", None), extra.pop("feature_place", None)
    under = _under(page, at, form, (bores, setups), extra.pop("set_form", None))
    if at == "feature":
        under |= feature_shown(request, page, setups, refused, place)
        if under["feature_place"] is not None:
            under["places"] = place_rows(page, bores, f"feature {under['feature_place']}", setups)
    shown = {
        "at": at, "form": form, "bands": whole_scenes(page, bores, rows, under.get("feature_place")),
        "plates": under.pop("plates", None) or work(page),
        "setup_rows": rows, "links": list(place_links(page, at)),
        "view_query": at_query(page, ""), **under,
    }  # fmt: skip
    if "places" in under and not (page.is_locked or page.record.setup.only_trued):
        gauges = Gauge.objects.measuring(page.bore.lower_mm)
        shown["fine"] = fine_words(page, gauges, member(request).username)
    if at in PANELS:
        shown |= {"panel": panel_of(form, at), "panel_title": _title(page, at),
                  "was": place_digest(page, at), "elsewhere": errors_elsewhere(form, at)}  # fmt: skip
    return show(request, page, "work", {**shown, **extra})


def showing(at: str) -> StepView:
    """Work with that open."""
    return lambda request, page, extra: show_work(request, page, {"at": at, **extra})


def _title(page: JobPage, at: str) -> str:
    if at == "setup":
        return f"Set-up {page.record.setup.letter}"
    return page.bore.name[:1].upper() + page.bore.name[1:] if at == "bore" else PANELS[at][0]


def _under(
    page: JobPage, at: str, form: WorkForm, of: tuple[Sequence[PlacedBore], Sequence[SetUp]],
    refused: tuple[str, PlanForm] | None,
) -> dict[str, Any]:  # fmt: skip
    """What stands under the drawing."""
    bores, setups = of
    if at == "methods":
        return {"ways": ways(page)}
    if at == "add":
        return {"setup_form": SetUpForm(page=page, machines=form.machines())}
    if at == "setup":
        found = setting_up(page)
        return {
            "packing": packing_words(page), "bore_form": BoreForm(units=page.units, like=page.bore_row),
            "last_time": last_time(page), "plates": setting_plates(page, found), **shown_setting(page, found, refused),
        }  # fmt: skip
    if at == "more":
        shown = page.changes[-CHANGES_SHOWN:]
        names = link_names(shown)
        return {"photos": photos_of(page.job), "changes": [
            {"at": one.at, "by": one.by.username, "words": change_words(one, page.units, names)}
            for one in reversed(shown)
        ]}  # fmt: skip
    return {
        "places": place_rows(page, bores, at, setups),
        "clashes": clashes(bores),
        "suits": suited_words(page.job, page),
    }


@require_POST
def add_bore(request: HttpRequest, number: str) -> HttpResponse:
    """One more bore in line, like the one that is shown."""
    page = page_for(request, number)
    form = BoreForm(request.POST, units=page.units, like=page.bore_row)
    if not form.is_valid():
        return show_work(request, page, {"at": "setup", "bore_form": form})
    try:
        bore = jobs.add_bore(
            user=member(request),
            like=page.bore_row,
            version=version_of(request),
            typed=form.typed(),
            **form.cleaned_data,
        )
    except (JobClosed, ChangedMeanwhile) as refused:
        return show_work(request, page, {"at": "setup", "bore_form": form, "refused": str(refused)})
    return saved(
        request,
        number,
        "work",
        showing("setup"),
        open_page(number, page.units, bore.place, setup=page.record.setup.place, whole=True),
        at="setup",
    )


@require_POST
def remove_bore(request: HttpRequest, number: str) -> HttpResponse:
    """Take the bore that is shown out of the line."""
    page = page_for(request, number)
    try:
        jobs.remove_bore(user=member(request), bore=page.bore_row, version=version_of(request))
    except (JobClosed, ChangedMeanwhile, jobs.StillNeeded) as refused:
        return show_work(request, page, {"at": "setup", "refused": str(refused)})
    return saved(
        request,
        number,
        "work",
        showing("setup"),
        open_page(number, page.units, setup=page.record.setup.place, whole=True),
        at="setup",
    )


@require_POST
def close_job(request: HttpRequest, number: str) -> HttpResponse:
    """Give the job up, with the reason."""
    page, reason = page_for(request, number), words_typed(request, "reason", 200)
    if not reason:
        return show_work(
            request, page, {"at": "more", "close_error": "Why is it given up? The reason is kept with your name."}
        )
    try:
        jobs.close_job(user=member(request), job=page.job, version=version_of(request), reason=reason)
    except JobClosed as refused:
        return show_work(request, page, {"at": "more", "refused": str(refused)})
    except ChangedMeanwhile as refused:
        return show_work(request, page, {"at": "more", "close_error": str(refused), "close_reason": reason})
    return saved(request, number, "work", showing("more"), at="more")


@require_POST
def reopen_job(request: HttpRequest, number: str) -> HttpResponse:
    """Take a closed job up again."""
    page = page_for(request, number)
    try:
        jobs.reopen_job(user=member(request), job=page.job, version=version_of(request))
    except (ChangedMeanwhile, jobs.NotLead) as refused:
        return show_work(request, page, {"at": "more", "refused": str(refused)})
    return saved(request, number, "work", showing("more"), at="more")


@require_POST
def copy_job(request: HttpRequest, number: str) -> HttpResponse:
    """The same job once more, for a part that comes again."""
    page = page_for(request, number)
    try:
        made = copies.copy_job(user=member(request), job=page.job, number=begin.next_number())
    except IntegrityError:  # in the same moment another took the number
        return show_work(request, page_for(request, number), {"refused": "Another made a job just now: press again."})
    progress.refresh(made)
    return redirect("step", number=made.number, step="work")


@require_POST
def save_work(request: HttpRequest, number: str) -> HttpResponse:
    """Change what is to be bored."""
    page = page_for(request, number)
    form = WorkForm(as_sent(request, page), units=page.units, bore=page.bore_row, piece=page.piece)
    if not form.is_valid():
        return show_work(request, page, {"form": form, "stale": True})
    try:
        job = jobs.change_work(
            user=member(request), bore=page.bore_row, version=version_sent(request, page), work=form.work()
        )
    except (JobClosed, ChangedMeanwhile) as refused:
        return show_work(request, page, {"form": form, "refused": str(refused)})
    # other limits judge every piece anew
    answer = saved(
        request,
        job.number,
        "work",
        show_work,
        _whole(page, job.number),
        at=sent if (sent := request.POST.get("at", "")) in PANELS else "",
    )
    if job.number != number:
        answer["HX-Push-Url"] = reverse("step", args=(job.number, "work")) + page.query
    return answer


def _whole(page: JobPage, number: str) -> JobPage:
    """The page as it stands now, with the logs of every piece: other limits judge every one anew."""
    return open_page(number, page.units, page.place, page.piece, setup=page.record.setup.place, whole=True)


@require_POST
def save_setting(request: HttpRequest, number: str, what: str) -> HttpResponse:
    """Change what a question of setting up is worked out from."""
    if what not in SETTING_FORMS:
        raise Http404(f"{what} is no question of setting up.")

    def view(request: HttpRequest, page: JobPage, extra: dict[str, Any]) -> HttpResponse:
        form = extra.pop("form", None)
        return show_work(request, page, {"at": "setup", "set_form": (what, form) if form else None, **extra})

    return save_plan(request, number, "work", view, lambda page: SETTING_FORMS[what])


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
            return show_work(request, page, {"at": "more", "refused": str(refused)})
    return redirect("step", number, "work")


save_feature = save_feature_view(show_work)
drop_feature = drop_feature_view(show_work)
add_setup = add_setup_view(showing)
change_setup = change_setup_view(showing)
