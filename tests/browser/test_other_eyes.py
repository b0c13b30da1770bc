"""What a screen reader, a system with colours of its own and a sheet of paper make of the page."""

from __future__ import annotations

import re
from pathlib import Path
from xml.etree import ElementTree

from playwright.sync_api import Locator, expect

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

    def test_text_spaced_as_readers_may_wish_is_not_cut(self) -> None:
        """WCAG 2.2, success criterion 1.4.12: spacing of lines, letters, words and paragraphs."""
        css = (
            "* { line-height: 1.5 !important; letter-spacing: 0.12em !important; word-spacing: 0.16em !important; }"
            " p { margin-bottom: 2em !important; }"
        )
        cut = """() => [...document.querySelectorAll('button, a, label, h1, h2, h3, p, th, dt, dd, textarea, [role=radio]')]
            .filter((one) => one.offsetParent && !one.matches('.truncate, [class*=line-clamp]'))
            .filter((one) => {
                const style = getComputedStyle(one);
                const tight = style.overflowX !== 'visible' || one.matches('button, [role=radio]');
                return (tight && one.scrollWidth > one.clientWidth + 1)
                    || (style.overflowY === 'hidden' && one.scrollHeight > one.clientHeight + 1);
            })
            .map((one) => one.outerHTML.slice(0, 200))"""
        for width in (1280, 640):
            self.page.set_viewport_size({"width": width, "height": 800})
            self.open_sample("A draining bucket")
            self.page.evaluate(
                "css => { const sheet = new CSSStyleSheet(); sheet.replaceSync(css); document.adoptedStyleSheets.push(sheet); }",
                css,
            )
            for panel in ("Readings", "Page", "Plot"):
                tab = self.page.get_by_role("navigation", name="Parts of the study").get_by_role("button", name=panel)
                if tab.is_visible():
                    tab.click()
                self.assertEqual(self.page.evaluate(cut), [], (width, panel))
                self.assertLessEqual(self.page.evaluate("document.documentElement.scrollWidth"), width)
            wide = "[...document.querySelectorAll('main [role=region]')].some((one) => one.scrollWidth > one.clientWidth + 1)"
            self.assertFalse(self.page.evaluate(wide))

    def test_the_focus_returns_from_every_dialog(self) -> None:
        self.open_sample("A draining bucket")

        def comes_back(opener: Locator, *item: str) -> None:
            opener.press("Enter")
            for name in item:
                self.page.get_by_role("menuitem", name=name).press("Enter")
            expect(self.page.get_by_role("dialog").last).to_be_visible()
            self.page.keyboard.press("Escape")
            expect(self.page.get_by_role("dialog")).to_have_count(0)
            expect(opener).to_be_focused()

        button = self.page.get_by_role("button", name="Keyboard shortcuts")
        comes_back(button)
        for name in ("History", "Hand in", "Plot settings: axes, ticks, markers, lines", "All models for fit A"):
            comes_back(self.page.get_by_role("button", name=name))
        comes_back(self.page.get_by_role("button", name="Add a model"), "All models")
        comes_back(self.page.get_by_role("button", name="Column", exact=True), "Calculated by a formula")
        comes_back(self.page.get_by_role("button", name=re.compile("^c_1 .*fit or fix")))
        header = self.grid().get_by_role("columnheader").get_by_role("button", name=re.compile("root of the level"))
        comes_back(header)


class InLetters(BrowserCase):
    def test_equations_in_letters_too_and_as_pictures(self) -> None:
        self.open_sample("Tide at the pontoon")
        letters = self.account().get_by_role("math").filter(has_text="ω").first
        expect(letters).to_have_count(0)
        self.page.get_by_role("button", name="Copy the equation", exact=True).press("Enter")
        self.page.get_by_role("menuitem", name="Show it in letters too").press("Enter")
        expect(letters.locator("annotation")).to_have_text(re.compile("h = A"))
        self.page.reload()
        expect(letters).to_be_attached()
        for name, text in (("Copy the equation in letters", "h = A"), ("Copy the equation", "h = 1.855")):
            self.page.get_by_role("button", name=name, exact=True).click()
            with self.page.expect_download() as download:
                self.page.get_by_role("menuitem", name="Save as SVG").click()
            self.assertEqual(download.value.suggested_filename, "tide-at-the-pontoon-equation-a.svg")
            root = ElementTree.fromstring(Path(download.value.path()).read_text())
            self.assertTrue((root.findtext("{http://www.w3.org/2000/svg}title") or "").startswith(text))
        self.page.get_by_role("button", name="Copy the equation", exact=True).click()
        self.page.get_by_role("menuitem", name="Copy as a picture").click()
        expect(self.page.get_by_text("Equation copied.")).to_be_visible()
        self.page.get_by_role("button", name="Copy the equation", exact=True).click()
        self.page.get_by_role("menuitem", name="Show it in numbers only").click()
        expect(letters).to_have_count(0)
