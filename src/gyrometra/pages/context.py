"""What every page prints: the shop's name, the reader's unit, the keys."""

from typing import Any
from urllib.parse import urlsplit

from django.conf import settings
from django.http import HttpRequest

from gyrometra.bridge.units import Units

#: The demo's shop.
SHOP, SHOP_LINE = "Quillmoor Repair Works", "Canal, orchard and fairground machinery"


def shop(request: HttpRequest) -> dict[str, Any]:
    """Template context for all pages."""
    user = getattr(request, "user", None)
    unit = getattr(user, "unit", "mm")
    return {
        "units": Units(unit),
        "shop_name": settings.SHOP_NAME or (SHOP if settings.DEMO else ""),
        "shop_line": settings.SHOP_LINE or (SHOP_LINE if settings.DEMO else ""),
        "demo": settings.DEMO,
        "here": _here(request),
    }


def _here(request: HttpRequest) -> str:
    """The page a person is on: a part that htmx swaps, or an answer to a form, is no place to come back to."""
    htmx = getattr(request, "htmx", None)
    if htmx:
        return htmx.current_url_abs_path or "/"
    if request.method == "GET":
        return request.get_full_path()
    return urlsplit(request.headers.get("Referer", "/")).path or "/"
