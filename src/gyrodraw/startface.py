"""Before the first round: the end view of the work in its holding, with what will be read where."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyrodraw.scene import Point, Scene, around


@dataclass(frozen=True, slots=True, kw_only=True)
class StartFace:
    """The places in the order they are read, the first at the top; what the stylus stands on."""

    #: Names of the places, clockwise from 0 degrees, evenly round.
    names: Sequence[str]
    #: The four places that hold it, or by which it is named.
    holding: tuple[str, str, str, str]
    jaws: bool
    #: `outside`, `inside` or `face`; empty where this round reads no circle.
    surface: str
    #: Bore over outside, as drawn.
    bore_share: float
    seen_from: str
    #: How the work or the spindle is turned so that the places come in order; empty for not said.
    turn_words: str = ""
    #: Whether the work turns under the indicator; else the indicator goes round.
    work_turns: bool = True


def start_face(face: StartFace, width: float = 460, height: float = 372) -> Scene:
    """The work from its open face, its jaws or sides, the places that will be read, and the way it is turned."""
    read = ", ".join(face.names)
    scene = Scene(width, height, f"End view {face.seen_from}. Read at {read}")
    centre = (width / 2, height / 2)
    outer = min(width / 2 - 96, height / 2 - 56)
    bore = outer * min(max(face.bore_share, 0.3), 0.86)
    scene.circle(centre, outer, "outline")
    scene.circle(centre, bore, "outline")
    reach = outer + 18
    scene.lines([((centre[0] - reach, centre[1]), (centre[0] + reach, centre[1])),
                 ((centre[0], centre[1] - reach), (centre[0], centre[1] + reach))], "axis")  # fmt: skip
    for name, angle in zip(face.holding, (0, 90, 180, 270), strict=True):
        _hold(scene, face, name, around(centre, outer + 20, angle), angle)
    on = {"outside": outer, "inside": bore, "face": (outer + bore) / 2}.get(face.surface)
    if on is not None:
        _places(scene, face, centre, on, outer)
    if face.turn_words:
        _turned(scene, face, centre, outer)
    scene.text((6, height - 8), face.seen_from, "small")
    return scene


def _hold(scene: Scene, face: StartFace, name: str, at: Point, angle: int) -> None:
    if not face.jaws:
        anchor = {90: "start", 270: "end"}.get(angle, "middle")
        scene.text((at[0], at[1] + {0: -2, 180: 14}.get(angle, 6)), name, "figure", anchor)
        return
    scene.rect((at[0] - 20, at[1] - 20), (at[0] + 20, at[1] + 20), "jaw")
    scene.text((at[0], at[1] + 7), name, "jaw-number", "middle")


def _places(scene: Scene, face: StartFace, centre: Point, on: float, outer: float) -> None:
    """The first place filled, with its leader; those between two jaws named, where they are few enough to read."""
    count = len(face.names)
    for place, name in enumerate(face.names):
        angle = 360 * place / count
        scene.circle(around(centre, on, angle), 7 if place == 0 else 5, "disc" if place == 0 else "place")
        if count <= 8 and angle % 90:
            x, y = around(centre, outer + 20, angle)
            scene.text((x, y + 5), name, "label", "start" if angle < 180 else "end")
    first = around(centre, on, 0)
    elbow = (centre[0] - 62, centre[1] - outer - 34)
    scene.poly([(elbow[0] - 14, elbow[1]), elbow, (first[0] - 5, first[1] - 5)], "narrow-blue")
    scene.text((elbow[0] - 20, elbow[1] + 5), "first reading", "figure-blue-small", "end")


def _turned(scene: Scene, face: StartFace, centre: Point, outer: float) -> None:
    """An arc: of work that turns against the numbering, so that what is read next comes to the top."""
    radius = outer + 66
    arc = [around(centre, radius, angle) for angle in range(46, 79, 4)]
    if face.work_turns:
        arc.reverse()
    scene.poly(arc, "wanted")
    scene.arrow(arc[-1], arc[-2], "arrowhead-blue")
    scene.text((scene.width - 6, 14), face.turn_words, "figure-blue-small", "end")
