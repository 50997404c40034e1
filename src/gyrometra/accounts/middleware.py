"""Who is not signed in is sent to the sign-in page; a part of a page is told, so that it is not swapped into it."""

from collections.abc import Callable
from typing import Any

from django.contrib.auth.middleware import LoginRequiredMiddleware
from django.http import HttpRequest, HttpResponse
from django.http.response import HttpResponseBase


class SignedIn(LoginRequiredMiddleware):
    """As Django's, but a request from within a page is answered 401: the page asks for the password in place."""

    def handle_no_permission(  # type: ignore[override]
        self, request: HttpRequest, view_func: Callable[..., Any]
    ) -> HttpResponseBase:
        """401 for htmx and for entries, the sign-in page for people."""
        if request.headers.get("HX-Request"):
            return HttpResponse("Signed out.", status=401, content_type="text/plain")
        answer: HttpResponseBase = super().handle_no_permission(request, view_func)
        return answer


def no_store(answer: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """What a signed-in person sees is kept by no cache: the next one at a shared tablet does not go back to it."""

    def kept_nowhere(request: HttpRequest) -> HttpResponse:
        response = answer(request)
        if not request.path.startswith("/static/") and "Cache-Control" not in response:
            response["Cache-Control"] = "no-store"
        return response

    return kept_nowhere
