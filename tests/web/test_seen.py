"""Chips, coolant, edge, words and a picture of a pass, in two taps; what follows from them for the next pass."""

from __future__ import annotations

import uuid
from io import BytesIO
from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from PIL import Image

from gyrometra.cutting.models import CutEntry
from gyrometra.jobs.models import JobPhoto
from gyrometra.steps.page import open_page
from tests.web.said import flat
from tests.web.test_check import MM

pytestmark = pytest.mark.django_db


def last_done() -> int:
    return open_page("Q-214", MM).passes.done[-1].number


def seen(client: Client, **said: Any) -> str:
    fields = {"client_id": str(uuid.uuid4()), "number": last_done(), **said}
    return flat(client.post("/jobs/Q-214/cut/seen/", fields, headers={"HX-Request": "true"}))


def test_a_tap_is_an_entry_and_stands_in_the_log(corin: Client) -> None:
    before = open_page("Q-214", MM).passes.state
    seen(corin, chips="long")
    said = seen(corin, coolant="brushed")
    assert "chips long; coolant oil, brushed on" in said
    assert "Long chips: more feed or a deeper pass breaks them" in said
    seen(corin, chips="broken")
    said = seen(corin, words="skin gone all round")
    assert "chips short, broken; coolant oil, brushed on; skin gone all round" in said, "the later one stands"
    assert "Long chips" not in said
    assert open_page("Q-214", MM).passes.state == before, "nothing of the loop follows"
    assert CutEntry.objects.filter(kind="seen").count() == 4
    same = str(uuid.uuid4())
    for _ in range(2):
        seen(corin, edge="worn", client_id=same)
    assert CutEntry.objects.filter(kind="seen", edge="worn").count() == 1
    assert "turn or grind it before a pass that can end in the limits" in flat(corin.get("/jobs/Q-214/bore/"))


@pytest.mark.parametrize(
    ("said", "words"),
    [({}, "Type the remark, or tap what was seen."), ({"chips": "blue"}, ""), ({"words": "x" * 61}, ""),
     ({"chips": "long", "number": 99}, "There is no pass 99")],
)  # fmt: skip
def test_what_cannot_be_said(corin: Client, said: dict[str, Any], words: str) -> None:
    assert words in seen(corin, **said)
    assert not CutEntry.objects.filter(kind="seen").exists()


def test_a_picture_of_the_pass_stands_with_the_job(corin: Client) -> None:
    page = flat(corin.get("/jobs/Q-214/bore/"))
    assert f'value="pass {last_done()}"' in page
    out = BytesIO()
    Image.new("RGB", (40, 30), "grey").save(out, "PNG")
    file = SimpleUploadedFile("chips.png", out.getvalue(), content_type="image/png")
    answer = corin.post("/jobs/Q-214/photos/picture/", {"from": "bore", "picture": file, "words": "pass 3"})
    assert answer.headers["Location"].endswith("/jobs/Q-214/bore/")
    assert JobPhoto.objects.get(job__number="Q-214").words == "pass 3"
    refused = corin.post("/jobs/Q-214/photos/picture/", {"from": "bore", "words": "pass 3"})
    assert "Choose a picture first." in flat(refused)
    assert "Chips, coolant, edge" in flat(refused), "still on Bore"
