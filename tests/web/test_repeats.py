"""How well a person repeats with a gauge: learned from places read twice, and counted in the next reading."""

from __future__ import annotations

import uuid
from datetime import timedelta
from decimal import Decimal
from math import sqrt
from statistics import stdev

import pytest
from django.db import connection
from django.test import Client
from hypothesis import given
from hypothesis import strategies as st

from gyrometra.accounts.models import User
from gyrometra.crib.models import Gauge
from gyrometra.inspection.models import SizeReading
from gyrometra.inspection.repeats import learned
from gyrometra.inspection.services import log_size
from gyrometra.jobs.entries import Sent
from gyrometra.jobs.models import Bore, SetUp
from gyroplan.gauges import LEAST_REPEATS, repeats_of
from tests.web.said import flat

GAUGE = "Bore gauge 50-100"


def test_a_place_read_once_says_nothing() -> None:
    assert repeats_of([]) is None
    assert repeats_of([[72.0], [72.01]]) is None


@given(st.lists(st.floats(71, 73), min_size=2, max_size=9))
def test_one_place_is_its_standard_deviation(readings: list[float]) -> None:
    found = repeats_of([readings])
    assert found is not None
    assert found.sd_mm == pytest.approx(stdev(readings), abs=1e-12)
    assert found.count == len(readings) - 1


@given(st.floats(-1, 1), st.floats(0, 0.01))
def test_the_size_of_a_place_does_not_count(shift: float, apart: float) -> None:
    """Pairs apart by d pool to d / sqrt(2), wherever their place lies."""
    found = repeats_of([[72, 72 + apart], [72 + shift, 72 + shift + apart]])
    assert found is not None
    assert found.sd_mm == pytest.approx(apart / sqrt(2), abs=1e-9)


def read(by: str, number: str, z: float, value: float) -> SizeReading:
    """One size logged by a person in some job's first bore."""
    bore = Bore.objects.filter(setup__job__number=number).order_by("place")[0]
    return log_size(
        sent=Sent(user=User.objects.get(username=by), client_id=uuid.uuid4(), source="typed", text=""), bore=bore,
        gauge=Gauge.objects.get(name=GAUGE), z_mm=Decimal(str(z)), angle_deg=Decimal(0),
        value_mm=Decimal(f"{value:.3f}"), part_temp_c=Decimal(20), gauge_temp_c=Decimal(20), temp_u_c=Decimal(0),
    )  # fmt: skip


def pairs(by: str, count: int, apart: float) -> None:
    for n in range(count):
        read(by, "Q-214", 10 + 10 * n, 72.010)
        read(by, "Q-214", 10 + 10 * n, 72.010 + apart)


@pytest.mark.django_db
def test_what_was_learned_counts_in_the_next_job(corin: Client, dagny: Client) -> None:
    gauge = Gauge.objects.get(name=GAUGE)
    Gauge.objects.filter(pk=gauge.pk).update(single_sd_mm="0.001", repeats_mm={})
    pairs("corin", LEAST_REPEATS - 1, 0.004)
    assert read("corin", "Q-207", 10, 72.0).rests_on["single_sd_mm"] == 0.001, "too few to be believed"
    read("corin", "Q-214", 130, 72.010)
    same = read("corin", "Q-214", 130, 72.014)
    assert same.rests_on["single_sd_mm"] == 0.001, "one figure for all readings of a set-up"
    own = read("corin", "Q-207", 20, 72.0)
    assert own.rests_on["single_sd_mm"] == pytest.approx(0.0028), "0.004 / sqrt 2"
    assert f"You repeat to 0.0028 with it ({LEAST_REPEATS} repeats)" in flat(corin.get("/jobs/Q-207/check/"))
    assert "You repeat" not in flat(corin.get("/jobs/Q-214/check/"))
    assert read("dagny", "Q-207", 30, 72.0).rests_on["single_sd_mm"] == 0.001, "another person's hands"
    assert "You repeat" not in flat(dagny.get("/jobs/Q-207/check/"))
    Gauge.objects.filter(pk=gauge.pk).update(repeats_mm={"corin": 0.0005})
    told = read("corin", "Q-207", 40, 72.0)
    assert told.rests_on["single_sd_mm"] == 0.0005, "what the shop says of him stands"


@pytest.mark.django_db
def test_read_again_after_a_long_break_is_no_repeat(corin: Client) -> None:
    pairs("corin", LEAST_REPEATS, 0.004)
    gauge, elsewhere = Gauge.objects.get(name=GAUGE), SetUp.objects.filter(job__number="Q-207")[0]
    assert learned(gauge, "corin", elsewhere) is not None
    with connection.cursor() as cursor:
        cursor.execute("SET session_replication_role = replica")
        cursor.execute("UPDATE inspection_sizereading SET at = at + %s WHERE value_mm = 72.014", [timedelta(hours=1)])
        cursor.execute("SET session_replication_role = DEFAULT")
    assert learned(gauge, "corin", elsewhere) is None, "it may have been cut in between"


@pytest.mark.django_db
def test_fine_enough_is_said_before_anything_is_cut(corin: Client) -> None:
    said = flat(corin.get("/jobs/Q-214/work/"))
    assert f"One reading of {GAUGE} is known to ± 0.004, the limits are 0.030 apart: fine enough." in said
    Gauge.objects.filter(name=GAUGE).update(error_limit_mm="0.02")
    assert "too coarse." in flat(corin.get("/jobs/Q-214/work/"))
