"""The real interface in Debian's Chromium, against a live server with the real database."""

from __future__ import annotations

import os
import re
from typing import ClassVar

from django.conf import settings
from django.test import LiveServerTestCase, override_settings
from playwright.sync_api import (
    Browser,
    BrowserContext,
    ConsoleMessage,
    Locator,
    Page,
    Playwright,
    expect,
    sync_playwright,
)

from tests.browser.late import LATE
from tests.chromium import launch

# Playwright's own loop runs in this thread; Django would take it for an asynchronous view.
os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "true"

expect.set_options(timeout=30_000)  # a busy machine is slow, not wrong


class BrowserCase(LiveServerTestCase):
    """One browser for the class, one fresh visitor a test. Any error on the page fails the test."""

    playwright: ClassVar[Playwright]
    browser: ClassVar[Browser]
    width, height = 1280, 800
    dark = False
    locale = "en-GB"

    @classmethod
    def setUpClass(cls) -> None:
        if LATE:
            late = override_settings(MIDDLEWARE=["tests.browser.late.late_answers", *settings.MIDDLEWARE])
            cls.enterClassContext(late)
        super().setUpClass()
        cls.playwright = sync_playwright().start()
        cls.browser = launch(cls.playwright)

    @classmethod
    def tearDownClass(cls) -> None:
        cls.browser.close()
        cls.playwright.stop()
        super().tearDownClass()

    def setUp(self) -> None:
        self.problems: list[str] = []
        # Requests that a test makes fail on purpose are logged by the browser: the test names them here.
        self.expected_problem = ""
        self.context = self.new_context()
        self.page = self.new_page(self.context)

    def tearDown(self) -> None:
        self.context.close()
        unexpected = [p for p in self.problems if not self.expected_problem or self.expected_problem not in p]
        self.assertEqual(unexpected, [])

    def new_context(self) -> BrowserContext:
        context = self.browser.new_context(
            viewport={"width": self.width, "height": self.height},
            color_scheme="dark" if self.dark else "light",
            base_url=self.live_server_url,
            accept_downloads=True,
            locale=self.locale,
        )
        context.grant_permissions(["clipboard-read", "clipboard-write"])
        return context

    def new_page(self, context: BrowserContext) -> Page:
        page = context.new_page()

        def note(message: ConsoleMessage) -> None:
            if message.type in ("error", "warning"):
                self.problems.append(message.text)

        page.on("console", note)
        page.on("pageerror", lambda error: self.problems.append(str(error)))
        return page

    # What a user does and sees, in words.

    def open_shelf(self) -> None:
        self.page.goto("/")
        expect(self.page.get_by_role("heading", name="Shelf")).to_be_visible()

    def open_sample(self, title: str) -> None:
        self.open_shelf()
        self.page.get_by_role("button", name=f"Open a copy of {title}").click()
        expect(self.curve().first).to_be_attached()

    def open_new(self) -> None:
        self.open_shelf()
        self.page.get_by_role("button", name="New study", exact=True).click()
        expect(self.grid()).to_be_visible()

    def paste(self, text: str) -> None:
        """As Ctrl+V would into the cell that has the focus."""
        self.page.evaluate("text => navigator.clipboard.writeText(text)", text)
        self.page.keyboard.press("Control+v")

    def fill(self, text: str) -> None:
        self.cell(1, 0).click()
        self.paste(text)
        self.expect_saved()

    def copied(self, what: str) -> str:
        """What stands on the clipboard once the page has said that it put this there."""
        expect(self.page.get_by_text(f"{what} copied.", exact=True)).to_be_visible()
        return str(self.page.evaluate("navigator.clipboard.readText()"))

    def choose_from(self, button: str, item: str | re.Pattern[str]) -> None:
        """Choose from a menu of the readings."""
        self.page.get_by_role("button", name=button, exact=True).click()
        self.page.get_by_role("menuitem", name=item, exact=True).click()

    def choose_for(self, letter: str, item: str) -> None:
        """Choose from the menu of a fit."""
        self.page.get_by_role("button", name=f"More for fit {letter}").click()
        self.page.get_by_role("menuitem", name=item, exact=True).click()

    def add_model(self, way: str | re.Pattern[str] = "") -> None:
        """One more fit: the next usual model, or by the way that is named."""
        self.page.get_by_role("button", name="Add a model").click()
        items = self.page.get_by_role("menuitem")
        (items.filter(has_text=way) if way else items).first.click()

    def swap(self) -> None:
        self.choose_from("More", re.compile("^Swap"))

    def grid(self) -> Locator:
        return self.page.get_by_role("grid", name="Readings")

    def row(self, number: int) -> Locator:
        return self.grid().locator(f'[role=row][aria-rowindex="{number + 1}"]')

    def cell(self, number: int, column: int) -> Locator:
        return self.row(number).get_by_role("gridcell").nth(column)

    def expect_cell(self, number: int, column: int, text: str | re.Pattern[str]) -> None:
        cell = self.cell(number, column)
        field = cell.locator("input")
        if field.count():
            expect(field).to_have_value(text)
        else:
            expect(cell).to_have_text(text)

    def curve(self) -> Locator:
        return self.page.get_by_test_id("curve")

    def account(self) -> Locator:
        return self.page.get_by_role("article", name="Page")

    def hand_in(self) -> None:
        """Open what goes out, by keyboard, unless it is open."""
        place = self.page.get_by_role("dialog", name="Hand in")
        if not place.is_visible():
            self.page.get_by_role("button", name="Hand in").press("Enter")
        expect(place).to_be_visible()

    def expect_saved(self) -> None:
        expect(self.page.get_by_test_id("saving")).to_have_attribute("data-state", "saved")

    def marks(self, status: str) -> Locator:
        return self.page.locator(f"[role=application] g[data-status={status}]")
