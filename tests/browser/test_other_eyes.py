"""What a screen reader, a system with colours of its own and a sheet of paper make of the page."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.browser.base import BrowserCase


class OtherEyes(BrowserCase):
    def test_equations_are_mathml_and_tables_have_captions(self) -> None:
        self.open_sample("Salinity probe, calibration")
        formula = self.account().get_by_role("math").first
        expect(formula.locator("annotation")).to_have_text("U = 21.60\\,S + 16.7")
        expect(self.account().get_by_role("table", name="Parameters of fit A")).to_be_visible()
        unnamed = self.page.evaluate(
            "[...document.querySelectorAll('table')].filter((table) => !table.caption?.textContent.trim()"
            " && !table.closest('[aria-hidden=true]')).map((table) => table.textContent)"
        )
        self.assertEqual(unnamed, [])

    def test_what_is_chosen_is_framed_where_the_system_chooses_the_colours(self) -> None:
        self.page.emulate_media(forced_colors="active")
        self.open_sample("Stretch of the mooring line")
        tool = self.page.get_by_role("radio", name="Add readings")
        style = "element => getComputedStyle(element).outlineStyle"
        self.assertEqual(tool.evaluate(style), "none")
        tool.click()
        self.page.mouse.move(5, 5)
        expect(tool).to_have_attribute("aria-checked", "true")
        self.assertEqual(tool.evaluate(style), "solid")
        self.page.get_by_role("rowheader", name="3", exact=True).click()
        row = self.grid().locator("[role=row][aria-selected=true]")
        expect(row).to_have_count(1)
        self.assertEqual(row.evaluate(style), "solid")
        # The drawing keeps its own colours, on its own ground.
        drawing = self.page.get_by_role("region", name="Plot", exact=True).locator("svg[class*=touch-none]")
        ground = "element => getComputedStyle(element).backgroundColor"
        self.assertEqual(drawing.evaluate(ground), "rgb(252, 251, 247)")

    def test_hints_for_the_screen_stay_off_the_paper(self) -> None:
        self.open_new()
        self.fill("1\t2\n2\t4\n3\t7")
        hint = self.account().get_by_text("No answers kept yet.", exact=False)
        expect(hint).to_be_visible()
        self.page.emulate_media(media="print")
        expect(hint).to_be_hidden()
        expect(self.account().get_by_role("heading", name="Answers")).to_be_hidden()
        question = self.page.get_by_label("Question", exact=True)
        color = question.evaluate("element => getComputedStyle(element, '::placeholder').color")
        self.assertIn(color, ("rgba(0, 0, 0, 0)", "transparent"))

    def test_titles_and_names_are_shown_to_their_descenders(self) -> None:
        self.open_sample("A draining bucket")
        expect(self.page.get_by_label("Name of fit B")).to_have_value("draining law")
        for name in ("Title", "Question", "Name of fit B"):
            field = self.page.get_by_label(name, exact=True)
            self.assertLessEqual(field.evaluate("element => element.scrollHeight - element.clientHeight"), 0, name)
