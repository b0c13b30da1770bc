"""Working on the plot: box, region, moving and adding readings, axes, marks, labels."""

from __future__ import annotations

import re

from playwright.sync_api import FloatRect, Locator, expect

from tests.browser.base import BrowserCase


class PlotCase(BrowserCase):
    def plot(self) -> Locator:
        return self.page.get_by_role("application")

    def box(self) -> FloatRect:
        box = self.plot().bounding_box()
        assert box
        return box

    def tool(self, name: str) -> None:
        self.page.get_by_role("radio", name=name).click()

    def drag(self, x0: float, y0: float, x1: float, y1: float) -> None:
        """From one place to another, in pixels of the plot."""
        box = self.box()
        self.page.mouse.move(box["x"] + x0, box["y"] + y0)
        self.page.mouse.down()
        self.page.mouse.move(box["x"] + (x0 + x1) / 2, box["y"] + (y0 + y1) / 2, steps=4)
        self.page.mouse.move(box["x"] + x1, box["y"] + y1, steps=4)
        self.page.mouse.up()

    def centre(self, row: int) -> tuple[float, float]:
        """Where the reading of a row is drawn, in pixels of the plot."""
        mark = self.page.locator(f"g[data-status][data-row='{row}'] circle").bounding_box()
        assert mark
        box = self.box()
        return mark["x"] + mark["width"] / 2 - box["x"], mark["y"] + mark["height"] / 2 - box["y"]

    def plot_form(self) -> Locator:
        self.page.get_by_role("button", name="Plot settings: axes, ticks, markers, lines").click()
        return self.page.get_by_role("dialog", name="Plot settings")

    def ticks(self) -> list[str]:
        return [
            text or ""
            for text in self.plot().locator("[data-tick]").evaluate_all("all => all.map(one => one.dataset.tick)")
        ]


class NothingMoves(PlotCase):
    """Whatever is chosen, asked or kept: plot, lenses and tools stay where they are."""

    def places(self) -> list[FloatRect | None]:
        tabs, tools = (
            self.page.get_by_role("radio", name="Residuals"),
            self.page.get_by_role("radio", name="Add readings"),
        )
        table = self.page.get_by_role("grid", name="Readings")
        return [self.box(), tabs.bounding_box(), tools.bounding_box(), table.bounding_box()]

    def test_the_plot_of_a_study_that_was_empty_is_zoomed(self) -> None:
        self.open_new()
        expect(self.page.get_by_text("Drop a file here", exact=False)).to_be_visible()
        self.page.wait_for_timeout(500)  # as one who reads first
        self.fill("1\t2\n2\t4\n3\t7")
        expect(self.curve()).to_be_attached()
        self.page.get_by_role("button", name="Zoom in").click()
        expect(self.page.get_by_role("button", name="All readings")).to_be_enabled()

    def test_choosing_and_asking(self) -> None:
        for title in ("Stretch of the mooring line", "Salinity probe, calibration"):
            self.open_sample(title)
            before = self.places()
            x, y = self.centre(4)
            self.plot().click(position={"x": x, "y": y})
            expect(self.page.get_by_test_id("chosen")).to_contain_text("residual")
            self.assertEqual(self.places(), before)
            self.page.get_by_role("button", name="without it").hover()
            expect(self.page.get_by_test_id("chosen")).to_contain_text("the curve moves")
            self.assertEqual(self.places(), before)
            field = self.page.get_by_label(re.compile(", given$"))
            field.fill("1 to 9 step 2")
            expect(self.page.get_by_role("region", name="The single results")).to_be_visible()
            self.assertEqual(self.places(), before)
            field.fill("999")
            expect(self.page.get_by_test_id("asked")).to_contain_text("Extrapolation")
            self.assertEqual(self.places(), before)
            field.fill("six")
            expect(self.page.get_by_test_id("asked")).to_contain_text("is not a number")
            self.assertEqual(self.places(), before)

    def test_tools_stand_in_one_row(self) -> None:
        for title in ("Tide at the pontoon", "Salinity probe, calibration"):
            self.open_sample(title)
            middles = {
                round(box["y"] + box["height"] / 2)
                for one in (
                    self.page.get_by_role("radio", name="Plot"),
                    self.page.get_by_role("button", name="Zoom in"),
                )
                if (box := one.bounding_box())
            }
            self.assertEqual(len(middles), 1)

    def test_a_kept_answer_is_seen_on_plot_and_page(self) -> None:
        self.open_sample("Tide at the pontoon")
        for given in ("3:00", "4:00", "5:00"):
            self.page.get_by_label(re.compile(", given$")).fill(given)
            self.page.get_by_role("button", name="Keep").click()
            self.expect_saved()
        kept = self.account().get_by_role("listitem").filter(has_text="At t = 5:00")
        expect(kept).to_be_in_viewport()
        value = re.search(r"h = (−?[\d.]+)", kept.inner_text())
        assert value
        expect(self.page.get_by_test_id("kept-value").filter(has_text=f"{value[1]} m")).to_be_visible()

    def test_a_view_stands_still_while_readings_are_added(self) -> None:
        self.open_new()
        self.page.get_by_role("button", name="Press them onto the plot").click()
        before = self.ticks()
        for place in ((200.0, 100.0), (300.0, 150.0), (250.0, 200.0)):
            self.plot().click(position={"x": place[0], "y": place[1]})
            self.expect_saved()
            self.assertEqual(self.ticks(), before)
        expect(self.page.locator("g[data-status='used']")).to_have_count(3)
        self.page.get_by_role("button", name="All readings").click()
        expect(self.page.locator("g[data-status='used']")).to_have_count(3)
        self.assertNotEqual(self.ticks(), before)


class Gestures(PlotCase):
    def test_a_drawn_box_becomes_the_view(self) -> None:
        self.open_sample("Stretch of the mooring line")
        x, y = self.centre(5)
        self.tool("Zoom to a rectangle")
        self.drag(x - 60, y - 60, x + 60, y + 60)
        expect(self.page.get_by_role("button", name=re.compile("the view: show"))).to_have_count(4)
        expect(self.page.get_by_role("radio", name="Pan and select")).to_be_checked()
        self.page.get_by_role("button", name="All readings").click()
        expect(self.page.get_by_role("button", name=re.compile("the view: show"))).to_have_count(0)

    def test_a_region_is_set_aside_with_a_reason_and_taken_back(self) -> None:
        self.open_sample("Stretch of the mooring line")
        self.tool("Select a region")
        (x0, y0), (x1, y1) = self.centre(1), self.centre(3)
        self.drag(x0 - 12, y1 - 12, x1 + 12, y0 + 12)
        bar = self.page.get_by_role("form", name="Readings in the region")
        expect(bar).to_contain_text("3 readings")
        bar.get_by_label("Reason for setting them aside").fill("slack line")
        self.page.keyboard.press("Enter")
        expect(self.marks("aside")).to_have_count(4)
        expect(self.row(2).get_by_role("rowheader")).to_have_attribute("title", "Set aside: slack line")
        self.drag(x0 - 12, y1 - 12, x1 + 12, y0 + 12)
        bar.get_by_role("button", name="Use again").click()
        expect(self.marks("aside")).to_have_count(1)

    def test_a_reading_is_dragged_and_everything_follows_in_one_step(self) -> None:
        self.open_sample("A draining bucket")
        expect(self.account()).to_contain_text("typical miss 0.105")
        x, y = self.centre(3)
        self.tool("Move a reading")
        self.drag(x, y, x, y - 60)
        self.expect_saved()
        expect(self.cell(3, 1)).not_to_have_text("24.7")
        expect(self.account()).not_to_contain_text("typical miss 0.105")
        typed = (
            self.cell(3, 1).locator("input").input_value()
            if self.cell(3, 1).locator("input").count()
            else self.cell(3, 1).inner_text()
        )
        self.assertRegex(typed, r"^\d+\.\d$")  # snapped to the decimals that the column has
        self.page.get_by_role("button", name="Undo").click()
        self.expect_cell(3, 1, "24.7")
        self.expect_cell(3, 0, "16")

    def test_arrow_keys_move_the_chosen_reading(self) -> None:
        self.open_sample("A draining bucket")
        self.cell(3, 1).click()
        self.tool("Move a reading")
        self.plot().focus()
        for _ in range(3):
            self.page.keyboard.press("ArrowUp")
        self.expect_saved()
        self.expect_cell(3, 1, "25.0")
        self.page.keyboard.press("Escape")
        expect(self.page.get_by_role("radio", name="Pan and select")).to_be_checked()

    def test_clicks_add_readings_to_an_empty_plot(self) -> None:
        self.open_new()
        self.tool("Add readings")
        box = self.box()
        for x, y in ((120, 300), (240, 240), (360, 160)):
            self.page.mouse.click(box["x"] + x, box["y"] + y)
            self.expect_saved()
        expect(self.marks("used")).to_have_count(3)
        expect(self.curve()).to_be_attached()


class Axes(PlotCase):
    def test_typed_limits_and_ticks(self) -> None:
        self.open_sample("Stretch of the mooring line")
        form = self.plot_form()
        for label, text in (
            ("The x axis begins at", "-100"),
            ("The x axis ends at", "700"),
            ("The x axis has a tick every", "200"),
        ):
            form.get_by_label(label).fill(text)
            form.get_by_label(label).press("Enter")
        expect(self.plot().locator("[data-tick='600']")).to_be_attached()
        self.assertEqual([t for t in self.ticks() if t in ("0", "200", "400", "600")][-3:], ["200", "400", "600"])
        form.get_by_label("The x axis ends at").fill("wide")
        form.get_by_label("The x axis ends at").press("Enter")
        expect(form.get_by_label("The x axis ends at")).to_have_attribute("aria-invalid", "true")
        self.page.reload()
        expect(self.plot().locator("[data-tick='600']")).to_be_attached()

    def test_limits_typed_wrongly_are_told_beside_them(self) -> None:
        self.open_sample("Stretch of the mooring line")
        form = self.plot_form()
        before = self.ticks()
        for label, typed, said in (
            ("The x axis begins at", "abc", "'abc' is not a number."),
            ("The x axis has a tick every", "0", "more than 0 apart"),
            ("The x axis has a tick every", "0.001", "ticks: 120 at most"),
        ):
            form.get_by_label(label).fill(typed)
            form.get_by_label(label).press("Enter")
            expect(form.get_by_role("alert")).to_contain_text(said)
            self.assertEqual(self.ticks(), before)
            form.get_by_label(label).fill("")
            form.get_by_label(label).press("Enter")
            expect(form.get_by_role("alert")).to_have_text("")
        form.get_by_label("The x axis ends at").fill("300")
        form.get_by_label("The x axis ends at").press("Enter")
        form.get_by_label("The x axis begins at").fill("400")
        form.get_by_label("The x axis begins at").press("Enter")
        expect(form.get_by_role("alert")).to_contain_text("not below 300")

    def test_very_small_values_have_one_power_of_ten(self) -> None:
        self.open_new()
        self.fill("1\t2.1e-8\n2\t3.9e-8\n3\t6.2e-8\n4\t7.9e-8")
        expect(self.curve().first).to_be_attached()
        self.assertFalse([tick for tick in self.ticks() if "×" in tick])
        expect(self.plot().get_by_text("/ 10⁻⁸", exact=False).first).to_be_visible()
        expect(self.plot().get_by_text("residual / 10", exact=False)).to_be_visible()

    def test_logarithmic_axes_and_what_has_no_place_on_them(self) -> None:
        self.open_sample("Lantern on the quay")
        form = self.plot_form()
        form.get_by_label("d logarithmic").check()
        form.get_by_label("E logarithmic").check()
        expect(self.plot().locator("[data-tick='100']")).to_be_attached()
        self.page.keyboard.press("Escape")
        self.cell(1, 0).click()
        self.page.keyboard.type("-1")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_text("One reading has no place on these axes: row 1")).to_be_visible()

    def test_straightened_coordinates_are_named_and_the_curve_is_a_line(self) -> None:
        self.open_sample("Lantern on the quay")
        form = self.plot_form()
        form.get_by_label("Straighten the leading model").check()
        expect(self.plot()).to_contain_text("ln(E / lx)")
        expect(self.plot()).to_contain_text("ln(d / m)")
        path = self.curve().get_attribute("d") or ""
        points = [tuple(map(float, pair.split(","))) for pair in re.findall(r"-?[\d.]+,-?[\d.]+", path)]
        (x0, y0), (x1, y1) = points[0], points[-1]
        for x, y in points:
            self.assertAlmostEqual(y, y0 + (x - x0) * (y1 - y0) / (x1 - x0), delta=0.5)

    def test_equal_scales(self) -> None:
        self.open_new()
        self.fill("0\t0\n4\t1\n8\t2.1")
        form = self.plot_form()
        form.get_by_label("Equal scales").check()
        (x0, y0), (x1, y1) = self.centre(1), self.centre(2)
        self.assertAlmostEqual((x1 - x0) / 4, y0 - y1, delta=1)

    def test_clock_times_on_the_axis(self) -> None:
        self.open_sample("Tide at the pontoon")
        self.assertIn("12:00", self.ticks())

    def test_a_joining_line_follows_x_and_is_no_model(self) -> None:
        self.open_new()
        self.fill("5\t2\n1\t1\n3\t4")
        form = self.plot_form()
        form.get_by_label("Join the readings").check()
        expect(form).to_contain_text("They are not a model")
        path = self.page.get_by_test_id("joining").get_attribute("d") or ""
        xs = [float(x) for x in re.findall(r"[ML](-?[\d.]+)", path)]
        self.assertEqual(xs, sorted(xs))

    def test_marks_and_labels(self) -> None:
        self.open_sample("Stretch of the mooring line")
        form = self.plot_form()
        form.get_by_role("combobox", name="Markers").select_option("square")
        expect(self.plot().locator("g[data-status=used] circle")).to_have_count(0)
        form.get_by_label("Labels").select_option("equation")
        label = self.page.get_by_test_id("label-A")
        expect(label).to_contain_text("L = ")
        self.page.keyboard.press("Escape")
        before = label.bounding_box()
        self.page.get_by_role("button", name="Label of fit A").focus()
        self.page.keyboard.press("ArrowDown")
        self.expect_saved()
        after = label.bounding_box()
        assert before and after
        self.assertAlmostEqual(after["y"] - before["y"], 6, delta=0.6)
        self.page.mouse.move(after["x"] + after["width"] / 2, after["y"] + after["height"] / 2)
        self.page.mouse.down()
        self.page.mouse.move(after["x"] + after["width"] / 2 + 40, after["y"] + after["height"] / 2 + 30, steps=5)
        self.page.mouse.up()
        self.expect_saved()
        dragged = label.bounding_box()
        assert dragged
        self.assertAlmostEqual(dragged["x"] - after["x"], 40, delta=3)
