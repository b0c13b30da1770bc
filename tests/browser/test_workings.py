"""The Workings lens: followed by mouse and by keyboard, in both forms, before and after a fit, and taken into the report."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, expect

from tests.browser.base import BrowserCase


class Workings(BrowserCase):
    def open_lens(self, sample: str) -> None:
        self.open_sample(sample)
        self.page.get_by_role("radio", name="Workings").click()
        expect(self.step("general-form")).to_be_visible()

    def step(self, name: str) -> Locator:
        return self.page.locator(f"[data-step={name}]").first

    def follow(self, what: str) -> None:
        self.page.get_by_label("Working", exact=True).select_option(what)

    def test_sums_in_both_forms(self) -> None:
        self.open_lens("Salinity probe, calibration")
        expect(self.step("table").get_by_role("table")).to_be_visible()
        expect(self.step("sums")).to_contain_text("280")
        expect(self.step("coefficients")).to_contain_text("401")
        self.page.get_by_role("radio", name="Decimals").click()
        expect(self.step("coefficients").locator(".katex-mathml").first).to_contain_text("21.5988")
        self.page.get_by_label("Decimal places").fill("2")
        self.page.keyboard.press("Enter")
        expect(self.step("coefficients").locator(".katex-mathml").first).to_contain_text("21.60")
        expect(self.page.get_by_text("agrees").last).to_be_visible()
        expect(self.page.get_by_text("differs")).to_have_count(0)

    def test_a_number_lights_up_where_it_came_from_and_where_it_goes(self) -> None:
        self.open_lens("Salinity probe, calibration")
        self.follow("least-squares")
        cell = self.step("normal-matrix").locator("tbody td.text-right").nth(1)
        cell.hover()
        expect(cell).to_have_class(re.compile("outline-pine"))
        came = self.step("design-matrix").locator("tbody td.bg-tint")
        self.assertEqual(came.count(), 2 * self.step("design-matrix").locator("tbody tr th").count())
        goes = self.step("augmented").locator("tbody td[class*='bg-lichen']")
        expect(goes).to_have_count(1)
        self.step("design-matrix").locator("tbody tr").nth(2).locator("td.text-right").first.hover()
        expect(self.page.get_by_role("grid").locator("[aria-rowindex='4']")).to_have_class(re.compile("bg-lichen"))
        # By keyboard too: the matrix is a stop, arrows go from number to number.
        self.step("transpose").get_by_role("region").focus()
        self.page.keyboard.press("ArrowRight")
        self.page.keyboard.press("ArrowDown")
        expect(self.step("transpose").locator("td[class*='outline-pine']")).to_have_count(1)
        expect(self.step("design-matrix").locator("tbody td.bg-tint")).to_have_count(1)

    def test_each_number_of_an_equation_by_mouse_and_by_keyboard(self) -> None:
        self.open_lens("Salinity probe, calibration")
        sums, slope = self.step("sums").locator("[data-number]"), self.step("slope").locator("[data-number]")
        expect(slope.first).to_be_attached()
        with self.page.expect_response(re.compile("/working.*form=decimal")):
            self.page.get_by_role("radio", name="Decimals").click()
        expect(self.step("slope")).to_contain_text("≈21.5988")
        slope.nth(1).hover()
        expect(slope.nth(1)).to_have_attribute("data-lit", "at")
        lit = self.step("sums").locator("[data-lit=from]")
        expect(lit).to_have_count(1)
        self.assertEqual(lit.inner_text(), slope.nth(1).inner_text())
        # A sum comes from the foot of its column and goes to every equation that uses it, there to that number alone.
        sums.nth(1).hover()
        foot = self.step("table").locator("tfoot td.bg-tint")
        expect(foot).to_have_count(1)
        self.assertEqual(
            foot.inner_text().replace("\u202f", ""), sums.nth(1).inner_text().replace("\u202f", "").replace("\n", "")
        )
        for step in ("slope", "intercept", "mean-x"):
            expect(self.step(step).locator("[data-lit=to]")).not_to_have_count(0)
        # By keyboard, the mouse being left where it is: what the page scrolls under it is not pointed at.
        self.step("slope").get_by_role("list").focus()
        self.page.keyboard.press("ArrowRight")
        expect(self.step("slope").locator("[data-lit=at]").first).to_be_visible()
        self.page.mouse.wheel(0, 40)
        expect(self.page.get_by_text(re.compile(r", from Σ"))).to_be_attached()
        self.page.keyboard.press("Tab")
        expect(self.page.locator("[data-lit=at]")).to_have_count(0)

    def test_the_reading_of_a_number_lies_on_the_plot(self) -> None:
        self.open_lens("Stretch of the mooring line")
        self.step("table").locator("tbody tr").nth(2).locator("td.text-right").first.hover()
        expect(self.page.get_by_role("img", name="The readings, number 3 lit")).to_be_visible()
        dot = self.page.locator("circle[data-source]")
        expect(dot).to_have_attribute("data-over", "3")
        # And from the plot to the table: a press on a reading chooses it everywhere.
        self.page.locator("circle[data-row='5']").click()
        expect(self.page.get_by_role("grid").locator("[aria-rowindex='6']")).to_have_class(re.compile("bg-tint"))

    def test_a_reading_is_chosen_from_its_row(self) -> None:
        self.open_lens("Salinity probe, calibration")
        self.step("table").get_by_role("button", name="Select reading 5", exact=True).click()
        self.page.get_by_role("radio", name="Plot").click()
        expect(self.page.get_by_test_id("chosen")).to_contain_text("Row 5")

    def test_row_operations_one_by_one_and_all_at_once(self) -> None:
        self.open_lens("Salinity probe, calibration")
        self.follow("least-squares")
        group = self.page.get_by_role("listitem").filter(has_text="Row operations")
        expect(self.page.locator("[data-step=operation]")).to_have_count(0)
        group.get_by_role("button", name="Show next").click()
        expect(self.page.locator("[data-step=operation]")).to_have_count(1)
        group.get_by_role("button", name="Show all").click()
        self.assertGreater(self.page.locator("[data-step=operation]").count(), 2)
        group.get_by_role("button", name="Hide").click()
        expect(self.page.locator("[data-step=operation]")).to_have_count(0)

    def test_before_a_fit_step_by_step_with_the_keyboard_alone(self) -> None:
        self.open_shelf()
        self.page.get_by_role("button", name="New study", exact=True).click()
        self.page.get_by_role("gridcell").first.click()
        for text in ("1", "2", "2", "3", "2", "5", "4", "4"):
            self.page.keyboard.type(text)
            self.page.keyboard.press("Tab")
        self.page.keyboard.press("Escape")
        self.page.keyboard.press("Alt+5")
        chooser = self.page.get_by_label("What to follow")
        expect(chooser).to_be_visible()
        chooser.focus()
        chooser.select_option(label="quadratic")
        self.page.get_by_role("radio", name="Step by step").focus()
        self.page.keyboard.press("Space")
        steps = self.page.locator("[data-step]")
        expect(steps).to_have_count(1)
        for _ in range(4):
            self.page.keyboard.press("n")
        expect(self.step("clash")).to_contain_text("Rows 2 and 3")
        for _ in range(30):
            self.page.keyboard.press("n")
        expect(self.step("what-the-curve-does")).to_contain_text(
            "passes through rows 1 and 4 and halves the gap between 2 and 3"
        )
        expect(self.page.get_by_role("button", name="Next line")).to_have_count(0)

    def test_an_answer_that_gets_lost_does_not_cover_the_lines_again(self) -> None:
        self.open_lens("Salinity probe, calibration")
        self.page.get_by_role("radio", name="Step by step").click()
        for _ in range(4):
            self.page.get_by_role("button", name="Next line").click()
        steps = self.page.locator("[data-step]")
        before = steps.count()
        self.assertGreater(before, 1)
        self.expected_problem = "500 (Internal Server Error)"
        self.page.route("**/working?**", lambda route: route.fulfill(status=500, body=""), times=1)
        self.page.get_by_role("radio", name="Decimals").click()
        expect(steps).to_have_count(0)
        self.page.get_by_role("radio", name="Fractions").click()
        expect(steps).to_have_count(before)

    def test_an_interval_an_answer_and_what_is_typed_wrongly(self) -> None:
        self.open_lens("Stretch of the mooring line")
        self.follow("interval-at")
        expect(self.page.get_by_text("Type the F at which the interval is wanted.")).to_be_visible()
        at = self.page.get_by_label("F of the working")
        at.fill("two")
        at.press("Enter")
        expect(self.page.get_by_text("is not a number")).to_be_visible()
        at.fill("300")
        at.press("Enter")
        expect(self.step("mean-interval")).to_be_visible()
        chooser = self.page.get_by_label("What to follow")
        options = chooser.locator("optgroup[label=Answers] option").all_text_contents()
        self.assertTrue(options)
        chooser.select_option(label=options[-1])
        expect(self.page.get_by_role("heading", name="Solving for x")).to_be_visible()
        # The page leads there too.
        self.page.get_by_role("radio", name="Plot").click()
        self.page.get_by_role("button", name=re.compile("^More for the answer")).first.click()
        self.page.get_by_role("menuitem", name="Show the workings").click()
        expect(self.page.get_by_role("heading", name="Interval at an x")).to_be_visible()
        self.choose_for("A", "Show the workings")
        expect(self.page.get_by_role("heading", name="Line by sums")).to_be_visible()

    def test_attempts_by_hand_can_be_taken_up_again(self) -> None:
        self.open_sample("A can of soup in a breezy galley")
        self.choose_for("A", "Set by hand")
        handle = self.page.get_by_role("slider").first
        for _ in range(3):
            value = handle.get_attribute("aria-valuenow")
            handle.focus()
            self.page.keyboard.press("ArrowRight")
            expect(handle).not_to_have_attribute("aria-valuenow", value or "")
            self.page.keyboard.press("Tab")
            self.page.wait_for_timeout(700)
        self.page.get_by_role("radio", name="Workings").click()
        log = self.step("attempts")
        expect(log).to_be_visible()
        rows = log.locator("tbody tr")
        before = rows.count()
        first = rows.first.locator("td.text-right").first.text_content() or ""
        log.get_by_role("button", name="Take attempt 1 up again").click()
        expect(log.locator("tbody tr").last.locator("td.text-right").first).to_have_text(first)
        self.assertGreater(before, 1)
        self.follow("least-squares-path")
        expect(self.page.get_by_role("img", name=re.compile("curves of the path"))).to_be_visible()
        expect(self.page.get_by_role("img", name=re.compile("RSS falls from"))).to_be_visible()

    def test_copied_and_in_the_report(self) -> None:
        self.open_lens("Salinity probe, calibration")
        self.page.get_by_role("button", name="Copy the working").click()
        self.page.get_by_role("menuitem", name="Copy as LaTeX").click()
        self.assertIn(r"\begin{array}", self.copied("Working as LaTeX"))
        self.step("slope").hover()
        self.step("slope").get_by_role("button", name=re.compile("^Copy this step")).click()
        self.page.get_by_role("menuitem", name="Copy as MathML").click()
        self.assertIn("<mfrac>", self.copied("Step as MathML"))
        self.page.get_by_role("button", name="Add to the report").click()
        expect(self.page.get_by_role("button", name="In the report")).to_be_disabled()
        self.page.get_by_role("radio", name="Report").click()
        frame = self.page.frame_locator("iframe").first
        expect(frame.get_by_role("heading", name=re.compile("Line by sums"))).to_be_attached()
        self.page.get_by_role("button", name=re.compile("Remove the working")).click()
        expect(frame.get_by_role("heading", name=re.compile("Line by sums"))).to_have_count(0)
