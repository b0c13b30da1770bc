"""How much work a search may do before it stops with the best it has: the same on every machine, however busy it is."""

from __future__ import annotations

CALL = 1500
"""Numbers that could be added up in the time that one operation takes to begin."""

STEP = 120
"""Operations whose beginning takes as long as all that one step of a search does besides."""

USUAL = 1.7e9
"""What one fit may cost in a search of its own: one to two seconds on an ordinary machine."""
ON_ALL = 5e8
"""What of it may go into work on all readings at once: what a search comes down to still has to be polished, whatever it cost."""
REFIT = 2e8
"""What one of many refits may cost, each begun at a known fit."""
QUESTION = 1e9
"""What all refits of one question may cost."""
QUICK, UNCHECKED = 5e7, 0.0
"""The same where somebody waits for the answer, and is told more later; and where nothing is to be refitted."""


class Effort:
    """Up to ``most`` additions of single numbers, or what takes as long; None for no limit. ``missed`` tells afterwards whether it cut anything
    short. What is spent counts for the effort that this one is part of, too, and ends with it."""

    def __init__(self, most: float | None = None, whole: Effort | None = None) -> None:
        self._left = float("inf") if most is None else most
        self._whole = whole
        self._on_all: Effort | None = None
        self.missed = False

    def part(self, most: float) -> Effort:
        """So much of this effort, for one of several things."""
        return Effort(most, self)

    @property
    def on_all(self) -> Effort:
        """The part of it for work on all readings at once; when that is spent, so is this."""
        if self._on_all is None:
            self._on_all = self.part(ON_ALL)
        return self._on_all

    def spend(self, operations: int, numbers: int) -> None:
        """So many operations, each as quick as an addition, on arrays of so many numbers."""
        cost = operations * (numbers + CALL)
        self._left -= cost
        if self._whole is not None:
            self._whole.spend(operations, numbers)

    @property
    def passed(self) -> bool:
        if self._spent or (self._on_all is not None and self._on_all._left < 0):
            self.missed = True
        return self.missed

    @property
    def _spent(self) -> bool:
        return self._left < 0 or (self._whole is not None and self._whole._spent)
