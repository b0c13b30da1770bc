"""Parts that are computed side by side: one that fails in a way nobody foresaw takes only itself down."""

from __future__ import annotations

import logging
from collections.abc import Callable
from hashlib import blake2b
from pathlib import Path
from traceback import extract_tb
from typing import TypeVar

log = logging.getLogger(__name__)
Made = TypeVar("Made")

FAILED = "Ridge failed on these numbers. They are safe, and the failure is noted; it is our mistake, not yours."


def number_of(failure: BaseException) -> str:
    """A short name for a failure, the same for the same one at the same place: a person can tell it, and it is found in the log."""
    places = [(Path(frame.filename).name, frame.lineno) for frame in extract_tb(failure.__traceback__)]
    return blake2b(repr((type(failure).__name__, places)).encode(), digest_size=4).hexdigest()


class Failures(list[str]):
    """The parts that failed, in words, in the order in which they were tried. What holds any is not to be remembered."""

    def apart(self, part: str, make: Callable[[], Made], otherwise: Callable[[], Made]) -> Made:
        """What ``make`` gives; where that fails, the failure is noted and ``otherwise`` stands in its place."""
        try:
            return make()
        except Exception as failure:
            log.exception("%s failed, number %s", part, number_of(failure))
            self.append(part)
            return otherwise()
