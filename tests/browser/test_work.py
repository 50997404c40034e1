"""Work at the desk: the page stays where it is, a row is one thing, keys are not lost."""

from typing import Any

import pytest
from playwright.sync_api import Page, expect

from gyrometra.truing.models import Reading
from tests.browser.test_machine import sign_in

pytestmark = pytest.mark.browser


def test_saving_a_field_leaves_the_page_where_it_is(page: Page, live_server: Any, shop: None) -> None:
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/Q-214/work/")
    field = page.locator("#id_roundness_limit_mm")
    field.scroll_into_view_if_needed()
    field.fill("0.012")
    before = page.evaluate("window.scrollY")
    with page.expect_response("**/save/work/**"):
        field.press("Tab")
    page.wait_for_load_state("networkidle")
    expect(page.locator("#id_taper_limit_mm")).to_be_focused()
    expect(field).to_have_value("0.012")
    assert abs(page.evaluate("window.scrollY") - before) <= 4


def test_a_row_is_sent_when_it_is_left_not_half_typed(page: Page, live_server: Any, shop: None) -> None:
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/Q-219/work/?at=found")
    sent: list[str] = []
    page.on("request", lambda asked: sent.append(asked.url) if asked.method == "POST" else None)
    row = page.locator(".rows .pair").nth(3)
    depth, size, direction = (row.locator("input").nth(place) for place in range(3))
    depth.fill("48")
    depth.press("Tab")
    size.press_sequentially("68.43")
    page.wait_for_timeout(300)
    assert sent == []
    size.press("Tab")
    with page.expect_response("**/save/work/**"):
        direction.press("Tab")
    page.wait_for_load_state("networkidle")
    assert page.locator(".err").all_inner_texts() == []
    page.reload()
    rows = page.locator(".rows .pair").all()
    assert ["48", "68.43", ""] in [[one.input_value() for one in row.locator("input").all()] for row in rows]


def test_keys_typed_while_a_round_opens_go_into_its_first_cell(page: Page, live_server: Any, shop: None) -> None:
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/Q-219/true/")

    def slowly(route: Any) -> None:
        page.keyboard.type("0.031\n")
        route.continue_()

    page.route("**/round/true/**", slowly)
    page.locator(".begin .btn-shop.main").click()
    expect(page.locator("input[name=place]")).to_have_value("1")
    assert Reading.objects.latest("pk").text == "0.031"
