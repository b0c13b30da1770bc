"""Choosing models on the page, several at once, and seeing them on the plot."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from ridge.studies.analysis.catalogue import CANDIDATES
from tests.browser.base import BrowserCase


class ModelCase(BrowserCase):
    def model(self, letter: str):  # type: ignore[no-untyped-def]
        return self.account().get_by_role("region", name=f"Model {letter}")


class Choosing(ModelCase):
    def test_a_newcomer_finds_the_exponential_with_level(self) -> None:
        self.open_sample("A can of soup in a breezy galley")
        expect(self.model("A")).to_contain_text("in a pattern unlikely by chance: see the caution")
        choice = self.page.get_by_label("Model of fit A")
        choice.focus()
        choice.select_option("exponential-level")
        expect(self.model("A")).to_contain_text("17.39 ± 0.22")
        expect(self.model("A")).to_contain_text("half-life")
        expect(self.model("A")).to_contain_text("no significant pattern")
        expect(self.account()).to_contain_text("95\u00a0% CI")
        self.page.keyboard.press("Control+z")
        self.page.locator("h1").first.click()
        self.page.keyboard.press("Control+z")
        expect(choice).to_have_value("exponential")

    def test_all_models_over_these_readings_by_keyboard(self) -> None:
        self.open_sample("A can of soup in a breezy galley")
        self.page.get_by_role("button", name="All models for fit A").press("Enter")
        dialog = self.page.get_by_role("dialog", name="A model for fit A")
        expect(dialog).to_contain_text("The exponential with level is the best of these by AICc")
        expect(dialog.get_by_role("list", name="Interpolations").get_by_role("listitem")).to_have_count(4)
        holding = dialog.get_by_role("list", name="These hold").get_by_role("listitem")
        others = dialog.get_by_role("list", name="These do less well").get_by_role("listitem")
        not_for_these = dialog.get_by_role("list", name="Not for these readings").get_by_role("listitem")
        expect(holding.first).to_contain_text("exponential with level")
        expect(holding.first).to_contain_text("the lowest AICc")
        self.assertEqual(holding.count() + others.count() + not_for_these.count(), len(CANDIDATES))
        expect(not_for_these.get_by_role("button", name=re.compile("^logarithmic: ln"))).to_be_visible()
        holding.first.get_by_role("button").press("Enter")
        expect(dialog).to_be_hidden()
        expect(self.model("A")).to_contain_text("17.39 ± 0.22")
        self.add_model("All models")
        self.page.get_by_role("dialog").get_by_role("button", name=re.compile("^quartic")).click()
        expect(self.curve()).to_have_count(2)

    def test_in_logarithms_is_said_and_switched(self) -> None:
        self.open_sample("A can of soup in a breezy galley")
        self.page.get_by_label("Least squares").select_option("logarithms")
        expect(self.model("A")).to_contain_text("Least squares in logarithms")
        self.page.get_by_label("Least squares").select_option("y")
        expect(self.model("A")).to_contain_text("Least squares in T on")

    def test_a_second_model_led_with_and_removed(self) -> None:
        self.open_sample("Stretch of the mooring line")
        self.add_model()
        expect(self.curve()).to_have_count(2)
        expect(self.page.locator("[data-fit=B] [data-testid=curve]")).to_have_attribute(
            "stroke-dasharray", re.compile(".")
        )
        expect(self.page.get_by_test_id("label-B")).to_be_visible()
        self.page.get_by_role("button", name="Make B the leading fit").click()
        expect(self.page.get_by_role("columnheader").filter(has_text="resid. B")).to_be_visible()
        self.choose_for("B", "Remove")
        expect(self.curve()).to_have_count(1)
        self.page.get_by_role("button", name="More for fit A").click()
        expect(self.page.get_by_role("menuitem", name="Remove")).to_have_count(0)

    def test_any_parameter_is_fixed_in_place(self) -> None:
        self.open_sample("A draining bucket")
        self.model("A").get_by_role("button", name=re.compile("^c_1 .*fit or fix")).click()
        field = self.page.get_by_role("dialog").get_by_label("Fix c_1 at")
        field.fill("-0.4")
        self.page.keyboard.press("Enter")
        expect(self.model("A")).to_contain_text("fixed at")
        self.model("A").get_by_role("button", name=re.compile("^c_1 .*fit or fix")).click()
        self.page.get_by_role("button", name="Fit again").click()
        expect(self.model("A")).not_to_contain_text("fixed at")

    def test_an_own_formula_with_its_mistake_marked(self) -> None:
        self.open_sample("A draining bucket")
        self.page.get_by_label("Model of fit A").select_option("formula")
        field = self.page.get_by_label("Formula of fit A")
        field.fill("(a - b*t)^2)")
        field.press("Enter")
        expect(self.model("A").locator("mark")).to_have_text(")")
        field.fill("(a - b*t)^2")
        field.press("Enter")
        expect(self.model("A")).to_contain_text("typical miss 0.101 cm")

    def test_a_reading_without_a_value_is_set_aside_with_one_press(self) -> None:
        self.open_new()
        self.fill("0\t1\n1\t2\n2\t2.8\n3\t3.1\n4\t3.5")
        self.page.get_by_label("Model of fit A").select_option("logarithmic")
        expect(self.model("A")).to_contain_text("row 1")
        self.page.get_by_role("button", name="Set row 1 aside").click()
        expect(self.curve()).to_be_attached()
        expect(self.marks("aside")).to_have_count(1)


class Remedies(ModelCase):
    def test_the_better_model_is_one_press_and_one_undo(self) -> None:
        self.open_sample("A can of soup in a breezy galley")
        offer = self.model("A").get_by_role("button", name="Use exponential with level: typical miss 0.34")
        offer.click()
        expect(self.model("A")).to_contain_text("with no significant pattern")
        expect(self.model("A").get_by_label("Caution")).to_have_count(0)
        self.page.get_by_role("button", name="Undo").click()
        expect(offer).to_be_visible()

    def test_the_curve_without_a_reading_that_is_cautioned(self) -> None:
        self.open_sample("Lantern on the quay")
        self.model("A").get_by_role("button", name="without row 10").focus()
        expect(self.model("A")).to_contain_text("Without row 10 the curve moves by up to")
        expect(self.page.get_by_test_id("ghost-without")).to_be_attached()

    def test_a_constant_where_nothing_else_holds(self) -> None:
        self.open_sample("Tide at the pontoon")
        self.page.get_by_label("Model of fit A").select_option("line")
        expect(self.model("A")).to_contain_text("is better than a constant")
        self.page.get_by_label("Model of fit A").select_option("constant")
        expect(self.model("A")).to_contain_text("The constant is the mean of h and typically misses a reading by 1.4")

    def test_limits_of_sense_end_the_curve(self) -> None:
        self.open_sample("A draining bucket")
        self.page.get_by_role("button", name="Column level").click()
        form = self.page.get_by_role("dialog")
        form.get_by_label("from", exact=True).fill("5")
        form.get_by_label("because").fill("the tap is there")
        form.get_by_role("button", name="Apply").click()
        expect(self.model("A")).to_contain_text("h is at least 5 cm (the tap is there)")
        expect(
            self.page.get_by_text("but h is at least 5 cm (the tap is there): the model does not hold there").first
        ).to_be_visible()
