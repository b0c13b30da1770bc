"""Parts that are computed side by side: one that fails in a way nobody foresaw takes only itself down."""

from __future__ import annotations

import logging
from collections.abc import Callable
from typing import TypeVar

log = logging.getLogger(__name__)
Made = TypeVar("Made")

FAILED = "Ridge failed on these numbers. They are safe, and the failure is noted; it is our mistake, not yours."


class Failures(list[str]):
    """The parts that failed, in words, in the order in which they were tried. What holds any is not to be remembered."""

    def apart(self, part: str, make: Callable[[], Made], otherwise: Callable[[], Made]) -> Made:
        """What ``make`` gives; where that fails, the failure is noted and ``otherwise`` stands in its place."""
        try:
            return make()
        except Exception:
            log.exception("%s failed", part)
            self.append(part)
            return otherwise()
