"""The ask line grown up, answers kept and followed, and the files that go out, by mouse and by keyboard."""

from __future__ import annotations

import csv
import io
import re
from pathlib import Path

from playwright.sync_api import Locator, Route, expect
from python_calamine import CalamineWorkbook

from tests.browser.base import BrowserCase


class Asking(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.open_sample("A draining bucket")
        expect(self.curve()).to_have_count(2)

    def asked(self) -> Locator:
        return self.page.get_by_test_id("asked")

    def test_several_results_lie_over_the_plot_where_they_are_seen(self) -> None:
        self.open_sample("A draining bucket")
        self.page.get_by_label("t, given").fill("20, 60, 100 to 140 step 20")
        self.page.get_by_label("Which fit is asked").select_option("all")
        results = self.page.get_by_role("region", name="The single results")
        expect(results).to_contain_text("t = 100")
        box = results.bounding_box()
        assert box
        on_top = "([x, y]) => !!document.elementFromPoint(x, y)?.closest('[aria-label=\"The single results\"]')"
        self.assertTrue(self.page.evaluate(on_top, [box["x"] + box["width"] / 2, box["y"] + box["height"] / 2]))

    def test_a_range_from_every_fit_by_keyboard(self) -> None:
        field = self.page.get_by_label("t, given")
        field.focus()
        self.page.keyboard.type("10, 20 to 60 step 20")
        self.page.get_by_label("Which fit is asked").select_option("all")
        results = self.page.get_by_role("region", name="The single results")
        expect(results.get_by_role("row")).to_have_count(9)
        expect(results).to_contain_text("t = 40\u00a0s")
        field.press("Enter")
        kept = self.account().get_by_role("region", name="Results for t = 10, 20 to 60 step 20")
        expect(kept.get_by_role("row")).to_have_count(9)
        expect(field).to_have_value("")
        self.page.get_by_role("button", name="Copy the answer for t = 10, 20 to 60 step 20").click()
        self.page.get_by_role("menuitem", name="Copy as a table").click()
        copied = self.copied("Answer").split("\n")
        self.assertEqual(copied[0].split("\t")[:3], ["fit", "at", "value"])
        self.assertEqual(len(copied), 9)

    def test_every_solution_and_what_the_curve_does_beyond(self) -> None:
        self.page.get_by_role("button", name="Ask for t when h is given").click()
        self.page.get_by_label("h, given").fill("10")
        expect(self.page.get_by_role("region", name="The single results").get_by_role("row")).to_have_count(3)
        expect(self.page.get_by_test_id("drop-asked").or_(self.page.get_by_test_id("drop-kept")).first).to_be_attached()
        expect(self.account()).to_contain_text("turns the curve steeply up")

    def test_features_of_the_curve(self) -> None:
        choose = self.page.get_by_label("What to predict")
        choose.select_option("tangent")
        self.page.get_by_label("t, given").fill("60")
        expect(self.asked()).to_contain_text("slope −0.25")
        expect(self.page.get_by_test_id("tangent")).to_be_attached()
        choose.select_option("area")
        field = self.page.get_by_label("t, given")
        field.fill("0 to 60")
        expect(self.asked()).to_contain_text("cm·s")
        # Both bounds are moved on the plot, and the area follows.
        first = self.asked().inner_text()
        self.page.get_by_test_id("asked-holder-end").press("Shift+ArrowRight")
        expect(field).to_have_value(re.compile(r"^0 to 6[1-9]"))
        expect(self.asked()).not_to_have_text(first)
        holder = self.page.get_by_test_id("asked-holder-beginning").bounding_box()
        assert holder
        self.page.mouse.move(holder["x"] + 16, holder["y"] + 16)
        self.page.mouse.down()
        self.page.mouse.move(holder["x"] + 56, holder["y"] + 16, steps=4)
        self.page.mouse.up()
        expect(field).to_have_value(re.compile(r"^[12]\d[\d.]* to 6[1-9]"))
        choose.select_option("turning")
        expect(self.asked()).to_contain_text("minimum at t = 146")
        choose.select_option("crossing")
        expect(self.asked()).to_contain_text("3 intersections of A and B")
        choose.select_option("inflexions")
        expect(self.asked()).to_contain_text("There are none")

    def test_the_asked_mark_is_moved_by_mouse_and_keyboard(self) -> None:
        field = self.page.get_by_label("t, given")
        field.fill("40")
        holder = self.page.get_by_test_id("asked-holder")
        expect(holder).to_be_attached()
        answer = self.asked().inner_text()
        box = holder.bounding_box()
        assert box
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        self.page.mouse.move(x, y)
        self.page.mouse.down()
        self.page.mouse.move(x + 60, y, steps=5)
        self.page.mouse.up()
        expect(field).not_to_have_value("40")
        expect(self.asked()).not_to_have_text(answer)
        moved = field.input_value()
        holder.focus()
        self.page.keyboard.press("Shift+ArrowRight")
        expect(field).not_to_have_value(moved)

    def test_an_earlier_result_never_stands_beside_a_newer_question(self) -> None:
        """On a slow line the result for 20 is dimmed while 50 is asked, and says what it belongs to."""
        self.page.get_by_label("t, given").fill("20")
        expect(self.asked()).to_contain_text("t = 20")
        expect(self.asked()).to_have_attribute("aria-busy", "false")
        held: list[Route] = []
        self.page.route("**/ask", lambda route: held.append(route))
        self.page.get_by_label("t, given").fill("50")
        expect(self.asked()).to_have_attribute("aria-busy", "true")
        expect(self.asked()).to_contain_text("t = 20")
        expect(self.page.get_by_role("button", name="Keep", exact=True)).to_have_attribute("aria-disabled", "true")
        while not held:
            self.page.evaluate("() => new Promise(requestAnimationFrame)")
        held.pop().continue_()
        expect(self.asked()).to_contain_text("t = 50")
        expect(self.asked()).to_have_attribute("aria-busy", "false")

    def test_enter_before_the_result_saves_what_was_typed(self) -> None:
        given = self.page.get_by_label("t, given")
        given.fill("2")
        expect(self.asked()).to_contain_text("t = 2")
        given.press("5")
        given.press("Enter")
        self.expect_saved()
        expect(self.account()).to_contain_text("At t = 25")
        expect(self.account()).not_to_contain_text("Changed since")

    def test_kept_named_moved_and_told_when_it_changes(self) -> None:
        self.page.get_by_label("t, given").fill("50")
        expect(self.asked()).to_contain_text(" = ")
        self.page.get_by_role("button", name="Keep", exact=True).click()
        more = self.page.get_by_role("button", name="More for the answer for t = 50\u00a0s")
        more.click()
        self.page.get_by_role("menuitem", name="Rename").click()
        self.page.keyboard.type("in the lesson")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_label("Name of the answer for t = 50\u00a0s")).to_have_value("in the lesson")
        more.click()
        self.page.get_by_role("menuitem", name="Move up").click()
        self.cell(2, 1).click()
        self.page.keyboard.type("26")
        self.page.keyboard.press("Enter")
        expect(self.account()).to_contain_text("Changed since it was kept")
        self.page.get_by_role("button", name="Accept").click()
        expect(self.account()).not_to_contain_text("Changed since it was kept")

    def test_what_cannot_be_asked_says_why(self) -> None:
        field = self.page.get_by_label("t, given")
        field.fill("soon")
        expect(self.asked()).to_contain_text("'soon' is not a number.")
        field.fill("0 to 1e9 step 1")
        expect(self.asked()).to_contain_text("take a larger step")


class Files(BrowserCase):
    def saved(self, name: str) -> Path:
        with self.page.expect_download() as download:
            self.page.get_by_role("link", name=name).click()
        path: Path = download.value.path()
        return path

    def test_the_figure_in_the_format_and_width_wanted(self) -> None:
        self.open_sample("A draining bucket")
        self.hand_in()
        self.page.get_by_label("Format of the figure").select_option("png")
        width = self.page.get_by_label("Width in millimetres")
        width.fill("4000")
        expect(self.page.get_by_role("alert").filter(has_text="between 40 and 420")).to_be_visible()
        width.fill("80")
        self.page.get_by_label("Resolution").select_option("150")
        self.assertTrue(self.saved("Export the figure").read_bytes().startswith(b"\x89PNG"))

    def test_the_readings_as_tables(self) -> None:
        self.open_sample("A draining bucket")
        self.hand_in()
        rows = list(csv.reader(io.StringIO(self.saved("CSV").read_text("utf-8-sig"))))
        self.assertEqual(rows[0][:3], ["row", "time t / s", "level h / cm"])
        self.assertEqual(len(rows), 17)
        for name in ("XLSX workbook", "ODS spreadsheet"):
            book = CalamineWorkbook.from_filelike(io.BytesIO(self.saved(name).read_bytes()))
            self.assertEqual(book.sheet_names, ["Readings", "Fits", "Answers", "About"])

    def test_a_study_goes_out_and_comes_back(self) -> None:
        self.open_sample("A draining bucket")
        self.hand_in()
        with self.page.expect_download() as download:
            self.page.get_by_role("link", name="Study file, to keep or to open elsewhere").click()
        self.assertEqual(download.value.suggested_filename, "a-draining-bucket.ridge.json")
        body = download.value.path().read_bytes()
        self.open_shelf()
        chooser = self.page.locator("input[type=file]")
        file = {"name": "bucket.ridge.json", "mimeType": "application/json", "buffer": body[:-30]}
        self.expected_problem = "400"
        chooser.set_input_files(file)  # type: ignore[arg-type]
        expect(self.page.get_by_text("the file is damaged or incomplete")).to_be_visible()
        chooser.set_input_files({**file, "buffer": body})  # type: ignore[arg-type]
        expect(self.page).to_have_url(re.compile("/study/"))
        expect(self.curve()).to_have_count(2)

    def test_the_script_goes_out(self) -> None:
        self.open_sample("A draining bucket")
        self.hand_in()
        text = self.saved("Python script with NumPy and SciPy").read_text()
        self.assertIn("def model_A(x, c0, c1, c2):", text)
