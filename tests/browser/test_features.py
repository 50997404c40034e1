"""A face beside the bore, an oval typed at its figure, stock set true, places of a new job: by keyboard and touch."""

from __future__ import annotations

from typing import Any

import pytest
from playwright.sync_api import Browser, Page, expect

from gyrometra.inspection.models import FeatureReading
from gyrometra.jobs.models import Feature
from tests.browser.test_machine import sign_in
from tests.browser.test_setting_up import SIZES, clean, typed
from tests.browser.test_setups import press_on

pytestmark = pytest.mark.browser


@pytest.mark.parametrize("size", SIZES)
def test_a_face_is_added_read_and_judged_by_keyboard(
    page: Page, live_server: Any, shop: None, faults: list[str], size: tuple[int, int]
) -> None:
    page.set_viewport_size({"width": size[0], "height": size[1]})
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/Q-223/work/")
    press_on(page, page.get_by_role("link", name="+ Add feature"), "Enter")
    press_on(page, page.get_by_role("link", name="Square face, by its depth"), "Enter")
    page.locator("[name=wanted]").fill("12 ±0.1")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="Take it off the list")).to_be_visible()
    typed(page, "[name=outer_mm]", "80")
    typed(page, "[name=stock_mm]", "0.6")
    typed(page, "[name=inner_mm]", "60")
    expect(page.locator(".dp").first).to_contain_text("Facing time under feed")
    expect(page.locator(".placelist [aria-current]")).to_contain_text("Face 1")
    clean(page, size[0])
    page.goto(f"{live_server.url}/jobs/Q-223/check/?at=features")
    field = page.get_by_label("Face 1, depth from the open face")
    field.focus()
    page.keyboard.type("12.02\n")
    expect(page.locator(".fnum")).to_have_text("12.020")
    expect(page.locator(".frow .v").first).to_contain_text("In limits")
    clean(page, size[0])
    assert FeatureReading.objects.count() == 1
    assert Feature.objects.get(setup__job__number="Q-223").name == "Face 1"
    assert faults == []


def test_an_oval_is_typed_at_its_figure_in_the_drawing(
    page: Page, live_server: Any, shop: None, faults: list[str]
) -> None:
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/Q-223/work/")
    page.locator(".workband .wide [data-place='found1']").first.click()
    expect(page.locator(".placepanel h2")).to_contain_text("Bore as found")
    depth = page.locator("[name=found_z_0]").input_value()
    typed(page, "[name=found_a_0]", "0")
    rows = page.locator(".placepanel .triple")
    last = rows.count() - 1
    page.locator(f"[name=found_z_{last}]").fill(depth)
    page.locator(f"[name=found_d_{last}]").fill("58.4")
    typed(page, f"[name=found_a_{last}]", "90")
    expect(page.locator(".workband .wide")).to_contain_text("58.400 at 90°")
    clean(page, 1280)
    assert faults == []


def test_stock_is_only_set_true_on_a_phone(browser: Browser, live_server: Any, shop: None) -> None:
    context = browser.new_context(viewport={"width": 390, "height": 844}, has_touch=True, is_mobile=True)
    page = context.new_page()
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/P~2031~2F18/work/")
    expect(page.locator("main")).to_contain_text("set true within 0.040")
    clean(page, 390)
    page.get_by_role("link", name="Next: true").tap()
    expect(page).to_have_url(f"{live_server.url}/jobs/P~2031~2F18/true/")
    page.goto(f"{live_server.url}/jobs/P~2031~2F18/cuts/")
    expect(page.locator("main")).to_contain_text("nothing is cut in set-up A")
    clean(page, 390)
    context.close()


def test_a_place_touched_in_the_drawing_of_a_new_job_is_typed_next(
    page: Page, live_server: Any, shop: None, faults: list[str]
) -> None:
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/new/")
    for name, text in (("part", "Hub"), ("found_d_0", "66.2"), ("wanted", "70 H7")):
        page.fill(f"[name={name}]", text)
    typed(page, "[name=length_mm]", "95")
    page.locator("svg:visible [data-place='9']").first.click()
    expect(page.locator("[name=outside_l_0]")).to_be_focused()
    page.keyboard.type("95")
    typed(page, "[name=outside_d_0]", "110")
    expect(page.locator(".newband")).to_contain_text("70 H7")
    press_on(page, page.locator("[data-place='10']").last, "Enter")
    expect(page.locator("[name=break_kind_0]")).to_be_focused()
    clean(page, 1280)
    page.locator("[data-create]").click()
    expect(page.locator(".placelist")).to_contain_text("Ø110 x 95")
    assert faults == []
