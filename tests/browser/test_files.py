"""Files by dialog and by dropping, on the shelf and in a study."""

from __future__ import annotations

import base64
from typing import Any

from playwright.sync_api import Locator, expect

from tests.browser.base import BrowserCase
from tests.exchange.test_files import ROWS, as_csv, as_xlsx

WIDE: list[list[Any]] = [["t / s", "ebb / m", "flood / m"], *[[i, 3 - i / 2, 1 + i / 3] for i in range(6)]]


class TakingFiles(BrowserCase):
    def choose(self, name: str, data: bytes) -> Locator:
        self.page.get_by_label("A file of readings").set_input_files({"name": name, "mimeType": "", "buffer": data})
        return self.page.get_by_role("dialog")

    def drop(self, name: str, data: bytes) -> None:
        """As dragged from a folder onto the window."""
        self.page.evaluate(
            """([name, text]) => {
                const bytes = Uint8Array.from(atob(text), (letter) => letter.charCodeAt(0));
                const carried = new DataTransfer();
                carried.items.add(new File([bytes], name));
                for (const type of ["dragover", "drop"])
                    window.dispatchEvent(new DragEvent(type, { dataTransfer: carried, bubbles: true, cancelable: true }));
            }""",
            [name, base64.b64encode(data).decode()],
        )

    def test_a_new_study_from_a_workbook_on_the_shelf(self) -> None:
        self.open_shelf()
        dialog = self.choose("field week.xlsx", as_xlsx({"notes": [["by hand"], ["station 4"]], "data": ROWS}))
        dialog.get_by_label("Sheet").select_option("data")
        expect(dialog).to_contain_text("4 rows")
        dialog.get_by_role("button", name="Import").click()
        expect(self.page.locator("h1")).to_have_text("field week")
        self.expect_cell(3, 0, "1")
        expect(self.curve()).to_be_attached()

    def test_a_dropped_file_in_a_study_is_one_step(self) -> None:
        self.open_sample("Stretch of the mooring line")
        self.drop("new.csv", as_csv(ROWS))
        dialog = self.page.get_by_role("dialog", name="Import new.csv")
        expect(dialog.get_by_label("below the readings")).to_be_checked()  # what throws nothing away
        dialog.get_by_label("in place of them").check()
        dialog.get_by_role("button", name="Import").click()
        self.expect_cell(2, 0, "0.5")
        self.page.get_by_role("button", name="Undo").click()
        self.expect_cell(2, 0, "50")
        expect(self.marks("aside")).to_have_count(1)

    def test_series_are_drawn_apart_and_fitted_one_by_one(self) -> None:
        self.open_new()
        dialog = self.choose("wide.csv", as_csv(WIDE))
        dialog.get_by_label("Column 3 role").select_option("y")
        expect(dialog.get_by_label("2 series of one study")).to_be_checked()
        dialog.get_by_role("button", name="Import").click()
        expect(self.page.get_by_test_id("legend")).to_contain_text("flood")
        expect(self.page.locator("g[data-status=used] circle")).to_have_count(6)
        self.page.get_by_label("Fitted to").select_option("ebb")
        expect(self.account().locator("math annotation")).to_have_text("y = -0.5\\,t + 3")
        self.add_model()
        self.page.get_by_label("Model of fit B").select_option("line")
        self.page.get_by_label("Fitted to").nth(1).select_option("flood")
        expect(self.curve()).to_have_count(2)
        self.page.get_by_role("radio", name="Compare").click()
        card = self.page.get_by_role("region", name="Parameters of A and B")
        expect(card).to_contain_text("difference")
        expect(
            self.page.get_by_text("No degrees of freedom are left to test whether one curve would do for A and B.")
        ).to_be_visible()

    def test_or_become_studies_of_their_own(self) -> None:
        self.open_shelf()
        dialog = self.choose("wide.csv", as_csv(WIDE))
        dialog.get_by_label("Column 3 role").select_option("y")
        dialog.get_by_label("2 studies").check()
        dialog.get_by_role("button", name="Import").click()
        expect(self.page.locator("h1")).to_have_text("wide: ebb")
        self.page.get_by_label("Ridge: back to the shelf").click()
        expect(self.page.get_by_role("list", name="Studies").get_by_role("listitem")).to_have_count(2)

    def test_times_become_elapsed_time_in_the_chosen_unit(self) -> None:
        self.open_new()
        rows: list[list[Any]] = [
            ["when", "T / K"],
            ["2026-05-04 08:00", 280],
            ["2026-05-04 09:30", 281],
            ["2026-05-04 12:00", 284],
        ]
        dialog = self.choose("log.csv", as_csv(rows))
        expect(dialog).to_contain_text("times count from 2026-05-04 08:00")
        dialog.get_by_label("Times of column 1 are counted in").select_option("h")
        expect(dialog.get_by_role("cell", name="1.5", exact=True)).to_be_visible()
        dialog.get_by_role("button", name="Import").click()
        self.expect_cell(3, 0, "4")
        expect(self.grid().get_by_role("columnheader").nth(1)).to_contain_text("/ h")

    def test_an_encoding_can_be_chosen(self) -> None:
        self.open_new()
        dialog = self.choose("a.csv", as_csv([["глубина", "m"], [1, 2], [2, 5]], "cp1251"))
        dialog.get_by_label("Encoding").select_option("windows-1251")
        expect(dialog.get_by_label("Name of column 1")).to_have_value("глубина")

    def test_what_is_no_table_is_said_and_nothing_is_lost(self) -> None:
        self.open_sample("Stretch of the mooring line")
        self.expected_problem = "400"
        self.drop("photo.xlsx", b"\x89PNG\r\n\x1a\n" + bytes(50))
        expect(self.page.get_by_text("photo.xlsx: This is a picture (PNG), whatever its name says.")).to_be_visible()
        self.drop("empty.csv", b"")
        expect(self.page.get_by_text("empty.csv: This file is empty.")).to_be_visible()
        expect(self.page.get_by_role("dialog")).to_have_count(0)
        self.expect_cell(2, 0, "50")


class Shelf(BrowserCase):
    def test_studies_are_found_and_put_in_order(self) -> None:
        for title in ("Tide at the pontoon", "Lantern on the quay", "A draining bucket"):
            self.open_sample(title)
        self.open_shelf()
        cards = self.page.get_by_role("list", name="Studies").get_by_role("listitem")
        expect(cards).to_have_count(3)
        self.page.get_by_label("Order of the studies").select_option("title")
        expect(cards.nth(0)).to_contain_text("A draining bucket")
        self.page.get_by_label("Order of the studies").select_option("readings")
        expect(cards.nth(0)).to_contain_text("Tide")
        self.page.get_by_label("Find a study").fill("quay")
        expect(cards).to_have_count(1)
        self.page.get_by_label("Find a study").fill("nothing of the kind")
        expect(self.page.get_by_text("No study has “nothing of the kind”")).to_be_visible()
