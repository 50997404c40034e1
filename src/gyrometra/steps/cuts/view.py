"""Views of Cuts."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponse
from django.views.decorators.http import require_POST

from gyrometra.accounts.people import member
from gyrometra.steps.bore.chance import habit_line
from gyrometra.steps.cuts.form import CutsForm
from gyrometra.steps.cuts.plates import cut_totals, cuts, pass_rows, proven_rows
from gyrometra.steps.cuts.scene import cuts_scenes
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.plan_view import plan_form, save_plan
from gyrometra.steps.shared.view import show


def show_cuts(request: HttpRequest, page: JobPage, extra: dict[str, Any]) -> HttpResponse:
    form = extra.pop("form", None) or plan_form(page, CutsForm)
    shown = {
        "form": form,
        "bands": cuts_scenes(page),
        "rows": pass_rows(page),
        "plates": cuts(page),
        "totals": cut_totals(page),
        "proven": proven_rows(page),
        "habit": habit_line(page, member(request).username),
    }
    return show(request, page, "cuts", {**shown, **extra})


@require_POST
def save_cuts(request: HttpRequest, number: str) -> HttpResponse:
    """Change speeds, feeds, depths or passes."""
    return save_plan(request, number, "cuts", show_cuts, lambda page: CutsForm)
