"""What Bore says before the pass in hand: how much a spring pass grew the bore, how a batch runs."""

from __future__ import annotations

import re

import pytest
from django.test import Client

from gyrometra.bridge.units import Units
from gyrometra.jobs.models import Job
from gyrometra.steps.page import open_page
from gyroplan.assess import batch_of, springs_of
from tests.web.said import flat
from tests.web.test_batch_and_sizes import measure
from tests.web.test_passes import cut, cuts, size

pytestmark = pytest.mark.django_db
MM = Units()


def sprung(client: Client, *came: float) -> str:
    """Q-214 bored to its size with two spring passes planned, a size after each pass from the last of its own on."""
    cuts(client, "Q-214", spring_passes="2")
    size_is = 71.606
    for number, value in zip((4, 5, 6, 7), (size_is, *came), strict=False):
        cut(client, "Q-214", number)
        size(client, "Q-214", f"{value:.3f}")
    return flat(client.get("/jobs/Q-214/bore/?to=set"))


def test_what_a_spring_pass_should_grow_is_the_models_share_until_one_was_measured(corin: Client) -> None:
    said = sprung(corin, 71.995)
    page = open_page("Q-214", MM)
    found = springs_of(page.boring)
    assert found.in_hand is not None
    assert found.share is None
    # twice the deflection of the pass before, less a fifth that stays
    depth = page.passes.done[-1].depth_mm
    assert depth > 0
    assert found.foreseen_mm == pytest.approx(0.8 * found.in_hand.stood_off_mm)
    grown = MM.planned(found.foreseen_mm or 0)
    assert f"it should grow by about {grown} on Ø: 0.8 of what the bar" in said
    assert "Feed one way only" in said


def test_the_share_that_came_back_is_used_for_the_next(corin: Client) -> None:
    first = sprung(corin, 71.995)
    stood = springs_of(open_page("Q-214", MM).boring).in_hand
    assert stood is not None
    assert "Spring pass" not in first
    cut(corin, "Q-214", 6)
    half = round(stood.stood_off_mm / 2, 3)
    size(corin, "Q-214", f"{71.995 + half:.3f}")
    said = flat(corin.get("/jobs/Q-214/bore/?to=set"))
    share = half / stood.stood_off_mm
    assert f"Spring pass 6, setting left: it grew by {half:.3f} on Ø" in said
    assert f"the bar stood {MM.planned(stood.stood_off_mm)} off, {share:.2f} of it came back" in said
    left = (stood.stood_off_mm - half) * share
    assert f"it should grow by about {MM.planned(left)} on Ø: {share:.2f} of what the bar stands off" in said


def test_a_drift_is_told_before_the_last_pass_of_the_next_piece(corin: Client) -> None:
    for piece, value in enumerate((55.020, 55.017, 55.014), 1):
        measure(corin, "Q-207", piece, value)
    job = Job.objects.get(number="Q-207")
    assert job.quantity > 3
    page = open_page("Q-207", MM, piece=4)
    query = "?piece=4"
    said = flat(corin.get(f"/jobs/Q-207/bore/{query}"))
    assert "Each piece" not in said, "only the last pass ends in the limits"
    for number in range(1, page.passes.count):
        cut(corin, "Q-207", number, query=query)
        now = open_page("Q-207", MM, piece=4).passes
        if now.state is not None and now.state.phase == "measure":
            size(corin, "Q-207", f"{now.known_mm:.3f}", query=query)
    said = flat(corin.get(f"/jobs/Q-207/bore/{query}&to=set"))
    assert "Each piece 0.0030 smaller than the one before" in said
    assert "Set as the last, the next comes to Ø55.011" in said
    assert re.search(r"3 more pieces before a limit|4 more pieces before a limit", said)


def bored(client: Client, piece: int, over: float, asked: float) -> None:
    """A piece of Q-207 bored to its end, its last pass really set `asked` beyond what was told, then measured."""
    query = f"?piece={piece}"
    for number in range(1, 6):
        now = open_page("Q-207", MM, piece=piece).passes
        assert now.state is not None
        assert now.state.told is not None
        more = {"actual": f"{(now.state.told.reading_mm or 0) + asked / 2:.4f}"} if number == now.count else {}
        cut(client, "Q-207", number, query=query, **more)
        now = open_page("Q-207", MM, piece=piece).passes
        if number < now.count and now.state is not None and now.state.phase == "measure":
            size(client, "Q-207", f"{now.known_mm:.3f}", query=query)
    measure(client, "Q-207", piece, 55.015 + asked + over)


def test_a_setting_that_follows_the_wear_hides_no_drift(corin: Client) -> None:
    """The edge wears 0.004 a piece, and each piece is set 0.004 farther out: all come to the same size."""
    for piece in (1, 2, 3):
        bored(corin, piece, over=-0.004 * (piece - 1), asked=0.004 * (piece - 1))
    found = batch_of(open_page("Q-207", MM, piece=3).assessment, 1)
    assert found is not None
    assert found.drift is not None
    assert [round(one.mean_mm, 3) for one in found.pieces] == [55.015] * 3
    assert found.by_setting
    assert found.drift.slope_mm_piece == pytest.approx(-0.004, abs=1e-4)
    # set as piece 3 was, the next comes to 55.015 less one step of wear
    assert found.drift.next_mm == pytest.approx(55.011, abs=1e-3)
    said = flat(corin.get("/jobs/Q-207/check/?piece=3"))
    assert "They were set to different sizes: this is by what each came out over its setting." in said


def test_pieces_set_alike_are_told_together(corin: Client) -> None:
    for piece, asked in ((1, 0.0), (2, 0.0), (3, 0.004)):
        bored(corin, piece, over=-0.001 * piece, asked=asked)
    found = batch_of(open_page("Q-207", MM, piece=3).assessment, 1)
    assert found is not None
    assert [(one.pieces, round(one.set_mm, 3)) for one in found.groups] == [((1, 2), 55.015), ((3,), 55.019)]
    said = flat(corin.get("/jobs/Q-207/check/?piece=3"))
    assert "Set alike: pieces 1 to 2 at Ø55.015, 0.001 apart; piece 3 at Ø55.019." in said
