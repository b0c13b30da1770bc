"""The main job in Firefox and in WebKit: type readings, judge the fit, ask, change, compare, hand in."""

from __future__ import annotations

import os
import time
from pathlib import Path
from typing import ClassVar

from django.test import LiveServerTestCase

from tests.engines.engine import Engine
from tests.engines.firefox import Firefox
from tests.engines.webkit import WebKit

WIDTH, HEIGHT = 1280, 800
PAGE = "article[aria-label=Page]"
PICTURES = os.environ.get("RIDGE_ENGINE_PICTURES", "")
"""A folder for a picture of each step, to be looked at; none are kept otherwise."""

WATCH = """() => { window.ridgeProblems = window.ridgeProblems || [];
  window.addEventListener('error', (event) => window.ridgeProblems.push(event.message));
  window.addEventListener('unhandledrejection', (event) => window.ridgeProblems.push(String(event.reason))); }"""


class MainJob:
    """What is done is the same; what does it differs."""

    engine: ClassVar[Engine]
    made: ClassVar[type[Firefox] | type[WebKit]]
    live_server_url: str

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()  # type: ignore[misc]
        cls.engine = cls.made(WIDTH, HEIGHT)

    @classmethod
    def tearDownClass(cls) -> None:
        cls.engine.close()
        super().tearDownClass()  # type: ignore[misc]

    def see(self, name: str) -> None:
        if PICTURES:
            time.sleep(0.5)
            self.engine.keep_picture(Path(PICTURES) / f"{self.engine.name}-{name}.png")

    def open(self, path: str = "/") -> None:
        self.engine.go(self.live_server_url + path)
        self.engine.run(WATCH)

    def tearDown(self) -> None:
        self.see(f"end of {self.id().rpartition('.')[2]}")  # type: ignore[attr-defined]
        problems = self.engine.run("() => window.ridgeProblems || []")
        assert problems == [], problems

    def open_sample(self, title: str) -> None:
        self.open()
        self.engine.press("button", f"Open a copy of {title}")
        self.engine.until(lambda: self.engine.count("[data-testid=curve]"), "the curve")

    def saved(self) -> None:
        self.engine.until(lambda: self.engine.count("[data-testid=saving][data-state=saved]"), "saved")

    def test_from_readings_to_an_answer(self) -> None:
        one = self.engine
        self.open()
        one.press("button", "New study")
        one.place("[role=grid]", "Readings")
        for x, y in ((1, 2.1), (2, 3.9), (3, 6.2), (4, 7.8), (5, 10.1), (6, 11.9)):
            one.keys(str(x), "Tab", str(y), "Enter")
        self.saved()
        one.expect_text(PAGE, "1.98 ± 0.04")
        one.expect_text(PAGE, "Three readings lie above it and three below")
        self.see("typed")
        one.press("textbox", "x, given")
        one.keys("8")
        one.expect_text("[data-testid=asked]", "y = 15.9 (95 % prediction interval")
        one.press("button", "Keep")
        self.saved()
        one.expect_text(PAGE, "At x = 8, y = 15.9 (95 % prediction interval")
        self.see("kept")
        self.open(str(one.run("() => location.pathname")))
        one.expect_text(PAGE, "At x = 8, y = 15.9 (95 % prediction interval")
        one.press("button", "Undo")
        one.until(lambda: "At x = 8" not in one.text(PAGE), "the answer undone")
        one.press("button", "Redo")
        one.expect_text(PAGE, "At x = 8, y = 15.9 (95 % prediction interval")

    def test_models_views_and_what_goes_out(self) -> None:
        one = self.engine
        self.open_sample("Tide at the pontoon")
        one.expect_text(PAGE, "12.40 ± 0.03")
        self.see("tide")
        one.press("button", "Add a model")
        one.press("menuitem", "line")
        one.until(lambda: one.count("[data-fit=B] [data-testid=curve]"), "the curve of B")
        self.saved()
        for lens, said in (
            ("Residuals", "residual"),
            ("Compare", "leave-one-out error"),
            ("Resample", "subsets"),
            ("Report", ""),
            ("Plot", ""),
        ):
            one.press("radio", lens)
            one.expect_text("main", said)
            self.see(lens.lower())
        one.press("button", "All models for fit A")
        one.expect_text("[role=dialog]", "by AICc")
        self.see("gallery")
        one.keys("Escape")
        one.until(lambda: not one.count("[role=dialog]"), "the gallery closed")
        focused = "() => document.activeElement.getAttribute('aria-label')"
        one.until(
            lambda: one.run(focused) == "All models for fit A",
            f"the focus where it was, not at {one.run('() => document.activeElement.outerHTML.slice(0, 200)')}",
        )
        for path in ("figure.svg", "report.pdf", "readings.xlsx", "study.json"):
            status = one.run(
                "(path) => { const request = new XMLHttpRequest();"
                " request.open('GET', '/api' + location.pathname.replace('study', 'studies') + '/' + path, false); request.send(); return request.status; }",
                path,
            )
            assert status == 200, path

    def test_the_plot_by_pointer(self) -> None:
        one = self.engine
        self.open_sample("A draining bucket")
        box = one.place("[role=application]", "")
        ticks = "[role=application] text"
        before = one.text(ticks)
        one.drag((box["x"], box["y"]), (box["x"] + 120, box["y"] + 40))
        one.until(lambda: one.text(ticks) != before, "another view")
        one.press("button", "All readings")
        one.until(lambda: one.text(ticks) == before, "the whole view")
        one.press("radio", "Add readings")
        count = one.count("[role=application] g[data-status=used]")
        one.click(box["x"] + 60, box["y"] - 60)
        one.until(lambda: one.count("[role=application] g[data-status=used]") == count + 1, "one reading more")
        self.saved()
        self.see("added")


class InFirefox(MainJob, LiveServerTestCase):
    made = Firefox


class InWebKit(MainJob, LiveServerTestCase):
    made = WebKit
