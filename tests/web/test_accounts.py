"""Accounts: passwords, links with an end, roles, closing, and what stops guessing."""

from __future__ import annotations

import re
from datetime import timedelta

import pytest
from axes.models import AccessAttempt
from django.core.management import CommandError, call_command
from django.test import Client, RequestFactory, override_settings
from django.utils import timezone

from gyrometra.accounts.address import client_address
from gyrometra.accounts.models import ResetLink, User
from tests.web.conftest import signed_in

NEW = "hornblende 41"


def enters(name: str, password: str, address: str = "10.0.0.9") -> str:
    answer = Client(REMOTE_ADDR=address).post("/sign-in/", {"username": name, "password": password})
    return "in" if answer.status_code == 302 else answer.content.decode()


def of(name: str) -> User:
    return User.objects.get(username=name)


def said(client: Client, what: str, name: str, **fields: str) -> str:
    return client.post(f"/members/{of(name).pk}/{what}/", fields, follow=True).content.decode()


def test_one_changes_ones_own_password_and_is_out_everywhere_else(db: None) -> None:
    here, there = signed_in("corin"), signed_in("corin")
    assert "not the password now" in here.post("/account/", {"old": "wrong", "password": NEW}).content.decode()
    assert "too similar" in here.post("/account/", {"old": "quillmoor", "password": "corin123"}).content.decode()
    assert here.post("/account/", {"old": "quillmoor", "password": NEW}).status_code == 302
    assert (here.get("/").status_code, there.get("/").status_code) == (200, 302)
    assert (enters("corin", NEW), "Wrong name or password" in enters("corin", "quillmoor")) == ("in", True)


def test_a_name_is_found_without_case(db: None) -> None:
    assert enters("CORIN", "quillmoor") == "in"
    assert enters(" Corin ", "quillmoor") == "in"


def test_a_lead_resets_by_a_link_that_is_good_once_and_ends(dagny: Client) -> None:
    link = re.search(r"/reset/[\w-]+/", said(dagny, "reset", "corin"))
    assert link
    other = Client()
    assert other.get(link[0]).status_code == 200
    assert other.post(link[0], {"password": "short"}).status_code == 200
    assert other.post(link[0], {"password": NEW}).status_code == 302
    assert other.get("/").status_code == 200
    assert Client().get(link[0]).status_code == 410, "once"
    again = re.search(r"/reset/[\w-]+/", said(dagny, "reset", "corin"))
    assert again
    ResetLink.objects.update(until=timezone.now() - timedelta(seconds=1))
    assert Client().get(again[0]).status_code == 410, "its end has come"


def test_a_closed_account_is_out_and_comes_back(dagny: Client, corin: Client) -> None:
    said(dagny, "close", "corin")
    assert corin.get("/").status_code == 302
    assert enters("corin", "quillmoor") != "in"
    said(dagny, "reopen", "corin")
    assert enters("corin", "quillmoor") == "in"


def test_the_last_lead_stays(dagny: Client) -> None:
    for what in ("close", "role"):
        assert "the only lead" in said(dagny, what, "dagny", role="machinist")
    said(dagny, "role", "corin", role="lead")
    assert "corin is lead now" in said(dagny, "role", "corin", role="lead")
    said(dagny, "role", "dagny", role="machinist")
    assert not of("dagny").is_lead


@pytest.mark.parametrize("what", ["role", "close", "reopen", "reset"])
def test_a_machinist_changes_nobody(corin: Client, what: str) -> None:
    assert "Only a lead" in said(corin, what, "dagny", role="machinist")
    assert of("dagny").is_lead
    assert of("dagny").is_active


def test_one_signs_out_everywhere(db: None) -> None:
    here, there = signed_in("corin"), signed_in("corin")
    here.post("/account/sign-out-everywhere/")
    assert (here.get("/").status_code, there.get("/").status_code) == (302, 302)


def test_guessing_a_name_stops_at_that_address_and_ends(db: None) -> None:
    for _ in range(8):
        enters("Corin", "guess")
    assert enters("corin", "quillmoor") != "in", "names count without case"
    assert enters("corin", "quillmoor", "10.0.0.10") == "in", "the owner, elsewhere, is not locked out"
    AccessAttempt.objects.update(attempt_time=timezone.now() - timedelta(minutes=16))
    assert enters("corin", "quillmoor") == "in"


def test_many_names_from_one_address_are_stopped(db: None) -> None:
    for number in range(40):
        enters(f"name{number}", "guess")
    assert "Too many wrong passwords" in enters("corin", "quillmoor")
    assert enters("corin", "quillmoor", "10.0.0.11") == "in"


def test_one_name_from_many_addresses_is_stopped(db: None) -> None:
    for number in range(24):
        enters("corin", "guess", f"10.1.0.{number}")
    assert "Too many wrong passwords" in enters("corin", "quillmoor", "10.2.0.1")
    assert enters("dagny", "quillmoor", "10.2.0.1") == "in"


def test_a_proxys_word_counts_only_from_a_proxy_that_is_trusted(db: None) -> None:
    asked = RequestFactory().get("/", headers={"X-Forwarded-For": "1.1.1.1, 2.2.2.2"}, REMOTE_ADDR="9.9.9.9")
    assert client_address(asked) == "9.9.9.9"
    with override_settings(TRUSTED_PROXIES=["9.9.9.9"]):
        assert client_address(asked) == "2.2.2.2"
    with override_settings(TRUSTED_PROXIES=["9.9.9.9", "2.2.2.2"]):
        assert client_address(asked) == "1.1.1.1"


def test_a_lead_who_is_locked_out_gets_a_link_at_the_server(db: None, capsys: pytest.CaptureFixture[str]) -> None:
    User.objects.update(is_active=False)
    call_command("lead_link", "Dagny")
    link = re.search(r"/reset/[\w-]+/", capsys.readouterr().out)
    assert link
    assert Client().post(link[0], {"password": NEW}).status_code == 302
    with pytest.raises(CommandError, match="There is no nobody"):
        call_command("lead_link", "nobody")


def test_what_is_seen_is_stored_nowhere(corin: Client) -> None:
    assert corin.get("/jobs/Q-214/check/")["Cache-Control"] == "no-store"
