"""Views of Check: the finished bore, its log, and the signature."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponse
from django.views.decorators.http import require_POST

from gyrometra.accounts.people import member, words_typed
from gyrometra.crib.models import Gauge, Indicator
from gyrometra.inspection import services as inspection
from gyrometra.inspection.models import FeatureReading
from gyrometra.jobs.permissions import JobClosed
from gyrometra.steps import progress
from gyrometra.steps.check.conceded import conceded_words, kept_values, past_words, reasons_typed, to_concede
from gyrometra.steps.check.features import FeatureEntryForm, RingForm, feature_rows, indicators_for
from gyrometra.steps.check.form import CheckSizeForm, DepthForm, FeltForm, MateForm, PlugForm
from gyrometra.steps.check.plates import check, first_waiting
from gyrometra.steps.check.plugs import felt_rows, felt_sizes, plug_rows
from gyrometra.steps.check.scene import check_scenes
from gyrometra.steps.page import JobPage, open_page, other_pages
from gyrometra.steps.shared.entry_view import entry_view, sent_by
from gyrometra.steps.shared.fine import fine_words, waiting_words
from gyrometra.steps.shared.linked import linked, linked_gauge
from gyrometra.steps.shared.seen import Changed, require_unchanged, seen_by
from gyrometra.steps.shared.view import page_for, saved, show
from gyrometra.steps.true.form import ReadingForm, RoundForm
from gyrometra.steps.true.plates import round_initial
from gyrometra.steps.work.scene import work_scenes
from gyroplan.assess import RINGED, judged_and_written, not_in_limits, worst_word


def show_check(request: HttpRequest, page: JobPage, extra: dict[str, Any]) -> HttpResponse:
    shown = check(page)
    only_trued = page.record.setup.only_trued
    if only_trued:
        shown["bands"] = work_scenes(page)
    elif "grid_scenes" not in shown:
        shown["bands"] = check_scenes(page, shown["angles"])
    shown["form"] = ReadingForm(units=page.units)
    shown["size_form"] = CheckSizeForm(units=page.units, bore=page.bore)
    shown["round_form"] = RoundForm(units=page.units, initial=round_initial(page, page.sweeps, check=True))
    shown["gauges"] = Gauge.objects.measuring(page.bore.lower_mm)
    last = shown["judged"].sizes[-1].key if shown["judged"].sizes else None
    used = page.rows.sizes[last].gauge_id if last is not None else None
    shown["fine"] = fine_words(page, shown["gauges"], member(request).username, used)
    shown |= {"plug_gauges": plug_rows(page), "felt": felt_rows(page), "felt_sizes": felt_sizes(page)}
    shown["felt_gauges"] = [] if page.is_locked else Gauge.objects.to_set(page.bore.aim_mm)
    if last is not None and not page.is_locked:
        size = shown["judged"].sizes[-1]
        shown["waiting"] = waiting_words(page, size.part_temp_c, size.gauge_temp_c)
    if page.bore_row.has_shoulder:
        shown["depth_gauges"] = Gauge.objects.measuring(page.bore.depth_lower_mm or 0)
    shown["has_indicator"] = Indicator.objects.filter(retired=False).exists()
    open_round = shown.get("open_round")
    shown |= linked(page, open_round) if open_round is not None else linked_gauge(page, shown["gauges"])
    rows = feature_rows(page, extra.get("feature_form"))
    if rows:
        shown |= {
            "feature_rows": rows, "indicators": indicators_for(rows), "overs": FeatureReading.Over.choices,
            "features_open": _on_features(request), "mode": "features" if _on_features(request) else "",
            "features_word": worst_word([row.word for row in rows]),
        }  # fmt: skip
    shown["past"] = past_words(page)
    if page.is_signed:
        shown["conceded"] = conceded_words(page.job.signoff.verdict, page.units)
    if shown["job_word"] not in ("in", "incomplete") and not page.is_locked:
        shown["to_concede"] = to_concede(not_in_limits(page.assessment), page.units, reasons_typed(request.POST))
    return show(request, page, "check", {**shown, **extra})


def _on_features(request: HttpRequest) -> bool:
    """Whether faces, outsides and distances are looked at, or one of them was just read."""
    read = request.resolver_match is not None and request.resolver_match.url_name in ("log-feature", "log-ring")
    return read or request.POST.get("what") == "feature" or request.GET.get("at") == "features"


@entry_view(lambda **_: ("check", show_check))
def log_size(request: HttpRequest, page: JobPage) -> dict[str, Any] | None:
    """Log one size of the finished bore."""
    mean = page.judged.form.mean_mm if page.judged.form else None
    form = CheckSizeForm(
        request.POST, units=page.units, bore=page.bore, stations_mm=page.judged.stations_mm, expected_mm=mean
    )
    if not form.is_valid():
        return {"size_form": form}
    values = form.cleaned_data
    require_unchanged(seen_by(request), values["gauge"])
    inspection.log_size(
        sent=sent_by(request, values, request.POST.get("value", "").strip()),
        bore=page.bore_row, gauge=values["gauge"], z_mm=values["z"], angle_deg=values["angle_deg"],
        value_mm=values["value_mm"], part_temp_c=values["part_temp_c"], gauge_temp_c=values["gauge_temp_c"],
        temp_u_c=values["temp_u_c"], piece=page.piece,
    )  # fmt: skip
    return None


@entry_view(lambda **_: ("check", show_check))
def log_plug(request: HttpRequest, page: JobPage) -> dict[str, Any] | None:
    """Log that a plug or the mating part goes or does not, or how a set gauge felt."""
    side = request.POST.get("side", "")
    form = _tried_form(request, page, side)
    if not form.is_valid():
        return {{"set": "felt_form", "mate": "mate_form"}.get(side, "plug_form"): form}
    tried = form.tried()
    require_unchanged(seen_by(request), tried.gauge)
    inspection.log_plug(
        sent=sent_by(request, form.cleaned_data, request.POST.get("size_mm", "").strip()), bore=page.bore_row,
        tried=tried, piece=page.piece,
    )  # fmt: skip
    return None


def _tried_form(request: HttpRequest, page: JobPage, side: str) -> PlugForm | MateForm | FeltForm:
    """The form of a plug, of the mating part, or of a gauge that was set."""
    if side == "mate":
        return MateForm(request.POST, units=page.units, bore=page.bore)
    if side == "set":
        return FeltForm(request.POST, units=page.units, bore=page.bore)
    return PlugForm(request.POST)


@entry_view(lambda **_: ("check", show_check))
def log_depth(request: HttpRequest, page: JobPage) -> dict[str, Any] | None:
    """Log the depth of a shoulder."""
    if not page.bore_row.has_shoulder:
        raise Changed("This bore has no shoulder any more.")
    form = DepthForm(request.POST, units=page.units, bore=page.bore)
    if not form.is_valid():
        return {"depth_form": form}
    values = form.cleaned_data
    require_unchanged(seen_by(request), values["gauge"])
    inspection.log_depth(
        sent=sent_by(request, values, request.POST.get("value", "").strip()),
        bore=page.bore_row, gauge=values["gauge"], value_mm=values["value_mm"], piece=page.piece,
    )  # fmt: skip
    return None


@entry_view(lambda **_: ("check", show_check))
def log_feature(request: HttpRequest, page: JobPage) -> dict[str, Any] | None:
    """Log one reading of a face, band, outside, relief or distance."""
    form = FeatureEntryForm(request.POST, page=page)
    if not form.is_valid():
        return {"feature_form": form}
    feature, values = form.record, form.cleaned_data
    if feature is None:
        raise Changed("The feature it was typed for is not in this job any more.")
    for name in ("gauge", "indicator"):
        require_unchanged(seen_by(request), values[name])
    inspection.log_feature(
        sent=sent_by(request, values, request.POST.get("value", "").strip()),
        feature=page.job.setup.features.get(place=feature.place), read=values["read"], piece=page.piece,
    )  # fmt: skip
    return None


@entry_view(lambda **_: ("check", show_check))
def log_ring(request: HttpRequest, page: JobPage) -> dict[str, Any] | None:
    """Log that a side of a ring or gap gauge goes over an outside, or does not."""
    form = RingForm(request.POST)
    if not form.is_valid():
        return {"feature_form": form}
    place, gauge = form.cleaned_data["feature"], form.cleaned_data["gauge"]
    feature = next((one for one in page.record.setup.features if one.place == place and one.kind in RINGED), None)
    if feature is None:
        raise Changed("The outside it was tried on is not in this job any more.")
    require_unchanged(seen_by(request), gauge)
    inspection.log_feature(
        sent=sent_by(request, form.cleaned_data), feature=page.job.setup.features.get(place=place),
        read=form.tried(), piece=page.piece,
    )  # fmt: skip
    return None


def _judge(page: JobPage) -> tuple[str, dict[str, Any], str]:
    """Every set-up anew, from all of its logs; with each limit that a signature would accept."""
    now = open_page(page.job.number, page.units, setup=page.record.setup.place, whole=True)
    others = [one.assessment for one in other_pages(now)]
    digest, verdict, written = judged_and_written(now.assessment, others)
    return digest, {**verdict, "concessions": kept_values(not_in_limits(now.assessment, others))}, written


@require_POST
def sign(request: HttpRequest, number: str) -> HttpResponse:
    """The lead signs the verdict that was shown; anything but "in limits" is a concession with its reason."""
    page = page_for(request, number)

    def refuse(why: str) -> HttpResponse:
        return show_check(request, page_for(request, number), {
            "refused": why, "reason": request.POST.get("reason", "")})  # fmt: skip

    reasons = reasons_typed(request.POST)

    waiting = first_waiting(page)
    if waiting:
        return refuse(f"Incomplete: measure what is missing{waiting} before you sign.")
    try:
        inspection.sign_off(
            user=member(request), job=page.job, shown=request.POST.get("digest", ""),
            judge=lambda: _judge(page),
            reason=words_typed(request, "reason", 300), reasons=reasons,
        )  # fmt: skip
    except JobClosed as refused:
        return refuse(str(refused))
    except inspection.NotAllowed:
        return refuse("Only the lead signs a verdict.")
    except inspection.ShownOtherwise:
        progress.refresh(page.job)
        return refuse("The log has changed since this page was shown: look at the verdict again, then sign.")
    except inspection.NoReason:
        return refuse(
            "Accepted by concession: give the reason, one for all or one for each limit; it is kept with your name."
        )
    return saved(request, number, "check", show_check)


@require_POST
def reopen_signed(request: HttpRequest, number: str) -> HttpResponse:
    """The lead takes the signature back that was shown, with a reason: both stay with the job."""
    page, reason = page_for(request, number), words_typed(request, "why", 300)

    def refuse(why: str) -> HttpResponse:
        return show_check(request, page_for(request, number), {"refused": why, "why_reopened": reason})

    signed = request.POST.get("signed", "")
    try:
        inspection.reopen_signed(
            user=member(request), job=page.job, reason=reason,
            signed=int(signed) if signed.isascii() and signed.isdecimal() and len(signed) < 18 else 0,
        )  # fmt: skip
    except inspection.NotAllowed:
        return refuse("Only a lead takes a signature back.")
    except inspection.NoReason:
        return refuse("Why is it reopened? The reason is kept with the signature and your name.")
    except inspection.ShownOtherwise:
        return refuse("It is not signed so any more: look again.")
    return saved(request, number, "check", show_check)
