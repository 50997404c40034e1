"""Made-up holes found from a mill's spindle: a coaxial indicator wound X then Y, an edge-finder, a plug, a pivot plate.

As in `test_true_simulated`: the advice is followed, the hand lands near what was told; seeds are fixed.
"""

from __future__ import annotations

from functools import partial
from math import cos, hypot, radians, sin
from random import Random

import pytest

from gyrocore import smallest_swing
from gyroplan.assess import centring
from tests.plan.test_true_simulated import LENGTH, along_walls, made, true_in

WORKS = 60
#: The run-out that the work is set true to, and how well a slide is wound.
LIMIT, WOUND = 0.03, 0.003


def coaxial_rounds(rng: Random) -> tuple[int, float]:
    """Rounds of X and Y until the swing left is within the limit, and how far off the hole then truly lies."""
    hole = (rng.uniform(-0.4, 0.4), rng.uniform(-0.4, 0.4))
    stands, times = [0.0, 0.0], rng.choice((1.0, 1.0, 4.0))

    def swing() -> float:
        return abs(2 * times * hypot(stands[0] - hole[0], stands[1] - hole[1]) + rng.gauss(0, 0.002))

    for number in (1, 2, 3):
        step = 0.2 if number == 1 else 0.05
        shown = 1.0
        for axis in (0, 1):
            at, first, swings = [], stands[axis], []
            for by in (-step, 0.0, step):
                stands[axis] = first + by
                at.append(round(stands[axis], 3))
                swings.append(swing())
            told = smallest_swing(at_mm=at, swings_mm=swings)
            stands[axis] = told.at_mm + rng.uniform(-WOUND, WOUND)
            shown = told.shown_times if number == 1 else shown
        if swing() / times <= LIMIT:
            return number, hypot(stands[0] - hole[0], stands[1] - hole[1])
    return 4, hypot(stands[0] - hole[0], stands[1] - hole[1])


@pytest.mark.parametrize("seed", range(WORKS))
def test_a_coaxial_indicator_centres_in_three_rounds(seed: int) -> None:
    rounds, off = coaxial_rounds(Random(seed))
    assert rounds <= 3
    assert off <= LIMIT / 2 + 0.003, "truly so, as near as the indicator scatters"


@pytest.mark.parametrize("seed", range(WORKS))
def test_the_middle_of_four_touches_lies_within_what_they_are_sure_to(seed: int) -> None:
    rng = Random(seed)
    centre, across, sure = (rng.uniform(-50, 50), rng.uniform(-50, 50)), rng.uniform(20, 90), 0.01
    tip = rng.uniform(2, 5)  # what the finder measures drops out of a midpoint
    touched = {
        "left_mm": centre[0] - across / 2 + tip, "right_mm": centre[0] + across / 2 - tip,
        "front_mm": centre[1] - across / 2 + tip, "back_mm": centre[1] + across / 2 - tip,
    }  # fmt: skip
    found = centring("edge", {**{n: v + rng.uniform(-sure, sure) for n, v in touched.items()}, "sure_mm": sure})
    assert found.middle_mm is not None
    assert hypot(found.middle_mm[0] - centre[0], found.middle_mm[1] - centre[1]) <= found.bound_mm


@pytest.mark.parametrize("seed", range(WORKS))
def test_a_plug_proves_no_more_than_its_clearance(seed: int) -> None:
    rng = Random(seed)
    clearance, angle = rng.uniform(0.005, 0.1), rng.uniform(0, 360)
    lies = rng.uniform(0, clearance / 2)  # anywhere in the hole that lets it
    off = (lies * cos(radians(angle)), lies * sin(radians(angle)))
    assert hypot(*off) <= centring("plug", {"clearance_mm": clearance}).bound_mm + 1e-12


@pytest.mark.parametrize("seed", range(WORKS))
def test_screws_over_a_pivot_bring_the_walls_upright_in_three_rounds(seed: int) -> None:
    work = made(seed)
    assert true_in(work, partial(along_walls, about="pivot"), 3) <= 3
    assert hypot(*work.true.lean) * LENGTH <= 0.031, "truly so"
