"""The practice bench."""

from __future__ import annotations

from typing import Any

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST, require_safe

from gyrocore import InvalidInput, error_sentence, read_needle
from gyrometra.accounts.people import member, units_shown
from gyrometra.bridge.units import Units
from gyrometra.practice import services, shown
from gyrometra.practice.models import PracticeRun
from gyroplan.practice import LEVELS, MOVED, Act, Level, Refusal, replayed


@require_safe
def practice(request: HttpRequest) -> HttpResponse:
    """The level that was worked on last; the first one for a beginner."""
    last = PracticeRun.objects.filter(user=member(request)).first()
    return redirect("practice-level", last.level if last else next(iter(LEVELS)))


@require_safe
def level(request: HttpRequest, key: str) -> HttpResponse:
    """The piece in hand of a level."""
    return _show(request, _level(key), services.run_of(member(request), key))


def _level(key: str) -> Level:
    if key not in LEVELS:
        raise Http404
    return LEVELS[key]


def _show(request: HttpRequest, level: Level, row: PracticeRun, refused: str = "", typed: str = "") -> HttpResponse:
    units, coach = units_shown(request), bool(request.session.get("coach", True))
    run = replayed(level, row.seed, row.acts)
    context = {
        "level": level, "row": row, "run": run, "units": units, "coach": coach, "refused": refused, "typed": typed,
        "rail": shown.rail_of(level.key, services.best_of(member(request))),
        **shown.scenes_of(run, row.seed, units, coach=coach),
        "rows": shown.reading_rows(run, units), "says": shown.round_words(run, units),
        "here_word": shown.place_word(level, run.at), "planes": _planes(level, run.plane, units),
        "move_rows": shown.move_rows(level), "table": shown.moves_table(run, row.seed, units, coach=coach),
        "advice": shown.coach_says(run, units) if coach else None, "verdict": shown.verdict_of(run, row.seed, units),
        "limit": units.planned(level.centre_limit_mm),
    }  # fmt: skip
    context["base"] = "pages/bare.html" if request.htmx else "pages/base.html"  # type: ignore[attr-defined]
    return render(request, "practice/practice.html", context)


def _planes(level: Level, here: int, units: Units) -> list[tuple[int, str, bool]]:
    if len(level.planes_mm) < 2:
        return []
    names = ("Housing 1", "Housing 2") if level.moved == "bearings" else ("Outer plane", "Inner plane")
    return [(n, f"{names[n]}, at {units.length(z)}", n == here) for n, z in enumerate(level.planes_mm)]


@require_POST
def act(request: HttpRequest, key: str) -> HttpResponse:
    """Turn, read, move, or say that it is true."""
    level, user = _level(key), member(request)
    pk, count = _number(request.POST.get("run", "")), _number(request.POST.get("count", ""))
    try:
        row = services.do(user, key, pk, count, _act_typed(request, level))
    except (Refusal, InvalidInput) as fault:
        units = units_shown(request)
        words = error_sentence(fault, units.unit) if isinstance(fault, InvalidInput) else str(fault)
        return _show(request, level, services.run_of(user, key), words, request.POST.get("value", "")[:40])
    if request.htmx:  # type: ignore[attr-defined]
        return _show(request, level, row)
    return redirect("practice-level", key)


def _act_typed(request: HttpRequest, level: Level) -> Act:
    kind, units = request.POST.get("kind", ""), units_shown(request)
    if kind == "turn":
        return {"kind": "turn", "by": -1 if request.POST.get("by") == "-1" else 1}
    if kind == "plane":
        return {"kind": "plane", "plane": _number(request.POST.get("plane", ""))}
    if kind == "skip":
        return {"kind": "read", "value_mm": None}
    if kind == "read":
        text = request.POST.get("value", "")[:40]
        return {"kind": "read", "value_mm": read_needle(text, units.unit, level.step_mm, "unit").length_mm}
    if kind == "move":
        return {"kind": "move", "parts": _parts(request, level, units)}
    return {"kind": "finish"}


def _parts(request: HttpRequest, level: Level, units: Units) -> list[list[Any]]:
    found: list[list[Any]] = []
    for what in MOVED[level.moved]:
        for place in (0, 1):
            name = f"{what.replace(' ', '')}-{place}"
            text = request.POST.get(f"{name}-by", "").strip()[:40]
            if text:
                found.append([what, request.POST.get(f"{name}-way", "")[:2], float(units.read(text))])
    return found


def _number(text: str) -> int:
    return int(text) if text.isascii() and text.isdigit() and len(text) < 16 else 0


@require_POST
def new_piece(request: HttpRequest, key: str) -> HttpResponse:
    """Another piece of this level."""
    _level(key)
    services.new_run(member(request), key)
    return redirect("practice-level", key)


@require_POST
def coach(request: HttpRequest, key: str) -> HttpResponse:
    """The coach after each move, or not until the end."""
    _level(key)
    request.session["coach"] = request.POST.get("coach") == "on"
    return redirect("practice-level", key)
