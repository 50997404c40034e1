"""A cut that squeals, on its page: a recording named, by ear, one change at a time, several at once."""

from __future__ import annotations

import io
import math
import struct
import uuid
import wave
from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client

from gyrometra.bridge.units import Units
from gyrometra.crib.models import Bar, CribChange
from gyrometra.cutting.models import CutEntry
from gyrometra.cutting.sound import NoSound, read_wav
from gyrometra.jobs.models import Plan
from gyrometra.steps.page import open_page
from tests.web.said import flat
from tests.web.test_passes import cut, log

pytestmark = pytest.mark.django_db
PAGE = "/jobs/Q-214/noise/"


def wav(
    *parts: tuple[float, float], rate: int = 16000, seconds: float = 1.0, width: int = 2, channels: int = 1
) -> bytes:
    file = io.BytesIO()
    with wave.open(file, "wb") as out:
        out.setnchannels(channels)
        out.setsampwidth(width)
        out.setframerate(rate)
        for n in range(int(seconds * rate)):
            value = sum(a * math.sin(2 * math.pi * hz * n / rate) for hz, a in parts)
            whole = round(value * (2 ** (8 * width - 1) - 1))
            one = struct.pack("B", whole + 128) if width == 1 else whole.to_bytes(width, "little", signed=True)
            out.writeframes(one * channels)
    return file.getvalue()


def hear(client: Client, content: bytes | None = None, **fields: Any) -> str:
    sent = {"client_id": str(uuid.uuid4()), "number": 4, **fields}
    if content is not None:
        sent["wav"] = SimpleUploadedFile("cut.wav", content, content_type="audio/wav")
    return flat(client.post(PAGE + "hear/", sent, headers={"HX-Request": "true"}))


def tried(client: Client, **fields: Any) -> str:
    sent = {"client_id": str(uuid.uuid4()), "number": 4, **fields}
    return flat(client.post(PAGE + "tried/", sent, headers={"HX-Request": "true"}))


@pytest.mark.parametrize(("width", "channels"), [(1, 1), (2, 2), (3, 1), (4, 1)])
def test_every_width_of_wav_reads_alike(width: int, channels: int) -> None:
    values, rate = read_wav(wav((440.0, 0.5), width=width, channels=channels, seconds=0.1))
    assert (rate, len(values)) == (16000.0, 1600)
    assert max(values) == pytest.approx(0.5, abs=0.01)


@pytest.mark.parametrize("content", [b"", b"RIFF", b"no sound at all" * 40, wav((440.0, 0.5), seconds=0.01)])
def test_what_is_no_recording_is_refused_in_words(content: bytes) -> None:
    with pytest.raises(NoSound, match="recording"):
        read_wav(content)


def test_a_recording_is_named_and_moves_what_is_believed(corin: Client) -> None:
    cut(corin, "Q-214", 4)
    page = open_page("Q-214", Units())
    natural = page.bar.frequency_hz
    assert natural is not None
    said = hear(corin, wav((1.02 * natural, 0.6), (4 * 355 / 60, 0.2)))
    assert "the bar, Bar 7" in said
    assert "4 a turn" in said
    assert "within 0.95 to 1.3 of its natural frequency" in said
    row = CutEntry.objects.filter(kind="noise").latest("pk")
    assert row.sound == "squeal"
    assert row.rests_on["tones"][0]["name"] == "bar"
    believed = open_page("Q-214", Units()).bar.believed
    assert believed is not None
    assert (believed.number, believed.chattered) == (4, True)
    assert "pass 4 squealed: damping" in said
    assert "It squeals: what to change" in flat(corin.get("/jobs/Q-214/bore/?to=measure")), "Bore leads to it"


def test_by_ear_without_a_microphone(corin: Client) -> None:
    cut(corin, "Q-214", 4)
    assert "High: the bar, most often." in hear(corin, pitch="high")
    assert "A rumble is seldom the bar" in hear(corin, pitch="low")
    assert [row.sound for row in CutEntry.objects.filter(kind="noise").order_by("pk")] == ["squeal", ""]
    assert "Record the cut, choose a WAV, or say" in hear(corin)
    assert "no recording that can be read" in hear(corin, b"nonsense" * 90)
    assert CutEntry.objects.filter(kind="noise").count() == 2


def test_one_change_and_several_at_once(corin: Client) -> None:
    cut(corin, "Q-214", 4)
    one = tried(corin, changed=["feed"], sound="hum", words="0.08 to 0.10")
    assert "0.08 to 0.10" in one
    assert "cause not isolated" not in one
    both = tried(corin, changed=["feed", "speed"], sound="quiet")
    assert "cause not isolated" in both
    assert "What was changed? Tick it" in tried(corin, sound="quiet")
    assert CutEntry.objects.filter(kind="tried").count() == 2
    same = str(uuid.uuid4())
    for _ in range(2):
        tried(corin, changed=["feed"], sound="quiet", client_id=same)
    assert CutEntry.objects.filter(kind="tried").count() == 3


def test_suggestions_stand_with_figures_and_reasons(corin: Client) -> None:
    cut(corin, "Q-214", 4)
    said = hear(corin, pitch="high")
    assert "% under" in said
    assert "Ra " in said
    assert "none in the crib" in said
    assert "Back to pass 4" in said


def test_without_a_bar_the_page_says_what_is_missing(corin: Client) -> None:
    assert "A bar, a cutter and passes are needed" in flat(corin.get("/jobs/Q-223/noise/"))


def test_the_later_word_on_a_pass_counts(corin: Client) -> None:
    """A remark before the recording gives way to it, one after it stands."""
    cut(corin, "Q-214", 4)
    log(corin, "Q-214", "remark", number=4, sound="hum", look="clean")
    hear(corin, pitch="high")
    believed = open_page("Q-214", Units()).bar.believed
    assert believed is not None
    assert (believed.number, believed.chattered) == (4, True)
    log(corin, "Q-214", "remark", number=4, sound="hum", look="clean")
    believed = open_page("Q-214", Units()).bar.believed
    assert believed is not None
    assert believed.number is None


def test_a_tuned_bar_is_told_where_its_damper_goes_next(corin: Client) -> None:
    bar = Bar.objects.get(name="Bar 14, tuned")
    Plan.objects.filter(setup__job__number="Q-214").update(bar=bar)
    cut(corin, "Q-214", 4)
    out = open_page("Q-214", Units()).bar.out_mm
    assert out is not None
    said = flat(corin.get(PAGE))
    assert "Full in; both locks tight, tap it, cut, listen." in said
    said = tried(corin, changed=["damper"], sound="squeal", turns="0")
    assert "steps of 1; both locks tight" in said
    assert "0 turns out" in said, "what was tried stands in the list"
    said = tried(corin, changed=["damper"], sound="quiet", turns="1")
    assert "best of 2 tried, it runs quiet" in said
    assert "It stands so: keep it" in said
    wrong = flat(corin.post(f"{PAGE}stands/", {"turns": "far"}))
    assert "Turns are a figure like 1.5." in wrong
    for _ in range(2):
        corin.post(f"{PAGE}stands/", {"turns": "1"})
    bar.refresh_from_db()
    assert bar.tuned_turns == 1
    assert CribChange.objects.filter(kind="bar", item_id=bar.pk, what="changed").count() == 1, "a double tap is one"
    assert "card: 1 turns out" in flat(corin.get(PAGE))
    Bar.objects.filter(pk=bar.pk).update(tuned=[])
    assert "no tuned bar here" in flat(corin.post(f"{PAGE}stands/", {"turns": "2"}))
    Bar.objects.filter(pk=bar.pk).update(tuned=[[out, 2.5]])
    assert "by its owner&#x27;s table for this overhang" in corin.get(PAGE).content.decode(), "the table goes before"
