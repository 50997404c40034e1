"""The finished bore in the browser: places touched in the drawing, by touch and by keyboard to a signed verdict."""

from __future__ import annotations

from typing import Any

import pytest
from playwright.sync_api import Browser, Page, expect

from gyrometra.crib.models import Gauge
from gyrometra.inspection.models import PlugReading, SizeReading
from gyrometra.jobs.models import Bore, SignOff
from tests.browser.test_machine import sign_in
from tests.browser.test_setting_up import clean

pytestmark = pytest.mark.browser


def only_size() -> None:
    """Q-214 with its size alone asked: no form, no run-out worth a sweep."""
    Bore.objects.filter(setup__job__number="Q-214").update(taper_limit_mm=None, roundness_limit_mm=None)


def logged() -> int:
    return SizeReading.objects.filter(bore__setup__job__number="Q-214").count()


def test_places_are_touched_and_typed_by_touch(browser: Browser, live_server: Any, shop: None) -> None:
    context = browser.new_context(viewport={"width": 390, "height": 844}, has_touch=True, is_mobile=True)
    page = context.new_page()
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/Q-214/check/")
    page.locator(".gridnarrow [data-place='check|120|90']").tap(force=True)
    expect(page.locator("#id_z")).to_have_value("120")
    expect(page.locator("#id_angle")).to_have_value("90")
    for key in "72.007":
        page.locator(f".pad [data-key='{key}']").tap()
    page.locator(".pad .enter").tap()
    expect(page.locator(".gridnarrow .t-measured-cell")).to_have_count(1)
    row = SizeReading.objects.get(bore__setup__job__number="Q-214")
    assert (float(row.z_mm), float(row.angle_deg), float(row.value_mm)) == (120.0, 90.0, 72.007)
    clean(page, 390)
    pad = page.locator(".pad .enter").bounding_box()
    assert pad is not None
    assert pad["y"] + pad["height"] <= 844, "the keypad stands on the first screen"
    context.close()


def test_by_keyboard_to_a_signed_verdict_and_its_report(
    page: Page, live_server: Any, shop: None, faults: list[str]
) -> None:
    only_size()
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/Q-214/check/")
    for count, size in enumerate(["72.013", "72.012", "72.011", "72.013", "72.012", "72.012"], 1):
        page.keyboard.type(size)
        page.keyboard.press("Enter")
        expect(page.locator("table.grid td .v")).to_have_count(count)
    expect(page.locator(".hand details.moreof").first).to_have_attribute("open", "")
    page.locator(".begin .main").focus()
    page.keyboard.press("Enter")
    for place, value in enumerate(["0", "1", "2", "3", "4", "3", "2", "1", "0"]):
        expect(page.locator("input[name=place]")).to_have_value(str(place))
        page.keyboard.type(value)
        page.keyboard.press("Enter")
    expect(page.locator(".vp h2")).to_have_text("In limits")
    page.on("dialog", lambda dialog: dialog.accept())
    page.locator("#sign").focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("link", name="Report", exact=True)).to_be_visible()
    assert SignOff.objects.filter(job__number="Q-214").exists()
    page.get_by_role("link", name="Report", exact=True).click()
    expect(page.locator(".repword b")).to_have_text("In limits")
    clean(page, 1280)
    assert faults == []


def test_two_gauges_that_disagree_prove_nothing(page: Page, live_server: Any, shop: None) -> None:
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/Q-214/check/")
    for gauge, size in (("Bore gauge 50-100", "72.010"), ("Inside micrometer 50-75", "72.06")):
        page.locator("#id_z").fill("20")
        page.locator("#id_angle").fill("0")
        page.locator("#id_gauge").select_option(label=gauge)
        page.locator("#size").fill(size)
        page.locator("#size").press("Enter")
        expect(page.locator("#size")).to_have_value("")
    expect(page.locator("table.grid")).to_contain_text("gauges disagree")
    assert logged() == 2


def test_go_and_no_go_only(page: Page, live_server: Any, shop: None) -> None:
    only_size()
    Gauge.objects.filter(name="Plug 72 H7").update(range_low_mm="72.002", range_high_mm="72.028")
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/Q-214/check/")
    page.get_by_role("button", name="Plug 72 H7, go side goes").click()
    expect(page.locator(".plugs .plugrow")).to_contain_text("goes")
    page.get_by_role("button", name="Plug 72 H7, no-go side does not go").click()
    expect(page.locator(".plugs h2")).to_contain_text("at least 72.001, at most 72.029")
    assert PlugReading.objects.count() == 2
    clean(page, 1280)


def test_a_batch_of_four_drifts(page: Page, live_server: Any, shop: None) -> None:
    sign_in(page, live_server.url)
    for piece, size in enumerate(["55.020", "55.017", "55.014", "55.011"], 1):
        page.goto(f"{live_server.url}/jobs/Q-207/check/?piece={piece}")
        page.keyboard.type(size)
        page.keyboard.press("Enter")
        expect(page.locator("table.grid td .v")).to_have_count(1)
    expect(page.locator(".batch")).to_contain_text("Each piece 0.0030 smaller than the one before")
    expect(page.locator(".batch")).to_contain_text("3 more pieces before a limit.")
    clean(page, 1280)


def sweep_bore(page: Page, base: str, place: int, readings: list[int]) -> None:
    """Sweep one bore of the line, in divisions, back to the start."""
    page.goto(f"{base}/jobs/Q-221/check/?bore={place}")
    page.locator("details.moreof summary", has_text="Run-out of the finished bore").click()
    page.locator(".begin .main").click()
    for at, value in enumerate([*readings, readings[0]]):
        expect(page.locator("input[name=place]")).to_have_value(str(at))
        page.keyboard.type(str(value))
        page.keyboard.press("Enter")


def test_a_line_of_bores_is_swept_and_judged_as_one(
    page: Page, live_server: Any, shop: None, faults: list[str]
) -> None:
    sign_in(page, live_server.url)
    flat, off = [0] * 8, [2, 1, 0, -1, -2, -1, 0, 1]
    for place, readings in ((1, flat), (2, off)):
        sweep_bore(page, live_server.url, place, readings)
        expect(page.locator("main")).to_contain_text("Bores in line, on Ø")
        expect(page.locator("main")).to_contain_text("sweep ")
    sweep_bore(page, live_server.url, 3, flat)
    expect(page.locator("main")).not_to_contain_text("sweep H")
    clean(page, 1280)
