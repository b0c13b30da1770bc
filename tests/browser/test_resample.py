"""The Resample lens: draws that can be repeated, models on the same draws, and what they show."""

from __future__ import annotations

from playwright.sync_api import Locator, expect

from tests.browser.base import BrowserCase


class ResampleLens(BrowserCase):
    def lens(self) -> Locator:
        tab = self.page.get_by_role("radio", name="Resample")
        tab.focus()
        self.page.keyboard.press("Enter")
        region = self.page.get_by_role("region", name="Fits to subsets of the readings")
        expect(region.get_by_role("group", name="What the subsets show")).to_be_visible()
        return region

    def curves(self, lens: Locator) -> list[str | None]:
        return [path.get_attribute("d") for path in lens.get_by_test_id("draw-curve").all()]

    def test_drawn_again_and_repeated_by_its_seed(self) -> None:
        self.open_sample("Sheer line of the rowing boat")
        lens = self.lens()
        expect(lens.get_by_role("list", name="Subsets").get_by_role("listitem")).to_have_count(9)
        first = lens.get_by_test_id("draw").first
        expect(first.locator("circle")).to_have_count(15)
        expect(first.locator("circle[data-left-out]")).to_have_count(7)
        before = self.curves(lens)
        lens.get_by_role("button", name="Draw again").click()
        expect(lens.get_by_label("Seed")).to_have_value("2")
        self.page.wait_for_function(
            "before => document.querySelector('[data-testid=draw-curve]').getAttribute('d') !== before", arg=before[0]
        )
        lens.get_by_label("Seed").fill("1")
        self.page.keyboard.press("Enter")
        self.page.wait_for_function(
            "before => document.querySelector('[data-testid=draw-curve]').getAttribute('d') === before", arg=before[0]
        )
        self.assertEqual(self.curves(lens), before)

    def test_two_models_on_the_same_draws_over_each_other_by_keyboard(self) -> None:
        self.open_sample("Sheer line of the rowing boat")
        lens = self.lens()
        second = lens.get_by_role("group", name="Models").get_by_role("checkbox").nth(1)
        second.focus()
        self.page.keyboard.press("Space")
        shown = lens.get_by_role("group", name="What the subsets show")
        expect(shown.get_by_role("row")).to_have_count(3)
        expect(shown.get_by_role("listitem")).to_have_count(2)
        expect(lens.get_by_test_id("draw-curve")).to_have_count(18)
        lens.get_by_label("all curves over each other").focus()
        self.page.keyboard.press("Space")
        expect(lens.get_by_test_id("draw")).to_have_count(1)
        expect(lens.get_by_test_id("draw-curve")).to_have_count(18)
        shown.get_by_role("button", name="Copy what the subsets show").click()
        self.page.get_by_role("menuitem", name="Copy as a table").click()
        copied = self.copied("What the subsets show").split("\n")
        self.assertEqual(
            copied[0].split("\t"),
            ["fit", "model", "parameters", "typical miss, all readings", "RMS error, held out"],
        )
        self.assertEqual([line.split("\t")[0] for line in copied[1:3]], ["A", "B"])

    def test_parts_and_one_at_a_time(self) -> None:
        self.open_sample("A draining bucket")
        lens = self.lens()
        how = lens.get_by_label("How readings are held out")
        how.select_option("parts")
        expect(lens.get_by_test_id("draw")).to_have_count(5)
        lens.get_by_label("Number of folds").fill("99")
        expect(lens.get_by_role("alert")).to_have_text("2 to 25")
        self.page.keyboard.press("Enter")
        expect(lens.get_by_label("Number of folds")).to_have_value("5")
        how.select_option("in_turn")
        draws = lens.get_by_test_id("draw")
        expect(draws).to_have_count(15)
        for place in (0, 14):
            expect(draws.nth(place).locator("circle[data-left-out]")).to_have_count(1)

    def test_without_a_fit_and_with_an_edit_behind(self) -> None:
        self.open_new()
        self.page.get_by_role("radio", name="Resample").click()
        expect(self.page.get_by_text("There is nothing to refit.")).to_be_visible()
        self.fill("1\t2\n2\t3\n3\t5\n4\t4")
        expect(self.page.get_by_role("group", name="What the subsets show")).to_be_visible()
