"""One line of log a request and a fault, with an id that the answer carries; too large a body is refused unread."""

from __future__ import annotations

import logging
import time
from collections.abc import Callable
from contextvars import ContextVar
from uuid import uuid4

from django.http import HttpRequest, HttpResponse

from gyrometra.pages.views import healthz, plain_error, readyz

log = logging.getLogger("gyrometra.request")
#: The id of the request in hand, for every line that is logged meanwhile.
request_id: ContextVar[str] = ContextVar("request_id", default="")
#: Forms are small; these take a file.
_FORM_BYTES, _FILE_BYTES = 1_000_000, 12_500_000
_TAKE_FILES = ("/crib/take-in/", "/picture/", "/noise/hear/")
_QUIET = ("/static/", "/healthz", "/readyz")
#: Asked many times a second: only what went wrong is logged.
_BUSY = ("/link/",)

_PROBES: dict[str, Callable[[HttpRequest], HttpResponse]] = {"/healthz": healthz, "/readyz": readyz}

Answer = Callable[[HttpRequest], HttpResponse]


class WithId(logging.Filter):
    """Puts the id of the request on every line."""

    def filter(self, record: logging.LogRecord) -> bool:
        """Every line passes."""
        record.request_id = request_id.get()
        return True


def request_log(answer: Answer) -> Answer:
    """Log each request: who, what, how it ended, how long it took."""

    def logged(request: HttpRequest) -> HttpResponse:
        own = uuid4().hex[:12]
        token, start = request_id.set(own), time.perf_counter()
        try:
            # what watches a server asks it by its number: before anything that wants a name, a session or HTTPS
            probe = _PROBES.get(request.path)
            response = probe(request) if probe else _unreadable(request) or _too_large(request) or answer(request)
            response["X-Request-Id"] = own
            busy = request.path.startswith(_BUSY) and response.status_code < 400
            if not busy and not request.path.startswith(_QUIET):
                user = getattr(request, "_cached_user", None)  # nobody is read from the database for a line of log
                log.info(
                    "request", extra={
                        "method": request.method, "path": request.path, "status": response.status_code,
                        "ms": round(1000 * (time.perf_counter() - start), 1), "user": getattr(user, "username", ""),
                        "entry": response.get("X-Entry", ""),
                    },
                )  # fmt: skip
            return response
        finally:
            request_id.reset(token)

    return logged


def _unreadable(request: HttpRequest) -> HttpResponse | None:
    """Refuse a NUL in an address: no text of the database can hold one."""
    if "%00" in request.META.get("QUERY_STRING", "") or "\0" in request.path:
        return plain_error(400, "The request cannot be read.")
    return None


def _too_large(request: HttpRequest) -> HttpResponse | None:
    """Refuse a body before it is read."""
    try:
        length = int(request.META.get("CONTENT_LENGTH") or 0)
    except ValueError:
        return plain_error(400, "The request cannot be read.")
    most = _FILE_BYTES if request.path.endswith(_TAKE_FILES) else _FORM_BYTES
    if length <= most:
        return None
    return plain_error(413, f"Too large: {length / 1e6:.1f} MB came, {most / 1e6:.0f} MB is the most here.")
