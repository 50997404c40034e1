"""Two people at one bore, one in millimetres and one in inches, doing anything in any order through the pages."""

from __future__ import annotations

import re
import uuid
from contextlib import contextmanager
from typing import Any

import pytest
from django.db import transaction
from django.test import Client
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from gyrometra.accounts.models import User
from gyrometra.bridge.units import Units
from gyrometra.crib.models import Gauge
from gyrometra.jobs.models import Job
from gyrometra.steps import progress_words
from gyrometra.steps.forms import CutsForm
from gyrometra.steps.page import JobPage, open_page
from gyroplan.loop import BoreState, DialWay
from tests.web.conftest import signed_in
from tests.web.test_passes import ALL_GUARDS

JOB = "Q-219"
TENTH_THOU_MM = 0.00254
#: What can be done, with a figure that each reads in its own way.
ACTS = st.tuples(
    st.sampled_from(["set", "set", "set off", "cut", "cut", "cut", "bundle", "size", "size", "far", "touched",
                     "touch-off", "zero", "undo", "depth", "limits", "reload"]),
    st.integers(-40, 40), st.booleans(),
)  # fmt: skip


class Bench:
    """The two of them, and what each does next."""

    def __init__(self, units: tuple[str, str], script: list[float] | None = None) -> None:
        """`script` holds the sizes to type, in their order; without it they are made up and kept in `typed_mm`."""
        self.people = []
        self.script, self.typed_mm = list(script or ()), []  # type: tuple[list[float], list[float]]
        for name, unit in zip(("corin", "dagny"), units, strict=True):
            User.objects.filter(username=name).update(unit=unit)
            self.people.append((signed_in(name), Units(unit)))

    def page(self, units: Units | None = None) -> JobPage:
        return open_page(JOB, units or Units())

    def state(self) -> BoreState:
        state = self.page().passes.state
        assert state is not None
        return state

    def act(self, kind: str, figure: int, second: bool) -> None:
        """One tap, twice: what is sent twice is one entry."""
        client, units = self.people[second]
        state = self.state()
        entry = {"client_id": str(uuid.uuid4()), "guard": ALL_GUARDS, "number": state.in_hand or 1}
        if kind in ("depth", "limits"):
            self._plan(client, units, kind, figure)
        elif kind == "undo":
            _ok(client.post(f"/jobs/{JOB}/take-back/bore/", entry))
        elif kind == "reload":
            for step in ("work", "bar", "cuts", "bore", "check", "sheet"):
                _ok(client.get(f"/jobs/{JOB}/{step}/"))
        else:
            address, fields = self._entry(kind, figure, units, state)
            for _ in range(2):
                _ok(client.post(f"/jobs/{JOB}/cut/{address}/", {**entry, **fields}))

    def _entry(self, kind: str, figure: int, units: Units, state: BoreState) -> tuple[str, dict[str, Any]]:
        if kind == "set off":
            return "set", {"actual": f"{(figure % 40) * 2.5:g}"}
        if kind == "bundle":
            return "cut", {"number": state.in_hand or 1, "through": (state.in_hand or 1) + abs(figure) % 3}
        if kind in ("size", "far"):
            off = figure * TENTH_THOU_MM * (40 if kind == "far" else 1)
            made_up = _snapped(state.set_diameter_mm or state.known_mm) + off
            size = self.script.pop(0) if self.script else made_up
            self.typed_mm.append(size)
            text = typed(size, units)
            gauge = Gauge.objects.measuring(80)[0]
            return "size", {"value": text, "sure": text, "gauge": gauge.pk}
        if kind in ("zero", "touch-off"):
            return kind, {"at_division": f"{abs(figure) * 2}"}
        return kind, {}

    def _plan(self, client: Client, units: Units, kind: str, figure: int) -> None:
        page = self.page(units)
        form = CutsForm(units=units, bore=page.bore_row, at=page.at)
        shown = {key: value for key, value in form.initial_for().items() if value is not None}
        if kind == "depth":
            shown["rough_depth_mm"] = typed(0.508 + 0.0254 * (figure % 8), units)
        else:
            shown["hone_allowance_mm"] = typed(0.00508 * (figure % 4), units)
        _ok(client.post(f"/jobs/{JOB}/save/cuts/", {**shown, "version": page.job.version}))


def _snapped(size_mm: float) -> float:
    """A size that both units can write exactly."""
    return round(size_mm / TENTH_THOU_MM) * TENTH_THOU_MM


def typed(size_mm: float, units: Units) -> str:
    return f"{size_mm:.5f}" if units.unit == "mm" else f"{size_mm / 25.4:.6f}"


def _ok(answer: Any) -> None:
    assert answer.status_code in (200, 302, 409), answer.status_code


@contextmanager
def undone() -> Any:
    """What is done inside is taken back, so that every example begins at the demo shop."""
    with transaction.atomic():
        yield
        transaction.set_rollback(True)


def laws(bench: Bench) -> None:
    """What holds whatever was done."""
    page = bench.page()
    state, ladder = page.passes.state, page.passes.ladder
    assert state is not None
    assert ladder is not None
    aim = ladder.replay.memory.bore.bored_aim_mm
    assert state.known_mm + state.to_come_off_mm == pytest.approx(aim, abs=1e-9), "the target stays"
    assert (state.told is not None) == (state.phase == "set"), "a move is told once, before it is made"
    job = Job.objects.get(number=JOB)
    bore = next(step for step in job.stations["steps"] if step["step"] == "bore")
    if state.phase == "over":
        assert bore["state"] == "bad", "over is never green"
    if bore["code"] in ("bored", "bored_over"):
        assert bore["values"]["size_mm"] == pytest.approx(state.known_mm, abs=1e-9), "one size on rail, bench and Bore"
    way = ladder.way
    if isinstance(way, DialWay) and state.told is not None:
        assert state.stands_at is not None
        sign = 1 if way.numbers == "rise" else -1
        after = (state.stands_at + sign * (state.told.divisions or 0.0)) % way.divisions_per_turn
        assert min(abs(after - (state.told.to_division or 0.0)), way.divisions_per_turn) % (
            way.divisions_per_turn
        ) == pytest.approx(0, abs=1e-6), "from where the dial stands by what is told to where it then stands"
    for client, units in bench.people:
        text = client.get(f"/jobs/{JOB}/bore/").content.decode().split("<main", 1)[1]
        if state.phase == "over":
            assert "Over: stop" in text
        words = progress_words.line_words(bore, units)
        assert re.search(r"[a-z]", words)


@settings(max_examples=12, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(drawn=st.lists(ACTS, min_size=3, max_size=14))
def test_nothing_two_people_do_breaks_a_law(db: None, drawn: list[tuple[str, int, bool]]) -> None:
    with undone():
        bench = Bench(("mm", "in"))
        for act in drawn:
            bench.act(*act)
        laws(bench)


@settings(max_examples=8, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(drawn=st.lists(ACTS, min_size=3, max_size=12))
def test_typed_in_inches_or_in_millimetres_it_is_the_same_job(db: None, drawn: list[tuple[str, int, bool]]) -> None:
    found, script = [], []  # type: tuple[list[Any], list[float]]
    for units in (("mm", "mm"), ("in", "in")):
        with undone():
            bench = Bench(units, script)
            for act in drawn:
                bench.act(*act)
            script = bench.typed_mm
            state = bench.state()
            found.append((state.phase, state.in_hand, state.verdict, len(bench.page().passes.done), state.known_mm))
    assert found[0][:-1] == found[1][:-1]
    assert found[0][-1] == pytest.approx(found[1][-1], abs=2e-6)
