"""One bore from an empty bench to a signed verdict, as a machinist does it."""

import re
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from gyrometra.accounts.models import FirstAccountLink

pytestmark = pytest.mark.browser


def keep(page: Page, address: str, fields: dict[str, str]) -> None:
    """Put one thing into the crib."""
    page.goto(address)
    for name, value in fields.items():
        field = page.locator(f"[name={name}]")
        if field.evaluate("e => e.tagName") == "SELECT":
            field.select_option(value)
        else:
            field.fill(value)
    page.get_by_role("button", name="Save").click()
    expect(page.locator(".said-ok")).to_contain_text("is in the crib")


CRIB = {
    "machine": {"name": "Lathe 3", "speeds": "A-1 90\nA-2 125\nB-1 180\nB-2 224\nB-3 280\nB-4 355\nC-1 450",
                "division_mm": "0.02", "divisions_per_turn": "100", "dial_reads": "radius",
                "unbalanced_max_rpm": "400"},
    "bar": {"name": "Bar 7", "method": "lathe-bar", "kind": "steel", "diameter_mm": "40", "length_mm": "300"},
    "cutter": {"name": "Bit 3", "made_of": "carbide", "nose_radius_mm": "0.4", "least_depth_mm": "0.05"},
    "gauge": {"name": "Bore gauge", "range_low_mm": "50", "range_high_mm": "100", "resolution_mm": "0.001",
              "error_limit_mm": "0.002", "single_sd_mm": "0.001"},
    "indicator": {"name": "Indicator 1", "step_mm": "0.001", "range_mm": "1"},
}  # fmt: skip


def first_account(page: Page, base: str) -> None:
    page.goto(f"{base}/first/{FirstAccountLink.make()}/")
    page.fill("[name=username]", "edda")
    page.fill("[name=password]", "bore-the-bore")
    page.get_by_role("button", name="Create account").click()
    expect(page.get_by_text("Nothing on the bench.")).to_be_visible()
    expect(page.locator(".onbench .btn-shop.main")).to_have_count(1)


def new_job(page: Page, base: str) -> None:
    page.goto(base)
    page.get_by_role("link", name="New job").click()
    for place in page.locator(".newplace summary").all():
        place.click()
    fields = {
        "number": "Q-214", "part": "Lock gear, upper trunnion housing", "room_behind_mm": "12",
        "length_mm": "5 33/64 in", "wanted": "68 H7", "runout_limit_mm": "0.02", "roundness_limit_mm": "0.010",
        "taper_limit_mm": "0,012", "found_z_0": "20", "found_d_0": "68,42", "found_z_1": "70",
        "found_d_1": "68.41", "found_z_2": "120", "found_d_2": "68.40", "outside_l_0": "30", "outside_d_0": "98",
        "outside_l_1": "80", "outside_d_1": "93", "outside_l_2": "30", "outside_d_2": "4 13/32 in",
    }  # fmt: skip
    for name, value in fields.items():
        page.fill(f"[name={name}]", value)
    page.select_option("[name=material]", "grey iron")
    page.get_by_role("button", name="Create job").click()
    expect(page.get_by_text("must be over what is there now").first).to_be_visible()
    assert page.input_value("[name=found_d_0]") == "68,42", "what was typed is kept"
    page.fill("[name=wanted]", "72 H7")
    page.fill("[name=length_mm]", "140")
    page.get_by_role("button", name="Create job").click()


def work(page: Page) -> None:
    expect(page).to_have_url(re.compile("/jobs/Q-214/work/"))
    expect(page.locator(".dp .big").first).to_contain_text("3.615")
    expect(page.get_by_text("half the run-out limit").first).to_be_visible()
    # (69.338 - 68.42)/2 - 0.01 and (69.338 - 68.40)/2 + 0.01
    expect(page.locator(".dials")).to_contain_text("0.479")
    expect(page.locator(".dials")).to_contain_text("shallowest 0.449")


def bar(page: Page) -> None:
    page.keyboard.press("g")
    page.keyboard.press("2")
    expect(page.locator(".barrow")).to_contain_text("Bar 7")
    page.locator(".barrow input").check()
    expect(page.locator(".barrow.pick")).to_be_visible()
    page.select_option("#id_cutter", label="Bit 3")
    expect(page.locator(".dials")).to_contain_text("rule of thumb")
    page.fill("#id_overrun_mm", "13")
    page.locator("#id_overrun_mm").press("Tab")
    expect(page.get_by_text("only 12 mm of room behind the work")).to_be_visible()
    expect(page.locator(".dp.stale").first).to_be_visible()
    page.fill("#id_overrun_mm", "5")
    page.locator("#id_overrun_mm").press("Tab")
    expect(page.locator(".dp.stale")).to_have_count(0)
    expect(page.locator(".dp .big").first).to_contain_text("165")


def cuts(page: Page) -> None:
    page.locator("[data-step='3']").click()
    rows = page.locator("table.passes tbody tr")
    expect(rows).to_have_count(5)
    expect(rows.first).to_contain_text("23.5 div out")
    expect(page.locator(".dials")).to_contain_text("lever B-3 = 280 rpm")
    address = page.url
    page.fill("#id_rough_depth_mm", "0.8")
    page.locator("#id_rough_depth_mm").press("Tab")
    expect(rows).to_have_count(4)
    page.fill("#id_rough_depth_mm", "0.5")
    page.locator("#id_rough_depth_mm").press("Tab")
    expect(rows).to_have_count(5)
    assert page.url == address, "no reload"


def sweep(page: Page, readings: list[str], *, keypad: bool = False) -> None:
    for place, value in enumerate(readings):
        cell = page.locator("[data-active-cell]")
        expect(page.locator("input[name=place]")).to_have_value(str(place))
        if keypad:
            for key in value:
                page.locator(f".pad [data-key='{'sign' if key == '-' else key}']").click()
            page.locator(".pad .enter").click()
        else:
            cell.press_sequentially(value)
            cell.press("Enter")
        if place < len(readings) - 1:
            expect(page.locator("input[name=place]")).to_have_value(str(place + 1))


def true(page: Page) -> None:
    page.keyboard.press("Escape")
    page.locator("[data-step='4']").click()
    page.get_by_role("button", name="Start a sweep").click()
    sweep(page, ["0", "-2", "11", "37", "52", "53", "40", "14", "9"], keypad=True)
    expect(page.locator(".hand")).to_contain_text("The round is void")
    expect(page.locator(".mv")).to_have_count(0)
    page.get_by_role("button", name="Start a sweep").click()
    sweep(page, ["0", "-2", "11", "37", "52", "53", "40", "14", "0"])
    moves = page.locator(".mv")
    expect(moves).to_have_count(2)
    expect(moves.first).to_contain_text("Slacken jaw 3")
    expect(moves.first).to_contain_text("Tighten jaw 1")
    expect(moves.first).to_contain_text("0.027")
    expect(moves.first).to_contain_text("indicator at jaw 1")
    page.get_by_role("button", name="Moves made, sweep again").click()
    page.locator("body").click(position={"x": 5, "y": 5})
    sweep(page, ["0", "2", "1", "3", "4", "3", "1", "1", "0"])
    expect(page.locator(".dials")).to_contain_text("Centred well enough")


def log_size(page: Page, size: str) -> None:
    page.fill("#size", size)
    page.locator("#size").press("Enter")


def ready(page: Page) -> None:
    """Go on to the next pass, and tick what is due before power."""
    if page.locator("#go-on").count():
        page.click("#go-on")
        expect(page.locator("#go-on")).to_have_count(0)
    for box in page.locator("input[name=guard]").all():
        box.check()


def cut_pass(page: Page, number: int) -> None:
    """Two taps: the dial is set, the pass is cut."""
    ready(page)
    page.click("#set-pass")
    expect(page.locator(".cutnow")).to_contain_text("stands at")
    expect(page.locator(".dp .big")).to_have_count(0)
    page.click("#cut-pass")
    expect(page.locator("#cut-pass")).to_have_count(0)


def bore(page: Page) -> None:
    page.locator("[data-step='5']").click()
    page.locator("[name=guard][value=locked]").check()
    page.click("#set-pass")
    expect(page.get_by_text("Before power: Indicator, holder, stop and chuck key out")).to_be_visible()
    expect(page.locator("[name=guard][value=locked]")).to_be_checked()
    ready(page)
    page.click("#cut-bundle")
    expect(page.locator("label[for=size]")).to_have_text("Ø after pass 3")
    log_size(page, "71.796")
    expect(page.locator(".taken")).to_contain_text("large")
    page.click("#take-back")
    expect(page.locator(".taken")).not_to_contain_text("large")
    log_size(page, "71.196")
    expect(page.locator(".taken")).to_contain_text("0.019 small. Pass 4: 10.2 div out")
    page.locator("[name=sound][value=quiet]").check()
    page.locator("[name=look][value=clean]").check()
    expect(page.locator("table.passes")).to_contain_text("quiet, clean")
    cut_pass(page, 4)
    log_size(page, "72.016")
    expect(page.locator(".slip").first).to_contain_text("came out twice of what was set")
    page.click("#take-back")
    expect(page.locator(".slip")).to_have_count(0)
    log_size(page, "71.614")
    expect(page.locator(".taken")).to_contain_text("71.614")
    cut_pass(page, 5)
    log_size(page, "72.012")
    expect(page.locator(".taken")).to_contain_text("In limits: nothing more to cut")


def check(page: Page) -> None:
    page.locator("[data-step='6']").click()
    expect(page.locator(".vp")).to_contain_text("Incomplete")
    for count, size in enumerate(["72.012", "72.013", "72.011", "72.012", "72.012", "72.010"]):
        log_size(page, size)
        expect(page.locator("table.grid .v")).to_have_count(count + 1)
    expect(page.locator(".vp")).to_contain_text("run-out of the finished bore")
    page.get_by_role("button", name="Sweep the bore").click()
    sweep(page, ["0", "-2", "-5", "-6", "-7", "-5", "-3", "-1", "0"])
    expect(page.locator(".vp")).to_contain_text("In limits")
    page.once("dialog", lambda dialog: dialog.accept())
    page.click("#sign")
    expect(page.locator(".dials")).to_contain_text("Signed by edda")


def test_one_bore_from_an_empty_bench_to_a_verdict(
    page: Page, live_server: Any, empty: None, faults: list[str]
) -> None:
    base = live_server.url
    first_account(page, base)
    for kind, fields in CRIB.items():
        keep(page, f"{base}/crib/{kind}/new/", fields)
    new_job(page, base)
    for step in (work, bar, cuts, true, bore, check):
        step(page)
    page.goto(base)
    expect(page.locator(".strip")).to_contain_text("Signed by edda")
    page.goto(f"{base}/jobs/Q-214/sheet/")
    expect(page.locator(".sheet")).to_contain_text("23.5 div out")
    assert page.pdf(format="A4", print_background=True, prefer_css_page_size=True).count(b"/Type /Page\n") == 1
