"""Pages of the crib."""

from __future__ import annotations

from typing import Any

import segno
from django.contrib import messages
from django.db import IntegrityError
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils.http import url_has_allowed_host_and_scheme
from django.utils.safestring import mark_safe
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from gyrometra.accounts.people import member, units_shown, words_typed
from gyrometra.bridge.units import Units
from gyrometra.crib import bulk, exchange, services, starter
from gyrometra.crib.cards import KINDS, card_of
from gyrometra.crib.editing import opened, put_together
from gyrometra.crib.forms import FORMS, CribForm
from gyrometra.crib.models import Bar, CribItem, Fixture
from gyrometra.crib.pictures import MOST_BYTES, BadPicture, jpeg_of
from gyrometra.crib.queries import history_of, used_by
from gyrometra.crib.tables import bar_scene, table_of, tabs
from gyrometra.crib.values import change_words, initial_of


@require_safe
def crib(request: HttpRequest) -> HttpResponse:
    """What the shop owns, a table a kind: searched, sorted, with what uses it."""
    kind = request.GET.get("kind", "")
    kinds = tabs()
    if kind not in KINDS:
        kind = next((one.key for one, count in kinds if count and one.key != "material"), "machine")
    table = table_of(
        kind, Units(member(request).unit), asked=request.GET.get("q", "")[:80], sort=request.GET.get("sort", "")
    )
    lacking = [one.many.lower() for one, count in kinds if not count and one.key in starter.kinds()]
    shown = {"table": table, "tabs": kinds, "lacking": lacking}
    return render(request, "crib/rows.html" if request.htmx else "crib/crib.html", shown)  # type: ignore[attr-defined]


@require_http_methods(["GET", "HEAD", "POST"])
def edit(request: HttpRequest, kind: str, pk: int | None = None) -> HttpResponse:
    """Put a thing in, or change one."""
    if kind not in FORMS:
        raise Http404
    user, form_class = member(request), FORMS[kind]
    item: CribItem = get_object_or_404(form_class.model, pk=pk) if pk else form_class.model()
    units = units_shown(request)
    initial: dict[str, Any] = initial_of(item, form_class, units) if pk else {}
    data, told = put_together(request.POST, item, form_class, units) if pk and request.POST else (request.POST, {})
    form = form_class(data or None, units=units, initial=initial, item=item if pk else None)
    for name, words in told.items():
        form.add_error(name, words)
    if request.method == "POST" and form.is_valid():
        try:
            services.keep_item(user=user, item=item, values=form.cleaned_data, typed=form.typed())
        except IntegrityError:  # in the same moment another took the name
            form.add_error("name", f"There is already a {form.cleaned_data['name']}. Give another name.")
        except services.ChangedMeanwhile:
            messages.warning(request, "Another changed it in the same moment: look at it, then save again.")
        else:
            messages.info(request, f"{item.name} is in the crib.")
            return redirect(come_back(request, item) or f"{reverse('crib')}?kind={kind}")
    context: dict[str, Any] = {"form": form, "kind": KINDS[kind], "item": item if pk else None, "units": units,
                               "back": back_to(request),
                               "back_for": request.POST.get("for") or request.GET.get("for", "")}  # fmt: skip
    return render(request, "crib/edit.html", {**context, **(_about(item, kind, form_class, units) if pk else {})})


def _about(item: CribItem, kind: str, form_class: type[CribForm], units: Units) -> dict[str, Any]:
    """What is known of a thing beside its fields."""
    return {
        "opened": opened(item, form_class, units), "used": used_by(item),
        "history": [(change, change_words(change, units)) for change in history_of(kind, item)],
        "scene": bar_scene(item, units) if isinstance(item, Bar) else None,
    }  # fmt: skip


def back_to(request: HttpRequest) -> str:
    """The page of this product that something was to be added for; empty for none."""
    asked = request.POST.get("back") or request.GET.get("back") or ""
    own = url_has_allowed_host_and_scheme(asked, allowed_hosts=None) and asked.startswith("/")
    return asked if own and len(asked) < 300 else ""


def come_back(request: HttpRequest, item: CribItem) -> str:
    """Where it was to be added for, with what was added named: it comes back picked."""
    back = back_to(request)
    field = request.POST.get("for", "")
    return f"{back}{'&' if '?' in back else '?'}picked={field}:{item.pk}" if back and field.isidentifier() else back


@require_POST
def note_check(request: HttpRequest, kind: str, pk: int) -> HttpResponse:
    """A check of a thing, into its history."""
    if kind not in FORMS:
        raise Http404
    item: CribItem = get_object_or_404(FORMS[kind].model, pk=pk)
    words = words_typed(request, "words", 400)
    if words:
        services.note_check(user=member(request), item=item, words=words[:300])
        messages.info(request, f"The check of {item.name} is in its history.")
    else:
        messages.warning(request, "Write what was checked and what came of it.")
    return redirect("crib-edit", kind, pk)


@require_http_methods(["GET", "HEAD", "POST"])
def picture(request: HttpRequest, pk: int) -> HttpResponse:
    """A fixture's picture: shown, or put in place of the one before."""
    item = get_object_or_404(Fixture, pk=pk)
    if request.method == "GET":
        if not item.picture:
            raise Http404
        return HttpResponse(bytes(item.picture), content_type="image/jpeg")
    file = request.FILES.get("picture")
    try:
        if file is None:
            raise BadPicture("Choose a picture first.")
        jpeg = jpeg_of(file.read(MOST_BYTES + 1))
        services.keep_picture(user=member(request), item=item, jpeg=jpeg)
        messages.info(request, f"{item.name} has its picture.")
    except BadPicture as refused:
        messages.warning(request, str(refused))
    return redirect("crib-edit", "fixture", pk)


@require_POST
def retire(request: HttpRequest, kind: str, pk: int) -> HttpResponse:
    """Take a thing off the lists, or put it back."""
    if kind not in FORMS:
        raise Http404
    item: CribItem = get_object_or_404(FORMS[kind].model, pk=pk)
    user = member(request)
    try:
        if item.retired:
            services.put_back(user=user, item=item)
        else:
            services.retire_item(user=user, item=item)
        messages.info(request, f"{item.name} is {'out of use' if item.retired else 'in use again'}.")
    except services.StillUsed as refused:
        messages.warning(request, str(refused))
    return redirect(f"{reverse('crib')}?kind={kind}")


@require_safe
def label(request: HttpRequest, kind: str, pk: int) -> HttpResponse:
    """A label to print and tie to a thing: its name, its facts, and a code that opens its page."""
    if kind not in FORMS:
        raise Http404
    item: CribItem = get_object_or_404(FORMS[kind].model, pk=pk)
    address = request.build_absolute_uri(reverse("crib-edit", args=(kind, pk)))
    code = segno.make(address, error="m").svg_inline(omitsize=True, border=2, svgclass="qr", lineclass=None)
    context = {
        "kind": KINDS[kind],
        "card": card_of(item, Units(member(request).unit)),
        "address": address,
        "code": mark_safe(code),  # noqa: S308 - drawn here from our own address, no text of a person in it
    }
    return render(request, "crib/label.html", context)


@require_safe
def export(request: HttpRequest, kind: str = "") -> HttpResponse:
    """The crib as a file: all of it as JSON, or one kind as CSV."""
    if kind and kind not in FORMS:
        raise Http404
    content = exchange.to_csv(kind) if kind else exchange.to_json()
    answer = HttpResponse(content, content_type=f"{'text/csv' if kind else 'application/json'}; charset=utf-8")
    name = f"crib-{kind}.csv" if kind else "crib.json"
    answer["Content-Disposition"] = f'attachment; filename="{name}"'
    return answer


@require_http_methods(["GET", "HEAD", "POST"])
def take_in(request: HttpRequest) -> HttpResponse:
    """Import into the crib: all of its rows, or none and why."""
    context: dict[str, Any] = {"kinds": KINDS.values(), "picked": request.POST.get("kind", "")}
    file = request.FILES.get("file")
    if request.method == "POST" and file is None:
        context["faults"] = ["Choose a file first."]
    if request.method == "POST" and file is not None:
        try:
            rows = exchange.read(str(file.name), file.read(exchange.MOST_BYTES + 1), context["picked"])
            added, changed = bulk.take_in(user=member(request), rows=rows)
        except exchange.BadFile as refused:
            context["faults"] = refused.faults
        except (IntegrityError, services.ChangedMeanwhile):
            context["faults"] = ["Another changed the crib in the same moment: nothing was taken in. Try once more."]
        else:
            messages.info(request, f"{added} added, {changed} changed from {file.name}.")
            return redirect("crib")
    return render(request, "crib/take_in.html", context)


@require_POST
def start_set(request: HttpRequest) -> HttpResponse:
    """A starter set into an empty crib; everything of it can be changed."""
    try:
        count = starter.put_in(user=member(request))
        messages.info(
            request, f"{count} things are in the crib. Their figures are general: put your own in their place."
        )
    except starter.NotEmpty as refused:
        messages.warning(request, str(refused))
    return redirect("crib")
