"""A database of the make before this one is carried over, rows and all."""

import uuid
from collections.abc import Iterator
from typing import Any

import pytest
from django.core.management import call_command
from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.test import Client

from gyrometra.accounts.models import User
from gyrometra.bridge.units import Units
from gyrometra.jobs.models import Job, SetUp
from gyrometra.samples.load import load_shop
from gyrometra.steps.page import open_page

BEFORE = [(app, "0001_squashed") for app in ("crib", "jobs", "truing", "cutting", "inspection")]


@pytest.fixture
def whole_again(transactional_db: None) -> Iterator[None]:
    """Whatever happens, the schema is this one's at the end, and the shop stands."""
    yield
    call_command("migrate", verbosity=0)
    call_command("flush", "--no-input", verbosity=0)
    load_shop()


def test_rows_of_before_are_carried_over(whole_again: None) -> None:
    call_command("flush", "--no-input", verbosity=0)
    load_shop()
    with connection.cursor() as cursor:
        cursor.execute("SET session_replication_role = replica")
        cursor.execute("TRUNCATE cutting_cutentry, inspection_depthreading, truing_between, jobs_jobchange CASCADE")
        walls = "(SELECT id FROM truing_round WHERE method = 'walls')"  # the make before knew none
        cursor.execute(f"DELETE FROM truing_reading WHERE round_id IN {walls}")  # noqa: S608
        cursor.execute("DELETE FROM truing_round WHERE method = 'walls'")
        cursor.execute("SET session_replication_role = origin")
    one_set_up_a_job()
    MigrationExecutor(connection).migrate(BEFORE)
    old = MigrationExecutor(connection).loader.project_state(BEFORE).apps
    job = old.get_model("jobs", "Job").objects.get(number="Q-214")
    setup = old.get_model("jobs", "SetUp").objects.get(job=job)
    bore = old.get_model("jobs", "Bore").objects.get(setup=setup)
    add_set(old, setup, bore, job)
    old.get_model("jobs", "Job").objects.update(stations={"steps": [], "next": {"step": "bore", "code": "none"}})
    call_command("migrate", verbosity=0)
    assert "made" in Job.objects.get(number="Q-214").stations, "worked out anew"
    client = Client()
    client.force_login(User.objects.get(username="corin"))
    for step in ("work", "bar", "cuts", "true", "bore", "check", "sheet"):
        assert client.get(f"/jobs/Q-214/{step}/").status_code == 200
    done = open_page("Q-214", Units()).passes.done
    assert [(cut.number, round(cut.set_mm, 3)) for cut in done] == [(1, 69.338)], "one tap set and cut it"
    assert client.get("/").status_code == 200


def one_set_up_a_job() -> None:
    """The make before knew no other jobs."""
    for setup in SetUp.objects.filter(place__gt=1):
        Job.objects.filter(setup=setup).update(setup=SetUp.objects.get(job=setup.job, place=1))
        setup.bores.all().delete()
        setup.plan.delete()
        setup.delete()


def add_set(old: Any, setup: Any, bore: Any, job: Any) -> None:
    """One tap that, in the make before, said that the cutter was set and the pass cut."""
    old.get_model("cutting", "CutEntry").objects.create(
        setup=setup, bore=bore, kind="set", number=1, by_id=job.made_by_id, client_id=uuid.uuid4(), pass_kind="rough",
        value_mm="69.338333", change_mm="0.938333", divisions="23.458",
    )  # fmt: skip
