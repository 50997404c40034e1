"""The disk of the database fills up while people log: said, nothing acknowledged lost, and on it goes with room."""

from __future__ import annotations

import html
import os
import re
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import suppress
from dataclasses import dataclass, field
from pathlib import Path
from threading import Event
from urllib.parse import unquote

import psycopg
import pytest

from tests.faults.served import ROOT, Person, serving

SIZE_MB = 320
#: A database of ./start on the small disk, watched as ./start watches it.
CLUSTER = """
cd "$1" && . "$2/scripts/lib.sh" && PG_LOW_MB=0
start_cluster cluster && need_database gyrometra_full && need_app_role
trap 'stop_cluster; exit' TERM
echo "$(database_url gyrometra_full) $(app_database_url gyrometra_full) $PG_DATA"
sleep 600 & watch_both $!
"""


@dataclass
class Disk:
    """A small disk with a database on it."""

    owner: str
    application: str
    data: Path
    said: Path

    @property
    def filler(self) -> Path:
        """What takes the room."""
        return self.data.parent / "filler"

    def fill(self) -> None:
        """Leave no byte."""
        with suppress(OSError), self.filler.open("ab", buffering=0) as file:
            while True:
                file.write(b"x" * 4096)

    def make_room(self) -> None:
        """Take it away again."""
        self.filler.unlink()

    def fill_the_journal(self) -> None:
        """The database begins a new file of its write-ahead log, and has no room for it."""
        with suppress(psycopg.Error), psycopg.connect(self.owner, autocommit=True) as server:
            for _ in range(12):
                server.execute("SELECT pg_switch_wal()")
                server.execute("CREATE TABLE IF NOT EXISTS more (n int)")
                server.execute("INSERT INTO more SELECT generate_series(1, 20000)")


@pytest.fixture
def disk(tmp_path: Path) -> Iterator[Disk]:
    place = Path(tempfile.mkdtemp(prefix="gyrometra-small-disk-"))
    if subprocess.run(["mount", "-t", "tmpfs", "-o", f"size={SIZE_MB}m", "tmpfs", str(place)], check=False,  # noqa: S603, S607
                      stderr=subprocess.DEVNULL).returncode:  # fmt: skip
        pytest.skip("a small disk can be mounted by root alone")
    place.chmod(0o755)
    said = tmp_path / "said"
    try:
        command = ["bash", "-c", CLUSTER, "-", str(place), str(ROOT)]
        with said.open("w") as out, subprocess.Popen(command, stdout=out) as up:  # noqa: S603
            try:
                wait_until(lambda: "postgres://" in said.read_text(), 60)
                line = next(one for one in said.read_text().splitlines() if one.startswith("postgres://"))
                owner, application, data = line.split()
                yield Disk(owner, application, Path(data), said)
            finally:
                up.terminate()
                up.wait(timeout=30)
    finally:
        subprocess.run(["umount", "-l", str(place)], check=False)  # noqa: S603, S607
        place.rmdir()


def wait_until(true: Callable[[], bool], seconds: float) -> None:
    until = time.monotonic() + seconds
    while not true():
        assert time.monotonic() < until, "waited for nothing"
        time.sleep(0.1)


def prepare(disk: Disk) -> None:
    """Tables, grants, the demo shop."""
    settings = {"DATABASE_URL": disk.owner, "DJANGO_SETTINGS_MODULE": "gyrometra.settings.local", "SECRET_KEY": "t",
                "ALLOWED_HOSTS": "127.0.0.1", "DEMO": "yes"}  # fmt: skip
    command = [sys.executable, "-m", "django", "prepare", "--for", "gyrometra_app", "--base", "http://127.0.0.1/"]
    subprocess.run(command, env={**os.environ, **settings}, check=True, stdout=subprocess.DEVNULL)  # noqa: S603


@dataclass
class Logging:
    """People who log without end, and what came of each entry."""

    port: int
    over: Event = field(default_factory=Event)
    sent: dict[str, str] = field(default_factory=dict)
    people: list[Person] = field(default_factory=list)

    @property
    def told(self) -> set[str]:
        """Why the server took nothing, as it said itself."""
        return {unquote(person.away_why) for person in self.people}

    def one(self, name: str, first: int) -> None:
        """One person at the job: each size until the server names it."""
        person = Person(self.port, name, cookies="none")
        person.sign_in("quillmoor")
        self.people.append(person)
        page = person.ask("GET", "/jobs/Q-214/check/")[2]
        seen = re.search(r'name="seen" value="([^"]+)"', page)
        gauge = re.search(r'id="id_gauge">\s*<option value="(\d+)"', page)
        assert seen is not None
        assert gauge is not None
        person.seen = html.unescape(seen[1])
        number = first
        while not self.over.is_set():
            value = f"{71.7 + 0.0001 * number:.4f}"
            fields = {"value": value, "gauge": gauge[1], "z": "20", "angle_deg": "0", "source": "typed"}
            self.sent[value] = "on its way"
            self.sent[value] = person.keeps_sending("/jobs/Q-214/size/", fields, time.monotonic() + 240)
            number += 2

    def acknowledged(self) -> int:
        """How many are stored."""
        return sum(became == "stored" for became in self.sent.values())


def stored(disk: Disk) -> list[str]:
    with psycopg.connect(disk.owner) as server:
        rows = server.execute("SELECT text FROM inspection_sizereading WHERE text LIKE '7_.____'").fetchall()
    return sorted(text for (text,) in rows)


def test_a_full_disk_loses_nothing(disk: Disk) -> None:
    prepare(disk)
    before = stored(disk)
    with serving(url=disk.application) as served, ThreadPoolExecutor(2) as pool:
        people = Logging(served.port)
        reader = Person(served.port, "dagny", cookies="none")
        reader.sign_in("quillmoor")
        working = [pool.submit(people.one, name, first) for first, name in enumerate(("dagny", "corin"))]
        try:
            wait_until(lambda: people.acknowledged() >= 10, 60)
            disk.fill()
            # no room for a row: said with its reason, and what is there is read as before
            wait_until(lambda: "The server's disk is full" in people.told, 60)
            assert reader.ask("GET", "/jobs/Q-214/check/")[0] == 200
            # no room for the journal: the database itself goes down, and does not come up
            disk.fill_the_journal()
            wait_until(lambda: "is full: nothing is stored until there is room" in disk.said.read_text(), 60)
            while_full = people.acknowledged()
            assert reader.ask("GET", "/jobs/Q-214/check/")[0] == 503
            time.sleep(2)
            assert people.acknowledged() == while_full
            disk.make_room()
            wait_until(lambda: people.acknowledged() >= while_full + 10, 90)
        finally:
            people.over.set()
        for one in working:
            one.result()
    assert set(people.sent.values()) == {"stored"}
    assert stored(disk) == sorted([*before, *people.sent]), "each once, and nothing else"
