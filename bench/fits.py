"""Fits on screen: a handle turned, an answer dragged, the gallery of all models ranked, a formula while it is typed."""

from __future__ import annotations

import random
import time
from collections.abc import Iterator
from statistics import median

from playwright.sync_api import Page, sync_playwright

from bench.dragging import dragged
from bench.timing import percentile
from tests.chromium import launch
from tests.served import Visitor, server


def study_of(visitor: Visitor, readings: int) -> str:
    """A study with so many readings about a line."""
    study: str = visitor.ask("POST", "/api/studies", {})["id"]
    draw = random.Random(1)
    block = [[f"{i / 10}", f"{2 + i / 7 + draw.gauss(0, 1):.3f}"] for i in range(readings)]
    change = {"kind": "set_cells", "row": 0, "column": 0, "block": block}
    visitor.ask("POST", f"/api/studies/{study}/changes", {"version": 0, "change": change})
    return study


def sideways() -> Iterator[tuple[float, float]]:
    return ((i % 30 + 1, 0) for i in range(50))


def turned(page: Page, address: str, pause: int) -> list[float]:
    """Milliseconds from a move of the pointer to the redrawn curve, residuals and R²."""
    page.goto(address)
    page.get_by_test_id("curve").wait_for(state="attached")
    page.get_by_test_id("by-hand").wait_for()
    page.wait_for_timeout(1500)
    return dragged(
        page, page.get_by_role("slider").first, ["[data-testid=by-hand]", "[data-testid=curve]"], sideways(), pause
    )


def answered(page: Page, address: str) -> list[float]:
    """Milliseconds from a move of the pointer to the answer in words and its mark on the plot."""
    page.goto(address)
    page.get_by_test_id("curve").wait_for(state="attached")
    page.get_by_label("x, given").fill("40")
    page.get_by_test_id("asked-holder").wait_for()
    page.wait_for_timeout(1500)
    return dragged(
        page, page.get_by_test_id("asked-holder"), ["[data-testid=asked]", "[data-testid=drop-asked]"], sideways(), 150
    )


def gallery(visitor: Visitor, study: str) -> float:
    """Seconds until every model of the catalogue is laid over the readings and ranked, asked as the gallery asks."""
    start = time.perf_counter()
    keys = [entry["key"] for entry in visitor.ask("GET", "/api/catalogue") if entry["tried"]]
    for key in keys:
        visitor.ask("GET", f"/api/studies/{study}/candidates/{key}")
    visitor.ask("GET", f"/api/studies/{study}/ranking")
    return time.perf_counter() - start


def run() -> None:
    with server() as port, sync_playwright() as playwright:
        browser = launch(playwright)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        for readings, goal, pause in ((1_000, 50, 150), (100_000, 200, 700)):
            visitor = Visitor(port)  # a connection does not outlive the pauses
            study = study_of(visitor, readings)
            change = {"kind": "set_fit", "letter": "A", "by_hand": True}
            visitor.ask("POST", f"/api/studies/{study}/changes", {"version": 1, "change": change})
            times = turned(page, f"http://127.0.0.1:{port}/study/{study}", pause)
            print(
                f"A handle turned at {readings} readings, to curve, residuals and R²: median {median(times):.0f} ms, "
                f"p95 {percentile(times, 0.95):.0f} ms (goal {goal})"
            )
        visitor = Visitor(port)
        times = answered(page, f"http://127.0.0.1:{port}/study/{study_of(visitor, 1_000)}")
        print(
            f"An answer dragged at 1 000 readings: median {median(times):.0f} ms, p95 {percentile(times, 0.95):.0f} ms (goal 50)"
        )
        browser.close()
        visitor = Visitor(port)
        seconds = [gallery(visitor, study_of(visitor, 1_000)) for _ in range(3)]
        print(f"Gallery of all models at 1 000 readings, ranked: {median(seconds):.2f} s (goal 1)")
        study = study_of(visitor, 1_000)
        times = []
        for end in range(5, 24):
            body = {"letter": "A", "text": "a*exp(-k*x) + b*sin(x)"[:end]}
            start = time.perf_counter()
            visitor.ask("POST", f"/api/studies/{study}/formula", body)
            times.append((time.perf_counter() - start) * 1e3)
        print(
            f"A formula read and checked while it is typed: median {median(times):.0f} ms, slowest {max(times):.0f} ms"
        )
