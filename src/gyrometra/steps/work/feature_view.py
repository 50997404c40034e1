"""Views of features on Work: the open one beside the drawing, saved as its fields are left."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from django.http import Http404, HttpRequest, HttpResponse
from django.views.decorators.http import require_POST

from gyrometra.accounts.people import member
from gyrometra.jobs import features as written
from gyrometra.jobs import services as jobs
from gyrometra.jobs.models import Feature, SetUp
from gyrometra.jobs.permissions import ChangedMeanwhile, JobClosed
from gyrometra.steps.page import JobPage, open_page
from gyrometra.steps.shared.view import StepView, page_for, saved, version_of
from gyrometra.steps.work.feature_plates import feature_plates
from gyrometra.steps.work.features import FeatureForm, feature_row, form_of, initial_of, let_stand, rows_of
from gyrometra.steps.work.whole import setups_of


def number_of(text: str) -> int | None:
    """The place of a feature that an address or a form names; None for none."""
    return int(text) if text.isascii() and text.isdecimal() and len(text) < 6 else None


def feature_shown(
    request: HttpRequest, page: JobPage, setups: Sequence[SetUp], refused: FeatureForm | None, place: int | None
) -> dict[str, Any]:
    """The open feature with its form, a new one of a kind, or the kinds to choose from."""
    place = place if place is not None else number_of(request.GET.get("feature", ""))
    row, kind = feature_row(page, place), request.GET.get("kind", "")
    form = refused
    if form is None and row is not None and not row["dropped"]:
        form = form_of(page, row, setups)
    elif form is None and kind in Feature.Kind.values:
        form = FeatureForm(page=page, kind=kind, setups=setups, initial=initial_of(page, None, kind))
    kept = next((one for one in page.record.setup.features if form is not None and one.place == form.place), None)
    return {
        "feature_panel": True, "feature_form": form, "feature_place": form.place if form else None,
        "feature_title": _title(form), "kinds": [] if form else Feature.Kind.choices,
        "off_the_list": [] if form else [one for one in rows_of(page) if one["dropped"]],
        "plates": feature_plates(page, kept), "can_be_dropped": kept is not None and not _is_read(page, kept.place),
    }  # fmt: skip


def _title(form: FeatureForm | None) -> str:
    if form is None:
        return "Face, outside, relief, distance"
    label = str(Feature.Kind(form.kind).label)
    return label[:1].upper() + label[1:]


def _is_read(page: JobPage, place: int) -> bool:
    return any(one.feature == place for one in page.record.feature_readings)


def save_feature_view(show: StepView) -> Callable[..., HttpResponse]:
    """Add a feature, or change one."""

    @require_POST
    def save_feature(request: HttpRequest, number: str) -> HttpResponse:
        page = page_for(request, number)
        place, kind = number_of(request.POST.get("feature", "")), request.POST.get("kind", "")
        row = feature_row(page, place)
        if place is not None and row is None:
            raise Http404(f"Job {number} has no such feature.")
        kind = row["kind"] if row is not None else kind
        if kind not in Feature.Kind.values:
            raise Http404(f"{kind} is no kind of feature.")
        form = FeatureForm(request.POST, page=page, kind=kind, setups=setups_of(page), place=place)
        let_stand(form, row)
        shown = {"at": "feature", "feature_form": form, "feature_place": place}
        if not form.is_valid():
            return show(request, page, shown)
        try:
            made = written.save_feature(
                user=member(request), setup=page.job.setup, version=version_of(request), place=place,
                data=form.data_of(),
            )  # fmt: skip
        except (JobClosed, ChangedMeanwhile) as refused:
            return show(request, page, {**shown, "refused": str(refused)})
        return _saved(request, page, number, show, made.place)

    return save_feature


def drop_feature_view(show: StepView) -> Callable[..., HttpResponse]:
    """Take a feature off the list, or put it back."""

    @require_POST
    def drop_feature(request: HttpRequest, number: str) -> HttpResponse:
        page, back = page_for(request, number), request.POST.get("back") == "yes"
        place = number_of(request.POST.get("feature", ""))
        if place is None or feature_row(page, place) is None:
            raise Http404(f"Job {number} has no such feature.")
        try:
            written.drop_feature(
                user=member(request), setup=page.job.setup, version=version_of(request), place=place, back=back
            )
        except (JobClosed, ChangedMeanwhile, jobs.StillNeeded) as refused:
            return show(request, page, {"at": "feature", "feature_place": place, "refused": str(refused)})
        return _saved(request, page, number, show, place if back else None)

    return drop_feature


def _saved(request: HttpRequest, page: JobPage, number: str, show: StepView, place: int | None) -> HttpResponse:
    """Other limits judge every piece anew; then the feature as it stands."""
    whole = open_page(number, page.units, page.place, page.piece, setup=page.record.setup.place, whole=True)

    def again(request: HttpRequest, page: JobPage, extra: dict[str, Any]) -> HttpResponse:
        return show(request, page, {"at": "feature", "feature_place": place, **extra})

    return saved(request, number, "work", again, whole, at="feature" if place is None else f"feature&feature={place}")
