"""The running application: previews through HTTP, the size of the script, a study's plot on screen."""

from __future__ import annotations

import gzip
import json
import random
import time
from pathlib import Path
from statistics import median

from playwright.sync_api import sync_playwright

from bench.timing import milliseconds, percentile
from tests.chromium import launch
from tests.served import Visitor, server

ROOT = Path(__file__).parent.parent


def previews(port: int, readings: int, repeats: int, what: str) -> list[float]:
    """Milliseconds for ``what``: "preview", all that is said of a change, or "moving", what is drawn of it."""
    visitor = Visitor(port)
    study = visitor.ask("POST", "/api/studies", {})["id"]
    draw = random.Random(1)
    block = [[f"{i / 10}", f"{2 + i / 7 + draw.gauss(0, 1):.3f}"] for i in range(readings)]
    change = {"kind": "set_cells", "row": 0, "column": 0, "block": block}
    visitor.ask("POST", f"/api/studies/{study}/changes", {"version": 0, "change": change})

    def preview(i: int) -> float:
        body = {"version": 1, "change": {"kind": "set_cells", "row": 5, "column": 1, "block": [[f"{3 + i / 100}"]]}}
        seen = {"low": -10, "high": readings / 10 + 10} if what == "moving" else {}
        return milliseconds(lambda: visitor.ask("POST", f"/api/studies/{study}/{what}", {**body, **seen}))

    return [preview(i) for i in range(repeats)]


def plot_on_screen(port: int, repeats: int) -> list[float]:
    """From opening a demo study's address to its curve in the page."""
    times = []
    with sync_playwright() as playwright:
        browser = launch(playwright)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(f"http://127.0.0.1:{port}/")
        path = page.get_by_role("link", name="Stretch of the mooring line").get_attribute("href")
        for _ in range(repeats):
            start = time.perf_counter()
            page.goto(f"http://127.0.0.1:{port}{path}", wait_until="commit")
            page.get_by_test_id("curve").wait_for(state="attached")
            times.append((time.perf_counter() - start) * 1e3)
        browser.close()
    return times


def script_size(*entries: str) -> float:
    """Gzipped kilobytes of the scripts that are loaded before anything is shown: those of the entries and all that they import."""
    dist = ROOT / "web" / "dist"
    manifest = json.loads((dist / "manifest.json").read_text())
    wanted, left = set(), list(entries)
    while left:
        if (one := left.pop()) not in wanted:
            wanted.add(one)
            left += manifest[one].get("imports", [])
    return sum(len(gzip.compress((dist / manifest[one]["file"]).read_bytes(), 9)) for one in wanted) / 1000


def run() -> None:
    shelf, study = script_size("src/main.tsx"), script_size("src/main.tsx", "src/bench/OpenBench.tsx")
    print(f"\nFirst script: {shelf:.0f} kB gzipped for the shelf, {study:.0f} kB for a study (goal 200)")
    with server() as port:
        for readings, repeats in ((1_000, 200), (100_000, 8)):
            for what, words in (("preview", "Preview"), ("moving", "What is drawn while a hand moves,")):
                times = previews(port, readings, repeats, what)[3:]
                print(
                    f"{words} through HTTP, {readings} readings: median {median(times):.0f} ms, p95 {percentile(times, 0.95):.0f} ms"
                    + (" (goal p95 50)" if readings == 1_000 else "")
                )
        times = plot_on_screen(port, 8)
        print(
            f"Demo study opened to plot on screen: median {median(times):.0f} ms, slowest {max(times):.0f} ms (goal 1000)"
        )
