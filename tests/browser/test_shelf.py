"""The shelf: opening, renaming, duplicating, deleting with a way back."""

from __future__ import annotations

from playwright.sync_api import expect

from ridge.studies.content.samples import SAMPLES
from tests.browser.base import BrowserCase


class Shelf(BrowserCase):
    def menu(self, title: str, item: str) -> None:
        self.page.get_by_role("button", name=f"More for {title}", exact=True).click()
        self.page.get_by_role("menuitem", name=item).click()

    def test_a_new_visitor_is_shown_where_to_begin(self) -> None:
        self.open_shelf()
        expect(self.page.get_by_text("Nothing here yet")).to_be_visible()
        expect(self.page.get_by_role("button", name="Open a copy of")).to_have_count(len(SAMPLES))

    def test_rename_duplicate_delete_and_take_back(self) -> None:
        self.open_sample("Salinity probe, calibration")
        self.page.get_by_role("link", name="back to the shelf").click()
        studies = self.page.get_by_role("list", name="Studies").get_by_role("listitem")
        expect(studies).to_have_count(1)
        expect(studies.first).to_contain_text("16 readings · ")
        expect(studies.first.get_by_role("math").locator("annotation")).to_have_text(r"U = 21.60\,S + 16.7")

        self.menu("Salinity probe, calibration", "Rename")
        self.page.get_by_label("Title of the study").fill("Probe 3")
        self.page.get_by_label("Title of the study").press("Enter")
        expect(self.page.get_by_role("link", name="Probe 3")).to_be_visible()

        self.menu("Probe 3", "Duplicate")
        expect(studies).to_have_count(2)
        self.menu("Probe 3", "Delete")
        expect(studies).to_have_count(1)
        self.page.get_by_role("button", name="Restore").click()
        expect(studies).to_have_count(2)

        self.menu("Probe 3 (copy)", "Delete")
        self.page.reload()
        self.page.get_by_text("Bin (1)").click()
        self.page.get_by_role("button", name="Take Probe 3 (copy) back").click()
        expect(studies).to_have_count(2)

        self.menu("Probe 3 (copy)", "Delete")
        self.page.reload()
        self.page.get_by_text("Bin (1)").click()
        self.page.get_by_role("button", name="Empty the bin").click()
        self.page.get_by_role("button", name="Keep", exact=True).click()
        expect(self.page.get_by_text("Bin (1)")).to_be_visible()
        self.page.get_by_role("button", name="Empty the bin").click()
        expect(self.page.get_by_role("alert")).to_contain_text("This study cannot be brought back")
        self.page.get_by_role("button", name="Delete for good").click()
        expect(self.page.get_by_text("Bin (1)")).to_have_count(0)
        expect(studies).to_have_count(1)

        self.page.get_by_role("link", name="Probe 3", exact=True).click()
        expect(self.curve()).to_be_visible()
        self.page.go_back()
        expect(studies).to_have_count(1)

    def test_addresses_that_lead_nowhere(self) -> None:
        self.expected_problem = "404"
        self.page.goto("/no/such/place")
        expect(self.page.get_by_text("There is nothing at this address")).to_be_visible()
        self.page.goto("/study/00000000-0000-4000-8000-000000000000")
        expect(self.page.get_by_role("alert")).to_contain_text("no such study on your shelf")
        self.page.get_by_role("button", name="Go to the shelf").click()
        expect(self.page.get_by_role("heading", name="Shelf")).to_be_visible()

    def test_another_visitor_does_not_see_it(self) -> None:
        self.open_sample("Salinity probe, calibration")
        address = self.page.url
        self.expected_problem = "404"
        other = self.new_context()
        page = self.new_page(other)
        page.goto(address)
        expect(page.get_by_role("alert")).to_contain_text("no such study")
        other.close()
