"""Slips of a size named where they are typed: the mended figure is offered, never put in by itself."""

from __future__ import annotations

import pytest
from django.test import Client

from gyrometra.cutting.models import CutEntry
from gyrometra.inspection.models import SizeReading
from tests.web.said import flat
from tests.web.test_check import log
from tests.web.test_passes import cut, size

pytestmark = pytest.mark.django_db


@pytest.mark.parametrize(
    ("typed", "words", "likely"),
    [
        (71.515, "one turn of the thimble", "72.015"),
        (62.015, "a nib or rod", "72.015"),
        (27.015, "two figures that changed places", "72.015"),
        (36.008, "a radius typed for a diameter", "72.016"),
    ],
)
def test_on_check(corin: Client, typed: float, words: str, likely: str) -> None:
    log(corin, 72.012, 20)
    log(corin, 72.012, 70)
    said = flat_of(log(corin, typed, 120))
    assert words in said
    assert f'data-fill="{likely}"' in said
    assert f"Yes, log {typed:.3f}" in said
    assert SizeReading.objects.filter(bore__setup__job__number="Q-214").count() == 2, (
        "nothing is logged, and nothing is changed by itself"
    )


def test_on_bore_and_logged_all_the_same(corin: Client) -> None:
    cut(corin, "Q-214", 4)
    said = size(corin, "Q-214", "71.106")
    assert "one turn of the thimble, 71.606" in said
    before = CutEntry.objects.filter(kind="size").count()
    size(corin, "Q-214", "71.106", sure="71.106")
    assert CutEntry.objects.filter(kind="size").count() == before + 1


def test_a_size_that_is_what_it_is_asks_nothing(corin: Client) -> None:
    log(corin, 72.012, 20)
    assert "Is it meant?" not in log(corin, 72.045, 70)
    assert SizeReading.objects.filter(bore__setup__job__number="Q-214").count() == 2


def flat_of(text: str) -> str:
    class Answer:
        content = text.encode()

    return flat(Answer())
