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
        expect(dialog).to_contain_text("5 rows")
        expect(dialog).to_contain_text("1 cell is not a number: row 3: “n/a” marks a missing value")
        expect(dialog.get_by_role("combobox", name="Separator", exact=True)).to_have_value("semicolon")
        expect(dialog.get_by_label("Decimal separator")).to_have_value("comma")
        expect(dialog.get_by_label("Column 3 role")).to_have_value("y_error")
        expect(dialog.get_by_label("Unit of column 2")).to_have_value("m")
        expect(dialog.get_by_role("button", name="Import")).to_be_focused()
        self.page.keyboard.press("Enter")
        expect(dialog).to_be_hidden()
        self.expect_cell(1, 0, "0.0")  # the other sign is offered, not taken
        expect(self.page.get_by_text("You typed a decimal comma.")).to_be_visible()
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
        expect(dialog.get_by_label("Column 1 role")).to_have_value("y")
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
        expect(dialog).to_contain_text("2 cells are not numbers")
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
        expect(dialog.get_by_label("below the readings")).to_be_checked()
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

    def test_a_list_of_words_goes_straight_into_a_column_of_labels(self) -> None:
        self.open_new()
        self.fill("1\t2\n2\t3\n3\t5")
        self.choose_from("Column", "Series")
        expect(self.page.get_by_label("series, row 1")).to_be_focused()
        self.paste("first ebb\nfirst ebb\nflood; late")
        self.expect_cell(3, 2, "flood; late")
        expect(self.page.get_by_role("dialog")).to_have_count(0)
        expect(self.page.get_by_label("Fitted to")).to_be_visible()

    def test_what_is_uncertain_is_asked(self) -> None:
        self.open_new()
        self.copy("1,500\t2,250\n1,750\t2,500\n2,125\t2,875")
        self.page.locator("h1").first.click()
        self.page.keyboard.press("Control+v")
        dialog = self.page.get_by_role("dialog", name="Import a table")
        button = dialog.get_by_role("button", name="Import")
        expect(button).to_have_attribute("aria-disabled", "true")
        comma = dialog.get_by_label("1.500: the comma is the decimal sign")
        expect(comma).to_be_focused()
        self.page.keyboard.press("Enter")  # nothing is taken while a question is open
        expect(dialog).to_be_visible()
        comma.check()
        expect(dialog.get_by_role("cell", name="1.500")).to_be_visible()
        # An answer can be changed as long as nothing is taken.
        dialog.get_by_label("1500: the comma separates thousands").check()
        expect(dialog.get_by_role("cell", name="1500")).to_be_visible()
        comma.check()
        expect(dialog.get_by_role("cell", name="1.500")).to_be_visible()
        self.page.keyboard.press("Enter")
        expect(dialog).to_be_hidden()
        self.expect_cell(1, 0, "1.500")
        expect(self.account()).to_contain_text("on 3 readings")

    def test_what_is_not_used_is_named(self) -> None:
        self.open_new()
        self.copy("Station 4\nt / s\th / m\n1\t0.1 ± 0.1\n2\t0.4 ± 0.1\n3\t0.5 ± 0.2\nSum\t1.0")
        self.page.locator("h1").first.click()
        self.page.keyboard.press("Control+v")
        dialog = self.page.get_by_role("dialog", name="Import a table")
        expect(dialog).to_contain_text("line 1 “Station 4” (stands above the heading)")
        expect(dialog).to_contain_text("line 6 “Sum 1.0” (looks like a sum or a mean of the rows above)")
        expect(dialog).to_contain_text("uncertainty: stands behind ± in the cells")
        expect(dialog.get_by_label("Column 3 role")).to_have_value("y_error")
        dialog.get_by_role("button", name="Import").click()
        self.expect_cell(3, 2, "0.2")

    def test_nothing_is_taken_from_nothing(self) -> None:
        self.expected_problem = "400 (Bad Request)"
        self.open_new()
        for text, word in (
            ("site\tcolour\nquay\tred\npier\tblue", "No column holds numbers"),
            ("It was cold, and we went home at once.", "reads like text"),
            ("<table><tr><td>1</td></tr></table>", "markup"),
        ):
            self.copy(text)
            self.page.locator("h1").first.click()
            self.page.keyboard.press("Control+v")
            dialog = self.page.get_by_role("dialog", name="Import a table")
            expect(dialog).to_contain_text(word)
            expect(
                dialog.get_by_role("button", name="Import").and_(self.page.locator(":not([aria-disabled=true])"))
            ).to_have_count(0)
            self.page.keyboard.press("Escape")
            expect(dialog).to_be_hidden()

    def test_at_a_cell_beside_and_in_place_of(self) -> None:
        self.open_new()
        self.fill("1\t2\n2\t4\n3\t6.2")
        dialog = self.page.get_by_role("dialog", name="Import a table")
        self.cell(2, 1).click()
        self.paste("h / m\n4.5\n6.5")
        expect(dialog.get_by_label("from row 2, column 2 on")).to_be_checked()
        expect(dialog.get_by_role("button", name="Import")).to_be_focused()
        self.page.keyboard.press("Enter")
        self.expect_cell(1, 1, "2")
        self.expect_cell(2, 1, "4.5")
        self.expect_cell(3, 1, "6.5")
        self.cell(1, 0).click()
        self.paste("place\tsd\nquay\t0.1\nbuoy\t0.2\npier\t0.2")
        dialog.get_by_label("beside them, as new columns").check()
        self.page.keyboard.press("Enter")
        self.expect_cell(1, 0, "1")
        self.expect_cell(3, 2, "pier")
        self.expect_cell(3, 3, "0.2")
        self.cell(1, 0).click()
        self.paste("t\th\n7\t8\n9\t10")
        dialog.get_by_label("in place of them").check()
        self.page.keyboard.press("Enter")
        self.expect_cell(1, 0, "7")
        self.page.keyboard.press("Control+z")
        self.expect_cell(1, 0, "1")

    def test_roles_are_given_in_any_order(self) -> None:
        for order in ([2, 3], [3, 2]):
            self.open_new()
            self.copy("a;b;c;d\n0;1;10;2\n1;2;11;3\n2;4;12;5")
            self.page.locator("h1").first.click()
            self.page.keyboard.press("Control+v")
            dialog = self.page.get_by_role("dialog", name="Import a table")
            dialog.get_by_label("y is b, the others are labels").check()
            for place in order:
                dialog.get_by_label(f"Column {place + 1} role").select_option("xy"[place % 2])
            expect(dialog.get_by_label("2 series of one study")).to_be_checked()
            dialog.get_by_role("button", name="Import").click()
            self.expect_cell(4, 0, "10")
            self.expect_cell(4, 1, "2")
