"""The practice bench by keyboard alone: turned with the arrows, read as the needle stands, moved, said to be true."""

from __future__ import annotations

import re
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from gyrometra.accounts.models import User
from gyrometra.practice import services
from gyrometra.practice.models import PracticeRun
from gyroplan.practice import LEVELS, expert_path
from tests.browser.test_machine import sign_in
from tests.browser.test_setting_up import clean

pytestmark = pytest.mark.browser


def needle(page: Page) -> int:
    """Where the hand of the drawn dial points, in divisions."""
    drawn = page.locator(".needlehand g").get_attribute("transform") or ""
    found = re.search(r"rotate\(([-\d.]+)", drawn)
    assert found is not None
    return round(float(found[1]) / 3.6)


def acts(page: Page) -> int:
    return int(page.locator(".acts [name=count]").input_value())


def done(page: Page, count: int) -> None:
    expect(page.locator(".acts [name=count]")).to_have_value(str(count))


def read_round(page: Page) -> None:
    for place in range(9):
        count = acts(page)
        page.keyboard.type(f"{needle(page)}\n", delay=15)
        done(page, count + 1)
        if place < 8:
            page.keyboard.press("ArrowRight")
            done(page, count + 2)


def test_a_round_bar_by_keyboard(page: Page, live_server: Any, shop: None, faults: list[str]) -> None:
    sign_in(page, live_server.url)
    user = User.objects.get(username=page.locator("body").get_attribute("data-user") or "")
    services.new_run(user, "round", 7)
    page.goto(f"{live_server.url}/practice/round/")
    clean(page, 1280)
    read_round(page)
    expect(page.locator(".says")).to_contain_text("The round holds")
    (step,) = expert_path(LEVELS["round"], 7)
    for _, jaw, by in step.parts:
        row = 0 if jaw in "13" else 1
        page.locator(f"[name=jaw-{row}-way]").select_option(jaw)
        page.locator(f"#jaw-{row}-by").fill(f"{by:.3f}")
    page.locator(f"#jaw-{row}-by").press("Enter")
    expect(page.locator(".ways2 .rounds")).to_contain_text("Half the swing")
    read_round(page)
    page.get_by_role("button", name="It is true").focus()
    page.keyboard.press("Enter")
    expect(page.locator(".vp")).to_contain_text("True")
    row = PracticeRun.objects.get(user=user, level="round")
    assert (row.is_true, row.moves, row.rounds) == (True, 1, 2)
    clean(page, 1280)
    assert faults == []
