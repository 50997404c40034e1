"""The whole path of a linked indicator: simulated work turns, the bridge sends, the page reads, the log stores."""

from __future__ import annotations

import os
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from gyrolink.simulated import made_work
from gyrometra.accounts.models import User
from gyrometra.crib.models import Gauge, Indicator
from gyrometra.inspection.models import SizeReading
from gyrometra.links import services
from gyrometra.links.models import GaugeLink, LinkReading
from gyrometra.truing.models import Reading, Round
from tests.browser.test_machine import sign_in
from tests.browser.test_setting_up import clean
from tests.browser.test_true_ways import start

pytestmark = pytest.mark.browser
SOURCES = str(Path(__file__).parents[2] / "src")


@pytest.fixture
def token(shop: None) -> str:
    indicator = Indicator.objects.filter(retired=False).order_by("step_mm", "pk").first()
    assert indicator is not None
    _, made = services.link_gauge(user=User.objects.get(username="dagny"), item=indicator, name="at the lathe")
    return made


@pytest.fixture
def simulator(live_server: Any, token: str) -> Iterator[Any]:
    """Start the bridge with its simulated indicator, as the README says."""
    started: list[subprocess.Popen[str]] = []

    def run(*more: str) -> subprocess.Popen[str]:
        words = [sys.executable, "-m", "gyrolink", "simulate", "--url", live_server.url, "--seed", "3", *more]
        one = subprocess.Popen(  # noqa: S603 - our own command
            words, stdin=subprocess.PIPE, text=True, stdout=subprocess.DEVNULL,
            env={**os.environ, "GYROMETRA_TOKEN": token, "PYTHONPATH": SOURCES},
        )  # fmt: skip
        started.append(one)
        return one

    yield run
    for one in started:
        one.kill()
        one.communicate()


def begin(page: Page, url: str) -> None:
    sign_in(page, url)
    page.goto(f"{url}/jobs/Q-223/true/")
    link = GaugeLink.objects.get()
    page.locator("#id_indicator").select_option(str(link.indicator_id))
    start(page)
    expect(page.locator("[data-needle-listen]")).to_be_visible()


def say(simulator: subprocess.Popen[str], words: str) -> None:
    assert simulator.stdin is not None
    simulator.stdin.write(words + "\n")
    simulator.stdin.flush()


def test_a_round_is_read_by_the_foot_switch(page: Page, live_server: Any, simulator: Any, faults: list[str]) -> None:
    begin(page, live_server.url)
    page.locator("[data-needle-listen]").click()
    simulator("--places", "8", "--rate", "20")
    expect(page.locator(".needlesays .big")).not_to_have_text("·")
    clean(page, 1280)
    expect(page.locator(".begin .main")).to_be_visible(timeout=60_000)
    read = Reading.objects.filter(round__setup__job__number="Q-223", round=Round.objects.latest("pk")).order_by("pk")
    assert [one.place for one in read] == list(range(9))
    assert {one.source for one in read} == {"link"}
    work = made_work(3)
    for one in list(read)[:8]:
        assert float(one.value_mm) == pytest.approx(work.reading_mm(45.0 * one.place), abs=0.003)
    # nine presses came, each was logged once
    assert LinkReading.objects.filter(pressed=True).count() == 9
    assert faults == []


def test_space_takes_it_and_a_reload_goes_on_listening(page: Page, live_server: Any, simulator: Any) -> None:
    begin(page, live_server.url)
    tool = simulator("--rate", "20")
    page.locator("[data-needle-listen]").click()
    expect(page.locator("[data-needle-state]")).to_have_text("Stands still.")
    page.keyboard.press("Space")
    expect(page.locator("input[name=place]")).to_have_value("1")
    say(tool, "turn 45")
    page.reload()
    expect(page.locator("[data-needle-take]")).to_be_visible()
    expect(page.locator("[data-needle-state]")).to_have_text("Stands still.")
    say(tool, "")  # the foot switch
    expect(page.locator("input[name=place]")).to_have_value("2")
    page.locator("[data-needle-auto]").check()
    for place in (3, 4):  # turned on, it is read when it stands still; not turned, it is not read again
        say(tool, "turn 45")
        expect(page.locator("input[name=place]")).to_have_value(str(place))
    page.wait_for_timeout(2500)
    expect(page.locator("input[name=place]")).to_have_value("4")
    # heard by another page, this one is told so, and takes nothing more
    GaugeLink.objects.update(listener=None)
    expect(page.locator("[data-needle-state]")).to_contain_text("Listened to on another page")
    say(tool, "")
    page.wait_for_timeout(800)
    assert Reading.objects.filter(round=Round.objects.latest("pk")).count() == 4


def test_a_linked_bore_gauge_gives_sizes(page: Page, live_server: Any, token: str, simulator: Any) -> None:
    gauge = Gauge.objects.get(name="Bore gauge 50-100")
    GaugeLink.objects.update(indicator=None, gauge=gauge, set_mm="72.00")
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/Q-214/check/")
    tool = simulator("--rate", "20")
    page.locator("[data-needle-listen]").click()
    expect(page.locator("[data-needle-state]")).to_have_text("Stands still.")
    say(tool, "")  # its button
    expect(page.locator("table.grid td .v")).to_have_count(1)
    expect(page.locator("#size")).to_have_value("")
    page.keyboard.press("Space")
    expect(page.locator("table.grid td .v")).to_have_count(2)
    rows = list(SizeReading.objects.filter(bore__setup__job__number="Q-214"))
    assert [(one.gauge_id, one.source) for one in rows] == [(gauge.pk, "link")] * 2
    assert len({(one.z_mm, one.angle_deg) for one in rows}) == 2, "each goes to the place that is asked next"
    clean(page, 1280)
