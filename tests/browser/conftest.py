"""A real server, a real database, Debian's Chromium."""

import os
from collections.abc import Iterator

import pytest
from django.core.management import call_command
from playwright.sync_api import Browser, Page, expect, sync_playwright

from tests.kept_shop import put_shop_back

# Playwright's sync API runs an event loop in this thread; the ORM calls here are the test's own.
os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "true"
#: A busy build machine is slow, not wrong.
PATIENCE_MS = 20_000
expect.set_options(timeout=PATIENCE_MS)


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    """Debian's browser; without its sandbox, which the root user of a build machine cannot have."""
    quiet = ["--no-sandbox", "--disable-background-networking", "--disable-component-update", "--disable-sync"]
    quiet += ["--use-fake-device-for-media-stream", "--use-fake-ui-for-media-stream"]  # a microphone that beeps
    with sync_playwright() as playwright:
        opened = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=quiet)
        yield opened
        opened.close()


@pytest.fixture
def page(browser: Browser) -> Iterator[Page]:
    """A fresh page at the size that the grid is drawn for."""
    context = browser.new_context(viewport={"width": 1280, "height": 800})
    context.set_default_timeout(PATIENCE_MS)
    yield context.new_page()
    context.close()


@pytest.fixture
def faults(page: Page) -> Iterator[list[str]]:
    """Console errors and broken scripts; none may be left at the end."""
    found: list[str] = []
    page.on(
        "console",
        lambda message: found.append(f"{message.text} {message.location}") if message.type == "error" else None,
    )
    page.on("pageerror", lambda error: found.append(str(error)))
    yield found
    assert found == []


@pytest.fixture
def empty(transactional_db: None) -> None:
    """No account, no job, nothing in the crib."""
    call_command("flush", "--no-input", verbosity=0)


@pytest.fixture
def shop(transactional_db: None, first: list[bool]) -> None:
    """The demo shop."""
    if not first:
        call_command("flush", "--no-input", verbosity=0)
        first.append(True)
    put_shop_back()


@pytest.fixture(scope="session")
def first() -> list[bool]:
    """Empty until the shop was loaded in this run."""
    return []


def pytest_generate_tests(metafunc: pytest.Metafunc) -> None:
    """Random sequences: a few in the short form, 300 in the long one, or the one that is named."""
    if "seeds" not in metafunc.fixturenames:
        return
    named = metafunc.config.getoption("--seed")
    count = 300 if metafunc.config.getoption("--long") else 6
    chunks = [range(first, min(first + 12, count + 1)) for first in range(1, count + 1, 12)]
    metafunc.parametrize("seeds", [range(named, named + 1)] if named is not None else chunks, ids=repr)
