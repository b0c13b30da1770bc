"""Debian's Chromium without a window, for tests, bench and pictures.

Its headless shell has no toolbars of its own, which would take as much of the machine as the page; where that package is missing, the
whole browser does the same.
"""

from __future__ import annotations

import os
import shutil

from playwright.sync_api import Browser, Playwright

PROGRAMS = ("chromium-headless-shell", "chromium")
FLAGS = (
    "--no-sandbox",
    "--disable-gpu",
    "--font-render-hinting=none",  # letters as wide as a window would show them
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
)

SLOW_HANDS = float(os.environ.get("RIDGE_SLOW_HANDS", "0"))
"""Milliseconds between what a test does and what it does next: what is true only for a moment is seen to have gone."""


def launch(playwright: Playwright) -> Browser:
    """A browser of its own, with nothing remembered."""
    program = next(filter(None, map(shutil.which, PROGRAMS)), None)
    return playwright.chromium.launch(executable_path=program, args=FLAGS, slow_mo=SLOW_HANDS)
