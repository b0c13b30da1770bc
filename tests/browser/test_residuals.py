"""The Residuals lens: five views, one selection, words and a table."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.browser.base import BrowserCase


class ResidualsLens(BrowserCase):
    def test_five_views_share_the_selection_with_the_table(self) -> None:
        self.open_sample("Stretch of the mooring line")
        self.cell(5, 1).click()
        self.page.get_by_role("radio", name="Residuals").click()
        lens = self.page.get_by_role("region", name="Views of the residuals")
        expect(lens.locator("figure")).to_have_count(6)
        lit = "circle[fill='var(--color-lichen)']"
        expect(lens.locator(f"{lit}[data-row='5']")).to_have_count(4)
        expect(lens.get_by_role("list")).to_contain_text("above the line")
        mark = lens.locator("figure").nth(1).locator("circle[data-row='8']")
        mark.click(force=True)
        expect(self.row(8)).to_have_attribute("aria-selected", "true")
        expect(lens.locator(f"{lit}[data-row='8']")).to_have_count(4)

    def test_another_fit_by_keyboard_and_the_table_copied(self) -> None:
        self.open_sample("A draining bucket")
        self.page.get_by_label("Model of fit B").select_option("line")
        tab = self.page.get_by_role("radio", name="Residuals")
        tab.focus()
        self.page.keyboard.press("Enter")
        lens = self.page.get_by_role("region", name="Views of the residuals")
        expect(lens.get_by_role("list")).to_contain_text("No significant curvature")
        self.page.get_by_label("Residuals of fit", exact=True).select_option("B")
        expect(lens.get_by_role("list")).to_contain_text("They are curved: above at both ends")
        self.page.get_by_role("button", name="Copy the residual table").click()
        self.page.get_by_role("menuitem", name="Copy as a table").click()
        copied = self.copied("The residual table")
        self.assertEqual(
            copied.split("\n")[0].split("\t")[:4], ["row", "observed / cm", "fitted / cm", "residual / cm"]
        )
        self.assertEqual(len(copied.split("\n")), 16)

    def test_without_a_fit(self) -> None:
        self.open_new()
        self.page.get_by_role("radio", name="Residuals").click()
        expect(self.page.get_by_text("There are no residuals without a fit.")).to_be_visible()
