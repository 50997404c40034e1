"""The finished bore: what counts as measured, what each doubt does, what is frozen when signed."""

import uuid
from datetime import timedelta
from math import cos, radians
from typing import Any

import pytest
from django.test import Client
from django.utils import timezone

from gyrometra.bridge.units import Units
from gyrometra.crib.models import Gauge, Indicator
from gyrometra.inspection.models import SizeReading
from gyrometra.jobs.models import Job
from gyrometra.steps.page import open_page
from gyrometra.steps.plates import verdict_plate

MM = Units("mm")
DEPTHS = (20, 70, 120)


def log(client: Client, size: float, z: float, angle: float = 0, **more: Any) -> str:
    gauge = Gauge.objects.get(name=more.pop("gauge", "Bore gauge 50-100"))
    fields = {"client_id": str(uuid.uuid4()), "value": f"{size:.3f}", "z": z, "angle_deg": angle, "gauge": gauge.pk}
    answer = client.post("/jobs/Q-214/size/", {**fields, **more}, headers={"HX-Request": "true"})
    return answer.content.decode()


def sweep(client: Client, swing: int) -> None:
    indicator = Indicator.objects.get(name="Indicator 1")
    client.post("/jobs/Q-214/round/check/", {"method": "sweep", "places": 4, "indicator": indicator.pk})
    for place, value in enumerate([0, swing // 2, swing, swing // 2, 0]):
        fields = {"value": str(value), "place": place, "client_id": str(uuid.uuid4())}
        client.post("/jobs/Q-214/reading/check/", fields)


def whole(client: Client, sizes: dict[tuple[int, int], float], swing: int = 6) -> Any:
    """Measure every place, swept too; `sizes` overrides 72.012."""
    for z in DEPTHS:
        for angle in (0, 90):
            log(client, sizes.get((z, angle), 72.012), z, angle)
    sweep(client, swing)
    return open_page("Q-214", MM)


def lines(page: Any) -> dict[str, str]:
    found = {line.name.split(",")[0].split(" ")[0]: line.judged for line in page.judged.lines}
    return {name: judged.verdict for name, judged in found.items() if judged}


def test_all_in(corin: Client) -> None:
    page = whole(corin, {})
    assert page.judged.word == "in"
    assert lines(page) == {"Taper": "in", "Roundness": "in", "Run-out": "in"}


def test_taper_over_its_limit(corin: Client) -> None:
    page = whole(corin, {(20, 0): 72.025, (20, 90): 72.025, (120, 0): 72.004, (120, 90): 72.004})
    assert lines(page)["Taper"] == "over"
    plate = verdict_plate(page)
    assert (plate.word, "Taper over the bore over its limit" in plate.reason) == ("over", True)
    assert "A taper where the work turns" in corin.get("/jobs/Q-214/check/").content.decode()


def test_out_of_round(corin: Client) -> None:
    page = whole(corin, {(70, 0): 72.026, (70, 90): 72.003})
    assert lines(page)["Roundness"] == "undecided-high"
    assert page.judged.word == "not-proven"


@pytest.mark.parametrize(("swing", "word"), [(18, "in"), (20, "not-proven"), (22, "over")])
def test_runout_is_judged_with_the_indicators_doubt(corin: Client, swing: int, word: str) -> None:
    assert whole(corin, {}, swing).judged.word == word


def test_a_place_measured_again_supersedes_and_a_repeat_adds(corin: Client) -> None:
    log(corin, 72.030, 20)
    log(corin, 72.012, 20)
    place = open_page("Q-214", MM).judged.places[(20, 0)]
    assert [float(r.value_mm) for r in place.readings] == [72.012]
    log(corin, 72.014, 20, repeat="on")
    place = open_page("Q-214", MM).judged.places[(20, 0)]
    assert place.measured is not None
    assert place.measured.mean_mm == pytest.approx(72.013)
    assert SizeReading.objects.filter(setup__job__number="Q-214").count() == 3


def test_more_repeats_shrink_the_doubt(corin: Client) -> None:
    log(corin, 72.012, 20)
    before = open_page("Q-214", MM).judged.expanded_mm
    for _ in range(4):
        log(corin, 72.012, 20, repeat="on")
    assert open_page("Q-214", MM).judged.expanded_mm < before


def test_a_size_sent_twice_stands_once(corin: Client) -> None:
    entry = str(uuid.uuid4())
    for _ in range(2):
        log(corin, 72.012, 20, client_id=entry, repeat="on")
    assert SizeReading.objects.filter(client_id=entry).count() == 1
    assert len(open_page("Q-214", MM).judged.readings) == 1


def test_taken_back_sizes_are_crossed_out(corin: Client) -> None:
    log(corin, 72.012, 20)
    corin.post("/jobs/Q-214/take-back/check/", {"client_id": str(uuid.uuid4()), "what": "size"})
    assert open_page("Q-214", MM).judged.readings == []
    assert SizeReading.objects.filter(setup__job__number="Q-214").count() == 2


def test_a_warm_part_is_brought_to_twenty(corin: Client) -> None:
    log(corin, 72.020, 20, part_temp_c="30")
    place = open_page("Q-214", MM).judged.places[(20, 0)]
    assert place.measured is not None
    assert place.measured.value_mm == pytest.approx(72.020 * (1 - 10.5e-6 * 10))


def test_an_overdue_gauge_proves_nothing(corin: Client) -> None:
    gauge = Gauge.objects.get(name="Bore gauge 50-100")
    gauge.due_on = timezone.localdate() - timedelta(days=1)
    gauge.save()
    page = whole(corin, {})
    assert page.judged.word == "incomplete"
    assert page.judged.missing == ["Bore gauge 50-100 is past its check date"]
    assert "past its check date" in corin.get("/crib/").content.decode()


def test_too_coarse_a_gauge_cannot_tell(corin: Client) -> None:
    for z in DEPTHS:
        for angle in (0, 90):
            log(corin, 72.01, z, angle, gauge="Inside micrometer 50-75")
    sweep(corin, 4)
    page = open_page("Q-214", MM)
    assert page.judged.word == "not-proven"
    assert any(name == "Finer gauge" for name, _, _ in verdict_plate(page).ways)


@pytest.mark.parametrize("z", ["-1", "141", "deep"])
def test_depths_lie_in_the_bore(corin: Client, z: str) -> None:
    text = log(corin, 72.012, z)  # type: ignore[arg-type]
    assert "The bore runs from 0 to 140" in text or "cannot be read" in text
    assert SizeReading.objects.filter(setup__job__number="Q-214").count() == 0


def test_metal_left_says_how_much_and_what_may_be_done(corin: Client) -> None:
    page = whole(corin, {(z, a): 71.96 for z in DEPTHS for a in (0, 90)})
    plate = verdict_plate(page)
    assert (plate.title, plate.number, plate.number_label) == ("Metal left", "0.055", "Metal left, on diameter")
    assert {name: is_open for name, _, is_open in plate.ways} == {
        "Finish cut": False,
        "Hone": True,
        "Accept as it is": False,
    }
    assert any("the edge needs 0.050" in words for _, words, _ in plate.ways)


def test_the_signed_verdict_keeps_what_was_signed(corin: Client, dagny: Client) -> None:
    whole(corin, {(20, 0): 72.013})
    dagny.post("/jobs/Q-214/sign/")
    signed = Job.objects.get(number="Q-214").signoff
    assert signed.by.username == "dagny"
    assert signed.verdict["word"] == "in"
    assert (signed.verdict["smallest_mm"], signed.verdict["largest_mm"]) == pytest.approx((72.012, 72.013))
    assert signed.verdict["rule"] == "guarded"
    assert [line["name"] for line in signed.verdict["lines"]][-1] == "Run-out, total reading"
    assert "Nothing here changes any more" in corin.get("/jobs/Q-214/check/").content.decode()


def test_twelve_places_find_the_same_centre(corin: Client) -> None:

    indicator = Indicator.objects.get(name="Indicator 1")
    corin.post("/jobs/Q-219/round/true/", {"method": "sweep", "places": 12, "indicator": indicator.pk})
    readings = [round(-30 * cos(radians(30 * n - 40)) + 30 * cos(radians(-40))) for n in range(12)]
    for place, value in enumerate([*readings, readings[0]]):
        fields = {"value": str(value), "place": place, "client_id": str(uuid.uuid4())}
        corin.post("/jobs/Q-219/reading/true/", fields)
    view = open_page("Q-219", MM).rounds[-1]
    assert view.sweep is not None
    assert view.sweep.eccentricity_mm == pytest.approx(0.030, abs=5e-4)
    assert view.sweep.offset_angle_deg == pytest.approx(40, abs=1.5)
    assert corin.get("/jobs/Q-219/true/").status_code == 200
