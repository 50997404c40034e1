"""Take the pictures of `docs/screenshots` from a running demo shop (see scripts/refresh-screenshots)."""

import math
import os
import subprocess
import sys
import wave
from io import BytesIO
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

OUT = Path(__file__).parent / "screenshots"
DESK, PHONE = {"width": 1280, "height": 800}, {"width": 390, "height": 844}
VIEWS = [
    ("bench", "/", DESK),
    ("work", "/jobs/Q-214/work/", DESK),
    ("bush", "/jobs/P~2031~2F4/bush/", DESK),
    ("bar", "/jobs/Q-214/bar/", DESK),
    ("bar-line", "/jobs/Q-221/bar/", DESK),
    ("cuts", "/jobs/Q-214/cuts/", DESK),
    ("true", "/jobs/Q-216/true/", DESK),
    ("true-walls", "/jobs/Q-233/true/", DESK),
    ("bore", "/jobs/Q-214/bore/", DESK),
    ("report", "/jobs/Q-198/report/", {"width": 900, "height": 1280}),
    ("check", "/jobs/Q-198/check/", DESK),
    ("crib", "/crib/?kind=bar", DESK),
    ("machine", "/machine/6/?check=spindle", DESK),
    ("sheet", "/jobs/Q-214/sheet/", {"width": 900, "height": 1180}),
]


def sign_in(page: Page, base: str) -> None:
    """As the demo's lead."""
    page.goto(f"{base}/sign-in/")
    page.fill("#id_username", "dagny")
    page.fill("#id_password", "quillmoor")
    page.get_by_role("button", name="Sign in").click()


def read_round(page: Page, base: str) -> None:
    """The phone in the middle of a round: the keypad at the thumb."""
    page.set_viewport_size(PHONE)
    page.goto(f"{base}/jobs/Q-219/true/")
    page.locator(".begin .btn-shop.main").click()
    for place, value in enumerate(["0", "2", "1"]):
        page.locator("[data-active-cell]").press_sequentially(value)
        page.locator("[data-active-cell]").press("Enter")
        page.wait_for_selector(f"input[name=place][value='{place + 1}']", state="attached")
    page.evaluate("window.scrollTo(0, 0)")
    page.screenshot(path=OUT / "phone-true.png")


def new_job(page: Page, base: str) -> None:
    """Six answers, and what they come to."""
    page.set_viewport_size(DESK)
    page.goto(f"{base}/jobs/new/")
    page.select_option("#id_machine", label="Lathe 3, lathe")
    answers = {"part": "Orchard crusher, roller housing", "found_d_0": "62.10", "wanted": "65 H7", "length_mm": "85"}
    for name, text in answers.items():
        page.fill(f"#id_{name}", text)
        with page.expect_response("**/jobs/new/look/"):
            page.locator(f"#id_{name}").press("Enter")
    page.wait_for_selector("#new-band svg", state="attached")
    page.wait_for_load_state("networkidle")
    page.screenshot(path=OUT / "new-job.png")


def noise(page: Page, base: str) -> None:
    """A cut that squeals: a recording of known tones, named."""
    page.set_viewport_size(DESK)
    page.goto(f"{base}/jobs/Q-214/noise/")
    file, rate = BytesIO(), 16000
    with wave.open(file, "wb") as out:
        out.setnchannels(1)
        out.setsampwidth(2)
        out.setframerate(rate)
        for n in range(2 * rate):
            value = sum(
                a * math.sin(2 * math.pi * hz * n / rate) for hz, a in ((1072, 0.6), (23.7, 0.12), (2144, 0.06))
            )
            out.writeframes(round(32000 * value).to_bytes(2, "little", signed=True))
    sound = {"name": "cut.wav", "mimeType": "audio/wav", "buffer": file.getvalue()}
    page.locator("[data-hear] input[type=file]").set_input_files(sound)  # type: ignore[arg-type]
    page.locator("[data-hear]").evaluate("form => form.requestSubmit()")
    page.locator(".triedlist li").first.wait_for()
    page.evaluate("window.scrollTo(0, 0)")
    page.screenshot(path=OUT / "noise.png")


def needle(page: Page, base: str) -> None:
    """A round read by a linked indicator: the simulated one, through the bridge."""
    page.set_viewport_size(DESK)
    page.goto(f"{base}/link/indicator/1/")
    page.locator("main .row-form .main").click()
    token = page.locator(".tokentext").inner_text()
    bridge = [sys.executable, "-m", "gyrolink", "simulate", "--url", base, "--seed", "3"]
    environment = {**os.environ, "GYROMETRA_TOKEN": token}
    with subprocess.Popen(bridge, env=environment, stdin=subprocess.PIPE) as running:  # noqa: S603 - our own command
        page.goto(f"{base}/jobs/Q-223/true/")
        page.locator(".begin .main").click()
        page.locator("[data-needle-listen]").click()
        for place in range(1, 4):
            page.locator("[data-needle-state]").get_by_text("Stands still.").wait_for()
            page.keyboard.press("Space")
            page.wait_for_selector(f"input[name=place][value='{place}']", state="attached")
            if running.stdin is not None:
                running.stdin.write(b"turn 45\n")
                running.stdin.flush()
            page.wait_for_timeout(1500)
        page.locator("[data-needle-state]").get_by_text("Stands still.").wait_for()
        page.evaluate("window.scrollTo(0, 0)")
        page.screenshot(path=OUT / "true-needle.png")
        running.kill()


def practice(page: Page, base: str) -> None:
    """The practice bench after a round and a move, as the needle was read."""
    page.set_viewport_size(DESK)
    page.goto(f"{base}/practice/oval/")

    def count() -> int:
        return int(page.locator(".acts [name=count]").input_value())

    def done(wanted: int) -> None:
        page.wait_for_selector(f".acts [name=count][value='{wanted}']", state="attached")

    for turn in range(2):
        for place in range(9):
            at = count()
            drawn = page.locator(".needlehand g").get_attribute("transform") or ""
            page.keyboard.type(f"{round(float(drawn.split('(')[1].split(' ')[0]) / 3.6)}\n")
            done(at + 1)
            if place < 8 or turn:
                page.keyboard.press("ArrowRight")
                done(at + 2)
        if not turn:
            at = count()
            page.fill("#jaw-0-by", "0.15")
            page.fill("#jaw-1-by", "0.10")
            page.get_by_role("button", name="Move it").click()
            done(at + 1)
    page.evaluate("window.scrollTo(0, 0)")
    page.screenshot(path=OUT / "practice.png")


def main(base: str) -> None:
    """All views, then those that change the shop: a job between centres, the phone in a round, a second set-up."""
    OUT.mkdir(exist_ok=True)
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=["--no-sandbox"])
        page = browser.new_page(viewport=DESK)
        sign_in(page, base)
        for name, path, size in VIEWS:
            page.set_viewport_size(size)
            page.goto(base + path)
            page.wait_for_load_state("networkidle")
            page.screenshot(path=OUT / f"{name}.png")
        new_job(page, base)
        read_round(page, base)
        noise(page, base)
        needle(page, base)
        practice(page, base)
        browser.close()


if __name__ == "__main__":
    main(sys.argv[1])
