"""A time after which a search stops with the best it has."""

from __future__ import annotations

import time


class Deadline:
    """``seconds`` from now; None never passes. ``missed`` tells afterwards whether it cut anything short."""

    def __init__(self, seconds: float | None = None) -> None:
        self._end = None if seconds is None else time.monotonic() + seconds
        self.missed = False

    @property
    def passed(self) -> bool:
        if self._end is not None and time.monotonic() > self._end:
            self.missed = True
        return self.missed
