"""What every page prints: the shop's name, the reader's unit, the keys."""

from typing import Any

from django.conf import settings
from django.http import HttpRequest

from gyrometra.bridge.units import Units

SHOP = "Quillmoor Repair Works"


def shop(request: HttpRequest) -> dict[str, Any]:
    """Template context for all pages."""
    user = getattr(request, "user", None)
    unit = getattr(user, "unit", "mm")
    return {"units": Units(unit), "shop_name": SHOP if settings.DEMO else "", "demo": settings.DEMO}
