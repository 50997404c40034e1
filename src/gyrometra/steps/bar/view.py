"""Views of Bar."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponse
from django.views.decorators.http import require_POST

from gyrometra.steps.bar.form import BAR_FORMS
from gyrometra.steps.bar.head import hole_rows
from gyrometra.steps.bar.line import line_table
from gyrometra.steps.bar.plates import bar, bar_list, opening_line
from gyrometra.steps.bar.says import bar_says
from gyrometra.steps.bar.scene import bar_scenes
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.plan_form import PlanForm
from gyrometra.steps.shared.plan_view import plan_form, save_plan
from gyrometra.steps.shared.preflight import machine_lines
from gyrometra.steps.shared.view import show
from gyrometra.steps.sheet import packing_words


def bar_form(page: JobPage) -> type[PlanForm]:
    """The form of Bar for this method of boring."""
    return BAR_FORMS[page.job.setup.method]


def show_bar(request: HttpRequest, page: JobPage, extra: dict[str, Any]) -> HttpResponse:
    form = extra.pop("form", None) or plan_form(page, bar_form(page))
    way = page.record.setup.way
    shown = {
        "form": form,
        "has_head": page.record.setup.method != "head" or bool(page.crib.heads),
        "holes": hole_rows(page),
        "table": line_table(page),
        "opening": opening_line(page),
        "packing": packing_words(page),
        "says": bar_says(page),
        "bands": bar_scenes(page),
        "bar_list": bar_list(page),
        "plates": bar(page),
        "has_cutter": bool(page.crib.cutters),
        "has_line_bar": any(bar.method == way.bars for bar in page.crib_bars),
        "has_bar": bool(page.crib_bars),
        "machine_lines": machine_lines(page),
    }
    return show(request, page, "bar", {**shown, **extra})


@require_POST
def save_bar(request: HttpRequest, number: str) -> HttpResponse:
    """Change reach, allowed deflection, bar or cutter."""
    return save_plan(request, number, "bar", show_bar, bar_form)
