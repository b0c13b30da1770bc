"""Very many readings: on a canvas, chosen, set aside and taken back like few."""

from __future__ import annotations

import math
import re

from playwright.sync_api import expect

from tests.browser.test_plot_tools import PlotCase

ROWS = 20_000


def table() -> str:
    return "t / s\tU / mV\n" + "".join(f"{i / 10}\t{3 * math.sin(i / 900) + i / 2000:.4f}\n" for i in range(ROWS))


class ManyReadings(PlotCase):
    def setUp(self) -> None:
        super().setUp()
        self.open_new()
        self.page.get_by_label("A file of readings").set_input_files(
            {"name": "long.tsv", "mimeType": "", "buffer": table().encode()}
        )
        self.page.get_by_role("dialog").get_by_role("button", name="Take in").click()
        expect(self.curve().first).to_be_attached()

    def inked(self) -> int:
        """How many pixels of the canvas are painted."""
        count: int = self.page.locator("canvas").evaluate(
            """(canvas) => {
                const { data } = canvas.getContext("2d").getImageData(0, 0, canvas.width, canvas.height);
                let count = 0;
                for (let i = 3; i < data.length; i += 4) if (data[i]) count++;
                return count;
            }"""
        )
        return count

    def test_drawn_on_a_canvas_with_few_elements(self) -> None:
        self.assertGreater(self.inked(), 2000)
        self.assertLess(self.page.locator("[role=application] *").count(), 400)
        self.assertLess(self.grid().get_by_role("row").count(), 80)
        expect(self.page.get_by_text("20\u202f000 used")).to_be_visible()

    def test_a_region_is_set_aside_and_taken_back(self) -> None:
        self.tool("Catch a region")
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
