"""How long after a move of the pointer the page has followed, as the page itself sees it."""

from __future__ import annotations

from collections.abc import Iterator

from playwright.sync_api import Locator, Page

# Nothing of the measurement runs between a move and its drawing: the page notes its own times.
WATCH = """(places) => {
    window.asked = 0;
    window.drawn = [];
    addEventListener("pointermove", () => { window.asked = performance.now(); window.seen = new Set(); }, true);
    for (const place of places) {
        const changed = () => {
            if (!window.asked || window.seen.has(place)) return;
            window.seen.add(place);
            const from = window.asked;
            if (window.seen.size === places.length) requestAnimationFrame(() => window.drawn.push(performance.now() - from));
        };
        const all = { subtree: true, characterData: true, childList: true, attributes: true };
        new MutationObserver(changed).observe(document.querySelector(place), all);
    }
}"""


def dragged(
    page: Page, holder: Locator, places: list[str], steps: Iterator[tuple[float, float]], pause: int
) -> list[float]:
    """Milliseconds from each move of the pointer until all ``places`` of the page have changed and are drawn.

    ``steps``: where the pointer goes, in pixels from the middle of ``holder``; ``pause``: milliseconds between them.
    """
    box = holder.bounding_box()
    assert box
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.evaluate(WATCH, places)
    for dx, dy in steps:
        page.mouse.move(x + dx, y + dy)
        page.wait_for_timeout(pause)
    page.mouse.up()
    found: list[float] = page.evaluate("() => window.drawn")
    return found[3:]
