"""What a test asks of a browser, whichever engine it has; scripts and actions are those of W3C WebDriver."""

from __future__ import annotations

import base64
import json
import time
from abc import ABC, abstractmethod
from collections.abc import Callable
from pathlib import Path
from typing import Any

PATIENCE = 30.0
"""Seconds after which what is waited for is held not to come."""
KEYS = {"Enter": "\ue007", "Tab": "\ue004", "Escape": "\ue00c", "Control": "\ue009", "ArrowDown": "\ue015"}

FIND = """(role, name, within) => {
  const roots = within ? document.querySelectorAll(within) : [document];
  const tags = {button: 'button, [role=button], summary', link: 'a', menuitem: '[role=menuitem]', radio: '[role=radio], input[type=radio]',
    textbox: 'input, textarea', combobox: 'select', region: '[role=region], section', dialog: '[role=dialog]'};
  const called = (one) => (one.getAttribute('aria-label') || (one.labels && one.labels[0] && one.labels[0].textContent)
    || one.textContent || '').replace(/\\s+/g, ' ').trim();
  for (const root of roots) for (const one of root.querySelectorAll(tags[role] || role)) {
    const box = one.getBoundingClientRect();
    if (box.width && box.height && (called(one) === name || !name)) {
      one.scrollIntoView({block: 'nearest'});
      const at = one.getBoundingClientRect();
      return {x: Math.round(at.x + at.width / 2), y: Math.round(at.y + at.height / 2), width: at.width, height: at.height,
        disabled: one.disabled || one.getAttribute('aria-disabled') === 'true'};
    }
  }
  return null;
}"""


class Engine(ABC):
    """A browser with one page."""

    name: str

    @abstractmethod
    def go(self, address: str) -> None:
        """Open a page and wait until it is loaded."""

    @abstractmethod
    def run(self, function: str, *given: object) -> Any:
        """What a function of the page gives back, as JSON."""

    @abstractmethod
    def act(self, actions: list[dict[str, Any]]) -> None:
        """Actions of pointer and keys, as WebDriver's command "perform actions" takes them."""

    @abstractmethod
    def picture(self) -> bytes:
        """What is seen, as PNG."""

    @abstractmethod
    def close(self) -> None: ...

    # What a user does and sees, in words.

    def until(self, wanted: Callable[[], Any], what: str) -> Any:
        """Wait until something holds."""
        end = time.monotonic() + PATIENCE
        while time.monotonic() < end:
            if found := wanted():
                return found
            time.sleep(0.1)
        raise AssertionError(f"{self.name}: {what} did not come")

    def place(self, role: str, name: str, within: str = "") -> dict[str, Any]:
        """The middle of something that is seen, found by its role and name, when it can be used."""

        def found() -> dict[str, Any] | None:
            one: dict[str, Any] | None = self.run(FIND, role, name, within)
            return one if one and not one["disabled"] else None

        found_there: dict[str, Any] = self.until(found, f"{role} {name!r}")
        return found_there

    def press(self, role: str, name: str, within: str = "") -> None:
        at = self.place(role, name, within)
        self.click(at["x"], at["y"])

    def click(self, x: float, y: float) -> None:
        self.drag((x, y), (x, y))

    def drag(self, start: tuple[float, float], end: tuple[float, float]) -> None:
        moves = [
            start,
            *((start[0] + (end[0] - start[0]) * k / 4, start[1] + (end[1] - start[1]) * k / 4) for k in (1, 2, 3, 4)),
        ]
        steps: list[dict[str, Any]] = [_to(*start), {"type": "pointerDown", "button": 0}]
        steps += [_to(*at) for at in (moves[1:] if start != end else [])]
        steps.append({"type": "pointerUp", "button": 0})
        self.act([{"type": "pointer", "id": "mouse", "parameters": {"pointerType": "mouse"}, "actions": steps}])

    def keys(self, *pressed: str) -> None:
        """Texts and names of ``KEYS``, one after the other; ``Control+z`` holds the first."""
        steps: list[dict[str, str]] = []
        for one in pressed:
            held, _, last = one.rpartition("+") if len(one) > 1 and one.split("+")[0] in KEYS else ("", "", one)
            letters = [KEYS[last]] if last in KEYS else list(last)
            if held:
                steps.append({"type": "keyDown", "value": KEYS[held]})
            for letter in letters:
                steps += [{"type": "keyDown", "value": letter}, {"type": "keyUp", "value": letter}]
            if held:
                steps.append({"type": "keyUp", "value": KEYS[held]})
        self.act([{"type": "key", "id": "keyboard", "actions": steps}])

    def text(self, css: str) -> str:
        return str(
            self.run("(css) => [...document.querySelectorAll(css)].map((one) => one.textContent).join(' ')", css)
        )

    def expect_text(self, css: str, wanted: str) -> None:
        self.until(lambda: wanted in self.text(css), f"{wanted!r} in {css}, which says {self.text(css)[:600]!r}")

    def count(self, css: str) -> int:
        return int(self.run("(css) => document.querySelectorAll(css).length", css))

    def keep_picture(self, path: Path) -> None:
        path.write_bytes(self.picture())


def _to(x: float, y: float) -> dict[str, Any]:
    return {"type": "pointerMove", "x": round(x), "y": round(y), "duration": 30}


def as_expression(function: str, given: tuple[object, ...]) -> str:
    """A call of a function as text; what it gives back is JSON."""
    return f"JSON.stringify(({function})(...{json.dumps(given)}) ?? null)"


def from_base64(text: str) -> bytes:
    return base64.b64decode(text)
