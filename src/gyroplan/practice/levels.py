"""The levels, from square stock to a line bar, and what each piece hides."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from math import cos, radians, sin
from random import Random
from types import MappingProxyType

from gyroplan.simulated import JAWS, SimulatedWork


@dataclass(frozen=True, slots=True, kw_only=True)
class Level:
    """One level: what is read where, with what, how true it must be, and by what it is moved.

    `planes_mm` are the depths that can be read, the outer first; `moved` is `jaws`, `jaws-and-tap` (the outer plane is
    tapped about the inner one) or `bearings` (of a bar through two housings, one at each plane).
    """

    key: str
    name: str
    words: str
    inside: bool = True
    places: int = 8
    planes_mm: tuple[float, ...] = (0.0,)
    step_mm: float = 0.01
    #: How far the centre may lie off at the end [mm].
    centre_limit_mm: float = 0.015
    moved: str = "jaws"
    most_off_mm: float = 0.4
    oval_mm: float = 0.0
    lean_mm_m: float = 0.0
    port: bool = False
    sticky: bool = False
    loose: bool = False

    @property
    def angles_deg(self) -> tuple[float, ...]:
        """The places on the work."""
        return tuple(360 * n / self.places for n in range(self.places))


LEVELS: Mapping[str, Level] = MappingProxyType({
    one.key: one for one in (
        Level(key="square", name="Square stock", inside=False, places=4, oval_mm=0.06,
              words="A rectangular bar: pair by pair, half the difference. The pairs are not of one width."),
        Level(key="round", name="Round bar", inside=False, words="The outside of a true round bar."),
        Level(key="oval", name="Oval bore", oval_mm=0.035, sticky=True,
              words="A worn, oval bore, and a pair of jaws that sticks."),
        Level(key="tilted", name="Tilted bore", planes_mm=(12.0, 108.0), oval_mm=0.012, lean_mm_m=2.0,
              moved="jaws-and-tap", words="Off and leaning: two planes. Jaws at the inner one, a tap at the outer."),
        Level(key="port", name="Bore with a port", oval_mm=0.02, port=True, loose=True,
              words="A port interrupts the circle, and the holder may slip: come back to the first reading."),
        Level(key="line", name="Line bar", planes_mm=(100.0, 700.0), oval_mm=0.008, lean_mm_m=0.5, moved="bearings",
              centre_limit_mm=0.02, words="Two housings swept from a bar in two bearings: move the bearings."),
    )
})  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class Hidden:
    """What a piece hides: the work, how much of a turn each pair of jaws follows, in which rounds the holder slips."""

    work: SimulatedWork
    follows: Mapping[str, float] = field(default_factory=dict)
    slips: Mapping[int, float] = field(default_factory=dict)

    def worst_mm(self, level: Level) -> float:
        """How far the centre truly lies off, in the worst plane."""
        return max(self.work.eccentricity_at(z) for z in level.planes_mm)

    def after(self, level: Level, part: Part) -> Hidden:
        """What is left once one thing was moved.

        A jaw shifts the work toward itself as far as its pair follows; a tap moves the outer plane about the inner
        one; a bearing moves the bar at its housing, about the other one, so that the housing goes the other way.
        """
        what, jaw, by = part
        x, y = JAWS[jaw]
        if what == "jaw":
            return replace(self, work=self.work.toward(jaw, self.follows.get(jaw, 1.0) * by))
        plane, sign = (0, 1) if what == "tap" else (int(what[-1]) - 1, -1)
        at, about = level.planes_mm[plane], level.planes_mm[1 - plane]
        work = self.work.tapped(sign * x * by, sign * y * by, at_mm=at, about_mm=about)
        return replace(self, work=work)


#: What is moved (`jaw`, `tap`, `bearing 1`, `bearing 2`), toward which place, by how much [mm].
Part = tuple[str, str, float]
#: What can be moved, by what a level is moved with.
MOVED = {"jaws": ("jaw",), "jaws-and-tap": ("jaw", "tap"), "bearings": ("bearing 1", "bearing 2")}


def hidden_of(level: Level, seed: int) -> Hidden:
    """The piece of a seed: off by a quarter of the most at least, so that there is something to do."""
    rng = Random(f"{level.key} {seed}")
    angle, off = rng.uniform(0, 360), rng.uniform(0.25, 1.0) * level.most_off_mm
    lean_at, lean = rng.uniform(0, 360), rng.uniform(0.4, 1.0) * level.lean_mm_m / 1000
    work = SimulatedWork(
        off_mm=(off * cos(radians(angle)), off * sin(radians(angle))),
        lean=(lean * cos(radians(lean_at)), lean * sin(radians(lean_at))),
        oval_mm=level.oval_mm * rng.uniform(0.6, 1.0), oval_deg=0.0 if level.places == 4 else rng.uniform(0, 180),
        inside=level.inside, blocked_deg=(45.0 * rng.randrange(8),) if level.port else (),
    )  # fmt: skip
    follows, slips = {}, {}
    if level.sticky:
        share = rng.uniform(0.55, 0.75)
        follows = dict.fromkeys(rng.choice((("1", "3"), ("2", "4"))), share)
    if level.loose:
        slips = {1: rng.choice((-1, 1)) * rng.uniform(0.04, 0.09)}
    return Hidden(work=work, follows=follows, slips=slips)
