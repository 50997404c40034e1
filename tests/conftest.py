"""Properties are judged by what holds, not by the clock of a busy machine."""

import os

import pytest
from django.db import OperationalError
from django.db.backends.postgresql.operations import DatabaseOperations
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


@pytest.fixture(scope="session", autouse=True)
def emptied_between_tests() -> None:
    """Tests of the real server empty every table between them, logs too: only the superuser of a test database can.

    A page that was closed may still have a request at the server, which reads tables in another order than they are
    emptied in: the database ends one of the two, and the emptying is tried again.
    """
    lines_of, run = DatabaseOperations.sql_flush, DatabaseOperations.execute_sql_flush

    def past_the_triggers(self: DatabaseOperations, *args: object, **kwargs: object) -> list[str]:
        lines = lines_of(self, *args, **kwargs)  # type: ignore[arg-type]
        return ["SET session_replication_role = replica;", *lines, "SET session_replication_role = origin;"]

    def until_it_is_empty(self: DatabaseOperations, sql_list: list[str]) -> None:
        for _ in range(4):
            try:
                return run(self, sql_list)
            except OperationalError as error:
                if "deadlock" not in str(error):
                    raise
        return run(self, sql_list)

    DatabaseOperations.sql_flush = past_the_triggers  # type: ignore[method-assign]
    DatabaseOperations.execute_sql_flush = until_it_is_empty  # type: ignore[method-assign,assignment]
