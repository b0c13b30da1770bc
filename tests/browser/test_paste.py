"""A copied table is looked through, its guesses changed, and taken in as one step."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.browser.base import BrowserCase

TABLE = "time t (s);height h / m;u_h [m]\n0,0;1,25;0,02\n0,5;2,41;0,02\n1,0;n/a;0,02\n1,5;4,10;0,03\n2,0;5,12;0,03\n"


class Pasting(BrowserCase):
    def copy(self, text: str) -> None:
        self.page.evaluate("text => navigator.clipboard.writeText(text)", text)

    def test_from_anywhere_with_the_keyboard_alone(self) -> None:
        self.open_new()
        self.copy(TABLE)
        self.page.locator("h1").first.click()
        self.page.keyboard.press("Control+v")
        dialog = self.page.get_by_role("dialog", name="Import a table")
        expect(dialog).to_contain_text("5 rows; 1 cell is not a number (row 3: “n/a”)")
        expect(dialog.get_by_role("combobox", name="Separator", exact=True)).to_have_value("semicolon")
        expect(dialog.get_by_label("Decimal separator")).to_have_value("comma")
        expect(dialog.get_by_label("Column 3 role")).to_have_value("y_error")
        expect(dialog.get_by_label("Unit of column 2")).to_have_value("m")
        dialog.get_by_role("button", name="Import").focus()
        self.page.keyboard.press("Enter")
        expect(dialog).to_be_hidden()
        self.expect_cell(1, 0, "0.0")
        self.expect_cell(3, 1, "n/a")
        expect(self.page.get_by_text("Row 3: 'n/a' is not a number.")).to_be_visible()
        expect(self.account()).to_contain_text("on 4 readings")
        self.page.keyboard.press("Control+z")
        expect(self.page.get_by_text("Row 3: 'n/a' is not a number.")).to_have_count(0)

    def test_guesses_can_be_changed(self) -> None:
        self.open_new()
        self.copy("a,b\n1,2\n2,4\n3,7")
        self.page.locator("h1").first.click()
        self.page.keyboard.press("Control+v")
        dialog = self.page.get_by_role("dialog", name="Import a table")
        dialog.get_by_label("Column 2 role").select_option("x")
        expect(dialog.get_by_label("Column 1 role")).to_have_value("other")
        dialog.get_by_label("Column 1 role").select_option("y")
        dialog.get_by_label("Name of column 1").fill("depth")
        dialog.get_by_role("button", name="Import").click()
        expect(self.page.get_by_role("columnheader").filter(has_text="depth")).to_be_visible()
        expect(self.account()).to_contain_text("on 3 readings")

    def test_the_heading_can_be_switched_off(self) -> None:
        self.open_new()
        self.copy("t\ty\n1\t2\n2\t4")
        self.page.locator("h1").first.click()
        self.page.keyboard.press("Control+v")
        dialog = self.page.get_by_role("dialog", name="Import a table")
        expect(dialog).to_contain_text("2 rows")
        dialog.get_by_label("Header row").select_option("0")
        expect(dialog).to_contain_text("3 rows; 2 cells are not numbers")
        self.page.keyboard.press("Escape")
        expect(dialog).to_be_hidden()
        self.expect_cell(1, 0, "")

    def test_below_what_is_there(self) -> None:
        self.open_new()
        self.fill("1\t2\n2\t4\n3\t6.2")
        self.copy("x\ty\n4\t8\n5\t9.9")
        self.page.locator("h1").first.click()
        self.page.keyboard.press("Control+v")
        dialog = self.page.get_by_role("dialog", name="Import a table")
        dialog.get_by_label("Add below them").check()
        dialog.get_by_role("button", name="Import").click()
        self.expect_cell(4, 0, "4")
        expect(self.account()).to_contain_text("on 5 readings")

    def test_plain_numbers_go_straight_into_the_cells(self) -> None:
        self.open_new()
        self.cell(1, 0).click(force=True)
        self.paste("1\t2\n2\t4")
        expect(self.page.get_by_role("dialog")).to_have_count(0)
        self.expect_cell(2, 1, "4")

    def test_a_table_with_words_pasted_into_a_cell_is_looked_through(self) -> None:
        self.open_new()
        self.cell(1, 0).click(force=True)
        self.copy(TABLE)
        self.page.keyboard.press("Control+v")
        expect(self.page.get_by_role("dialog", name="Import a table")).to_be_visible()
