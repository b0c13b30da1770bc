"""Tidying readings: sorting, finding, assuming, generating, calculated columns, uncertainties, history."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, expect

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
        self.expect_cell(2, 3, "50")
        self.header("Column label or other").click()
        self.page.get_by_role("textbox", name="Symbol").fill("k")
        self.page.get_by_label("Formula", exact=True).fill("F/L2")
        self.page.keyboard.press("Enter")
        self.header("Column k").click()
        expect(self.page.get_by_role("alert")).to_contain_text("There is no column 'L2'")
        self.page.get_by_label("Formula", exact=True).fill("F/(L - 1)")
        self.page.keyboard.press("Enter")
        self.expect_cell(2, 3, "3.125")

    def test_an_uncertainty_for_all_is_drawn_and_used(self) -> None:
        self.open_sample("A draining bucket")
        self.header("Column level").click()
        self.page.get_by_label("Uncertainty of each").fill("2 %")
        self.page.keyboard.press("Enter")
        expect(self.page.locator("g[data-status=used][data-row='1'] path")).to_have_count(1)
        expect(self.account()).to_contain_text("weighted by the uncertainties of h")
        expect(self.account().get_by_label("known in absolute terms")).to_be_visible()

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
