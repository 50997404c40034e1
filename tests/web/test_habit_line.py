"""The habit of the bar is said where the cutter setting is planned, and on the sheet that hangs at the machine."""

import pytest
from django.test import Client

from gyrometra.cutting.models import BarSeen
from gyrometra.steps.page import open_page
from tests.web.said import flat
from tests.web.test_check import MM
from tests.web.test_passes import cut, size

pytestmark = pytest.mark.django_db


def test_the_habit_is_said_on_cuts_and_on_the_sheet(dagny: Client) -> None:
    number = open_page("Q-214", MM).passes.state.in_hand  # type: ignore[union-attr]
    cut(dagny, "Q-214", number)  # type: ignore[arg-type]
    known = open_page("Q-214", MM).passes.known_mm
    size(dagny, "Q-214", f"{known - 0.02:.3f}")
    assert BarSeen.objects.filter(setup__job__number="Q-214", number=number).exists()
    for page in ("cuts", "sheet"):
        said = flat(dagny.get(f"/jobs/Q-214/{page}/"))
        assert "This bar comes out" in said
        assert "measured pass" in said
    assert "small" in flat(dagny.get("/jobs/Q-214/cuts/"))
    BarSeen.objects.all().delete()
    fresh = flat(dagny.get("/jobs/Q-219/cuts/"))
    assert "This bar comes out" not in fresh, "a bar that nobody has seen has no habit"
