"""Very many readings: on a canvas, chosen, set aside and taken back like few."""

from __future__ import annotations

import math
import re

from playwright.sync_api import expect

from tests.browser.test_plot_tools import PlotCase

ROWS = 20_000


def table(rows: int) -> str:
    return "t / s\tU / mV\n" + "".join(f"{i / 10}\t{3 * math.sin(i / 900) + i / 2000:.4f}\n" for i in range(rows))


class CanvasCase(PlotCase):
    def take_in(self, rows: int) -> None:
        self.open_new()
        self.page.get_by_label("A file of readings").set_input_files(
            {"name": "long.tsv", "mimeType": "", "buffer": table(rows).encode()}
        )
        self.page.get_by_role("dialog").get_by_role("button", name="Import").click()
        expect(self.curve().first).to_be_attached()

    def inked(self, layer: int = 0) -> int:
        """How many pixels of a canvas are painted."""
        count: int = (
            self.page.locator("canvas")
            .nth(layer)
            .evaluate(
                """(canvas) => {
                const { data } = canvas.getContext("2d").getImageData(0, 0, canvas.width, canvas.height);
                let count = 0;
                for (let i = 3; i < data.length; i += 4) if (data[i]) count++;
                return count;
            }"""
            )
        )
        return count


class SomeReadings(CanvasCase):
    def test_marks_and_stems_are_drawn_on_canvases_and_the_odd_ones_by_themselves(self) -> None:
        self.take_in(600)
        expect(self.page.locator("canvas")).to_have_count(2)
        marks, stems = self.inked(0), self.inked(1)
        self.assertGreater(marks, 2000)
        self.assertGreater(stems, 2000)
        expect(self.page.locator("g[data-status]")).to_have_count(0)
        self.cell(5, 0).click()
        self.page.keyboard.press("Shift+ArrowDown")
        expect(self.page.locator("g[data-status=used] circle")).to_have_count(2)
        self.page.keyboard.press("Control+.")
        expect(self.page.get_by_text("598 used · 2 set aside")).to_be_visible()
        self.page.keyboard.press("ArrowDown")
        expect(self.page.locator("g[data-status=aside] circle")).to_have_count(2)


class ManyReadings(CanvasCase):
    def setUp(self) -> None:
        super().setUp()
        self.take_in(ROWS)

    def test_drawn_on_a_canvas_with_few_elements(self) -> None:
        self.assertGreater(self.inked(), 2000)
        self.assertLess(self.page.locator("[role=application] *").count(), 400)
        self.assertLess(self.grid().get_by_role("row").count(), 80)
        expect(self.page.get_by_text("20\u202f000 used")).to_be_visible()

    def test_a_region_is_set_aside_and_taken_back(self) -> None:
        self.tool("Select a region")
        box = self.box()
        self.drag(90, 20, box["width"] / 2, box["height"] - 190)
        bar = self.page.get_by_role("form", name="Readings in the region")
        expect(bar).to_contain_text(re.compile(r"\d{3,} readings in the region"))
        bar.get_by_role("button", name="Set aside").click()
        self.expect_saved()
        expect(self.page.get_by_text(re.compile(r"[\d\u202f]+ used · [\d\u202f]+ set aside"))).to_be_visible()
        self.page.get_by_role("button", name="Undo").click()
        expect(self.page.get_by_text("20\u202f000 used")).to_be_visible()

    def test_one_is_chosen_by_a_click_and_found_in_the_table(self) -> None:
        self.cell(1, 0).click()
        self.page.keyboard.press("Control+ArrowDown")
        expect(self.row(ROWS)).to_have_attribute("aria-selected", "true")
        expect(self.page.locator(f"g[data-status=used][data-row='{ROWS}'] circle")).to_be_visible()
        self.page.keyboard.press("Control+.")
        expect(self.page.get_by_text("19\u202f999 used · 1 set aside")).to_be_visible()

    def test_zooming_in_counts_what_is_beyond(self) -> None:
        for _ in range(4):
            self.page.get_by_role("button", name="Zoom in").click()
        expect(self.page.get_by_role("button", name=re.compile("to the left of the view"))).to_be_visible()
        self.assertGreater(self.inked(), 500)
