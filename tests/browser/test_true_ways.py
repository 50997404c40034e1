"""True in two planes by keyboard, along the walls by touch: begun, read, told, moved, read again."""

from __future__ import annotations

from math import cos, radians, sin
from typing import Any

import pytest
from playwright.sync_api import Browser, Page, expect

from gyrometra.bridge.units import Units
from gyrometra.jobs.models import SetUp
from gyrometra.steps.page import open_page
from gyrometra.truing.models import Between, Reading, Round
from gyroplan.assess import line_moves_of
from tests.browser.test_machine import sign_in
from tests.browser.test_setting_up import clean

pytestmark = pytest.mark.browser


def sweep(page: Page, readings: list[int]) -> None:
    """Eight places and the first again, each a number and Enter wherever the focus is."""
    expect(page.locator("input[name=place]")).to_have_value("0")
    for place, value in enumerate([*readings, readings[0]]):
        page.keyboard.type(f"{value}\n", delay=20)
        if place < len(readings):
            expect(page.locator("input[name=place]")).to_have_value(str(place + 1))
    expect(page.locator(".begin .main")).to_be_visible()


def start(page: Page, depth: str | None = None) -> None:
    if depth is not None:
        page.locator("#id_plane_mm").fill(depth)
    page.locator(".begin .main").focus()
    page.keyboard.press("Enter")


def test_two_planes_to_a_true_axis_by_keyboard(page: Page, live_server: Any, shop: None, faults: list[str]) -> None:
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/Q-223/true/")
    start(page, "50")
    # the outside reads higher toward where it lies: 0.040 to jaw 1
    sweep(page, [40, 28, 0, -28, -40, -28, 0, 28])
    expect(page.locator(".legend")).to_contain_text("One plane only: tilt is not seen.")
    page.locator(".how > summary").click()
    page.locator("#id_plane_mm").fill("10")
    page.get_by_role("button", name="Nothing moved: read on").focus()
    page.keyboard.press("Enter")
    sweep(page, [40, 56, 40, 0, -40, -56, -40, 0])
    expect(page.locator(".legend")).to_contain_text("leans over")
    expect(page.locator(".moves")).to_contain_text("Run-out to expect after it")
    expect(page.locator(".moves")).to_contain_text("then, in plane B, tap it to jaw 4: 0.040")
    clean(page, 1280)
    start(page)
    expect(page.locator(".cells")).to_be_visible()
    assert Between.objects.filter(kind="moved").count() >= 1
    sweep(page, [0, 1, 0, -1, 0, 1, 0, -1])
    start(page)
    sweep(page, [0, 1, 1, 1, 0, -1, -1, -1])
    expect(page.locator(".moves")).to_contain_text("True in 2 planes")
    expect(page.locator(".rail .now")).to_contain_text("true in 2 planes")
    assert [float(one.plane_mm or 0) for one in Round.objects.filter(setup__job__number="Q-223")] == [50, 10, 50, 10]
    assert faults == []


def test_walls_are_read_by_touch_on_a_phone(browser: Browser, live_server: Any, shop: None) -> None:
    SetUp.objects.filter(job__number="Q-223").update(reference="wall")
    context = browser.new_context(viewport={"width": 390, "height": 844}, has_touch=True, is_mobile=True)
    page = context.new_page()
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/Q-223/true/")
    page.locator("#id_sides").select_option("2")
    page.locator("#id_depths").fill("10 50")
    page.locator(".begin .main").tap()
    for place, keys in enumerate((("0",), ("4", "0", "sign"), ("0",), ("4", "0"), ("0",))):
        expect(page.locator("input[name=place]")).to_have_value(str(place))
        for key in keys:
            page.locator(f".pad [data-key='{key}']").tap()
        page.locator(".pad .enter").tap()
    expect(page.locator(".moves")).to_contain_text("Move the open end to jaw 1")
    # 0.040 over the 40 between the depths, so 0.084 over the bore of 84
    expect(page.locator(".moves .jawno")).to_have_text("0.084")
    expect(page.locator(".legend")).to_contain_text("Two walls: the lean the other way is not seen.")
    clean(page, 390)
    assert Reading.objects.filter(round__method="walls", round__setup__job__number="Q-223").count() == 5
    context.close()


def test_a_column_is_pasted_and_a_file_read(page: Page, live_server: Any, shop: None, faults: list[str]) -> None:
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/Q-223/true/")
    start(page)
    expect(page.locator("input[name=place]")).to_have_value("0")
    page.evaluate(
        """text => { const data = new DataTransfer(); data.setData("text", text);
        document.querySelector("[data-active-cell]").dispatchEvent(
          new ClipboardEvent("paste", { clipboardData: data, bubbles: true })); }""",
        "10\n7\n0\n-7\n",
    )
    expect(page.locator("input[name=place]")).to_have_value("4")
    file = {"name": "sweep.csv", "mimeType": "text/csv", "buffer": b"place,reading\n5,-10\n6,-7\n7,0\n8,7\n1,10\n"}
    page.locator("[data-readings-file]").set_input_files(file)  # type: ignore[arg-type]
    expect(page.locator(".begin .main")).to_be_visible()
    rows = Reading.objects.filter(round__setup__job__number="Q-223").order_by("pk")
    assert [round(1000 * float(one.value_mm or 0)) for one in rows] == [10, 7, 0, -7, -10, -7, 0, 7, 10]
    assert {one.source for one in rows} == {"pasted"}
    assert faults == []


def test_the_keypad_for_the_left_hand(browser: Browser, live_server: Any, shop: None) -> None:
    context = browser.new_context(viewport={"width": 390, "height": 844}, has_touch=True, is_mobile=True)
    page = context.new_page()
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/Q-223/true/")
    page.locator(".begin .main").tap()
    enter, seven, nine = (page.locator(f".pad {one}") for one in (".enter", "[data-key='7']", "[data-key='9']"))
    expect(enter).to_be_visible()

    def left_of(one: Any) -> float:
        box = one.bounding_box()
        assert box is not None
        return float(box["x"])

    assert left_of(enter) > left_of(nine) > left_of(seven)
    page.locator(".hand [data-left-hand]").tap()
    assert left_of(enter) < left_of(seven) < left_of(nine)
    page.reload()
    expect(page.locator(".hand [data-left-hand]")).to_have_attribute("aria-pressed", "true")
    assert left_of(enter) < left_of(seven), "a setting of the device"
    clean(page, 390)
    context.close()


def test_a_line_bar_between_two_housings(page: Page, live_server: Any, shop: None, faults: list[str]) -> None:
    """Each end housing swept by keyboard, both bearings moved, swept again as the sagging bar then shows them."""

    def sweep_bore(place: int, up: float, right: float, *, moved: bool = False) -> None:
        page.goto(f"{live_server.url}/jobs/Q-221/true/?bore={place}")
        if not moved and page.get_by_role("button", name="Nothing moved: read on").count():
            page.get_by_role("button", name="Nothing moved: read on").click()
        else:
            start(page)
        sweep(page, [round(-1000 * (up * cos(radians(45 * n)) + right * sin(radians(45 * n)))) for n in range(8)])

    sign_in(page, live_server.url)
    sweep_bore(1, 0.242, -0.132)
    expect(page.locator(".moves")).to_contain_text("a sweep of H3")
    sweep_bore(3, -0.058, 0.058)
    expect(page.locator(".moves")).to_contain_text("Bearing 1")
    clean(page, 1280)
    found = line_moves_of(open_page("Q-221", Units(), 3).assessment, 1)
    assert found is not None
    for move in found.moves:
        expect(page.locator(".moves")).to_contain_text(f"{abs(move.up_mm):.3f}")
    sag = {one.name: one.sag_mm for one in found.bores}
    # true now: what a sweep shows is the bar's own sag
    sweep_bore(1, sag["H1"], 0.0, moved=True)
    sweep_bore(3, sag["H3"], 0.0)
    expect(page.locator(".rail .done.now")).to_contain_text("centre offset 0.000")
    found = line_moves_of(open_page("Q-221", Units(), 3).assessment, 1)
    assert found is not None
    assert found.within
    assert faults == []


#: Work in every state of True: to be moved, in two planes, along walls on a plate, true, not read, of eight pieces.
STATES = ("Q-219", "Q-216", "Q-233", "Q-214", "Q-223", "Q-207", "Q-228", "Q-198")
#: A line more or less of a long name does no harm; a plate more would.
SLACK = 14


@pytest.mark.parametrize("job", STATES)
def test_true_fits_the_screen_and_what_is_done_next_is_in_reach(
    page: Page, live_server: Any, shop: None, job: str
) -> None:
    sign_in(page, live_server.url)
    page.set_viewport_size({"width": 1280, "height": 800})
    page.goto(f"{live_server.url}/jobs/{job}/true/")
    assert page.evaluate("document.documentElement.scrollHeight") <= 800 + SLACK
    clean(page, 1280)
    main = page.locator(".beginrow .main").first
    if job == "Q-198":  # signed: nothing more is logged
        expect(main).to_have_count(0)
        return
    page.set_viewport_size({"width": 390, "height": 844})
    page.reload()
    box = main.bounding_box()
    assert box is not None
    read = job in ("Q-219", "Q-216", "Q-214", "Q-228")
    assert not read or box["y"] + box["height"] <= 844, "at the thumb, once a round was read"
    clean(page, 390)


def test_a_coaxial_indicator_is_told_where_to_wind_as_it_is_typed(
    page: Page, live_server: Any, shop: None, faults: list[str]
) -> None:
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/Q-228/true/")
    page.get_by_text("Centred another way").click()
    page.locator("#id_how").select_option("coaxial")
    for n, (at, swing) in enumerate((("0", "0.26"), ("0.1", "0.1077"), ("0.2", "0.18868")), 1):
        page.locator(f"#id_x-at_{n}").fill(at)
        page.locator(f"#id_x-swing_{n}").fill(swing)
    expect(page.locator(".told")).to_contain_text("Wind X to 0.120")
    page.locator("#id_swing_mm").fill("0.006")
    page.get_by_role("button", name="Log it").click()
    expect(page.locator(".rail .now")).to_contain_text("by coaxial, ±0.003")
    page.locator("body").click(position={"x": 5, "y": 5})
    page.keyboard.press("z")
    expect(page.locator(".rail .now")).to_contain_text("0.030 off, limit 0.015")
    assert Round.objects.filter(method="coaxial").count() == 1, "taken back, it stays in the log"
    assert faults == []
