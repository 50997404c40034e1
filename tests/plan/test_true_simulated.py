"""Made-up work trued by the product's own advice: off centre, leaning, oval, read with noise, moved imprecisely.

Each way of reading is followed to the letter; a move lands within a tenth of what was told, and in the last test one in
ten goes the wrong way. Seeds are fixed: a failure can be looked at again.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace
from math import cos, hypot, radians, sin
from random import Random

import pytest

from gyrocore import JawMove
from gyroplan.assess import tilt_of, wall_lean_of
from gyroplan.record import BetweenRecord, JobRecord, ReadingRecord, RoundRecord
from gyroplan.simulated import JAWS, SimulatedWork
from tests.plan.shop import assessed, bore, job
from tests.plan.test_tilt import EIGHT

WORKS = 60
LENGTH, SUPPORTS, INNER, OUTER = 140.0, 240.0, 120.0, 20.0
DEPTHS = (14.0, 49.0, 91.0, 126.0)


@dataclass(kw_only=True)
class Work:
    """A piece in its holding, and its log."""

    rng: Random
    true: SimulatedWork
    wrong: float = 0.0
    rounds: list[RoundRecord] = field(default_factory=list)
    between: list[BetweenRecord] = field(default_factory=list)

    def hand(self, told: float) -> float:
        """What a hand makes of a move: within a tenth, and now and then the other way."""
        share = self.rng.uniform(0.9, 1.1)
        return -share * told if self.rng.random() < self.wrong else share * told

    def log(self, values: Sequence[float | None], **more: object) -> None:
        number = len(self.rounds) + 1
        rows = [None if v is None else round(v + self.rng.gauss(0, 0.0007), 3) for v in values]
        again = rows[-len(DEPTHS)] if more.get("method") == "walls" else rows[0]
        base = RoundRecord(key=number, number=number, purpose="true", method="sweep", places=len(values),
                           surface="inside", bore=None, piece=1, indicator_step_mm=0.001)  # fmt: skip
        readings = tuple(ReadingRecord(key=100 * number + n, place=n, value_mm=v) for n, v in enumerate([*rows, again]))
        self.rounds.append(replace(base, readings=readings, **more))  # type: ignore[arg-type]

    def sweep(self, z: float, plane: float | None = None) -> None:
        self.log([self.true.reading_mm(a, z) for a in EIGHT], plane_mm=plane)

    def walls(self) -> None:
        """Each wall from its own first reading."""
        read = self.true.reading_mm
        self.log([(read(t, z) or 0.0) - (read(t, DEPTHS[0]) or 0.0) for t in (0, 90, 180, 270) for z in DEPTHS],
                 method="walls", places=16, depths_mm=DEPTHS)  # fmt: skip

    def moved(self) -> None:
        self.between.append(BetweenRecord(kind="moved", after_round=len(self.rounds), piece=1, bore=None))

    def record(self, reference: str, holding: str = "", about: str = "lowest") -> JobRecord:
        return job(bore(), rounds=tuple(self.rounds), between=tuple(self.between),
                   setup={"reference": reference, "holding": holding},
                   plan={"supports_mm": SUPPORTS, "level_about": about})  # fmt: skip

    def jaws(self, moves: Sequence[JawMove]) -> None:
        """Each pair by itself: the work goes toward the jaw that is slackened."""
        for one in moves:
            self.true = self.true.toward(str(one.slacken), self.hand(one.by_mm))


def made(seed: int, wrong: float = 0.0) -> Work:
    rng = Random(seed)
    true = SimulatedWork(
        off_mm=(rng.uniform(-0.4, 0.4), rng.uniform(-0.4, 0.4)),
        lean=(rng.uniform(-0.002, 0.002), rng.uniform(-0.002, 0.002)), oval_mm=rng.uniform(0, 0.015),
        oval_deg=rng.uniform(0, 180), grows=rng.uniform(-0.0003, 0.0003),
    )  # fmt: skip
    return Work(rng=rng, true=true, wrong=wrong)


def in_one_plane(work: Work) -> bool:
    work.sweep(60.0)
    truing = assessed(work.record("old-bore")).truing(1, 1)
    if truing.within:
        return True
    assert truing.standing is not None
    work.jaws(truing.standing.moves)
    work.moved()
    return False


def in_two_planes(work: Work) -> bool:
    """Both planes read, the jaws at the inner one, the tap at the outer: one round of the work."""
    work.sweep(INNER, INNER)
    work.sweep(OUTER, OUTER)
    told = assessed(work.record("old-bore"))
    if told.truing(1, 1).within:
        return True
    tilt = tilt_of(told, 1, 1)
    assert tilt is not None
    work.jaws(tilt.at.moves)
    tap = work.hand(tilt.tap_mm)
    x, y = tap * cos(radians(tilt.tap_deg)), tap * sin(radians(tilt.tap_deg))
    work.true = work.true.tapped(x, y, at_mm=OUTER, about_mm=INNER)
    work.moved()
    return False


def along_walls(work: Work, about: str = "lowest") -> bool:
    work.walls()
    told = assessed(work.record("wall", about=about))
    if told.truing(1, 1).within:
        return True
    lean = wall_lean_of(told, 1, 1)
    assert lean is not None
    up = {one.name: work.hand(one.lift_mm) for one in lean.lifts}
    # a base that is raised at a side leans the axis away from it, as it goes in
    (x, y), across = work.true.lean, ((up["1"] - up["3"]) / SUPPORTS, (up["2"] - up["4"]) / SUPPORTS)
    work.true = replace(work.true, lean=(x + across[0], y + across[1]))
    work.moved()
    return False


def true_in(work: Work, way: Callable[[Work], bool], most: int) -> int:
    """Rounds until the product says that it is true; one more than the most where it is not by then."""
    return next((count for count in range(1, most + 1) if way(work)), most + 1)


def by_flats(work: Work) -> bool:
    """The outside of square stock, pair by pair: the pairs are of unlike width, and the zero is set anew for each."""
    x, y = work.true.axis_at(60.0)
    zero, shift = work.rng.uniform(-0.2, 0.2), work.rng.uniform(-0.1, 0.1)
    values = [zero + x, shift + y, zero - x, shift - y]
    work.log(values, method="flats", surface="outside")
    truing = assessed(work.record("outside")).truing(1, 1)
    if truing.within:
        return True
    assert truing.standing is not None
    work.jaws(truing.standing.moves)
    work.moved()
    return False


def round_a_port(work: Work) -> bool:
    """Two of eight places are blocked."""
    work.true = replace(work.true, blocked_deg=(90.0, 135.0))
    return in_one_plane(work)


def in_two_steadies(work: Work) -> bool:
    """Each plane is moved by its own steady, which tilts the work about the other one."""
    work.sweep(INNER, INNER)
    work.sweep(OUTER, OUTER)
    told = assessed(work.record("old-bore", "steadies"))
    if told.truing(1, 1).within:
        return True
    tilt = tilt_of(told, 1, 1)
    assert tilt is not None
    for one in tilt.at.moves:
        x, y = JAWS[str(one.slacken)]
        by = work.hand(one.by_mm)
        work.true = work.true.tapped(x * by, y * by, at_mm=INNER, about_mm=OUTER)
    tap = work.hand(tilt.tap_mm)
    x, y = tap * cos(radians(tilt.tap_deg)), tap * sin(radians(tilt.tap_deg))
    work.true = work.true.tapped(x, y, at_mm=OUTER, about_mm=INNER)
    work.moved()
    return False


WAYS = {"one plane": in_one_plane, "two planes": in_two_planes, "walls": along_walls, "flats": by_flats,
        "a port": round_a_port, "two steadies": in_two_steadies}  # fmt: skip


def is_true(work: Work, way: str) -> bool:
    """What the work is, not what was read of it: within the limit and the readings' own noise."""
    if way == "walls":
        return hypot(*work.true.lean) * LENGTH <= 0.020 + 0.002
    depths = (INNER, OUTER) if way.startswith("two") else (60.0,)
    return all(work.true.eccentricity_at(z) <= 0.010 + 0.0015 for z in depths)


@pytest.mark.parametrize("way", list(WAYS))
def test_work_is_true_within_three_rounds_and_truly_so(way: str) -> None:
    for seed in range(WORKS):
        work = made(seed)
        assert true_in(work, WAYS[way], 3) <= 3, (way, seed)
        assert is_true(work, way), (way, seed)


@pytest.mark.parametrize("way", list(WAYS))
def test_one_wrong_move_in_ten_is_put_right_and_nothing_untrue_is_called_true(way: str) -> None:
    """Most are true within three rounds all the same; the rest take as many more as moves went wrong."""
    counts = []
    for seed in range(WORKS):
        work = made(1000 + seed, wrong=0.1)
        counts.append(true_in(work, WAYS[way], 8))
        assert is_true(work, way), (way, seed)
    assert max(counts) <= 8, counts
    assert sum(count <= 3 for count in counts) >= 0.6 * WORKS, counts
