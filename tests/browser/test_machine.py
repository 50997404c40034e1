"""At the machine: touch, keys, cable, two people at once."""

import re
from typing import Any

import pytest
from playwright.sync_api import Browser, Page, expect

from gyrometra.cutting.models import CutEntry
from gyrometra.truing.models import Reading

pytestmark = pytest.mark.browser


def sign_in(page: Page, base: str, name: str = "dagny") -> None:
    page.goto(f"{base}/sign-in/")
    page.fill("#id_username", name)
    page.fill("#id_password", "quillmoor")
    page.get_by_role("button", name="Sign in").click()


def begin(page: Page, base: str) -> None:
    page.goto(f"{base}/jobs/Q-219/true/")
    page.locator(".begin .btn-shop.main").click()
    expect(page.locator("input[name=place]")).to_have_value("0")


def test_keypad_on_a_phone(browser: Browser, live_server: Any, shop: None) -> None:
    context = browser.new_context(viewport={"width": 390, "height": 844}, has_touch=True, is_mobile=True)
    page = context.new_page()
    sign_in(page, live_server.url)
    begin(page, live_server.url)
    for key in ("2", "7", "sign"):
        page.locator(f".pad [data-key='{key}']").tap()
    page.locator(".pad .enter").tap()
    expect(page.locator("input[name=place]")).to_have_value("1")
    reading = Reading.objects.latest("pk")
    assert (float(reading.value_mm or 0), reading.source) == (-0.027, "keypad")
    enter = page.locator(".pad .enter").bounding_box()
    assert enter is not None
    assert enter["y"] + enter["height"] <= 844, "the keypad is at the thumb without scrolling"
    context.close()


def test_a_cable_types_wherever_the_focus_is(page: Page, live_server: Any, shop: None, faults: list[str]) -> None:
    sign_in(page, live_server.url)
    begin(page, live_server.url)
    page.evaluate("document.activeElement.blur()")
    # in one go, as a cable does: a busy machine must not make a hand of it
    page.evaluate(
        """() => { for (const key of ["0", ".", "0", "3", "1", "Enter"])
        document.body.dispatchEvent(new KeyboardEvent("keydown", {key, bubbles: true})) }"""
    )
    expect(page.locator("input[name=place]")).to_have_value("1")
    reading = Reading.objects.latest("pk")
    assert (float(reading.value_mm or 0), reading.source, reading.text) == (0.031, "cable", "0.031")


def test_keys_walk_take_back_and_leave(page: Page, live_server: Any, shop: None, faults: list[str]) -> None:
    sign_in(page, live_server.url)
    begin(page, live_server.url)
    page.keyboard.type("5\n6\n", delay=40)  # faster than the server: nothing typed may be lost
    expect(page.locator("input[name=place]")).to_have_value("2")
    page.keyboard.press("ArrowLeft")
    expect(page.locator("input[name=place]")).to_have_value("1")
    page.locator("[data-active-cell]").press_sequentially("9", delay=60)
    page.keyboard.press("Enter")
    expect(page.locator("input[name=place]")).to_have_value("2")
    expect(page.locator(".cells")).to_contain_text("+0.009")
    page.keyboard.press("z")
    expect(page.locator("input[name=place]")).to_have_value("1")
    page.keyboard.press("?")
    expect(page.locator("#keys")).to_be_visible()
    page.keyboard.press("Escape")
    page.evaluate("document.activeElement.blur()")
    page.keyboard.press("u")
    expect(page.locator("#unit-switch")).to_have_text("in")
    page.evaluate("document.activeElement.blur()")
    page.keyboard.press("b")
    expect(page.locator(".strips")).to_be_visible()


def test_an_error_offers_the_likely_value(page: Page, live_server: Any, shop: None, faults: list[str]) -> None:
    sign_in(page, live_server.url)
    begin(page, live_server.url)
    page.locator("[data-active-cell]").fill("27.000")
    page.keyboard.press("Enter")
    expect(page.locator(".cellerr")).to_contain_text("Say which, once; it is remembered.")
    expect(page.locator("[data-active-cell]")).to_have_value("27.000")
    page.get_by_role("button", name="27.000 divisions").click()
    expect(page.locator("input[name=place]")).to_have_value("1")
    page.get_by_role("button", name="Skip this position").click()
    expect(page.locator("input[name=place]")).to_have_value("2")
    expect(page.locator(".cells")).to_contain_text("skipped")


def test_two_people_at_one_plan(browser: Browser, page: Page, live_server: Any, shop: None) -> None:
    other = browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
    for who, name in ((page, "dagny"), (other, "corin")):
        sign_in(who, live_server.url, name)
        who.goto(f"{live_server.url}/jobs/Q-214/bar/")
    page.fill("#id_clear_mm", "25")
    page.locator("#id_clear_mm").press("Tab")
    expect(page.locator(".dp .big").first).to_contain_text("170")
    other.fill("#id_clear_mm", "30")
    other.locator("#id_clear_mm").press("Tab")
    expect(other.locator(".conflict")).to_contain_text("dagny changed this job at")
    expect(other.locator("#id_clear_mm")).to_have_value("30")
    other.context.close()


def test_cautions_are_shown_one_at_a_time(page: Page, live_server: Any, shop: None, faults: list[str]) -> None:
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/Q-219/true/")
    expect(page.locator(".caut .one:visible")).to_have_count(1)
    expect(page.locator(".caut .one:visible")).to_contain_text("Chuck key out")
    page.get_by_role("button", name="Next caution").click()
    expect(page.locator(".caut .one:visible")).to_contain_text("Indicator, stylus and keys out")
    expect(page.locator(".caut .nx")).to_contain_text("2 of 2")


def test_because_opens_with_formula_and_source(page: Page, live_server: Any, shop: None, faults: list[str]) -> None:
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/Q-214/cuts/")
    page.locator(".dp summary").first.click()
    expect(page.locator(".dp .why").first).to_contain_text("n = 1000 v / (pi D)")
    expect(page.locator(".dp .why").first).to_contain_text("four-times rule says")


def test_readings_are_held_while_the_server_is_away_and_sent_once(
    browser: Browser, live_server: Any, shop: None
) -> None:
    context = browser.new_context(viewport={"width": 1280, "height": 800})
    page = context.new_page()
    sign_in(page, live_server.url)
    begin(page, live_server.url)
    page.keyboard.type("4\n", delay=40)
    expect(page.locator("input[name=place]")).to_have_value("1")
    before = Reading.objects.count()
    context.set_offline(True)
    for place, reading in enumerate(("5", "-3", "2"), start=2):
        page.keyboard.type(f"{reading}\n", delay=30)
        expect(page.locator("input[name=place]")).to_have_value(str(place))
    expect(page.locator("#held")).to_contain_text("Offline: 3 entries kept on this device")
    expect(page.locator("#saved")).to_have_text("Offline, 3 kept")
    expect(page.locator(".heldvalue")).to_have_count(3)
    assert Reading.objects.count() == before, "nothing reached the server"
    assert page.locator(".dp.stale").count() == page.locator(".dp").count()
    context.set_offline(False)
    expect(page.locator("#held")).to_be_hidden()
    expect(page.locator("input[name=place]")).to_have_value("4")
    stored = list(Reading.objects.order_by("-pk")[:3])
    assert [float(r.value_mm or 0) for r in stored] == [0.002, -0.003, 0.005]
    assert Reading.objects.count() == before + 3, "each once"
    context.close()


def test_the_bar_is_dragged_and_its_limits_follow(page: Page, live_server: Any, shop: None, faults: list[str]) -> None:
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/Q-214/bar/")
    field = page.locator("#id_out_mm")
    expect(field).to_have_value("165")
    bar = page.locator(".scene.wide .r-bar").first
    box = bar.bounding_box()
    assert box is not None
    at = (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.move(*at)
    page.mouse.down()
    page.mouse.move(at[0] - 60, at[1], steps=6)
    page.mouse.up()
    expect(field).not_to_have_value("165")
    expect(page.locator(".dp .big").first).to_have_text(re.compile(rf"^{field.input_value()}"))
    assert int(field.input_value()) > 165
    page.goto(f"{live_server.url}/jobs/Q-214/bar/")
    field.focus()
    before = int(field.input_value())
    page.keyboard.press("PageDown")
    page.keyboard.press("ArrowUp")
    expect(page.locator(".dp .big").first).to_have_text(re.compile(rf"^{before - 9}"))


def test_a_request_that_fails_says_so_at_what_was_pressed(page: Page, live_server: Any, shop: None) -> None:
    sign_in(page, live_server.url)
    before = CutEntry.objects.filter(kind="set", setup__job__number="Q-214").count()
    page.goto(f"{live_server.url}/jobs/Q-214/bore/?to=set")
    for box in page.locator("input[name=guard]").all():
        box.check()
    page.route("**/cut/set/**", lambda route: route.fulfill(status=500, body="broken"))
    page.click("#set-pass")
    expect(page.locator(".actform .keptline")).to_have_text("1 entry kept here, not sent yet.")
    expect(page.locator("#held")).to_contain_text("The server answered 500: 1 entry kept on this device")
    assert CutEntry.objects.filter(kind="set", setup__job__number="Q-214").count() == before
    page.unroute("**/cut/set/**")
    expect(page.locator("#cut-pass")).to_be_visible()
    expect(page.locator("#held")).to_be_hidden()
    assert CutEntry.objects.filter(kind="set", setup__job__number="Q-214").count() == before + 1, "sent by itself, once"
    page.goto(f"{live_server.url}/jobs/Q-214/cuts/")
    page.route("**/save/cuts/**", lambda route: route.abort())
    page.fill("#id_rough_depth_mm", "0.6")
    page.locator("#id_rough_depth_mm").press("Tab")
    expect(page.locator(".notsaved")).to_have_text("Not saved: offline. Press again.")


def test_a_half_typed_size_is_never_logged_by_itself(page: Page, live_server: Any, shop: None) -> None:
    """A remark is on its way, slowly, while a size is being typed: the size stays in its field, unlogged."""
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/Q-214/bore/")
    before = CutEntry.objects.filter(kind="size").count()

    def slowly(route: Any) -> None:
        page.locator("#size").press_sequentially("71.2")
        route.continue_()

    page.route("**/cut/remark/**", slowly)
    page.locator("[name=sound][value=quiet]").check()
    with page.expect_response(lambda answer: "/cut/remark/" in answer.url):
        page.locator("[name=look][value=clean]").check()
    page.wait_for_load_state("networkidle")
    expect(page.locator(".taken tbody tr")).to_have_count(3)
    assert CutEntry.objects.filter(kind="size").count() == before
