"""On True in two planes and along the walls: begun, refused, read, moved, read again; what rail and bench say of it."""

from __future__ import annotations

import re
import uuid
from math import cos, radians, sin
from typing import Any

import pytest
from django.test import Client

from gyrometra.bridge.units import Units
from gyrometra.crib.models import Indicator, Machine
from gyrometra.jobs.models import Job, SetUp, SignOff
from gyrometra.steps.page import JobPage, open_page
from gyrometra.truing.models import Round
from gyroplan.assess import steps_of
from tests.web.said import flat

MM = Units("mm")
HX = {"HX-Request": "true"}
Vector = tuple[float, float]


def indicator() -> int:
    return Indicator.objects.get(name="Indicator 1").pk


def begin(client: Client, number: str, **fields: Any) -> str:
    sent = {"places": "8", "indicator": indicator(), "client_id": str(uuid.uuid4()), **fields}
    headers = {**HX, "X-Unit": fields.get("unit", "mm")}
    return flat(client.post(f"/jobs/{number}/round/true/", sent, headers=headers))


def read(client: Client, number: str, microns: list[float]) -> str:
    said = ""
    for place, value in enumerate(microns):
        entry = {"value": f"{value:.0f}", "place": place, "client_id": str(uuid.uuid4())}
        said = flat(client.post(f"/jobs/{number}/reading/true/", entry, headers=HX))
    return said


def plane(client: Client, number: str, depth: str, off: Vector, **fields: Any) -> str:
    begin(client, number, method="sweep", plane_mm=depth, **fields)
    values = [-1000 * (off[0] * cos(radians(45 * n)) + off[1] * sin(radians(45 * n))) for n in range(8)]
    return read(client, number, [*values, values[0]])


def walls(client: Client, number: str, lean: Vector, grows: float = 0.1, **fields: Any) -> str:
    begin(client, number, method="walls", sides="4", depths="10 45 85 120", **fields)
    values = [-(grows + lean[0] * cos(radians(90 * n)) + lean[1] * sin(radians(90 * n))) * (z - 10)
              for n in range(4) for z in (10, 45, 85, 120)]  # fmt: skip
    return read(client, number, [*values, values[12]])


def by_wall(client: Client, **fields: str) -> str:
    new = {"number": "P 31/60", "part": "Sluice guide", "material": "bronze", "found_d_0": "83.6", "wanted": "86 H7",
           "length_mm": "130", "runout_limit_mm": "0.03", "reference": "wall", "unit": "mm",
           "machine": str(Machine.objects.get(name="Mill 1").pk)}  # fmt: skip
    assert client.post("/jobs/new/", {**new, **fields}).status_code == 302
    return "P~2031~2F60"


def page_of(number: str = "P 31/60") -> JobPage:
    return open_page(number, MM)


def rail(number: str) -> tuple[str, str]:
    station = next(one for one in steps_of(page_of(number).assessment).steps if one.step == "true")
    return station.state, station.code


def test_walls_are_read_judged_and_moved_at_the_open_end(corin: Client) -> None:
    at = by_wall(corin)
    start = flat(corin.get(f"/jobs/{at}/true/"))
    assert "Run along the walls" in start
    assert 'value="13 45.5 84.5 117"' in start, "depths are offered, clear of both ends"
    said = walls(corin, at, (1.6, -0.7))
    page = page_of()
    # 130 long: the lean of (1.6, -0.7) mm/m, and the taper of 0.1 mm/m on radius
    assert page.truing.walls is not None
    assert page.truing.walls.tilt_mm == pytest.approx(0.130 * (1.6**2 + 0.7**2) ** 0.5, abs=1e-3)
    assert "Move the open end to left-back" in said
    assert '<p class="jawno">0.227</p>' in said
    assert "taper, on Ø over 130</span><b>0.026</b>" in said
    assert "-0.011<small>" in said, "what every wall then reads, its taper"
    assert "The centre is not seen" in said
    assert rail("P 31/60") == ("ahead", "wall_leans")
    again = walls(corin, at, (0.05, 0.0), moved="yes")
    assert "Parallel enough, over 130" in again
    assert rail("P 31/60") == ("done", "wall_trued")
    corin.post(f"/jobs/{at}/between/disturbed/", {"client_id": str(uuid.uuid4())})
    assert rail("P 31/60") == ("warn", "true_moved")
    assert "Told before, made?" in flat(corin.get(f"/jobs/{at}/true/"))


def test_on_supports_the_lean_is_lifted_out(corin: Client) -> None:
    at = by_wall(corin, only_trued="on", wanted="")
    walls(corin, at, (2.0, 0.0))
    job = Job.objects.get(number="P 31/60")
    sent = {"version": job.version, "unit": "mm", "supports_mm": "200"}
    said = flat(corin.post(f"/jobs/{at}/save/true/", sent, headers=HX))
    assert "Lift, so that the axis comes upright" in said
    # the base rises toward back by 2 mm/m over 200: front up by 0.4, the sides by half
    amounts = [one.split("</b>")[0] for one in said.split('<b class="jawno">')[1:]]
    assert amounts == ["0.000", "0.200", "0.400", "0.200"]
    assert "Lift at front" in flat(corin.get("/"))


def test_the_bench_tells_the_lean_as_true_does(corin: Client) -> None:
    at = by_wall(corin, only_trued="on", wanted="")
    assert "Run along the walls, round 1" in flat(corin.get("/"))
    walls(corin, at, (1.6, -0.7))
    assert "Take the lean out, over the bore" in flat(corin.get("/"))


@pytest.mark.parametrize(("fields", "says"), [
    ({"depths": "10"}, "Type two depths or more"),
    ({"depths": ""}, "nothing was given"),
    ({"depths": "10 45 10"}, "each once"),
    ({"depths": "10 deep 45"}, "deep"),
    ({"depths": "10 450"}, "The part is 130 mm long; a depth of 450 was given"),
    ({"method": "sweep", "plane_mm": "131"}, "The part is 130 mm long; a depth of 131 was given"),
    ({"method": "sweep", "plane_mm": "-1"}, "must be 0 or more"),
    ({"depths": "1 2 3 4 5 6 7 8 9 10"}, "are 40 readings; 36 at most"),
])  # fmt: skip
def test_depths_that_cannot_be_are_told(corin: Client, fields: dict[str, str], says: str) -> None:
    at = by_wall(corin)
    said = begin(corin, at, **{"method": "walls", "sides": "4", **fields})
    assert says in said
    assert not Round.objects.filter(setup__job__number="P 31/60").exists()


def test_a_wall_that_did_not_come_back_is_void_and_two_walls_see_one_way(corin: Client) -> None:
    at = by_wall(corin)
    begin(corin, at, method="walls", sides="2", depths="10 120")
    said = read(corin, at, [0, -110, 0, 110, 40])
    assert "The round is void" in said
    begin(corin, at, method="walls", sides="2", depths="10 120")
    said = read(corin, at, [0, -110, 0, 110, 0])
    assert "the lean the other way is not seen" in said
    begin(corin, at, method="walls", sides="1", depths="10 120")
    assert "These walls cannot tell a lean from a taper" in read(corin, at, [0, -110, 0])


def test_depths_are_typed_in_inches(corin: Client) -> None:
    at = by_wall(corin)
    begin(corin, at, method="walls", sides="2", depths="0.5 4.5", unit="in")
    made = Round.objects.get(setup__job__number="P 31/60")
    assert (made.depths_mm, made.places) == ([12.7, 114.3], 4)


def test_work_that_is_only_set_true_along_its_walls_is_signed_by_them(dagny: Client) -> None:
    at = by_wall(dagny, only_trued="on", wanted="")
    assert "Incomplete" in flat(dagny.get(f"/jobs/{at}/check/"))
    walls(dagny, at, (0.05, 0.05))
    text = flat(dagny.get(f"/jobs/{at}/check/"))
    assert "Set true along its walls: leans 0.010 over its length, limit 0.030" in text
    digest = text.split('name="digest" value="')[1].split('"')[0]
    dagny.post(f"/jobs/{at}/sign/", {"digest": digest, "unit": "mm"})
    assert SignOff.objects.get(job__number="P 31/60").verdict["word"] == "in"


def test_two_planes_are_made_true_one_after_the_other(corin: Client) -> None:
    """Q-219, 0.020: the plane at the jaws by the jaws, then a tap at the open end, then both once more."""
    plane(corin, "Q-219", "95", (0.03, 0.0))
    said = plane(corin, "Q-219", "15", (0.03, 0.05))
    assert "leans 0.069 in 110" in said
    assert "then, in plane B, tap it to jaw 4: <b>0.050</b>" in said
    assert "Tighten jaw <b>1</b>" in said
    assert '<p class="jawno">0.030</p>' in said, "the jaws centre the plane that lies nearest to them"
    assert '<p class="jawno">0.050</p>' not in said
    assert rail("Q-219") == ("ahead", "truing")
    said = plane(corin, "Q-219", "95", (0.0, 0.0), moved="yes")
    assert rail("Q-219") == ("ahead", "plane_waits")
    assert "both planes must be read since the last move" in said
    assert 'value="15"' in said, "the other plane's turn"
    said = plane(corin, "Q-219", "15", (0.002, 0.048))
    assert "Tap" in said or "tap" in said
    said = plane(corin, "Q-219", "15", (0.002, 0.003), moved="yes")
    said = plane(corin, "Q-219", "95", (0.001, -0.002))
    assert "True in 2 planes, leans" in said
    assert rail("Q-219") == ("done", "trued_planes")
    page = page_of("Q-219")
    assert page.boring.off_centre_mm == pytest.approx(max(0.002**2 + 0.003**2, 0.001**2 + 0.002**2) ** 0.5, abs=6e-4)


def test_a_plane_that_is_true_says_nothing_of_the_one_that_is_not(corin: Client) -> None:
    plane(corin, "Q-223", "75", (-0.040, 0.0))
    said = plane(corin, "Q-223", "8", (0.0, 0.0))
    assert "Centred well enough" not in said, "the inner plane lies 0.040 off"
    assert "Slacken jaw <b>1</b>" in said or "Slacken jaw <b>3</b>" in said
    assert "Go on to Bore" not in said
    assert "half the run-out</span><b>0.000</b>" in said, "nought is a figure"


def test_one_plane_read_apart_is_said_to_be_one(corin: Client) -> None:
    said = plane(corin, "Q-219", "15", (0.001, 0.0))
    assert "One plane only: tilt is not seen. Sweep a second one for it." in said
    assert "Go on to Bore, true in one plane" in said
    assert rail("Q-219") == ("done", "trued_plane")


def test_three_of_four_readings_tell_the_fourth_and_four_are_checked(corin: Client) -> None:
    begin(corin, "Q-219", method="sweep", places="4")
    said = read(corin, "Q-219", [30, 10, -10])
    assert "circle rule +0.010" in said
    entry = {"value": "8 to 12", "place": 3, "client_id": str(uuid.uuid4())}
    said = flat(corin.post("/jobs/Q-219/reading/true/", entry, headers=HX))
    assert "The two diameters differ" not in said, "a dancing needle is read at its middle"
    assert ">+0.010</a>" in said
    begin(corin, "Q-219", method="sweep", places="4")
    said = read(corin, "Q-219", [30, 10, -10, 50, 30])
    assert "The two diameters differ by 0.04 mm" in said


def test_a_finished_bore_is_swept_first_even_where_the_work_was_set_true_by_its_wall(corin: Client) -> None:
    at = by_wall(corin)
    assert 'value="sweep" selected' in flat(corin.get(f"/jobs/{at}/check/"))
    sent = {"method": "eye", "places": "8", "indicator": indicator(), "client_id": str(uuid.uuid4())}
    corin.post(f"/jobs/{at}/round/check/", sent, headers=HX)
    assert not Round.objects.filter(setup__job__number="P 31/60").exists(), "what is not read place by place"


def test_after_a_move_no_figure_of_before_stands_large(corin: Client) -> None:
    """Q-216 was told to be centred at A and tapped at B: moved, neither the face nor a plate tells a move."""
    assert "slacken" in flat(corin.get("/jobs/Q-219/true/"))
    corin.post("/jobs/Q-216/between/moved/", {"client_id": str(uuid.uuid4())})
    said = flat(corin.get("/jobs/Q-216/true/"))
    assert "read it again" in said
    assert "slacken" not in said
    assert "axis drawn" not in said
    assert 'This plane</h2><p class="big none">' in said
    begin(corin, "Q-216", method="sweep", plane_mm="105")
    said = flat(corin.get("/jobs/Q-216/true/"))
    assert "Told before, made?" in said, "of the plane that had moves, while it is read again"
    assert "slacken 3, tighten 1: 0.016" in said


@pytest.mark.parametrize(
    ("holding", "words", "why"),
    [
        ("steady", "move the steady to jaw 4: <b>0.050</b>", "Tighten jaw <b>1</b>"),
        # each steady moves its own plane: the outer one its whole offset, 0.058 as near as microns tell
        ("steadies", "move the outer steady to", "Move the steady at that end to the"),
    ],
)
def test_held_in_steadies_the_outer_plane_is_moved_by_its_own(
    corin: Client, holding: str, words: str, why: str
) -> None:
    SetUp.objects.filter(job__number="Q-219").update(holding=holding)
    plane(corin, "Q-219", "95", (0.03, 0.0))
    said = plane(corin, "Q-219", "15", (0.03, 0.05))
    assert words in said
    assert why in said
    if holding == "steadies":
        assert re.search(r"move the outer steady to \S+: <b>0.05[89]</b>", said)


def test_over_a_pivot_one_screw_goes_down_as_the_opposite_one_goes_up(corin: Client) -> None:
    at = by_wall(corin, only_trued="on", wanted="")
    walls(corin, at, (2.0, 0.0))
    Machine.objects.filter(name="Mill 1").update(screw_pitch_mm=1)
    sent = {"version": Job.objects.get(number="P 31/60").version, "unit": "mm", "supports_mm": "200",
            "level_about": "pivot", "pivot_mm": "210"}  # fmt: skip
    said = flat(corin.post(f"/jobs/{at}/save/true/", sent, headers=HX))
    assert "Lower <b>back</b>" in said
    assert "Raise <b>front</b>" in said
    assert "0.200 mm each, 72°, 1.2 flats. Lower first." in said
    assert re.findall(r'class="jawno">([^<]+)<small> (\w+)', said) == [("0.20", "turn")], "the other pair stays"
    assert "carries the open face's centre <b>0.420</b> to back" in said, "210 behind the open face at 2 mm/m"
    # a form that does not ask leaves it as it stands
    sent = {"version": Job.objects.get(number="P 31/60").version, "unit": "mm", "supports_mm": "200"}
    assert "Lower <b>back</b>" in flat(corin.post(f"/jobs/{at}/save/true/", sent, headers=HX))
    sent |= {"version": Job.objects.get(number="P 31/60").version, "level_about": "magic"}
    assert corin.post(f"/jobs/{at}/save/true/", sent, headers=HX).status_code == 200
