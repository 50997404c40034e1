"""Sends readings in batches, each under its own id, and keeps them until the server has them."""

from __future__ import annotations

import json
import time
from collections import deque
from dataclasses import dataclass, field
from datetime import UTC, datetime
from threading import Condition, Thread
from uuid import uuid4

import urllib3

#: Readings of one request (the server takes as many).
MOST_IN_BATCH = 500
#: What comes within this time goes together [s].
GATHER_S = 0.08
#: The first and the longest wait after a request in vain, and the limit of one request [s].
_FIRST_WAIT_S, _LONGEST_WAIT_S, _LIMIT_S = 0.2, 5.0, 5.0
#: Kept while the server is away: live values beyond this are dropped, the oldest first; what was pressed never is.
MOST_KEPT = 20_000


@dataclass(slots=True)
class Kept:
    """A reading until it is stored."""

    id: str
    value_mm: float
    pressed: bool
    at: str


class NotTaken(Exception):
    """The server refuses for good: the token is unknown or ended, or the protocol is not spoken."""


@dataclass
class Sender:
    """Takes readings in from any thread; a thread of its own posts them in order, again until they are stored."""

    url: str
    token: str
    session: str = field(default_factory=lambda: uuid4().hex[:12])
    stored: int = 0
    known: int = 0
    refused: str = ""
    _kept: deque[Kept] = field(default_factory=deque)
    _count: int = 0
    _ending: bool = False

    def __post_init__(self) -> None:
        self._changed = Condition()
        self._http = urllib3.PoolManager(retries=False, timeout=_LIMIT_S, maxsize=1)
        self._thread = Thread(target=self._run, daemon=True)
        self._thread.start()

    def take(self, value_mm: float, *, pressed: bool = False) -> None:
        """Put a reading on its way; it waits for nothing."""
        with self._changed:
            self._count += 1
            at = datetime.now(UTC).isoformat(timespec="milliseconds")
            self._kept.append(Kept(f"{self.session}-{self._count}", value_mm, pressed, at))
            if len(self._kept) > MOST_KEPT:
                self._drop_oldest()
            self._changed.notify()

    def finish(self, within_s: float = 10.0) -> int:
        """Send what is left, then end; how many were not stored in that time."""
        end = time.monotonic() + within_s
        with self._changed:
            while self._kept and not self.refused and time.monotonic() < end:
                self._changed.wait(0.05)
            self._ending = True
            self._changed.notify()
            return len(self._kept)

    def _drop_oldest(self) -> None:
        for one in self._kept:
            if not one.pressed:
                self._kept.remove(one)
                return

    def _run(self) -> None:
        wait = _FIRST_WAIT_S
        while True:
            with self._changed:
                while not self._kept and not self._ending:
                    self._changed.wait()
                if self._ending and not self._kept:
                    return
            time.sleep(GATHER_S)
            with self._changed:
                batch = list(self._kept)[:MOST_IN_BATCH]
            try:
                self._post(batch)
                wait = _FIRST_WAIT_S
            except NotTaken as refused:
                self.refused = str(refused)
                return
            except (urllib3.exceptions.HTTPError, OSError):
                if self._ending:
                    return
                time.sleep(wait)
                wait = min(_LONGEST_WAIT_S, 2 * wait)

    def _post(self, batch: list[Kept]) -> None:
        """Send a batch; it is taken out only when the server has answered that it is stored."""
        rows = [{"id": one.id, "value": f"{one.value_mm:.6f}", "press": one.pressed, "at": one.at} for one in batch]
        body = json.dumps({"unit": "mm", "readings": rows}).encode()
        answer = self._http.request(
            "POST", f"{self.url.rstrip('/')}/link/readings/", body=body,
            headers={"Authorization": f"Bearer {self.token}", "Content-Type": "application/json"}, redirect=False,
        )  # fmt: skip
        if answer.status in (400, 401, 403, 404, 409, 413, 415):
            raise NotTaken(_why(answer))
        if answer.status != 200:
            raise urllib3.exceptions.HTTPError(answer.status)
        told = answer.json()
        with self._changed:
            self.stored += told["stored"]
            self.known += told["known"]
            done = {one.id for one in batch}
            self._kept = deque(one for one in self._kept if one.id not in done)
            self._changed.notify()


def _why(answer: urllib3.BaseHTTPResponse) -> str:
    try:
        return str(answer.json()["why"])
    except (ValueError, KeyError, TypeError):
        return f"the server answered {answer.status}"
