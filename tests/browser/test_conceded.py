"""Chips in two taps on a phone; a part tried in the bore; limits accepted one by one, a signature taken back."""

from __future__ import annotations

from typing import Any

import pytest
from playwright.sync_api import Browser, Page, expect

from gyrometra.cutting.models import CutEntry
from gyrometra.inspection.models import PlugReading
from gyrometra.jobs.models import PastSignOff, SignOff
from tests.browser.test_check import only_size
from tests.browser.test_machine import sign_in
from tests.browser.test_setting_up import clean

pytestmark = pytest.mark.browser


def test_chips_are_two_taps_on_a_phone(browser: Browser, live_server: Any, shop: None) -> None:
    context = browser.new_context(viewport={"width": 390, "height": 844}, has_touch=True, is_mobile=True)
    page = context.new_page()
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/Q-214/bore/")
    page.locator("details.seen summary").tap()
    page.get_by_role("button", name="pack in the bore").tap()
    expect(page.locator("details.seen summary small")).to_have_text("chips pack in the bore")
    expect(page.locator("main")).to_contain_text("clear them out before the next pass")
    assert CutEntry.objects.filter(kind="seen", chips="packed").count() == 1
    page.locator("#id_gauge").first.wait_for()
    clean(page, 390)
    context.close()


@pytest.mark.parametrize(("width", "height"), [(1280, 800), (390, 844), (800, 1280)])
def test_what_is_done_next_is_on_the_first_screen(
    page: Page, live_server: Any, shop: None, width: int, height: int
) -> None:
    sign_in(page, live_server.url)
    page.set_viewport_size({"width": width, "height": height})
    for path, act in (("Q-219/bore/", "#set-pass"), ("Q-219/bore/?to=measure", ".pad .enter"),
                      ("Q-207/bore/?piece=2", "#set-pass"), ("Q-214/check/", ".pad .enter")):  # fmt: skip
        page.goto(f"{live_server.url}/jobs/{path}")
        box = page.locator(act).bounding_box()
        assert box is not None
        if width != 800 or "check" not in path:
            assert box["y"] + box["height"] <= height, path


def test_a_part_that_goes_and_a_gauge_that_feels_tighter(page: Page, live_server: Any, shop: None) -> None:
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/Q-214/check/")
    page.locator("details.felt summary").click()
    page.locator("#mate-size").fill("72.004")
    page.get_by_role("button", name="Goes in").click()
    expect(page.locator("details.felt")).to_contain_text("goes")
    page.locator("#felt-size").fill("72.04")
    page.get_by_role("button", name="Tighter").click()
    expect(page.locator("details.felt")).to_contain_text("Where it was felt: at most 72.04")
    assert list(PlugReading.objects.values_list("side", "felt")) == [("mate", ""), ("set", "tighter")]
    clean(page, 1280)


def test_limits_accepted_one_by_one_and_the_signature_taken_back(
    page: Page, live_server: Any, shop: None, faults: list[str]
) -> None:
    only_size()
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/Q-214/check/")
    for count, size in enumerate(["72.043", "72.042", "72.041", "72.043", "72.042", "72.042"], 1):
        page.locator("#size").fill(size)
        page.locator("#size").press("Enter")
        expect(page.locator("table.grid td .v")).to_have_count(count)
    expect(page.locator(".vp h2")).to_have_text("Over")
    page.on("dialog", lambda dialog: dialog.accept())
    page.locator("details.concede summary").click()
    fields = page.locator("details.concede input")
    fields.first.fill("ring is made to it")
    page.locator("#sign").click()
    expect(page.locator("main")).to_contain_text("give the reason, one for all or one for each limit")
    expect(page.locator("details.concede input").first).to_have_value("ring is made to it")
    page.locator("#reason").fill("agreed with the owner")
    page.locator("#sign").click()
    expect(page.locator("main")).to_contain_text("Because: ring is made to it")
    clean(page, 1280)
    page.locator("details.moreof summary", has_text="Reopen it").click()
    page.locator("#why").fill("gauge was set to the wrong ring")
    page.get_by_role("button", name="Take the signature back").click()
    expect(page.locator("main")).to_contain_text("Signed before: Over, by")
    assert not SignOff.objects.filter(job__number="Q-214").exists()
    assert PastSignOff.objects.get(job__number="Q-214").reason == "gauge was set to the wrong ring"
    assert faults == []
