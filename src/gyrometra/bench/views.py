"""The bench: every job with its next action, and answers without a job; and the health of the server."""

from uuid import uuid4

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import render
from django.utils import timezone
from django.views.decorators.http import require_POST, require_safe

from gyrometra.accounts.people import member, units_shown
from gyrometra.bench.calendar import calendar
from gyrometra.bench.lines import LINES, ON_BENCH
from gyrometra.bench.lines.ask import NotUnderstood, understand
from gyrometra.bench.linesheet import Sheet, keep, line_form, sheet
from gyrometra.bench.strips import bench_page
from gyrometra.crib import starter
from gyrometra.crib.cards import KINDS
from gyrometra.jobs.permissions import JobClosed


@require_safe
def bench(request: HttpRequest) -> HttpResponse:
    """All jobs on the bench."""
    units, number = units_shown(request), request.GET.get("page", "")
    found = bench_page(request.GET.get("q", "").strip()[:80], int(number) if number.isdigit() else 1, units)
    page = sheet(ON_BENCH, units)
    context = {
        "bench": found,
        "strips": found.strips,
        "has_machine": bool(page.machines),
        "filters": [
            ("All", ""),
            ("Mine", member(request).username),
            ("Waiting for sign-off", "waiting"),
            ("Over", "over"),
            ("Settling", "settling"),
            ("Due", "due"),
        ],
        "lacking": [] if found.all_jobs else [KINDS[key].many.lower() for key in starter.lacking()],
        "sheet": page,
        "calendar": calendar(timezone.localdate()),
    }
    if request.htmx:  # type: ignore[attr-defined]
        return render(request, "bench/strips.html", context)
    return render(request, "bench/bench.html", context)


@require_safe
def lines(request: HttpRequest) -> HttpResponse:
    """Every bench line."""
    return render(request, "bench/lines.html", {"sheet": sheet(tuple(LINES), units_shown(request))})


@require_safe
def answer(request: HttpRequest, key: str) -> HttpResponse:
    """One line's answer, worked out as its fields are typed."""
    if key not in LINES:
        raise Http404
    units = units_shown(request)
    form = line_form(key, units, data=request.GET)
    context = {"form": form, "answer": form.answered(), "fresh_id": uuid4(), "units": units}
    return render(request, "bench/answer.html", context)


@require_safe
def ask(request: HttpRequest) -> HttpResponse:
    """One sentence, answered by the line that it means."""
    text, units = request.GET.get("q", "").strip()[:200], units_shown(request)
    context = {"asked": text, "fresh_id": uuid4(), "units": units}
    if text:
        try:
            form = understand(text, units).form(units)
            context |= {"form": form, "answer": form.answered()}
        except NotUnderstood as refused:
            context["sentence"] = str(refused)
    return render(request, "bench/asked.html", context)


@require_POST
def keep_line(request: HttpRequest, key: str) -> HttpResponse:
    """Keep a line's answer with a job."""
    if key not in LINES:
        raise Http404
    try:
        job = keep(user=member(request), key=key, data=request.POST, units=units_shown(request))
    except (JobClosed, Sheet.CannotKeep) as refused:
        return render(request, "bench/kept.html", {"refused": str(refused)})
    return render(request, "bench/kept.html", {"job": job})
