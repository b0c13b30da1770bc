"""The main job, from readings to an answer: once by mouse, once by keyboard alone."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.browser.base import BrowserCase

BLOCK = "1\t2.1\n2\t3.9\n3\t6.2\n4\t7.8\n5\t10.1\n6\t11.9"


class ByMouse(BrowserCase):
    def test_readings_line_judgement_answers_and_all_again_after_a_reload(self) -> None:
        self.open_new()
        self.fill(BLOCK)
        expect(self.curve()).to_be_visible()
        expect(self.marks("used")).to_have_count(6)
        expect(self.page.get_by_test_id("strip").locator("g[data-row]")).to_have_count(6)
        account = self.account()
        expect(account).to_contain_text("1.98 ± 0.04")
        expect(account).to_contain_text("The line accounts for 99.84")
        expect(account).to_contain_text("Three readings lie above it and three below")

        self.page.get_by_role("button", name="All statistics").click()
        expect(account.get_by_role("row", name="degrees of freedom")).to_contain_text("4")
        account.get_by_role("button", name="adjusted R²").hover()
        expect(self.page.get_by_text("R² corrected for the number of parameters")).to_be_visible()

        self.page.get_by_label("x, given").fill("8")
        expect(self.page.get_by_test_id("asked")).to_contain_text("y = 15.9 (95 % prediction interval")
        expect(self.page.get_by_test_id("asked")).to_contain_text(
            "2 past the last reading, 0.40 times the measured range"
        )
        expect(self.page.get_by_test_id("drop-asked")).to_be_visible()
        self.page.get_by_role("button", name="Keep").click()
        self.page.get_by_role("button", name="Ask for x when y is given").click()
        self.page.get_by_label("y, given").fill("5.0 5.1 4.9")
        expect(self.page.get_by_test_id("asked")).to_contain_text("3 values of x")
        self.page.get_by_label("repeats of one sample").check()
        expect(self.page.get_by_test_id("asked")).to_contain_text("the mean of 3 readings: x = 2.488 (95 % CI")
        self.page.get_by_role("button", name="Keep").click()
        self.expect_saved()
        expect(account.get_by_text("the mean of 3 readings")).to_be_visible()

        self.page.reload()
        expect(self.curve()).to_be_visible()
        expect(self.account()).to_contain_text("At x = 8, y = 15.9 (95 % prediction interval")
        self.expect_cell(6, 1, "11.9")

        undo = self.page.get_by_role("button", name="Undo")
        for _ in range(3):
            undo.click()
            self.expect_saved()
        expect(self.account()).to_contain_text("No usable reading yet")
        expect(undo).to_have_attribute("aria-disabled", "true")
        self.page.get_by_role("button", name="Redo").click()
        expect(self.curve()).to_be_visible()

    def test_an_answer_follows_the_readings(self) -> None:
        self.open_new()
        self.fill(BLOCK)
        self.page.get_by_label("x, given").fill("8")
        self.page.get_by_role("button", name="Keep").click()
        self.expect_saved()
        expect(self.account()).to_contain_text("y = 15.9 (95 % prediction interval")
        self.cell(6, 1).click()
        self.page.keyboard.type("14")
        # While typing, before anything is stored, line and answer already show what it would give.
        expect(self.account()).to_contain_text("y = 17.")
        self.page.keyboard.press("Escape")
        expect(self.account()).to_contain_text("y = 15.9 (95 % prediction interval")
        self.page.keyboard.type("14")
        self.page.keyboard.press("Enter")
        self.expect_saved()
        expect(self.account()).to_contain_text("y = 17.")

    def test_a_row_without_x_is_an_unknown(self) -> None:
        self.open_sample("Salinity probe, calibration")
        expect(self.account()).to_contain_text(
            "quay (rows 17 to 19): U = 601.67 mV, the mean of 3 readings, S = 27.08 g/kg (95 % CI 26.82 to 27.35)"
        )
        expect(self.cell(17, 1)).to_have_text("→ 27.08")
        expect(self.page.get_by_test_id("drop-kept")).to_have_count(3)


class ByKeyboard(BrowserCase):
    def test_the_whole_job_without_a_mouse(self) -> None:
        self.open_shelf()
        keys = self.page.keyboard
        for _ in ("account", "a class", "a file", "a new study"):
            keys.press("Tab")
        expect(self.page.get_by_role("button", name="New study", exact=True)).to_be_focused()
        keys.press("Enter")
        expect(self.page.get_by_label("x, row 1")).to_be_focused()
        for x, y in (("1", "2.1"), ("2", "3.9"), ("3", "6.2"), ("4", "7.8"), ("5", "30")):
            keys.type(x)
            keys.press("Tab")
            keys.type(y)
            keys.press("Enter")
        expect(self.page.get_by_label("x, row 6")).to_be_focused()
        self.expect_saved()
        expect(self.marks("used")).to_have_count(5)

        # The last one is a slip: mend part of it, take that back, set it aside, look at the line.
        keys.press("ArrowUp")
        keys.press("ArrowRight")
        keys.press("F2")
        keys.press("Backspace")
        keys.press("Escape")
        self.expect_cell(5, 1, "30")
        keys.press("Control+.")
        expect(self.marks("aside")).to_have_count(1)
        expect(self.account()).to_contain_text("1 set aside")

        # Out of the table, on to the ask line.
        keys.press("Escape")
        for _ in range(30):
            keys.press("Tab")
            if self.page.get_by_label("x, given").evaluate("field => field === document.activeElement"):
                break
        keys.type("2.5")
        expect(self.page.get_by_test_id("asked")).to_contain_text("y = 5.0 (95 % prediction interval")
        keys.press("Enter")
        expect(self.account()).to_contain_text("At x = 2.5, y = 5.0 (95 % prediction interval")
        self.expect_saved()

    def test_blocks_copy_cut_paste_delete_and_undo(self) -> None:
        self.open_new()
        keys = self.page.keyboard
        self.paste("1\t2\n3\t4\n5\t6")
        self.expect_saved()
        keys.press("Control+Home")
        keys.press("Shift+ArrowDown")
        keys.press("Shift+ArrowRight")
        keys.press("Control+c")
        self.assertEqual(self.page.evaluate("navigator.clipboard.readText()"), "1\t2\n3\t4")
        keys.press("Control+End")
        keys.press("Home")
        keys.press("ArrowDown")
        keys.press("Control+v")
        self.expect_cell(5, 1, "4")
        keys.press("Control+x")
        self.expect_cell(4, 0, "")
        keys.press("Control+z")
        self.expect_cell(4, 0, "1")
        keys.press("Delete")
        self.expect_cell(5, 1, "")
        keys.press("Control+z")
        self.expect_saved()
        keys.press("Control+Home")
        keys.press("Insert")
        self.expect_cell(2, 1, "2")
        keys.press("Control+Delete")
        self.expect_cell(1, 1, "2")
        keys.press("Control+a")
        keys.press("Delete")
        self.expect_saved()
        expect(self.account()).to_contain_text("No usable reading yet")
        keys.press("Control+z")
        self.expect_cell(3, 1, "6")
        keys.press("Control+y")
        self.expect_cell(3, 1, "")

    def test_text_in_other_shapes_is_split_into_columns(self) -> None:
        self.open_new()
        self.paste("1;2,5\n2;3,5\n3;4,6")
        self.expect_cell(3, 1, "4.6")
        expect(self.marks("used")).to_have_count(3)
        self.page.keyboard.press("Control+z")
        self.expect_saved()
        self.page.keyboard.press("Control+Home")
        self.paste("1 2.5\n2 3.5\n")
        # Shown with the sign of the first readings.
        self.expect_cell(2, 1, "3.5")
