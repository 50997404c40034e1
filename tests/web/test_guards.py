"""The database guards itself: the application by grants, whoever owns the tables by triggers."""
# ruff: noqa: S608 - statements that an attacker would make

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

import pytest
from django.db import DatabaseError, IntegrityError, connection, transaction

from gyrometra.bridge.grants import LOGS, grant_to
from gyrometra.cutting.models import CutEntry
from gyrometra.jobs.models import Bore, Job, SignOff
from gyrometra.truing.models import Round

SIGNED = "(SELECT job_id FROM jobs_signoff LIMIT 1)"
SIGNED_SETUP = f"(SELECT id FROM jobs_setup WHERE job_id = {SIGNED})"
SIGNED_BORE = f"(SELECT id FROM jobs_bore WHERE setup_id = {SIGNED_SETUP} LIMIT 1)"


@contextmanager
def refused(words: str) -> Iterator[None]:
    with pytest.raises(DatabaseError, match=words), transaction.atomic():
        yield


def run(statement: str) -> None:
    with connection.cursor() as cursor:
        cursor.execute(statement)


@pytest.fixture
def as_app(db: None) -> Iterator[None]:
    """Everything that follows is said by the application's role."""
    run("CREATE ROLE gyrometra_app_tried NOLOGIN")
    grant_to("gyrometra_app_tried")
    run("SET ROLE gyrometra_app_tried")
    yield
    run("RESET ROLE")


@pytest.mark.parametrize("log", LOGS)
@pytest.mark.parametrize(
    "statement",
    ["UPDATE {} SET id = id", "DELETE FROM {}", "TRUNCATE {}", "TRUNCATE {} CASCADE", "DROP TABLE {}",
     "ALTER TABLE {} DISABLE TRIGGER ALL", "ALTER TABLE {} DROP COLUMN id", "DROP TRIGGER append_only ON {}",
     "CREATE TRIGGER mine BEFORE INSERT ON {} FOR EACH ROW EXECUTE FUNCTION refuse_if_signed('')"],
)  # fmt: skip
def test_the_application_may_not(as_app: None, log: str, statement: str) -> None:
    with refused("permission denied|must be owner|append-only: a signature"):
        run(statement.format(log))


@pytest.mark.parametrize(
    "statement",
    ["TRUNCATE jobs_job CASCADE", "DROP TABLE jobs_job", "CREATE TABLE mine (x int)",
     "DELETE FROM django_migrations", "SET session_replication_role = replica", "CREATE ROLE mine",
     "CREATE OR REPLACE FUNCTION refuse_if_signed() RETURNS trigger AS 'BEGIN RETURN NEW; END' LANGUAGE plpgsql",
     "ALTER ROLE gyrometra_app_tried SUPERUSER"],
)  # fmt: skip
def test_nor_anything_of_the_schema(as_app: None, statement: str) -> None:
    with refused("permission denied|must be owner|must be superuser"):
        run(statement)


def test_the_application_reads_adds_and_plans(as_app: None) -> None:
    Job.objects.select_for_update().get(number="Q-214")
    Job.objects.filter(number="Q-214").update(stale=True)
    Bore.objects.filter(setup__job__number="Q-214").update(name="bore")
    row = CutEntry.objects.filter(setup__job__number="Q-214").latest("pk")
    row.pk, row.client_id, row._state.adding = None, "5b6bd8b4-87a4-4b3c-a3b1-5a3f2f6b8b8e", True
    row.save()


@pytest.mark.parametrize("log", LOGS)
@pytest.mark.parametrize("statement", ["UPDATE {} SET id = id", "DELETE FROM {}", "TRUNCATE {} CASCADE"])
def test_whoever_owns_the_tables_may_not_either(db: None, log: str, statement: str) -> None:
    with connection.cursor() as cursor:
        cursor.execute(f"SELECT count(*) FROM {log}")
        empty = cursor.fetchone()[0] == 0
    if empty and not statement.startswith("TRUNCATE"):
        pytest.skip("no row in the demo shop; the trigger is one function for all of them")
    with refused("append-only"):
        run(statement.format(log))


@pytest.mark.parametrize(
    "statement",
    [f"UPDATE jobs_job SET part = 'another' WHERE id = {SIGNED}",
     f"UPDATE jobs_job SET quantity = 9 WHERE id = {SIGNED}",
     f"UPDATE jobs_setup SET method = 'head' WHERE job_id = {SIGNED}",
     f"UPDATE jobs_plan SET finish_passes = 9 WHERE setup_id = {SIGNED_SETUP}",
     f"UPDATE jobs_bore SET upper_mm = 99 WHERE setup_id = {SIGNED_SETUP}",
     f"UPDATE jobs_bore SET setup_id = {SIGNED_SETUP} WHERE setup_id <> {SIGNED_SETUP}",
     f"DELETE FROM jobs_foundsize WHERE bore_id = {SIGNED_BORE}",
     f"INSERT INTO jobs_foundsize (bore_id, z_mm, diameter_mm, typed) VALUES ({SIGNED_BORE}, 1, 2, '{{}}')",
     f"DELETE FROM jobs_setup_fixtures WHERE setup_id = {SIGNED_SETUP}",
     f"DELETE FROM jobs_job WHERE id = {SIGNED}"],
)  # fmt: skip
def test_nothing_of_a_signed_job_changes(db: None, statement: str) -> None:
    run(f"UPDATE jobs_job SET stale = true, stations = '{{}}' WHERE id = {SIGNED}")  # what is worked out may be
    if "fixtures" in statement:
        run("SET LOCAL session_replication_role = replica")
        run(f"INSERT INTO jobs_setup_fixtures (setup_id, fixture_id) SELECT {SIGNED_SETUP}, min(id) FROM crib_fixture")
        run("SET LOCAL session_replication_role = origin")
    with refused("the job is signed"):
        run(statement)


def test_nothing_is_logged_after_the_signature(db: None) -> None:
    job = SignOff.objects.get().job
    row = CutEntry.objects.filter(setup__job=job).latest("pk")
    row.pk, row.client_id, row._state.adding = None, "5b6bd8b4-87a4-4b3c-a3b1-5a3f2f6b8b8f", True
    with refused("the job is signed"):
        row.save()
    with refused("the job is signed"):
        Round.objects.create(setup=job.setup, number=99, purpose="true", method="sweep", places=4, surface="inside",
                             indicator=Round.objects.all()[0].indicator, by=SignOff.objects.get().by)  # fmt: skip


@pytest.mark.parametrize(
    ("kind", "wrong"),
    [("set", {"value_mm": 0}), ("set", {"number": 0}), ("cut", {"number": 0}), ("size", {"value_mm": 0}),
     ("size", {"gauge": None}), ("size", {"piece": 0})],
)  # fmt: skip
def test_rows_keep_their_rules(db: None, kind: str, wrong: dict[str, object]) -> None:
    row = CutEntry.objects.filter(setup__job__number="Q-214", kind=kind).latest("pk")
    row.pk, row.client_id, row._state.adding = None, "5b6bd8b4-87a4-4b3c-a3b1-5a3f2f6b8b90", True
    for name, value in wrong.items():
        setattr(row, name, value)
    with pytest.raises(IntegrityError, match="check constraint"), transaction.atomic():
        row.save()
