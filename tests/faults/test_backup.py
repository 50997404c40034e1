"""A backup is whole or not there; what is restored is what was saved, in every table."""

from __future__ import annotations

import os
import subprocess
from collections.abc import Iterator
from pathlib import Path
from urllib.parse import quote

import psycopg
import pytest
from django.db import connection

from gyrometra.samples.load import load_shop

ROOT = Path(__file__).parents[2]
NAME = "gyrometra_tried_restore"


def url(name: str) -> str:
    at = connection.settings_dict
    return f"postgres://{at['USER']}:{quote(str(at['PASSWORD']))}@{at['HOST']}:{at['PORT']}/{name}"


def run(script: str, *arguments: str, name: str = "", **environment: str) -> subprocess.CompletedProcess[str]:
    set_to = {**os.environ, **environment, "DATABASE_URL": url(name or str(connection.settings_dict["NAME"]))}
    return subprocess.run(  # noqa: S603
        ["bash", str(ROOT / script), *arguments], env=set_to, capture_output=True, text=True, check=False, timeout=120  # noqa: S607
    )  # fmt: skip


@pytest.fixture
def away() -> Iterator[None]:
    yield
    with psycopg.connect(url("postgres"), autocommit=True) as server:
        for (name,) in server.execute("SELECT datname FROM pg_database WHERE datname LIKE %s", [f"{NAME}%"]).fetchall():
            server.execute(f'DROP DATABASE "{name}" WITH (FORCE)')


def saved(folder: Path, **environment: str) -> Path:
    found = run("backup", "--to", str(folder), **environment)
    assert found.returncode == 0, found.stderr
    return sorted(folder.glob("*.dump"))[-1]


def test_what_is_restored_is_what_was_saved(transactional_db: None, tmp_path: Path, away: None) -> None:
    load_shop()
    file = saved(tmp_path)
    first = run("restore", str(file), name=NAME)
    assert first.returncode == 0, first.stderr
    assert "all rows compared" in first.stdout
    rows = (tmp_path / f"{file.name}.rows").read_text()
    assert "cutting_cutentry|" in rows
    with psycopg.connect(url(NAME)) as restored:
        jobs = restored.execute("SELECT count(*) FROM jobs_job").fetchone()
        assert jobs is not None
        assert jobs[0] >= 9
        with pytest.raises(psycopg.errors.RaiseException, match="append-only"):
            restored.execute("DELETE FROM jobs_signoff")
        restored.rollback()
        restored.execute("UPDATE jobs_job SET part = 'changed since' WHERE number = 'Q-214'")
    again = run("restore", str(file), name=NAME)
    assert "What was there before is kept as" in again.stdout
    with psycopg.connect(url(NAME)) as restored:
        part = restored.execute("SELECT part FROM jobs_job WHERE number = 'Q-214'").fetchone()
        assert part != ("changed since",)


def test_half_work_is_refused(transactional_db: None, tmp_path: Path, away: None) -> None:
    file = saved(tmp_path)
    content = file.read_bytes()
    for spoiled in (content[: len(content) // 2], content[:600] + b"x" + content[601:], b""):
        file.write_bytes(spoiled)
        refused = run("restore", str(file), name=NAME)
        assert (refused.returncode, "checksum differs" in refused.stderr) == (1, True)
    file.write_bytes(content)
    (tmp_path / f"{file.name}.sha256").unlink()
    assert "has no checksum beside it" in run("restore", str(file), name=NAME).stderr
    with psycopg.connect(url("postgres")) as server:
        assert server.execute("SELECT 1 FROM pg_database WHERE datname LIKE %s", [f"{NAME}%"]).fetchone() is None


def test_a_database_in_use_is_not_switched(transactional_db: None, tmp_path: Path) -> None:
    file = saved(tmp_path)
    with psycopg.connect(url(str(connection.settings_dict["NAME"]))):
        refused = run("restore", str(file))
    assert (refused.returncode, "stop the server first" in refused.stderr) == (1, True)


def test_a_backup_of_nothing_leaves_nothing(transactional_db: None, tmp_path: Path) -> None:
    refused = run("backup", "--to", str(tmp_path), name="there_is_none")
    assert refused.returncode == 1
    assert "there_is_none is not there" in refused.stderr
    assert list(tmp_path.iterdir()) == []


def test_so_many_are_kept(transactional_db: None, tmp_path: Path) -> None:
    for day in (1, 2, 3):
        for end in ("", ".sha256", ".rows"):
            (tmp_path / f"gyrometra-2020010{day}T000000Z.dump{end}").write_text("old")
    saved(tmp_path, KEEP="2")
    assert len(list(tmp_path.glob("*.dump"))) == 2
    assert len(list(tmp_path.iterdir())) == 6
