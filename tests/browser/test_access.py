"""Axe on every main page, at desk and at phone size; nothing spills over at 360."""

from typing import Any

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page

pytestmark = pytest.mark.browser

PATHS = [
    "/",
    "/crib/",
    "/crib/machine/new/",
    "/jobs/new/",
    "/jobs/Q-214/work/",
    "/jobs/Q-214/bar/",
    "/jobs/Q-214/cuts/",
    "/jobs/Q-219/true/",
    "/jobs/Q-214/bore/",
    "/jobs/Q-198/check/",
    "/jobs/Q-214/sheet/",
    "/lines/",
    "/?q=Q-22",
    "/crib/take-in/",
    "/crib/head/1/",
    "/crib/head/1/label/",
    "/jobs/Q-228/work/",
    "/jobs/Q-228/bar/",
    "/jobs/Q-228/true/",
    "/jobs/Q-214/true/",
    "/jobs/Q-223/true/",
    "/jobs/Q-233/true/",
    "/jobs/Q-221/work/?bore=2",
    "/jobs/Q-221/bar/",
    "/jobs/Q-221/cuts/?bore=2",
    "/jobs/Q-221/bore/",
    "/jobs/Q-225/bore/",
    "/jobs/Q-230/bore/",
    "/jobs/Q-221/sheet/",
    "/jobs/Q-221/report/",
    "/jobs/P~2031~2F14/check/?at=features",
    "/jobs/Q-214/noise/",
    "/jobs/Q-207/work/",
    "/jobs/Q-207/check/?piece=2",
    "/jobs/Q-207/bore/?piece=2",
    "/crib/bar/1/",
    "/crib/material/1/",
    "/crib/fixture/1/",
    "/crib/gauge/1/",
    "/machine/1/",
    "/machine/6/",
    "/machine/6/?check=tram",
    "/link/indicator/1/",
    "/practice/oval/",
    "/practice/tilted/",
]
#: What is used at the machine: every target there is large enough.
ON_PAPER = ("new/", "sheet/", "report/")
AT_THE_MACHINE = [path for path in PATHS if path.startswith("/jobs/") and not path.endswith(ON_PAPER)] + [
    "/lines/", "/?q=Q-22", "/machine/6/", "/practice/oval/",
]  # fmt: skip


def test_pages_are_clean(page: Page, live_server: Any, shop: None, faults: list[str]) -> None:
    page.goto(f"{live_server.url}/sign-in/")
    assert not problems(page)
    page.fill("#id_username", "dagny")
    page.fill("#id_password", "quillmoor")
    page.get_by_role("button", name="Sign in").click()
    for width in (1280, 760, 360):
        page.set_viewport_size({"width": width, "height": 800})
        for path in PATHS:
            page.goto(live_server.url + path)
            assert page.evaluate("document.documentElement.scrollWidth") <= width, (path, width)
            if width != 760:
                assert not problems(page), (path, width)


def problems(page: Page) -> list[str]:
    found = Axe().run(page).response["violations"]
    return [f"{v['id']}: {v['nodes'][0]['html'][:160]}" for v in found]


def test_targets_are_large_enough_for_oily_hands(page: Page, live_server: Any, shop: None) -> None:
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(f"{live_server.url}/sign-in/")
    page.fill("#id_username", "dagny")
    page.fill("#id_password", "quillmoor")
    page.get_by_role("button", name="Sign in").click()
    for path in AT_THE_MACHINE:
        page.goto(live_server.url + path)
        small = page.evaluate(
            """() => [...document.querySelectorAll('a, button, select, input:not([type=hidden])')]
            .filter(e => e.offsetParent && !e.closest('.skip, label') && !e.matches('.skip'))
            .map(e => [e.getBoundingClientRect(), e.outerHTML.slice(0, 90)])
            .filter(([r]) => r.height > 0 && r.height < 43.5).map(([, html]) => html)"""
        )
        assert small == [], path
