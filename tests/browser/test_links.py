"""A study shown by a link: made, looked at elsewhere, commented, copied, withdrawn."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from tests.browser.test_access import Screens

TITLE = "Salinity probe, calibration"


class Showing(Screens):
    def make_link(self, called: str) -> str:
        self.page.get_by_role("button", name="Hand in").click()
        form = self.page.get_by_role("form", name="New link")
        form.get_by_label("For").fill(called)
        form.get_by_role("button", name="Make a link").click()
        return self.page.get_by_label("Address of the link").input_value()

    def look(self, address: str) -> Page:
        other = self.new_page(self.new_context())
        other.goto(address)
        expect(other.get_by_test_id("curve").first).to_be_attached()
        return other


class Shown(Showing):
    def test_looked_at_commented_and_withdrawn(self) -> None:
        self.expected_problem = "404"
        self.open_sample(TITLE)
        address = self.make_link("Ms Tarn")
        self.assertRegex(address, r"/look/[\w-]{32}$")
        self.check("making a link")
        self.page.keyboard.press("Escape")
        other = self.look(address)
        for name in ("Undo", "Redo", "History", "Add a model", "Paste", "Keep", "Move a reading", "Add readings"):
            expect(other.get_by_role("button", name=name, exact=True)).to_have_count(0)
            expect(other.get_by_role("radio", name=name, exact=True)).to_have_count(0)
        expect(other.get_by_role("textbox", name="Title")).to_have_count(0)

        # Nothing is typed, moved or undone: neither by mouse nor by keyboard.
        cell = other.get_by_role("grid", name="Readings").locator('[aria-rowindex="2"] [role=gridcell]').nth(2)
        before = cell.inner_text()
        cell.click()
        other.keyboard.type("99")
        other.keyboard.press("Enter")
        other.keyboard.press("Control+z")
        other.keyboard.press("Delete")
        other.evaluate("text => navigator.clipboard.writeText(text)", "1\t2\n3\t4")
        other.get_by_role("heading", name=TITLE).first.click()
        other.keyboard.press("Control+v")
        expect(other.get_by_role("alert")).to_contain_text("nothing can be changed here")
        other.reload()
        expect(other.get_by_test_id("curve").first).to_be_attached()
        expect(cell).to_have_text(before)

        # Asking, lenses and files are there.
        other.get_by_label("What to predict").select_option(label="U when S =")
        other.get_by_role("form", name="Ask").get_by_role("textbox").first.fill("12")
        expect(other.get_by_test_id("asked")).to_contain_text(" = ")
        for lens in ("Residuals", "Compare", "Resample", "Workings", "Report", "Plot"):
            other.get_by_role("radio", name=lens, exact=True).click()
            expect(other.get_by_role("region", name=lens, exact=True).first).to_be_visible()
        other.get_by_role("button", name="Save").click()
        expect(other.get_by_role("form", name="New link")).to_have_count(0)
        with other.expect_download() as saved:
            other.get_by_role("link", name="Report as HTML").click()
        self.assertTrue(saved.value.suggested_filename.endswith(".html"))
        other.keyboard.press("Escape")

        # What its owner changes is seen.
        self.cell(1, 1).click()
        self.page.keyboard.type("0.5")
        self.page.keyboard.press("Enter")
        self.expect_saved()
        expect(other.get_by_role("grid", name="Readings").locator('[aria-rowindex="2"]')).to_contain_text("0.5")

        self.comments(other)

        self.page.get_by_role("button", name="Hand in").click()
        expect(self.page.get_by_role("list", name="Links of this study")).to_contain_text("opened 3 times")
        self.page.get_by_role("button", name="Withdraw the link Ms Tarn").click()
        expect(self.page.get_by_role("list", name="Links of this study")).to_have_count(0)
        expect(other.get_by_role("alert")).to_contain_text("does not hold any more")
        other.reload()
        expect(other.get_by_role("heading", name="Nothing is shown by this link")).to_be_visible()
        other.context.close()

    def comments(self, other: Page) -> None:
        """Left beside a parameter, an answer and a reading, answered and cleared."""
        other.get_by_role("button", name="Comment on slope of fit A").click()
        other.get_by_role("textbox", name="Comment", exact=True).fill("Is the offset <b>in</b> here? Δt")
        other.get_by_label("From").fill("Ms Tarn")
        other.get_by_role("button", name="Leave the comment").click()
        expect(other.get_by_role("group", name="Comment")).to_contain_text("Is the offset <b>in</b> here? Δt")
        other.get_by_role("grid", name="Readings").locator('[aria-rowindex="4"] [role=gridcell]').nth(1).click()
        other.get_by_role("button", name="Comment on Row 3").click()
        expect(other.get_by_label("From")).to_have_value("Ms Tarn")
        other.get_by_role("textbox", name="Comment", exact=True).fill("Read twice?")
        other.get_by_role("button", name="Leave the comment").click()
        expect(other.get_by_role("group", name="Comment").filter(has_text="Read twice?").first).to_be_visible()
        page, self.page = self.page, other
        self.check("looking, with comments")
        self.page = page

        self.page.reload()
        mine = self.page.get_by_role("group", name="Comment").filter(has_text="Is the offset")
        mine.get_by_role("button", name="Answer this comment").click()
        self.page.get_by_role("textbox", name="Answer", exact=True).fill("Yes, c is the offset.")
        self.page.get_by_role("button", name="Answer", exact=True).click()
        expect(mine).to_contain_text("Yes, c is the offset.")
        self.check("comments of others")
        rest = self.page.get_by_role("group", name="Comment").filter(has_text="Read twice?")
        rest.get_by_role("button", name="Clear this comment").click()
        expect(rest).to_have_count(0)
        other.reload()
        expect(other.get_by_role("group", name="Comment")).to_contain_text("Yes, c is the offset.")

    def test_a_copy_of_ones_own(self) -> None:
        self.open_sample(TITLE)
        other = self.look(self.make_link(""))
        other.get_by_role("button", name="Take a copy").click()
        expect(other).to_have_url(re.compile("/study/"))
        expect(other.get_by_role("button", name="Add a model")).to_be_visible()
        self.assertNotEqual(other.url, self.page.url)
        other.goto("/")
        expect(other.get_by_role("link", name=TITLE)).to_be_visible()
        other.context.close()


class ShownOnAPhone(Showing):
    width, height = 390, 844

    def test_looked_at(self) -> None:
        self.open_sample(TITLE)
        address = self.make_link("Ms Tarn")
        self.check("making a link on a phone")
        self.page.keyboard.press("Escape")
        self.page.goto(address)
        expect(self.page.get_by_role("button", name="Take a copy")).to_be_visible()
        for name in ("Readings", "Page", "Plot"):
            self.panel(name)
            self.check(f"looking on a phone, {name}")
