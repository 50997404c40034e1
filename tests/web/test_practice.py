"""The practice bench on its page: played to the end, a double tap, nonsense, results kept per person."""

from __future__ import annotations

import re
from typing import Any

import pytest
from django.test import Client

from gyrometra.accounts.models import User
from gyrometra.practice import services
from gyrometra.practice.models import PracticeRun
from gyroplan.practice import LEVELS, expert_path, replayed
from tests.web.said import flat

pytestmark = pytest.mark.django_db


def row_of(level: str = "round") -> PracticeRun:
    return PracticeRun.objects.filter(user__username="corin", level=level).latest("pk")


def do(client: Client, level: str, **fields: Any) -> str:
    row = row_of(level)
    sent = {"run": row.pk, "count": len(row.acts), "unit": "mm", **fields}
    return flat(client.post(f"/practice/{level}/act/", sent, headers={"HX-Request": "true"}))


def read_round(client: Client, level: str) -> str:
    said = ""
    for place in range(LEVELS[level].places + 1):
        run = replayed(LEVELS[level], row_of(level).seed, row_of(level).acts)
        value = run.needle_mm
        if value is None:
            do(client, level, kind="skip")
        else:
            said = do(client, level, kind="read", value=str(round(value / LEVELS[level].step_mm)))
        if place < LEVELS[level].places:
            do(client, level, kind="turn", by="1")
    return said


def begin(client: Client, level: str, seed: int = 7) -> None:
    services.new_run(User.objects.get(username="corin"), level, seed)
    assert client.get(f"/practice/{level}/").status_code == 200


def test_a_level_is_played_to_its_end(corin: Client) -> None:
    begin(corin, "round")
    said = read_round(corin, "round")
    assert "The round holds" in said
    assert "An expert&#x27;s next move, from your round" in said or "An expert's next move, from your round" in said
    for number, step in enumerate(expert_path(LEVELS["round"], 7)):
        fields = {f"jaw-{0 if jaw in '13' else 1}-{name}": value for _, jaw, by in step.parts
                  for name, value in (("way", jaw), ("by", f"{by:.4f}"))}  # fmt: skip
        said = do(corin, "round", kind="move", **fields)
        assert f"<b>{number + 1}</b>" in said
        read_round(corin, "round")
    said = do(corin, "round", kind="finish")
    assert re.search(r"</svg>\s*True", said)
    assert "best 1 move" in said
    row = row_of()
    assert (row.moves, row.rounds, row.is_true) == (1, 2, True)
    assert services.best_of(User.objects.get(username="corin")) == {"round": 1}
    assert services.best_of(User.objects.get(username="dagny")) == {}, "results are each person's own"
    said = do(corin, "round", kind="turn", by="1")
    assert "This piece is finished" in said


def test_a_double_tap_is_one_act(corin: Client) -> None:
    begin(corin, "round")
    row = row_of()
    sent = {"run": row.pk, "count": 0, "unit": "mm", "kind": "turn", "by": "1"}
    for _ in range(2):
        corin.post("/practice/round/act/", sent)
    assert len(row_of().acts) == 1


@pytest.mark.parametrize(
    ("fields", "words"),
    [
        ({"kind": "read", "value": "hello"}, "hello cannot be read as a size"),
        ({"kind": "read", "value": ""}, "No size was typed"),
        ({"kind": "read", "value": "0\0"}, ""),
        ({"kind": "skip"}, "Only a port is skipped"),
        ({"kind": "move", "jaw-0-way": "1", "jaw-0-by": "0.1"}, "a move without one is a guess"),
        ({"kind": "plane", "plane": "7"}, "There is no such plane"),
        ({"kind": "finish"}, "Read it once more"),
        ({"run": "²", "kind": "turn"}, "not in hand any more"),
    ],
)
def test_what_cannot_be_is_said(corin: Client, fields: dict[str, str], words: str) -> None:
    begin(corin, "round")
    assert words in do(corin, "round", **fields)
    assert row_of().acts == [] or words == ""


def test_another_persons_piece_is_not_touched(corin: Client, dagny: Client) -> None:
    begin(corin, "round")
    row = row_of()
    dagny.post("/practice/round/act/", {"run": row.pk, "count": 0, "kind": "turn", "by": "1"})
    assert row_of().acts == []


def test_every_level_and_the_coach(corin: Client) -> None:
    assert corin.get("/practice/").status_code == 302
    for key, level in LEVELS.items():
        begin(corin, key)
        said = flat(corin.get(f"/practice/{key}/?unit=in"))
        assert level.name in said
    assert corin.get("/practice/juggling/").status_code == 404
    assert "Centre offset, move by move" in flat(corin.get("/practice/oval/"))
    corin.post("/practice/oval/coach/", {"coach": "off"})
    said = flat(corin.get("/practice/oval/"))
    assert "Centre offset, move by move" not in said
    assert "Coach: off till the end" in said
    corin.post("/practice/oval/new/")
    assert PracticeRun.objects.filter(user__username="corin", level="oval").count() == 1, "an untouched piece goes"


def test_tilted_work_and_a_line_bar_are_moved_by_what_they_have(corin: Client) -> None:
    for key, words in (("tilted", "Tap to"), ("line", "Bearing 1")):
        begin(corin, key)
        for plane in ("0", "1"):
            do(corin, key, kind="plane", plane=plane)
            said = read_round(corin, key)
        assert words in said
        assert "Show it" in said
    steps = expert_path(LEVELS["line"], 7)
    fields = {}
    for what, jaw, by in steps[0].parts:
        name = f"{what.replace(' ', '')}-{0 if jaw in '13' else 1}"
        fields |= {f"{name}-way": jaw, f"{name}-by": f"{by:.4f}"}
    do(corin, "line", kind="move", **fields)
    run = replayed(LEVELS["line"], row_of("line").seed, row_of("line").acts)
    assert run.left_mm <= LEVELS["line"].centre_limit_mm
