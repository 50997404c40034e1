"""Properties are judged by what holds, not by the clock of a busy machine."""

import os

import pytest
from hypothesis import HealthCheck, settings

#: The same cases at every run of the build, new ones at the desk.
settings.register_profile(
    "shop", deadline=None, suppress_health_check=[HealthCheck.too_slow], derandomize="CI" in os.environ
)
settings.load_profile("shop")


def pytest_addoption(parser: pytest.Parser) -> None:
    """`--long` runs the long forms: every sequence, kill and hostile submission; `--seed N` one sequence."""
    parser.addoption("--long", action="store_true", help="the long forms of the fault tests")
    parser.addoption("--seed", type=int, default=None, help="one random sequence alone")
