"""Seeing and shaping: selection, zoom, columns, the intercept, copying, printing."""

from __future__ import annotations

import re
from pathlib import Path
from xml.etree import ElementTree

from playwright.sync_api import expect

from tests.browser.base import BrowserCase


class Seeing(BrowserCase):
    def test_a_chosen_reading_is_lit_in_table_plot_and_strip(self) -> None:
        self.open_sample("Stretch of the mooring line")
        self.cell(5, 1).click()
        expect(self.row(5)).to_have_attribute("aria-selected", "true")
        lit = "circle[fill='var(--color-lichen)']"
        expect(self.page.locator(f"[role=application] g[data-row='5'] {lit}")).to_have_count(2)
        expect(self.page.get_by_test_id("chosen")).to_contain_text("Row 5")
        expect(self.page.get_by_test_id("chosen")).to_contain_text("residual 2.15 mm")
        # From the plot back to the table.
        self.page.locator("g[data-status=used][data-row='8'] circle").click(force=True)
        expect(self.row(8)).to_have_attribute("aria-selected", "true")
        expect(self.row(5)).to_have_attribute("aria-selected", "false")

    def test_what_is_measured_is_solid_and_the_rest_dotted(self) -> None:
        self.open_sample("Stretch of the mooring line")
        expect(self.page.get_by_test_id("measured-bar")).to_be_visible()
        expect(self.page.get_by_test_id("curve-beyond")).to_have_count(2)
        bar = self.page.get_by_test_id("measured-bar").bounding_box()
        first = self.page.locator("g[data-status=used][data-row='1'] circle").bounding_box()
        last = self.page.locator("g[data-status=used][data-row='12'] circle").bounding_box()
        assert bar and first and last
        self.assertAlmostEqual(bar["x"], first["x"] + first["width"] / 2, delta=1)
        self.assertAlmostEqual(bar["x"] + bar["width"], last["x"] + last["width"] / 2, delta=1)

    def test_zoom_counts_what_is_beyond_each_edge_and_brings_it_in(self) -> None:
        self.open_sample("Stretch of the mooring line")
        plot = self.page.get_by_role("application")
        box = plot.bounding_box()
        assert box
        self.page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 3)
        for _ in range(4):
            self.page.mouse.wheel(0, -250)
        right = self.page.get_by_role("button", name=re.compile("right of the view"))
        expect(right).to_be_visible()
        expect(right).to_contain_text(re.compile(r"→ \d+ outside view"))
        right.click()
        expect(right).not_to_be_visible()
        self.page.get_by_role("button", name="All readings").click()
        expect(self.page.get_by_role("button", name=re.compile("of the view"))).to_have_count(0)

    def test_the_plot_answers_to_keys(self) -> None:
        self.open_sample("Stretch of the mooring line")
        self.page.get_by_role("application").focus()
        for _ in range(6):
            self.page.keyboard.press("+")
        beyond = self.page.get_by_role("button", name=re.compile("of the view"))
        expect(beyond.first).to_be_visible()
        self.page.keyboard.press("ArrowRight")
        self.page.keyboard.press("0")
        expect(beyond).to_have_count(0)

    def test_an_answer_far_out_widens_the_view(self) -> None:
        self.open_sample("Stretch of the mooring line")
        self.page.get_by_label("F, given").fill("1700")
        expect(self.page.get_by_test_id("drop-asked")).to_be_visible()
        expect(self.page.get_by_test_id("asked")).to_contain_text(
            "1150 N past the last reading, 2.1 times the measured range"
        )
        self.page.get_by_label("F, given").fill("1e7")
        expect(self.page.get_by_text("The answer lies outside the view")).to_be_visible()


class Shaping(BrowserCase):
    def test_name_symbol_and_unit_are_changed_in_place_and_go_everywhere(self) -> None:
        self.open_new()
        self.fill("1\t2.1\n2\t3.9\n3\t6.2")
        self.page.get_by_role("button", name=re.compile("^Column x")).click()
        self.page.get_by_label("Name", exact=True).fill("load")
        self.page.get_by_label("Symbol", exact=True).fill("F")
        self.page.get_by_label("Unit", exact=True).fill("kN/m")
        self.page.get_by_role("button", name="²", exact=True).click()
        self.page.get_by_role("button", name="Apply").click()
        self.expect_saved()
        expect(self.page.get_by_role("application").locator("text").filter(has_text="load F / (kN/m²)")).to_be_visible()
        expect(self.account()).to_contain_text("1/(kN/m²)")
        expect(self.page.get_by_label("F, given")).to_be_visible()

    def test_swap_and_uncertainties(self) -> None:
        self.open_new()
        self.fill("1\t2.1\n2\t3.9\n3\t6.2\n4\t7.8")
        self.swap()
        self.expect_saved()
        expect(self.account()).to_contain_text("0.5")
        self.swap()
        self.expect_saved()
        self.choose_from("Column", "Uncertainty of y")
        self.expect_saved()
        self.cell(1, 2).click()
        self.paste("0.1\n0.1\n0.1\n0.4")
        self.expect_saved()
        expect(self.account()).to_contain_text(
            "weighted by the uncertainties of y (0.1 to 0.4), of which only the ratios count"
        )
        self.page.get_by_label("The uncertainties are known in absolute terms").click()
        self.expect_saved()
        expect(self.account()).to_contain_text("taken as absolute")

    def test_the_intercept_is_fixed_and_freed(self) -> None:
        self.open_new()
        self.fill("1\t2.1\n2\t3.9\n3\t6.2\n4\t7.8")
        self.page.get_by_role("button", name=re.compile("^intercept .*fit or fix")).click()
        field = self.page.get_by_label("Fix intercept at")
        field.fill("zero")
        self.page.get_by_role("button", name="Fix", exact=True).click()
        expect(self.page.get_by_role("alert")).to_contain_text("'zero' is not a number")
        field.fill("0")
        self.page.get_by_role("button", name="Fix", exact=True).click()
        expect(self.account()).to_contain_text("intercept c fixed at 0")
        self.page.get_by_role("button", name=re.compile("^intercept .*fit or fix")).click()
        self.page.get_by_role("button", name="Fit again").click()
        expect(self.account()).not_to_contain_text("fixed at 0")

    def test_a_reading_far_off_is_named_and_set_aside_with_its_reason(self) -> None:
        self.open_sample("Stretch of the mooring line")
        self.cell(9, 1).click()
        self.page.get_by_role("button", name="Use again").click()
        expect(self.account()).to_contain_text("Row 9 has an unusually large residual")
        self.page.get_by_role("button", name="Set aside", exact=True).first.click()
        self.page.get_by_label("Reason for setting it aside?").fill("slipped on the cleat")
        self.page.get_by_role("button", name="Set aside", exact=True).last.click()
        self.expect_saved()
        expect(self.account()).not_to_contain_text("Row 9 has an unusually large")
        expect(self.page.get_by_test_id("chosen")).to_contain_text("slipped on the cleat")
        self.page.get_by_role("button", name="Undo").click()
        expect(self.account()).to_contain_text("Row 9 has an unusually large")

    def test_title_question_and_level(self) -> None:
        self.open_sample("Stretch of the mooring line")
        self.page.get_by_label("Title").fill("Stretch, second day")
        self.page.get_by_label("Title").press("Enter")
        self.page.get_by_label("Question").fill("How far?")
        self.page.get_by_label("Question").press("Enter")
        self.page.get_by_label("Confidence level").select_option("0.99")
        self.expect_saved()
        expect(self.account()).to_contain_text("99 %")
        self.page.reload()
        expect(self.page.get_by_label("Title")).to_have_value("Stretch, second day")
        expect(self.page.get_by_label("Question")).to_have_value("How far?")


class HandingIn(BrowserCase):
    def test_the_equation_copies_as_text_and_latex(self) -> None:
        self.open_sample("Salinity probe, calibration")
        for form, text in (("text", "U = 21.60·S + 16.7"), ("LaTeX", r"U = 21.60\,S + 16.7")):
            self.page.get_by_role("button", name="Copy the equation").click()
            self.page.get_by_role("menuitem", name=f"Copy as {form}").click()
            self.assertEqual(self.copied(f"Equation as {form}"), text)

    def test_decimals_of_the_course_are_shown_with_their_cost_and_the_safe_equation_is_copied(self) -> None:
        self.open_sample("Salinity probe, calibration")
        self.page.get_by_role("button", name="rounding").press("Enter")
        self.page.get_by_label("Decimals of m").fill("0")
        self.page.keyboard.press("Enter")
        cost = self.account().get_by_role("status").filter(has_text="differs by up to 14 mV")
        self.page.keyboard.press("Escape")
        expect(cost).to_be_visible()
        expect(cost).to_contain_text("2 decimals for m")
        expect(self.account()).to_contain_text("22")
        for form, begins in (("text", "U = 21.60·S + 16.7"), ("MathML", "<math")):
            self.page.get_by_role("button", name="Copy the equation").click()
            self.page.get_by_role("menuitem", name=f"Copy as {form}").click()
            copied = self.copied(f"Equation as {form}")
            self.assertTrue(copied.startswith(begins), copied)
        self.assertIn("21.60", "".join(ElementTree.fromstring(copied).itertext()))
        self.page.reload()
        expect(cost).to_be_visible()
        self.page.get_by_role("button", name="rounding").click()
        self.page.get_by_label("Number for all").fill("3")
        self.page.get_by_role("button", name="significant digits").click()
        expect(self.page.get_by_label("Decimals of m")).to_have_value("1")
        self.page.get_by_role("button", name="As many as it needs").click()
        expect(cost).to_have_count(0)

    def test_statistics_copy_as_a_labelled_table(self) -> None:
        self.open_sample("Salinity probe, calibration")
        self.page.get_by_role("button", name="All statistics").click()
        self.page.get_by_role("button", name="Copy all statistics").click()
        self.page.get_by_role("menuitem", name="Copy as a table").click()
        lines = self.copied("Statistics").split("\n")
        self.assertEqual(len(lines), 17)
        self.assertEqual(lines[:2], ["statistic\tvalue\tunit", "n\t16\t"])
        self.assertRegex(lines[6], r"^s\t4\.01\tmV$")

    def test_tables_copy_as_latex_in_which_nothing_typed_is_a_command(self) -> None:
        self.open_sample("Salinity probe, calibration")
        self.choose_for("A", "Copy the parameters as LaTeX")
        lines = self.copied("Parameters in LaTeX").split("\n")
        self.assertEqual(lines[0], "\\begin{tabular}{llllll}")
        self.assertTrue(
            all(line.count(" & ") == 5 and line.endswith("\\\\") for line in (lines[2], *lines[4:-2])), lines
        )
        self.assertIn("95~\\%", lines[4])

    def test_the_figure_copies_as_a_picture(self) -> None:
        self.open_sample("Salinity probe, calibration")
        self.hand_in()
        self.page.get_by_role("button", name="Copy as a picture").click()
        expect(self.page.get_by_text("Figure copied.")).to_be_visible()
        kinds = self.page.evaluate("async () => (await navigator.clipboard.read()).flatMap((item) => item.types)")
        self.assertEqual(kinds, ["image/png"])

    def test_the_figure_downloads_as_svg(self) -> None:
        self.open_sample("Stretch of the mooring line")
        self.hand_in()
        with self.page.expect_download() as download:
            self.page.get_by_role("link", name="Export the figure").click()
        path = download.value.path()
        self.assertTrue(download.value.suggested_filename.endswith(".svg"))
        self.assertTrue(ElementTree.fromstring(Path(path).read_bytes()).tag.endswith("svg"))

    def test_paper_shows_the_account_and_the_figure_as_vectors_and_no_controls(self) -> None:
        self.open_sample("Salinity probe, calibration")
        self.page.emulate_media(media="print")
        expect(self.page.get_by_role("button", name="Undo")).to_be_hidden()
        expect(self.grid()).to_be_hidden()
        figure = self.page.locator(".paper-figure svg[role=application]")
        expect(figure).to_be_visible()
        box, title = figure.bounding_box(), self.page.get_by_label("Title").bounding_box()
        assert box and title
        self.assertGreater(box["y"], title["y"])
        expect(self.page.locator(".paper-table")).to_be_visible()
        expect(self.page.get_by_role("row", name="adjusted R²")).to_be_visible()
        pdf = self.page.pdf(format="A4")
        self.assertTrue(pdf.startswith(b"%PDF"))

    def test_the_list_of_keys(self) -> None:
        self.open_sample("Salinity probe, calibration")
        self.page.get_by_role("application").focus()
        self.page.keyboard.press("?")
        expect(self.page.get_by_role("dialog", name="Keyboard shortcuts")).to_be_visible()
        self.page.keyboard.press("Escape")
        expect(self.page.get_by_role("dialog")).to_have_count(0)
