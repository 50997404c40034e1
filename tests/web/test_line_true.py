"""A line bar on True: the bearings' moves from the two end bores, told once for the whole bar."""

from __future__ import annotations

import uuid
from math import cos, radians, sin

import pytest
from django.test import Client

from gyrometra.bridge.units import Units
from gyrometra.crib.models import Indicator, Machine
from gyrometra.steps.page import open_page
from gyrometra.truing.models import Between
from gyroplan.assess import line_moves_of, steps_of
from tests.web.said import flat

MM = Units("mm")
HX = {"HX-Request": "true"}


def sweep(client: Client, place: int, up: float, right: float, moved: str = "") -> None:
    fields = {"method": "sweep", "places": "8", "indicator": Indicator.objects.get(name="Indicator 1").pk,
              "client_id": str(uuid.uuid4()), "moved": moved}  # fmt: skip
    client.post(f"/jobs/Q-221/round/true/?bore={place}", fields)
    shown = [-(up * cos(radians(45 * n)) + right * sin(radians(45 * n))) for n in range(8)]
    for cell, value in enumerate([*shown, shown[0]]):
        entry = {"client_id": str(uuid.uuid4()), "place": cell, "value": f"{value * 1000:.0f}"}
        client.post(f"/jobs/Q-221/reading/true/?bore={place}", entry)


def test_what_is_swept_at_both_ends_is_told_at_the_bearings(corin: Client) -> None:
    Machine.objects.filter(name="Line rig").update(screw_pitch_mm="1.5")
    sweep(corin, 1, 0.242, -0.132)
    text = flat(corin.get("/jobs/Q-221/true/?bore=1"))
    assert "Missing: a sweep of H3" in text.replace("</b>", "").replace("<b>", "")
    assert "Moves made" not in text, "one end alone tells no move"
    assert "Move the bar" not in text
    sweep(corin, 3, -0.058, 0.058)
    found = line_moves_of(open_page("Q-221", MM, 3).assessment, 1)
    assert found is not None
    # by hand: each end bore less the sag there; the straight line through both at the bearings' places
    one, other = found.bores
    assert one.true_up_mm == pytest.approx(0.242 - one.sag_mm, abs=1e-3)
    slope = (other.true_up_mm - one.true_up_mm) / (other.z_mm - one.z_mm)
    assert found.moves[0].up_mm == pytest.approx(one.true_up_mm + slope * (found.moves[0].z_mm - one.z_mm))
    text = flat(corin.get("/jobs/Q-221/true/?bore=3"))
    told = steps_of(open_page("Q-221", MM).assessment).following
    assert told.code != "move_it", "the bench tells the bearings too, where truing is next"
    for move in found.moves:
        assert MM.planned(abs(move.up_mm)) in text
        assert f"{abs(move.up_mm) / 1.5:.2f} turn, jack screw" in text
    assert "H2 is not seen yet." in text


def test_the_arm_s_droop_is_struck_off_and_kept(corin: Client) -> None:
    sweep(corin, 1, 0.1, 0.0)
    sweep(corin, 3, 0.1, 0.0)
    before = line_moves_of(open_page("Q-221", MM).assessment, 1)
    page = open_page("Q-221", MM)
    sent = {"version": page.job.version, "unit": "mm", "droop_mm": "0.008"}
    text = flat(corin.post("/jobs/Q-221/save/true/?bore=3", sent, headers=HX))
    after = line_moves_of(open_page("Q-221", MM).assessment, 1)
    assert before is not None
    assert after is not None
    assert after.moves[0].up_mm == pytest.approx(before.moves[0].up_mm - 0.008)
    assert 'value="0.008"' in text
    sent |= {"droop_mm": "-1", "version": page.job.version + 1}
    wrong = flat(corin.post("/jobs/Q-221/save/true/?bore=3", sent, headers=HX))
    assert "must be 0 or more; -1 was given" in wrong


def test_moved_at_one_bore_is_moved_for_the_whole_bar(corin: Client) -> None:
    sweep(corin, 1, 0.1, 0.0)
    sweep(corin, 3, 0.2, 0.0)
    assert line_moves_of(open_page("Q-221", MM).assessment, 1) is not None
    sweep(corin, 1, 0.0, 0.0, moved="yes")
    assert Between.objects.filter(kind="moved", bore__place=3).count() == 1
    assert line_moves_of(open_page("Q-221", MM).assessment, 1) is None, "H3 was read before the bar was moved"
    assert "a sweep of H3" in flat(corin.get("/jobs/Q-221/true/?bore=1"))
    corin.post("/jobs/Q-221/between/disturbed/?bore=1", {"client_id": str(uuid.uuid4())})
    assert Between.objects.filter(kind="disturbed").count() == 2


def set_to_face(client: Client) -> None:
    page = open_page("Q-228", MM)
    setup = page.job.setup
    sent = {"version": page.job.version, "unit": "mm", "at": "setup", "machine": setup.machine_id, "method": "head",
            "holding": "", "reference": "face", "room_behind_mm": ""}  # fmt: skip
    client.post("/jobs/Q-228/save/work/", sent, headers=HX)


def test_a_face_is_set_true_by_shims_under_its_supports(corin: Client) -> None:
    set_to_face(corin)
    fields = {"method": "sweep", "places": "4", "indicator": Indicator.objects.get(name="Indicator 1").pk,
              "client_id": str(uuid.uuid4())}  # fmt: skip
    corin.post("/jobs/Q-228/round/true/", fields)
    for cell, value in enumerate(("60", "0", "-60", "0", "60")):
        entry = {"client_id": str(uuid.uuid4()), "place": cell, "value": value}
        corin.post("/jobs/Q-228/reading/true/", entry)
    text = flat(corin.get("/jobs/Q-228/true/")).replace("<b>", "").replace("</b>", "")
    assert "Missing: the circle it is read on, and that of its supports" in text
    page = open_page("Q-228", MM)
    sent = {"version": page.job.version, "unit": "mm", "face_read_mm": "120", "supports_mm": "200"}
    text = flat(corin.post("/jobs/Q-228/save/true/", sent, headers=HX)).replace("<b>", "").replace("</b>", "")
    # 0.12 over 120 at the back is 1 in 1000: the front is lifted by 0.2 over its 200, each side by half of it
    assert "Front" in text
    assert "0.200" in text
    assert "0.100" in text
    assert "High toward back" in text
    assert "no jaw" not in text


def test_the_first_set_up_has_no_finished_bore_before_it(corin: Client) -> None:
    page = open_page("Q-223", MM)
    setup = page.job.setup
    sent = {"version": page.job.version, "unit": "mm", "at": "setup", "machine": setup.machine_id,
            "method": setup.method, "holding": "", "reference": "finished", "room_behind_mm": "12"}  # fmt: skip
    text = flat(corin.post("/jobs/Q-223/save/work/", sent, headers=HX))
    assert "no earlier one has finished a bore to set it true to" in text
