"""Where gauges send their readings, and where pages look at a needle."""

from __future__ import annotations

import re
from typing import Any
from uuid import UUID

from django.contrib import messages
from django.contrib.auth.decorators import login_not_required
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.csrf import csrf_exempt
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from gyrometra.accounts.people import member, units_shown, words_typed
from gyrometra.bridge.units import Units
from gyrometra.crib.models import Gauge, Indicator
from gyrometra.links import services
from gyrometra.links.forms import RingForm
from gyrometra.links.models import GaugeLink
from gyrometra.links.protocol import BadBatch, read_batch
from gyrometra.links.queries import links_of, pressed_after, watched
from gyroplan.needle import live_needle

_BEARER = re.compile(r"^Bearer ([\w-]{16,128})$")


@csrf_exempt  # a gauge has no session: its token is what it is known by
@login_not_required
@require_POST
def readings(request: HttpRequest) -> JsonResponse:
    """Take in a batch of a gauge; the same batch again is stored once."""
    bearer = _BEARER.match(request.headers.get("Authorization", ""))
    if bearer is None:
        return _refuse(401, "Send the gauge's token: Authorization: Bearer TOKEN.")
    if request.content_type != "application/json":
        return _refuse(415, "Send JSON, with Content-Type: application/json.")
    try:
        stored, known = services.take_in(bearer[1], read_batch(request.body))
    except _FAULTS as fault:
        return _refuse(_status_of(fault), str(fault))
    return JsonResponse({"stored": stored, "known": known})


_FAULTS = (BadBatch, services.UnknownToken, services.LinkEnded, services.OtherValue)


def _status_of(fault: Exception) -> int:
    """What a gauge is told: its own fault 400, no token of ours 401, an ended one 403, another value 409."""
    by_kind = {BadBatch: 400, services.UnknownToken: 401, services.LinkEnded: 403, services.OtherValue: 409}
    return next(status for kind, status in by_kind.items() if isinstance(fault, kind))


def _refuse(status: int, why: str) -> JsonResponse:
    return JsonResponse({"why": why}, status=status)


@require_POST
def listen(request: HttpRequest, pk: int) -> JsonResponse:
    """This page takes what is pressed from now on."""
    link = get_object_or_404(GaugeLink.objects.in_use(), pk=pk)
    listener = _uuid(request.POST.get("listener", ""))
    if listener is None:
        return _refuse(400, "Name the page that listens.")
    return JsonResponse({"after": services.listen(user=member(request), link=link, listener=listener)})


@require_safe
def needle(request: HttpRequest, pk: int) -> JsonResponse:
    """How the needle stands, and what was pressed since."""
    link = get_object_or_404(GaugeLink.objects.in_use().select_related("indicator", "gauge", "listened_by"), pk=pk)
    if link.listener is None or link.listener != _uuid(request.GET.get("listener", "")):
        return JsonResponse({"state": "elsewhere", "who": getattr(link.listened_by, "username", "")})
    seen = watched(link)
    if seen is None:
        return JsonResponse({"state": "silent", "presses": []})
    units = Units("in" if request.GET.get("unit") == "in" else "mm")
    now = live_needle(
        seen, link.step_mm, _number(request.GET.get("taken", "")), had_moved=request.GET.get("moved") == "1"
    )
    presses = pressed_after(link, _count(request.GET.get("after", "")))
    shown = now.value_mm + link.from_mm
    return JsonResponse({
        "state": "live", "turn": round(now.turn, 4), "mm": round(now.value_mm, 6),
        "value": units.signed(shown) if link.gauge is None else units.measured(shown, link.step_mm),
        "text": taken_words(link, now.value_mm), "still": now.is_still, "moved": now.has_moved,
        "presses": [{"pk": one.pk, "id": str(services.entry_id(one)), "text": taken_words(link, float(one.value_mm)),
                     "mm": float(one.value_mm)} for one in presses],
    })  # fmt: skip


def taken_words(link: GaugeLink, value_mm: float) -> str:
    """A reading as it is put in the cell: with its unit, so that no page reads it as divisions; a size of its ring."""
    return f"{value_mm:+.4f} mm" if link.gauge is None else f"{value_mm + link.from_mm:.4f} mm"


def _uuid(text: str) -> UUID | None:
    try:
        return UUID(text)
    except ValueError:
        return None


def _number(text: str) -> float | None:
    return float(text) if re.fullmatch(r"-?\d{1,4}(\.\d{1,6})?", text) else None


def _count(text: str) -> int:
    return int(text) if re.fullmatch(r"[0-9]{1,15}", text) else 0


@require_http_methods(["GET", "HEAD", "POST"])
def link_of(request: HttpRequest, kind: str, pk: int) -> HttpResponse:
    """The links of an indicator or a gauge; posted, a token is made for it and shown this once."""
    if kind not in _LINKED:
        raise Http404
    item: Any = get_object_or_404(_LINKED[kind], pk=pk)
    units, token = units_shown(request), ""
    form = RingForm(request.POST if request.method == "POST" else None, units=units, gauge=item)
    if request.method == "POST" and form.is_valid():
        name = words_typed(request, "name", 40)[:40]
        _, token = services.link_gauge(user=member(request), item=item, name=name, set_mm=form.cleaned_data["set_mm"])
    shown: dict[str, Any] = {
        "item": item, "token": token, "address": request.build_absolute_uri("/").rstrip("/"), "kind": kind,
        "links": [(one, "" if one.set_mm is None else units.planned(one.set_mm)) for one in links_of(item)],
        "form": form, "units": units,
    }  # fmt: skip
    return render(request, "links/gauge.html", shown)


_LINKED: dict[str, type[Indicator] | type[Gauge]] = {"indicator": Indicator, "gauge": Gauge}


@require_POST
def end_link(request: HttpRequest, pk: int) -> HttpResponse:
    """End a token."""
    link: Any = get_object_or_404(GaugeLink, pk=pk)
    services.end_link(link)
    messages.info(request, f"The link {link.name} is ended: its token counts no more.")
    return redirect("link-of", "indicator" if link.gauge_id is None else "gauge", link.instrument.pk)
