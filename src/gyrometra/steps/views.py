"""The address of a step."""

from __future__ import annotations

from django.http import Http404, HttpRequest, HttpResponse
from django.views.decorators.http import require_safe

from gyrometra.steps import progress
from gyrometra.steps.bar.view import show_bar
from gyrometra.steps.cuts.view import show_cuts
from gyrometra.steps.rounds import VIEWS
from gyrometra.steps.shared.view import StepView, page_for, show
from gyrometra.steps.work.places import at_query
from gyrometra.steps.work.scene import work_scenes
from gyrometra.steps.work.view import show_work

STEP_VIEWS: dict[str, StepView] = {"work": show_work, "bar": show_bar, "cuts": show_cuts, **VIEWS}

#: Steps that work which is only set true has nothing to do at.
NOT_CUT = ("bar", "cuts", "bore")


@require_safe
def step(request: HttpRequest, number: str, step: str) -> HttpResponse:
    """One of the six steps."""
    if step not in STEP_VIEWS:
        raise Http404
    page = page_for(request, number)
    if progress.is_old(page.job):
        progress.refresh(page.job)
        page = page_for(request, number)
    if page.record.setup.only_trued and step in NOT_CUT:
        shown = {"bands": work_scenes(page), "view_query": at_query(page, "")}
        return show(request, page, step, shown, "steps/only_trued.html")
    return STEP_VIEWS[step](request, page, {})
