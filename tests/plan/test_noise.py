"""A sound of the cut named, also in noise; what to change, each against the load that is believed to chatter."""

from __future__ import annotations

from dataclasses import replace
from math import pi

import numpy as np
import pytest

from gyrocore import Cut, cutting_force, stability
from gyrocore.formulas.stability import EdgeInCut
from gyroplan.assess import Change, Chatter, chatter_of
from gyroplan.loop import BoreLog, Set
from gyroplan.loop import Cut as Cutting
from gyroplan.noise import FLOOR_DB, MOST_SAMPLES, STEPS, hz_of, loudest, overtone_of, sound_of
from gyroplan.record import CutLogRecord, JobRecord, RemarkRecord
from tests.plan.shop import BAR, CUTTER, LATHE, assessed, job

RATE = 44100.0


def heard(*parts: tuple[float, float], noise: float = 0.0, seconds: float = 1.5, seed: int = 5) -> np.ndarray:
    at = np.arange(int(seconds * RATE)) / RATE
    rng = np.random.default_rng(seed)
    return np.sum([a * np.sin(2 * pi * hz * at) for hz, a in parts], axis=0) + noise * rng.normal(size=len(at))


@pytest.mark.parametrize("noise", [0.0, 0.6])
def test_tones_are_named_right_also_in_noise(noise: float) -> None:
    sound = heard((1071.0, 1.0), (4 * 355 / 60, 0.5), (2500.0, 0.3), noise=noise)
    said = sound_of(sound, RATE, rpm=355, natural_hz=1050, speeds_rpm=[280, 355, 450])
    assert [(one.name, one.harmonic, round(one.frequency_hz)) for one in said.tones[:3]] == [
        ("bar", None, 1071), ("turn", 4, 24), ("other", None, 2500)]  # fmt: skip
    assert said.bar is not None
    assert said.bar.waves_per_turn == pytest.approx(60 * 1071 / 355, rel=1e-3)
    peak = max(range(STEPS), key=lambda n: said.levels_db[n])
    assert hz_of(peak) == pytest.approx(1071, rel=0.02)
    assert min(said.levels_db) >= FLOOR_DB


def test_the_loudest_stretch_is_looked_at() -> None:
    quiet, loud = heard((300.0, 0.01), seconds=4), heard((1071.0, 1.0), seconds=2)
    values = np.concatenate([quiet, loud, quiet])
    found = loudest(values)
    assert len(found) == MOST_SAMPLES
    assert sound_of(values, RATE, rpm=355, natural_hz=1050, speeds_rpm=None).tones[0].name == "bar"


def test_silence_has_no_tones() -> None:
    said = sound_of(np.zeros(5000), RATE, rpm=355, natural_hz=1050, speeds_rpm=None)
    assert (said.tones, set(said.levels_db)) == ((), {FLOOR_DB})


def squealing(**plan: object) -> JobRecord:
    """Pass 1 of the trunnion housing is cut and squealed."""
    log = BoreLog(entries=(Set(number=1), Cutting(number=1)))
    remark = RemarkRecord(number=1, sound="squeal", look="", bar=BAR.name, cutter=CUTTER.key, feed_mm_rev=0.2,
                          depth_mm=0.47, diameter_mm=69.3)  # fmt: skip
    feeds = (0.05, 0.08, 0.1, 0.14, 0.2, 0.28, 0.4)
    return job(plan=dict(plan), setup={"machine": replace(LATHE, feeds_mm_rev=feeds)},
               cuts=(CutLogRecord(bore=1, piece=1, log=log, remarks=(remark,)),))  # fmt: skip


def chatter(record: JobRecord, **more: object) -> Chatter:
    found = chatter_of(assessed(record).boring(1, 1), **more)  # type: ignore[arg-type]
    assert found is not None
    return found


def change(found: Chatter, code: str) -> Change:
    return next(one for one in found.changes if one.code == code)


def test_what_squealed_stands_at_the_limit_that_is_believed() -> None:
    found = chatter(squealing())
    assert found.number == 1
    assert found.load == pytest.approx(1.0, rel=0.05), "damping is moved so that it just chatters"
    silent = chatter(replace(squealing(), cuts=()))
    assert (silent.load or 0) < 1


def test_every_change_is_worked_out_by_the_core() -> None:
    """Each load by a second way: the depth at which the core's own stability says that it begins."""
    record = squealing()
    found, boring = chatter(record), assessed(record).boring(1, 1)
    shallower = change(found, "shallower")
    assert shallower.value == pytest.approx(found.cut.depth_mm / 2)
    stiff, freq = boring.bar.stiffness_n_mm, boring.bar.frequency_hz
    assert stiff is not None
    assert freq is not None

    def chatters(cut: Cut, damping: float) -> bool:
        """Whether some depth on the way to the cut's own begins to chatter."""
        edge = EdgeInCut(kc_mpa=cutting_force(cut).kc_mpa, entering_angle_deg=cut.entering_angle_deg,
                         nose_radius_mm=cut.nose_radius_mm, feed_mm_rev=cut.feed_mm_rev,
                         thrust_ratio=cut.thrust_ratio)  # fmt: skip
        limit = stability(stiffness_n_mm=stiff, damping_ratio=damping, natural_frequency_hz=freq,
                          depth_mm=cut.depth_mm, edge=edge).limit_depth_mm  # fmt: skip
        return limit is not None and limit <= cut.depth_mm

    half = replace(found.cut, depth_mm=found.cut.depth_mm / 2)
    for cut, load in ((found.cut, found.load), (half, shallower.load)):
        assert load is not None
        # the load is the share of the damping at which that very cut would just chatter
        assert chatters(cut, 0.98 * load * found.damping)
        assert not chatters(cut, 1.02 * load * found.damping)


def test_what_cannot_be_says_why() -> None:
    found = chatter(squealing())
    assert change(found, "nose").refused == "no-cutter"
    small = replace(CUTTER, key=2, name="Bit 0.2", nose_radius_mm=0.2)
    with_nose = chatter(squealing(), cutters=[CUTTER, small])
    assert (change(with_nose, "nose").name, change(with_nose, "nose").refused) == ("Bit 0.2", "")
    stout = replace(BAR, key=8, name="Bar 8", diameter_mm=50, min_bore_mm=54, length_mm=340)
    with_bar = change(chatter(squealing(), bars=[BAR, stout]), "bar")
    assert with_bar.name == "Bar 8"
    # 50 on 40 is 2.4 times as stiff
    assert with_bar.load is not None
    assert with_bar.load < 0.6
    refused = [one.refused for one in found.changes]
    assert refused == sorted(refused, key=bool), "what can be tried comes first"


def test_an_overhang_that_the_bore_needs_is_not_shortened() -> None:
    assert change(chatter(squealing(clear_mm=0.0)), "shorter").refused == "reach"
    assert change(chatter(squealing(clear_mm=40.0)), "shorter").load is not None


@pytest.mark.parametrize(
    ("hz", "times"), [(840.0, 2), (848.0, 2), (849.0, None), (1260.0, 3), (420.0, None), (500.0, None)]
)
def test_a_whole_multiple_of_the_bars_tone_is_the_bar_again(hz: float, times: int | None) -> None:
    assert overtone_of(hz, [420.0]) == times
    assert overtone_of(hz, []) is None
