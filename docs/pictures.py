"""The pictures of the main views, made anew from the demo data: ``./run pictures``, or some by name."""

from __future__ import annotations

import sys
from collections.abc import Callable
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

from tests.chromium import launch
from tests.served import server

FOLDER = Path(__file__).with_name("screenshots")
SIZE = {"width": 1280, "height": 800}
TABLE = (
    """Gauges at the pontoon, field week
when;inner gauge h / m;outer gauge h / m
"""
    + "".join(
        f"2026-05-04 {8 + half // 2:02d}:{30 * (half % 2):02d};{inner};{outer}\n".replace(".", ",")
        for half, (inner, outer) in enumerate(
            zip(
                (1.8, 2.0, 2.2, 2.38, 2.54, 2.7, 2.84, 2.98, 3.1, 3.2, 3.27, 3.33, 3.36, 3.36),
                (1.7, 1.92, 2.13, "n/a", 2.51, 2.68, 2.83, 2.97, 3.09, 3.19, 3.26, 3.32, 3.35, 3.35),
                strict=True,
            )
        )
    )
    + "Mean;2,79;2,72\n"
)


def open_study(page: Page, title: str) -> None:
    page.get_by_role("link", name=title).click()
    page.get_by_test_id("curve").first.wait_for(state="attached")


def choose_for(page: Page, letter: str, item: str) -> None:
    page.get_by_role("button", name=f"More for fit {letter}").click()
    page.get_by_role("menuitem", name=item, exact=True).click()


def shelf(page: Page) -> None:
    page.get_by_role("link", name="Tide at the pontoon").wait_for()


def bench(page: Page) -> None:
    open_study(page, "Tide at the pontoon")


def models(page: Page) -> None:
    open_study(page, "Current over the harbour bed")
    page.get_by_role("button", name="All models for fit A").click()
    page.get_by_role("dialog").get_by_text("best of these by AICc").first.wait_for()
    page.wait_for_timeout(1000)


def picture(page: Page) -> None:
    """A line in the picture that is being followed."""
    open_study(page, "Sheer line of the rowing boat")
    page.get_by_test_id("picture").wait_for()
    page.get_by_role("radio", name="Follow a line").click()
    text = page.get_by_test_id("picture").locator("image").get_attribute("transform") or ""
    a, b, c, d, e, f = map(float, text.removeprefix("matrix(").removesuffix(")").split())
    box = page.get_by_role("application").bounding_box()
    assert box
    px, py = 120 + 270 * 1.7, 716 - 0.76 * 220  # on the lower plank
    page.mouse.click(box["x"] + a * px + c * py + e, box["y"] + b * px + d * py + f)
    page.get_by_test_id("traced").first.wait_for()
    page.mouse.move(box["x"] + 280, box["y"] + 78)


def instrument(page: Page) -> None:
    """A run of a simulated one, with its true curve."""
    page.get_by_role("button", name="New study", exact=True).click()
    page.get_by_role("button", name="Read an instrument").click()
    page.get_by_label("Which instrument").select_option("light")
    page.get_by_label("Seconds from one reading to the next").fill("0.2")
    page.get_by_role("button", name="Start").click()
    page.wait_for_timeout(6000)
    page.get_by_label("Model of fit A").select_option("power")
    page.wait_for_timeout(1500)


def by_hand(page: Page) -> None:
    open_study(page, "A draining bucket")
    choose_for(page, "A", "Set by hand, from the fitted values")
    handle = page.get_by_label("c_1, value")
    handle.fill("-0.40")
    handle.press("Enter")


def formula(page: Page) -> None:
    open_study(page, "A draining bucket")
    page.get_by_label("Model of fit B").select_option("formula")
    field = page.get_by_label("Formula of fit B")
    field.fill("(a - b*t)^2")
    field.press("Enter")
    page.wait_for_timeout(1500)
    field = page.get_by_label("Formula of fit B")
    field.click()
    field.press("End")
    field.press_sequentially(" + (c*ex")
    page.wait_for_timeout(800)
    field.evaluate("(element) => element.scrollIntoView({ block: 'center' })")


def residuals(page: Page) -> None:
    open_study(page, "A draining bucket")
    page.get_by_role("radio", name="Residuals").click()
    page.get_by_role("list", name="What the residuals show").wait_for()


def compare(page: Page) -> None:
    open_study(page, "A draining bucket")
    page.get_by_role("radio", name="Compare").click()
    page.get_by_text("R² never falls").first.wait_for()


def resample(page: Page) -> None:
    open_study(page, "Sheer line of the rowing boat")
    page.get_by_role("radio", name="Resample").click()
    page.get_by_role("group", name="Models").get_by_role("checkbox").nth(1).check()
    page.get_by_role("group", name="What the subsets show").get_by_role("listitem").nth(1).wait_for()


def account(page: Page) -> None:
    page.get_by_role("button", name="Keep my studies").click()
    page.get_by_role("heading", name="Sign in").wait_for()


def look(page: Page) -> None:
    """A study as it is shown by a link, with a comment of who looks."""
    open_study(page, "Salinity probe, calibration")
    page.get_by_role("button", name="Hand in").click()
    page.get_by_role("form", name="New link").get_by_role("button", name="Make a link").click()
    page.goto(page.get_by_label("Address of the link").input_value())
    page.get_by_role("button", name="Comment on Fit A").click()
    page.get_by_role("textbox", name="Comment", exact=True).fill("Is the offset of the probe in here?")
    page.get_by_label("From").fill("Ms Tarn")
    page.get_by_role("button", name="Leave the comment").click()
    page.get_by_role("group", name="Comment").wait_for()


def use_worksheet(page: Page, title: str) -> str:
    """The code of a worksheet that ships."""
    page.get_by_role("button", name=f"Use the worksheet {title}").click()
    return page.get_by_test_id("code").inner_text().replace(" ", "")


def join(page: Page, code: str, name: str) -> None:
    page.goto(page.url.split("/worksheet")[0].split("/study")[0] + f"/join/{code}")
    page.get_by_label("Your name").fill(name)
    page.get_by_role("button", name="Begin").click()
    page.get_by_role("region", name="Worksheet").wait_for()


def begin_worksheet(page: Page, code: str, name: str, words: str) -> None:
    join(page, code, name)
    page.get_by_label("Your words to step 1").fill(words)
    page.get_by_test_id("words-1").get_by_text("Kept").wait_for()


def worksheet(page: Page) -> None:
    """A student at the second step, where the curve is set by hand."""
    code = use_worksheet(page, "By hand before least squares: the tide")
    begin_worksheet(
        page, code, "Reed", "About 3 m in the middle, 1.9 m above it, and 12 h from one high water to the next."
    )
    page.get_by_role("button", name="Add a model").click()
    page.get_by_role("menuitem", name="sinusoid").first.click()
    page.get_by_role("slider").first.wait_for()


def a_class(page: Page) -> None:
    code = use_worksheet(page, "A straight line with limits, and an unknown")
    sheet = page.url
    for name, steps in (("Reed", 3), ("Holm", 2), ("Tarn", 1)):
        begin_worksheet(page, code, name, "The signal rises evenly with the salt, from some offset on.")
        if steps > 1:
            page.get_by_role("button", name="Add a model").click()
            page.get_by_role("menuitem", name="line").first.click()
            page.get_by_role("region", name="Model A").wait_for()
        if steps > 2:
            page.get_by_label("Your words to step 3").fill(
                "No pattern. By eye the quay has some 27 g/kg of salt in the water."
            )
            page.get_by_test_id("words-3").get_by_text("Kept").wait_for()
            page.get_by_role("button", name="Hand in to your teacher").click()
            page.get_by_text("Handed in on").wait_for()
    page.goto(sheet)
    page.get_by_role("table", name="Copies of the class").wait_for()


def table(page: Page) -> None:
    page.locator("input[type=file]").first.set_input_files(
        {"name": "pontoon.csv", "mimeType": "text/csv", "buffer": TABLE.encode()}
    )
    page.get_by_role("dialog").get_by_label("Column 3 role").select_option("y")
    page.get_by_role("dialog").get_by_text("2 series of one study").wait_for()


def workings(page: Page) -> None:
    open_study(page, "Salinity probe, calibration")
    page.get_by_role("radio", name="Workings").click()
    page.get_by_label("Working", exact=True).select_option("least-squares")
    matrix = page.locator("[data-step=normal-matrix]")
    page.locator("[data-step=transpose]").scroll_into_view_if_needed()
    matrix.locator("tbody td.text-right").nth(1).hover()


def next_place(page: Page) -> None:
    open_study(page, "Stretch of the mooring line")
    page.get_by_role("button", name="Where to measure next for stiffness").click()
    panel = page.get_by_role("region", name="Where to measure next")
    panel.get_by_label("Least x that can be measured").fill("0")
    panel.get_by_label("Greatest x that can be measured").fill("650")
    panel.get_by_text("at F = 650").first.wait_for()
    page.evaluate("document.activeElement.blur()")


def report(page: Page) -> None:
    open_study(page, "Salinity probe, calibration")
    page.get_by_role("radio", name="Report").click()
    page.get_by_role("button", name="Paragraph of your own").click()
    for label, text in (
        ("Heading of the paragraph", "What was done"),
        ("Text of the paragraph", "Every standard was measured twice, each unknown three or four times."),
        ("Author line", "Field group 3"),
        ("Date", "12 May"),
    ):
        page.get_by_label(label, exact=True).fill(text)
        page.keyboard.press("Enter")
    frame = page.frame_locator("iframe[title='Report preview']")
    frame.get_by_text("What was done").wait_for()
    frame.get_by_text("12 May").wait_for()


def bench_phone(page: Page) -> None:
    open_study(page, "Stretch of the mooring line")


PICTURES: dict[str, Callable[[Page], None]] = {
    one.__name__.removeprefix("a_").replace("_", "-"): one
    for one in (
        shelf, bench, models, picture, instrument, by_hand, formula, residuals, compare, resample, workings, next_place, account,
        look, worksheet, a_class, table, report, bench_phone,
    )
}  # fmt: skip


def run(names: list[str]) -> None:
    with sync_playwright() as playwright:
        browser = launch(playwright)
        for name in names or PICTURES:
            # A server of its own for each, so that no picture shows what another one changed.
            with server() as port:
                page = browser.new_page(viewport={"width": 390, "height": 844} if name == "bench-phone" else SIZE)
                page.goto(f"http://127.0.0.1:{port}/")
                PICTURES[name](page)
                page.wait_for_timeout(900)
                page.mouse.move(640, 796)
                page.screenshot(path=FOLDER / f"{name}.png")
                page.close()
            print(name)
        browser.close()


if __name__ == "__main__":
    run(sys.argv[1:])
