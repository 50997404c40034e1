"""The page of a machine's own checks."""

from __future__ import annotations

from typing import Any
from uuid import uuid4

from django.contrib import messages
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils.timezone import localdate
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from gyrocore import InvalidInput
from gyrometra.accounts.people import member, units_shown
from gyrometra.bridge.units import Units
from gyrometra.crib.models import Machine
from gyrometra.health import services
from gyrometra.health.exchange import history_csv
from gyrometra.health.forms import ChangedForm, LimitForm, check_form
from gyrometra.health.queries import CheckStanding, standing_of
from gyrometra.health.reach import reach_asked
from gyrometra.health.shown import bands_of, limit_words, plates_of, rail_of, table_of, trend_of
from gyrometra.health.taper import ASKED_ON, taper_on_work
from gyrometra.jobs.entries import NotTheLast, Sent, StoredOtherwise
from gyroplan.machine import kinds_of


@require_safe
def health(request: HttpRequest, pk: int) -> HttpResponse:
    """One check of a machine: what it comes to, its run over the years, what it means for a job."""
    return _show(request, get_object_or_404(Machine, pk=pk), request.GET.get("check", ""))


@require_safe
def history(request: HttpRequest, pk: int) -> HttpResponse:
    """All that was logged of a machine, as CSV."""
    machine = get_object_or_404(Machine, pk=pk)
    answer = HttpResponse(history_csv(machine), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="machine-{machine.pk}.csv"'
    return answer


def _show(request: HttpRequest, machine: Machine, key: str, extra: dict[str, Any] | None = None) -> HttpResponse:
    units, today = units_shown(request), localdate()
    standing = standing_of(machine, today)
    one = standing.get(key) or next(iter(standing.values()), None)
    if one is None:
        raise Http404
    reach, jobs, asked = reach_asked(request, machine, units)
    context: dict[str, Any] = {
        "machine": machine, "units": units, "one": one, "rail": rail_of(standing, one.kind.key, units, today),
        "bands": bands_of(one, reach, units),
        "chart": trend_of(one, units, 330, 206) if one.kind.key == "spindle" else None,
        "plates": plates_of(one, reach, units, today), "table": table_of(one, units), "reach": reach, "jobs": jobs,
        "asked": asked, "taper": taper_on_work(request, units, reach.centres_mm) if one.kind.key in ASKED_ON else None,
        "limit_words": limit_words(one, units), **_forms(one, units), **(extra or {}),
    }  # fmt: skip
    return render(request, "health/health.html", context, status=200)


def _forms(one: CheckStanding, units: Units) -> dict[str, Any]:
    limit = one.limit
    typed = (limit.typed if limit else {}).get("limit_mm")
    initial = {
        "limit_mm": units.shown(limit.limit_mm, typed) if limit else "",
        "every_days": limit and limit.every_days,
    }
    day = {"day": localdate(), "client_id": uuid4()}
    last = one.last.values if one.last is not None else {}
    places = {name: units.plain(last[name]) for name in ("near_mm", "far_mm", "over_mm", "circle_mm") if name in last}
    return {
        "check_form": check_form(one.kind)(units=units, kind=one.kind, initial={**places, **day, "client_id": uuid4()}),
        "changed_form": ChangedForm(units=units, initial=day, prefix="changed"),
        "limit_form": LimitForm(units=units, initial=initial, prefix="limit"),
        "undo_id": uuid4(),
    }  # fmt: skip


def _back(machine: Machine, key: str) -> HttpResponse:
    return redirect(f"{reverse('health', args=(machine.pk,))}?check={key}")


def _sent(request: HttpRequest, values: dict[str, Any], text: str = "") -> Sent:
    return Sent(user=member(request), client_id=values["client_id"], text=text[:60])


@require_http_methods(["GET", "HEAD", "POST"])
def log_check(request: HttpRequest, pk: int, kind: str) -> HttpResponse:
    """Log a check of a machine."""
    machine = get_object_or_404(Machine, pk=pk)
    if request.method != "POST":  # gone back to, or the unit switched, after a refusal
        return _back(machine, kind)
    asked = next((one for one in kinds_of(machine.kind) if one.key == kind), None)
    if asked is None:
        raise Http404
    form = check_form(asked)(request.POST, units=units_shown(request), kind=asked)
    if not form.is_valid():
        return _show(request, machine, kind, {"check_form": form})
    values = form.cleaned_data
    try:
        services.log_check(
            sent=_sent(request, values), machine=machine, kind=kind, day=values["day"], values=form.readings(),
            typed=form.typed(), indicator=values["indicator"], note=values["note"],
        )  # fmt: skip
    except (StoredOtherwise, InvalidInput) as fault:
        messages.warning(request, str(fault))
    return _back(machine, kind)


@require_http_methods(["GET", "HEAD", "POST"])
def log_changed(request: HttpRequest, pk: int, kind: str) -> HttpResponse:
    """Log what was changed of a machine."""
    machine = get_object_or_404(Machine, pk=pk)
    if request.method != "POST":  # gone back to, or the unit switched, after a refusal
        return _back(machine, kind)
    form = ChangedForm(request.POST, units=units_shown(request), prefix="changed")
    if not form.is_valid():
        return _show(request, machine, kind, {"changed_form": form})
    values = form.cleaned_data
    services.log_changed(
        sent=_sent(request, values), machine=machine, day=values["day"], changed=values["changed"], note=values["note"]
    )
    return _back(machine, kind)


@require_http_methods(["GET", "HEAD", "POST"])
def set_limit(request: HttpRequest, pk: int, kind: str) -> HttpResponse:
    """Set what is allowed of a check, and how often it is due."""
    machine = get_object_or_404(Machine, pk=pk)
    if request.method != "POST":  # gone back to, or the unit switched, after a refusal
        return _back(machine, kind)
    if kind not in {one.key for one in kinds_of(machine.kind)}:
        raise Http404
    form = LimitForm(request.POST, units=units_shown(request), prefix="limit")
    if not form.is_valid():
        return _show(request, machine, kind, {"limit_form": form})
    typed = {name.removeprefix("limit-"): one for name, one in form.typed().items()}
    services.set_limit(
        user=member(request), machine=machine, kind=kind, limit_mm=form.limit(),
        every_days=form.cleaned_data["every_days"], typed=dict(typed),
    )  # fmt: skip
    return _back(machine, kind)


@require_POST
def take_back(request: HttpRequest, pk: int, kind: str) -> HttpResponse:
    """Withdraw an entry; it stays in the log."""
    machine = get_object_or_404(Machine, pk=pk)
    undo = request.POST.get("undo", "")
    try:
        services.take_back(
            sent=Sent(user=member(request), client_id=uuid4()), machine=machine,
            undo=int(undo) if undo.isascii() and undo.isdigit() and len(undo) < 16 else 0,
        )  # fmt: skip
    except NotTheLast:
        messages.warning(request, "Not taken back: it does not stand any more. Look at the list again.")
    return _back(machine, kind)
