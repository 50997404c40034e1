"""Pages for what went wrong: none of them needs the database, or a signed-in person."""

from __future__ import annotations

import errno
import sys
from urllib.parse import quote

from django.conf import settings
from django.contrib.auth.decorators import login_not_required
from django.db import InterfaceError, OperationalError, connection
from django.db.migrations.executor import MigrationExecutor
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.template.loader import render_to_string
from django.views.decorators.http import require_safe

#: Seconds after which a browser may ask a lost database again.
RETRY_S = 5
_TITLES = {
    400: "Not understood", 403: "Not allowed", 405: "Not done this way", 413: "Too large", 500: "Something went wrong",
    503: "The database does not answer",
}  # fmt: skip
_KEPT = "What was logged before is kept, and what you type now is kept on this device."
#: "disk_full" of PostgreSQL's table of SQLSTATEs (appendix A of its manual).
_NO_ROOM_STATE, _NO_ROOM = "53100", (errno.ENOSPC, errno.EDQUOT)


def plain_error(status: int, words: str, title: str = "") -> HttpResponse:
    """A page without a database, a session or a user."""
    text = render_to_string("pages/error.html", {"title": title or _TITLES[status], "words": words})
    response = HttpResponse(text, status=status)
    if status == 503:
        response["Retry-After"] = str(RETRY_S)
    return response


def not_found(request: HttpRequest, exception: Exception) -> HttpResponse:
    """404 in the shop's words."""
    try:
        return render(request, "pages/not_found.html", status=404)
    except (OperationalError, InterfaceError):
        return away()


def bad_request(request: HttpRequest, exception: Exception) -> HttpResponse:
    """400: what came cannot be read."""
    return plain_error(400, "What was sent cannot be read. Go back, load the page again, then send it once more.")


def forbidden(request: HttpRequest, exception: Exception | None = None, reason: str = "") -> HttpResponse:
    """403: a form that is too old, or comes from elsewhere; 401 from within a page whose cookies are gone."""
    if request.headers.get("HX-Request") and settings.SESSION_COOKIE_NAME not in request.COOKIES:
        return HttpResponse("Signed out.", status=401, content_type="text/plain")
    return plain_error(403, "The page was too old to be trusted, and nothing was changed. Load it again.")


def broken(request: HttpRequest) -> HttpResponse:
    """500, or 503 where the disk is full or the database away: nothing that was logged is lost."""
    error = sys.exc_info()[1]
    if _has_no_room(error):
        return no_room()
    if isinstance(error, (OperationalError, InterfaceError)):
        return away()
    return plain_error(500, "What was logged before is kept. Go back and try once more.")


def away() -> HttpResponse:
    """503: the database does not answer."""
    return plain_error(503, f"{_KEPT} Try again.")


def _has_no_room(error: BaseException | None) -> bool:
    state = getattr(getattr(error, "__cause__", None), "sqlstate", "")
    return state == _NO_ROOM_STATE or (isinstance(error, OSError) and error.errno in _NO_ROOM)


def no_room() -> HttpResponse:
    """503: nothing can be stored until somebody makes room; the browser says why from the header."""
    why = "The server's disk is full"
    response = plain_error(503, f"Nothing new can be stored until there is room. {_KEPT} Tell a lead.", why)
    response["X-Away-Why"] = quote(why)
    return response


@login_not_required
@require_safe
def healthz(request: HttpRequest) -> HttpResponse:
    """200 while this process answers."""
    return HttpResponse("ok\n", content_type="text/plain")


@login_not_required
@require_safe
def readyz(request: HttpRequest) -> HttpResponse:
    """200 when the database answers and is of this make; 503 and why not."""
    try:
        executor = MigrationExecutor(connection)
        waiting = executor.migration_plan(executor.loader.graph.leaf_nodes())
    except (OperationalError, InterfaceError):
        return _not_ready("no database")
    return _not_ready(f"{len(waiting)} migrations to run") if waiting else healthz(request)


def _not_ready(why: str) -> HttpResponse:
    response = HttpResponse(f"{why}\n", content_type="text/plain", status=503)
    response["Retry-After"] = str(RETRY_S)
    return response
