"""The least a signed-in page can be, at an address: it comes in by the same middleware as every page."""

from django.contrib.auth.decorators import login_required
from django.http import HttpRequest, HttpResponse
from django.urls import path

from gyrometra.jobs.models import Job


@login_required
def bare(request: HttpRequest) -> HttpResponse:
    """One query, one line."""
    return HttpResponse(Job.objects.values_list("part", flat=True).get(number="Q-214"))


urlpatterns = [path("bare/", bare)]
