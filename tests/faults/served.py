"""The real server on loopback, with its own processes, against the database of the tests."""

from __future__ import annotations

import http.client
import os
import signal
import socket
import subprocess
import sys
import time
import uuid
from collections.abc import Iterator
from contextlib import closing, contextmanager, suppress
from dataclasses import dataclass
from http.cookies import SimpleCookie
from pathlib import Path
from typing import Any
from urllib.parse import quote, urlencode

from django.db import connection
from django.test import Client

from gyrometra.accounts.models import User
from gyrometra.bridge.units import Units
from gyrometra.steps.page import open_page
from gyrometra.steps.shared.seen import seen_on

ROOT = Path(__file__).parents[2]
TOKEN = "T" * 32


@dataclass
class Served:
    """A server that is up."""

    port: int
    process: subprocess.Popen[bytes]

    def workers(self) -> list[int]:
        """Its processes, by number."""
        pid = self.process.pid
        return [int(one) for one in Path(f"/proc/{pid}/task/{pid}/children").read_text().split()]

    def kill_a_worker(self, which: int) -> None:
        """One process, without a word."""
        own = self.workers()
        if own:
            os.kill(own[which % len(own)], signal.SIGKILL)

    @staticmethod
    def drop_connections() -> None:
        """Every connection to the database but the test's own."""
        with connection.cursor() as cursor:
            cursor.execute("SELECT pg_terminate_backend(pid) FROM pg_stat_activity"
                           " WHERE datname = current_database() AND pid <> pg_backend_pid()")  # fmt: skip


@contextmanager
def serving(processes: int = 2, url: str = "") -> Iterator[Served]:
    """Start it, on the database of the tests or another, wait until it is ready, stop it."""
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    at = connection.settings_dict
    url = url or f"postgres://{at['USER']}:{quote(str(at['PASSWORD']))}@{at['HOST']}:{at['PORT']}/{at['NAME']}"
    environment = {**os.environ, "DATABASE_URL": url, "DJANGO_SETTINGS_MODULE": "gyrometra.settings.local",
                   "SECRET_KEY": "for-tests-only", "ALLOWED_HOSTS": "127.0.0.1", "DEMO": "yes"}  # fmt: skip
    command = [sys.executable, "-m", "gyrometra.server", "--bind", f"127.0.0.1:{port}", "--processes", str(processes)]
    with subprocess.Popen(command, env=environment, cwd=ROOT, stderr=subprocess.DEVNULL) as process:  # noqa: S603
        served = Served(port, process)
        try:
            _wait(port)
            yield served
        finally:
            process.terminate()
            process.wait(timeout=20)


def _wait(port: int) -> None:
    for _ in range(300):
        with closing(http.client.HTTPConnection("127.0.0.1", port, timeout=2)) as asked, suppress(OSError):
            asked.request("GET", "/readyz")
            answer = asked.getresponse()
            answer.read()
            if answer.status == 200:
                return
        time.sleep(0.1)
    raise TimeoutError("the server did not come up")


@dataclass
class Person:
    """Somebody at a browser: a session, and what is sent with it."""

    port: int
    name: str
    cookies: str = ""
    patience_s: float = 10.0
    seen: str = ""
    #: Why the server took nothing, where it said so once.
    away_why: str = ""

    def __post_init__(self) -> None:
        if not self.cookies:
            self._have_a_session()

    def sign_in(self, password: str) -> None:
        """As at the sign-in page, where the database is not that of the tests."""
        asked = http.client.HTTPConnection("127.0.0.1", self.port, timeout=self.patience_s)
        with closing(asked):
            self.cookies = f"csrftoken={TOKEN}"
            body = urlencode({"username": self.name, "password": password, "csrfmiddlewaretoken": TOKEN})
            asked.request("POST", "/sign-in/", body, {
                "Cookie": self.cookies, "Content-Type": "application/x-www-form-urlencoded"})  # fmt: skip
            given = SimpleCookie()
            for cookie in asked.getresponse().headers.get_all("Set-Cookie") or []:
                given.load(cookie)
        self.cookies = f"sessionid={given['sessionid'].value}; csrftoken={TOKEN}"

    def _have_a_session(self) -> None:
        client = Client()
        client.force_login(User.objects.get(username=self.name))
        # signed by the settings of the tests; the session itself is in the database that both share
        self.cookies = f"sessionid={client.cookies['sessionid'].value}; csrftoken={TOKEN}"

    def look(self, number: str) -> None:
        """Have a job's page before one's eyes."""
        self.seen = seen_on(open_page(number, Units()), self.name)

    def post(self, path: str, fields: dict[str, Any]) -> tuple[int, str, str]:
        """Status, the mark of the entry, and the page; raises OSError where nothing comes back."""
        body = urlencode({"seen": self.seen, **fields}, doseq=True, errors="surrogatepass")
        return self.ask("POST", path, body.encode("utf-8", "surrogatepass"))

    def ask(self, method: str, path: str, body: bytes = b"") -> tuple[int, str, str]:
        """One request."""
        asked = http.client.HTTPConnection("127.0.0.1", self.port, timeout=self.patience_s)
        try:
            asked.request(method, path, body, {
                "Cookie": self.cookies, "X-CSRFToken": TOKEN, "HX-Request": "true",
                "Content-Type": "application/x-www-form-urlencoded",
            })  # fmt: skip
            answer = asked.getresponse()
            self.away_why = answer.getheader("X-Away-Why") or self.away_why
            return answer.status, answer.getheader("X-Entry") or "", answer.read().decode(errors="replace")
        except http.client.HTTPException as broken:
            raise OSError(str(broken)) from broken
        finally:
            asked.close()

    def keeps_sending(self, path: str, fields: dict[str, Any], until: float) -> str:
        """As the page does: the same entry until the server names it; what became of it, or nothing."""
        entry = str(uuid.uuid4())
        while time.monotonic() < until:
            try:
                _, mark, _ = self.post(path, {"client_id": entry, **fields})
            except OSError:
                mark = ""
            if mark.startswith(entry):
                return mark.split()[1]
            time.sleep(0.05)
        return ""
