"""The bridge as it is started at the machine: a serial port (a pseudo-terminal), TCP, a server that comes and goes."""

from __future__ import annotations

import json
import os
import pty
import socket
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path
from threading import Thread
from typing import Any

import pytest

from gyrolink.post import MOST_KEPT, Sender
from gyrolink.simulated import made_work

SOURCES = str(Path(__file__).parents[2] / "src")


class Shop(ThreadingHTTPServer):
    """Stands in for the server: stores by id, and answers as it is told to."""

    def __init__(self) -> None:
        self.rows: dict[str, dict[str, Any]] = {}
        self.came = 0
        self.answers: list[int] = []
        super().__init__(("127.0.0.1", 0), Answer)

    @property
    def url(self) -> str:
        return f"http://127.0.0.1:{self.server_port}"


class Answer(BaseHTTPRequestHandler):
    server: Shop

    def do_POST(self) -> None:
        said = json.loads(self.rfile.read(int(self.headers["Content-Length"])))
        self.server.came += 1
        status = self.server.answers.pop(0) if self.server.answers else 200
        fresh = [one for one in said["readings"] if one["id"] not in self.server.rows]
        if status in (200, 599):  # 599: stored, but the answer is lost on the way
            self.server.rows |= {one["id"]: one for one in fresh}
        told = {"stored": len(fresh), "known": len(said["readings"]) - len(fresh), "why": "the token is not known"}
        body = json.dumps(told).encode()
        self.send_response(500 if status == 599 else status)
        self.send_header("Content-Length", str(len(body)))
        self.end_headers()
        self.wfile.write(body)

    def log_message(self, format: str, *args: Any) -> None:
        """Says nothing."""


@pytest.fixture
def shop() -> Iterator[Shop]:
    server = Shop()
    Thread(target=server.serve_forever, daemon=True).start()
    yield server
    server.shutdown()
    server.server_close()


def until(true: Callable[[], bool], seconds: float = 15) -> None:
    end = time.monotonic() + seconds
    while not true():
        assert time.monotonic() < end, "it did not come to that"
        time.sleep(0.02)


def bridge(*words: str) -> subprocess.Popen[str]:
    return subprocess.Popen(  # noqa: S603 - our own command
        [sys.executable, "-m", "gyrolink", *words],
        env={**os.environ, "PYTHONPATH": SOURCES, "GYROMETRA_TOKEN": "t" * 20},
        stdin=subprocess.DEVNULL, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True,
    )  # fmt: skip


def test_a_serial_gauge_and_a_bouncing_foot_switch(shop: Shop) -> None:
    gauge, port = pty.openpty()
    with bridge("serial", os.ttyname(port), "--url", shop.url, "--reverse") as running:
        until(lambda: (os.write(gauge, b"0.010 mm\r\n"), time.sleep(0.2), bool(shop.rows))[-1])
        os.write(gauge, b"12 um\r\nrubbish\r\npress\r\npress\r\n")
        until(lambda: any(one["press"] for one in shop.rows.values()))
        time.sleep(0.3)
        running.kill()
    os.close(gauge)
    os.close(port)
    pressed = [one for one in shop.rows.values() if one["press"]]
    assert [float(one["value"]) for one in pressed] == [-0.012], "one press, at the last reading, its sign turned"


def test_tcp_and_an_answer_that_was_lost(shop: Shop) -> None:
    shop.answers = [503, 599, 500]
    with (
        socket.create_server(("127.0.0.1", 0)) as gauge,
        bridge("tcp", f"127.0.0.1:{gauge.getsockname()[1]}", "--url", shop.url, "--unit", "in") as running,
    ):
        peer, _ = gauge.accept()
        with peer:
            peer.sendall(b"0.0010\n0.0020 press\n")
            until(lambda: len(shop.rows) == 2)
        out, err = running.communicate(timeout=30)
    assert "stored, 0 not" in out, err
    assert shop.came >= 4, "sent again until it was answered"
    assert sorted(float(one["value"]) for one in shop.rows.values()) == pytest.approx([0.0254, 0.0508])


def test_a_refused_token_ends_it_with_its_words(shop: Shop) -> None:
    shop.answers = [401] * 5
    with (
        socket.create_server(("127.0.0.1", 0)) as gauge,
        bridge("tcp", f"127.0.0.1:{gauge.getsockname()[1]}", "--url", shop.url) as running,
    ):
        peer, _ = gauge.accept()
        peer.sendall(b"0.1\n")
        until(lambda: shop.came > 0)
        peer.close()
        _, err = running.communicate(timeout=30)
    assert running.returncode == 1
    assert "the token is not known" in err


def test_what_was_pressed_outlives_a_long_absence() -> None:
    sender = Sender("http://127.0.0.1:9", "t" * 20)
    sender.take(0.5, pressed=True)
    for place in range(MOST_KEPT + 50):
        sender.take(place / 1000)
    kept = list(sender._kept)
    assert len(kept) == MOST_KEPT
    assert kept[0].pressed, "live values are dropped, the oldest first; a press never"
    assert kept[-1].value_mm == (MOST_KEPT + 49) / 1000
    assert len({one.id for one in kept}) == MOST_KEPT


def test_an_unreadable_port_is_said() -> None:
    with bridge("serial", "/dev/no-such-port", "--url", "http://127.0.0.1:9") as running:
        _, err = running.communicate(timeout=30)
    assert running.returncode == 1
    assert "/dev/no-such-port cannot be read" in err


def test_lines_typed_at_once_are_all_obeyed(shop: Shop) -> None:
    """A terminal hands over several lines together: none may wait for the next key."""
    words = [sys.executable, "-m", "gyrolink", "simulate", "--url", shop.url, "--seed", "4", "--token", "t" * 20]
    with subprocess.Popen(  # noqa: S603 - our own command
        words, env={**os.environ, "PYTHONPATH": SOURCES}, stdin=subprocess.PIPE, stdout=subprocess.DEVNULL, text=True
    ) as running:
        assert running.stdin is not None
        running.stdin.write("jaw 1 0.1\njaw 1 0.2\n")
        running.stdin.flush()
        moved = made_work(4).toward("1", 0.3).reading_mm(0.0)
        until(lambda: any(abs(float(one["value"]) - (moved or 0)) < 0.002 for one in shop.rows.values()))
        running.stdin.write("\n")
        running.stdin.close()
        running.wait(timeout=20)
    assert sum(one["press"] for one in shop.rows.values()) == 1
