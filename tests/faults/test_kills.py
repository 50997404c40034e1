"""What is acknowledged is stored, once, whatever dies meanwhile; what the log contradicts is not signed."""

from __future__ import annotations

import time
from concurrent.futures import ThreadPoolExecutor
from random import Random
from threading import Event
from typing import Any

import pytest
from django.db import connection

from gyrometra.bridge.units import Units
from gyrometra.crib.models import Gauge
from gyrometra.inspection.models import SizeReading
from gyrometra.jobs.models import SignOff
from gyrometra.samples.load import load_shop
from gyrometra.steps.page import open_page
from gyroplan.assess import job_word, shown_digest
from tests.faults.served import Person, Served, serving

SIZE = "/jobs/Q-214/size/"


@pytest.fixture
def long(request: pytest.FixtureRequest) -> bool:
    return bool(request.config.getoption("--long"))


@pytest.fixture
def shop(transactional_db: None) -> None:
    load_shop()


def size_fields(number: int) -> dict[str, Any]:
    gauge = Gauge.objects.measuring(72)[0]
    return {"value": f"{71.7 + 0.0001 * number:.4f}", "gauge": gauge.pk, "z": "20", "angle_deg": "0", "source": "typed"}


def test_kills_while_logging(shop: None, long: bool) -> None:
    """Processes and connections die, people log on: each acknowledged entry is in the log once, and nothing else."""
    kills, random, over = 100 if long else 6, Random(1), Event()
    before = SizeReading.objects.count()
    with serving() as served:
        people = [Person(served.port, name) for name in ("dagny", "corin", "dagny", "corin")]
        for person in people:
            person.look("Q-214")
        until = time.monotonic() + 600
        sent: dict[str, str] = {}
        fields = [size_fields(number) for number in range(4 * 2000)]

        def log(place: int) -> None:
            number = place
            while not over.is_set() and number < len(fields):
                sent[fields[number]["value"]] = people[place].keeps_sending(SIZE, fields[number], until)
                number += 4

        with ThreadPoolExecutor(4) as pool:
            working = [pool.submit(log, place) for place in range(4)]
            for number in range(kills):
                acknowledged = len(sent)
                while len(sent) == acknowledged and time.monotonic() < until:
                    time.sleep(0.02)
                time.sleep(random.uniform(0.0, 0.2))
                if number % 3 == 2:
                    served.drop_connections()
                else:
                    served.kill_a_worker(number)
            time.sleep(1)
            over.set()
            for one in working:
                one.result()
    stored = [row.text for row in SizeReading.objects.order_by("pk")][before:]
    assert set(sent.values()) == {"stored"}
    assert len(sent) >= kills
    assert sorted(stored) == sorted(sent), "each once, and nothing else"


def test_a_signature_never_contradicts_the_log(shop: None, long: bool) -> None:
    """The lead presses "sign" while another logs a size that is over: never a verdict the log contradicts."""
    races, contradicted, signed = 50 if long else 6, 0, 0
    for _ in range(races):
        with connection.cursor() as cursor:
            cursor.execute("SET session_replication_role = replica; TRUNCATE jobs_signoff, inspection_sizereading,"
                           " jobs_jobchange; SET session_replication_role = origin")  # fmt: skip
        signed += _race()
        contradicted += _contradicts()
    assert contradicted == 0, f"{contradicted} of {signed} signatures contradict the log"


_SERVED: list[Served] = []


@pytest.fixture(autouse=True)
def one_server(request: pytest.FixtureRequest) -> Any:
    if "signature" not in request.node.name:
        yield
        return
    request.getfixturevalue("shop")
    with serving() as served:
        _SERVED[:] = [served]
        yield


def _race() -> bool:
    port = _SERVED[0].port
    lead, other = Person(port, "dagny"), Person(port, "corin")
    for z in ("20", "70", "120"):
        for angle in ("0", "90"):
            lead.look("Q-214")
            found = lead.keeps_sending(SIZE, {**size_fields(0), "value": "72.012", "z": z, "angle_deg": angle},
                                       time.monotonic() + 20)  # fmt: skip
            assert found == "stored"
    other.look("Q-214")
    page = open_page("Q-214", Units(), whole=True)
    digest, word = shown_digest(page.assessment), job_word(page.assessment)
    reason = {} if word == "in" else {"reason": "tried"}
    over = {**size_fields(0), "value": "72.060", "z": "20", "angle_deg": "90"}
    with ThreadPoolExecutor(2) as pool:
        logs = pool.submit(other.keeps_sending, SIZE, over, time.monotonic() + 20)
        signs = pool.submit(lead.post, "/jobs/Q-214/sign/", {"digest": digest, **reason})
        logs.result()
        signs.result()
    return SignOff.objects.filter(job__number="Q-214").exists()


def _contradicts() -> bool:
    signoff = SignOff.objects.filter(job__number="Q-214").first()
    if signoff is None:
        return False
    later = SizeReading.objects.filter(setup__job__number="Q-214", at__gt=signoff.at).exists()
    judged = sum(len(bore["places"]) for bore in signoff.verdict["bores"])
    logged = SizeReading.objects.filter(setup__job__number="Q-214", value_mm__gt=72.05).exists()
    return later or (logged and signoff.verdict["word"] == "in") or judged < 6
