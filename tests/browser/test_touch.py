"""By finger, on a tablet and a phone."""

from __future__ import annotations

import re
from typing import Any

from playwright.sync_api import BrowserContext, expect

from tests.browser.base import BrowserCase


class Finger(BrowserCase):
    maxDiff = None
    width, height = 820, 1100

    def new_context(self) -> BrowserContext:
        return self.browser.new_context(
            viewport={"width": self.width, "height": self.height},
            base_url=self.live_server_url,
            has_touch=True,
            is_mobile=True,
        )

    def panel(self, name: str) -> None:
        self.page.get_by_role("navigation", name="Parts of the study").get_by_role("button", name=name).tap()

    def touch(self, kind: str, *points: tuple[float, float]) -> None:
        if not hasattr(self, "session"):
            self.session: Any = self.context.new_cdp_session(self.page)
        touches = [{"x": x, "y": y, "id": i} for i, (x, y) in enumerate(points)]
        self.session.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": touches})


class Touch(Finger):
    def test_a_cell_is_chosen_by_a_tap_and_typed_into(self) -> None:
        self.open_sample("Stretch of the mooring line")
        self.panel("Readings")
        self.cell(3, 1).tap()
        expect(self.page.get_by_label("stretch, row 3")).to_be_focused()
        self.page.keyboard.type("38")
        self.page.keyboard.press("Enter")
        self.expect_saved()
        self.expect_cell(3, 1, "38")

    def test_a_block_is_chosen_by_its_corner(self) -> None:
        self.open_sample("Stretch of the mooring line")
        self.panel("Readings")
        self.cell(3, 1).tap()
        handle = self.page.get_by_test_id("corner-bottom").bounding_box()
        goal = self.page.locator("[data-cell='4 2']").bounding_box()
        assert handle and goal
        self.touch("touchStart", (handle["x"] + handle["width"] / 2, handle["y"] + handle["height"] / 2))
        for share in (0.3, 0.7, 1.0):
            x = handle["x"] + share * (goal["x"] + goal["width"] / 2 - handle["x"])
            self.touch("touchMove", (x, handle["y"] + share * (goal["y"] + 13 - handle["y"])))
        self.touch("touchEnd")
        expect(self.page.get_by_role("group", name="Rows 3 to 5: what to do")).to_be_visible()
        expect(self.page.locator("[role=gridcell][aria-selected=true]")).to_have_count(6)

    def test_a_swipe_over_a_handle_scrolls_and_turns_nothing(self) -> None:
        self.open_sample("A draining bucket")
        self.panel("Page")
        self.page.get_by_role("button", name="More for fit A").tap()
        self.page.get_by_role("menuitem", name="Set by hand", exact=True).tap()
        panel = self.page.get_by_role("group", name="Fit A by hand")
        value, slider = panel.get_by_label(", value").first, panel.get_by_role("slider").first
        before = value.input_value()
        track = slider.bounding_box()
        assert track
        x, y = track["x"] + 60, track["y"] + track["height"] / 2

        def swipe(across: float, down: float) -> None:
            self.touch("touchStart", (x, y))
            for share in range(1, 9):
                self.touch("touchMove", (x + across * share / 8, y + down * share / 8))
                self.page.wait_for_timeout(16)
            self.touch("touchEnd")

        swipe(0, -160)
        self.page.wait_for_timeout(400)
        expect(value).to_have_value(before)
        self.expect_saved()
        moved = slider.bounding_box()
        assert moved
        self.assertLess(moved["y"], track["y"] - 50)
        y = moved["y"] + moved["height"] / 2
        swipe(40, 0)
        expect(value).not_to_have_value(before)

    def test_a_finger_that_stays_learns_the_name_of_a_tool_and_presses_nothing(self) -> None:
        self.open_sample("A draining bucket")
        tool = self.page.get_by_role("radio", name="Zoom to a rectangle")
        box = tool.bounding_box()
        assert box
        at = (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
        self.touch("touchStart", at)
        expect(self.page.get_by_role("tooltip").first).to_contain_text("Zoom to a rectangle: drag a rectangle")
        self.touch("touchEnd")
        expect(tool).to_have_attribute("aria-checked", "false")
        tool.tap()
        expect(tool).to_have_attribute("aria-checked", "true")

    def test_what_is_used_most_is_large_enough_for_a_finger(self) -> None:
        """WCAG 2.2, 2.5.8: 24 px everywhere; 44 px (2.5.5) for what is used most."""
        self.open_sample("A draining bucket")
        sizes = """() => [...document.querySelectorAll('button, a, select, input, [role=radio], [role=slider]')]
            .filter((one) => one.offsetParent || one instanceof SVGElement)
            .map((one) => [one.getAttribute('aria-label') || one.textContent, one.getBoundingClientRect(), getComputedStyle(one).display])
            .filter(([, box, display]) => box.width > 1 && box.height > 0 && display !== 'inline' && (box.width < 23.5 || box.height < 23.5))
            .map(([name, box]) => `${name} ${box.width} x ${box.height}`)"""
        for panel in ("Readings", "Page", "Plot"):
            self.panel(panel)
            self.assertEqual(self.page.evaluate(sizes), [], panel)
        for name in ("Undo", "Hand in", "Keep"):
            box = self.page.get_by_role("button", name=name, exact=True).bounding_box()
            assert box
            self.assertGreaterEqual(box["height"], 44, name)

    def test_keys_that_a_number_keyboard_lacks(self) -> None:
        self.open_new()
        expect(self.page.get_by_label("x, row 1")).to_be_focused()
        expect(self.page.get_by_label("x, row 1")).to_have_attribute("inputmode", "decimal")
        keys = self.page.get_by_role("group", name="Keys for numbers")
        keys.get_by_label("minus").tap()
        self.page.keyboard.type("15")
        keys.get_by_label("times ten").tap()
        keys.get_by_label("minus").tap()
        self.page.keyboard.type("3")
        keys.get_by_label("next cell").tap()
        expect(self.page.get_by_label("y, row 1")).to_be_focused()
        self.page.keyboard.type("2")
        keys.get_by_label("decimal point").tap()
        self.page.keyboard.type("5")
        keys.get_by_label("next row").tap()
        self.expect_cell(1, 0, "−15e-3")
        self.expect_cell(1, 1, "2.5")
        expect(self.page.get_by_label("x, row 2")).to_be_focused()

    def test_a_reading_is_chosen_on_the_plot(self) -> None:
        self.open_sample("Stretch of the mooring line")
        self.page.locator("g[data-status=used][data-row='6'] circle").tap(force=True)
        expect(self.page.get_by_test_id("chosen")).to_contain_text("Row 6")

    def test_two_fingers_zoom_and_one_moves(self) -> None:
        self.open_sample("Stretch of the mooring line")
        box = self.page.get_by_role("application").bounding_box()
        assert box
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 3
        self.touch("touchStart", (x - 40, y), (x + 40, y))
        for spread in (80, 140, 220):
            self.touch("touchMove", (x - spread, y), (x + spread, y))
        self.touch("touchEnd")
        beyond = self.page.get_by_role("button", name=re.compile("of the view"))
        expect(beyond.first).to_be_visible()
        before = beyond.first.get_attribute("aria-label")
        self.touch("touchStart", (x, y))
        for step in (60, 160, 260):
            self.touch("touchMove", (x + step, y))
        self.touch("touchEnd")
        expect(beyond.first).not_to_have_attribute("aria-label", before or "")
        self.page.get_by_role("button", name="All readings").tap()
        expect(beyond).to_have_count(0)

    def draw(self, *places: tuple[float, float]) -> None:
        """With one finger from place to place, in pixels of the plot."""
        box = self.page.get_by_role("application").bounding_box()
        assert box
        first, *rest = [(box["x"] + x, box["y"] + y) for x, y in places]
        self.touch("touchStart", first)
        for place in rest:
            self.touch("touchMove", place)
        # A finger that leaves while it moves would fling, and the next tap would only stop that.
        self.page.wait_for_timeout(150)
        self.touch("touchMove", (rest or [first])[-1])
        self.touch("touchEnd")

    def place(self, row: int) -> tuple[float, float]:
        mark = self.page.locator(f"g[data-status][data-row='{row}'] circle").bounding_box()
        box = self.page.get_by_role("application").bounding_box()
        assert mark and box
        return mark["x"] + mark["width"] / 2 - box["x"], mark["y"] + mark["height"] / 2 - box["y"]

    def test_a_finger_catches_a_region_and_moves_a_reading(self) -> None:
        self.open_sample("A draining bucket")
        self.page.get_by_role("radio", name="Select a region").tap()
        (x0, y0), (x1, y1) = self.place(1), self.place(2)
        self.draw((x0 - 14, y0 - 14), ((x0 + x1) / 2, y0), (x1 + 14, y1 + 14))
        bar = self.page.get_by_role("form", name="Readings in the region")
        bar.get_by_role("button", name="Set aside").tap()
        expect(self.marks("aside")).to_have_count(2)
        self.page.get_by_role("radio", name="Move a reading").tap()
        x, y = self.place(5)
        self.draw((x, y), (x, y - 20), (x, y - 40))
        self.expect_saved()
        self.page.get_by_role("button", name="Undo").tap()
        expect(self.marks("aside")).to_have_count(2)
        self.page.get_by_role("radio", name="Add readings").tap()
        used = self.marks("used").count()
        self.draw((x + 30, 60))
        expect(self.marks("used")).to_have_count(used + 1)

    def test_a_term_explains_itself_on_a_tap(self) -> None:
        self.open_sample("Stretch of the mooring line")
        self.panel("Page")
        self.page.get_by_role("button", name="typical miss").tap()
        expect(self.page.get_by_text("How far a reading typically lies from the curve")).to_be_visible()

    def test_paper_is_whole_from_any_panel(self) -> None:
        self.open_sample("Stretch of the mooring line")
        for panel in ("Readings", "Page"):
            self.panel(panel)
            self.page.emulate_media(media="print")
            expect(self.page.locator(".paper-figure svg[role=application]")).to_be_visible()
            expect(self.page.get_by_text("How well it fits")).to_be_visible()
            self.page.emulate_media(media="screen")


class Phone(Touch):
    width, height = 390, 780


class LowPhone(Finger):
    """Held across: there is little height, and menus are longer than the window."""

    width, height = 700, 360

    def test_a_menu_longer_than_the_window_scrolls(self) -> None:
        self.open_sample("A draining bucket")
        self.panel("Page")
        self.page.get_by_role("button", name="More for fit A").tap()
        menu = self.page.get_by_role("menu")
        box = menu.bounding_box()
        assert box
        self.assertGreaterEqual(box["y"], 0)
        self.assertLessEqual(box["y"] + box["height"], self.height)
        last = menu.get_by_role("menuitem").last
        last.scroll_into_view_if_needed()
        expect(last).to_be_in_viewport(ratio=1)
        expect(last).to_have_text("Remove")
        last.tap()
        expect(self.page.get_by_role("region", name="Model A", exact=True)).to_have_count(0)
        self.page.get_by_role("button", name="Undo").tap()
        expect(self.page.get_by_role("region", name="Model A", exact=True)).to_be_visible()

    def test_the_curve_is_seen_above_the_handles(self) -> None:
        self.open_sample("A draining bucket")
        self.panel("Page")
        self.page.get_by_role("button", name="More for fit A").tap()
        self.page.get_by_role("menuitem", name="Set by hand", exact=True).tap()
        panel = self.page.get_by_role("group", name="Fit A by hand")
        curve = panel.get_by_role("img", name=re.compile("^A, "))
        before = curve.locator("path").nth(1).get_attribute("d")
        field = panel.get_by_label("c_1, value")
        field.fill("-0.3")
        field.press("Enter")
        expect(curve).to_be_in_viewport()
        expect(curve.locator("path").nth(1)).not_to_have_attribute("d", before or "")
