"""Pages answer, in a constant number of queries, signed in only."""

import uuid
from typing import Any
from urllib.parse import unquote

import pytest
from django.core.cache import cache
from django.test import Client

from gyrometra.accounts.models import FirstAccountLink, User
from gyrometra.bench.strips import PAGE
from tests.web.test_bad_input import work_of

STEPS = ("work", "bar", "cuts", "true", "bore", "check")
JOBS = (
    "P~2031~2F2",
    "P~2031~2F4",
    "P~2031~2F6",
    "P~2031~2F8",
    "P~2031~2F10",
    "P~2031~2F12",
    "Q-214",
    "Q-219",
    "Q-198",
    "Q-223",
    "Q-228",
    "Q-221",
    "Q-230",
    "Q-225",
    "Q-207",
)


@pytest.mark.parametrize("step", STEPS)
@pytest.mark.parametrize("number", JOBS)
def test_every_step_of_every_job(dagny: Client, number: str, step: str, django_assert_max_num_queries: Any) -> None:
    with django_assert_max_num_queries(22):
        page = dagny.get(f"/jobs/{number}/{step}/")
    assert page.status_code == 200
    assert unquote(number.replace("~", "%")) in page.content.decode()


@pytest.mark.parametrize("unit", ["mm", "in"])
def test_units_switch_for_the_reader_alone(dagny: Client, unit: str) -> None:
    assert dagny.post("/unit/", {"unit": unit, "next": "/jobs/Q-214/bar/"}).url == "/jobs/Q-214/bar/"  # type: ignore[attr-defined]
    for step in STEPS:
        assert dagny.get(f"/jobs/Q-214/{step}/").status_code == 200
    text = dagny.get("/jobs/Q-214/work/").content.decode()
    assert ("2.6929" in text) is (unit == "in")  # 68.40 mm to 0.0001 in


def test_the_bench_reads_the_same_however_many_jobs(dagny: Client, django_assert_num_queries: Any) -> None:
    def count() -> int:
        with django_assert_num_queries(13):
            return dagny.get("/").content.decode().count('class="strip')

    before = count()
    fields = work_of("Q-214")
    for n in range(2):
        assert dagny.post("/jobs/new/", {**fields, "number": f"X-{n}"}).status_code == 302
    assert count() == min(before + 2, PAGE + 1), "the list itself counts as one"


def test_signed_out_people_are_asked_in(db: None) -> None:
    client = Client()
    page = client.get("/", follow=True)
    text = page.content.decode()
    assert 'name="username"' in text
    assert 'name="password"' in text
    assert "quillmoor" in text
    assert client.get("/healthz").content == b"ok\n"


def test_demo_people_sign_in(db: None) -> None:
    for name in ("dagny", "corin"):
        client = Client()
        assert client.post("/sign-in/", {"username": name, "password": "quillmoor"}).status_code == 302
        assert client.get("/").status_code == 200


def test_wrong_passwords_are_throttled(db: None) -> None:
    cache.clear()
    client = Client()
    for _ in range(8):
        page = client.post("/sign-in/", {"username": "corin", "password": "wrong"})
    assert page.status_code == 429
    assert "Too many wrong passwords" in page.content.decode()


def test_policy_forbids_inline_script_and_style(dagny: Client) -> None:
    for path in ("/", "/jobs/Q-214/true/", "/crib/", "/jobs/Q-214/sheet/"):
        page = dagny.get(path)
        policy = page.headers["Content-Security-Policy"]
        assert "script-src 'self'" in policy
        assert "unsafe" not in policy
        text = page.content.decode()
        assert " style=" not in text
        assert "<style" not in text
        assert "onclick" not in text


def test_the_first_account_link_works_once(db: None) -> None:
    assert Client().get(f"/first/{uuid.uuid4()}/").status_code == 410
    token = FirstAccountLink.make()
    assert Client().get(f"/first/{token}/").status_code == 410, "there are people already"
    assert User.objects.count() == 2


def test_addresses_that_are_not_there(dagny: Client) -> None:
    for path in ("/jobs/Q-999/work/", "/jobs/Q-214/nothing/", "/crib/nothing/new/", "/jobs/Q-214/cut/nothing/"):
        assert dagny.get(path).status_code in (404, 405)


def test_the_sheet_prints_what_the_plan_says(corin: Client) -> None:
    text = corin.get("/jobs/Q-214/sheet/").content.decode()
    assert "69.338" in text
    assert "23.5 div out" in text
    assert text.count("not permission") == 1
    assert text.count("Indicator, stylus and keys out") == 1


@pytest.mark.parametrize("path", ["/sign-in/", "/jobs/Q-214/bore/", "/static/css/base.css"])
def test_pages_and_files_leave_compressed(corin: Client, path: str) -> None:
    answer = corin.get(path, headers={"Accept-Encoding": "gzip"})
    assert answer.status_code in (200, 302)
    assert answer.status_code == 302 or answer.headers["Content-Encoding"] == "gzip"
    if answer.streaming:
        assert b"".join(answer.streaming_content)
    answer.close()
