"""Every screen wide and on a phone, the main ones on a tablet, the wide ones in the dark too: no violation found by axe, nothing
wider than the window."""

from __future__ import annotations

import re

from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import expect

from tests.browser.base import BrowserCase

WIDE = 1000


class Screens(BrowserCase):
    def check(self, where: str) -> None:
        # Colours are judged once nothing moves any more.
        self.page.wait_for_timeout(250)
        results = Axe().run(self.page)
        found = [
            (violation["id"], [node["html"][:160] for node in violation["nodes"][:3]])
            for violation in results.response["violations"]
        ]
        self.assertEqual(found, [], where)
        self.assertLessEqual(self.page.evaluate("document.documentElement.scrollWidth"), self.width, where)
        if self.width < WIDE:
            return  # the same colours as on the wide screen
        self.page.emulate_media(color_scheme="dark")
        self.page.wait_for_timeout(100)
        results = Axe().run(self.page, options={"runOnly": ["color-contrast"]})
        faint = [
            (one["id"], [node["html"][:160] for node in one["nodes"][:3]]) for one in results.response["violations"]
        ]
        self.page.emulate_media(color_scheme="light")
        self.assertEqual(faint, [], f"{where}, in the dark")

    def panel(self, name: str) -> None:
        """Where there is no room for all three: to one of them."""
        tab = self.page.get_by_role("navigation", name="Parts of the study").get_by_role("button", name=name)
        if tab.is_visible():
            tab.click()

    def open_new(self) -> None:
        self.open_shelf()
        self.page.get_by_role("button", name="New study", exact=True).click()
        tab = self.page.get_by_role("navigation", name="Parts of the study").get_by_role("button", name="Readings")
        expect(self.page.get_by_test_id("saving")).to_be_attached()
        if tab.is_visible():
            tab.click()

    def cell_of_row_nine(self) -> None:
        """Choose a reading on the plot, so that what depends on a choice is there."""
        self.page.locator("g[data-status=aside] circle").first.click(force=True)
        expect(self.page.get_by_test_id("chosen")).to_contain_text("Row 9")


class Wide(Screens):
    def test_shelf(self) -> None:
        self.open_shelf()
        self.check("empty shelf")
        self.open_sample("Salinity probe, calibration")
        self.open_shelf()
        expect(self.page.get_by_role("list", name="Studies")).to_be_visible()
        self.check("shelf")

    def test_bench(self) -> None:
        self.open_sample("Stretch of the mooring line")
        self.cell_of_row_nine()
        self.check("bench")
        for panel in ("Readings", "Page", "Plot"):
            tab = self.page.get_by_role("navigation", name="Parts of the study").get_by_role("button", name=panel)
            if tab.is_visible():
                tab.click()
                self.check(f"bench, {panel}")

    def test_the_bench_scrolls_in_its_parts_only(self) -> None:
        self.open_sample("A draining bucket")
        tab = self.page.get_by_role("navigation", name="Parts of the study").get_by_role("button", name="Page")
        if tab.is_visible():
            tab.click()
        for letter in "CDE":
            self.add_model()
            expect(self.page.get_by_label(f"Model of fit {letter}")).to_be_attached()
        self.assertLessEqual(self.page.evaluate("document.documentElement.scrollHeight - innerHeight"), 0)

    def test_what_opens(self) -> None:
        self.open_sample("Stretch of the mooring line")
        page_tab = self.page.get_by_role("navigation", name="Parts of the study").get_by_role("button", name="Page")
        if page_tab.is_visible():
            page_tab.click()
        self.page.get_by_role("button", name="All statistics").click()
        self.check("statistics")
        self.page.get_by_role("button", name=re.compile("^intercept .*fit or fix")).click()
        expect(self.page.get_by_label("Fix intercept at")).to_be_visible()
        self.check("intercept")

    def test_settings_history_and_gallery(self) -> None:
        self.open_sample("A can of soup in a breezy galley")
        self.page.get_by_role("button", name="History").click()
        expect(self.page.get_by_role("dialog", name="History")).to_contain_text("the beginning")
        self.check("history")
        self.page.keyboard.press("Escape")
        self.page.get_by_role("button", name="Plot settings: axes, ticks, markers, lines").click()
        self.check("plot settings")
        self.page.keyboard.press("Escape")
        page_tab = self.page.get_by_role("navigation", name="Parts of the study").get_by_role("button", name="Page")
        if page_tab.is_visible():
            page_tab.click()
        self.page.get_by_role("button", name="All models for fit A").click()
        expect(self.page.get_by_role("dialog")).to_contain_text("best of these by AICc")
        self.check("gallery")

    def test_what_is_handed_in_added_and_explained(self) -> None:
        self.open_sample("Salinity probe, calibration")
        self.hand_in()
        self.check("hand in")
        self.page.keyboard.press("Escape")
        keys = self.page.get_by_role("button", name="Keyboard shortcuts")
        if keys.is_visible():
            keys.click()
            self.check("keys")
            self.page.keyboard.press("Escape")
        self.panel("Page")
        self.page.get_by_role("button", name="Add a model").click()
        self.check("ways to add a model")
        self.page.keyboard.press("Escape")
        expect(self.page.get_by_role("menu")).to_have_count(0)
        self.page.get_by_role("button", name="Copy the equation").first.click()
        self.page.get_by_role("menuitem", name="Show it in letters too").click()
        self.check("an equation in letters")
        self.panel("Readings")
        self.choose_from("Column", "Calculated by a formula")
        self.page.keyboard.press("Escape")
        self.page.get_by_role("button", name="More", exact=True).click()
        self.check("what can be done with the table")

    def test_a_quantity_of_ones_own_and_another_unit(self) -> None:
        self.open_sample("Stretch of the mooring line")
        self.panel("Page")
        self.page.get_by_role("button", name="add a quantity that follows").click()
        self.page.get_by_role("button", name="Known value", exact=True).click()
        self.page.get_by_role("button", name="From another study").click()
        expect(
            self.page.get_by_label("Study to take a result from").or_(self.page.get_by_text("no other study"))
        ).to_be_visible()
        self.check("a quantity of one's own")
        self.page.keyboard.press("Escape")
        self.page.get_by_role("button", name=re.compile("More for the answer for F = 620")).click()
        self.page.get_by_role("menuitem", name="Another unit").click()
        self.check("an answer in another unit")

    def test_workings(self) -> None:
        self.open_sample("Salinity probe, calibration")
        self.page.get_by_role("radio", name="Workings").click()
        expect(self.page.locator("[data-step=sums]")).to_be_visible()
        self.page.get_by_label("Working", exact=True).select_option("least-squares")
        expect(self.page.locator("[data-step=normal-matrix]")).to_be_visible()
        self.page.get_by_role("button", name="Show all").first.click()
        self.check("workings")

    def test_residuals(self) -> None:
        self.open_sample("A draining bucket")
        self.page.get_by_role("radio", name="Residuals").click()
        expect(self.page.get_by_role("list", name="What the residuals show")).to_be_visible()
        self.check("residuals")

    def test_report_and_rounding(self) -> None:
        self.open_sample("A draining bucket")
        self.panel("Page")
        self.page.get_by_role("button", name="rounding").first.click()
        self.page.get_by_label("Number for all").fill("0")
        self.page.get_by_role("button", name="decimals", exact=True).click()
        expect(self.page.get_by_role("status").filter(has_text="With these decimals")).to_be_visible()
        self.check("rounding")
        self.page.keyboard.press("Escape")
        self.panel("Plot")
        self.page.get_by_role("radio", name="Report").click()
        self.page.get_by_role("button", name="Paragraph of your own").click()
        expect(self.page.get_by_label("Text of the paragraph")).to_be_visible()
        frame = self.page.frame_locator("iframe[title='Report preview']")
        expect(frame.get_by_role("heading", name="A draining bucket")).to_be_visible()
        self.check("report")

    def test_by_hand_and_compared(self) -> None:
        self.open_sample("A draining bucket")
        self.panel("Page")
        self.page.get_by_role("button", name="More for fit A").click()
        self.page.get_by_role("menuitem", name="Set by hand", exact=True).click()
        expect(self.page.get_by_test_id("by-hand")).to_be_visible()
        self.check("by hand")
        self.panel("Plot")
        self.check("grips")
        self.page.get_by_role("radio", name="Compare").click()
        expect(self.page.get_by_role("region", name="Fits side by side")).to_contain_text("R² never falls")
        self.check("compare")
        self.page.get_by_role("radio", name="Resample").click()
        expect(self.page.get_by_role("group", name="What the subsets show")).to_be_visible()
        self.check("resample")

    def test_formula_and_interpolation(self) -> None:
        self.open_sample("A draining bucket")
        self.panel("Page")
        self.page.get_by_label("Model of fit B").select_option("cubic-spline")
        expect(self.page.get_by_role("list", name="Pieces")).to_be_visible()
        self.page.get_by_label("Model of fit A").select_option("formula")
        field = self.page.get_by_label("Formula of fit A")
        field.click()
        self.page.keyboard.type("(a - b*t)^2 + ex")
        expect(self.page.get_by_role("listbox", name="Names")).to_be_visible()
        self.check("names of a formula")
        self.page.keyboard.type("p(")
        expect(self.page.get_by_text("bracket", exact=False).first).to_be_visible()
        self.check("a mistake in a formula")
        field.fill("(a - b*t)^2")
        field.press("Enter")
        self.page.get_by_role("button", name="Look at a part of it").click()
        expect(self.page.get_by_test_id("part-curve")).to_be_visible()
        self.check("a part of a formula")

    def test_a_column(self) -> None:
        self.open_sample("A draining bucket")
        readings = self.page.get_by_role("navigation", name="Parts of the study").get_by_role("button", name="Readings")
        if readings.is_visible():
            readings.click()
        self.grid().get_by_role("columnheader").get_by_role("button", name=re.compile("root of the level")).click()
        expect(self.page.get_by_label("Formula", exact=True)).to_be_visible()
        self.check("a column")

    def test_a_pasted_table(self) -> None:
        self.open_new()
        self.page.evaluate("text => navigator.clipboard.writeText(text)", "t / s;h / m\n0;1\n1;n/a\n2;5")
        self.page.keyboard.press("Control+v")
        expect(self.page.get_by_role("dialog", name="Import a table")).to_contain_text("3 rows")
        self.check("a pasted table")
        self.page.keyboard.press("Escape")
        self.page.evaluate(
            "text => navigator.clipboard.writeText(text)", "Station 4\n0:30\t1,500\n1:00\t2,250\n1:30\tn/a"
        )
        self.page.keyboard.press("Control+v")
        dialog = self.page.get_by_role("dialog", name="Import a table")
        expect(dialog).to_contain_text("Answer the questions above to import.")
        self.check("a table with open questions")

    def test_a_calculated_column_and_the_menu_of_the_table(self) -> None:
        self.open_sample("A draining bucket")
        readings = self.page.get_by_role("navigation", name="Parts of the study").get_by_role("button", name="Readings")
        if readings.is_visible():
            readings.click()
        self.cell(2, 1).click(button="right")
        expect(self.page.get_by_role("menu")).to_be_visible()
        self.check("the menu of the table")
        self.page.keyboard.press("Escape")
        self.choose_from("Column", "Calculated by a formula")
        expect(self.page.get_by_role("combobox", name="Formula", exact=True)).to_be_focused()
        self.page.keyboard.type("1/(h - 31.4) + zz")
        expect(self.page.get_by_text("There is no column 'zz'")).to_be_visible()
        self.check("a calculated column with a mistake")

    def test_the_uncertainty_of_a_column_and_where_to_measure_next(self) -> None:
        self.open_sample("A draining bucket")
        parts = self.page.get_by_role("navigation", name="Parts of the study")
        narrow = parts.is_visible()
        if narrow:
            parts.get_by_role("button", name="Readings").click()
        self.page.get_by_role("button", name="Column level").click()
        self.page.get_by_label("Uncertainty", exact=True).fill("±0.5; 0.2")
        self.page.get_by_text("Ways to write it").click()
        expect(self.page.get_by_text("Used as a standard uncertainty of")).to_be_visible()
        self.check("the uncertainty of a column")
        self.page.keyboard.press("Escape")
        if narrow:
            parts.get_by_role("button", name="Page").click()
        self.choose_for("A", "Where a reading separates it from B")
        expect(self.page.get_by_role("region", name="Where to measure next")).to_contain_text("differ most")
        self.check("where to measure next")

    def test_empty_and_refused(self) -> None:
        self.open_new()
        self.check("empty study")
        self.cell(1, 0).click(force=True)
        self.page.keyboard.type("n/a")
        self.page.keyboard.press("Enter")
        self.expect_saved()
        self.check("a cell that is no number")


class Phone(Wide):
    width, height = 390, 780


class Tablet(Screens):
    width, height = 820, 1100

    def test_main_screens(self) -> None:
        self.open_sample("Stretch of the mooring line")
        self.cell_of_row_nine()
        self.check("bench")
        for panel in ("Readings", "Page", "Plot"):
            self.panel(panel)
            self.check(f"bench, {panel}")
        for lens in ("Residuals", "Compare", "Resample", "Report"):
            self.page.get_by_role("radio", name=lens).click()
            self.page.wait_for_timeout(1000)
            self.check(lens)
