"""A photograph of twelve million pixels under the plot: how long until it lies there, frames while the view moves, a pick dragged, a
line followed, and what it takes of the server's memory."""

from __future__ import annotations

import io
import math
import time
from statistics import median

import numpy as np
from PIL import Image, ImageDraw
from playwright.sync_api import Page, sync_playwright

from bench.dragging import dragged
from bench.large import frames, memory
from bench.timing import percentile
from ridge.pictures import follow_line, open_picture
from tests.chromium import launch
from tests.served import server

WIDTH, HEIGHT = 4000, 3000


def photograph() -> bytes:
    """Made up: soft shades with grain, and a curve drawn over them."""
    draw = np.random.default_rng(1)
    shades = draw.integers(150, 230, (HEIGHT // 100, WIDTH // 100, 3), dtype=np.uint8)
    image = Image.fromarray(shades, "RGB").resize((WIDTH, HEIGHT), Image.Resampling.BICUBIC)
    grain = draw.normal(0, 4, (HEIGHT, WIDTH, 1))
    image = Image.fromarray(np.clip(np.asarray(image) + grain, 0, 255).astype(np.uint8), "RGB")
    places = [(x, 1500 + 900 * math.sin(x / 700)) for x in range(200, 3801, 4)]
    ImageDraw.Draw(image).line(places, fill=(20, 40, 90), width=9, joint="curve")
    out = io.BytesIO()
    image.save(out, "JPEG", quality=88)
    return out.getvalue()


def lay(page: Page, base: str, data: bytes) -> float:
    """Seconds from choosing the file until the picture is on the plot and decoded."""
    page.goto(base)
    page.get_by_role("button", name="New study", exact=True).click()
    field = page.get_by_label("A file to begin with")
    field.wait_for(state="attached")
    begin = time.perf_counter()
    field.set_input_files({"name": "photograph.jpg", "mimeType": "image/jpeg", "buffer": data})
    page.get_by_test_id("picture").wait_for(state="attached")
    page.evaluate(
        "async () => { const one = new Image(); one.src = document.querySelector('[data-testid=picture] image').href.baseVal; await one.decode(); }"
    )
    page.evaluate("() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)))")
    return time.perf_counter() - begin


def pick_dragged(page: Page) -> list[float]:
    """Milliseconds from a move of the pointer to the redrawn curve, with a dozen picks on the picture."""
    box = page.get_by_role("application").bounding_box()
    assert box
    page.get_by_role("radio", name="Pick").click()
    for i in range(12):
        page.mouse.click(box["x"] + 110 + 34 * i, box["y"] + 160 + 40 * math.sin(i / 2))
        page.wait_for_timeout(120)
    page.get_by_role("radio", name="Move a reading").click()
    mark = page.locator("g[data-status=used][data-row='5'] circle")
    return dragged(page, mark, ["[data-testid=curve]"], ((0, -2 * (i + 1)) for i in range(60)), 60)


def run() -> None:
    data = photograph()
    with server() as port, sync_playwright() as playwright:
        before = memory(port)
        browser = launch(playwright)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.set_default_timeout(60_000)
        taken = [lay(page, f"http://127.0.0.1:{port}", data) for _ in range(3)]
        print(
            f"\nA photograph of {WIDTH} × {HEIGHT} pixels, {len(data) / 1e6:.1f} MB, on the plot: median {median(taken):.2f} s (goal 2)"
        )
        print(f"Largest server process: {before:.0f} MB before, {memory(port):.0f} MB then (goal 400)")
        for move, word in (("pan", "panned"), ("zoom", "zoomed")):
            times = [one for _ in range(3) for one in frames(page, move)]
            print(
                f"Frames while it is {word}: median {median(times):.1f} ms, p95 {percentile(times, 0.95):.1f} ms (goal 17)"
            )
        times = pick_dragged(page)
        print(
            f"A pick dragged, to the redrawn curve: median {median(times):.0f} ms, p95 {percentile(times, 0.95):.0f} ms (goal 50)"
        )
        browser.close()
    picture = open_picture(data)
    begin = time.perf_counter()
    line = follow_line(picture, (2000, 1500 + 900 * math.sin(2000 / 700)), count=200)
    length = float(np.hypot(*np.diff(line.points, axis=0).T).sum())
    print(f"A line followed over {length:.0f} pixels: {time.perf_counter() - begin:.2f} s (goal 1 for 2 000)")


if __name__ == "__main__":
    run()
