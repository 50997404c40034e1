"""Entries of the logs: kept in the browser before they are sent, each stored once, or told."""

from __future__ import annotations

from typing import Any

import pytest
from django.contrib.sessions.models import Session
from playwright.sync_api import Browser, BrowserContext, Page, expect

from gyrometra.accounts.models import User
from gyrometra.cutting.models import CutEntry
from gyrometra.truing.models import Reading, Round
from tests.browser.test_machine import begin, sign_in

pytestmark = pytest.mark.browser
READ = "**/reading/true/**"


@pytest.fixture
def tablet(browser: Browser) -> Any:
    context = browser.new_context(viewport={"width": 1280, "height": 800})
    context.set_default_timeout(20_000)
    yield context
    context.close()


def reading(tablet: BrowserContext, url: str) -> Page:
    page = tablet.new_page()
    sign_in(page, url)
    begin(page, url)
    return page


def values(since: int) -> list[float]:
    return [1000 * float(row.value_mm or 0) for row in Reading.objects.filter(pk__gt=since).order_by("pk")]


def last() -> int:
    return Reading.objects.order_by("-pk").values_list("pk", flat=True)[0]


def place(page: Page, number: int) -> None:
    expect(page.locator("input[name=place]")).to_have_value(str(number))


def test_two_tabs_lose_nothing(tablet: BrowserContext, live_server: Any, shop: None) -> None:
    """One job open twice, away, 1 to 4 typed by turns: all of them are stored, once, in their order."""
    first = reading(tablet, live_server.url)
    second = tablet.new_page()
    second.goto(first.url)
    since = last()
    tablet.set_offline(True)
    first.keyboard.type("1\n")
    place(first, 1)
    first.keyboard.type("2\n")
    place(first, 2)
    second.bring_to_front()
    second.keyboard.type("7\n")
    place(second, 1)
    second.keyboard.type("8\n")
    place(second, 2)
    tablet.set_offline(False)
    expect(first.locator("#held")).to_contain_text("Not logged: 7 reading at jaw 1")
    expect(first.locator("#held")).to_contain_text("Not logged: 8 reading at 1-2")
    assert values(since) == pytest.approx([1, 2]), "what stood at the place already is not replaced unasked"
    second.get_by_role("button", name="Leave it out").first.click()
    expect(second.locator("[data-held-list] li")).to_have_count(1)


def test_a_session_that_ended_asks_for_the_password_and_goes_on(
    tablet: BrowserContext, live_server: Any, shop: None
) -> None:
    page = reading(tablet, live_server.url)
    since = last()
    Session.objects.all().delete()
    page.keyboard.type("5\n")
    dialog = page.locator("#again")
    expect(dialog).to_be_visible()
    assert values(since) == []
    dialog.locator("#again-password").fill("wrong")
    dialog.get_by_role("button", name="Sign in").click()
    expect(dialog).to_contain_text("Wrong name or password")
    dialog.locator("#again-password").fill("quillmoor")
    with page.expect_response(READ):
        dialog.get_by_role("button", name="Sign in").click()
    expect(dialog).to_be_hidden()
    expect(page.locator("#held")).to_be_hidden()
    place(page, 1)
    assert values(since) == pytest.approx([5])
    page.keyboard.type("6\n")
    place(page, 2)
    assert values(since) == pytest.approx([5, 6])


def test_a_browser_whose_cookies_are_gone_asks_for_the_password(
    tablet: BrowserContext, live_server: Any, shop: None
) -> None:
    page = reading(tablet, live_server.url)
    since = last()
    tablet.clear_cookies()
    page.keyboard.type("5\n")
    page.locator("#again-password").fill("quillmoor")
    with page.expect_response(READ):
        page.locator("#again").get_by_role("button", name="Sign in").click()
    place(page, 1)
    expect(page.locator("#held")).to_be_hidden()
    assert values(since) == pytest.approx([5])


def test_a_plan_typed_after_the_session_ended_goes_on(tablet: BrowserContext, live_server: Any, shop: None) -> None:
    page = tablet.new_page()
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/Q-219/cuts/")
    Session.objects.all().delete()
    page.fill("#id_rough_depth_mm", "0.65")
    page.locator("#id_rough_depth_mm").press("Tab")
    page.locator("#again-password").fill("quillmoor")
    with page.expect_response("**/save/cuts/**") as saved:
        page.locator("#again").get_by_role("button", name="Sign in").click()
    assert saved.value.status == 200
    page.reload()
    expect(page.locator("#id_rough_depth_mm")).to_have_value("0.65")


@pytest.mark.parametrize("status", [400, 403, 404, 409, 413, 429, 500, 503])
def test_an_answer_that_is_not_the_entrys_own_is_no_answer(
    tablet: BrowserContext, live_server: Any, shop: None, status: int
) -> None:
    page = reading(tablet, live_server.url)
    since = last()
    tablet.route(READ, lambda route: route.fulfill(status=status, body="<p class='err'>no</p>"))
    page.keyboard.type("5\n")
    place(page, 1)
    page.keyboard.type("7\n")
    place(page, 2)
    expect(page.locator("#held")).to_contain_text("2 entries kept on this device")
    tablet.unroute(READ)
    expect(page.locator("#held")).to_be_hidden()
    place(page, 2)
    assert values(since) == pytest.approx([5, 7])


def test_an_answer_that_is_lost_stores_once(tablet: BrowserContext, live_server: Any, shop: None) -> None:
    page = reading(tablet, live_server.url)
    since = last()

    def lose(route: Any) -> None:
        route.fetch()
        route.abort()

    tablet.route(READ, lose)
    page.keyboard.type("5\n")
    place(page, 1)
    tablet.unroute(READ)
    page.keyboard.type("6\n")
    place(page, 2)
    expect(page.locator("#held")).to_be_hidden()
    assert values(since) == pytest.approx([5, 6])


def test_a_tab_that_is_closed_or_loaded_again_loses_nothing(
    tablet: BrowserContext, live_server: Any, shop: None
) -> None:
    page = reading(tablet, live_server.url)
    since, url = last(), page.url
    tablet.route(READ, lambda route: None)  # hangs
    page.keyboard.type("5\n")
    page.wait_for_timeout(50)
    page.keyboard.type("6\n")
    place(page, 2)
    page.close()
    tablet.unroute(READ)
    again = tablet.new_page()
    again.goto(url)
    place(again, 2)
    assert values(since) == pytest.approx([5, 6])
    stored = Reading.objects.filter(pk__gt=since).order_by("pk")
    assert all(row.typed_at is not None and row.typed_at <= row.at for row in stored), "when it was typed is kept"


def test_another_users_entries_are_told_and_not_sent(tablet: BrowserContext, live_server: Any, shop: None) -> None:
    page = reading(tablet, live_server.url)
    since, typist = last(), page.locator("body").get_attribute("data-user")
    tablet.set_offline(True)
    page.keyboard.type("5\n")
    place(page, 1)
    page.close()
    tablet.set_offline(False)
    tablet.clear_cookies()
    other = tablet.new_page()
    other.goto(f"{live_server.url}/sign-in/")
    expect(other.locator("#held")).to_contain_text(f"1 entry of {typist} waits on this device")
    sign_in(other, live_server.url, "corin" if typist != "corin" else "dagny")
    expect(other.locator("#held")).to_contain_text(f"1 entry of {typist} waits on this device")
    assert values(since) == []
    tablet.clear_cookies()
    back = tablet.new_page()
    with back.expect_response(READ):
        sign_in(back, live_server.url, str(typist))
    expect(back.locator("#held")).to_be_hidden()
    stored = Reading.objects.get(pk__gt=since)
    assert (stored.by.username, 1000 * float(stored.value_mm or 0)) == (typist, pytest.approx(5))


def test_a_page_of_one_user_never_logs_under_another(tablet: BrowserContext, live_server: Any, shop: None) -> None:
    page = reading(tablet, live_server.url)
    since, typist = last(), page.locator("body").get_attribute("data-user")
    tablet.clear_cookies()
    other = tablet.new_page()
    name = "corin" if typist != "corin" else "dagny"
    sign_in(other, live_server.url, name)
    page.bring_to_front()
    page.keyboard.type("5\n")
    expect(page.locator("#held")).to_contain_text(f"Typed by {typist}; {name} is signed in here now.")
    assert values(since) == []


def test_the_unit_is_the_pages_whoever_switched_it(tablet: BrowserContext, live_server: Any, shop: None) -> None:
    page = reading(tablet, live_server.url)
    since = last()
    User.objects.update(unit="in")
    page.keyboard.type("0.005\n")
    place(page, 1)
    assert values(since) == pytest.approx([5])
    expect(page.locator("#unit-switch")).to_have_text("mm")


def test_an_undo_typed_away_takes_back_the_one_before_it(tablet: BrowserContext, live_server: Any, shop: None) -> None:
    page = reading(tablet, live_server.url)
    since = last()
    tablet.set_offline(True)
    page.keyboard.type("5\n")
    place(page, 1)
    page.keyboard.type("9\n")
    place(page, 2)
    page.click("#take-back")
    expect(page.locator("#held")).to_contain_text("3 entries kept")
    tablet.set_offline(False)
    place(page, 1)
    rows = list(Reading.objects.filter(pk__gt=since).order_by("pk"))
    assert [row.withdrawn for row in rows] == [False, False, True]
    assert rows[2].supersedes_id == rows[1].pk


def test_a_browser_that_keeps_nothing_says_so_first(tablet: BrowserContext, live_server: Any, shop: None) -> None:
    tablet.add_init_script("IDBFactory.prototype.open = () => { throw new DOMException('no', 'SecurityError') }")
    page = reading(tablet, live_server.url)
    since = last()
    expect(page.locator("#held")).to_contain_text("This browser keeps nothing")
    page.keyboard.type("5\n")
    place(page, 1)
    assert values(since) == pytest.approx([5]), "it is sent all the same"


def test_a_double_tap_begins_one_round(tablet: BrowserContext, live_server: Any, shop: None) -> None:
    page = tablet.new_page()
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/Q-219/true/")
    before = Round.objects.count()
    page.locator(".begin .btn-shop.main").dblclick()
    place(page, 0)
    assert Round.objects.count() == before + 1


def test_a_refused_entry_stays_until_somebody_decides(tablet: BrowserContext, live_server: Any, shop: None) -> None:
    page = reading(tablet, live_server.url)
    page.keyboard.type("27.000\n")
    # at the cell; in the strip where the answer took longer than the page waits for it
    expect(page.locator(".cellerr, #held:visible").first).to_contain_text("Say which")
    page.goto(f"{live_server.url}/")
    expect(page.locator("#held")).to_contain_text("Not logged: 27.000 reading at jaw 1 Q-219")
    page.get_by_role("button", name="Leave it out").click()
    expect(page.locator("#held")).to_be_hidden()
    page.reload()
    expect(page.locator("#held")).to_be_hidden()


def test_a_setting_tapped_away_is_sent_and_not_set_twice(tablet: BrowserContext, live_server: Any, shop: None) -> None:
    page = tablet.new_page()
    sign_in(page, live_server.url)
    page.goto(f"{live_server.url}/jobs/Q-214/bore/?to=set")
    for box in page.locator("input[name=guard]").all():
        box.check()
    before = CutEntry.objects.filter(kind="set").count()
    tablet.set_offline(True)
    page.click("#set-pass")
    expect(page.locator(".keptline")).to_have_text("1 entry kept here, not sent yet.")
    expect(page.locator("#set-pass")).to_be_disabled()
    tablet.set_offline(False)
    expect(page.locator("#cut-pass")).to_be_visible()
    assert CutEntry.objects.filter(kind="set").count() == before + 1
