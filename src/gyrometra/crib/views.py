"""Pages of the crib."""

from __future__ import annotations

from typing import Any

from django.contrib import messages
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from gyrometra.accounts.people import member
from gyrometra.bridge.units import Units
from gyrometra.crib import services
from gyrometra.crib.cards import KINDS, cards, initial_of
from gyrometra.crib.forms import FORMS
from gyrometra.crib.models import CribItem
from gyrometra.crib.queries import used_by


@require_GET
def crib(request: HttpRequest) -> HttpResponse:
    """All that the shop owns, by kind."""
    return render(request, "crib/crib.html", {"groups": cards(Units(member(request).unit))})


@require_http_methods(["GET", "POST"])
def edit(request: HttpRequest, kind: str, pk: int | None = None) -> HttpResponse:
    """Put a thing in, or change one."""
    if kind not in FORMS:
        raise Http404
    user, form_class = member(request), FORMS[kind]
    item: CribItem = get_object_or_404(form_class.model, pk=pk) if pk else form_class.model()
    units = Units(user.unit)
    initial: dict[str, Any] = initial_of(item, form_class, units) if pk else {}
    form = form_class(request.POST or None, units=units, initial=initial, item=item if pk else None)
    if request.method == "POST" and form.is_valid():
        services.keep_item(user=user, item=item, values=form.cleaned_data, typed=form.typed())
        messages.info(request, f"{item.name} is in the crib.")
        return redirect("crib")
    used = used_by(item) if pk else []
    context = {"form": form, "kind": KINDS[kind], "item": item if pk else None, "used": used}
    return render(request, "crib/edit.html", context)


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
    return redirect("crib")
