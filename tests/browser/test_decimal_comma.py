"""A decimal comma: chosen on the shelf, seen on page and plot, typed and read everywhere."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from tests.browser.base import BrowserCase


class DecimalComma(BrowserCase):
    def test_chosen_once_for_all_studies(self) -> None:
        self.open_shelf()
        self.page.get_by_label("Decimal sign").select_option("comma")
        expect(self.page.get_by_label("Decimal sign")).to_have_value("comma")
        self.page.get_by_role("button", name="Open a copy of Salinity probe, calibration").click()
        expect(self.curve().first).to_be_attached()
        expect(self.account()).to_contain_text("21,60")
        expect(self.account()).to_contain_text("27,08 g/kg (95 % CI 26,82 to 27,35)")
        expect(self.account().get_by_role("math").first.locator("annotation")).to_contain_text("21{,}60")
        texts = self.page.locator("[role=application] text").all_text_contents()
        self.assertFalse([text for text in texts if re.search(r"\d\.\d", text)])
        self.page.get_by_label("S, given").fill("20,5")
        expect(self.page.get_by_test_id("asked")).to_contain_text(
            re.compile(
                r"S = 20,5\sg/kg: U = 459\smV \(95\s% prediction interval 450 to 469\)95\s% CI of the line: 457,2 to 461,8"
            )
        )
        said = self.page.evaluate(r"document.querySelector('article').innerText.match(/\d\.\d+/g)")
        self.assertIsNone(said)

        self.choose_from("More", "Write numbers with a decimal point")
        expect(self.account()).to_contain_text("27.08 g/kg (95 % CI 26.82 to 27.35)")

    def test_offered_when_it_is_typed_first_and_dragged_in_it(self) -> None:
        self.open_new()
        for row, (x, y) in enumerate((("1", "2,1"), ("2", "3,9"), ("3", "6,2"), ("4", "7,8")), 1):
            self.cell(row, 0).click()
            self.page.keyboard.type(x)
            self.page.keyboard.press("Tab")
            self.page.keyboard.type(y)
            self.page.keyboard.press("Enter")
        self.expect_saved()
        expect(self.account()).to_contain_text(re.compile(r"1\.94 ± 0\.09"))
        self.expect_cell(2, 1, "3.9")  # no cell differs from the others
        expect(self.page.get_by_text("You typed a decimal comma.")).to_be_visible()
        self.page.get_by_role("button", name="Write all numbers with a comma").click()
        expect(self.account()).to_contain_text(re.compile(r"1,94 ± 0,09"))
        self.expect_cell(2, 1, "3,9")
        self.page.reload()
        expect(self.account()).to_contain_text(re.compile(r"1,94 ± 0,09"))
        self.expect_cell(2, 1, "3,9")
        self.cell(1, 1).click()
        self.page.keyboard.press("Control+c")
        self.assertEqual(self.page.evaluate("() => navigator.clipboard.readText()"), "2,1")
        self.cell(6, 1).click()
        self.paste("9,5\n11,25")
        self.expect_saved()
        self.expect_cell(7, 1, "11,25")


class GermanBrowser(BrowserCase):
    """Everything has a comma from the start: cells, sentences, axes, the table for screen readers, files and what is copied."""

    locale = "de-DE"

    def test_everywhere_from_the_start(self) -> None:
        self.open_sample("Salinity probe, calibration")
        expect(self.account()).to_contain_text("27,08 g/kg (95 % CI 26,82 to 27,35)")
        self.assertIsNone(self.page.evaluate(r"document.querySelector('article').innerText.match(/\d\.\d+/g)"))
        texts = self.page.locator("[role=application] text").all_text_contents()
        self.assertFalse([text for text in texts if re.search(r"\d\.\d", text)])
        hidden = self.page.evaluate("[...document.querySelectorAll('.sr-only')].map(one => one.textContent).join(' ')")
        self.assertIsNone(re.search(r"\d\.\d", hidden))
        study = self.page.url.rpartition("/")[2]
        for file in ("report.html", "readings.csv"):
            response = self.page.request.get(f"/api/studies/{study}/{file}", headers={"accept-language": "de-DE"})
            self.assertIn(",", response.text())
            before_references = response.text().partition("References")[0]
            self.assertEqual(re.findall(r"[^-\d.]\d+\.\d+(?= g/kg| mV)", before_references), [])

    def test_a_formula_with_commas(self) -> None:
        self.open_sample("A can of soup in a breezy galley")
        self.add_model("Own formula")
        self.page.get_by_role("combobox", name="Formula of fit B").fill("a*exp(-0,02*t) + max(0,5; c)")
        self.page.keyboard.press("Enter")
        model = self.account().get_by_role("region", name="Model B")
        expect(model).to_contain_text("typical miss")
        self.assertIn("max(0,5;", model.inner_text())
        self.assertIsNone(re.search(r"\d\.\d", model.inner_text()))
