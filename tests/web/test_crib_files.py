"""The crib as files, its history, its labels, and a starter set for an empty one."""

import json
from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import DatabaseError, transaction
from django.test import Client

from gyrometra.crib import exchange, starter
from gyrometra.crib.forms import FORMS
from gyrometra.crib.models import Bar, CribChange, Cutter, Gauge, Head, Indicator, Machine
from gyrometra.crib.values import MM, plain_of
from gyrometra.jobs.models import Job


def send(client: Client, name: str, text: str | bytes, kind: str = "") -> str:
    content = text.encode() if isinstance(text, str) else text
    file = SimpleUploadedFile(name, content)
    return client.post("/crib/take-in/", {"file": file, "kind": kind}, follow=True).content.decode()


def everything() -> dict[str, list[dict[str, str]]]:
    return {key: [plain_of(item) for item in form.model._default_manager.all()] for key, form in FORMS.items()}


def test_the_whole_crib_goes_out_and_comes_back_the_same(dagny: Client) -> None:
    before, text = everything(), dagny.get("/crib/crib.json").content.decode()
    Bar.objects.filter(name="Bar 3").delete()
    Cutter.objects.filter(name="Bit 5, honed").update(nose_radius_mm=3)
    Head.objects.get(name="Head 2").holes.all().delete()
    said = send(dagny, "crib.json", text)
    assert "1 added, " in said
    assert {k: sorted(v, key=str) for k, v in everything().items()} == {
        k: sorted(v, key=str) for k, v in before.items()
    }


@pytest.mark.parametrize("kind", list(FORMS))
def test_each_kind_goes_out_and_comes_back_as_a_table(dagny: Client, kind: str) -> None:
    answer = dagny.get(f"/crib/crib-{kind}.csv")
    assert answer["Content-Disposition"] == f'attachment; filename="crib-{kind}.csv"'
    before, changes = everything(), CribChange.objects.count()
    assert "0 added, 0 changed" in send(dagny, f"{kind}.csv", answer.content, kind)
    assert everything() == before
    assert CribChange.objects.count() == changes, "nothing was changed, so nothing is noted"


CUTTERS = "name,made_of,nose_radius_mm,entering_angle_deg,least_depth_mm"


@pytest.mark.parametrize(
    ("name", "text", "kind", "says"),
    [
        ("x.csv", "name,colour\nA,red", "cutter", "Unknown columns: colour. A cutter has name, made_of"),
        ("x.csv", "name,made_of\nA,hss", "cutter", "Missing columns: nose_radius_mm"),
        ("x.csv", f"{CUTTERS}\nA,hss,0.4,90,0.05\nB,brass,0.4,90,0", "cutter", "line 3, B: Made of: "),
        ("x.csv", f"{CUTTERS}\nA,hss,0.4,90,0.05\nA,hss,0.4,90,0.05", "cutter",
         "line 3, A: the name stands in the file twice"),
        ("x.csv", f"{CUTTERS}\nA,hss,\"1,250\",90,0.05", "cutter", "line 2, A: Nose radius: "),
        ("x.csv", f"{CUTTERS}\nA,hss,0.4,90,0.05,more", "cutter",
         "line 2: this row has fields that a cutter does not have"),
        ("x.csv", CUTTERS, "cutter", "x.csv has no rows"),
        ("x.csv", f"{CUTTERS}\nA,hss,0.4,90,0.05", "", "say which"),
        ("x.json", "{\"format\":", "", "was the file cut short?"),
        ("x.json", "[1]", "", "This JSON is no crib"),
        ("x.json", '{"format": "gyrometra-crib", "version": 2}', "", "version 1 is read here"),
        ("x.json", '{"format": "gyrometra-crib", "version": 1, "hat": []}', "", "“hat” is no kind of thing"),
        ("x.json", '{"format": "gyrometra-crib", "version": 1, "bar": [7]}', "", "bar 1: this row has fields"),
        ("x.json", b"\xff\xfe\x00", "", "is no text file in UTF-8"),
        ("x.json", b"x" * 2_000_001, "", "larger than 2 MB"),
    ],
)  # fmt: skip
def test_a_file_that_cannot_be_is_refused_whole(dagny: Client, name: str, text: Any, kind: str, says: str) -> None:
    before = everything()
    said = send(dagny, name, text, kind).replace("&quot;", '"')
    assert "Nothing was imported." in said
    assert says in said
    assert everything() == before


def test_a_bad_row_leaves_the_good_ones_out_too(dagny: Client) -> None:
    data = json.loads(exchange.to_json())
    data["bar"].append({**data["bar"][0], "name": "Bar new"})
    data["bar"].append({**data["bar"][0], "name": "Bar bad", "diameter_mm": "-1"})
    assert "Bar bad: Diameter, measured: Diameter, measured must be over 0" in send(
        dagny, "crib.json", json.dumps(data)
    )
    assert not Bar.objects.filter(name="Bar new").exists()


def test_no_file_is_said(dagny: Client) -> None:
    assert "Choose a file first." in dagny.post("/crib/take-in/", {}).content.decode()
    assert dagny.get("/crib/crib-hat.csv").status_code == 404


# ---------------------------------------------------------------- history and labels


def test_a_change_is_kept_with_what_it_was(dagny: Client) -> None:
    bar = Bar.objects.get(name="Bar 7")
    fields = {**plain_of(bar), "diameter_mm": "39.98", "notes": "worn at the tip"}
    dagny.post(f"/crib/bar/{bar.pk}/", fields)
    change = CribChange.objects.filter(kind="bar", item_id=bar.pk)[0]
    assert (change.by.username, change.what) == ("dagny", "changed")
    assert change.fields == {"diameter_mm": ["40", "39.98"], "notes": ["", "worn at the tip"]}
    text = dagny.get(f"/crib/bar/{bar.pk}/").content.decode()
    assert "changed: Diameter, measured 40 mm to 39.98 mm; Notes empty to worn at the tip" in text
    assert "dagny, put in" in text
    with pytest.raises(DatabaseError), transaction.atomic():
        CribChange.objects.all().delete()


@pytest.mark.parametrize("kind", list(FORMS))
def test_every_thing_has_a_label_with_a_code(dagny: Client, kind: str) -> None:
    item = FORMS[kind].model._default_manager.all()[0]
    text = dagny.get(f"/crib/{kind}/{item.pk}/label/").content.decode()
    assert f"http://testserver/crib/{kind}/{item.pk}/" in text
    assert 'class="qr"' in text
    assert "style=" not in text
    assert dagny.get("/crib/hat/1/label/").status_code == 404


# ---------------------------------------------------------------- starter set


def test_an_empty_crib_takes_a_starter_set_once(dagny: Client) -> None:
    assert "is for what is missing" in dagny.post("/crib/starter/", follow=True).content.decode()
    Job.objects.all().update(stations={})
    with transaction.atomic():
        for model in (Bar, Cutter, Head, Gauge, Indicator, Machine):
            model.objects.update(retired=True)
    assert "Load a starter set" not in dagny.get("/crib/").content.decode(), "out of use is not empty"


def test_the_starter_set_passes_the_forms_and_says_its_source(db: None) -> None:
    rows = starter.rows()
    assert {kind for kind, _ in rows} == set(FORMS) - {"head", "material", "size"}
    for kind, item in rows:
        form = FORMS[kind](item, units=MM)
        assert form.is_valid(), form.errors
        assert form.cleaned_data["notes"].startswith("General")


def test_a_cell_that_would_be_a_formula_is_text_out_and_in(dagny: Client) -> None:
    gauge = Gauge.objects.all()[0]
    Gauge.objects.filter(pk=gauge.pk).update(notes="=HYPERLINK(1)")
    out = dagny.get("/crib/crib-gauge.csv").content.decode()
    assert ",'=HYPERLINK(1)" in out
    file = SimpleUploadedFile("x.csv", out.encode())
    text = dagny.post("/crib/take-in/", {"file": file, "kind": "gauge"}, follow=True).content.decode()
    assert "0 added, 0 changed" in text, "what did not change is not counted as changed"
    gauge.refresh_from_db()
    assert gauge.notes == "=HYPERLINK(1)"


def test_a_cell_that_is_far_too_long_is_named(dagny: Client) -> None:
    file = SimpleUploadedFile("x.csv", b"name,notes\n" + b"x" * 140_000 + b",1\n")
    text = dagny.post("/crib/take-in/", {"file": file, "kind": "gauge"}).content.decode()
    assert "Missing columns" in text or "cannot be read" in text
