"""What was measured before a weld or heat counts no more; what was measured after it decides alone."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

import pytest

from gyroplan.assess import Checked
from gyroplan.record import BetweenRecord, JobRecord, PlugRecord
from tests.plan.shop import GAUGE, assessed, job, sizes

NOON = datetime(2026, 11, 28, 12, tzinfo=UTC)


def measured(value_mm: float, hours: float) -> tuple:  # type: ignore[type-arg]
    """Every place of the bore, so many hours after noon."""
    return sizes(value_mm, at=NOON + timedelta(hours=hours))


def happened(how: str, hours: float = 0.0, piece: int = 1, *, at: bool = True) -> BetweenRecord:
    return BetweenRecord(kind="disturbed", after_round=0, bore=None, piece=piece, how=how,
                         at=NOON + timedelta(hours=hours) if at else None)  # fmt: skip


def checked(record: JobRecord) -> Checked:
    return assessed(record).check(1, 1)


@pytest.mark.parametrize("how", ["welded", "heated"])
def test_sizes_of_before_count_no_more(how: str) -> None:
    found = checked(job(sizes=measured(72.015, -1), between=(happened(how),)))
    assert (found.word, found.sizes, found.places) == ("incomplete", (), ())
    assert found.missing[0].code == f"before_{how}"
    assert len(found.pulled) == found.missing[0].count > 0


def test_what_was_measured_after_it_decides_alone() -> None:
    cold = checked(job(sizes=measured(72.015, 0)))
    found = checked(job(sizes=(*measured(72.200, -1), *measured(72.015, 1)), between=(happened("welded"),)))
    assert [place.value_mm for place in found.places] == [place.value_mm for place in cold.places]
    assert found.word == cold.word
    assert found.missing == cold.missing, "nothing more is asked for what was read before"


@pytest.mark.parametrize("how", ["knocked", "tightened", "clamped", "turned", "tacked"])
def test_what_only_moves_the_work_leaves_its_sizes(how: str) -> None:
    assert checked(job(sizes=measured(72.015, -1), between=(happened(how),))).pulled == ()


def test_of_another_piece_or_at_a_time_that_nobody_knows_nothing_is_struck() -> None:
    assert checked(job(sizes=measured(72.015, -1), between=(happened("welded", piece=2),))).pulled == ()
    assert checked(job(sizes=measured(72.015, -1), between=(happened("welded", at=False),))).pulled == ()
    assert checked(job(sizes=sizes(72.015), between=(happened("welded"),))).pulled == (), "an older make has no times"


def test_plugs_tried_after_it_decide_without_a_word_of_the_sizes_before() -> None:
    plugs = tuple(
        PlugRecord(
            key=n, bore=1, piece=1, side=side, goes=goes, size_mm=size, gauge=GAUGE, at=NOON + timedelta(hours=1)
        )
        for n, (side, goes, size) in enumerate((("go", True, 72.0), ("no-go", False, 72.03)))
    )  # fmt: skip
    found = checked(job(sizes=measured(72.2, -1), plugs=plugs, between=(happened("welded"),)))
    assert found.by_plugs
    assert not [gap for gap in found.missing if gap.code.startswith("before_")]
    gone = checked(job(plugs=plugs, between=(happened("heated", 2),)))
    assert not gone.by_plugs, "tried while it was hot"
