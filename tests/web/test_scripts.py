"""The two commands say one clear sentence when they cannot go on."""

import os
import socket
import subprocess
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[2]
SCRIPTS = ["start", "check", ".ci/run", "scripts/lib.sh", "scripts/refresh-screenshots", "scripts/refresh-vendor",
           "benchmarks/run",
           "backup", "restore", "scripts/store.sh", "deploy/prepare"]  # fmt: skip


def start(*arguments: str, **environment: str) -> subprocess.CompletedProcess[str]:
    return subprocess.run(  # noqa: S603
        ["bash", str(ROOT / "start"), *arguments], env={**os.environ, **environment}, capture_output=True, text=True,  # noqa: S607
        check=False, timeout=60,
    )  # fmt: skip


def test_an_unknown_option() -> None:
    found = start("--fast")
    assert (found.returncode, found.stderr.count("\n")) == (1, 1)
    assert "unknown option --fast" in found.stderr


def test_the_demo_is_made_anew_only_when_told_so() -> None:
    found = subprocess.run(  # noqa: S603
        ["bash", str(ROOT / "start"), "--fresh"], input="no\n", capture_output=True, text=True, check=False,  # noqa: S607
        timeout=60, env={name: value for name, value in os.environ.items() if name != "DATABASE_URL"},
    )  # fmt: skip
    assert "will be lost" in found.stdout
    assert (found.returncode, "nothing was changed" in found.stderr) == (1, True)
    assert "drops only the demo's own database" in start("--fresh", DATABASE_URL="postgres://x@127.0.0.1/x").stderr
    assert "--empty has none" in start("--fresh", "--empty").stderr


def test_a_port_that_is_no_number() -> None:
    assert "PORT must be a number" in start(PORT="http").stderr


def test_a_port_in_use() -> None:
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        port = taken.getsockname()[1]
        assert f"port {port} cannot be taken: process" in start(PORT=str(port)).stderr


@pytest.mark.parametrize("name", SCRIPTS)
def test_scripts_are_sound_bash(name: str) -> None:
    found = subprocess.run(["bash", "-n", str(ROOT / name)], capture_output=True, text=True, check=False)  # noqa: S603, S607
    assert found.returncode == 0, found.stderr


def test_no_registry_is_named() -> None:
    for path in [*ROOT.glob("requirements*.txt"), ROOT / "constraints.txt", ROOT / "package.json"]:
        assert "://" not in path.read_text(), path
