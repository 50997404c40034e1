"""The gauge link's addresses: tokens, batches stored once, refusals that name the reading, who listens."""

from __future__ import annotations

import json
import re
import uuid
from datetime import timedelta
from typing import Any

import pytest
from django.test import Client
from django.utils.timezone import now

from gyrometra.accounts.models import User
from gyrometra.crib.models import Gauge, Indicator
from gyrometra.cutting.models import CutEntry
from gyrometra.inspection.models import SizeReading
from gyrometra.links import services
from gyrometra.links.models import GaugeLink, LinkReading
from gyrometra.truing.models import Reading
from tests.web.said import flat
from tests.web.test_tilt import begin

pytestmark = pytest.mark.django_db


@pytest.fixture
def linked(db: None) -> tuple[GaugeLink, str]:
    indicator = Indicator.objects.get(name="Indicator 1")
    return services.link_gauge(user=User.objects.get(username="dagny"), item=indicator, name="at the lathe")


def send(token: str, *rows: Any, unit: Any = "mm", **more: Any) -> Any:
    return Client(enforce_csrf_checks=True).post(
        "/link/readings/", json.dumps({"unit": unit, "readings": list(rows)}), content_type="application/json",
        headers={"Authorization": f"Bearer {token}"}, **more,
    )  # fmt: skip


def row(ident: str, value: Any, **more: Any) -> dict[str, Any]:
    return {"id": ident, "value": value, **more}


def test_a_batch_sent_twice_is_stored_once(linked: tuple[GaugeLink, str]) -> None:
    link, token = linked
    rows = [row("a-1", "0.0125"), row("a-2", -0.003, press=True, at="2026-11-28T07:00:00.250Z")]
    assert send(token, *rows).json() == {"stored": 2, "known": 0}
    assert send(token, *rows, row("a-3", 12)).json() == {"stored": 1, "known": 2}
    assert send(token, row("b-1", "12.5"), unit="um").json()["stored"] == 1
    assert send(token, row("b-2", "0.0005"), unit="in").json()["stored"] == 1
    stored = [float(one.value_mm) for one in LinkReading.objects.filter(link=link)]
    assert stored == [0.0125, -0.003, 12.0, 0.0125, 0.0127]
    other = send(token, row("a-1", "0.5"), row("a-9", "0.6"))
    assert other.status_code == 409
    assert other.json()["why"] == "a-1 is stored as 0.012500; 0.500000 came."
    assert not LinkReading.objects.filter(ident="a-9").exists(), "a batch is stored whole or not at all"


@pytest.mark.parametrize(
    ("rows", "unit", "words"),
    [
        ([], "mm", "readings must be a list of 1 to 1000; 0 came."),
        ([row("1", 0)] * 2, "mm", "Two readings of this batch have the same id."),
        ([row(str(n), 0) for n in range(1001)], "mm", "1001 came"),
        ([row("1", 0), row("2", "ten")], "mm", "Reading 2: value must be a number within 1000 mm; ten was given."),
        ([row("1", "NaN")], "mm", "NaN was given"), ([row("1", True)], "mm", "none was given"),
        ([row("1", "1e400")], "mm", "1e400 was given"), ([row("1", 40)], "in", "40 was given"),
        ([row("", 0)], "mm", "id must be a text of 1 to 64"), ([row("x" * 65, 0)], "mm", "id must be a text"),
        ([row("a\0b", 0)], "mm", "id must be a text"), ([row("1", 0, press="yes")], "mm", "press must be true"),
        ([row("1", 0, at="today")], "mm", "at must be"), ([row("1", 0, at="2026-13-40T00:00:00Z")], "mm", "at must"),
        ([row("1", 0, at="2026-11-28T07:00:00")], "mm", "with its zone"), ([[1]], "mm", "Reading 1 is not an object."),
        ([row("1", 0)], "furlong", "unit must be mm, um or in; furlong was given."), ([row("1", 0)], [], "unit must"),
    ],
)  # fmt: skip
def test_a_batch_at_fault_is_refused_whole(linked: tuple[GaugeLink, str], rows: Any, unit: Any, words: str) -> None:
    answer = send(linked[1], *rows, unit=unit)
    assert answer.status_code == 400
    assert words in answer.json()["why"]
    assert not LinkReading.objects.exists()


def test_only_a_token_in_use_sends(linked: tuple[GaugeLink, str], corin: Client) -> None:
    link, token = linked
    assert token not in json.dumps(list(GaugeLink.objects.values()), default=str), "the token is kept nowhere"
    assert send("x" * 40, row("1", 0)).json() == {"why": "This token is not known."}
    assert Client().post("/link/readings/", "{}", content_type="application/json").status_code == 401
    bearer = {"Authorization": f"Bearer {token}"}
    assert Client().post("/link/readings/", "a=1", content_type="text/plain", headers=bearer).status_code == 415
    broken = Client().post("/link/readings/", "{", content_type="application/json", headers=bearer)
    assert broken.json() == {"why": "The body is not JSON."}
    nested = Client().post("/link/readings/", "[" * 50_000, content_type="application/json", headers=bearer)
    assert nested.status_code == 400
    corin.post(f"/link/{link.pk}/end/")
    ended = send(token, row("1", 0))
    assert (ended.status_code, ended.json()["why"]) == (403, "This token was ended.")
    # a gauge's token opens nothing else, and no page of the link is open without a sign-in
    assert Client().get("/crib/", headers=bearer).status_code == 302
    assert Client().get(f"/link/{link.pk}/needle/").status_code == 302


def needle(client: Client, link: GaugeLink, listener: uuid.UUID, **more: Any) -> Any:
    return client.get(f"/link/{link.pk}/needle/", {"listener": str(listener), **more}).json()


def test_one_page_listens(linked: tuple[GaugeLink, str], corin: Client, dagny: Client) -> None:
    link, token = linked
    first, second = uuid.uuid4(), uuid.uuid4()
    send(token, row("before", "0.2", press=True))
    assert needle(corin, link, first)["state"] == "elsewhere"
    after = corin.post(f"/link/{link.pk}/listen/", {"listener": str(first)}).json()["after"]
    send(token, row("1", "0.0234"), row("2", "0.0235", press=True))
    told = needle(corin, link, first, after=after)
    assert told["state"] == "live"
    assert told["value"] in ("+0.023", "+0.024")
    assert [one["text"] for one in told["presses"]] == ["+0.0235 mm"], "what was pressed before is not taken"
    assert needle(corin, link, first, after=told["presses"][0]["pk"])["presses"] == []
    assert needle(corin, link, first, unit="in", after=after)["value"] == "+0.0009"
    dagny.post(f"/link/{link.pk}/listen/", {"listener": str(second)})
    assert needle(corin, link, first) == {"state": "elsewhere", "who": "dagny"}
    GaugeLink.objects.update(seen_at=now() - timedelta(seconds=9))
    assert needle(dagny, link, second)["state"] == "silent"
    assert corin.post(f"/link/{link.pk}/listen/", {"listener": "me"}).status_code == 400
    for odd in ("²", "-1", "9" * 40, "nan"):
        assert needle(dagny, link, second, after=odd, taken=odd)["state"] == "silent"


def test_live_values_are_kept_an_hour_and_presses_for_good(linked: tuple[GaugeLink, str]) -> None:
    link, token = linked
    send(token, row("old", 0), row("pressed", 0, press=True))
    LinkReading.objects.update(came_at=now() - timedelta(hours=2))
    GaugeLink.objects.update(pruned_at=now() - timedelta(hours=1))
    send(token, row("new", 0))
    assert set(LinkReading.objects.filter(link=link).values_list("ident", flat=True)) == {"pressed", "new"}


def test_a_linked_reading_is_logged_as_one(linked: tuple[GaugeLink, str], corin: Client) -> None:
    said = begin(corin, "Q-223", method="sweep", indicator=linked[0].indicator_id)
    assert "Listen to the indicator" in said
    entry = {"value": "+0.0235 mm", "place": 0, "client_id": str(uuid.uuid4()), "source": "link"}
    corin.post("/jobs/Q-223/reading/true/", entry, headers={"HX-Request": "true"})
    corin.post("/jobs/Q-223/reading/true/", entry, headers={"HX-Request": "true"})
    read = Reading.objects.get(client_id=entry["client_id"])
    assert (float(read.value_mm), read.source, read.text) == (0.0235, "link", "+0.0235 mm")
    services.end_link(linked[0])
    assert "Listen to the indicator" not in flat(corin.get("/jobs/Q-223/true/"))


def test_the_token_is_shown_once(dagny: Client) -> None:
    pk = Indicator.objects.get(name="Indicator 1").pk
    assert "Nothing sends readings" in flat(dagny.get(f"/link/indicator/{pk}/"))
    assert f"/link/indicator/{pk}/" in dagny.get(f"/crib/indicator/{pk}/").content.decode()
    made = flat(dagny.post(f"/link/indicator/{pk}/", {"name": "milling corner"}))
    assert "Its token, shown this once" in made
    assert "python -m gyrolink serial /dev/ttyUSB0 --url http://testserver" in made
    again = flat(dagny.get(f"/link/indicator/{pk}/"))
    assert "milling corner" in again
    assert "nothing yet" in again
    assert "Its token" not in again


def test_asking_for_the_needle_costs_the_same_however_much_came(
    linked: tuple[GaugeLink, str], corin: Client, django_assert_max_num_queries: Any
) -> None:
    link, token = linked
    listener = uuid.uuid4()
    corin.post(f"/link/{link.pk}/listen/", {"listener": str(listener)})
    send(token, *[row(f"{n}", n / 1000) for n in range(900)])
    with django_assert_max_num_queries(6):
        assert needle(corin, link, listener)["state"] == "live"


def test_a_bore_gauge_is_linked_off_its_ring(corin: Client, dagny: Client) -> None:
    gauge = Gauge.objects.get(name="Bore gauge 50-100")
    page = f"/link/gauge/{gauge.pk}/"
    assert f'href="{page}"' in dagny.get(f"/crib/gauge/{gauge.pk}/").content.decode()
    refused = flat(dagny.post(page, {"name": "at the lathe", "set_mm": "7.2"}))
    assert "Bore gauge 50-100 measures" in refused
    assert "Its token, shown this once" not in refused
    made = dagny.post(page, {"name": "at the lathe", "set_mm": "72.00"})
    token = re.search(r"GYROMETRA_TOKEN=([\w-]+)", made.content.decode())
    assert token is not None
    assert "off a ring of Ø72.000" in flat(dagny.get(page))
    said = flat(corin.get("/jobs/Q-214/check/"))
    assert "Listen to the gauge" in said
    link, listener = GaugeLink.objects.get(), uuid.uuid4()
    corin.post(f"/link/{link.pk}/listen/", {"listener": str(listener)})
    send(token[1], row("p", "0.0123", press=True))
    told = needle(corin, link, listener)
    # what it sends is off its ring, what is logged is the size
    assert (told["value"], told["text"]) == ("72.012", "72.0123 mm")
    press = told["presses"][0]
    sent = {"value": press["text"], "z": "20", "angle_deg": "0", "gauge": gauge.pk, "client_id": press["id"],
            "source": "link"}  # fmt: skip
    for _ in range(2):
        corin.post("/jobs/Q-214/size/", sent, headers={"HX-Request": "true"})
    read = SizeReading.objects.get(client_id=press["id"])
    assert (float(read.value_mm), read.source, read.gauge_id) == (72.0123, "link", gauge.pk)
    assert not CutEntry.objects.filter(client_id=press["id"]).exists()
