"""A set-up that has failed and its successor, by keyboard alone, on a desk and on a phone."""

from __future__ import annotations

from typing import Any

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page, expect

from tests.browser.test_machine import sign_in

pytestmark = pytest.mark.browser


def press_on(page: Page, locator: Any, key: str) -> None:
    """What a person does who tabs there: no pointer."""
    locator.focus()
    page.keyboard.press(key)


@pytest.mark.parametrize("size", [(1280, 800), (390, 844)])
def test_another_machine_goes_on_with_the_bore(
    page: Page, live_server: Any, shop: None, faults: list[str], size: tuple[int, int]
) -> None:
    page.set_viewport_size({"width": size[0], "height": size[1]})
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/Q-214/work/")
    press_on(page, page.get_by_role("link", name="Add set-up"), "Enter")
    page.select_option("#id_next_machine", label="Borer 1")
    page.select_option("#id_next_method", label="bar in bearings, work still")
    page.locator("#id_next_reason").focus()
    page.keyboard.type("the bar sings at every speed")
    press_on(page, page.get_by_role("button", name="Go on with"), "Enter")
    own = page.locator(".setuptab")
    expect(own).to_have_count(2)
    expect(own.last).to_have_attribute("aria-current", "true")
    expect(own.first).to_contain_text("given up: the bar sings at every speed")
    expect(page.locator(".hand")).to_contain_text("goes on with the bores of set-up A")
    found = Axe().run(page)
    assert found.violations_count == 0, found.generate_report()
    assert page.evaluate("document.documentElement.scrollWidth") <= size[0]
    press_on(page, page.locator("[data-step='5']"), "Enter")
    expect(page).to_have_url(f"{live_server.url}/jobs/Q-214/bore/?setup=2")
    tabs = page.get_by_role("navigation", name="Set-ups").get_by_role("link")
    expect(tabs).to_have_count(2)
    press_on(page, tabs.first, "Enter")
    expect(page.locator(".setupnote")).to_contain_text("Set-up A was given up: the bar sings at every speed")
    expect(page.locator("form[data-entry]")).to_have_count(0)
    page.goto(f"{live_server.url}/")
    expect(page.locator(".strip", has_text="Q-214")).to_contain_text("Borer 1")
    assert faults == []
