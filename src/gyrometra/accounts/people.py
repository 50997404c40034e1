"""Who is asking: the signed-in member with the right type."""

from typing import cast

from django.http import HttpRequest

from gyrometra.accounts.models import User
from gyrometra.bridge.units import Units


def member(request: HttpRequest) -> User:
    """The signed-in member; every page but sign-in and the first account requires one."""
    return cast(User, request.user)


def units_shown(request: HttpRequest) -> Units:
    """The unit of the form that something was typed into, which travels with it; of a new page the account's own."""
    form = request.POST if request.method == "POST" else request.GET
    shown = form.get("unit", "")
    return Units(shown if shown in ("mm", "in") else member(request).unit)


def words_typed(request: HttpRequest, name: str, most: int) -> str:
    """Words of a field without a form of its own, as they can be stored: no control characters, not too many."""
    text = "".join(one if one.isprintable() else " " for one in request.POST.get(name, ""))
    return text.encode(errors="ignore").decode().strip()[:most]
