"""Pages for an address that is not there, and for a fault of ours."""

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render


def not_found(request: HttpRequest, exception: Exception) -> HttpResponse:
    """404 in the shop's words."""
    return render(request, "pages/not_found.html", status=404)


def broken(request: HttpRequest) -> HttpResponse:
    """500: says that nothing typed elsewhere is lost."""
    return render(request, "pages/broken.html", status=500)
