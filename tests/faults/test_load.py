"""Fifty people at once: every request is answered, in time that a person waits; half requests hold nothing."""

from __future__ import annotations

import socket
import time
from concurrent.futures import ThreadPoolExecutor
from random import Random

import pytest

from gyrometra.samples.load import load_shop
from tests.faults.served import Person, serving
from tests.faults.test_kills import SIZE, size_fields

CLIENTS = 50
PAGES = ["/", "/jobs/Q-214/bore/", "/jobs/Q-214/check/", "/jobs/Q-219/true/", "/jobs/Q-221/bar/", "/crib/"]


def test_fifty_clients(
    transactional_db: None, request: pytest.FixtureRequest, capsys: pytest.CaptureFixture[str]
) -> None:
    seconds = 60 if request.config.getoption("--long") else 5
    load_shop()
    with serving() as served:
        people = [Person(served.port, ("dagny", "corin")[number % 2], patience_s=30) for number in range(CLIENTS)]
        for name in (0, 1):
            people[name].look("Q-214")
        for number, person in enumerate(people):
            person.seen = people[number % 2].seen
        fields = size_fields(0)
        until = time.monotonic() + seconds

        def works(place: int) -> list[tuple[int, float]]:
            random, found = Random(place), []
            while time.monotonic() < until:
                start = time.monotonic()
                if place == 0 and random.random() < 0.2:
                    became = people[place].keeps_sending(SIZE, fields, until + 30)
                    status = 200 if became == "stored" else 500
                else:
                    status = people[place].ask("GET", random.choice(PAGES))[0]
                found.append((status, time.monotonic() - start))
                time.sleep(random.uniform(0.5, 1.5))  # somebody reads it
            return found

        with ThreadPoolExecutor(CLIENTS) as pool:
            answers = [one for found in pool.map(works, range(CLIENTS)) for one in found]
    took = sorted(time_s for _, time_s in answers)
    request.config.get_terminal_writer().line(
        f"\n{len(answers)} answers in {seconds} s, half within {took[len(took) // 2]:.2f} s, "
        f"95 of 100 within {took[int(0.95 * len(took))]:.2f} s, the longest {took[-1]:.2f} s"
    )
    assert {status for status, _ in answers} == {200}
    assert took[-1] < 30


def test_half_requests_hold_nothing(transactional_db: None) -> None:
    load_shop()
    with serving() as served:
        halves = [socket.create_connection(("127.0.0.1", served.port)) for _ in range(60)]
        try:
            for one in halves:
                one.sendall(b"POST /sign-in/ HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 900\r\n\r\nusername=d")
            start = time.monotonic()
            assert Person(served.port, "dagny").ask("GET", "/jobs/Q-214/bore/")[0] == 200
            assert time.monotonic() - start < 5
        finally:
            for one in halves:
                one.close()
