"""Setting up in the browser: two sides, a bush to suit a seat, places of Work; by keyboard, on a desk and a phone."""

from __future__ import annotations

from typing import Any

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page, expect

from tests.browser.test_journey import first_account
from tests.browser.test_machine import sign_in
from tests.browser.test_setups import press_on

pytestmark = pytest.mark.browser
SIZES = [(1280, 800), (390, 844)]


def clean(page: Page, width: int) -> None:
    found = Axe().run(page)
    assert found.violations_count == 0, found.generate_report()
    assert page.evaluate("document.documentElement.scrollWidth") <= width


def typed(page: Page, field: str, text: str) -> None:
    """Type into a field by keyboard and leave it; wait until it is worked out."""
    page.locator(field).focus()
    page.keyboard.press("Control+a")
    page.keyboard.type(text)
    with page.expect_response(lambda answer: answer.request.method == "POST"):
        page.keyboard.press("Tab")
    page.wait_for_load_state("networkidle")


@pytest.mark.parametrize("size", SIZES)
def test_a_bore_from_two_sides(page: Page, live_server: Any, shop: None, faults: list[str],
                               size: tuple[int, int]) -> None:  # fmt: skip
    page.set_viewport_size({"width": size[0], "height": size[1]})
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/P~2031~2F6/work/")
    press_on(page, page.locator(".setuptab"), "Enter")
    expect(page.locator(".settingup", has_text="Two sides")).to_contain_text("Bar 2 reaches 115 of 210")
    expect(page.locator(".dp").nth(1)).to_contain_text("97")
    typed(page, "[name=overlap_mm]", "4")
    expect(page.locator(".dp").nth(1)).to_contain_text("99")
    clean(page, size[0])
    press_on(page, page.locator("[data-step='2']"), "Enter")
    expect(page.locator("main")).to_contain_text("from this side")
    assert faults == []


@pytest.mark.parametrize("size", SIZES)
def test_a_bush_to_suit_a_seat(page: Page, live_server: Any, shop: None, faults: list[str],
                               size: tuple[int, int]) -> None:  # fmt: skip
    page.set_viewport_size({"width": size[0], "height": size[1]})
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/Q-228/work/")
    press_on(page, page.get_by_role("link", name="Bush, shaft"), "Enter")
    expect(page.locator("h2.bushhead")).to_contain_text("bush for bore")
    typed(page, "[name=most_mm]", "0.060")
    typed(page, "[name=finish]", "54 H8")
    expect(page.locator(".dp").first).to_contain_text("62.055 to 62.060")
    expect(page.locator(".stages")).to_contain_text("Finish bore")
    clean(page, size[0])
    press_on(page, page.get_by_role("button", name="Create bush"), "Enter")
    expect(page.locator(".suits")).to_contain_text("Made to suit Q-228: outside 62.055 to 62.060 mm")
    assert faults == []


def test_places_open_by_touch_in_the_drawing_and_from_the_list(
    page: Page, live_server: Any, shop: None, faults: list[str]
) -> None:
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/P~2031~2F4/work/")
    expect(page.locator(".placepanel h2")).to_have_text("Bore")
    touch = page.locator(".workband .wide [data-place='2']")
    box = touch.bounding_box()
    assert box is not None
    assert min(box["width"], box["height"]) >= 43
    touch.click()
    expect(page.locator(".placelist [aria-current]")).to_contain_text("2")
    expect(page).to_have_url(f"{live_server.url}/jobs/P~2031~2F4/work/?setup=2&at=bore#place")
    expect(page.locator("[name=wanted]")).to_have_value("72 H7")
    press_on(page, page.get_by_role("link", name="Outside", exact=True).last, "Enter")
    expect(page.locator("[name=outside_d_0]")).to_have_value("110")
    clean(page, 1280)
    assert faults == []


def test_an_empty_shop_tries_an_example(page: Page, live_server: Any, empty: None, faults: list[str]) -> None:
    first_account(page, str(live_server))
    page.goto(str(live_server))
    press_on(page, page.get_by_role("button", name="Try an example"), "Enter")
    expect(page.locator("h1.job")).to_contain_text("Example: bearing housing")
    expect(page.locator(".dp .big").first).to_contain_text("2.915")
    press_on(page, page.locator("[data-step='2']"), "Enter")
    expect(page.locator(".barrow").first).to_be_visible()
    assert faults == []


def test_a_bar_that_is_added_inside_a_job_comes_back_picked(
    page: Page, live_server: Any, shop: None, faults: list[str]
) -> None:
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/Q-223/bar/")
    press_on(page, page.get_by_role("link", name="Add a bar"), "Enter")
    for name, value in {"name": "Bar 40, new", "diameter_mm": "40", "length_mm": "260"}.items():
        page.locator(f"[name={name}]").fill(value)
    with page.expect_response("**/save/bar/**"):
        page.get_by_role("button", name="Save").click()
    expect(page.locator(".barrow.pick")).to_contain_text("Bar 40, new")
    assert "picked" not in page.url
    page.reload()
    expect(page.locator(".barrow.pick")).to_contain_text("Bar 40, new")
    assert faults == []


def test_the_crib_is_searched_and_sorted(page: Page, live_server: Any, shop: None, faults: list[str]) -> None:
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/crib/?kind=bar")
    rows = page.locator(".cribtable tbody tr")
    whole = rows.count()
    page.locator("#find").fill("carbide")
    expect(rows).not_to_have_count(whole)
    expect(rows.first).to_contain_text("carbide")
    page.locator("#find").fill("Q-214")
    expect(rows).to_have_count(1)
    page.goto(f"{live_server.url}/crib/?kind=bar&sort=d")
    thick = [float(text) for text in page.locator(".cribtable tbody td.r:nth-child(3)").all_inner_texts()]
    assert thick == sorted(thick)
    clean(page, 1280)
    page.set_viewport_size({"width": 390, "height": 844})
    clean(page, 390)
    assert faults == []
