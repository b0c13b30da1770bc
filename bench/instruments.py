"""Instruments: from a reading to its point on the screen, and thirty that post at once while others work."""

from __future__ import annotations

import json
import threading
import time
from http.client import HTTPConnection
from statistics import median

from playwright.sync_api import Page, sync_playwright

from bench.timing import percentile
from tests.chromium import launch
from tests.served import Visitor, server

POSTING, SECONDS = 30, 20

# When each new point appeared, by the page's own clock.
WATCH = """() => {
    window.points = [];
    let seen = 0;
    new MutationObserver(() => {
        const now = document.querySelectorAll("[role=application] g[data-status=used]").length;
        for (; seen < now; seen++) window.points.push(performance.timeOrigin + performance.now());
    }).observe(document.body, { childList: true, subtree: true });
}"""


def on_screen(page: Page, base: str) -> list[float]:
    """Milliseconds from a reading to its point, at ten readings a second, in a run of 60."""
    page.goto(base)
    page.get_by_role("button", name="New study", exact=True).click()
    page.get_by_role("button", name="Read an instrument").click()
    page.get_by_label("Which instrument").select_option("light")
    page.get_by_label("Seconds from one reading to the next").fill("0.1")
    page.evaluate(WATCH)
    with page.expect_response("**/run") as started:
        page.get_by_role("button", name="Start").click()
    began = time.time() * 1e3
    started.value.finished()
    page.wait_for_timeout(8000)
    points: list[float] = page.evaluate("() => window.points")
    # x is the distance: 0.6 m and 0.025 m more with each reading, so that a row tells when it was read.
    cells = page.evaluate(
        "() => [...document.querySelectorAll('[data-cell$=\" 0\"]')].map((one) => one.querySelector('input')?.value ?? one.textContent)"
    )
    numbers = [round((float(text) - 0.6) / 0.025) for text in cells if text and text.strip()]
    rows = min(len(numbers), len(points))
    return [points[row] - (began + 100 * numbers[row]) for row in range(rows)][5:]


def posting(port: int) -> None:
    """Thirty keys, each a reading a second; meanwhile somebody else asks."""
    visitor = Visitor(port)
    keys = []
    for _ in range(POSTING):
        study = visitor.ask("POST", "/api/studies", {})["id"]
        keys.append(visitor.ask("POST", f"/api/studies/{study}/keys", {})["key"])
    times: list[float] = []
    wrong: list[int] = []

    def send(key: str, first: float) -> None:
        connection = HTTPConnection("127.0.0.1", port)
        for step in range(SECONDS):
            time.sleep(max(0.0, first + step - time.perf_counter()))
            begin = time.perf_counter()
            body = json.dumps({"readings": [{"x": step, "y": step * 0.5}]})
            headers = {"Authorization": f"Bearer {key}", "Content-Type": "application/json"}
            connection.request("POST", "/api/readings", body, headers)
            answer = connection.getresponse()
            answer.read()
            times.append((time.perf_counter() - begin) * 1e3)
            if answer.status != 201:
                wrong.append(answer.status)

    start = time.perf_counter() + 1
    threads = [threading.Thread(target=send, args=(key, start + i / POSTING)) for i, key in enumerate(keys)]
    for thread in threads:
        thread.start()
    others = []
    while any(thread.is_alive() for thread in threads):
        begin = time.perf_counter()
        visitor.ask("GET", "/api/shelf")
        others.append((time.perf_counter() - begin) * 1e3)
        time.sleep(0.2)
    print(
        f"{POSTING} instruments at a reading a second: {len(wrong)} errors of {len(times)} requests, median {median(times):.0f} ms, p95 {percentile(times, 0.95):.0f} ms"
    )
    print(
        f"Somebody else's shelf meanwhile: median {median(others):.0f} ms, p95 {percentile(others, 0.95):.0f} ms (goal 300)"
    )


def run() -> None:
    with server() as port, sync_playwright() as playwright:
        browser = launch(playwright)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.set_default_timeout(60_000)
        times = on_screen(page, f"http://127.0.0.1:{port}")
        print(
            f"\nFrom a reading to its point, at 10 a second: median {median(times):.0f} ms, p95 {percentile(times, 0.95):.0f} ms (goal 300)"
        )
        browser.close()
        posting(port)


if __name__ == "__main__":
    run()
