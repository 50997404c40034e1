"""Batches that drift and match, and the next size that exists for a bore that is over."""

from __future__ import annotations

import re
import uuid

import pytest
from django.test import Client

from gyrometra.accounts.models import User
from gyrometra.bridge.units import Units
from gyrometra.crib.models import Gauge, Size
from gyrometra.jobs.models import SetUp
from gyrometra.steps.page import JobPage, open_page
from gyroplan.assess import batch_of
from tests.web.said import flat
from tests.web.test_check import whole
from tests.web.test_passes import cut

pytestmark = pytest.mark.django_db


def measure(client: Client, number: str, piece: int, size: float) -> None:
    gauge = Gauge.objects.measuring(55)[0]
    for z in (30, 100, 170):
        for angle in (0, 90):
            sent = {
                "client_id": str(uuid.uuid4()),
                "value": f"{size:.3f}",
                "z": z,
                "angle_deg": angle,
                "gauge": gauge.pk,
            }
            client.post(f"/jobs/{number}/size/?piece={piece}", sent, headers={"HX-Request": "true"})


def run_of(client: Client, *sizes: float) -> str:
    for piece, size in enumerate(sizes, 1):
        measure(client, "Q-207", piece, size)
    return flat(client.get(f"/jobs/Q-207/check/?piece={len(sizes)}"))


def test_a_drift_is_told_with_the_pieces_left(corin: Client) -> None:
    said = run_of(corin, 55.020, 55.017, 55.014, 55.011)
    assert "Each piece 0.0030 smaller than the one before" in said
    # 55.008, 55.005, 55.002, then under 55.000
    assert "3 more pieces before a limit." in said
    found = batch_of(open_page("Q-207", Units(), piece=4).assessment, 1)
    assert found is not None
    assert [one.piece for one in found.pieces] == [1, 2, 3, 4]
    assert found.drift is not None
    assert found.drift.next_mm == pytest.approx(55.008, abs=0.0005)


def test_a_drift_of_a_thousandth_of_a_millimetre_shows_in_inches(corin: Client) -> None:
    run_of(corin, 55.020, 55.019, 55.018)
    User.objects.update(unit="in")
    # 0.001 mm over 25.4
    assert "Each piece 0.00004 smaller than the one before" in flat(corin.get("/jobs/Q-207/check/?piece=3"))


def test_two_pieces_say_nothing_of_a_drift(corin: Client) -> None:
    assert "Three pieces are needed" in run_of(corin, 55.020, 55.017)


def test_what_is_opened_so_that_they_match(corin: Client) -> None:
    SetUp.objects.filter(job__number="Q-207").update(match_mm="0.005")
    said = run_of(corin, 55.010, 55.022, 55.020)
    assert "No match: 0.012 apart." in said
    assert "Piece 1: open to Ø55.022, 0.012 off on Ø" in said
    assert "Piece 3: open" not in said


def test_the_next_size_that_exists_is_offered_with_its_figures(corin: Client) -> None:
    whole(corin, {(20, 0): 72.36, (70, 0): 72.36, (120, 0): 72.36})
    said = flat(corin.get("/jobs/Q-214/check/"))
    # 72.5 less a press of 0.02 leaves 0.06 on radius: enough for the edge
    assert "Next size: Repair bush 72.5" in said
    assert re.search(r"bore to Ø72\.480, 0\.060 on radius", said)
    assert "none here: get one first" in said
    Size.objects.filter(name="Repair bush 72.5").update(retired=True)
    said = flat(corin.get("/jobs/Q-214/check/"))
    assert "Next size: Repair bush 73" in said
    assert "3 here" in said


def test_a_size_that_leaves_no_metal_says_so(corin: Client) -> None:
    whole(corin, {(20, 0): 72.46})
    said = flat(corin.get("/jobs/Q-214/check/"))
    assert "No: Repair bush 72.5" in said
    assert "too little metal left to clean up" in said
    assert "Next size: Repair bush 73" in said


def test_without_a_list_the_even_steps_are_asked(corin: Client) -> None:
    Size.objects.all().delete()
    whole(corin, {(20, 0): 72.045})
    assert "Is the part made so?" in flat(corin.get("/jobs/Q-214/check/"))


def test_sizes_are_kept_as_a_table_and_as_a_file(dagny: Client) -> None:
    assert "Repair bush 72.5" in flat(dagny.get("/crib/?kind=size"))
    made = dagny.post("/crib/size/new/", {"name": "Ring 80.5", "kind": "ring", "diameter_mm": "80.5", "play_mm": ""})
    assert made.status_code in (200, 302)
    assert Size.objects.get(name="Ring 80.5").play_mm == 0
    text = dagny.get("/crib/crib-size.csv").content.decode()
    assert "Ring 80.5" in text


def test_the_rail_speaks_of_the_piece_that_is_looked_at(corin: Client) -> None:
    number = page_of_piece(4).passes.state.in_hand  # type: ignore[union-attr]
    cut(corin, "Q-207", number, query="?piece=4")  # type: ignore[arg-type]

    def rail(piece: int) -> str:
        text = flat(corin.get(f"/jobs/Q-207/bore/?piece={piece}"))
        return text[text.index('class="rail') : text.index("</nav>", text.index('class="rail'))]

    assert "Piece 4: pass" in rail(4)
    assert "Piece 1:" not in rail(4)
    assert "Piece 1:" in rail(1)
    assert "Piece 4:" not in rail(1)


def page_of_piece(piece: int) -> JobPage:
    return open_page("Q-207", Units("mm"), piece=piece)
