"""The mating part tried, a gauge set and compared by feel: bounds that narrow and contradict what was read."""

from __future__ import annotations

import uuid
from typing import Any

import pytest
from django.test import Client

from gyrometra.crib.models import Gauge
from gyrometra.inspection.models import PlugReading
from gyrometra.jobs.models import Bore
from tests.web.said import flat
from tests.web.test_check import DEPTHS, MM, log, sign, sweep
from tests.web.test_plugs import only_size, plug, word

pytestmark = pytest.mark.django_db


def tried(client: Client, **sent: Any) -> str:
    if sent.get("side") == "set":
        sent.setdefault("gauge", Gauge.objects.get(name="Bore gauge 50-100").pk)
    fields = {"client_id": str(uuid.uuid4()), **sent}
    return flat(client.post("/jobs/Q-214/plug/", fields, headers={"HX-Request": "true"}))


def read_at(client: Client, size: float) -> None:
    for z in DEPTHS:
        for angle in (0, 90):
            log(client, size, z, angle)
    sweep(client, 6)


def test_a_part_that_goes_narrows_what_was_read(corin: Client) -> None:
    """Read too near the bottom limit to say; the plug proves the bottom, the reading the top."""
    only_size()
    read_at(corin, 72.001)
    assert word() == "not-proven"
    assert word() == "not-proven"
    Gauge.objects.filter(kind="plug").update(error_limit_mm=0)
    said = plug(corin, "go", "yes")
    assert word() == "in"
    assert "and what was tried" in said, "the place says by what it is proven"
    corin.post("/jobs/Q-214/take-back/check/", {"what": "plug"})
    assert word() == "not-proven", "taken back, it proves nothing"


def test_no_plug_proves_what_only_the_narrowest_place_says(corin: Client) -> None:
    """Near the top limit the no-go side speaks for the narrowest place alone."""
    only_size()
    read_at(corin, 72.029)
    Gauge.objects.filter(kind="plug").update(error_limit_mm=0)
    plug(corin, "no-go", "no")
    assert word() == "not-proven"


def test_the_mating_part_that_goes_in(corin: Client) -> None:
    only_size()
    said = tried(corin, side="mate", size_mm="72.004", expanded_mm="0.002", goes="yes")
    assert "The mating part, Ø72.004: goes" in said.replace("72.0040", "72.004")
    row = PlugReading.objects.get()
    assert (row.side, row.goes, float(row.size_mm), row.rests_on["error_limit_mm"]) == ("mate", True, 72.004, 0.002)
    read_at(corin, 71.985)
    assert word() == "metal-left", "a size under the limits stays metal left"
    assert "cannot both be true" in flat(corin.get("/jobs/Q-214/check/"))


@pytest.mark.parametrize(
    ("felt", "set_to", "fits"),
    [("tighter", "72.020", True), ("tighter", "72.000", False), ("looser", "72.000", True), ("looser", "72.030", False),
     ("same", "72.012", True), ("same", "72.040", False)],
)  # fmt: skip
def test_a_set_gauge_is_held_against_what_was_read(corin: Client, felt: str, set_to: str, fits: bool) -> None:
    read_at(corin, 72.012)
    assert word() == "in"
    said = tried(corin, side="set", size_mm=set_to, felt=felt)
    assert word() == ("in" if fits else "incomplete")
    assert ("cannot both be true" in said) is not fits


def test_a_set_gauge_alone_decides_nothing(corin: Client) -> None:
    only_size()
    said = tried(corin, side="set", size_mm="72.015", felt="same")
    assert word() == "incomplete"
    assert "Where it was felt: at least 72.0" in said


@pytest.mark.parametrize(
    ("sent", "words"),
    [({"side": "mate", "size_mm": "", "goes": "yes"}, "Type the size of the mating part."),
     ({"side": "mate", "size_mm": "7.2", "goes": "yes"}, "7.2 reads as 7.2 mm; the bore is about 72.015."),
     ({"side": "set", "size_mm": "abc", "felt": "same"}, "abc"),
     ({"side": "set", "size_mm": "72", "felt": "loose"}, "")],
)  # fmt: skip
def test_wrong_entries_are_named_and_kept(corin: Client, sent: dict[str, str], words: str) -> None:
    said = tried(corin, **sent)
    assert words in said
    assert not PlugReading.objects.exists()
    if sent["size_mm"]:
        assert f'value="{sent["size_mm"]}"' in said


def test_inches_and_the_signed_record(dagny: Client) -> None:
    dagny.post("/unit/", {"unit": "in", "next": "/"})
    only_size()
    said = tried(dagny, side="mate", size_mm="2.8350", goes="yes", unit="in")
    assert "The mating part, Ø2.8350" in said
    assert float(PlugReading.objects.get().size_mm) == pytest.approx(72.009, abs=1e-6)
    tried(dagny, side="set", size_mm="2.8360", felt="tighter", unit="in")
    read_at_inch = [(z, angle) for z in DEPTHS for angle in (0, 90)]
    dagny.post("/unit/", {"unit": "mm", "next": "/"})
    for z, angle in read_at_inch:
        log(dagny, 72.014, z, angle)
    sweep(dagny, 6)
    sign(dagny)
    assert "mating part" in flat(dagny.get("/jobs/Q-214/report/"))
    assert MM.label == "mm"


def test_a_worn_go_side_is_smaller_than_its_name(corin: Client) -> None:
    only_size()
    Gauge.objects.filter(kind="plug").update(correction_mm="-0.002", error_limit_mm=0)
    said = plug(corin, "go", "yes")
    assert float(PlugReading.objects.get().size_mm) == pytest.approx(71.998, abs=1e-9)
    assert "at least 71.998" in said


@pytest.mark.parametrize(
    ("mate", "least", "most", "words"),
    [("72.030", "0", None, "this bore leaves 0.018 less clearance than was asked"),
     ("71.900", "0.010", "0.050", "this bore leaves 0.062 more clearance than was asked"),
     ("72.000", "0.005", "0.050", "")],
)  # fmt: skip
def test_a_bore_beyond_the_part_it_must_suit_says_so(
    corin: Client, mate: str, least: str, most: str | None, words: str
) -> None:
    Bore.objects.filter(setup__job__number="Q-214").update(mate_mm=mate, play_least_mm=least, play_most_mm=most)
    read_at(corin, 72.012)
    said = flat(corin.get("/jobs/Q-214/check/"))
    assert ("The part that it must suit was measured as" in said) is bool(words)
    assert words in said
