"""A counterbore on the mill and three bores in line, each planned from an empty bench."""

import re

import pytest
from playwright.sync_api import Page, Route, expect

from tests.browser.test_journey import CRIB, first_account, keep

pytestmark = pytest.mark.browser

MILL = {
    "name": "Mill 1", "kind": "mill", "speeds": "1-low 120\n2-low 170\n1-high 240\n2-high 340", "dial_reads": "radius",
}  # fmt: skip
HEAD = {
    "name": "Head 2", "division_mm": "0.01", "divisions_per_turn": "50", "dial_reads": "radius",
    "slide_travel_mm": "20", "shank_mm": "20", "holes": "A 0\nB 15", "max_rpm": "300",
}  # fmt: skip
HEAD_BAR = {"name": "Head bar 5", "method": "head", "kind": "steel", "diameter_mm": "20", "length_mm": "120",
            "grip_mm": "45", "tip_mm": "13"}  # fmt: skip
RIG = {"name": "Line rig", "kind": "portable", "speeds": "1 105\n2 150\n3 210\n4 300", "dial_reads": "radius"}
LINE_BAR = {"name": "Line bar 1", "method": "line", "kind": "line-bar", "diameter_mm": "60", "length_mm": "1500"}


def change(page: Page, field: str, value: str) -> None:
    """Type a figure, leave the field, and wait until the page is worked out again."""
    version = page.locator("main [name=version]").first.input_value()
    page.locator(field).fill(value)
    page.locator(field).press("Tab")
    expect(page.locator("main [name=version]").first).not_to_have_value(version)


def fill(page: Page, fields: dict[str, str]) -> None:
    for name, value in fields.items():
        field = page.locator(f"[name={name}]")
        if field.evaluate("e => e.tagName") == "SELECT":
            field.select_option(value)
        else:
            field.fill(value)


def begin(page: Page, base: str, fields: dict[str, str], machine: str) -> None:
    page.goto(f"{base}/jobs/new/")
    for place in page.locator(".newplace summary").all():
        place.click()
    fill(page, fields)
    page.select_option("[name=machine]", label=machine)
    page.get_by_role("button", name="Create job").click()
    expect(page.locator("h1.job")).to_contain_text(fields["number"])


def test_a_counterbore_on_the_mill(page: Page, live_server: object, empty: None, faults: list[str]) -> None:
    base = str(live_server)
    first_account(page, base)
    for kind, thing in (("machine", MILL), ("head", HEAD), ("bar", HEAD_BAR), ("cutter", CRIB["cutter"])):
        keep(page, f"{base}/crib/{kind}/new/", thing)
    work = {
        "number": "Q-228", "part": "Cider press, crosshead", "material": "grey iron", "method": "head",
        "ends": "shoulder", "depth_wanted": "24 +0.1/0", "length_mm": "24", "wanted": "62 H7",
        "runout_limit_mm": "0.03", "found_z_0": "6", "found_d_0": "54.06", "outside_l_0": "70", "outside_d_0": "112",
    }  # fmt: skip
    begin(page, base, work, "Mill 1, mill")
    page.get_by_role("link", name="Methods").click()
    expect(page.locator(".ways-of .pick")).to_contain_text("1 of 1 bars fit and reach")

    page.keyboard.press("g")
    page.keyboard.press("2")
    page.locator("[name=bar]").check()
    expect(page.locator(".barrow.pick")).to_be_visible()
    expect(page.locator(".dp").nth(0)).to_contain_text("the boring head")
    page.select_option("[name=head]", label="Head 2")
    expect(page.locator(".dp .big").nth(0)).to_have_text("A")
    page.select_option("[name=cutter]", label="Bit 3")
    expect(page.locator(".dp").nth(1)).to_contain_text("head face to cutter point")
    change(page, "[name=clear_mm]", "60")
    expect(page.locator(".barrow .why-not")).to_contain_text("9 mm too short: 75 mm can stand out")
    change(page, "[name=clear_mm]", "12")
    expect(page.locator(".barrow .v")).to_contain_text("least overhang")

    page.locator("[data-step='3']").click()
    expect(page.locator("th", has_text="head dial")).to_be_visible()
    expect(page.locator(".dp").nth(3)).to_contain_text("24.050")
    change(page, "[name=test_leave_mm]", "0.5")
    expect(page.locator(".passes")).to_contain_text("test")
    page.locator("[data-step='4']").click()
    expect(page.locator("main")).to_contain_text("No indicator in the crib")


def test_three_bores_in_line(page: Page, live_server: object, empty: None, faults: list[str]) -> None:
    base = str(live_server)
    first_account(page, base)
    for kind, thing in (("machine", RIG), ("bar", LINE_BAR), ("cutter", CRIB["cutter"])):
        keep(page, f"{base}/crib/{kind}/new/", thing)
    work = {
        "number": "Q-221", "part": "Carousel, sweep-shaft housings", "material": "grey iron", "method": "line",
        "length_mm": "80", "wanted": "90 H7", "runout_limit_mm": "0.04", "found_z_0": "10", "found_d_0": "87.58",
    }  # fmt: skip
    begin(page, base, work, "Line rig, portable bar")
    page.locator(".setuptab").click()
    change(page, "[name=coaxiality_mm]", "0.02")
    for name, start in (("H2", "600"), ("H3", "1120")):
        page.locator(".bores [name=name]").fill(name)
        page.locator(".bores [name=start_mm]").fill(start)
        page.get_by_role("button", name="Add the bore").click()
        expect(page.locator(".bores summary")).to_contain_text(f"Bores in line: {name[1]}")
        page.get_by_role("link", name="Part", exact=True).first.click()
        expect(page.locator(".placelist [aria-current]")).to_contain_text(name)
        page.get_by_role("link", name="Bore as found").click()
        page.locator("[name=found_z_0]").fill("10")
        page.locator("[name=found_d_0]").fill("87.6")
        change(page, "[name=found_a_0]", "")
        expect(page.locator(".dp .big").first).to_have_text(re.compile("2.41"))
        page.locator(".setuptab").click()
    page.locator(".bores [name=name]").fill("H4")
    page.locator(".bores [name=start_mm]").fill("1150")
    page.get_by_role("button", name="Add the bore").click()
    expect(page.locator(".bores .err")).to_contain_text("H4 would overlap H3")
    page.get_by_role("link", name="Part", exact=True).first.click()
    page.locator(".placelist th a", has_text="H2").click()
    change(page, ".workform [name=start_mm]", "620")

    page.locator("[data-step='2']").click()
    page.select_option("[name=bar]", label="Line bar 1")
    expect(page.locator(".band .wide")).to_contain_text("Line bar 1")
    page.select_option("[name=cutter]", label="Bit 3")
    expect(page.locator(".dp").nth(2)).to_contain_text("rpm")
    page.locator("[name=bearings_mm]").fill("-80; 40")
    page.locator("[name=bearings_mm]").press("Tab")
    expect(page.locator(".fld.bad .err")).to_contain_text("stands inside bore")
    change(page, "[name=bearings_mm]", "-80; 1280")
    expect(page.locator(".dp .big").first).to_have_text(re.compile("^580"))
    expect(page.locator(".linetable .out").first).to_be_visible()
    page.get_by_role("button", name=re.compile("^Stand 3")).click()
    expect(page.locator(".dp .lb").first).to_have_text("Farthest place from a bearing")
    expect(page.locator(".linetable .out")).to_have_count(0)
    expect(page.locator("[data-step='2'] .sb")).to_have_text("on 3 bearings")

    page.get_by_role("link", name="H3").click()
    page.locator("[data-step='3']").click()
    expect(page.locator("th", has_text="over bar and tip")).to_be_visible()
    expect(page.locator(".boretabs [aria-current]")).to_have_text("H3")
    page.goto(base)
    expect(page.locator(".strip .next")).to_contain_text("Sweep the work")


def test_bench_lines_answer_as_you_type(page: Page, live_server: object, shop: None, faults: list[str]) -> None:
    base = str(live_server)
    page.goto(f"{base}/sign-in/")
    page.fill("[name=username]", "corin")
    page.fill("[name=password]", "quillmoor")
    page.get_by_role("button", name="Sign in").click()
    expect(page.locator(".strip").first).to_be_visible()
    page.keyboard.press("/")
    expect(page.locator("[data-ask]")).to_be_focused()
    page.keyboard.type("over 32 58")
    expect(page.locator("#asked .afig")).to_have_text(re.compile("45.000"))
    page.keyboard.press("Control+a")
    page.keyboard.type("over 32 what")
    expect(page.locator("#asked .slip")).to_contain_text("is not understood here")
    line = page.get_by_role("form", name="Half the difference")
    line.locator("input:not([type=hidden])").nth(0).fill("72")
    line.locator("input:not([type=hidden])").nth(1).fill("71.75")
    expect(line.locator(".afig")).to_have_text(re.compile("0.125"))
    page.select_option("#keep-job", "Q-219")
    line.get_by_role("button", name="Keep").click()
    line.get_by_role("link", name="Q-219").click()
    expect(page.locator("#kept")).to_contain_text("0.125 mm; 0.250 mm on diameter, larger")
    page.keyboard.press("/")
    expect(page.locator("[data-ask]")).to_be_focused()


def test_fields_typed_while_the_server_is_slow_are_kept(
    page: Page, live_server: object, shop: None, faults: list[str]
) -> None:
    base = str(live_server)
    page.goto(f"{base}/sign-in/")
    page.fill("[name=username]", "corin")
    page.fill("[name=password]", "quillmoor")
    page.get_by_role("button", name="Sign in").click()
    page.goto(f"{base}/jobs/Q-223/work/?at=found")

    def slowly(route: Route) -> None:
        page.wait_for_timeout(700)
        route.continue_()

    page.route("**/save/work/**", slowly)
    page.locator("[name=found_z_3]").click()
    page.keyboard.type("80")
    page.keyboard.press("Tab")
    page.keyboard.type("58.29")
    page.keyboard.press("Tab")
    page.keyboard.press("Tab")  # past the direction, which only an oval has
    expect(page.locator(".band .wide")).to_contain_text("58.290")
    expect(page.locator("[name=found_d_3]")).to_have_value("58.29")
