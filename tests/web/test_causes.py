"""Why a bore has the shape it has, by which part turns, with the check that tells."""

from __future__ import annotations

import uuid
from collections.abc import Callable, Sequence
from dataclasses import replace
from datetime import date

import pytest
from django.test import Client

from gyrometra.accounts.models import User
from gyrometra.bridge.units import Units
from gyrometra.health.models import MachineCheck
from gyrometra.jobs.models import Job
from gyrometra.steps.check.causes import _CAUSES, _TELLS
from gyrometra.steps.page import open_page
from gyroplan.assess import Causes, Shown, causes_of
from gyroplan.assess.causes import _BY_SHAPE
from gyroplan.record import SizeRecord
from tests.plan.shop import assessed, bore, job, sizes
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


def tapered(*, grows: bool = False) -> tuple[SizeRecord, ...]:
    """72.022 at the face, 72.010 at the far end; or the reverse."""
    means = {20.0: 72.022, 70.0: 72.016, 120.0: 72.010}
    return tuple(
        replace(one, value_mm=72.032 - means[one.z_mm] + 72.0 if grows else means[one.z_mm]) for one in sizes(72.0)
    )  # fmt: skip


def oval() -> tuple[SizeRecord, ...]:
    """0.012 larger at 90 degrees, all along."""
    return tuple(replace(one, value_mm=72.022 if one.angle_deg == 90 else 72.010) for one in sizes(72.0))


def shown(kind: str, figure_mm: float, is_on: str) -> Callable[[], Sequence[Shown]]:
    return lambda: (Shown(kind=kind, figure_mm=figure_mm, is_on=is_on, day=date(2026, 6, 12)),)


def codes(found: Causes | None) -> list[tuple[str, str]]:
    assert found is not None
    return [(one.code, one.evidence.code) for one in found.causes]


def test_what_the_machines_own_checks_say_moves_a_cause() -> None:
    job_ = assessed(job(sizes=tapered(grows=True)))
    # larger inside: an edge that wears leaves it smaller there
    assert codes(causes_of(job_, 1, 1)) == [
        ("path", ""), ("edge-wears", "wrong-way"), ("bar-bends-more", "stands-alike")]  # fmt: skip
    by_slope = causes_of(job_, 1, 1, shown("slope", 0.010, "taper on Ø"))
    assert codes(by_slope)[0] == ("path", "machine")
    assert by_slope is not None
    assert by_slope.causes[0].evidence.weight == pytest.approx(0.010 / by_slope.size_mm, rel=1e-6)
    straight = assessed(job(sizes=tapered()))
    told = codes(causes_of(straight, 1, 1, shown("slope", 0.001, "taper on Ø")))
    assert told[0] == ("edge-wears", "")
    assert ("path", "machine-little") in told, "its own slope makes a twelfth of it: look elsewhere first"
    assert codes(causes_of(straight, 1, 1, shown("play", 0.5, "oval")))[0] == ("path", ""), "play makes no taper"


def test_what_the_set_up_says_moves_a_cause() -> None:
    thin, thick = (
        assessed(job(bore(outside_mm=((140.0, 72.015 + 2 * wall),)), sizes=oval())) for wall in (5.0, 30.0)
    )  # fmt: skip
    assert codes(causes_of(thin, 1, 1))[0] == ("clamping", "thin")
    with_play = causes_of(thick, 1, 1, shown("play", 0.012, "oval"))
    assert codes(with_play)[0] == ("spindle-play", "machine")
    assert ("clamping", "thick") in codes(with_play)


def test_every_cause_and_check_has_its_words() -> None:
    for rows in _BY_SHAPE.values():
        for cause, tells in rows:
            assert cause in _CAUSES
            assert tells in _TELLS


def test_sizes_that_shrink_from_piece_to_piece_speak_of_wear() -> None:
    """Three pieces, each 0.006 smaller: as much as the taper over one bore."""
    pieces = [
        replace(one, piece=piece, value_mm=one.value_mm - 0.006 * (piece - 1))
        for piece in (1, 2, 3) for one in tapered()
    ]  # fmt: skip
    worn = causes_of(assessed(job(sizes=tuple(pieces), quantity=3)), 3, 1)
    assert codes(worn)[0] == ("edge-wears", "drifts")
    assert worn is not None
    assert worn.causes[0].evidence.figure_mm == pytest.approx(0.006)


def test_the_page_names_the_check_and_what_it_comes_to(corin: Client) -> None:
    lathe = Job.objects.get(number="Q-214").setup.machine
    MachineCheck.objects.create(
        machine=lathe, kind="slope", day="2026-06-12", values={"rise_mm": 0.04, "over_mm": 1000},
        by=User.objects.get(username="corin"), client_id=uuid.uuid4(),
    )  # fmt: skip
    whole(corin, {(z, angle): 72.010 + 0.012 * (z - 20) / 100 for z in (20, 70, 120) for angle in (0, 90)})
    said = flat(corin.get("/jobs/Q-214/check/"))
    # 0.040 a metre over 140 of bore, twice on diameter
    assert "not parallel to the axis; Saddle or table, checked 12 Jun 2026, comes to 0.011 of it" in said.replace(
        "&#x27;", "'")  # fmt: skip
    assert "against it: it is larger where the cut ended" in said
