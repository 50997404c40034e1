"""A machine's own checks on their page: logged as typed, refused at the field, limited, taken back; and on a job."""

from __future__ import annotations

import csv
import io
import uuid
from datetime import timedelta
from typing import Any

import pytest
from django.db import DatabaseError, connection, transaction
from django.test import Client
from django.test.utils import CaptureQueriesContext
from django.utils.timezone import localdate

from gyrometra.bench.calendar import calendar
from gyrometra.bridge.units import Units
from gyrometra.crib.models import CribChange, Machine
from gyrometra.crib.values import change_words
from gyrometra.health.models import MachineCheck, MachineLimit
from gyrometra.health.queries import checks_due_by
from tests.web.said import flat

pytestmark = pytest.mark.django_db


@pytest.fixture
def lathe(db: None) -> Machine:
    return Machine.objects.get(name="Lathe 3")


def post(client: Client, machine: Machine, kind: str, **fields: Any) -> str:
    sent = {"client_id": str(uuid.uuid4()), "day": localdate().isoformat(), "unit": "mm", **fields}
    return flat(client.post(f"/machine/{machine.pk}/{kind}/", sent, follow=True))


def test_a_spindle_is_checked_and_worked_out_for_a_tool(dagny: Client, lathe: Machine) -> None:
    said = post(dagny, lathe, "spindle", near_mm="50", near_tir_mm="8 um", near_deg="0", far_mm="250",
                far_tir_mm="24 um", far_deg="0")  # fmt: skip
    assert "50, 8 um at 0°, 250, 24 um at 0°" in said, "typed in microns it comes back in microns"
    page = flat(dagny.get(f"/machine/{lathe.pk}/?check=spindle&tool=350&bore=80"))
    # 0.008 at 50 and 0.024 at 250, both high at the mark: 0.032 at 350
    assert "Run-out (TIR) at the tool, 350 out" in page
    assert "0.032" in page
    assert "The work turns: trued to the axis it turns about, its bore shows none of it." in page
    inches = flat(dagny.get(f"/machine/{lathe.pk}/?check=spindle&tool=10&unit=in"))
    assert "Run-out (TIR) at the tool, 10.00 out" in inches
    # the same straight line at 254 mm: 0.024 + 4 mm of 0.08 a metre
    assert f"{(0.024 + 0.004 * 0.08) / 25.4:.4f}" in inches


@pytest.mark.parametrize(
    ("kind", "fields", "words"),
    [
        ("spindle", {"near_mm": "250", "far_mm": "50"}, "Far lies beyond near, 250; 50 was given."),
        ("spindle", {"near_tir_mm": "-0.01"}, "must be"),
        ("spindle", {"near_deg": "400"}, "360"),
        ("play", {"push_mm": "four"}, "four cannot be read as a size"),
        ("play", {"pull_mm": ""}, "Pulled is missing."),
        ("play", {"push_mm": "0.004", "pull_mm": "0", "day": "2085-01-01"}, "The day is 01 Jan 1990 to today"),
        ("tailstock", {"off_mm": "0.01", "over_mm": "0"}, "over 0"),
    ],
)
def test_what_cannot_be_is_said_at_its_field(
    dagny: Client, lathe: Machine, kind: str, fields: dict[str, str], words: str
) -> None:
    whole = {"near_mm": "50", "near_tir_mm": "0.008", "near_deg": "0", "far_mm": "250", "far_tir_mm": "0.02",
             "far_deg": "10", "push_mm": "0", "pull_mm": "0", "off_mm": "0", "over_mm": "300"}  # fmt: skip
    said = post(dagny, lathe, kind, **{**whole, **fields})
    assert words in said
    assert not MachineCheck.objects.filter(machine=lathe).exists()
    typed = next(iter(fields.values()))
    assert f'value="{typed}"' in said or not typed, "what was typed is kept"


def test_a_double_tap_is_one_check_and_the_log_stays(dagny: Client, lathe: Machine) -> None:
    same = str(uuid.uuid4())
    for _ in range(2):
        post(dagny, lathe, "play", push_mm="0.004", pull_mm="-0.003", client_id=same)
    row = MachineCheck.objects.get(machine=lathe)
    with pytest.raises(DatabaseError), transaction.atomic():
        MachineCheck.objects.filter(pk=row.pk).update(day="2020-01-01")
    said = flat(dagny.post(f"/machine/{lathe.pk}/take-back/play/", {"undo": row.pk}, follow=True))
    assert "0.007" not in said
    assert MachineCheck.objects.filter(machine=lathe).count() == 2, "crossed out, not gone"
    again = flat(dagny.post(f"/machine/{lathe.pk}/take-back/play/", {"undo": row.pk}, follow=True))
    assert "it does not stand any more" in again
    assert dagny.post(f"/machine/{lathe.pk}/take-back/play/", {"undo": "²"}, follow=True).status_code == 200


def test_a_limit_is_kept_with_a_trace_and_a_change_asks_for_a_new_check(dagny: Client, lathe: Machine) -> None:
    post(dagny, lathe, "play", push_mm="0.004", pull_mm="-0.003")
    limit = {"limit-limit_mm": "0.005", "limit-every_days": "90", "unit": "mm"}
    said = flat(dagny.post(f"/machine/{lathe.pk}/limit/play/", limit, follow=True))
    assert "0.007 mm, limit 0.005," in said
    assert "over its limit" in said
    change = CribChange.objects.filter(kind="machine", item_id=lathe.pk).first()
    assert change is not None
    assert change_words(change, Units("mm")) == "limit of Play: none to 0.005 mm, every 90 days"
    assert change_words(change, Units("in")) == "limit of Play: none to 0.000197 in, every 90 days"
    count = CribChange.objects.count()
    dagny.post(f"/machine/{lathe.pk}/limit/play/", limit)
    assert CribChange.objects.count() == count, "nothing changed, nothing written"
    changed = {"changed-changed": "knocked", "changed-day": localdate().isoformat(), "unit": "mm",
               "changed-client_id": str(uuid.uuid4()), "changed-note": "a forklift"}  # fmt: skip
    said = flat(dagny.post(f"/machine/{lathe.pk}/changed/play/", changed, follow=True))
    assert "knocked since: check it again" in said
    assert "a forklift" in said
    bad = dagny.post(f"/machine/{lathe.pk}/limit/play/", {"limit-limit_mm": "2 furlongs", "unit": "mm"})
    assert "furlongs" in flat(bad)
    assert float(MachineLimit.objects.get(machine=lathe).limit_mm or 0) == 0.005


def test_strange_addresses(dagny: Client, lathe: Machine) -> None:
    assert dagny.get(f"/machine/{lathe.pk}/?check=nonsense&tool=x&setup=²").status_code == 200
    assert "x cannot be read as a length." in flat(dagny.get(f"/machine/{lathe.pk}/?tool=x"))
    assert "A length is over 0" in flat(dagny.get(f"/machine/{lathe.pk}/?bore=-4"))
    assert dagny.post(f"/machine/{lathe.pk}/tram/", {}).status_code == 404
    assert dagny.post(f"/machine/{lathe.pk}/limit/foo/", {}).status_code == 404
    assert dagny.get("/machine/999999/").status_code == 404


def test_a_job_says_what_it_gets_of_its_machine(dagny: Client) -> None:
    borer = Machine.objects.get(name="Borer 1")
    said = flat(dagny.get("/jobs/Q-207/bar/"))
    assert "Head to table: 0.048 mm, limit 0.060" in said
    assert f"/machine/{borer.pk}/?check=tram" in said
    MachineLimit.objects.filter(machine=borer, kind="spindle").update(limit_mm="0.010")
    said = flat(dagny.get("/jobs/Q-207/bar/"))
    assert "Spindle: 0.017 mm, limit 0.010" in said
    assert "over its limit" in said


def test_the_page_reads_the_same_however_long_the_history(dagny: Client, lathe: Machine) -> None:
    def queries() -> int:
        with CaptureQueriesContext(connection) as seen:
            dagny.get(f"/machine/{lathe.pk}/?check=play")
        return len(seen)

    post(dagny, lathe, "play", push_mm="0.004", pull_mm="-0.003")
    few = queries()
    for place in range(20):
        post(dagny, lathe, "play", push_mm=f"0.00{place % 9}", pull_mm="-0.003")
    assert queries() == few <= 9


def test_a_taper_on_the_work_is_taken_out_at_the_tailstock(dagny: Client, lathe: Machine) -> None:
    said = flat(dagny.get(f"/machine/{lathe.pk}/?check=tailstock&taper=0.02&over=100&lever=600"))
    # 0.020 on diameter over 100 is 0.010 on radius: 0.060 at 600, back the other way
    assert '<p class="big">0.060' in said
    assert "toward the axis, at 600 from the pivot" in said
    assert "cannot be read as a size" in flat(dagny.get(f"/machine/{lathe.pk}/?check=tailstock&taper=x&over=1&lever=1"))
    assert "over 0" in flat(dagny.get(f"/machine/{lathe.pk}/?check=slope&taper=0.1&over=0&lever=1"))
    assert "A taper read on the work" not in flat(dagny.get(f"/machine/{lathe.pk}/?check=play"))


def test_a_refused_page_leads_on(dagny: Client, lathe: Machine) -> None:
    """It stands at an address that is posted to: its links and forms, and a reload, go back to the machine's page."""
    said = post(dagny, lathe, "play", push_mm="four")
    assert f'href="/machine/{lathe.pk}/?check=tailstock"' in said
    assert f'<form method="get" action="/machine/{lathe.pk}/"' in said
    for address in ("play/", "changed/play/", "limit/play/"):
        assert dagny.get(f"/machine/{lathe.pk}/{address}", follow=True).status_code == 200


def test_in_limits_is_said_only_where_there_is_a_limit(dagny: Client, lathe: Machine) -> None:
    said = post(dagny, lathe, "play", push_mm="0.001", pull_mm="0.001")
    assert "no limit set" in said
    assert "in limits" not in said


def test_the_history_of_a_machine_is_a_file(dagny: Client, lathe: Machine) -> None:
    whole = {"near_mm": "50", "near_tir_mm": "8 um", "near_deg": "0", "far_mm": "250", "far_tir_mm": "24 um",
             "far_deg": "0", "note": "=1+1"}  # fmt: skip
    post(dagny, lathe, "spindle", **whole)
    changed = {"changed-changed": "knocked", "changed-day": localdate().isoformat(), "changed-note": "",
               "changed-client_id": str(uuid.uuid4())}  # fmt: skip
    post(dagny, lathe, "changed/spindle", **changed)
    post(dagny, lathe, "take-back/spindle", undo=str(MachineCheck.objects.get(machine=lathe, kind="spindle").pk))
    answer = dagny.get(f"/machine/{lathe.pk}/history.csv")
    assert answer["Content-Type"].startswith("text/csv")
    rows = list(csv.DictReader(io.StringIO(answer.content.decode())))
    spindle = {row["what"]: row for row in rows if row["check"] == "Spindle"}
    assert float(spindle["far_tir_mm"]["value"]) == 0.024
    assert spindle["far_tir_mm"]["typed"] == "24 um"
    assert {row["taken_back"] for row in spindle.values()} == {"yes"}
    assert spindle["near_mm"]["note"] == "'=1+1", "no table program works it out"
    assert float(spindle["near_mm"]["figure_mm"]) == 0.024
    assert [row["check"] for row in rows if row["what"] == ""] == ["knocked"]
    assert dagny.get("/machine/999999/history.csv").status_code == 404


def test_the_bench_says_which_check_is_due(dagny: Client, lathe: Machine) -> None:
    made = localdate() - timedelta(days=175)
    post(dagny, lathe, "play", push_mm="0.004", pull_mm="0", day=made.isoformat())
    due = checks_due_by(localdate() + timedelta(days=28))
    assert [(one.machine, one.label, one.day) for one in due if one.machine == "Lathe 3"] == [
        ("Lathe 3", "Play", made + timedelta(days=180))
    ]
    post(dagny, lathe, "limit/play", **{"limit-limit_mm": "", "limit-every_days": "100"})
    due = checks_due_by(localdate())
    assert made + timedelta(days=100) in [one.day for one in due if one.machine == "Lathe 3"], "as this shop has it"
    found = calendar(localdate())
    assert found is not None
    said = " ".join(one.text for _, scene in found.scenes for one in scene.shapes)
    assert "Lathe 3: play" in said
    assert "Check it" in said
    Machine.objects.filter(pk=lathe.pk).update(retired=True)
    assert not [one for one in checks_due_by(localdate()) if one.machine == "Lathe 3"], "out of use"
