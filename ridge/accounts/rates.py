"""How often something may be done: so many times a minute by each person, or from each address."""

from __future__ import annotations

from collections.abc import Hashable
from threading import Lock
from time import monotonic

MINUTE = 60.0


class TooOften(Exception):
    """The message says what happened and when to try again."""


class Rate:
    """At most ``most`` times in a minute for each of whom it is asked. Counted in each process on its own, and forgotten with it."""

    def __init__(self, most: int) -> None:
        self.most = most
        self._lock = Lock()
        self._began = monotonic()
        self._counts: dict[Hashable, int] = {}

    def is_kept(self, whose: Hashable) -> bool:
        """Count one time more; whether that is still within the rate."""
        with self._lock:
            now = monotonic()
            if now - self._began >= MINUTE:
                self._began = now
                self._counts.clear()
            count = self._counts.get(whose, 0) + 1
            self._counts[whose] = count
            return count <= self.most

    def has_room(self, whose: Hashable) -> bool:
        """Whether one time more would be within the rate; it is not counted."""
        with self._lock:
            return monotonic() - self._began >= MINUTE or self._counts.get(whose, 0) < self.most
