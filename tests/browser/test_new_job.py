"""A new job from six answers: by keyboard alone, on a desk and on a phone."""

from __future__ import annotations

from typing import Any

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page, expect

from gyrometra.jobs.models import Job
from tests.browser.test_machine import sign_in

pytestmark = pytest.mark.browser
ANSWERS = ("Orchard crusher, roller housing", "", "", "62.10", "65 H7", "85")


def figure(page: Page, label: str) -> Any:
    return page.locator("#new-look .dp", has_text=label).locator(".big")


@pytest.mark.parametrize("size", [(1280, 800), (390, 844)])
def test_six_answers_and_their_figures_by_keyboard(
    page: Page, live_server: Any, shop: None, faults: list[str], size: tuple[int, int],
    request: pytest.FixtureRequest,
) -> None:  # fmt: skip
    page.set_viewport_size({"width": size[0], "height": size[1]})
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/new/")
    page.select_option("[name=machine]", label="Lathe 3, lathe")
    page.locator("[name=part]").focus()
    keys = 0
    for answer in ANSWERS:
        page.keyboard.type(answer)
        page.keyboard.press("Enter")
        keys += len(answer) + 1
    expect(figure(page, "Stock to remove")).to_contain_text("2.915")
    expect(figure(page, "Passes")).to_contain_text("5")
    expect(figure(page, "Bar overhang")).to_contain_text("110")
    expect(page.locator("#about-wanted")).to_contain_text("65.000 to 65.030")
    expect(page.locator("#new-band svg").first).to_be_attached()
    assert not Job.objects.filter(part=ANSWERS[0]).exists(), "looking stores nothing"
    found = Axe().run(page)
    assert found.violations_count == 0, found.generate_report()
    expect(page.locator("[data-create]")).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.locator("h1.job")).to_contain_text("Orchard crusher, roller housing")
    request.config.get_terminal_writer().line(f"\nsix answers to the first figures: {keys} keys")
    assert faults == []


def test_what_is_wrong_is_said_at_its_answer_and_kept(page: Page, live_server: Any, shop: None) -> None:
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/new/")
    page.fill("[name=found_d_0]", "66")
    page.fill("[name=wanted]", "65 H7")
    page.locator("[name=wanted]").press("Enter")
    expect(page.locator("#about-wanted")).to_contain_text("The wanted size must be over what is there now")
    expect(page.locator("[name=length_mm]")).to_be_focused()
    expect(page.locator("[name=wanted]")).to_have_value("65 H7")
    page.keyboard.press("Shift+Enter")
    page.keyboard.press("Shift+Enter")
    expect(page.locator("[name=found_d_0]")).to_be_focused()
    page.fill("[name=found_d_0]", "62.1")
    page.keyboard.press("Control+Enter")
    expect(page.locator("#about-part")).to_contain_text("Part is missing")
    expect(page.locator("[name=wanted]")).to_have_value("65 H7")
    assert not Job.objects.filter(number="Q-231").exists()
