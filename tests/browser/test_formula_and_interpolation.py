"""The formula editor, curves through every reading, and what is done with a fit as a whole."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, expect

from tests.browser.base import BrowserCase


class Formula(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.open_sample("A can of soup in a breezy galley")
        self.add_model("Own formula")
        self.field = self.page.get_by_role("combobox", name="Formula of fit B")
        self.field.focus()

    def model(self, letter: str = "B") -> Locator:
        return self.account().get_by_role("region", name=f"Model {letter}")

    def test_typeset_completed_and_fitted_by_keyboard(self) -> None:
        self.page.keyboard.type("T_0 + d*ex")
        expect(self.page.get_by_role("option", name="exp", exact=True)).to_be_visible()
        self.page.keyboard.press("Tab")
        expect(self.field).to_have_value("T_0 + d*exp(")
        expect(self.model()).to_contain_text("bracket")
        self.page.keyboard.type("-q*t)")
        expect(self.page.locator(".bg-well .katex")).to_be_visible()
        expect(self.model()).to_contain_text("To be found: T0dq")
        self.page.keyboard.type(" ")
        expect(self.page.locator(".bg-well .katex")).to_be_visible()
        self.page.keyboard.press("Enter")
        expect(self.model()).to_contain_text("typical miss 0.342")
        # The last fit that held stays in view, in grey, while a mistake is in the formula.
        self.field.fill("T_0 + d*exp(-q*t")
        self.field.press("Enter")
        expect(self.model()).to_contain_text("In grey, as it was before: own formula")
        expect(self.page.get_by_test_id("ghost-old-B")).to_be_attached()

    def test_a_mistake_is_marked_where_it_is(self) -> None:
        self.page.keyboard.type("a + (b*t))")
        expect(self.model().locator("mark")).to_have_text(")")
        expect(self.field).to_have_attribute("aria-invalid", "true")

    def test_checks_name_the_row(self) -> None:
        self.page.keyboard.type("a*ln(t) + b")
        expect(self.model()).to_contain_text("ln(t) has no value at row 1")
        self.page.keyboard.press("Enter")
        expect(self.model().get_by_role("list", name="What to check")).to_contain_text(
            "Are the readings what they should be?"
        )
        self.model().get_by_role("button", name="Set row 1 aside").click()
        expect(self.model()).to_contain_text("typical miss")

    def test_a_part_of_it(self) -> None:
        self.page.keyboard.type("c + a*exp(-k*t)")
        self.page.keyboard.press("Enter")
        expect(self.model()).to_contain_text("typical miss 0.342")
        self.model().get_by_role("button", name="Look at a part of it").click()
        self.page.get_by_label("Part of the formula").select_option("exp(-k*t)")
        expect(self.page.get_by_test_id("part-curve")).to_be_visible()
        values = self.page.get_by_role("region", name="Its value at each reading")
        expect(values.get_by_role("row").nth(1)).to_contain_text("1")

    def test_a_redundant_parameter_is_fixed_with_one_press(self) -> None:
        self.page.keyboard.type("c + a*b*exp(-k*t)")
        self.page.keyboard.press("Enter")
        self.model().get_by_role("button", name="Parameters and how well it fits").click()
        expect(self.model()).to_contain_text("have the same effect")
        self.model().get_by_role("button", name=re.compile("^Fix [ab] at")).click()
        expect(self.model()).to_contain_text("fixed at")
        expect(self.model()).not_to_contain_text("have the same effect")

    def test_a_known_curve_and_its_difference(self) -> None:
        self.page.keyboard.type("17 + 66*exp(-0.05*t)")
        expect(self.model()).to_contain_text("a known curve, nothing is fitted")
        self.page.keyboard.press("Enter")
        expect(self.model()).to_contain_text(re.compile("Over the measured range B lies typically .* from A"))
        expect(self.page.get_by_test_id("difference-B")).to_be_attached()


class Interpolation(BrowserCase):
    def test_kinds_ends_pieces_and_values_between(self) -> None:
        self.open_sample("Sheer line of the rowing boat")
        self.page.get_by_label("Model of fit A").select_option("cubic-spline")
        model = self.account().get_by_role("region", name="Model A")
        expect(model).to_contain_text("It has no R² and no residuals")
        expect(self.page.get_by_test_id("strip")).to_contain_text("no residuals")
        pieces = model.get_by_role("list", name="Pieces").get_by_role("listitem")
        expect(pieces).to_have_count(3)
        model.get_by_role("button", name="All pieces").press("Enter")
        self.assertGreater(pieces.count(), 5)
        model.get_by_label("Ends").select_option("clamped")
        slope = model.get_by_label("first slope")
        slope.fill("-0,5")
        slope.press("Enter")
        expect(model).to_contain_text("with given slopes at its ends")
        self.page.get_by_label("x, given").fill("1.2")
        expect(self.page.get_by_test_id("asked")).to_contain_text(" = ")
        self.page.get_by_label("Model of fit A").select_option("spline")
        model.get_by_label("Degree of the spline").select_option("5")
        expect(model).to_contain_text("Pieces of degree 5")

    def test_repeats_are_averaged_after_asking(self) -> None:
        self.open_new()
        self.fill("0\t1\n1\t2\n1\t4\n2\t3")
        self.page.get_by_label("Model of fit A").select_option("linear")
        model = self.account().get_by_role("region", name="Model A")
        expect(model).to_contain_text("occur more than once (rows 2, 3)")
        model.get_by_role("button", name="Average at each x").click()
        expect(model).to_contain_text("were replaced by their mean")
        model.get_by_label("Repeats").select_option("false")
        expect(model).to_contain_text("occur more than once")


class WholeFits(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.open_sample("A draining bucket")
        expect(self.curve()).to_have_count(2)

    def model(self, letter: str = "A") -> Locator:
        return self.account().get_by_role("region", name=f"Model {letter}")

    def test_hidden_named_duplicated_and_moved(self) -> None:
        self.choose_for("B", "Hide on the plot")
        expect(self.curve()).to_have_count(1)
        expect(self.model("B")).to_contain_text("not on the plot")
        self.choose_for("B", "Show on the plot")
        expect(self.curve()).to_have_count(2)
        self.choose_for("A", "Rename")
        self.page.keyboard.type("torricelli")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_label("Name of fit A")).to_have_value("torricelli")
        self.choose_for("A", "Duplicate")
        expect(self.page.get_by_label("Name of fit C")).to_have_value("torricelli (copy)")
        self.choose_for("A", "Move down")
        expect(self.page.get_by_role("columnheader").filter(has_text="resid. B")).to_be_visible()

    def test_range_bounds_and_letters_in_place(self) -> None:
        self.choose_for("A", "Fit part of the range")
        self.page.get_by_label("From").fill("0")
        to = self.page.get_by_label("To", exact=True)
        to.fill("-5")
        to.press("Enter")
        expect(self.page.get_by_text("Type two numbers, the smaller one first.")).to_be_visible()
        to.fill("60")
        to.press("Enter")
        expect(self.model()).to_contain_text("from 0 to 60")
        self.model().get_by_role("button", name=re.compile("^c_2 .*fit or fix")).click()
        dialog = self.page.get_by_role("dialog")
        dialog.get_by_label("c_2: not above").fill("0")
        dialog.get_by_role("button", name="Apply bounds").click()
        expect(self.model()).to_contain_text("bounded")
        self.model().get_by_role("button", name=re.compile("^c_0 .*fit or fix")).click()
        letter = self.page.get_by_label("Symbol for c0")
        for wrong, said in (("2", "A letter, with an index"), ("t", "t already stands for something else")):
            letter.fill(wrong)
            letter.press("Enter")
            expect(dialog.get_by_role("alert")).to_contain_text(said)
        letter.fill("h_0")
        letter.press("Enter")
        expect(self.model().get_by_role("button", name=re.compile("^h_0 .*fit or fix"))).to_be_visible()
        self.page.get_by_label("Terms from the lowest power up").click()
        expect(self.page.get_by_label("Terms from the lowest power up")).to_be_checked()
        self.page.keyboard.press("Escape")

    def test_a_line_with_every_parameter_fixed_is_freed_again(self) -> None:
        self.page.get_by_label("Model of fit B").select_option("line")
        model = self.model("B")
        model.get_by_role("button", name="Parameters and how well it fits").click()
        for name, value in (("slope", "-0.25"), ("intercept", "28")):
            model.get_by_role("button", name=re.compile(f"^{name} .*fit or fix")).click()
            self.page.get_by_role("dialog").get_by_label(f"Fix {name} at").fill(value)
            self.page.keyboard.press("Enter")
            expect(model).to_contain_text("fixed at")
        expect(model).to_contain_text("A known curve")
        model.get_by_role("button", name=re.compile("^slope .*fit or fix")).click()
        self.page.get_by_role("button", name="Fit again").click()
        expect(model).not_to_contain_text("A known curve")

    def test_naming_given_up_changes_nothing(self) -> None:
        self.choose_for("A", "Rename")
        self.page.keyboard.press("Escape")
        self.page.keyboard.press("Tab")
        expect(self.page.get_by_label("Name of fit A")).to_have_count(0)
        expect(self.page.get_by_role("button", name="Undo")).to_have_attribute("aria-disabled", "true")

    def test_a_term_left_out(self) -> None:
        self.model().get_by_role("button", name="Terms of fit A").click()
        self.page.get_by_role("checkbox", name="first power").click()
        expect(self.model()).to_contain_text("2 of 3 terms")

    def test_parameters_are_copied_as_a_table(self) -> None:
        self.choose_for("A", "Copy the parameters as a table")
        copied = self.copied("Parameters").split("\n")
        self.assertEqual(copied[0].split("\t")[:4], ["parameter", "symbol", "value", "standard error"])
        self.assertEqual(len(copied), 4)


class Compare(BrowserCase):
    def test_side_by_side_with_criteria_and_the_ladder(self) -> None:
        self.open_sample("A draining bucket")
        self.page.get_by_label("Model of fit B").select_option("line")
        self.page.get_by_role("radio", name="Compare").press("Enter")
        lens = self.page.get_by_role("region", name="Fits side by side")
        expect(lens.get_by_role("list", name="Fits").get_by_role("listitem")).to_have_count(2)
        expect(lens).to_contain_text("improves the fit significantly")
        expect(lens).to_contain_text("R² never falls as the degree rises")
        expect(lens.get_by_role("img", name=re.compile("R² and leave-one-out error"))).to_be_visible()
        term = lens.get_by_role("button", name="leave-one-out error")
        term.hover()
        expect(self.page.get_by_text("How far each reading lies, typically")).to_be_visible()
        lens.get_by_role("button", name="Copy the criteria").click()
        self.page.get_by_role("menuitem", name="Copy as a table").click()
        copied = self.copied("The criteria").split("\n")
        self.assertEqual(copied[0].split("\t"), ["criterion", "A quadratic", "B line"])
        self.assertEqual(copied[1].split("\t"), ["parameters", "3", "2"])

    def test_one_fit_alone(self) -> None:
        self.open_sample("Stretch of the mooring line")
        self.page.get_by_role("radio", name="Compare").click()
        self.page.get_by_role("button", name="Add a quadratic").click()
        expect(self.page.get_by_role("list", name="Fits").get_by_role("listitem")).to_have_count(2)

    def test_without_a_reading_as_a_ghost(self) -> None:
        self.open_sample("Stretch of the mooring line")
        self.cell(5, 1).click()
        self.page.get_by_role("button", name="without it").focus()
        expect(self.page.get_by_test_id("ghost-without")).to_be_attached()
        expect(self.page.get_by_test_id("chosen")).to_contain_text("Without row 5 the curve moves")
        self.page.get_by_role("radio", name="Residuals").click()
        self.page.get_by_role("button", name="Row 3: show the curve without it").focus()
        expect(self.page.get_by_text("Without row 3 the curve moves")).to_be_visible()
        expect(self.page.get_by_test_id("ghost")).to_be_attached()

    def test_two_fits_side_by_side_in_the_residuals(self) -> None:
        self.open_sample("A draining bucket")
        self.page.get_by_role("radio", name="Residuals").click()
        self.page.get_by_label("Beside the residuals of fit").select_option("B")
        expect(self.page.get_by_role("list", name="What the residuals show")).to_have_count(2)
