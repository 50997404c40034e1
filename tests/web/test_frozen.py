"""What a plan, a reading or a verdict rested on stays with it, whatever becomes of the crib."""

from __future__ import annotations

import html
import re
from typing import Any

import pytest
from django.test import Client

from gyrometra.accounts.models import User
from gyrometra.bridge.units import Units
from gyrometra.crib.forms import FORMS
from gyrometra.crib.models import Bar, CribItem, Cutter, Gauge, Indicator, Machine, Material
from gyrometra.crib.values import initial_of
from gyrometra.steps.page import open_page

SIGNED, OPEN = "Q-198", "Q-214"
PAGES = ("work", "bar", "cuts", "true", "bore", "check", "sheet")
#: What is changed of each kind of thing that the signed job rests on.
CHANGES: list[tuple[str, type[CribItem], dict[str, Any]]] = [
    ("gauge", Gauge, {"error_limit_mm": "0.05", "correction_mm": "0.03"}),
    ("indicator", Indicator, {"step_mm": "0.01"}),
    ("material", Material, {"kc11_mpa": "3000", "expansion_um_m_k": "20"}),
    ("machine", Machine, {"power_kw": "0.4"}),
    ("bar", Bar, {"diameter_mm": "11"}),
    ("cutter", Cutter, {"nose_radius_mm": "1.6"}),
]


def words(client: Client, number: str, page: str) -> str:
    """What a page says, without what is made anew each time."""
    text = client.get(f"/jobs/{number}/{page}/").content.decode()
    text = re.sub(r"printed [^<]*|name=\"(seen|client_id|csrfmiddlewaretoken)\" value=\"[^\"]*\"", "", text)
    text = re.sub(r'hx-headers=\'[^\']*\'|id="[a-z]*-?\d+"', "", text)
    return re.sub(r"\s+", " ", text.split("<main", 1)[-1])


def change(client: Client, kind: str, item: CribItem, values: dict[str, Any]) -> None:
    form = FORMS[kind]
    shown = {name: value for name, value in initial_of(item, form, Units()).items() if value not in (None, False)}
    known = {name: value for name, value in values.items() if name in form.base_fields}
    assert known, (kind, sorted(form.base_fields))
    answer = client.post(f"/crib/{kind}/{item.pk}/", {**shown, **known})
    assert answer.status_code == 302, answer.content.decode()[:2000]


@pytest.mark.parametrize(("kind", "model", "values"), CHANGES)
def test_a_signed_job_reads_only_what_was_frozen(
    dagny: Client, kind: str, model: type[CribItem], values: dict[str, Any]
) -> None:
    before = {page: words(dagny, SIGNED, page) for page in PAGES}
    for item in model._default_manager.all():
        change(dagny, kind, item, values)
    for page in PAGES:
        assert words(dagny, SIGNED, page) == before[page], (kind, page)


def test_a_job_that_is_not_signed_says_what_was_changed(dagny: Client) -> None:
    page = open_page(OPEN, Units())
    gauge = next(row.gauge for row in page.rows.cuts if row.gauge is not None)
    assert "after it read here" not in words(dagny, OPEN, "bore")
    change(dagny, "gauge", gauge, CHANGES[0][2])
    assert f"{gauge} was changed" in words(dagny, OPEN, "bore")
    assert "its readings stand as they were taken" in words(dagny, OPEN, "bore")
    machine = page.job.setup.machine
    change(dagny, "machine", machine, {"power_kw": "0.9"})
    assert f"{machine} was changed" in words(dagny, OPEN, "bore")
    assert "was changed" not in words(dagny, SIGNED, "bore")


def test_calculations_that_changed_are_said_beside_the_signed_verdict(
    dagny: Client, monkeypatch: pytest.MonkeyPatch
) -> None:
    assert "Signed with calculations" not in words(dagny, SIGNED, "check")
    monkeypatch.setattr("gyrometra.steps.check.plates.shown_digest", lambda job: "another")
    text = words(dagny, SIGNED, "check")
    assert "Signed with calculations 1: In limits. They have changed since; what was signed stands." in text


def opened_by(client: Client, kind: str, item: CribItem) -> dict[str, Any]:
    """A form as a browser has it before its eyes, hidden fields with it."""
    text = client.get(f"/crib/{kind}/{item.pk}/").content.decode()
    hidden = dict(re.findall(r'name="(version|was|unit)"\s+value="([^"]*)"', text))
    shown = initial_of(item, FORMS[kind], Units(hidden["unit"]))
    return {**{name: value for name, value in shown.items() if value not in (None, False)},
            **{name: html.unescape(value) for name, value in hidden.items()}}  # fmt: skip


def test_two_people_on_two_fields_of_a_gauge_are_both_kept(dagny: Client, corin: Client) -> None:
    gauge = Gauge.objects.all()[0]
    mine, theirs = opened_by(dagny, "gauge", gauge), opened_by(corin, "gauge", gauge)
    assert corin.post(f"/crib/gauge/{gauge.pk}/", {**theirs, "notes": "the spring is weak"}).status_code == 302
    assert dagny.post(f"/crib/gauge/{gauge.pk}/", {**mine, "error_limit_mm": "0.007"}).status_code == 302
    gauge.refresh_from_db()
    assert (gauge.notes, float(gauge.error_limit_mm), gauge.version) == ("the spring is weak", 0.007, 3)


def test_two_people_on_one_field_the_second_is_told(dagny: Client, corin: Client) -> None:
    gauge = Gauge.objects.all()[0]
    mine, theirs = opened_by(dagny, "gauge", gauge), opened_by(corin, "gauge", gauge)
    corin.post(f"/crib/gauge/{gauge.pk}/", {**theirs, "error_limit_mm": "0.004"})
    told = dagny.post(f"/crib/gauge/{gauge.pk}/", {**mine, "error_limit_mm": "0.007"})
    text = told.content.decode()
    assert told.status_code == 200
    assert re.search(r"corin changed this at \d\d:\d\d, after you opened it, to 0.004", text)
    assert 'value="0.007"' in text, "what was typed is kept"
    gauge.refresh_from_db()
    assert float(gauge.error_limit_mm) == 0.004
    again = dict(re.findall(r'name="(version|was)"\s+value="([^"]*)"', text))
    again = {name: html.unescape(value) for name, value in again.items()}
    assert dagny.post(f"/crib/gauge/{gauge.pk}/", {**mine, **again, "error_limit_mm": "0.007"}).status_code == 302
    gauge.refresh_from_db()
    assert float(gauge.error_limit_mm) == 0.007, "saved again, knowing"


def test_a_crib_form_is_read_in_the_unit_it_was_shown_in(dagny: Client) -> None:
    gauge = Gauge.objects.all()[0]
    form = opened_by(dagny, "gauge", gauge)
    before = float(gauge.error_limit_mm)
    User.objects.filter(username="dagny").update(unit="in")
    assert dagny.post(f"/crib/gauge/{gauge.pk}/", {**form, "notes": "seen"}).status_code == 302
    gauge.refresh_from_db()
    assert float(gauge.error_limit_mm) == before
