"""Where a request comes from: the client's own address, also behind a proxy that the shop trusts."""

from __future__ import annotations

from django.conf import settings
from django.http import HttpRequest


def client_address(request: HttpRequest) -> str:
    """The nearest address that is no trusted proxy; what a client writes into the header itself is not believed."""
    address = str(request.META.get("REMOTE_ADDR", ""))
    passed = [one.strip() for one in str(request.META.get("HTTP_X_FORWARDED_FOR", "")).split(",") if one.strip()]
    while address in settings.TRUSTED_PROXIES and passed:
        address = passed.pop()
    return address[:45]


def name_of(request: HttpRequest | None, credentials: dict[str, str] | None) -> str:
    """The name that somebody signs in as, without case, as lock-outs count it."""
    given = (credentials or {}).get("username") or (request.POST.get("username", "") if request else "")
    return str(given).strip().lower()[:150]
