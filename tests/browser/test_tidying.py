"""Tidying readings: sorting, finding, assuming, generating, calculated columns, uncertainties, history."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, Route, expect

from tests.browser.base import BrowserCase


class Tidying(BrowserCase):
    def header(self, name: str) -> Locator:
        return self.grid().get_by_role("columnheader").get_by_role("button", name=re.compile(name))

    def test_sorting_keeps_marks_with_their_readings(self) -> None:
        self.open_sample("Stretch of the mooring line")
        self.header("Column load").click()
        self.page.get_by_role("button", name="largest first").click()
        self.expect_cell(1, 0, "550")
        expect(self.row(4).get_by_role("img", name="set aside")).to_be_visible()

    def test_empty_rows_go_and_come_back(self) -> None:
        self.open_new()
        self.fill("1\t2\n\t\n3\t4\n\t\n5\t7")
        self.choose_from("More", "Remove empty rows")
        self.expect_cell(2, 0, "3")
        self.page.get_by_role("button", name="Undo").click()
        self.expect_cell(3, 0, "3")

    def test_a_value_is_found(self) -> None:
        self.open_sample("Tide at the pontoon")
        self.choose_from("More", "Find a value")
        self.page.get_by_label("What to find").fill("1.38")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("search").get_by_role("status")).to_have_text("1 of 1")
        expect(self.row(20)).to_have_attribute("aria-selected", "true")

    def test_an_assumed_reading_is_drawn_and_cautioned(self) -> None:
        self.open_sample("Stretch of the mooring line")
        self.cell(1, 0).click()
        self.page.get_by_role("button", name="Mark as assumed").click()
        self.page.get_by_label("Reason for assuming it?").fill("no load")
        self.page.keyboard.press("Enter")
        expect(self.marks("assumed")).to_have_count(1)
        expect(self.account()).to_contain_text(re.compile("assumed", re.I))

    def test_readings_are_generated_again_the_same(self) -> None:
        self.open_new()
        self.choose_from("More", "Generate readings")
        self.expected_problem = "400"  # tried out first, and refused
        dialog = self.page.get_by_role("dialog", name="Generate readings")
        dialog.get_by_label("To", exact=True).fill("4")
        dialog.get_by_label("Formula for y").fill("2*x + q")
        dialog.get_by_role("button", name="Generate").click()
        expect(dialog.get_by_role("alert")).to_contain_text("'q' has no value here")
        dialog.get_by_label("Formula for y").fill("2*x + 1")
        dialog.get_by_role("button", name="Generate").click()
        expect(dialog).to_be_hidden()
        self.expect_cell(5, 0, "4")
        self.expect_cell(5, 1, "9")
        expect(self.account()).to_contain_text("The fit is exact")

    def test_a_calculated_column_follows_and_becomes_y(self) -> None:
        self.open_sample("A draining bucket")
        self.expect_cell(16, 2, "1")
        self.cell(16, 1).click()
        self.page.keyboard.type("4")
        self.page.keyboard.press("Enter")
        self.expect_cell(16, 2, "2")
        self.header("Column root of the level").click()
        self.page.get_by_role("combobox", name="Role").select_option("y")
        self.page.get_by_role("button", name="Apply").click()
        expect(self.page.get_by_role("application")).to_contain_text("root of the level")

    def test_a_new_formula_and_its_mistake(self) -> None:
        self.open_sample("Stretch of the mooring line")
        self.choose_from("Column", "Calculated by a formula")
        dialog = self.page.get_by_role("dialog", name="Calculated column")
        formula = dialog.get_by_role("combobox", name="Formula")
        expect(formula).to_be_focused()
        self.page.keyboard.type("F/L2")
        expect(dialog).to_contain_text("There is no column 'L2'")
        expect(dialog.get_by_role("button", name="Add")).to_have_attribute("aria-disabled", "true")
        formula.fill("F/(L - 1)")
        expect(dialog).to_contain_text("No value in row 1: F/(L - 1) has no value at F = 0, L = 1.")
        expect(dialog).to_contain_text("First values: 3.125")
        dialog.get_by_role("textbox", name="Symbol").fill("F")
        dialog.get_by_role("button", name="Take F_2").click()
        dialog.get_by_role("textbox", name="Symbol").fill("k")
        expect(dialog.get_by_role("button", name="Add")).not_to_have_attribute("aria-disabled", "true")
        dialog.get_by_role("button", name="Add").click()
        self.expect_cell(2, 3, "3.125")
        expect(self.cell(1, 3)).to_have_attribute("title", re.compile("Row 1: .* has no value at F = 0"))
        self.cell(2, 3).click()
        self.page.keyboard.type("7")
        expect(self.page.get_by_text("k is calculated as F/(L - 1): change that in its heading.")).to_be_visible()
        self.expect_cell(2, 3, "3.125")
        self.header("Column k").click()
        self.page.get_by_role("combobox", name="Formula").fill("L - A(F)")
        expect(self.page.get_by_text("Standard uncertainty from its sources")).to_be_visible()
        self.page.get_by_role("button", name="Apply").click()
        self.expect_cell(4, 3, "−1.88411")

    def test_names_are_offered_in_the_formula_of_a_column(self) -> None:
        self.open_sample("Stretch of the mooring line")
        self.choose_from("Column", "Calculated by a formula")
        dialog = self.page.get_by_role("dialog", name="Calculated column")
        expect(dialog.get_by_role("combobox", name="Formula")).to_be_focused()
        self.page.keyboard.type("2*u")
        expect(dialog.get_by_role("option", name="u_L")).to_be_visible()
        self.page.keyboard.press("Tab")
        expect(dialog.get_by_role("combobox", name="Formula")).to_have_value("2*u_L")
        self.page.keyboard.press("Enter")
        expect(dialog).to_be_hidden()
        expect(self.page.get_by_label("other, row 1")).to_have_value("4")

    def test_nothing_moves_away_under_a_press(self) -> None:
        """What is said of a formula makes the form longer; a button that is being pressed stays where it is until it is let go."""
        self.open_sample("A draining bucket")
        self.header("Column level").click()
        apply = self.page.get_by_role("button", name="Apply")
        before = apply.bounding_box()
        assert before
        late: list[Route] = []
        self.page.route("**/column", lambda route: late.append(route))
        with self.page.expect_request("**/column"):
            self.page.get_by_label("Uncertainty", exact=True).fill("5 %%")
        self.page.mouse.move(before["x"] + before["width"] / 2, before["y"] + before["height"] / 2)
        self.page.mouse.down()
        with self.page.expect_response("**/column"):
            late[0].continue_()
        self.page.wait_for_timeout(300)
        self.assertEqual(apply.bounding_box(), before)
        self.page.unroute("**/column")
        self.page.mouse.up()
        expect(self.page.get_by_role("alert")).to_contain_text("more than one % sign")

    def test_symbol_and_uncertainty_are_checked_while_typed(self) -> None:
        self.open_sample("A draining bucket")
        self.header("Column level").click()
        apply = self.page.get_by_role("button", name="Apply")
        self.page.get_by_role("textbox", name="Symbol").fill("t")
        expect(self.page.get_by_role("alert")).to_contain_text("Another column has the symbol t.")
        expect(apply).to_have_attribute("aria-disabled", "true")
        self.page.get_by_role("button", name="Take t_2").click()
        expect(self.page.get_by_role("alert")).to_have_count(0)
        for text, why in (
            ("abc", "is not a number"),
            ("0", "is not above zero"),
            ("-1", "is not above zero"),
            ("inf", "is not finite"),
            ("5 %%", "more than one % sign"),
        ):
            self.page.get_by_label("Uncertainty", exact=True).fill(text)
            expect(self.page.get_by_role("alert")).to_contain_text(why)
        self.page.get_by_label("Uncertainty", exact=True).fill("5 % of the value")
        expect(self.page.get_by_role("alert")).to_have_count(0)
        self.page.get_by_label("Multiplier").select_option(label="10⁻³ (milli)")
        apply.click()
        expect(self.header("Column level")).to_contain_text("10⁻³")

    def test_the_menu_of_the_table_and_fill_down(self) -> None:
        self.open_new()
        self.fill("1\t2\n2\t4\n3\t7\n4\t9")
        self.cell(1, 1).click()
        self.cell(3, 1).click(modifiers=["Shift"])
        self.page.keyboard.press("Control+d")
        self.expect_cell(3, 1, "2")
        self.page.keyboard.press("Control+z")
        self.expect_cell(3, 1, "7")
        menu = self.page.get_by_role("menu")
        self.cell(4, 1).click(button="right")
        menu.get_by_role("menuitem", name="Set row 4 aside").click()
        expect(self.marks("aside")).to_have_count(1)
        self.cell(4, 1).click(button="right")
        menu.get_by_role("menuitem", name="Use row 4 again").click()
        expect(self.marks("aside")).to_have_count(0)
        self.cell(2, 0).click(button="right")
        menu.get_by_role("menuitem", name="Largest first").click()
        self.expect_cell(1, 0, "4")
        self.cell(1, 0).click()
        self.page.keyboard.press("ContextMenu")  # by keyboard, and back to the cell
        menu.get_by_role("menuitem", name="Insert a row above").click()
        self.expect_cell(2, 0, "4")
        expect(self.page.get_by_label("x, row 1")).to_be_focused()

    def test_a_row_is_chosen_at_its_number_and_stays_in_sight(self) -> None:
        self.open_new()
        self.fill("\n".join(f"{row}\t{2 * row}" for row in range(1, 31)))
        self.page.get_by_role("rowheader", name="3", exact=True).click()
        self.page.get_by_role("rowheader", name="5", exact=True).click(modifiers=["Shift"])
        expect(self.page.get_by_role("group", name="Rows 3 to 5: what to do")).to_be_visible()
        expect(self.page.locator("[role=gridcell][aria-selected=true]")).to_have_count(6)
        self.cell(18, 1).click()
        expect(self.page.get_by_label("y, row 18")).to_be_focused()
        # The window shrinks, as it does when a keyboard comes up: the cell that has the focus is still seen.
        self.page.set_viewport_size({"width": self.width, "height": 420})
        expect(self.page.get_by_label("y, row 18")).to_be_in_viewport(ratio=0.9)
        box, grid = self.page.get_by_label("y, row 18").bounding_box(), self.grid().bounding_box()
        assert box and grid
        self.assertLessEqual(box["y"] + box["height"], grid["y"] + grid["height"] + 1)

    def test_a_row_is_not_wrong_between_its_x_and_its_y(self) -> None:
        self.open_new()
        self.fill("1\t2\n2\t4\n3\t7")
        self.cell(4, 0).click()
        self.page.keyboard.type("4")
        self.page.keyboard.press("Tab")
        expect(self.page.get_by_text("3 used · 1 incomplete")).to_be_visible()
        expect(self.page.get_by_text("y missing")).to_have_count(0)
        self.page.keyboard.press("ArrowDown")
        expect(self.page.get_by_text("Row 4: y missing.").first).to_be_visible()
        self.page.keyboard.press("ArrowUp")  # entered again, it is said
        expect(self.page.get_by_text("Row 4: y missing.").first).to_be_visible()
        self.page.keyboard.type("9")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_text("y missing")).to_have_count(0)

    def test_an_uncertainty_for_all_is_drawn_and_used(self) -> None:
        self.open_sample("A draining bucket")
        self.header("Column level").click()
        self.page.get_by_label("Uncertainty", exact=True).fill("2 %")
        self.page.keyboard.press("Enter")
        expect(self.page.locator("g[data-status=used][data-row='1'] path")).to_have_count(1)
        expect(self.account()).to_contain_text("weighted by the uncertainties of h")
        expect(self.account().get_by_label("known in absolute terms")).to_be_visible()

    def test_limits_of_a_display_and_an_uncertainty_carried_into_a_calculated_column(self) -> None:
        self.open_sample("A draining bucket")
        self.header("Column level").click()
        self.page.get_by_label("Uncertainty", exact=True).fill("half a digit")
        expect(self.page.get_by_text("Used as a standard uncertainty of 0.0289")).to_be_visible()
        self.page.get_by_text("Ways to write it").click()
        self.page.get_by_role("button", name="0.5 (k = 2)").click()
        expect(self.page.get_by_text("Used as a standard uncertainty of 0.250")).to_be_visible()
        self.page.get_by_role("button", name="Apply").click()
        expect(self.account()).to_contain_text("The uncertainty of h is given as 0.5 expanded with k = 2.")
        expect(self.header("Column level")).to_contain_text("(0.5 (k = 2))")
        self.choose_from("Column", "Calculated by a formula")
        dialog = self.page.get_by_role("dialog", name="Calculated column")
        dialog.get_by_role("combobox", name="Formula").fill("2*h + t")
        expect(dialog).to_contain_text("cm and s cannot be added or compared")
        dialog.get_by_role("combobox", name="Formula").fill("h/t^2")
        dialog.get_by_role("textbox", name="Symbol").fill("a")
        dialog.get_by_role("button", name="Take cm/s²").click()
        expect(dialog.get_by_role("textbox", name="Unit")).to_have_value("cm/s²")
        expect(dialog).to_contain_text("Standard uncertainty from its sources: ")
        dialog.get_by_role("button", name="Add").click()
        self.header("Column a,").click()
        self.page.get_by_role("button", name="Use it").click()
        expect(self.page.get_by_label("Uncertainty", exact=True)).to_have_value("carried")
        self.page.get_by_role("combobox", name="Role").select_option(label="y")
        self.page.get_by_role("button", name="Apply").click()
        expect(self.account()).to_contain_text(
            "The uncertainty of a is given as carried from what it is calculated from."
        )
        expect(self.page.locator("g[data-status=used][data-row='1']")).to_have_count(0)  # divided by zero
        expect(self.page.locator("g[data-status=used][data-row='2'] path")).to_have_count(1)

    def test_a_column_is_converted_and_repeats_are_averaged(self) -> None:
        self.open_new()
        self.fill("1.0\t2.1\n1.0\t2.5\n2.0\t4.2\n2.0\t4.0\n3.0\t6.1")
        self.header("Column").first.click()
        self.page.get_by_role("textbox", name="Unit").fill("min")
        self.page.get_by_role("button", name="Apply").click()
        expect(self.page.get_by_role("textbox", name="Unit")).to_have_count(0)
        self.header("Column").first.click()
        self.page.get_by_role("textbox", name="Unit").fill("s")
        expect(self.page.get_by_text("1 min = 60 s.")).to_be_visible()
        self.page.get_by_role("button", name="Convert the numbers to s").click()
        self.expect_cell(1, 0, "60")
        self.expect_cell(5, 0, "180")
        self.choose_from("More", "Average rows with the same x")
        self.expect_cell(1, 1, "2.3")
        self.expect_cell(3, 1, "6.1")
        expect(self.header("Column number of repeats")).to_be_visible()
        self.page.get_by_role("button", name="Undo").click()
        self.expect_cell(2, 1, "2.5")
        self.page.get_by_role("button", name="Undo").click()
        self.expect_cell(1, 0, "1.0")

    def test_the_history_in_words_and_back_to_any_step(self) -> None:
        self.open_new()
        self.fill("1\t2\n2\t4\n3\t7")
        self.cell(2, 1).click()
        self.page.keyboard.press("Control+.")
        self.expect_saved()
        self.page.get_by_label("Model of fit A").select_option("quadratic")
        self.expect_saved()
        self.page.get_by_role("button", name="History").click()
        steps = self.page.get_by_role("dialog", name="History").get_by_role("listitem")
        expect(steps).to_have_count(4)
        expect(steps.nth(0)).to_contain_text("make fit A a quadratic")
        expect(steps.nth(1)).to_contain_text("set aside row 2")
        steps.nth(2).get_by_role("button").click()
        expect(self.marks("aside")).to_have_count(0)
        expect(self.page.get_by_label("Model of fit A")).to_have_value("line")
        steps.nth(0).get_by_role("button").click()
        expect(self.marks("aside")).to_have_count(1)
        steps.nth(3).get_by_role("button").click()
        expect(self.marks("used")).to_have_count(0)
