"""What comes late, or is said of the network, takes no press from the hand."""

from __future__ import annotations

import time

from playwright.sync_api import Route, expect

from tests.browser.base import BrowserCase


class Arriving(BrowserCase):
    def test_a_late_face_moves_nothing_that_can_be_pressed(self) -> None:
        def late(route: Route) -> None:
            time.sleep(0.3)
            route.continue_()

        self.context.route("**/*.woff2", late)
        # The browser's own account of what moved under the reader: Layout Instability API, WICG.
        self.page.add_init_script("""
            window.moved = [];
            new PerformanceObserver((list) => list.getEntries().forEach((one) => window.moved.push(
                one.sources.map((s) => `${s.node?.nodeName} ${s.previousRect.y} to ${s.currentRect.y}`).join()
            ))).observe({ type: "layout-shift", buffered: true });
        """)
        self.open_shelf()
        expect(self.page.get_by_role("button", name="Open a copy of ").last).to_be_visible()
        self.assertGreater(self.page.locator("link[as=font]").count(), 2)
        self.page.wait_for_timeout(1500)
        self.page.evaluate("() => document.fonts.ready.then(() => null)")
        self.assertEqual(self.page.evaluate("window.moved"), [])

    def test_a_face_that_does_not_come_keeps_nothing_back(self) -> None:
        self.expected_problem = "Failed to load resource"
        self.context.route("**/*.woff2", lambda route: route.abort())
        self.open_sample("A draining bucket")

    def test_a_computer_without_any_network_works_with_a_server_of_its_own(self) -> None:
        self.open_shelf()
        self.page.evaluate("() => window.dispatchEvent(new Event('offline'))")
        self.page.get_by_role("button", name="Open a copy of A draining bucket").click()
        expect(self.curve().first).to_be_attached()
