"""Set-ups on Work: the list, one more, going on in another one, giving up, taking up again, taking away."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Any

from django import forms
from django.db import transaction
from django.http import Http404, HttpRequest, HttpResponse
from django.views.decorators.http import require_POST

from gyrocore import method, methods
from gyrometra.accounts.people import member, words_typed
from gyrometra.bridge.choices import ChoiceOfRow
from gyrometra.bridge.messages import use_shop_words
from gyrometra.bridge.units import to_decimal
from gyrometra.crib.models import Machine
from gyrometra.jobs import setups
from gyrometra.jobs.models import SetUp
from gyrometra.jobs.permissions import ChangedMeanwhile, JobClosed
from gyrometra.jobs.services import StillNeeded
from gyrometra.steps import progress
from gyrometra.steps.page import JobPage, open_page
from gyrometra.steps.progress_words import VERDICT_WORDS
from gyrometra.steps.shared.view import StepView, page_for, saved, version_of
from gyrometra.steps.work.guards import cannot
from gyroplan.assess import handed_on
from gyroplan.record import SetUpSummary

_REFUSED = (JobClosed, ChangedMeanwhile, StillNeeded)


class SetUpForm(forms.Form):
    """How the next set-up stands; why this one is left, where it is."""

    machine = ChoiceOfRow(Machine.objects.filter(retired=False), label="Machine", empty_label=None)
    method = forms.ChoiceField(label="Boring method", choices=[(key, way.label) for key, way in methods().items()])
    reference = forms.ChoiceField(label="Set true to", choices=SetUp.Reference.choices)
    side = forms.ChoiceField(label="Bored from", choices=SetUp.Side.choices)
    reason = forms.CharField(label="This set-up is left, because", max_length=200, required=False)

    def __init__(self, *args: Any, page: JobPage, machines: Iterable[Machine] | None = None, **kwargs: Any) -> None:
        self.page = page
        setup = page.job.setup
        shown = {"machine": setup.machine_id, "method": setup.method, "reference": setup.reference, "side": setup.side}
        super().__init__(*args, **{"initial": shown, "auto_id": "id_next_%s", **kwargs})
        use_shop_words(self)
        if machines is not None:
            self.fields["machine"].offer(machines)  # type: ignore[attr-defined]

    def clean(self) -> dict[str, Any]:
        """The machine can bore that way, and the way takes as many bores."""
        values = super().clean() or {}
        machine, key = values.get("machine"), values.get("method")
        if machine is None or key is None:
            return values
        why_not = cannot(machine, key)
        if why_not:
            self.add_error("machine", why_not)
        if self.goes_on and len(self.page.bores) > 1 and not method(key).several:
            self.add_error("method", f"There are {len(self.page.bores)} bores in line; {method(key).label} bores one.")
        return values

    @property
    def goes_on(self) -> bool:
        """Whether it takes the bores of this set-up over."""
        return self.data.get("what") == "on"

    def new(self) -> setups.NewSetUp:
        """The next set-up, as the service takes it."""
        values = self.cleaned_data
        return setups.NewSetUp(**{name: values[name] for name in ("machine", "method", "reference", "side")})


@dataclass(frozen=True)
class SetUpRow:
    """A set-up in the list on Work."""

    row: SetUp
    #: Machine and boring method; of a signed job as they were signed.
    stands: str
    machine: str
    #: What it came to, as it stands.
    summary: SetUpSummary
    words: str
    here: bool
    query: str
    #: The same with the set-up open.
    at_query: str
    #: Names of the bores it goes on with, of an earlier set-up.
    follows: str


def setup_rows(page: JobPage, setups: Iterable[SetUp]) -> list[SetUpRow]:
    """Every set-up of the job in order."""
    came_to = {one.place: one for one in page.setups}
    signed = _as_signed(page)
    return [
        SetUpRow(
            row=row, **_how_it_stands(signed.get(row.place) or (row.machine.name, row.method)),
            summary=came_to[row.place], words=VERDICT_WORDS[came_to[row.place].word],
            here=row.place == page.record.setup.place, query=page.in_setup(row.place),
            at_query=_open(page.in_setup(row.place)), follows=_follows(row),
        )
        for row in setups if row.place in came_to
    ]  # fmt: skip


def _open(query: str) -> str:
    return f"{query}{'&' if query else '?'}at=setup"


def _how_it_stands(on: tuple[str, str]) -> dict[str, str]:
    machine, key = on
    return {"machine": machine, "stands": f"{machine}, {method(key).label}"}


def _as_signed(page: JobPage) -> dict[int, tuple[str, str]]:
    """Machine and method of each set-up when the job was signed, by its number."""
    signoff = getattr(page.job, "signoff", None)
    if signoff is None or signoff.record is None:
        return {}
    written = [one["setup"] for one in signoff.record.get("setups", [signoff.record])]
    return {one.get("place", 1): (one["machine"]["name"], one["method"]) for one in written}


def _follows(setup: SetUp) -> str:
    if setup.place == 1:
        return ""  # nothing came before it
    before = {bore.follows.setup.letter for bore in setup.bores.all() if bore.follows is not None}
    return f"goes on with the bores of set-up {', '.join(sorted(before))}" if before else ""


def found_for_next(page: JobPage, side: str | None = None) -> list[setups.Found]:
    """The bores of a set-up as they stand, for the next; raises StillNeeded for one that was cut and not measured.

    Where the next bores from the other `side`, depths count from the other face.
    """
    turned = side is not None and side != page.record.setup.side
    handed = handed_on(page.assessment)
    unknown = next((one for one in handed if one.unmeasured), None)
    if unknown is not None:
        of = f" of piece {unknown.piece}" if page.job.quantity > 1 else ""
        raise StillNeeded(f"{unknown.bore.name}{of} was cut and not measured since: measure it first, on Bore.")
    alone = page.job.quantity > 1
    return [
        setups.Found(bore=page.rows.bore_at(bore.place), rows=[
            (one.piece if alone else None, to_decimal(bore.length_mm - z if turned else z), to_decimal(diameter))
            for one in handed if one.bore.place == bore.place for z, diameter in one.rows_mm
        ])
        for bore in page.bores
    ]  # fmt: skip


def add_setup_view(showing: Callable[[str], StepView]) -> Callable[..., HttpResponse]:
    """One more set-up, or another one that goes on with the bores of this."""

    @require_POST
    def view(request: HttpRequest, number: str) -> HttpResponse:
        page = page_for(request, number)
        form = SetUpForm(request.POST, page=page)
        if not form.is_valid():
            return showing("add")(request, page, {"setup_form": form})
        of: dict[str, Any] = {
            "user": member(request), "version": version_of(request), "new": form.new(), "unit": page.units.unit,
        }  # fmt: skip
        try:
            with transaction.atomic():
                page = page_for(request, number, held=True)
                if form.goes_on:
                    whole = open_page(number, page.units, setup=page.record.setup.place, whole=True)
                    made = setups.go_on(
                        after=page.job.setup,
                        found=found_for_next(whole, form.cleaned_data["side"]),
                        reason=form.cleaned_data["reason"].strip(),
                        **of,
                    )
                else:
                    made = setups.add_setup(like=page.job.setup, **of)
        except _REFUSED as refused:
            return showing("add")(request, page_for(request, number), {"setup_form": form, "refused": str(refused)})
        progress.refresh(page.job)
        return saved(
            request, number, "work", showing("setup"), open_page(number, page.units, setup=made.place, whole=True),
            at="setup",
        )  # fmt: skip

    return view


def change_setup_view(showing: Callable[[str], StepView]) -> Callable[..., HttpResponse]:
    """Give the set-up that is shown up, take it up again, or take it away."""

    @require_POST
    def view(request: HttpRequest, number: str, what: str) -> HttpResponse:
        page = page_for(request, number)
        setup, reason = page.job.setup, words_typed(request, "reason", 200)
        if what == "close" and not reason:
            return showing("setup")(
                request, page, {"setup_error": "Why is it given up? The reason is kept with your name."}
            )
        of: dict[str, Any] = {"user": member(request), "setup": setup, "version": version_of(request)}
        try:
            if what == "close":
                setups.close_setup(reason=reason, **of)
            elif what == "reopen":
                setups.reopen_setup(**of)
            elif what == "remove":
                setups.remove_setup(**of)
            else:
                raise Http404
        except _REFUSED as refused:
            return showing("setup")(request, page_for(request, number), {"refused": str(refused)})
        progress.refresh(page.job)
        place = None if what == "remove" else page.record.setup.place
        at = "more" if what == "close" else "setup"
        return saved(
            request, number, "work", showing(at), open_page(number, page.units, setup=place, whole=True), at=at
        )

    return view
