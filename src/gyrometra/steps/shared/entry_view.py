"""What every address of a log does: read what was seen, hold the job, store or refuse, and say which by name.

The answer names the entry's own id with what became of it, in `X-Entry`: only that mark tells a page that holds the
entry that it is stored, or that it is refused by its own fault. Anything else, a sign-in page, a fault, a proxy's
words, is not an answer to the entry, and it is kept and sent again.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import wraps
from hashlib import sha256
from typing import Any
from urllib.parse import quote

from django.db import transaction
from django.forms import BaseForm
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_POST

from gyrocore import error_sentence
from gyrometra.accounts.people import member
from gyrometra.cutting.models import CutEntry
from gyrometra.cutting.services import NothingPlanned
from gyrometra.inspection.models import DepthReading, FeatureReading, PlugReading, SizeReading
from gyrometra.jobs.entries import NotTheLast, Sent, StoredOtherwise, stored_before
from gyrometra.jobs.models import LogEntry
from gyrometra.jobs.permissions import JobClosed
from gyrometra.steps.shared.entries import EntryForm
from gyrometra.steps.shared.seen import Changed, OtherUser, named, read_seen, require_place, typed_at
from gyrometra.steps.shared.view import StepView, page_for, saved, units_of
from gyrometra.truing.models import Between, Reading, Round
from gyrometra.truing.services import RoundClosed
from gyroplan.refusal import Refused

#: What logs an entry: None once it is stored, else what the page shows beside it, a form with its errors or the like.
Log = Callable[..., dict[str, Any] | None]
_LOGS: Sequence[type[LogEntry] | type[Round]] = (
    Reading, Between, CutEntry, SizeReading, DepthReading, FeatureReading, PlugReading, Round,
)  # fmt: skip
#: Not part of what was typed.
_ENVELOPE = ("csrfmiddlewaretoken", "age_ms", "client_id")
#: A step and how it is shown.
Shown = tuple[str, StepView]


def entry_view(shown_by: Callable[..., Shown]) -> Callable[[Log], Callable[..., HttpResponse]]:
    """A view of an entry; `shown_by` says from the address which step shows it."""

    def made(log: Log) -> Callable[..., HttpResponse]:
        @require_POST
        @wraps(log)
        def view(request: HttpRequest, number: str, **kwargs: Any) -> HttpResponse:
            step, show = shown_by(**kwargs)
            try:
                refused = _logged(request, number, log, kwargs)
            except OtherUser as other:
                return _marked(request, _plain(request, str(other), 403), "other", str(other))
            except _REFUSALS as fault:
                return _refuse(request, number, show, {"refused": _words_of(fault, request)}, 409)
            if refused is not None:
                return _refuse(request, number, show, refused, 200)
            return _marked(request, saved(request, number, step, show), "stored")

        return view

    return made


def sent_by(request: HttpRequest, values: dict[str, Any], text: str = "") -> Sent:
    """Header of an entry, from its cleaned form."""
    return Sent(
        user=member(request), client_id=values["client_id"], source=values.get("source") or "typed", text=text[:60],
        typed_at=typed_at(request), digest=_digest(request),
    )  # fmt: skip


@transaction.atomic
def _logged(request: HttpRequest, number: str, log: Log, kwargs: dict[str, Any]) -> dict[str, Any] | None:
    """Decide and store under the job's lock; an entry that is stored already is stored."""
    seen = read_seen(request)
    request.seen = seen  # type: ignore[attr-defined]
    form = EntryForm(request.POST)
    if not form.is_valid():
        raise Changed("This page does not say what it showed: load it again, then type it once more.")
    page = page_for(request, number, held=True)
    sent = sent_by(request, form.cleaned_data)
    if any(stored_before(rows, sent) is not None for rows in _LOGS):
        return None
    require_place(seen, page)
    return log(request, page, **kwargs)


def _digest(request: HttpRequest) -> str:
    """Of the address and all that was typed: the same entry sent again has the same."""
    fields = sorted((name, *values) for name, values in request.POST.lists() if name not in _ENVELOPE)
    return sha256(repr((request.path, fields)).encode()).hexdigest()[:16]


_REFUSALS = (Refused, RoundClosed, NotTheLast, NothingPlanned, JobClosed, Changed, StoredOtherwise)


def _words_of(fault: Exception, request: HttpRequest) -> str:
    """A refusal in the shop's words."""
    if isinstance(fault, Refused):
        return error_sentence(fault.refusal.error, units_of(request).unit)
    if isinstance(fault, RoundClosed):
        return f"{request.POST.get('value', '')} was not logged: the round is closed. Start a new sweep."
    if isinstance(fault, NotTheLast):
        return "Not undone: it is not the last entry any more. Look at the log again."
    if isinstance(fault, NothingPlanned):
        return "Nothing is planned yet: see Work and Cuts."
    return str(fault)


def _refuse(request: HttpRequest, number: str, view: StepView, extra: dict[str, Any], status: int) -> HttpResponse:
    """The step as it stands now, with the refusal; only the words where its place is not there any more."""
    why = _first_words(extra)
    if status == 200:
        extra = {**extra, "again": named(request, "client_id")}  # mended on the page, it is the same entry
    try:
        response = view(request, page_for(request, number), extra)
    except Http404:
        response = _plain(request, why, status)
    response.status_code = 409 if _is_gone(extra) else status
    return _marked(request, response, "refused", why)


def _is_gone(extra: dict[str, Any]) -> bool:
    """Whether the gauge or the indicator that it names is not there any more: what was shown has changed."""
    forms = [form for form in extra.values() if isinstance(form, BaseForm)]
    return any(form.has_error(name, "invalid_choice") for form in forms for name in ("gauge", "indicator"))


def _first_words(extra: dict[str, Any]) -> str:
    """The sentence that a page shows first of a refusal."""
    if "refused" in extra:
        return str(extra["refused"])
    errors = (error for form in extra.values() if isinstance(form, BaseForm) for error in form.errors.values())
    first = next(errors, None)
    return "A reading stands there already." if first is None else str(first[0])


def _plain(request: HttpRequest, why: str, status: int) -> HttpResponse:
    return render(request, "pages/refused_entry.html", {"why": why}, status=status)


def _marked(request: HttpRequest, response: HttpResponse, became: str, why: str = "") -> HttpResponse:
    """Name the entry and what became of it."""
    response["X-Entry"] = f"{named(request, 'client_id') or 'none'} {became}"
    if why:
        response["X-Entry-Why"] = quote(why[:400])
    return response
