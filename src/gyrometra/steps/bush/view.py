"""A bush or shaft to suit a bore: worked out from the seat as it is measured, and made a job of its own."""

from __future__ import annotations

from typing import Any

from django.db import IntegrityError
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect
from django.urls import reverse
from django.views.decorators.http import require_http_methods, require_POST

from gyrocore import InvalidInput
from gyrometra.accounts.people import member
from gyrometra.jobs import bushes
from gyrometra.jobs.models import Bush
from gyrometra.jobs.permissions import JobClosed
from gyrometra.jobs.services import StillNeeded
from gyrometra.steps import progress
from gyrometra.steps.bush.form import BushForm, initial_of, plan_of, stored_work, work_of
from gyrometra.steps.bush.plates import SOURCES, bush_cautions, bush_plates, bush_scenes, seat_words, stage_rows
from gyrometra.steps.bush.shaft import shaft_plates, shaft_scenes, shaft_words
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.plate import Plate
from gyrometra.steps.shared.view import page_for, show
from gyrometra.steps.work.begin import next_number
from gyrometra.steps.work.scene import work_scenes
from gyroplan.assess import BushPlan, ShaftPlan, seat_of


@require_http_methods(["GET", "HEAD", "POST"])
def bush(request: HttpRequest, number: str) -> HttpResponse:
    """What is asked of a bush for the bore that is shown, and what follows."""
    page = page_for(request, number)
    seat, kept = seat_of(page.assessment, page.piece, page.place), bushes.bush_for(page.bore_row, page.piece)
    if request.method != "POST":
        form = BushForm(page=page, seat=seat, bush=kept, initial=initial_of(kept, seat, page.units))
        return _show(request, page, {"form": form, "bush": kept})
    form = BushForm(request.POST, page=page, seat=seat, bush=kept)
    if not form.is_valid():
        return _show(request, page, {"form": form, "bush": kept, "stale": True})
    made = bushes.keep_bush(
        user=member(request), seat=page.bore_row, piece=page.piece, values=form.values(),
        finish=form.cleaned_data.get("finish"), typed=form.typed(),
    )  # fmt: skip
    if made.job is not None and form.plan is not None:  # another fit moves its limits as another size of the seat does
        bushes.keep_now(bush=made, limits=(form.plan.outside.lower_mm, form.plan.outside.upper_mm))
    return _show(request, page, {"form": form, "bush": made, "plan": form.plan, "work": work_of(form.cleaned_data)})


def _show(request: HttpRequest, page: JobPage, extra: dict[str, Any]) -> HttpResponse:
    kept: Bush | None = extra["bush"]
    seat = seat_of(page.assessment, page.piece, page.place)
    shown: dict[str, Any] = {"seat": seat_words(page.units, seat), "seat_source": SOURCES[seat.source],
                             "unfinished": not seat.finished,
                             "bands": work_scenes(page), "panel": (), "plates": _missing(extra["form"])}  # fmt: skip
    if kept is not None and "plan" not in extra and not extra.get("stale"):
        extra["work"] = stored_work(kept)
        try:
            extra["plan"] = plan_of(page, seat, extra["work"])
        except InvalidInput:  # the seat is not as it was when this was typed: the form says why
            extra["form"] = BushForm(initial_of(kept, seat, page.units), page=page, seat=seat, bush=kept)
    plan: BushPlan | ShaftPlan | None = extra.get("plan")
    if isinstance(plan, ShaftPlan) and kept is not None:
        shown |= {"bands": shaft_scenes(page, plan, extra["work"]),
                  "plates": shaft_plates(page, plan, extra["work"], kept.put_in),
                  "cautions": bush_cautions(kept.put_in) if plan.tightest else (), "moved": kept.has_moved,
                  "shaft": shaft_words(page, plan, extra["work"])}  # fmt: skip
    elif isinstance(plan, BushPlan) and kept is not None:
        shown |= {
            "bands": bush_scenes(page, plan, extra["work"]),
            "plates": bush_plates(page, plan, extra["work"], kept.put_in),
            "stages": stage_rows(page, plan, extra["work"], kept.put_in, kept.finish),
            "cautions": bush_cautions(kept.put_in),
            "moved": kept.has_moved,
        }  # fmt: skip
    return show(request, page, "work", {**shown, **extra}, template="steps/bush.html")


def _missing(form: BushForm) -> list[Plate]:
    missing = "the bore wanted in place" if form.made == Bush.Kind.BUSH else "the fit that is wanted"
    return [Plate(label="Its outside, on diameter", governs="Missing:",
                  reason=missing if not form.errors else "what is marked above")]  # fmt: skip


@require_POST
def make_bush(request: HttpRequest, number: str) -> HttpResponse:
    """Make the job of the bush that is asked for; or take the limits over as the seat is measured now."""
    page = page_for(request, number)
    kept = bushes.bush_for(page.bore_row, page.piece)
    back = reverse("bush", args=(number,)) + page.query
    if kept is None:
        return redirect(back)
    seat = seat_of(page.assessment, page.piece, page.place)
    try:
        plan = plan_of(page, seat, stored_work(kept))
        outside = {"lower_mm": plan.outside.lower_mm, "upper_mm": plan.outside.upper_mm}
        if kept.job is not None:
            bushes.take_over(bush=kept, lower_mm=plan.outside.lower_mm, upper_mm=plan.outside.upper_mm)
            progress.refresh(kept.job)
            return redirect(back)
        made = bushes.make_job(
            user=member(request), bush=kept, number=next_number(), unit=page.units.unit,
            turned_mm=plan.turned_mm if isinstance(plan, BushPlan) else None, **outside,
        )  # fmt: skip
    except (InvalidInput, StillNeeded, JobClosed, IntegrityError) as refused:
        words = "Another made a job just now: press again." if isinstance(refused, IntegrityError) else str(refused)
        form = BushForm(page=page, seat=seat, bush=kept, initial=initial_of(kept, seat, page.units))
        return _show(request, page, {"form": form, "bush": kept, "refused": words})
    progress.refresh(made)
    return redirect("step", number=made.number, step="work")
