"""A cut is recorded from the browser's microphone: Chromium's own fake one, which beeps."""

from __future__ import annotations

from typing import Any

import pytest
from playwright.sync_api import Page, expect

from gyrometra.cutting.models import CutEntry
from tests.browser.test_machine import sign_in
from tests.browser.test_setting_up import clean

pytestmark = pytest.mark.browser


def test_a_cut_is_recorded(page: Page, live_server: Any, shop: None, faults: list[str]) -> None:
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/Q-214/noise/")
    page.locator("[data-record]").click()
    expect(page.locator(".triedlist li")).to_have_count(1, timeout=30_000)
    row = CutEntry.objects.get(kind="noise")
    assert row.rests_on["by"] == "recording"
    assert row.rests_on["seconds"] == pytest.approx(2.0, abs=0.3)
    assert row.rests_on["tones"], "the fake microphone beeps"
    assert faults == []


def test_noise_by_keyboard_and_what_was_tried(page: Page, live_server: Any, shop: None) -> None:
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/Q-214/noise/")
    page.get_by_role("button", name="By ear: high").focus()
    page.keyboard.press("Enter")
    expect(page.locator(".triedlist li")).to_have_count(1)
    page.locator("#changed-shallower").focus()
    page.keyboard.press("Space")
    page.get_by_role("button", name="Now hums").focus()
    page.keyboard.press("Enter")
    expect(page.locator(".triedlist li")).to_have_count(2)
    for width in (1280, 390):
        page.set_viewport_size({"width": width, "height": 844})
        clean(page, width)
