"""Why a bore has the shape it has, by which part turns, with the check that tells."""

from __future__ import annotations

from dataclasses import replace

import pytest
from django.test import Client

from gyrometra.bridge.units import Units
from gyrometra.steps.check.causes import _CAUSES, _TELLS
from gyrometra.steps.page import open_page
from gyroplan.assess import causes_of
from gyroplan.assess.causes import _BY_SHAPE
from gyroplan.record import SizeRecord
from tests.plan.shop import assessed, job, sizes
from tests.web.said import flat
from tests.web.test_check import whole

pytestmark = pytest.mark.django_db


def test_a_taper_where_the_work_turns_is_the_path(corin: Client) -> None:
    whole(
        corin,
        {(20, 0): 72.022, (20, 90): 72.022, (70, 0): 72.016, (70, 90): 72.016, (120, 0): 72.010, (120, 90): 72.010},
    )
    said = flat(corin.get("/jobs/Q-214/check/"))
    # 0.012 on Ø over 100: the wall slopes by half of it, 0.060 in 1000
    assert "Taper 0.012 on Ø, smaller inside: its wall slopes 0.060 in 1000" in said
    assert "the bar&#x27;s path is not parallel to the axis" in said or "the bar's path is not parallel" in said
    assert "cuts only where the bar sprang" in said


def test_a_good_bore_needs_no_cause(corin: Client) -> None:
    whole(corin, {})
    assert causes_of(open_page("Q-214", Units()).assessment, 1, 1) is None


def test_an_oval_is_told_before_a_smaller_taper(corin: Client) -> None:
    whole(corin, {(20, 90): 72.024, (70, 90): 72.024, (120, 90): 72.024})
    found = causes_of(open_page("Q-214", Units()).assessment, 1, 1)
    assert found is not None
    assert (found.shape, found.causes[0].code) == ("oval", "clamping")


def test_the_same_taper_has_another_cause_where_the_bar_turns() -> None:
    lathe = causes_of(assessed(job(sizes=tapered())), 1, 1)
    mill = causes_of(assessed(job(sizes=tapered(), setup={"method": "stand"})), 1, 1)
    assert lathe is not None
    assert mill is not None
    assert (lathe.causes[0].code, mill.causes[0].code) == ("path", "edge-wears")


def tapered() -> tuple[SizeRecord, ...]:
    """72.022 at the face, 72.010 at the far end."""
    means = {20.0: 72.022, 70.0: 72.016, 120.0: 72.010}
    return tuple(replace(one, value_mm=means[one.z_mm]) for one in sizes(72.0))


def test_every_cause_and_check_has_its_words() -> None:
    for rows in _BY_SHAPE.values():
        for cause, tells in rows:
            assert cause in _CAUSES
            assert tells in _TELLS
