"""One taper told twice on Check: sizes along the bore, and an indicator run along its wall."""

from __future__ import annotations

import uuid

import pytest
from django.test import Client

from gyrometra.crib.models import Indicator
from gyrometra.jobs.models import Bore
from gyrometra.steps.page import open_page
from gyroplan.assess import Checked
from tests.web.said import flat
from tests.web.test_check import DEPTHS, MM, whole

pytestmark = pytest.mark.django_db
ROUND, READ = "/jobs/Q-214/round/check/", "/jobs/Q-214/reading/check/"


def run(client: Client, grows_um: int, sides: int = 2) -> str:
    """Run along so many walls at 20, 70, 120: each opens by half of what the bore grows on Ø over the 100 between."""
    indicator = Indicator.objects.get(name="Indicator 1")
    depths = " ".join(f"{z}" for z in DEPTHS)
    client.post(ROUND, {"method": "walls", "sides": sides, "depths": depths, "indicator": indicator.pk})
    wall = [0, -round(grows_um / 4), -round(grows_um / 2)]
    said = ""
    for place, value in enumerate([*wall * sides, 0]):
        sent = {"value": str(value), "place": place, "client_id": str(uuid.uuid4())}
        said = flat(client.post(READ, sent, headers={"HX-Request": "true"}))
    return said


def judged() -> Checked:
    return open_page("Q-214", MM).judged


def tapered(client: Client, grows_mm: float) -> None:
    """Every place in limits; over the 100 between the first depth and the last it grows by so much."""
    whole(client, {(z, angle): 72.010 + grows_mm * (z - 20) / 100 for z in DEPTHS for angle in (0, 90)})


def test_a_run_that_agrees_is_told_and_changes_nothing(corin: Client) -> None:
    tapered(corin, 0.008)
    before = judged()
    said = run(corin, 8)
    assert "Run along its wall it grows by 0.008 on Ø going in over 100 mm" in said
    told = judged().tapers
    assert told is not None
    assert told.by_sizes_mm == pytest.approx(0.008)
    assert told.by_run_mm == pytest.approx(0.008)
    assert not told.contradict
    assert judged().word == before.word
    runout = judged().state.limits.runout
    assert runout is not None
    assert runout.value_mm == pytest.approx(0.006), "the run along the wall is no sweep"


@pytest.mark.parametrize(("by_run_um", "says"), [(-40, "narrows by 0.040"), (48, "grows by 0.048")])
def test_two_tapers_that_differ_several_fold_cannot_both_be_true(corin: Client, by_run_um: int, says: str) -> None:
    tapered(corin, 0.008)
    said = run(corin, by_run_um)
    assert "By its sizes the bore grows by 0.008 on Ø going in over 100 mm" in said
    assert f"run along its wall it {says} on Ø going in. The two cannot both be true. Read both again" in said
    assert judged().word == "incomplete"
    assert "cannot both be true: read both again" in flat(corin.get("/jobs/Q-214/check/"))
    Bore.objects.filter(setup__job__number="Q-214").update(taper_limit_mm=None)
    assert judged().word == "in", "said, but no taper is judged"


def test_one_that_is_twice_the_other_was_read_per_side(corin: Client) -> None:
    tapered(corin, 0.014)
    assert "One is twice the other: was one of them read per side?" in run(corin, 28)


def test_one_wall_alone_cannot_tell_and_a_shaken_run_is_void(corin: Client) -> None:
    tapered(corin, 0.008)
    run(corin, 60, sides=1)
    assert judged().tapers is None, "a lean looks the same on one wall"
    indicator = Indicator.objects.get(name="Indicator 1")
    corin.post(ROUND, {"method": "walls", "sides": 2, "depths": "20 120", "indicator": indicator.pk})
    for place, value in enumerate([0, -30, 0, -30, 25]):
        corin.post(READ, {"value": str(value), "place": place, "client_id": str(uuid.uuid4())})
    assert open_page("Q-214", MM).sweeps[-1].is_void
    assert judged().tapers is None
    said = flat(corin.post(ROUND, {"method": "walls", "sides": 2, "depths": "20 400", "indicator": indicator.pk}))
    assert "The part is 140 mm long; a depth of 400 was given." in said
