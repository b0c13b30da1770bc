"""Instruments on screen: readings that arrive, one step of undo, the true curve; a key for others, shown once and withdrawn."""

from __future__ import annotations

import json
import urllib.error
import urllib.request

from playwright.sync_api import Locator, expect

from tests.browser.test_access import Screens


class Reading(Screens):
    def panel_of_instrument(self) -> Locator:
        return self.page.get_by_role("region", name="Instrument")

    def open_instrument(self) -> Locator:
        self.open_new()
        self.choose_from("More", "Read an instrument")
        expect(self.panel_of_instrument().get_by_text("Simulated.")).to_be_visible()
        return self.panel_of_instrument()

    def test_readings_arrive_stop_and_are_one_step(self) -> None:
        panel = self.open_instrument()
        panel.get_by_label("Seconds from one reading to the next").fill("0.05")
        expect(panel.get_by_text("The interval is from 0.1 to 3600 s.")).to_be_visible()
        panel.get_by_label("Seconds from one reading to the next").fill("0,2")
        panel.get_by_role("button", name="Start").click()
        expect(panel.get_by_test_id("shown")).to_contain_text("temperature of the tea")
        expect(self.marks("used").nth(5)).to_be_attached()
        expect(self.curve().first).to_be_attached()
        # What is typed while readings come is kept.
        title = self.page.get_by_role("textbox", name="Title")
        title.fill("The mug")
        title.press("Enter")
        self.check("an instrument that is read")
        panel.get_by_role("button", name="Stop").click()
        expect(panel.get_by_role("button", name="Start")).to_be_visible()
        self.expect_saved()
        expect(title).to_have_value("The mug")
        expect(self.page.get_by_role("alertdialog")).to_have_count(0)
        panel.get_by_role("button", name="Reveal the true curve").click()
        expect(self.curve()).to_have_count(2)
        expect(self.account()).to_contain_text("true curve")
        self.check("an instrument that was read")

    def test_one_reading_at_an_x_that_is_typed(self) -> None:
        panel = self.open_instrument()
        panel.get_by_label("Which instrument").select_option("light")
        for x in ("1", "2"):
            panel.get_by_label("distance of a single reading").fill(x)
            panel.get_by_role("button", name="Read once").click()
            expect(panel.get_by_label("distance of a single reading")).to_have_value("")
        self.expect_cell(2, 0, "2")
        expect(self.page.get_by_text("2 used")).to_be_visible()
        self.page.get_by_role("button", name="Undo").click()
        expect(self.page.get_by_text("2 used")).to_be_hidden()

    def test_a_key_for_others(self) -> None:
        panel = self.open_instrument()
        panel.get_by_role("button", name="A real instrument, by HTTP").click()
        panel.get_by_role("button", name="Make a key").click()
        key = panel.get_by_test_id("key").inner_text()
        self.check("a key for others")

        def post(x: float) -> int:
            body = json.dumps({"readings": [{"x": x, "y": 2 * x}]}).encode()
            headers = {"Authorization": f"Bearer {key}", "Content-Type": "application/json"}
            request = urllib.request.Request(f"{self.live_server_url}/api/readings", body, headers)
            try:
                with urllib.request.urlopen(request, timeout=30) as answer:
                    return int(answer.status)
            except urllib.error.HTTPError as refused:
                return refused.code

        self.assertEqual([post(1.0), post(2.0), post(3.0)], [201, 201, 201])
        # They come by themselves, and again after a reload.
        expect(self.page.get_by_text("3 used")).to_be_visible()
        self.page.reload()
        expect(self.page.get_by_text("3 used")).to_be_visible()
        post(4.0)
        expect(self.page.get_by_text("4 used")).to_be_visible()
        panel.get_by_role("button", name="A real instrument, by HTTP").click()
        expect(panel.get_by_test_id("key")).to_have_count(0)
        panel.get_by_role("button", name="Withdraw").click()
        expect(panel.get_by_role("button", name="Withdraw")).to_have_count(0)
        self.assertEqual(post(5.0), 401)


class ReadingOnAPhone(Reading):
    width, height = 390, 844

    def open_instrument(self) -> Locator:
        self.open_new()
        self.choose_from("More", "Read an instrument")
        return self.panel_of_instrument()

    def test_readings_arrive_stop_and_are_one_step(self) -> None:
        panel = self.open_instrument()
        panel.get_by_role("button", name="Start").click()
        expect(self.page.get_by_text("3 used")).to_be_visible()
        self.check("an instrument on a phone")

    test_a_key_for_others = test_one_reading_at_an_x_that_is_typed = None  # type: ignore[assignment]  # as on the wide screen
