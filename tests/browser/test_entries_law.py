"""Whatever the network, the server, the tabs and the people do: the log holds what was typed, once, as it was typed.

Random sequences in a real browser. A failing one prints its seed: `pytest --seed N` runs that one alone.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import datetime, timedelta
from random import Random
from typing import Any

import pytest
from django.contrib.sessions.models import Session
from django.test import Client
from django.utils import timezone
from playwright.sync_api import Browser, BrowserContext, Page, Route

from gyrometra.accounts.models import User
from gyrometra.inspection.models import SizeReading

pytestmark = pytest.mark.browser
JOB = "/jobs/Q-214/check/"
SIZE = "**/jobs/Q-214/size/**"
PEOPLE = ("dagny", "corin")
#: What stands between the page and the server, and what it does with an entry.
BETWEEN = ["open", "open", "open", "away", "hangs", "lost", "404", "403", "500", "503", "redirect"]
ACTS = ["type"] * 8 + ["between"] * 4 + ["reload", "close", "other tab", "other user", "unit", "session", "wait"]
#: What the page took as an entry.
TAKEN = """window.taken = []; document.addEventListener("entry:sending",
  (event) => window.taken.push(event.target.querySelector("[name=value]").value));"""
LEFT = """async () => {
  const db = await new Promise((done) => { const r = indexedDB.open("gyrometra"); r.onsuccess = () => done(r.result) });
  const rows = await new Promise((done) => {
    const r = db.transaction("entries").objectStore("entries").getAll(); r.onsuccess = () => done(r.result) });
  db.close();
  return rows.map((one) => ({user: one.user, state: one.state, where: one.where, why: one.why}));
}"""


@dataclass
class Typed:
    """An entry as a person typed it."""

    text: str
    mm: float
    by: str
    tab: int
    before: datetime
    after: datetime


@dataclass
class Shop:
    """A tablet with its tabs, its people, and what stands between it and the server."""

    context: BrowserContext
    url: str
    random: Random
    between: str = "open"
    who: str = PEOPLE[0]
    tabs: list[Page] = field(default_factory=list)
    typed: list[Typed] = field(default_factory=list)
    hanging: list[Route] = field(default_factory=list)
    done: list[str] = field(default_factory=list)

    def begin(self) -> None:
        self.context.add_init_script(TAKEN)
        self.context.route(SIZE, self._answer)
        self._sign_in_anew(self.open(""))

    def open(self, path: str = JOB) -> Page:
        page = self.context.new_page()
        if path:
            page.goto(self.url + path)
        self.tabs.append(page)
        return page

    def _answer(self, route: Route) -> None:
        if self.between == "hangs":
            self.hanging.append(route)
        elif self.between == "away":
            route.abort()
        elif self.between == "lost":
            route.fetch()
            route.abort()
        elif self.between == "redirect":
            route.fulfill(status=302, headers={"Location": "/sign-in/"})
        elif self.between == "open":
            route.continue_()
        else:
            route.fulfill(status=int(self.between), body="<p class='err'>Not yours.</p>")

    def act(self, act: str) -> None:
        self.done.append(act)
        getattr(self, "_" + act.replace(" ", "_"))()

    def _type(self) -> None:
        tab = self.random.randrange(len(self.tabs))
        page = self.tabs[tab]
        self._answer_password(page)
        unit, number = page.locator("#unit-switch").inner_text(), len(self.typed)
        # a figure of its own for each, so that one stored twice or misread is seen; none a turn of a thimble short
        text = f"{71.7 + 0.001 * number:.3f}" if unit == "mm" else f"{2.823 + 0.0001 * number:.4f}"
        mm = float(text) * (1 if unit == "mm" else 25.4)
        page.bring_to_front()
        page.wait_for_function("() => !document.querySelector('form.sizeform').hasAttribute('aria-busy')")
        before = timezone.now()
        page.locator("#size").fill(text)
        page.locator("#size").press("Enter")
        if not page.evaluate("(text) => window.taken.includes(text)", text):
            self.done[-1] += " nothing"  # the password is asked: the figure stands in its field, and was not entered
            return
        self.typed.append(Typed(text, mm, self.who, tab, before, timezone.now()))

    def _answer_password(self, page: Page) -> None:
        if page.locator("#again").is_visible():
            page.locator("#again-password").fill("quillmoor")
            page.locator("#again .main").click()
            page.locator("#again").wait_for(state="hidden")

    def _between(self) -> None:
        self.between = self.random.choice(BETWEEN)
        self.done[-1] += f" {self.between}"
        for route in self.hanging:
            route.abort()
        self.hanging.clear()

    def _reload(self) -> None:
        self.random.choice(self.tabs).goto(self.url + JOB)

    def _close(self) -> None:
        if len(self.tabs) > 1:
            self.tabs.pop(self.random.randrange(len(self.tabs))).close()

    def _other_tab(self) -> None:
        if len(self.tabs) < 3:
            self.open()

    def _other_user(self) -> None:
        """The tablet is handed over: the next one signs in, the tabs are theirs."""
        for page in self.tabs[1:]:
            page.close()
        del self.tabs[1:]
        self.who = PEOPLE[1 - PEOPLE.index(self.who)]
        self._sign_in_anew(self.tabs[0])

    def _sign_in_anew(self, page: Page) -> None:
        """Another session, without the way through the sign-in page.

        A late answer to a request of the session before takes the cookie away again: then it is done once more.
        """
        for _ in range(3):
            self.context.clear_cookies()
            client = Client()
            client.force_login(User.objects.get(username=self.who))
            key = client.cookies["sessionid"].value
            self.context.add_cookies([{"name": "sessionid", "value": key, "url": self.url}])
            page.goto(self.url + JOB)
            if "/sign-in/" not in page.url:
                return

    def _unit(self) -> None:
        User.objects.update(unit=self.random.choice(["mm", "in"]))

    def _session(self) -> None:
        Session.objects.all().delete()
        for page in self.tabs[1:]:
            page.close()
        del self.tabs[1:]
        self._sign_in_anew(self.tabs[0])

    def _wait(self) -> None:
        self.tabs[0].wait_for_timeout(self.random.choice([20, 200, 1600]))

    def settle(self) -> list[dict[str, str]]:
        """The way is open, each person signs in: what is left on the tablet is only what was refused."""
        self.between = "open"
        for route in self.hanging:
            route.abort()
        self.hanging.clear()
        left: list[dict[str, str]] = []
        for _ in PEOPLE:
            self._other_user()
            page = self.tabs[0]
            for _ in range(100):
                page.evaluate("window.dispatchEvent(new Event('online'))")
                left = page.evaluate(LEFT)
                if not any(one["state"] == "kept" and one["user"] == self.who for one in left):
                    break
                page.wait_for_timeout(100)
        return left


def test_the_log_holds_what_was_typed(browser: Browser, live_server: Any, shop: None, seeds: range) -> None:
    """Several sequences in one shop, each on a tablet of its own."""
    for seed in seeds:
        _told(browser, live_server.url, seed)


def _told(browser: Browser, url: str, seed: int) -> None:
    random = Random(seed)
    since = SizeReading.objects.order_by("-pk").values_list("pk", flat=True)[0]
    context = browser.new_context(viewport={"width": 1280, "height": 800})
    context.set_default_timeout(20_000)
    tablet = Shop(context, url, random)
    began = timezone.now()
    try:
        tablet.begin()
        for _ in range(random.randrange(6, 16)):
            tablet.act(random.choice(ACTS))
        left = tablet.settle()
    except Exception as error:
        shown = [f"{page.url}: {page.inner_text('body')[:300]}" for page in tablet.tabs]
        error.add_note(f"seed {seed}: {', '.join(tablet.done)}; {shown}")
        raise
    finally:
        context.unroute_all(behavior="ignoreErrors")
        context.close()
    told = f"seed {seed}: {', '.join(tablet.done)}"
    stored = list(SizeReading.objects.filter(pk__gt=since).order_by("pk").select_related("by"))
    refused = {one["where"].split()[0] for one in left if one["state"] == "refused"}
    assert not [one for one in left if one["state"] != "refused"], told
    by_text: dict[str, list[SizeReading]] = {}
    for row in stored:
        by_text.setdefault(row.text, []).append(row)
    for one in tablet.typed:
        rows = by_text.pop(one.text, [])
        if one.text in refused:
            assert rows == [], f"{one.text} is refused and stored; {told}"
            continue
        assert len(rows) == 1, f"{one.text} is stored {len(rows)} times; {told}"
        row = rows[0]
        assert (row.by.username, float(row.value_mm)) == (one.by, pytest.approx(one.mm, abs=1e-6)), told
        assert row.typed_at is not None, told
        assert began <= row.typed_at <= row.at, told
        # its age is counted back from when the server has it: late by as long as a request takes on a busy machine
        typed = (one.before - timedelta(seconds=2), one.after + timedelta(seconds=2))
        assert typed[0] <= row.typed_at <= typed[1], f"{one.text} at another time; {told}"
    assert by_text == {}, f"stored and never typed; {told}"
    for who in PEOPLE:
        typed = [one.text for one in tablet.typed if one.by == who and one.text not in refused]
        assert [row.text for row in stored if row.by.username == who] == typed, f"in another order; {told}"
