"""A shop that judges as read: verdict and report say so, and what was signed under another rule stays."""

from __future__ import annotations

import json
from typing import Any

from django.test import Client

from gyrometra.crib.models import Indicator
from gyrometra.jobs.models import Job, SignOff
from gyrometra.steps import progress
from gyrometra.steps.page import open_page
from tests.web.said import flat
from tests.web.test_check import MM, lines, log, sign, whole
from tests.web.test_features import log as log_feature
from tests.web.test_features import page_of

NEAR = {(z, angle): 72.029 for z in (20, 70, 120) for angle in (0, 90)}


def word() -> str:
    return open_page("Q-214", MM).judged.word


def test_as_read_where_the_shop_says_so(dagny: Client, settings: Any) -> None:
    whole(dagny, NEAR)
    assert word() == "not-proven"
    settings.JUDGE_RULE = "simple"
    assert word() == "in"
    assert "Judged as read: the shop's rule" in flat(dagny.get("/jobs/Q-214/check/")).replace("&#x27;", "'")
    log(dagny, 72.031, 70, 45)
    assert word() == "over"


def test_form_by_the_same_rule(dagny: Client, settings: Any) -> None:
    page = whole(dagny, {(20, 0): 72.0171, (20, 90): 72.0171, (120, 0): 72.0085, (120, 90): 72.0085})
    assert lines(page)["taper"] == "undecided"
    settings.JUDGE_RULE = "simple"
    assert lines(open_page("Q-214", MM))["taper"] in ("in", "over")


def test_the_report_prints_the_rule_and_the_signature_keeps_it(dagny: Client, settings: Any) -> None:
    settings.JUDGE_RULE = "simple"
    whole(dagny, NEAR)
    sign(dagny)
    kept = SignOff.objects.get(job__number="Q-214")
    assert kept.verdict["rule"] == "simple"
    settings.JUDGE_RULE = "guarded"
    assert word() == "in", "signed by the rule of its day"
    report = flat(dagny.get("/jobs/Q-214/report/")).replace("&#x27;", "'")
    assert "Judged as read, without the uncertainty: the shop's rule." in report
    assert json.dumps(kept.record).count('"rule": "simple"') == 1


def test_open_jobs_are_judged_anew_when_the_rule_changes(dagny: Client, settings: Any) -> None:
    whole(dagny, NEAR)
    before = Job.objects.get(number="Q-214").stations
    settings.JUDGE_RULE = "simple"
    progress.keep_those_of_an_older_make()
    after = Job.objects.get(number="Q-214").stations
    assert before["steps"][5]["values"]["word"] == "not-proven"
    assert after["steps"][5]["values"]["word"] == "in"


def test_features_by_the_same_rule(corin: Client, settings: Any) -> None:
    """The first feature of the collar that asks a run-out, read as large as is allowed."""
    line, place = next(
        (line, one.feature.place) for one in page_of().assessment.features(1) for line in one.lines
        if line.what == "runout"
    )  # fmt: skip
    indicator = Indicator.objects.filter(retired=False).order_by("step_mm")[0].pk
    log_feature(corin, place, f"{line.upper:.3f} mm", what="runout", indicator=indicator)

    def judged() -> str:
        return next(one.word for of in page_of().assessment.features(1) for one in of.lines
                    if (of.feature.place, one.what) == (place, "runout"))  # fmt: skip

    assert judged() == "not-proven"
    settings.JUDGE_RULE = "simple"
    assert judged() == "in"
