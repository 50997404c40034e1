"""Bench lines and the ask line: answers without a job, and keeping one with a job."""

import uuid
from typing import Any

import pytest
from django.db import DatabaseError, transaction
from django.test import Client

from gyrometra.bench.lines import LINES
from gyrometra.bench.lines.ask import NotUnderstood, understand
from gyrometra.bridge.units import Units
from gyrometra.crib.models import Machine
from gyrometra.jobs.models import Job, KeptAnswer

MM, INCH = Units(), Units("in")


def said(text: str, units: Units = MM) -> str:
    """The answer's text, or the errors of its fields."""
    form = understand(text, units).form(units)
    found = form.answered()
    return found.text if found else " ".join(text for texts in form.errors.values() for text in texts)


@pytest.mark.parametrize(
    ("asked", "answer"),
    [
        ("64 H7", "64.000 to 64.030 mm; middle 64.015, 0.030 between them"),
        ("fit 64 H7 / g6", "clearance. Always clear, by 0.01 mm to 0.059 mm"),
        ("64 H7/p6", "interference. Always pressed, by 0.002 mm to 0.051 mm"),
        ("72 H7, 71.99-72.01", "transition. From 0.04 mm of play to 0.01 mm of press"),
        ("speed 64 iron", "348 rpm"),
        ("speed 64 at 70", "348 rpm"),
        ("speed 64 iron hss", "90 rpm"),
        ("over 32 58", "45.000 mm; micrometer over bar and tip; tip 13.000 mm above the bar"),
        ("half 13 thou", "0.165 mm; on radius"),
        ("half 72 71.75", "0.125 mm; 0.250 mm on diameter, larger"),
        ("2 11/16 in", "68.2625 mm; = 2.6875 in; 2 11/16 in exactly; 68.5 mm less 0.238"),
        ("taper 0.2 over 150 at 380", "0.253 mm; inward, 380 past the pivot"),
        ("taper -0.2 over 150 at 380", "0.253 mm; outward"),
        ("overhang steel 40 165", "4.1 x D; 5 mm over advice, 4 x D"),
        ("overhang carbide 25 150", "6.0 x D; 25 mm in hand of 7 x D"),
        ("time 140 0.2 280", "2.5 min"),
        ("warm 100 iron 35", "100.016 mm; 0.016 mm larger than at 20 °C"),
        ("finish 0.4 0.08", "0.51 µm Ra"),
        ("SPEED  64   Grey Iron", "348 rpm"),
        ("press 80 70 0.04 60", "0.035 mm; bronze in grey iron: the bore closes, on diameter; press 11.8 kN"),
        ("press 80 70 0.04 60", "heat the hub to 91 °C, or cool the bush to -22 °C"),
        ("balance 2 150 120 300", "2.50 kg; opposite, 120 mm off centre; without it 296 N turn"),
        ("sides 200 120 100", "120 + 81 mm; deep from A, and from B"),
        ("sides 200 90 100", "11 mm; Both sides together do not reach: 11 mm more reach on one side is needed"),
        ("stack 58", "60.000 mm; Packing 60; The stack nearest to it is 2 mm too high"),
        ("facing 200 100 0.2 250", "1.0 min; Time under feed only"),
        ("facing 200 0 0.1 1000 80", "4.0 min; 127 rpm at the rim, 1000 at the bore"),
        ("band 45 30 34 0.1", "2.828 mm; wide along the slope; 2.000 mm high; top slide at 45°"),
        ("facing 80 200 0.2 250", "must be over"),
    ],
)
def test_the_ask_line_answers(db: None, asked: str, answer: str) -> None:
    assert answer in said(asked)


def test_the_ask_line_reads_in_the_askers_unit(db: None) -> None:
    assert said("half 0.013", INCH).startswith("0.0065 in")
    assert said("over 7/8 1.5", INCH).startswith("1.1875 in")


@pytest.mark.parametrize(
    ("asked", "sentence"),
    [
        ("what is love", "is not understood. Write it like speed 64 iron"),
        ("speed 64", "surface speed or material is missing"),
        ("speed 64 70 80", "3 figures were given; speed takes 2"),
        ("taper 0.2 over 150", "moved at is missing"),
        ("half a loaf", "is not understood here"),
        ("overhang wood 40 165", "is not known here; there are"),
        ("warm 100 cheese 35", "is not known here; there are"),
    ],
)
def test_the_ask_line_says_what_it_does_not_understand(db: None, asked: str, sentence: str) -> None:
    with pytest.raises(NotUnderstood) as caught:
        understand(asked, MM)
    assert sentence in str(caught.value)


@pytest.mark.parametrize(
    ("asked", "sentence"),
    [
        ("over 58 32", "must be over the bar's own 58 mm"),
        ("speed 64 butter", "butter is no speed and no material of the crib"),
        ("passes 72 68.4 0.5", "must be over what is there now"),
        ("64 Z7", "is not covered"),
        ("time 140 0.2 0", "must be over 0"),
        ("1,250", "could be"),
        ("taper 0.2 over 0 at 380", "must be over 0"),
    ],
)
def test_what_cannot_be_is_refused_at_its_field(db: None, asked: str, sentence: str) -> None:
    assert sentence in said(asked)


@pytest.mark.parametrize("key", list(LINES))
def test_every_line_waits_and_never_breaks(dagny: Client, key: str) -> None:
    for typed in ("", "x", "0", "-5", "1e99", "9" * 40, "2 11/16 in"):
        data = {
            f"{key}-{name}": typed for name in LINES[key].base_fields if name not in ("machine", "kind", "material")
        }
        page = dagny.get(f"/lines/{key}/", data)
        assert page.status_code == 200
        if not typed:
            assert "no figure yet" in page.content.decode()
    answered = dagny.get("/ask/", {"q": LINES[key].example.split(", ")[0]}).content.decode()
    assert answered.count("afig") == 1 or (key == "dial" and "Choose the machine" in answered)


def test_the_dial_line_speaks_of_the_machine(dagny: Client) -> None:
    data = {"dial-have": "71.215", "dial-want": "71.615"}
    assert "Choose the machine" in dagny.get("/lines/dial/", data).content.decode(), "two lathes, two dials"
    data["dial-machine"] = str(Machine.objects.get(name="Lathe 3").pk)
    assert "10 div out on Lathe 3" in dagny.get("/lines/dial/", data).content.decode()


def test_pages_with_lines_read_little(dagny: Client, django_assert_max_num_queries: Any) -> None:
    for path in ("/lines/", "/ask/?q=64+H7", "/lines/speed/?speed-diameter=64&speed-at=iron"):
        with django_assert_max_num_queries(8):
            assert dagny.get(path).status_code == 200
    assert dagny.get("/lines/nothing/").status_code == 404
    assert dagny.post("/lines/nothing/keep/").status_code == 404


def kept_data(**changes: str) -> dict[str, str]:
    return {"cutter-bar": "32", "cutter-cut": "58", "job": "Q-214", "client_id": str(uuid.uuid4()), **changes}


def test_an_answer_is_kept_once_shown_and_taken_back(dagny: Client) -> None:
    data = kept_data()
    for _ in range(2):
        assert "Kept in" in dagny.post("/lines/cutter/keep/", data).content.decode()
    kept = KeptAnswer.objects.get()
    assert (kept.title, kept.typed["bar"], kept.answer[:6]) == ("Cutter setting", "32", "45.000")
    for path in ("/jobs/Q-214/work/", "/jobs/Q-214/sheet/"):
        assert "45.000 mm; micrometer over bar and tip" in dagny.get(path).content.decode()
    with pytest.raises(DatabaseError), transaction.atomic():
        KeptAnswer.objects.update(answer="something else")
    dagny.post(f"/jobs/Q-214/kept/{kept.pk}/drop/", {"client_id": str(uuid.uuid4())})
    assert "micrometer over bar" not in dagny.get("/jobs/Q-214/work/").content.decode()
    assert KeptAnswer.objects.count() == 2


@pytest.mark.parametrize(
    ("changes", "sentence"),
    [
        ({"cutter-cut": ""}, "no answer to keep"),
        ({"job": "Q-999"}, "Choose an open job"),
        ({"job": "Q-198"}, "Choose an open job"),
        ({"client_id": "7"}, "type a figure again"),
    ],
)
def test_what_cannot_be_kept_says_why(dagny: Client, changes: dict[str, str], sentence: str) -> None:
    assert Job.objects.filter(number="Q-198", signoff__isnull=False).exists()
    assert sentence in dagny.post("/lines/cutter/keep/", kept_data(**changes)).content.decode()
    assert not KeptAnswer.objects.exists()


@pytest.mark.parametrize(
    ("asked", "answer"),
    [
        ("mid 2.418 4.972", "3.695 mm; 1.277 mm from either"),
        ("step 0.875 0.31", "1.495 mm"),
        ("move 33.02 3.175", "10.4 turns"),
        ("1.3 in + 3 mm", "36.02 mm"),
        ("310 - 22", "288 mm"),
        ("fit 72.012 71.985", "0.027 mm; clearance, on diameter"),
        ("fit 71.985 72.012", "0.027 mm; interference, on diameter"),
        ("surface 64 280", "56.3 m/min"),
        ("passes 68.4 72 0.5", "4 passes; each 0.450 mm deep, on radius; 3.600 mm off in all"),
        ("speed 64 230 ft/min", "349 rpm"),
        ("taper 7 over 5 at 12", "the taper is taken on diameter"),
        ("spindle 0.008 50 0.024 250 350", "0.032 mm; run-out (TIR) at the tool"),
        ("head 56.2 56.4", "10 div; 10 div out on Head 2"),
    ],
)
def test_lines_between_two_figures(db: None, asked: str, answer: str) -> None:
    assert answer in said(asked)


def test_an_inch_user_asks_in_inches_and_feet(db: None) -> None:
    assert said("speed 4 90", INCH).startswith("86 rpm"), "90 ft/min on 4 in: 12 x 90 / (pi x 4)"
    assert said("surface 4 86", INCH).startswith("90 ft/min")
    assert said("move 1.3 in 8 tpi", INCH).startswith("10.4 turns")
    assert said("3.000 +0.001/0", INCH).startswith("3.0000 to 3.0010 in")
    assert said("310 mm - 22 mm", INCH).startswith("11.338")
