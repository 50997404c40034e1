"""The bench: every job with its next action; and the health of the server."""

from django.contrib.auth.decorators import login_not_required
from django.db import DatabaseError, connection
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_GET

from gyrometra.accounts.people import member
from gyrometra.bench.strips import strips
from gyrometra.bridge.units import Units
from gyrometra.crib.models import Machine
from gyrometra.jobs.models import Job


@require_GET
def bench(request: HttpRequest) -> HttpResponse:
    """All jobs on the bench."""
    units = Units(member(request).unit)
    jobs = strips(Job.objects.on_bench(), units)
    return render(request, "bench/bench.html", {"strips": jobs, "has_machine": Machine.objects.exists()})


@login_not_required
@require_GET
def healthz(request: HttpRequest) -> HttpResponse:
    """200 when the database answers, 503 when it does not."""
    try:
        with connection.cursor() as cursor:
            cursor.execute("SELECT 1")
    except DatabaseError:
        return HttpResponse("no database\n", content_type="text/plain", status=503)
    return HttpResponse("ok\n", content_type="text/plain")
