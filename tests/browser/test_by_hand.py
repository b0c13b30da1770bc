"""Setting a curve by hand with mouse, keyboard and finger, and letting least squares go on from there."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, expect

from tests.browser.base import BrowserCase


class ByHand(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.open_sample("A can of soup in a breezy galley")
        self.page.get_by_label("Model of fit A").select_option("exponential-level")
        expect(self.account()).to_contain_text("17.39 ± 0.22")

    def misses(self) -> Locator:
        return self.page.get_by_test_id("by-hand")

    def rss(self) -> float:
        text = self.misses().inner_text()
        return float(re.search(r"RSS ([\d.,\s]+)", text)[1].replace("\u202f", "").replace(" ", ""))  # type: ignore[index]

    def test_by_keyboard_alone(self) -> None:
        self.page.get_by_role("button", name="More for fit A").press("Enter")
        self.page.keyboard.press("Enter")
        expect(self.misses()).to_contain_text("least squares reaches 1.523")
        path = self.curve().first.get_attribute("d")
        level = self.page.get_by_role("slider", name="c", exact=True)
        level.focus()
        before = self.rss()
        for _ in range(4):
            self.page.keyboard.press("ArrowRight")
        self.expect_saved()
        expect(self.curve().first).not_to_have_attribute("d", path or "")
        self.assertNotEqual(self.rss(), before)
        value = self.page.get_by_label("c, value")
        value.fill("18,5")
        value.press("Enter")
        expect(level).to_have_attribute("aria-valuenow", "18.5")
        value.fill("warm")
        value.press("Enter")
        expect(self.page.get_by_text("'warm' is not a number.")).to_be_visible()
        value.press("Escape")
        self.page.get_by_label("keep this curve beside it").press("Space")
        self.page.get_by_role("button", name="Refine by least squares").press("Enter")
        expect(self.account()).to_contain_text("17.39 ± 0.22")
        expect(self.curve()).to_have_count(2)
        expect(self.account().get_by_role("region", name="Model B")).to_contain_text("from A")

    def test_finer_coarser_and_a_typed_span(self) -> None:
        self.choose_for("A", "Set by hand")
        group = self.page.get_by_role("group", name="k", exact=True)
        expect(group).to_contain_text("step 0.001")
        self.page.get_by_role("button", name="k: finer steps").click()
        expect(group).to_contain_text("step 0.0001")
        self.page.get_by_role("button", name="k: coarser steps").click()
        expect(group).to_contain_text("step 0.001")
        low = self.page.get_by_label("k: lowest value of the span")
        low.fill("-1")
        low.press("Enter")
        expect(self.page.get_by_role("slider", name="k", exact=True)).to_have_attribute("aria-valuemin", "-1")

    def test_the_curve_itself_is_dragged_and_undone_in_one_step(self) -> None:
        self.choose_for("A", "Set by hand")
        grip = self.page.get_by_test_id("grip-A-level").locator("rect")
        expect(grip).to_be_visible()
        self.expect_saved()
        before = self.rss()
        box = grip.bounding_box()
        assert box
        x, y = box["x"] + 6, box["y"] + 6
        self.page.mouse.move(x, y)
        self.page.mouse.down()
        self.page.mouse.move(x, y - 20, steps=4)
        expect(self.page.get_by_test_id("ghost-before")).to_be_attached()
        expect(self.misses()).not_to_contain_text(f"RSS {before}")
        self.page.mouse.up()
        self.expect_saved()
        expect(self.page.get_by_test_id("ghost-before")).to_have_count(0)
        self.assertNotEqual(self.rss(), before)
        self.page.get_by_role("button", name="Undo").click()
        expect(self.misses()).to_contain_text(re.compile(rf"RSS {before}"))

    def test_a_grip_by_keyboard_in_the_vertex_of_a_parabola(self) -> None:
        self.open_sample("A draining bucket")
        self.choose_for("A", "Set by hand, from the fitted values")
        expect(self.page.get_by_test_id("grip-A-vertex")).to_be_attached()
        self.page.get_by_role("button", name="Zoom out").click()
        grip = self.page.get_by_test_id("grip-A-vertex")
        value = self.page.get_by_label("c_1, value")
        before = value.input_value()
        grip.focus()
        self.page.keyboard.press("Shift+ArrowLeft")
        self.page.keyboard.press("Shift+ArrowUp")
        expect(value).not_to_have_value(before)
        self.expect_saved()
        # The second press goes on from where the first one went, even while that is still being saved.
        self.page.keyboard.press("Shift+ArrowRight")
        self.page.keyboard.press("Shift+ArrowDown")
        self.expect_saved()
        expect(value).to_have_value(before)

    def test_reload_in_the_middle_keeps_what_was_set(self) -> None:
        self.choose_for("A", "Set by hand")
        value = self.page.get_by_label("a, value")
        value.fill("60")
        value.press("Enter")
        self.expect_saved()
        self.page.reload()
        expect(self.page.get_by_label("a, value")).to_have_value("60.00")
        self.choose_for("A", "Fit by least squares")
        expect(self.account()).to_contain_text("17.39 ± 0.22")


class ByFinger(BrowserCase):
    width, height = 820, 1100

    def test_a_grip_under_the_finger(self) -> None:
        self.open_sample("Stretch of the mooring line")
        self.page.get_by_role("button", name="Page", exact=True).click()
        self.choose_for("A", "Set by hand")
        self.page.get_by_role("button", name="Plot", exact=True).click()
        grip = self.page.get_by_test_id("grip-A-shift").locator("rect")
        box = grip.bounding_box()
        assert box
        x, y = box["x"] + 6, box["y"] + 6
        session = self.context.new_cdp_session(self.page)
        session.send("Input.dispatchTouchEvent", {"type": "touchStart", "touchPoints": [{"x": x, "y": y}]})
        for step in range(1, 6):
            session.send(
                "Input.dispatchTouchEvent", {"type": "touchMove", "touchPoints": [{"x": x, "y": y - 8 * step}]}
            )
        self.page.wait_for_timeout(150)
        session.send("Input.dispatchTouchEvent", {"type": "touchEnd", "touchPoints": []})
        self.expect_saved()
        after = grip.bounding_box()
        assert after
        self.assertLess(after["y"], box["y"] - 15)
