"""A quantity of one's own on the page: added, held against an accepted value, changed, refused in words, removed, by keyboard."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, expect

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


class WhereNext(BrowserCase):
    def panel(self) -> Locator:
        return self.page.get_by_role("region", name="Where to measure next")

    def test_for_a_parameter_a_quantity_and_an_answer(self) -> None:
        self.open_sample("Stretch of the mooring line")
        strip = self.page.get_by_test_id("next-place")
        self.page.get_by_role("button", name=re.compile("^slope .*: fit or fix")).click()
        self.page.get_by_role("button", name="Where to measure next", exact=True).press("Enter")
        expect(self.panel()).to_contain_text("One more reading narrows m most at F = ")
        expect(strip).to_be_attached()
        self.page.get_by_label("Least x that can be measured").fill("0")
        expect(self.panel()).to_contain_text("Give both ends of where you can measure, or none.")
        expect(strip).to_have_count(0)
        self.page.get_by_label("Greatest x that can be measured").fill("700")
        expect(self.panel()).to_contain_text("at F = 700")
        self.page.get_by_label("Share of the uncertainty, in per cent").fill("20")
        self.page.keyboard.press("Enter")
        expect(self.panel()).to_contain_text("To 20 % of what it is now")
        self.page.get_by_role("button", name="add a quantity that follows").click()
        self.page.get_by_label("Name", exact=True).fill("k")
        self.page.get_by_label("Formula", exact=True).fill("1/m")
        self.page.keyboard.press("Enter")
        self.page.get_by_role("button", name="Where to measure next for k").click()
        expect(self.panel()).to_contain_text("narrows k most at F = 700")
        self.page.get_by_role("button", name=re.compile("More for the answer for F = 620")).click()
        self.page.get_by_role("menuitem", name="Where to measure next").click()
        expect(self.panel()).to_contain_text("narrows the answer for L most")
        self.page.get_by_role("button", name="Close where to measure next").click()
        expect(self.panel()).to_have_count(0)
        expect(strip).to_have_count(0)

    def test_to_tell_two_models_apart(self) -> None:
        self.open_sample("A draining bucket")
        self.choose_for("A", "Where a reading separates it from B")
        expect(self.panel()).to_contain_text("A and B differ most at t = ")
        expect(self.page.get_by_label("Share of the uncertainty, in per cent")).to_have_count(0)
