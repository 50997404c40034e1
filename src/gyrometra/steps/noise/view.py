"""Views of Noise: a cut that squeals is heard, named, and changed one thing at a time."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect
from django.urls import reverse
from django.views.decorators.http import require_POST, require_safe

from gyrometra.accounts.people import member
from gyrometra.crib.services import note_damper
from gyrometra.cutting import services as cutting
from gyrometra.cutting.models import CutEntry
from gyrometra.cutting.sound import NoSound, read_wav
from gyrometra.steps.noise.form import PITCHES, HearForm, StandsForm, TriedForm
from gyrometra.steps.noise.plates import noise as plates
from gyrometra.steps.noise.plates import tone_words
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.entry_view import entry_view, sent_by
from gyrometra.steps.shared.view import page_for, show
from gyroplan.assess import chatter_of
from gyroplan.noise import Sound, sound_of


def show_noise(request: HttpRequest, page: JobPage, extra: dict[str, Any]) -> HttpResponse:
    shown = {**plates(page), "hear_form": HearForm(), "tried_form": TriedForm(), "pitches": PITCHES}
    return show(request, page, "bore", {**shown, **extra}, "steps/noise.html")


@require_safe
def noise(request: HttpRequest, number: str) -> HttpResponse:
    """What was heard of the bore that is shown, and what to change."""
    return show_noise(request, page_for(request, number), {})


@entry_view(lambda **_: ("noise", show_noise))
def hear(request: HttpRequest, page: JobPage) -> dict[str, Any] | None:
    """Log what was heard: a recording, worked out, or its pitch by ear."""
    form = HearForm(request.POST, request.FILES)
    if not form.is_valid():
        return {"hear_form": form}
    values = form.cleaned_data
    if values["wav"]:
        try:
            made = _recorded(page, values["wav"].read())
        except NoSound as refused:
            form.add_error("wav", str(refused))
            return {"hear_form": form}
    else:
        made = {"by": "ear", "pitch": values["pitch"], "words": dict(PITCHES)[values["pitch"]]}
    rings = any(one["name"] == "bar" and one["level_db"] > _LOUD_DB for one in made.get("tones", []))
    squeals = rings or made.get("pitch") == "high"
    _log(request, page, values, CutEntry.Kind.NOISE, rests_on=made, sound=CutEntry.Sound.SQUEAL if squeals else "")
    return None


#: A tone of the bar this far under the loudest is no squeal (chosen here) [dB].
_LOUD_DB = -20.0


def _recorded(page: JobPage, content: bytes) -> dict[str, Any]:
    """A recording as it is kept: not the sound itself, but what it says."""
    samples, rate = read_wav(content)
    found, machine = chatter_of(page.boring), page.at.machine
    rpm = found.rpm if found is not None and found.rpm else (machine.speeds_rpm or [100.0])[0]
    heard = sound_of(
        samples, rate, rpm=rpm, natural_hz=page.bar.frequency_hz,
        speeds_rpm=None if machine.stepless or not machine.speeds_rpm else machine.speeds_rpm,
    )  # fmt: skip
    return {
        "by": "recording", "rpm": rpm, "natural_hz": page.bar.frequency_hz, "seconds": round(heard.seconds, 2),
        "tones": [asdict(one) for one in heard.tones], "pockets_rpm": list(heard.pockets_rpm),
        "levels_db": list(heard.levels_db), "words": _words(page, heard),
    }  # fmt: skip


def _words(page: JobPage, heard: Sound) -> str:
    """The strongest tone, in words."""
    if not heard.tones:
        return "no tone stands out"
    first = heard.tones[0]
    bar = page.at.bar.name if page.at.bar else ""
    return f"{first.frequency_hz:.0f} Hz, {tone_words(asdict(first), [asdict(one) for one in heard.tones], bar)}"


@entry_view(lambda **_: ("noise", show_noise))
def tried(request: HttpRequest, page: JobPage) -> dict[str, Any] | None:
    """Log what was changed, and how it sounds since."""
    form = TriedForm(request.POST)
    if not form.is_valid():
        return {"tried_form": form}
    values = form.cleaned_data
    made = {"changed": values["changed"], "words": values["words"].strip()}
    if values["turns"] is not None:
        made |= {"turns": float(values["turns"]), "bar": str(page.job.setup.plan.bar or ""),
                 "words": f"{values['turns'].normalize():f} turns out"}  # fmt: skip
    _log(request, page, values, CutEntry.Kind.TRIED, rests_on=made, sound=values["sound"])
    return None


@require_POST
def stands(request: HttpRequest, number: str) -> HttpResponse:
    """Keep on the bar's card where its damper stands, as it was found here."""
    page = page_for(request, number)
    form, bar = StandsForm(request.POST), page.job.setup.plan.bar
    if page.is_locked or bar is None or not bar.tuned:
        return show_noise(request, page, {"refused": "There is no tuned bar here to keep it for."})
    if not form.is_valid():
        return show_noise(request, page, {"refused": str(next(iter(form.errors.values()))[0])})
    note_damper(user=member(request), bar=bar, turns=form.cleaned_data["turns"])
    return redirect(reverse("noise", args=(number,)) + page.query)


def _log(request: HttpRequest, page: JobPage, values: dict[str, Any], kind: str, **kept: Any) -> None:
    header = cutting.Header(sent=sent_by(request, values), bore=page.bore_row, piece=page.piece)
    cutting.log_note(header=header, kind=kind, number=values["number"], **kept)
