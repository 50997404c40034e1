"""Saving a part of the plan: Bar and Cuts do it alike."""

from __future__ import annotations

from collections.abc import Callable

from django.db import transaction
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect
from django.urls import reverse

from gyrometra.accounts.people import member
from gyrometra.jobs import services as jobs
from gyrometra.jobs.models import Job
from gyrometra.jobs.permissions import ChangedMeanwhile, JobClosed
from gyrometra.steps import progress
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.plan_form import PlanForm
from gyrometra.steps.shared.view import StepView, page_for, version_of

#: The form of the plan that a step shows for a job.
FormOf = Callable[[JobPage], type[PlanForm]]


def plan_form(page: JobPage, form: type[PlanForm]) -> PlanForm:
    """A form of the plan with what is stored."""
    made = form(units=page.units, bore=page.bore_row, at=page.at, crib=page.crib)
    made.initial = made.initial_for()
    return made


def save_plan(request: HttpRequest, number: str, step: str, view: StepView, form_of: FormOf) -> HttpResponse:
    """Change what a form of the plan shows: decided and stored on the job that is held, shown from what was read."""
    try:
        with transaction.atomic():
            page = page_for(request, number, held=True)
            form = form_of(page)(request.POST, units=page.units, bore=page.bore_row, at=page.at, crib=page.crib)
            if not form.is_valid():
                return view(request, page, {"form": form, "stale": True})
            changed: list[JobPage] = []

            def keep(_: Job) -> None:
                changed.append(page.replanned())
                progress.work_out(changed[0])

            jobs.change_plan(
                user=member(request), job=page.job, version=version_of(request), values=form.plan_values(),
                typed=form.typed(), keep=keep,
            )  # fmt: skip
    except (JobClosed, ChangedMeanwhile) as refused:
        return view(request, page, {"form": form, "refused": str(refused), "stale": True})
    if request.htmx:  # type: ignore[attr-defined]
        return view(request, changed[0], {})
    return redirect(reverse("step", args=(number, step)) + page.query)
