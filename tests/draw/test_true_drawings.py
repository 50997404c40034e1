"""True before the first round and after the last: what will be read, and what was read taken apart."""

from __future__ import annotations

from math import cos, hypot, radians
from re import findall

import pytest

from gyrodraw import AxisDrawn, OneTurn, PartsDrawn, PlaneMark, RingPart, StartFace, axis_scene, one_turn, parts_scene
from gyrodraw import start_face as draw_start
from gyrodraw.scene import Scene, Shape


def of(scene: Scene, role: str) -> list[Shape]:
    return [one for one in scene.shapes if one.role == role]


def points(shape: Shape) -> list[tuple[float, float]]:
    return [(float(x), float(y)) for x, y in findall(r"(-?[\d.]+) (-?[\d.]+)", shape.path)]


def face(**more: object) -> StartFace:
    names = ["jaw 1", "1-2", "jaw 2", "2-3", "jaw 3", "3-4", "jaw 4", "4-1"]
    held = {"names": names, "holding": ("1", "2", "3", "4"), "jaws": True, "surface": "outside", "bore_share": 0.6,
            "seen_from": "seen from the tailstock", "turn_words": "turn by hand"}  # fmt: skip
    return StartFace(**{**held, **more})  # type: ignore[arg-type]


def test_before_the_first_round_every_place_is_drawn_and_nothing_that_was_not_read() -> None:
    scene = draw_start(face(), 416, 328)
    assert len(of(scene, "place")) == 7
    assert len(of(scene, "disc")) == 1, "the first one filled"
    assert not of(scene, "profile")
    assert not of(scene, "limit-ring")
    assert [one.text for one in of(scene, "label")] == ["1-2", "2-3", "3-4", "4-1"]
    assert "jaw 1, 1-2" in scene.title
    assert all(0 <= float(one.x) <= 416 and 0 <= float(one.y) <= 328 for one in scene.shapes if one.kind == "text")


def test_work_turns_against_the_numbering_and_an_indicator_with_it() -> None:
    def end(work_turns: bool) -> tuple[float, float]:
        return points(of(draw_start(face(work_turns=work_turns)), "wanted")[0])[-1]

    assert end(True)[1] < end(False)[1], "what is read next comes up to the top"


@pytest.mark.parametrize(("surface", "places"), [("inside", 7), ("face", 7), ("", 0)])
def test_places_stand_on_what_is_read(surface: str, places: int) -> None:
    scene = draw_start(face(surface=surface, jaws=False, holding=("back", "right", "front", "left")))
    assert len(of(scene, "place")) == places
    assert not of(scene, "jaw")


def test_an_indicator_stands_at_every_plane_before_it_is_read() -> None:
    planes = [PlaneMark(letter="A", depth_mm=75, off_mm=None, words=""),
              PlaneMark(letter="B", depth_mm=8, off_mm=None, words="")]  # fmt: skip
    drawn = AxisDrawn(length_mm=84, bore_mm=60, planes=planes, lean="", apart="open face right", held=True,
                      read_on="outside")  # fmt: skip
    scene = axis_scene(drawn, 380, 340)
    assert len(of(scene, "dot-blue")) == 2
    assert len(of(scene, "phantom")) == 3, "two jaws and the face of the chuck"
    assert not of(scene, "sprung"), "no axis from planes that were not read"
    assert min(y for one in of(scene, "narrow-blue") if "a" not in one.path for _, y in points(one)) > 0


def test_the_parts_are_drawn_at_one_exaggeration_and_a_part_that_is_nothing_is_its_ring() -> None:
    wide = RingPart(title="oval", figure="0.036", says="", more="", outward_mm=lambda a: 0.018 * cos(2 * radians(a)))
    none = RingPart(title="rest", figure="0", says="", more="", outward_mm=lambda _: 0.0)
    centre = RingPart(title="offset", figure="0.004", says="", more="", blue=True,
                      outward_mm=lambda a: 0.004 * cos(radians(a)))  # fmt: skip
    scene = parts_scene(PartsDrawn(parts=[centre, wide, none], offset_mm=(0.004, 0.0), allowed_mm=0.01))
    oval, rest = (points(one) for one in of(scene, "profile"))
    middle = [(min(x for x, _ in ring) + max(x for x, _ in ring)) / 2 for ring in (oval, rest)]
    height = 328 * 0.42
    out = [[hypot(x - at, y - height) for x, y in ring] for at, ring in zip(middle, (oval, rest), strict=True)]
    assert max(out[1]) - min(out[1]) == pytest.approx(0, abs=0.02)
    assert max(out[0]) - 58 == pytest.approx(58 - min(out[0]), abs=0.02)
    (dot,) = of(scene, "dot-blue")
    (allowed,) = of(scene, "limit-ring")
    radius = float(findall(r"a([\d.]+)", allowed.path)[0])
    moved = height - float(dot.path.split()[1].split("a")[0])
    assert moved / radius == pytest.approx(0.4, abs=0.01), "0.004 of 0.010"
    assert [one.text for one in of(scene, "sum")] == ["=", "+", "+"]


def test_one_turn_ends_as_it_begins_and_shows_the_band_that_is_allowed() -> None:
    drawn = OneTurn(
        angles_deg=[0, 90, 180, 270], read_mm=[0.02, 0, -0.02, 0], as_read=lambda a: 0.02 * cos(radians(a)),
        offset=lambda a: 0.02 * cos(radians(a)), oval=lambda _: 0.0, allowed_mm=0.01,
        names=[(0, "jaw 1"), (360, "jaw 1")], level_words=str,
    )  # fmt: skip
    scene = one_turn(drawn)
    curve = points(of(scene, "profile")[0])
    assert curve[0][1] == pytest.approx(curve[-1][1])
    assert len(of(scene, "place")) == 5, "the first reading again at the end"
    zone = [y for _, y in points(of(scene, "limit-zone")[0])]
    swing = max(y for _, y in curve) - min(y for _, y in curve)
    assert (max(zone) - min(zone)) / swing == pytest.approx(0.5, abs=0.01)
