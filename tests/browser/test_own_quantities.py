"""A quantity of one's own on the page: added, held against an accepted value, changed, refused in words, removed, by keyboard."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.browser.base import BrowserCase


class OwnQuantities(BrowserCase):
    def add(self, **fields: str) -> None:
        self.page.get_by_role("button", name="add a quantity that follows").press("Enter")
        for label, text in fields.items():
            self.page.get_by_label(
                {
                    "name": "Name",
                    "formula": "Formula",
                    "accepted": "Accepted value, if any",
                    "error": "its standard uncertainty",
                }[label],
                exact=True,
            ).fill(text)
        self.page.keyboard.press("Enter")

    def test_added_changed_and_removed(self) -> None:
        self.open_sample("Salinity probe, calibration")
        self.add(name="S of 100 mV", formula="(100 - c)/m", accepted="4", error="0.1")
        listed = self.page.get_by_role("list", name="What follows from fit A")
        expect(listed).to_contain_text("S of 100 mV = (100 - c)/m")
        expect(listed).to_contain_text("3.8")
        expect(listed).to_contain_text("standard uncertainties")
        expect(listed.get_by_role("table")).to_contain_text("%")
        self.page.get_by_role("button", name="Change S of 100 mV").press("Enter")
        self.page.get_by_label("Formula", exact=True).fill("(100 - c)/q")
        self.page.keyboard.press("Enter")
        expect(listed).to_contain_text("q: stands for nothing here")
        self.page.get_by_role("button", name="Undo").click()
        expect(listed).to_contain_text("3.8")
        self.page.reload()
        expect(listed).to_contain_text("3.8")
        self.page.get_by_role("button", name="Remove S of 100 mV").press("Enter")
        expect(listed).to_have_count(0)
        self.page.get_by_role("button", name="add a quantity that follows").press("Enter")
        self.page.keyboard.press("Escape")
        expect(self.page.get_by_role("button", name="add a quantity that follows")).to_be_visible()
