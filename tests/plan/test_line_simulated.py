"""A made-up line bar trued by the product's advice: two housings off and aside, the bar sags, the arm droops."""

from __future__ import annotations

from math import hypot
from random import Random

import pytest

from gyroplan.assess import level_of, line_moves_of
from gyroplan.record import BetweenRecord, RoundRecord
from tests.plan.shop import assessed
from tests.plan.test_level import face_job, read
from tests.plan.test_line_moves import Centre, line_job, moved_line, sags, swept

DROOP = 0.012
WORKS = 40


class Line:
    """Where housings 1 and 3 lie from the line of the bearings, and the log."""

    def __init__(self, seed: int, wrong: float) -> None:
        self.rng, self.wrong = Random(seed), wrong
        self.off = {1: self.aside(), 3: self.aside()}
        self.rounds: list[RoundRecord] = []
        self.between: list[BetweenRecord] = []
        self.sags = sags()

    def aside(self) -> Centre:
        return self.rng.uniform(-0.4, 0.4), self.rng.uniform(-0.4, 0.4)

    def hand(self, told: float) -> float:
        share = self.rng.uniform(0.9, 1.1)
        return -share * told if self.rng.random() < self.wrong else share * told

    def round(self) -> bool:
        """Both housings swept; True once the product says so, else the bearings moved as it tells."""
        number = len(self.rounds) // 2 + 1
        for place in (1, 3):
            up, right = self.off[place]
            noisy = up + self.sags[f"H{place}"] + self.rng.gauss(0, 5e-4), right + self.rng.gauss(0, 5e-4)
            self.rounds.append(swept(place, noisy, number, DROOP))
        record = line_job(*self.rounds, between=tuple(self.between), droop_mm=DROOP)
        found = line_moves_of(assessed(record), 1)
        assert found is not None
        if found.within:
            return True
        by = {one.z_mm: (self.hand(one.up_mm), self.hand(one.right_mm)) for one in found.moves}
        ends = sorted(by)
        for place, z in ((1, 40.0), (3, 1160.0)):
            share = (z - ends[0]) / (ends[1] - ends[0])
            went = [by[ends[0]][n] + share * (by[ends[1]][n] - by[ends[0]][n]) for n in (0, 1)]
            self.off[place] = self.off[place][0] - went[0], self.off[place][1] - went[1]
        for place in (1, 3):
            self.between.append(BetweenRecord(kind="moved", after_round=number, piece=1, bore=place))
        return False


def rounds_until_true(seed: int, wrong: float, most: int) -> tuple[int, Line]:
    line = Line(seed, wrong)
    return next((n for n in range(1, most + 1) if line.round()), most + 1), line


def test_the_bar_is_true_in_three_rounds_and_truly_so() -> None:
    for seed in range(WORKS):
        count, line = rounds_until_true(seed, 0.0, 3)
        assert count <= 3, seed
        assert all(hypot(*one) <= 0.020 + 0.002 for one in line.off.values()), seed


def test_one_wrong_move_in_ten_is_put_right() -> None:
    counts = []
    for seed in range(WORKS):
        count, line = rounds_until_true(1000 + seed, 0.1, 9)
        counts.append(count)
        assert all(hypot(*one) <= 0.020 + 0.002 for one in line.off.values()), seed
    assert max(counts) <= 9
    assert sum(one <= 3 for one in counts) >= 0.4 * WORKS, counts


@pytest.mark.parametrize("seed", range(20))
def test_a_face_is_level_in_three_rounds(seed: int) -> None:
    """Lifts land within a tenth; the face's own form is no lean."""
    rng = Random(seed)
    x, y, form = rng.uniform(-3, 3), rng.uniform(-3, 3), rng.uniform(0, 0.004)
    for _ in range(3):
        found = level_of(assessed(face_job([round(v + rng.gauss(0, 5e-4), 3) for v in read(x, y, form)])), 1)
        assert found is not None
        if found.within:
            break
        up = {one.name: one.lift_mm * rng.uniform(0.9, 1.1) for one in found.lifts}
        x, y = x + 1000 * (up["1"] - up["3"]) / 200, y + 1000 * (up["2"] - up["4"]) / 200
    assert found is not None
    assert found.within


def test_moves_as_told_leave_nothing() -> None:
    line = Line(3, 0.0)
    line.round()
    record = line_job(*line.rounds, droop_mm=DROOP)
    found = line_moves_of(assessed(record), 1)
    assert found is not None
    up, right = moved_line(found, 40.0)
    first = found.bores[0]
    assert (up, right) == pytest.approx((first.true_up_mm, first.true_right_mm), abs=1e-9)
