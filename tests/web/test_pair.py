"""Two bits on one line bar: set, cut, voided and taken back as a pair, measured each by itself."""

from __future__ import annotations

import uuid

import pytest
from django.test import Client

from gyrometra.crib.models import Bar
from gyrometra.cutting.models import CutEntry
from gyrometra.jobs.models import Bore, FoundSize
from gyrometra.steps.page import JobPage, open_page
from tests.web.said import flat
from tests.web.test_check import MM
from tests.web.test_passes import ALL_GUARDS, log, size

pytestmark = pytest.mark.django_db
JOB = "Q-221"


@pytest.fixture
def pair(corin: Client) -> Client:
    """H1 and H2 lie as far apart as the bits of the bar, begun at one size and with nothing cut."""
    Bar.objects.filter(name="Line bar 1").update(bits_apart_mm=620)
    first, second, _ = Bore.objects.filter(setup__job__number=JOB).order_by("place")
    FoundSize.objects.filter(bore=second).delete()
    FoundSize.objects.bulk_create([
        FoundSize(bore=second, piece=row.piece, z_mm=row.z_mm, diameter_mm=row.diameter_mm)
        for row in FoundSize.objects.filter(bore=first)
    ])  # fmt: skip
    while undo := [row for row in at(1).cuts_logged.rows if row.kind != "plan"]:
        corin.post(f"/jobs/{JOB}/take-back/bore/?bore=1", {"undo": str(undo[-1].client_id)})
    return corin


def at(place: int) -> JobPage:
    return open_page(JOB, MM, place)


def standing(place: int) -> tuple[str, int | None]:
    state = at(place).passes.state
    assert state is not None
    return state.phase, state.in_hand


def both() -> None:
    assert standing(1) == standing(2)


def test_one_tap_is_for_both_bits(pair: Client) -> None:
    both()
    assert standing(1)[0] == "set"
    number = standing(1)[1]
    assert "Two bits, set as a pair" in flat(pair.get(f"/jobs/{JOB}/bore/?bore=1"))
    log(pair, JOB, "set", "?bore=1", number=number, guard=ALL_GUARDS)
    assert standing(1) == ("cut", number)
    both()
    same = str(uuid.uuid4())
    for _ in range(2):
        log(pair, JOB, "cut", "?bore=2", number=number, client_id=same)
    both()
    assert standing(1) != ("cut", number)
    assert CutEntry.objects.filter(setup__job__number=JOB, kind="cut").count() == 2, "a double tap is one, for both"
    third = at(3).cuts_logged.rows
    assert not [row for row in third if row.kind in ("set", "cut")], "the third bore is not cut with them"


def test_undo_takes_both_back_unless_one_went_on(pair: Client) -> None:
    number = standing(1)[1]
    log(pair, JOB, "set", "?bore=1", number=number, guard=ALL_GUARDS)
    pair.post(f"/jobs/{JOB}/take-back/bore/?bore=2", {})
    assert standing(1) == standing(2) == ("set", number), "taken back from the other side"
    log(pair, JOB, "set", "?bore=1", number=number, guard=ALL_GUARDS)
    log(pair, JOB, "cut", "?bore=1", number=number)
    size(pair, JOB, f"{at(2).passes.known_mm:.3f}", query="?bore=2")
    pair.post(f"/jobs/{JOB}/take-back/bore/?bore=1", {})
    assert standing(1) == ("cut", number)
    assert standing(2) != ("cut", number), "its size was measured since: it stays"


def test_a_touched_bit_voids_both(pair: Client) -> None:
    number = standing(1)[1]
    log(pair, JOB, "set", "?bore=1", number=number, guard=ALL_GUARDS)
    log(pair, JOB, "touched", "?bore=2")
    for place in (1, 2):
        ladder = at(place).passes.ladder
        assert ladder is not None
        assert ladder.replay.memory.after_touch


def test_a_setting_typed_is_one_bits_own(pair: Client) -> None:
    number = standing(1)[1]
    told = at(1).passes.state
    assert told is not None
    log(pair, JOB, "set", "?bore=1", number=number, guard=ALL_GUARDS, actual=f"{told.told.reading_mm:.3f}")  # type: ignore[union-attr]
    assert standing(1) == ("cut", number)
    assert standing(2) == ("set", number)
    assert "stands at another pass: tap it there" in flat(pair.get(f"/jobs/{JOB}/bore/?bore=1"))


def test_how_the_bits_stand_apart(pair: Client) -> None:
    number = standing(1)[1]
    log(pair, JOB, "set", "?bore=1", number=number, guard=ALL_GUARDS)
    log(pair, JOB, "cut", "?bore=1", number=number)
    own = at(1).passes.known_mm
    size(pair, JOB, f"{own:.3f}", query="?bore=1")
    size(pair, JOB, f"{own + 0.020:.3f}", query="?bore=2")
    said = flat(pair.get(f"/jobs/{JOB}/bore/?bore=1&to=set"))
    assert "The bit of H2 cuts 0.020 larger on Ø than this one: it stands 0.010 farther out, on radius" in said
    other = flat(pair.get(f"/jobs/{JOB}/bore/?bore=2&to=set"))
    assert "The bit of H1 cuts 0.020 smaller on Ø than this one: it stands 0.010 farther in, on radius" in other
