"""What goes wrong, and that nothing is lost by it."""

from __future__ import annotations

import os
import signal
import socket
import subprocess
import sys
import tempfile
import time
import urllib.request
from pathlib import Path
from urllib.error import URLError

from playwright.sync_api import expect

from tests.browser.base import BrowserCase

ROOT = Path(__file__).parent.parent.parent


class BadInput(BrowserCase):
    def test_text_in_a_cell_is_kept_marked_and_listed(self) -> None:
        self.open_new()
        self.fill("1\t2.1\n2\tn/a\n3\t6.2\n4\t\n5\t10")
        self.page.get_by_role("button", name="Import").click()
        self.expect_cell(2, 1, "n/a")
        left_out = self.page.get_by_text("Row 2: 'n/a' is not a number.")
        expect(left_out).to_be_visible()
        expect(self.page.get_by_text("Row 4: y missing.")).to_be_visible()
        expect(self.marks("used")).to_have_count(3)
        left_out.click()
        expect(self.page.get_by_label("y, row 2")).to_be_visible()

    def test_too_little_or_too_equal_for_a_line(self) -> None:
        self.open_new()
        self.fill("3\t2.1")
        expect(self.account()).to_contain_text("One reading is not enough for a line: add 1 more.")
        self.fill("3\t2.1\n3\t2.5")
        expect(self.account()).to_contain_text("All x are equal (3), so no slope can be fitted.")
        self.swap()
        self.expect_saved()
        expect(self.account()).to_contain_text("All y are equal")

    def test_huge_and_tiny_numbers_freeze_nothing(self) -> None:
        self.open_new()
        self.fill("1e308\t1\n2\t1e-320\n3\t4")
        expect(
            self.page.get_by_text("Row 1: '1e308' is too large to compute with (10³⁰⁰ at most): use a larger unit.")
        ).to_be_visible()
        expect(
            self.page.get_by_text("Row 2: '1e-320' is too small to compute with (10⁻³⁰⁰ at least): use a smaller unit.")
        ).to_be_visible()
        self.expect_cell(1, 0, "1e308")
        self.fill("1e300\t1e300\n-1e300\t1\n5\t7e299")
        expect(self.account()).to_contain_text("beyond what the computer's numbers hold")
        self.fill("1\t1e-298\n2\t3e-298\n3\t2e-298")
        expect(self.account()).to_contain_text("beyond what the computer's numbers hold")
        expect(self.page.get_by_text("These numbers are too large, too small or too close together")).to_be_visible()
        self.fill("1\t2\n2\t3\n3\t5")
        expect(self.curve()).to_be_visible()

    def test_an_ask_that_is_no_number(self) -> None:
        self.open_sample("Stretch of the mooring line")
        self.page.get_by_label("F, given").fill("six")
        expect(self.page.get_by_test_id("asked")).to_contain_text("'six' is not a number.")
        expect(self.page.get_by_role("button", name="Keep")).to_have_attribute("aria-disabled", "true")

    def test_a_refused_change_is_said_and_the_rest_goes_on(self) -> None:
        self.expected_problem = "400"
        self.open_new()
        self.fill("\t".join(str(i) for i in range(13)))
        expect(self.page.get_by_role("alert")).to_contain_text("A study holds 12 columns at most.")
        self.fill("1\t2\n2\t3")
        expect(self.curve()).to_be_visible()

    def test_many_readings_are_drawn_and_stay_choosable(self) -> None:
        self.open_new()
        self.fill("\n".join(f"{i / 10}\t{i / 7 + i % 13}" for i in range(6000)))
        expect(self.account()).to_contain_text("on 6000 readings")
        expect(self.page.locator("canvas")).to_be_visible()
        self.page.keyboard.press("Control+End")
        self.expect_cell(6000, 0, "599.9")
        self.page.keyboard.press("Control+.")
        expect(self.account()).to_contain_text("5999 readings, 1 set aside")


class TwoWindows(BrowserCase):
    def test_the_second_window_is_told_and_its_edit_is_kept(self) -> None:
        self.expected_problem = (
            "the server responded with a status of 4"  # the conflict, and a preview on an old version
        )
        # What the windows tell each other comes too late for either.
        self.context.route("**/newer*", lambda route: route.fulfill(json=None))
        self.open_new()
        self.fill("1\t2\n2\t3.1\n3\t5")
        second = self.new_page(self.context)
        second.goto(self.page.url)
        expect(second.get_by_test_id("curve")).to_be_visible()
        self.cell(1, 1).click()
        self.page.keyboard.type("2.5")
        self.page.keyboard.press("Enter")
        self.expect_saved()

        second.get_by_label("Title").fill("From the second window")
        second.get_by_label("Title").press("Enter")
        expect(second.get_by_role("alert")).to_contain_text("changed in another window")
        expect(second.get_by_test_id("saving")).to_have_text("Not saved")
        expect(second.get_by_role("gridcell").filter(has_text="2.5")).to_be_visible()
        second.get_by_role("button", name="Apply my change to the newer version").click()
        expect(second.get_by_test_id("saving")).to_have_text("Saved")
        expect(second.get_by_label("Title")).to_have_value("From the second window")

        self.cell(2, 1).click()
        self.page.keyboard.type("9")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("alert")).to_be_visible()
        self.expect_cell(2, 1, "9")
        self.page.keyboard.type("8")
        self.page.keyboard.press("Enter")
        self.expect_cell(3, 1, "8")
        expect(self.page.get_by_role("alert")).to_contain_text("Apply my 2 changes")
        self.page.get_by_role("button", name="Discard my 2 changes").click()
        self.expect_cell(2, 1, "3.1")
        expect(self.page.get_by_label("Title")).to_have_value("From the second window")


class NoConnection(BrowserCase):
    def test_what_is_typed_waits_and_is_saved_later(self) -> None:
        self.expected_problem = "ERR_"
        self.open_new()
        self.fill("1\t2\n2\t3.1\n3\t5")
        self.context.set_offline(True)
        self.cell(4, 0).click()
        for text, key in (("4", "Tab"), ("7", "Enter")):
            self.page.keyboard.type(text)
            self.page.keyboard.press(key)
        expect(self.page.get_by_test_id("saving")).to_contain_text("No connection: 2 changes not saved yet")
        self.expect_cell(4, 1, "7")
        self.context.set_offline(False)  # the page notices by itself
        self.expect_saved()
        expect(self.marks("used")).to_have_count(4)

    def test_a_reload_in_the_middle_loses_nothing(self) -> None:
        self.expected_problem = "ERR_"
        self.open_new()
        self.fill("1\t2\n2\t3.1\n3\t5")
        self.page.route("**/changes", lambda route: route.abort())
        self.cell(4, 0).click()
        self.page.keyboard.type("44")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_test_id("saving")).to_have_attribute("data-state", "waiting")
        self.page.on("dialog", lambda dialog: dialog.accept())
        self.page.unroute("**/changes")
        self.page.reload()
        self.expect_saved()
        self.expect_cell(4, 0, "44")

    def test_a_window_closed_in_the_middle_leaves_its_change_to_the_next(self) -> None:
        self.expected_problem = "ERR_"
        self.open_new()
        self.fill("1\t2\n2\t3.1\n3\t5")
        self.page.route("**/changes", lambda route: route.abort())
        self.cell(4, 0).click()
        self.page.keyboard.type("44")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_test_id("saving")).to_have_attribute("data-state", "waiting")
        address = self.page.url
        # A second window leaves alone what the first, still open, has under way.
        second = self.new_page(self.context)
        second.goto(address)
        expect(second.get_by_test_id("curve")).to_be_visible()
        expect(second.get_by_role("gridcell").filter(has_text="44")).to_have_count(0)
        self.page.close()
        self.page = second
        self.page.reload()
        self.expect_saved()
        self.expect_cell(4, 0, "44")

    def test_a_change_made_on_an_older_state_is_not_made_unasked(self) -> None:
        self.expected_problem = "o"  # both the refused connection and the conflict are logged
        self.open_new()
        self.fill("1\t2\n2\t3.1\n3\t5")
        second = self.new_page(self.context)
        self.page.route("**/changes", lambda route: route.abort())
        self.cell(1, 1).click()
        self.page.keyboard.type("44")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_test_id("saving")).to_have_attribute("data-state", "waiting")
        second.goto(self.page.url)
        second.get_by_label("Title").fill("Newer")
        second.get_by_label("Title").press("Enter")
        expect(second.get_by_label("Title")).to_have_value("Newer")
        expect(second.get_by_test_id("saving")).to_have_text("Saved")
        self.page.on("dialog", lambda dialog: dialog.accept())
        self.page.unroute("**/changes")
        self.page.reload()
        expect(self.page.get_by_role("alert")).to_contain_text("changed in another window")
        # What was typed stays in sight until it is decided.
        self.expect_cell(1, 1, "44")
        self.page.get_by_role("button", name="Apply my change to the newer version").click()
        self.expect_saved()
        self.expect_cell(1, 1, "44")
        expect(self.page.get_by_label("Title")).to_have_value("Newer")

    def test_a_server_that_fails_is_said_and_the_change_kept(self) -> None:
        self.expected_problem = "500"
        self.open_new()
        self.fill("1\t2\n2\t3.1\n3\t5")
        self.page.route("**/changes", lambda route: route.fulfill(status=500, json={"message": "Its disk is full."}))
        self.swap()
        said = "Its disk is full. Your last change is kept here and tried again."
        expect(self.page.get_by_role("alert")).to_contain_text(said)
        expect(self.page.get_by_test_id("saving")).to_contain_text("1 change not saved yet")
        self.page.unroute("**/changes")
        self.page.get_by_role("button", name="Try now").click()
        self.expect_saved()
        expect(self.page.get_by_role("alert")).to_have_count(0)

    def test_a_lens_that_is_refused_says_why_and_is_asked_again(self) -> None:
        self.expected_problem = "429"
        self.open_sample("Current over the harbour bed")
        full = {"message": "Others have as many files under way as there is room for. Try again soon."}
        for lens, address in (
            ("Compare", "**/comparison"),
            ("Residuals", "**/residuals/*"),
            ("Resample", "**/resampling*"),
        ):
            self.page.route(address, lambda route: route.fulfill(status=429, json=full))
            self.page.get_by_role("radio", name=lens).click()
            expect(self.page.get_by_role("alert").first).to_contain_text("Try again soon")
            self.page.unroute(address)
            self.page.get_by_role("button", name="Try again").first.click()
            expect(self.page.get_by_role("alert")).to_have_count(0)

    def test_an_answer_lost_on_the_way_is_not_made_twice(self) -> None:
        self.expected_problem = "ERR_"
        self.open_new()
        self.fill("1\t2\n2\t3.1\n3\t5")
        lost: list[object] = []

        def lose_the_answer(route: object) -> None:
            if not lost:
                lost.append(route.fetch())  # type: ignore[attr-defined]
                route.abort()  # type: ignore[attr-defined]
            else:
                route.continue_()  # type: ignore[attr-defined]

        self.page.route("**/changes", lose_the_answer)
        self.cell(1, 0).click()
        self.page.keyboard.press("Insert")
        self.expect_saved()
        self.assertEqual(len(lost), 1)
        self.expect_cell(2, 1, "2")
        self.expect_cell(4, 1, "5")
        self.assertEqual(self.page.get_by_role("alert").count(), 0)


class StoppedServer(BrowserCase):
    """A gunicorn of its own, killed without warning and started again."""

    def start(self, port: int, folder: str) -> subprocess.Popen[bytes]:
        environment = {**os.environ, "RIDGE_MODE": "demo", "RIDGE_DATA": folder}
        subprocess.run([sys.executable, "manage.py", "migrate", "-v0"], cwd=ROOT, env=environment, check=True)
        command = [sys.executable, "-m", "gunicorn", "ridge.site.wsgi:application", "--bind", f"127.0.0.1:{port}"]
        server = subprocess.Popen(
            [*command, "--threads", "4", "--no-control-socket", "--log-level", "critical"],
            cwd=ROOT,
            env=environment,
            start_new_session=True,
        )
        for _ in range(200):
            try:
                urllib.request.urlopen(f"http://127.0.0.1:{port}/", timeout=1).close()
                return server
            except (URLError, OSError):
                time.sleep(0.1)
        self.fail("the server did not start")

    def test_after_a_restart_the_study_is_as_of_the_last_acknowledged_change(self) -> None:
        self.expected_problem = "ERR_"
        with socket.socket() as free, tempfile.TemporaryDirectory() as folder:
            free.bind(("127.0.0.1", 0))
            port = free.getsockname()[1]
            free.close()
            server = self.start(port, folder)
            try:
                self.page.goto(f"http://127.0.0.1:{port}/")
                self.page.get_by_role("button", name="New study", exact=True).click()
                expect(self.grid()).to_be_visible()
                self.context.grant_permissions(["clipboard-read", "clipboard-write"], origin=f"http://127.0.0.1:{port}")
                self.fill("1\t2\n2\t3.1\n3\t5")
                os.killpg(server.pid, signal.SIGKILL)
                server.wait()
                self.cell(4, 0).click()
                self.page.keyboard.type("4")
                self.page.keyboard.press("Enter")
                expect(self.page.get_by_test_id("saving")).to_have_attribute("data-state", "waiting")
                server = self.start(port, folder)
                self.expect_saved()
                self.page.reload()
                self.expect_cell(3, 1, "5")
                self.expect_cell(4, 0, "4")
                expect(self.curve()).to_be_visible()
            finally:
                os.killpg(server.pid, signal.SIGKILL)
                server.wait()


class PartsThatDoNotCome(BrowserCase):
    def test_a_lens_whose_script_is_lost_takes_only_itself_down(self) -> None:
        self.expected_problem = "Failed to"
        self.page.route("**/CompareLens*.js", lambda route: route.abort())
        self.open_sample("A draining bucket")
        self.page.get_by_role("radio", name="Compare").click()
        expect(self.page.get_by_role("alert")).to_contain_text("This part of Ridge could not be loaded.")
        expect(self.account()).to_contain_text("31.41 ± 0.07")
        self.page.get_by_role("radio", name="Residuals").click()
        expect(self.page.get_by_role("list", name="What the residuals show")).to_be_visible()
        self.page.unroute("**/CompareLens*.js")
        self.page.get_by_role("radio", name="Compare").click()
        self.page.get_by_role("button", name="Load the page again").click()
        self.page.get_by_role("radio", name="Compare").click()
        expect(self.page.get_by_role("region", name="Fits side by side")).to_contain_text("R² never falls")
