"""Slips of a size named where they are typed: the mended figure is offered, never put in by itself."""

from __future__ import annotations

import pytest
from django.test import Client

from gyrometra.crib.models import Gauge
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


def test_the_rod_of_an_inside_micrometer_is_put_in(corin: Client) -> None:
    """The thimble shows 22.01: with the rod that is in it, by its own length, that is 72.013."""
    gauge = Gauge.objects.get(name="Bore gauge 50-100")
    Gauge.objects.filter(pk=gauge.pk).update(kind="inside", rods_mm={"25": 25.0, "50": 50.003, "75": 74.998})
    said = flat_of(log(corin, 22.010, 20))
    assert "Bore gauge 50-100 has rods: with its rod 50 it is 72.013" in said
    assert 'data-fill="72.013"' in said
    logged = SizeReading.objects.filter(bore__setup__job__number="Q-214")
    assert not logged.exists()
    log(corin, 72.013, 20)
    assert logged.count() == 1


@pytest.mark.parametrize(("rods", "words"), [("50", "50 has no figure. Type name and length, like 50 50.003."),
                                             ("50 -3", "A length must be over 0; -3 was given.")])  # fmt: skip
def test_rods_that_cannot_be(corin: Client, rods: str, words: str) -> None:
    gauge = Gauge.objects.get(name="Bore gauge 50-100")
    sent = {"name": gauge.name, "kind": "inside", "range_low_mm": "50", "range_high_mm": "100",
            "resolution_mm": "0.001", "error_limit_mm": "0.003", "rods_mm": rods, "version": gauge.version}  # fmt: skip
    assert words in flat(corin.post(f"/crib/gauge/{gauge.pk}/", sent))


def flat_of(text: str) -> str:
    class Answer:
        content = text.encode()

    return flat(Answer())
