"""Anything may be sent by anybody: never a fault of ours, never long, over every form, import and query string.

The forms are read off the pages as they are, so that a new one is tried without being named here.
"""

from __future__ import annotations

import re
import time
import uuid
from html import unescape
from random import Random
from typing import Any
from urllib.parse import urlencode

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import transaction
from django.test import Client

from gyrometra.accounts.models import User
from gyrometra.crib.models import Fixture
from gyrometra.samples.load import load_shop

PAGES = ["/", "/lines/", "/crib/", "/members/", "/account/", "/jobs/new/", "/crib/take-in/",
         *(f"/jobs/{job}/{step}/" for job in ("Q-214", "Q-198", "Q-219", "Q-221", "Q-228", "Q-230", "Q-207")
           for step in ("work", "bar", "cuts", "true", "bore", "check", "sheet")),
         "/jobs/Q-214/bore/?to=set", "/jobs/Q-221/bore/?bore=2", "/jobs/Q-207/check/?piece=2",
         *(f"/crib/{kind}/new/" for kind in ("machine", "bar", "head", "cutter", "gauge", "indicator", "material",
                                             "fixture"))]  # fmt: skip
HOSTILE = ["", " ", "\0", "a\0b", "\ud800", "²", "٣", "-1", "0", "1e308", "1e999", "nan", "inf", "-inf", "9" * 5000,
           "9" * 19, "0.0000000001", "1,5", "1/0", "1 1/0 in", "72 H7", "72 XX99", "ø72", "--", "=1+1", "x" * 100_000,
           "<script>alert(1)</script>", "'; DROP TABLE jobs_job; --", "../../etc/passwd", "{}", "[]", "null", "true",
           '{"by":"dagny"}', "\r\nX: y", "\u202edagny", "😀" * 50, "%00", "None", "2020-02-30", "0000-00-00",
           "mm", "in", "on", "off+", "off-", str(uuid.UUID(int=0)), "\u2028", "1\n2\n3", "\n" * 3000, "5 5 5", ";;;",
           "1-2-3-4"]  # fmt: skip
FORM = re.compile(r"<form\b([^>]*)>(.*?)</form>", re.S)
FIELD = re.compile(r'<(?:input|select|textarea|button)\b[^>]*?\bname="([^"]+)"([^>]*)', re.S)
FILES = {
    "eps": b"%!PS-Adobe-3.0 EPSF-3.0\n{} loop\n", "nul": b"\0" * 5000,
    "wide": b"name,notes\n" + b"x" * 140_000 + b",1\n", "latin": b"\xff\xfe\xfd",
    "formula": b"name,notes\n=cmd,+1\n", "json": b'{"bars": [{"name": {}}]}', "deep": b"[" * 20_000,
    "many": b"name\n" + b"a\n" * 5000, "surrogate": b'{"gauge": [{"name": "\\ud800"}]}',
}  # fmt: skip


def forms_of(text: str, path: str) -> list[tuple[str, str, dict[str, str]]]:
    """Method, address and fields of each form of a page, as it stands."""
    found = []
    for head, inner in FORM.findall(text):
        action = re.search(r'\b(?:action|hx-get|hx-post)="([^"]*)"', head)
        method = "GET" if "hx-get" in head or 'method="get"' in head else "POST"
        fields = {}
        for name, rest in FIELD.findall(inner):
            value = re.search(r'value="([^"]*)"', rest)
            fields[name] = unescape(value[1]) if value else ""
        address = unescape(action[1]) if action else path
        found.append((method, address, fields))
        for other in re.findall(r'formaction="([^"]*)"', inner):
            found.append((method, unescape(other), fields))
    return found


@pytest.fixture
def forms(db: None) -> list[tuple[str, str, dict[str, str]]]:
    load_shop()
    client = Client()
    client.force_login(User.objects.get(username="dagny"))
    found: dict[tuple[str, str], tuple[str, str, dict[str, str]]] = {}
    for path in PAGES:
        answer = client.get(path)
        assert answer.status_code == 200, path
        for method, address, fields in forms_of(answer.content.decode(), path):
            if "sign-out" not in address:
                found[method, address] = (method, address, fields)
    pk = Fixture.objects.all()[0].pk
    found["POST", "picture"] = ("POST", f"/crib/fixture/{pk}/picture/", {"picture": ""})
    return sorted(found.values(), key=lambda one: one[:2])


def spoiled(random: Random, fields: dict[str, str]) -> dict[str, Any]:
    """Some fields hostile, some missing, some twice, some that nobody asked for."""
    made: dict[str, Any] = dict(fields)
    for name in random.sample(sorted(made), k=random.randint(0, len(made))):
        what = random.random()
        if what < 0.75:
            made[name] = random.choice(HOSTILE)
        elif what < 0.9:
            del made[name]
        else:
            made[name] = [made[name], random.choice(HOSTILE)]
    if random.random() < 0.2:
        unasked = random.choice(["id", "pk", "job", "user", "is_superuser", "version", "\0", "x" * 300])
        made[unasked] = random.choice(HOSTILE)
    if "seen" in made and random.random() < 0.5:
        piece = random.choice([":1", "true", "mm", "dagny", "2"])
        made["seen"] = fields["seen"].replace(piece, random.choice(HOSTILE)[:40])
    return made


def send(client: Client, method: str, target: str, sent: dict[str, Any], headers: dict[str, str]) -> Any:
    """As a browser would: a form with a file in parts, any other encoded, lone surrogates and all."""
    if any(isinstance(value, SimpleUploadedFile) for value in sent.values()):
        plain = {name: _plain(value) for name, value in sent.items()}
        return client.post(target, {_plain(name): value for name, value in plain.items()}, headers=headers)
    body = urlencode(sent, doseq=True, errors="surrogatepass")
    if method == "GET":
        return client.get(f"{target}{'&' if '?' in target else '?'}{body[:6000]}", headers=headers)
    return client.post(target, body, content_type="application/x-www-form-urlencoded", headers=headers)


def _plain(value: Any) -> Any:
    """What can stand in a part of a form."""
    if isinstance(value, list):
        return [_plain(one) for one in value]
    return value.encode(errors="replace").decode() if isinstance(value, str) else value


def address_of(random: Random, address: str) -> str:
    """An address, at times with a query string of its own."""
    if random.random() < 0.7:
        return address
    name = random.choice(["bore", "piece", "place", "to", "page", "q", "next", "unit", "kind"])
    value = random.choice(["²", "-1", "0", "99999999999999999999", "abc", "%00", "%ff", "1;2", "'", "9" * 3000, ""])
    return f"{address.split('?', maxsplit=1)[0]}?{name}={value}"


def test_nothing_that_is_sent_is_a_fault_of_ours(
    forms: list[tuple[str, str, dict[str, str]]], request: pytest.FixtureRequest
) -> None:
    count = 10_000 if request.config.getoption("--long") else 250
    named = request.config.getoption("--seed")
    random = Random(named or 1)
    clients = []
    for name in ("dagny", "corin"):
        client = Client(raise_request_exception=False)
        client.force_login(User.objects.get(username=name))
        clients.append(client)
    clients.append(Client(raise_request_exception=False))
    broken, slow = [], []
    for number in range(count):
        method, address, fields = random.choice(forms)
        sent = spoiled(random, fields)
        if ("file" in sent or "picture" in sent) and random.random() < 0.8:
            kind = random.choice(sorted(FILES))
            name = f"x.{random.choice(['csv', 'json', 'png'])}"
            sent["file" if "file" in sent else "picture"] = SimpleUploadedFile(name, FILES[kind])
        client, target = random.choice(clients), address_of(random, address)
        headers = {"HX-Request": "true"} if random.random() < 0.5 else {}
        start = time.perf_counter()
        with transaction.atomic():
            asked = "GET" if random.random() < 0.1 else method
            answer = send(client, asked, target, sent, headers)
            transaction.set_rollback(True)
        took = time.perf_counter() - start
        told = f"{number}: {asked} {target[:80]} {answer.status_code} {took:.1f} s {str(sent)[:600]}"
        if answer.status_code >= 500:
            broken.append(told)
        if took > 5:
            slow.append(told)
    assert broken == [], f"{len(broken)} of {count}: " + "\n".join(broken[:5])
    assert slow == []
