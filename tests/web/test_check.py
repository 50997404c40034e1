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
from gyroplan.assess import signed_verdict
from tests.web.said import flat, missing_words

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


def place_at(z: float, angle: float = 0) -> Any:
    return open_page("Q-214", MM).judged.place(z, angle)


def sign(client: Client, number: str = "Q-214", **more: str) -> str:
    """Sign what the page shows."""
    digest, _ = signed_verdict(open_page(number, MM).assessment)
    fields = {"digest": digest, **more}
    return flat(client.post(f"/jobs/{number}/sign/", fields, headers={"HX-Request": "true"}))


def lines(page: Any) -> dict[str, str]:
    found = {line.name: line.found for line in page.judged.limits}
    return {name: figure.verdict for name, figure in found.items() if figure}


def test_all_in(corin: Client) -> None:
    page = whole(corin, {})
    assert page.judged.word == "in"
    assert lines(page) == {"taper": "in", "roundness": "in", "runout": "in"}


def test_taper_over_its_limit(corin: Client) -> None:
    page = whole(corin, {(20, 0): 72.025, (20, 90): 72.025, (120, 0): 72.004, (120, 90): 72.004})
    assert lines(page)["taper"] == "over"
    plate = verdict_plate(page)
    assert (plate.word, "Taper over the bore, on Ø: over the limit" in plate.reason) == ("over", True)
    assert "A taper where the work turns" in corin.get("/jobs/Q-214/check/").content.decode()


def test_out_of_round(corin: Client) -> None:
    page = whole(corin, {(70, 0): 72.026, (70, 90): 72.003})
    assert lines(page)["roundness"] == "undecided"
    assert page.judged.word == "not-proven"


@pytest.mark.parametrize(("swing", "word"), [(18, "in"), (20, "not-proven"), (22, "over")])
def test_runout_is_judged_with_the_indicators_doubt(corin: Client, swing: int, word: str) -> None:
    assert whole(corin, {}, swing).judged.word == word


def test_readings_of_a_place_are_averaged_and_a_wrong_one_is_taken_back(corin: Client) -> None:
    log(corin, 72.030, 20)
    log(corin, 72.012, 20)
    assert place_at(20).value_mm == pytest.approx(72.021)
    wrong = SizeReading.objects.get(setup__job__number="Q-214", value_mm="72.030")
    taken_back = {"client_id": str(uuid.uuid4()), "what": "size", "undo": str(wrong.client_id)}
    corin.post("/jobs/Q-214/take-back/check/", taken_back)
    log(corin, 72.014, 20)
    assert place_at(20).value_mm == pytest.approx(72.013)
    assert SizeReading.objects.filter(setup__job__number="Q-214").count() == 4


def test_two_gauges_at_a_place_are_compared(corin: Client) -> None:
    log(corin, 72.012, 20)
    log(corin, 72.05, 20, gauge="Inside micrometer 50-75")
    place = place_at(20)
    assert place.agree is False
    assert "gauges disagree" in corin.get("/jobs/Q-214/check/").content.decode()


def test_more_repeats_shrink_the_doubt(corin: Client) -> None:
    log(corin, 72.012, 20)
    before = open_page("Q-214", MM).judged.expanded_mm
    for _ in range(4):
        log(corin, 72.012, 20)
    assert open_page("Q-214", MM).judged.expanded_mm < before


def test_a_size_sent_twice_stands_once(corin: Client) -> None:
    entry = str(uuid.uuid4())
    for _ in range(2):
        log(corin, 72.012, 20, client_id=entry)
    assert SizeReading.objects.filter(client_id=entry).count() == 1
    assert len(open_page("Q-214", MM).judged.sizes) == 1


def test_taken_back_sizes_are_crossed_out(corin: Client) -> None:
    log(corin, 72.012, 20)
    corin.post("/jobs/Q-214/take-back/check/", {"client_id": str(uuid.uuid4()), "what": "size"})
    assert open_page("Q-214", MM).judged.sizes == ()
    assert SizeReading.objects.filter(setup__job__number="Q-214").count() == 2


def test_a_warm_part_is_brought_to_twenty(corin: Client) -> None:
    log(corin, 72.020, 20)
    cold = place_at(20).expanded_mm
    corin.post("/jobs/Q-214/take-back/check/", {"client_id": str(uuid.uuid4()), "what": "size"})
    log(corin, 72.020, 20, part_temp_c="30", gauge_temp_c="20", temp_u_c="1")
    place = place_at(20)
    assert place.value_mm == pytest.approx(72.020 * (1 + 11.5e-6 * 0) * (1 - 10.5e-6 * 10), abs=1e-4)
    assert place.expanded_mm > cold, "a degree of doubt in either temperature counts"


def test_an_overdue_gauge_proves_nothing(corin: Client) -> None:
    gauge = Gauge.objects.get(name="Bore gauge 50-100")
    gauge.due_on = timezone.localdate() - timedelta(days=1)
    gauge.save()
    page = whole(corin, {})
    assert page.judged.word == "incomplete"
    assert missing_words(page) == ["Bore gauge 50-100 is past its check date"]
    assert "past its check date" in corin.get("/crib/?kind=gauge").content.decode()


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
    assert (plate.title, plate.number, plate.number_label) == ("Metal left", "0.055", "Metal left, on Ø")
    assert {name: is_open for name, _, is_open in plate.ways} == {
        "Finish cut": False,
        "Hone": True,
        "Accept by concession": True,
    }
    assert any("the edge needs 0.050" in words for _, words, _ in plate.ways)


def test_the_signed_verdict_keeps_what_was_signed(corin: Client, dagny: Client) -> None:
    whole(corin, {(20, 0): 72.013})
    sign(dagny)
    signed = Job.objects.get(number="Q-214").signoff
    assert signed.by.username == "dagny"
    assert signed.verdict["word"] == "in"
    assert sorted({place[2] for place in signed.verdict["bores"][0]["places"]}) == pytest.approx([72.012, 72.013])
    assert signed.verdict["rule"] == "guarded"
    assert signed.verdict["bores"][0]["limits"]["runout"][2] == "in"
    assert "This record is locked" in flat(corin.get("/jobs/Q-214/check/"))


def test_twelve_places_find_the_same_centre(corin: Client) -> None:

    indicator = Indicator.objects.get(name="Indicator 1")
    corin.post("/jobs/Q-219/round/true/", {"method": "sweep", "places": 12, "indicator": indicator.pk})
    readings = [round(-30 * cos(radians(30 * n - 40)) + 30 * cos(radians(-40))) for n in range(12)]
    for place, value in enumerate([*readings, readings[0]]):
        fields = {"value": str(value), "place": place, "client_id": str(uuid.uuid4())}
        corin.post("/jobs/Q-219/reading/true/", fields)
    view = open_page("Q-219", MM).truing.rounds[-1]
    assert view.sweep is not None
    assert view.sweep.eccentricity_mm == pytest.approx(0.030, abs=5e-4)
    assert view.sweep.offset_angle_deg == pytest.approx(40, abs=1.5)
    assert corin.get("/jobs/Q-219/true/").status_code == 200
