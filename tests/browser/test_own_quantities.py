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

    def test_known_values_and_a_simpler_unit(self) -> None:
        self.open_sample("Stretch of the mooring line")
        self.page.get_by_role("button", name="add a quantity that follows").click()
        self.page.get_by_label("Name", exact=True).fill("E")
        self.page.get_by_label("Formula", exact=True).fill("L_0/m")
        self.page.get_by_role("button", name="Known value", exact=True).press("Enter")
        for label, text in (("Symbol", "L_0"), ("Value", "4.2"), ("Uncertainty", "±0.05"), ("Unit", "m")):
            self.page.get_by_label(f"{label} of known value 1").fill(text)
        self.page.keyboard.press("Enter")
        listed = self.page.get_by_role("list", name="What follows from fit A")
        expect(listed).to_contain_text(re.compile(r"11.690 ± 180.N"))
        expect(listed.get_by_role("row", name="L_0")).to_contain_text("%")

    def test_a_result_of_another_study(self) -> None:
        self.open_sample("Stretch of the mooring line")
        expect(self.page.get_by_role("list", name="What follows from fit A")).to_contain_text("stiffness")
        self.open_sample("Tide at the pontoon")
        self.page.get_by_role("button", name="add a quantity that follows").click()
        self.page.get_by_label("Name", exact=True).fill("q")
        self.page.get_by_role("button", name="From another study").click()
        self.page.get_by_label("Study to take a result from").select_option("Stretch of the mooring line")
        self.page.get_by_label("Result to take").select_option(index=3)
        expect(self.page.get_by_label("Symbol of known value 1")).to_have_value("stiffness")
        expect(self.page.get_by_text("from Stretch of the mooring line: stiffness of A")).to_be_visible()
        self.page.get_by_label("Formula", exact=True).fill("2*stiffness")
        self.page.get_by_label("Formula", exact=True).press("Enter")
        expect(self.page.get_by_role("list", name="What follows from fit A")).to_contain_text("5.57 ± 0.07 N/mm")


class OtherUnits(BrowserCase):
    def test_an_answer_by_keyboard_and_back(self) -> None:
        self.open_sample("Stretch of the mooring line")
        answer = self.page.get_by_role("listitem").filter(has_text="At F = 620")
        expect(answer).to_contain_text("223 mm (95 % prediction interval 216 to 230)")
        answer.get_by_role("button", name=re.compile("More for the answer")).press("Enter")
        self.page.get_by_role("menuitem", name="Another unit").press("Enter")
        field = self.page.get_by_label(re.compile("Unit of the answer for F = 620"))
        expect(field).to_be_focused()
        field.fill("km")
        self.page.keyboard.press("Escape")
        expect(field).to_have_count(0)
        expect(answer).to_contain_text("223 mm (95 % prediction interval 216 to 230)")
        expect(self.page.get_by_role("button", name="Undo")).to_be_disabled()
        answer.get_by_role("button", name=re.compile("More for the answer")).press("Enter")
        self.page.get_by_role("menuitem", name="Another unit").press("Enter")
        field.fill("cm")
        self.page.keyboard.press("Enter")
        expect(answer).to_contain_text("22.3 cm (95 % prediction interval 21.6 to 23.0)")
        # On the plot it stands where it stood, in the unit of the axis.
        expect(self.page.locator("svg").get_by_text("223 mm").first).to_be_visible()
        self.page.reload()
        expect(answer).to_contain_text("22.3 cm (95 % prediction interval 21.6 to 23.0)")
        self.page.get_by_role("button", name="Undo").click()
        expect(answer).to_contain_text("223 mm (95 % prediction interval 216 to 230)")


class SharedByAll(BrowserCase):
    def test_a_zero_that_all_readings_share(self) -> None:
        self.open_sample("Salinity probe, calibration")
        column = self.page.get_by_role("button", name=re.compile("^Column .*, y: change"))
        column.click()
        self.page.get_by_label("Uncertainty", exact=True).fill("3 shared")
        expect(self.page.get_by_text("it weighs none of them, and goes into parameters and answers")).to_be_visible()
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_text("All readings share a part of their uncertainty")).to_be_visible()


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
