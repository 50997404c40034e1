"""What a recorded job means: by closed forms, by hand, and by a second look at the same job."""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta
from math import pi

import pytest

from gyrocore import line_response, pilot_guidance
from gyroplan.assess import (
    Assessment,
    alike,
    assess,
    bar_in_line,
    choice_of,
    enters,
    in_line,
    job_word,
    minutes_of,
    packing_of,
    rows_of,
    shown_digest,
    signed_verdict,
    steps_of,
    summary_of,
    truing_of,
    ways_of,
)
from gyroplan.loop import BoreLog, Cut, Set, Size
from gyroplan.record import (
    BarRecord,
    BetweenRecord,
    CutLogRecord,
    FixtureRecord,
    MachineRecord,
    record_from_json,
    record_to_json,
)
from tests.plan import shop

E_STEEL = 205_000


def test_a_record_is_the_same_after_json() -> None:
    record = shop.job(sizes=shop.sizes(72.012), rounds=(shop.swept([0.0, 0.004, 0.008, 0.004]),), quantity=3)
    assert record_from_json(record_to_json(record)) == record
    line = shop.in_line(0, 620, 1200, setup={"coaxiality_mm": 0.05})
    assert record_from_json(record_to_json(line)) == line


def test_a_whole_standing_of_a_job_that_is_only_planned() -> None:
    standing = assess(shop.job(), 1, 1, shop.TODAY)
    passes, bar, speeds = standing.boring.passes, standing.boring.bar, standing.boring.speeds
    assert passes.plan.value is not None
    assert passes.plan.value.bored_diameter_mm == pytest.approx(72.015)
    assert bar.out_mm == 140 + 5 + 20
    assert bar.stiffness_n_mm == pytest.approx(3 * E_STEEL * pi * 40**4 / 64 / 165**3)
    assert bar.verdict is not None
    assert speeds.minutes == pytest.approx(sum(145 / (row.feed_mm_rev * (row.rpm or 1)) for row in speeds.planned))
    assert standing.check.word == "incomplete"
    assert [gap.code for gap in standing.check.missing][:2] == ["depth_near", "depth_between"]
    assert steps_of(shop.assessed(shop.job())).following.code == "begin_truing"


# ---------------------------------------------------------------- found, refused, missing


def test_each_figure_says_why_there_is_none() -> None:
    bare = shop.assessed(shop.job(shop.bore(found_mm=()), plan={"bar": None, "cutter": None})).at(1, 1).boring
    assert bare.passes.plan.missing == "bore-found"
    assert (bare.passes.force.missing, bare.speeds.rough.missing) == ("cutter", "cutter")
    assert (bare.bar.overhung.missing, bare.bar.stands_out.missing) == ("bar", "bar")
    refused = shop.assessed(shop.job(setup={"room_behind_mm": 2.0})).at(1, 1).boring
    assert refused.bar.reach.refused is not None
    assert refused.bar.reach.refused.field == "overrun_mm"
    slow = shop.assessed(shop.job(plan={"max_rpm": 10.0})).at(1, 1).boring.speeds.rough
    assert slow.value is None
    assert slow.refused is not None
    open_ended = replace(shop.LATHE, unbalanced_max_rpm=None, power_kw=None)
    uncapped = shop.assessed(shop.job(setup={"machine": open_ended})).at(1, 1).boring.speeds
    assert (uncapped.rough.missing, uncapped.power.missing) == ("cap", "drive")


# ---------------------------------------------------------------- bars


def test_a_bar_needs_room_for_chips_on_both_sides() -> None:
    at = shop.assessed(shop.job(plan={"chip_clearance_mm": 14.0})).at(1, 1).boring.passes.at
    assert enters(at, shop.BAR), "40 and twice 14 are 68, under 68.40"
    assert not enters(at, replace(shop.BAR, diameter_mm=41.0)), "41 and twice 14 are 69"
    assert not enters(at, replace(shop.BAR, min_bore_mm=70.0))


def test_of_a_stepped_bar_only_what_goes_in_must_be_thin() -> None:
    stepped = replace(shop.BAR, diameter_mm=80.0, steps_mm=((150.0, 40.0), (50.0, 60.0)))
    assert [stepped.thickest_within_mm(depth) for depth in (100, 150, 180, 250)] == [40, 40, 60, 80]
    at = shop.assessed(shop.job()).at(1, 1).boring.passes.at
    assert enters(at, stepped), "145 of it go in"
    assert not enters(at, replace(stepped, steps_mm=((140.0, 40.0),)))


def test_the_finishing_bar_carries_the_finish_passes_only() -> None:
    thin = BarRecord(
        key=8, name="Bar 8", kind="steel", method="lathe-bar", diameter_mm=25, length_mm=300, min_bore_mm=30
    )
    boring = shop.assessed(shop.job(plan={"opening_bar": thin})).at(1, 1).boring
    assert {load.kind for load in boring.passes.carried} == {"finish"}
    assert {load.kind for load in boring.passes.rough_loads} == {"rough", "test"}
    roughed = max(cut.diameter_mm for cut in boring.passes.every if cut.kind in ("rough", "test"))
    assert boring.bar.entry_mm == pytest.approx(roughed)
    assert boring.bar.opening is not None
    stiffness = 3 * E_STEEL * pi * 25**4 / 64 / 165**3
    assert boring.bar.opening.spring_mm == pytest.approx(abs(boring.bar.opening.force.radial_n) / stiffness)
    assert boring.passes.heaviest is not None
    assert boring.passes.heaviest.depth_mm == pytest.approx(
        max(c.depth_mm for c in boring.passes.every if c.kind == "finish")
    )


def test_the_crib_is_ranked_with_one_verdict_a_bar() -> None:
    crib = [shop.BAR, replace(shop.BAR, key=3, name="short", length_mm=200.0),
            replace(shop.BAR, key=4, name="thin", diameter_mm=16.0, min_bore_mm=20.0),
            replace(shop.BAR, key=5, name="other", method="head")]  # fmt: skip
    boring = shop.assessed(shop.job()).at(1, 1).boring
    choice = choice_of(boring.passes, boring.bar, crib).value
    assert choice is not None
    rows = {row.bar.name: row for row in rows_of(boring.passes, boring.bar, choice, crib)}
    assert set(rows) == {"Bar 7", "short", "thin"}, "bars of another method are not offered"
    assert rows["short"].state == "out"
    assert rows["Bar 7"].verdict == boring.bar.verdict
    assert rows["thin"].state == "stop"


def test_a_head_bar_is_ranked_at_its_own_reach() -> None:
    stepped = replace(shop.BAR, method="head", length_mm=200.0, grip_mm=50.0, steps_mm=((40.0, 20.0),))
    assert stepped.candidate_at(60.0, 60.0).diameter_mm == pytest.approx(stepped.stands_out(150.0).equal_diameter_mm)


# ---------------------------------------------------------------- passes, sizes, first cut


def logged(*entries: object, number: int = 1) -> tuple[CutLogRecord, ...]:
    return (CutLogRecord(bore=1, piece=number, log=BoreLog(entries=tuple(entries), gauges=(shop.GAUGE,))),)  # type: ignore[arg-type]


def test_over_counts_from_what_boring_may_reach_with_the_hone_taken_off() -> None:
    record = shop.job(plan={"hone_allowance_mm": 0.02}, cuts=logged(
        Set(number=1), Cut(number=1), Size(gauge="Bore gauge", readings_mm=[72.05])
    ))  # fmt: skip
    passes = shop.assessed(record).at(1, 1).boring.passes
    assert passes.state is not None
    assert passes.state.phase == "over"
    assert passes.over_mm == pytest.approx(72.05 - (72.03 - 0.02))


def test_the_first_cut_meets_the_hole_off_centre_by_half_the_limit_before_it_is_trued() -> None:
    found = shop.assessed(shop.job()).at(1, 1).boring.speeds.first_cut.value
    first = shop.assessed(shop.job()).at(1, 1).boring.passes.every[0].diameter_mm
    assert found is not None
    assert found.largest_mm == pytest.approx((first - 68.4) / 2 + 0.01)
    assert found.smallest_mm == pytest.approx((first - 68.42) / 2 - 0.01)
    round_ = shop.swept([0.003, 0.0, -0.003, 0.0], purpose="true", place=None)
    trued = shop.assessed(shop.job(rounds=(round_,))).at(1, 1).boring
    assert trued.off_centre_mm == pytest.approx(0.003)
    outside = shop.job(rounds=(replace(round_, surface="outside"),), setup={"reference": "outside"})
    assert shop.assessed(outside).at(1, 1).boring.off_centre_mm is None, "the outside says nothing of the old bore"


def test_finishing_waits_for_the_day() -> None:
    def waits(days: int) -> bool:
        plan = {"rest_until": shop.TODAY + timedelta(days=days), "test_first": False, "rough_depth_mm": 2.0}
        measured = Size(gauge="Bore gauge", readings_mm=[71.215])
        record = shop.job(plan=plan, cuts=logged(Set(number=1), Cut(number=1), measured))
        boring = shop.assessed(record).at(1, 1).boring
        assert boring.passes.state is not None
        assert boring.passes.state.hand is not None
        assert boring.passes.state.hand.kind == "finish"
        return boring.rests_until is not None

    assert (waits(1), waits(0), waits(-1)) == (True, False, False)


# ---------------------------------------------------------------- bars held at both ends


def test_off_the_line_counts_as_a_diameter() -> None:
    record = shop.in_line(0, 620, 1200, setup={"coaxiality_mm": 0.05})
    line = shop.assessed(record).at(1, 1).boring.bar.line.value
    assert line is not None
    from_core = line_response(bar=bar_in_line(record.setup.plan.bar), bores=[b.in_line for b in record.setup.bores],
                              bearings_mm=record.setup.plan.bearings_mm, radial_n=1)  # fmt: skip
    assert line.off_line_mm == pytest.approx(2 * max(abs(row.off_line_mm) for row in from_core.rows))


def test_play_in_the_guides_comes_on_top() -> None:
    plain = shop.in_line(100, 620, bearings_mm=(0.0, 900.0))
    pilot = replace(plain, setup=replace(plain.setup, method="pilot"))
    pilot = shop.with_plan(pilot, guide_play_mm=0.03, bar=replace(plain.setup.plan.bar, method="line"))  # type: ignore[type-var]
    line = shop.assessed(pilot).at(1, 1).boring.bar.line.value
    bare = shop.assessed(plain).at(1, 1).boring.bar.line.value
    assert line is not None
    assert bare is not None
    play = pilot_guidance(guides_mm=[0, 900], play_mm=0.03, bores=[b.in_line for b in plain.setup.bores]).worst_mm
    assert line.off_line_mm == pytest.approx(bare.off_line_mm + 2 * play)


def test_two_bits_at_once_push_the_bar_further() -> None:
    alone = shop.assessed(shop.in_line(0, 620)).at(1, 1).boring
    both = shop.assessed(shop.in_line(0, 620, bits_apart_mm=620)).at(1, 1).boring
    assert alone.bar.line.value is not None
    assert both.bar.line.value is not None
    one, two = (b.bar.line.value.verdict_at("H1") for b in (alone, both))  # type: ignore[union-attr]
    assert one is not None
    assert two is not None
    order = ("ok", "caution", "stop")
    assert order.index(two.state) >= order.index(one.state)
    assert both.speeds.power.value is not None
    assert alone.speeds.power.value is not None
    assert both.speeds.power.value.share == pytest.approx(2 * alone.speeds.power.value.share)
    times = [shop.assessed(shop.in_line(0, 620)).at(1, place).boring.speeds.minutes or 0 for place in (1, 2)]
    assert minutes_of(shop.assessed(shop.in_line(0, 620)), 1) == pytest.approx(sum(times))
    assert minutes_of(shop.assessed(shop.in_line(0, 620, bits_apart_mm=620)), 1) == pytest.approx(max(times))


def test_two_bits_stop_where_one_would_do() -> None:
    """A bar so thin that one bit deflects just under what is allowed."""
    states = []
    for apart in (None, 620):
        for diameter in (30, 34, 38, 42, 46, 50):
            record = shop.in_line(0, 620, bar_mm=diameter, bits_apart_mm=apart, plan={"budget_mm": 0.02})
            line = shop.assessed(record).at(1, 1).boring.bar.line.value
            states.append(line.verdict.state if line and line.verdict else "")
    alone, both = states[:6], states[6:]
    order = ("ok", "caution", "stop")
    assert all(order.index(two) >= order.index(one) for one, two in zip(alone, both, strict=True))
    assert alone != both, "somewhere the second bit decides"


def test_a_bar_between_centres_is_of_what_it_is_made_of() -> None:
    def stiffness(kind: str) -> float:
        bar = BarRecord(key=2, name="C", kind=kind, method="centres", diameter_mm=38, length_mm=560, min_bore_mm=44)
        record = shop.job(plan={"bar": bar, "overrun_mm": 5.0}, setup={"method": "centres"})
        found = shop.assessed(record).at(1, 1).boring.bar.centres.value
        assert found is not None
        assert found.response is not None
        return found.response.stiffness_n_mm or 0.0

    assert stiffness("carbide") / stiffness("steel") == pytest.approx(550 / 205, rel=0.2)
    assert stiffness("heavy-metal") / stiffness("steel") == pytest.approx(360 / 205, rel=1e-6)


def test_ways_say_what_fits_and_how_stiff() -> None:
    centres = replace(shop.BAR, key=2, name="C", method="centres", diameter_mm=38.0, length_mm=560.0)
    line = replace(shop.BAR, key=3, name="L", kind="line-bar", method="line", diameter_mm=50.0, length_mm=1200.0,
                   min_bore_mm=54.0)  # fmt: skip
    crib = [shop.BAR, centres, line]
    machines = [shop.LATHE, MachineRecord(name="Rig", kind="portable", speeds=shop.LATHE.speeds)]
    found = {fit.way.key: fit for fit in ways_of(shop.assessed(shop.job()).at(1, 1).boring.passes, machines, crib)}
    assert (found["lathe-bar"].reason, found["lathe-bar"].fitting) == ("", 1)
    assert found["lathe-bar"].stiffness_n_mm == pytest.approx(3 * E_STEEL * pi * 40**4 / 64 / 165**3)
    middle = 48 * E_STEEL * pi * 38**4 / 64 / 560**3
    assert found["centres"].stiffness_n_mm == pytest.approx(middle, rel=1e-6)
    assert found["line"].reason == ""
    short = [replace(bar, length_mm=250.0) for bar in crib]
    again = {fit.way.key: fit for fit in ways_of(shop.assessed(shop.job()).at(1, 1).boring.passes, machines, short)}
    assert (again["line"].reason, again["centres"].reason, again["head"].reason) == ("fit", "fit", "machine")


# ---------------------------------------------------------------- truing and check


def test_each_piece_is_trued_by_its_own_rounds_and_moves() -> None:
    rounds = tuple(replace(shop.swept([0.05, 0.0, -0.05, 0.0], purpose="true", place=None, piece=piece), key=piece)
                   for piece in (1, 2))  # fmt: skip
    moved = BetweenRecord(kind="moved", after_round=1, bore=None, piece=1)
    record = shop.job(rounds=rounds, between=(moved,), quantity=2)
    assert truing_of(record, 1, 1).standing is None, "moved since"
    assert truing_of(record, 2, 1).standing is not None, "the other piece was not touched"


def test_a_round_in_which_something_moved_is_void() -> None:
    half = shop.swept([0.05, 0.0, -0.05, 0.0], purpose="true", place=None)
    half = replace(half, readings=half.readings[:2])
    moved = BetweenRecord(kind="disturbed", after_round=1, bore=None, piece=1)
    found = truing_of(shop.job(rounds=(half,), between=(moved,)), 1, 1)
    assert found.rounds[0].is_void
    assert truing_of(shop.job(rounds=(half,)), 1, 1).open_round is not None


def test_a_line_is_trued_bore_by_bore_to_its_own_limit() -> None:
    record = shop.in_line(0, 620, runouts=[0.05, 0.01])
    assert [truing_of(record, 1, place).limit_mm for place in (1, 2)] == [0.05, 0.01]
    lathe = shop.job(shop.bore(runout_limit_mm=0.05))
    assert truing_of(lathe, 1, 1).limit_mm == 0.05


def test_an_overdue_gauge_proves_nothing_and_one_due_today_does() -> None:
    def word(days: int) -> str:
        due = shop.TODAY + timedelta(days=days)
        record = shop.job(sizes=shop.sizes(72.012, gauge_due_on=due), rounds=(shop.swept([0.0, 0.004, 0.008, 0.004]),))
        return shop.assessed(record).check(1, 1).word

    assert (word(1), word(0), word(-1)) == ("in", "in", "incomplete")


def test_the_line_of_bores_is_judged_as_a_diameter_with_its_uncertainty() -> None:
    rounds = tuple(
        shop.swept([offset, 0.0, -offset, 0.0], place=place, number=place)
        for place, offset in ((1, 0.0), (2, 0.004), (3, 0.0))
    )
    record = shop.in_line(0, 620, 1240, setup={"coaxiality_mm": 0.02}, rounds=rounds)
    found = in_line(shop.assessed(record), 1)
    assert found is not None
    assert found.expanded_mm == pytest.approx(2 * 0.001), "one step of the indicator, as a diameter"
    assert found.value_mm is not None
    assert found.value_mm > 0.004
    missing = in_line(shop.assessed(replace(record, rounds=rounds[:2])), 1)
    assert missing is not None
    assert (missing.word, missing.missing) == ("incomplete", ("H3",))


def test_bores_that_match_are_incomplete_until_all_are_measured() -> None:
    two = shop.job(setup={"match_mm": 0.005}, quantity=3, sizes=(*shop.sizes(72.010), *shop.sizes(72.012, piece=2)))
    found = alike(shop.assessed(two))
    assert found is not None
    assert (found.word, found.value_mm) == ("incomplete", pytest.approx(0.002))
    third = replace(two, sizes=(*two.sizes, *shop.sizes(72.011, piece=3)))
    assert alike(shop.assessed(third)).word == "in"  # type: ignore[union-attr]
    apart = replace(two, sizes=(*two.sizes, *shop.sizes(72.017, piece=3)))
    assert alike(shop.assessed(apart)).word == "over"  # type: ignore[union-attr]


def test_what_is_kept_of_a_piece_says_what_its_logs_say() -> None:
    whole = shop.job(quantity=3, sizes=(*shop.sizes(72.010), *shop.sizes(72.012, piece=2)))
    job = shop.assessed(whole)
    kept = tuple(summary_of(job, piece) for piece in (1, 2))
    thin = shop.assessed(replace(whole, sizes=(), summaries=kept))
    assert (job_word(thin), shown_digest(thin), thin.begun) == (job_word(job), shown_digest(job), [1, 2])
    assert steps_of(thin).following.values["piece"] == 1
    other = shop.assessed(replace(whole, sizes=(*shop.sizes(72.010), *shop.sizes(72.020, piece=2))))
    assert shown_digest(other) != shown_digest(job)
    digest, shown = signed_verdict(job)
    assert digest == shown_digest(job)
    assert len(shown["bores"]) == 2


def test_the_next_action_of_a_closed_job_is_its_reason() -> None:
    assert steps_of(shop.assessed(shop.job(closed_reason="scrap"))).following.values == {"reason": "scrap"}
    signed = shop.job(signed_by="dagny", signed_word="in")
    assert steps_of(shop.assessed(signed)).following.values == {"who": "dagny"}


def test_packing_is_for_work_on_a_table() -> None:
    plate = FixtureRecord(name="Plate", kind="packing", height_mm=40.0)
    borer = replace(shop.LATHE, kind="borer", axis_height_mm=320.0)
    at = Assessment(record=shop.in_line(0, 620, setup={"machine": borer, "fixtures": (plate,)}), today=shop.TODAY)
    found = packing_of(at.at(1, 1).boring.passes.at)
    assert found is not None
    assert (found.foot_mm, found.needed_mm) == (280, None)
    record = shop.with_plan(at.record, foot_mm=262.5)
    forward = packing_of(shop.assessed(record).at(1, 1).boring.passes.at)
    assert forward is not None
    assert (forward.needed_mm, forward.lacking_mm) == (57.5, 17.5)
    chuck = shop.job(setup={"machine": replace(shop.LATHE, axis_height_mm=160.0), "fixtures": (plate,)})
    assert packing_of(shop.assessed(chuck).at(1, 1).boring.passes.at) is None
