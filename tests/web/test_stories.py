"""The stories, told through the pages: what every page says is the state, and one figure is said by all of them."""

import re
from typing import Any

import pytest
from django.test import Client

from gyrometra.steps import plates
from tests.web.stories import Teller, stories, story


def told_amount(state: dict[str, Any]) -> float | None:
    """The divisions, the advance or the reading that is told."""
    told = state["told"]
    return None if told is None else next(told[key] for key in ("divisions", "advance_mm", "reading_mm") if key in told)


def printed(state: dict[str, Any], teller: Teller) -> str:
    """The figure of the dial plate, worked out here from the state alone."""
    amount = told_amount(state)
    assert amount is not None
    if "divisions" in state["told"]:
        way = teller.page.passes.by.way
        return f"{abs(amount) % way.divisions_per_turn:.1f}".removesuffix(".0")  # type: ignore[union-attr]
    return teller.units.planned(abs(amount))


def check_page(teller: Teller, state: dict[str, Any]) -> None:
    text = teller.bore_page()
    figures = re.findall(r'class="dialno[^"]*">([^<]*)', text)
    buttons = set(re.findall(r'id="(set-pass|cut-pass|cut-bundle)"', text))
    phase = state["phase"]
    if phase == "set":
        assert "cut-pass" not in buttons
        if state["told"] is not None:
            assert figures == [printed(state, teller)]
            plate = plates.cuts(teller.page)[2]
            said = " ".join((plate.number, *plate.words))
            assert printed(state, teller) in said, "Cuts and Bore say one setting"
            sheet = teller.client.get(f"/jobs/{teller.address}/sheet/{teller.query}").content.decode()
            assert printed(state, teller) in sheet
    elif phase == "cut":
        assert buttons == {"cut-pass"}, "what was told is told once"
        assert "stands, leave it" in text
    else:
        assert not buttons & {"set-pass", "cut-bundle"}
    if phase == "over":
        work = text.split("passhead", 1)[1]
        assert "Over: stop" in work
        assert "v ok" not in work.split("passlog", 1)[0]
        assert not figures, "nothing is dialled"


@pytest.mark.parametrize("name", stories())
def test_the_pages_tell_the_state(corin: Client, name: str) -> None:
    told = story(name)
    teller = Teller(corin, told)
    aim = teller.page.passes.ladder.replay.memory.bore.bored_aim_mm  # type: ignore[union-attr]
    state = teller.state()
    for place, act in enumerate(told["acts"]):
        state = teller.act(act)
        own = teller.page.passes.state
        assert own is not None
        assert (state["phase"], state["pass"], state["verdict"]) == (own.phase, own.in_hand, own.verdict), place
        assert state["known_mm"] == pytest.approx(own.known_mm, abs=1e-9), place
        assert state["known_mm"] + state["to_come_off_mm"] == pytest.approx(aim, abs=1e-9), "the target never moves"
        check_page(teller, state)
        for key, value in act.get("then", {}).items():
            found = told_amount(state) if key == "told" else state[key]
            expected = pytest.approx(value, abs=2e-4) if isinstance(value, float | int) else value
            assert found == expected, (place, key)


@pytest.mark.parametrize("name", stories())
def test_a_story_is_read_again_after_it_was_told(corin: Client, name: str) -> None:
    """A reload, every other step, the sheet and the other unit find the same bore; nothing fails."""
    told = story(name)
    teller = Teller(corin, told)
    for act in told["acts"]:
        teller.act(act)
    before = teller.state()
    for unit in ("in", "mm"):
        corin.post("/unit/", {"unit": unit, "next": "/"})
        for step in ("work", "bar", "cuts", "true", "bore", "check", "sheet"):
            answer = corin.get(f"/jobs/{teller.address}/{step}/{teller.query}")
            assert answer.status_code == 200, (step, unit)
    assert teller.state() == before


def bored(teller: Teller, until_last: bool = False) -> None:
    """Set, cut and measure pass after pass, each coming out as set; to the end, or until the last is to be set."""
    for _ in range(40):
        state, page = teller.state(), teller.page
        if state["phase"] == "done" or (until_last and state["phase"] == "set" and state["pass"] == page.passes.count):
            return
        size = page.passes.state.set_diameter_mm if page.passes.state else None
        if state["phase"] == "measure":
            teller.act({"do": "size", "text": f"{size or state['known_mm']:.3f}"})
        else:
            teller.act({"do": state["phase"]})
    raise AssertionError("it never ends")


def test_a_piece_that_was_finished_says_its_setting_to_the_next(corin: Client) -> None:
    """Where pieces must match, the last setting of the one is told at the last pass of the other."""
    bored(Teller(corin, {"job": "Q-207", "query": "?piece=1"}))
    first = Teller(corin, {"job": "Q-207", "query": "?piece=1"}).page.passes
    second = Teller(corin, {"job": "Q-207", "query": "?piece=2"})
    assert "cut both at this setting" not in second.bore_page()
    bored(second, until_last=True)
    text = second.bore_page()
    assert "Piece 1 was finished" in text
    assert f"Ø{second.units.planned(first.known_mm)}: cut both at this setting" in text
