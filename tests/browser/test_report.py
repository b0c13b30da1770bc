"""Handing it in: from opening a study to its PDF, the parts in the order wanted, and files that do not come."""

from __future__ import annotations

import io
import time
from pathlib import Path

from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import FrameLocator, Route, expect
from pypdf import PdfReader

from tests.browser.base import BrowserCase


class Handing(BrowserCase):
    def report(self) -> FrameLocator:
        return self.page.frame_locator("iframe[title='Report preview']")

    def open_report(self, sample: str) -> None:
        self.open_sample(sample)
        self.page.get_by_role("radio", name="Report").click()
        expect(self.report().get_by_role("heading", name=sample)).to_be_visible()

    def saved(self, kind: str) -> Path:
        self.hand_in()
        with self.page.expect_download() as download:
            self.page.get_by_role("link", name=f"Report as {kind}").click()
        path: Path = download.value.path()
        return path

    def test_salinity_from_opening_to_a_pdf_with_the_unknown_and_its_limits_in_under_a_minute(self) -> None:
        begun = time.monotonic()
        self.open_report("Salinity probe, calibration")
        answer = self.account().get_by_role("listitem").filter(has_text="quay (rows 17 to 19)")
        said = answer.locator("strong").inner_text().rstrip(".")
        body = self.saved("PDF").read_bytes()
        self.assertLess(time.monotonic() - begun, 60)
        pages = PdfReader(io.BytesIO(body)).pages
        text = (
            " ".join(" ".join(page.extract_text().split()) for page in pages)
            .replace("\u202f", " ")
            .replace("\u00a0", " ")
        )
        self.assertIn(said.replace("\u202f", " ").replace("\u00a0", " "), text)
        self.assertIn("S = 27.08 g/kg (95 % CI 26.82 to 27.35)", text)

    def test_parts_and_paragraphs_are_arranged_by_keyboard_and_stay(self) -> None:
        self.open_report("A draining bucket")
        parts = self.page.get_by_role("list", name="Parts in their order").get_by_role("listitem")
        self.page.get_by_role("button", name="answers: earlier").press("Enter")
        expect(parts.nth(0)).to_contain_text("Answers")
        self.page.get_by_role("checkbox", name="Parameters", exact=True).press("Space")
        expect(self.report().get_by_role("heading", name="Parameters")).to_have_count(0)
        self.page.get_by_role("button", name="Paragraph of your own").press("Enter")
        self.page.get_by_label("Heading of the paragraph").fill("What we did")
        self.page.keyboard.press("Enter")
        text = self.page.get_by_label("Text of the paragraph")
        text.fill("<b>A hole</b> of **3 mm**, $v = \\sqrt{2 g h}$.")
        text.press("Enter")
        author = self.page.get_by_label("Author line")
        author.fill("Group 3")
        author.press("Enter")
        expect(self.report().get_by_role("heading", name="What we did")).to_be_visible()
        expect(self.report().get_by_text("<b>A hole</b> of 3 mm")).to_be_visible()
        expect(self.report().locator("strong", has_text="3 mm")).to_be_visible()
        expect(self.report().locator("p math msqrt")).to_have_count(1)
        expect(self.report().get_by_text("Group 3")).to_be_visible()
        self.expect_saved()
        self.page.reload()
        self.page.get_by_role("radio", name="Report").click()
        expect(self.page.get_by_label("Heading of the paragraph")).to_have_value("What we did")
        expect(self.page.get_by_role("checkbox", name="Parameters", exact=True)).not_to_be_checked()
        for kind, begins in (("HTML", b"<!doctype"), ("DOCX", b"PK")):
            self.assertTrue(self.saved(kind).read_bytes().startswith(begins))
        self.page.get_by_role("button", name="Remove the paragraph What we did").click()
        expect(self.report().get_by_role("heading", name="What we did")).to_have_count(0)
        self.page.get_by_role("button", name="Undo").click()
        expect(self.report().get_by_role("heading", name="What we did")).to_be_visible()

    def test_what_takes_long_is_broken_off_and_what_fails_says_why(self) -> None:
        self.open_report("Stretch of the mooring line")
        self.hand_in()
        held: list[Route] = []
        self.page.route("**/report.pdf?*", lambda route: held.append(route))
        pdf = self.page.get_by_role("link", name="Report as PDF")
        pdf.click()
        expect(self.page.get_by_role("status").filter(has_text="preparing")).to_be_visible()
        self.page.get_by_role("button", name="Cancel").click()
        expect(self.page.get_by_role("button", name="Cancel")).to_have_count(0)
        self.page.unroute("**/report.pdf?*")
        self.expected_problem = "400"
        refusal = '{"message": "PDF needs the library Pango on the server."}'
        self.page.route(
            "**/report.pdf?*", lambda route: route.fulfill(status=400, body=refusal, content_type="application/json")
        )
        pdf.click()
        expect(self.page.get_by_role("alert").filter(has_text="needs the library Pango")).to_be_visible()

    def test_everything_goes_out_from_one_place(self) -> None:
        self.open_sample("Lantern on the quay")
        self.hand_in()
        place = self.page.get_by_role("dialog", name="Hand in")
        for name in ("PDF", "HTML", "DOCX", "Export the figure", "CSV", "XLSX", "ODS", "Python script", "Study file"):
            expect(place.get_by_role("link", name=name)).to_be_visible()
        with self.page.expect_request("**/report.html?inline=true"):
            place.get_by_role("button", name="Print").click()
        expect(place).to_be_hidden()

    def test_parts_on_request_are_shown_when_they_are_wanted(self) -> None:
        self.open_report("Current over the harbour bed")
        for name, heading in (
            ("Equation with standard errors", "Equations with standard errors"),
            ("Correlations of parameters", "Correlations of the parameters"),
            ("Tests: t, p, F, χ²", "Tests"),
            ("Residual plot", "Residuals"),
        ):
            expect(self.report().get_by_role("heading", name=heading, exact=True)).to_have_count(0)
            self.page.get_by_role("checkbox", name=name).check()
            expect(self.report().get_by_role("heading", name=heading, exact=True)).to_be_visible()
        self.expect_saved()

    def test_the_page_that_goes_out_is_read_by_axe_and_fits_a_phone(self) -> None:
        self.open_report("A draining bucket")
        html = self.saved("HTML").read_text()
        page = self.page.context.new_page()
        for width in (1280, 390):
            page.set_viewport_size({"width": width, "height": 800})
            page.set_content(html)
            self.assertEqual(page.evaluate("document.documentElement.scrollWidth"), width)
            found = Axe().run(page).response["violations"]
            self.assertEqual([(one["id"], [node["html"][:80] for node in one["nodes"]]) for one in found], [])
        page.close()
