"""A small memory of what was computed, by a key that names all of what it was computed from, so nothing in it goes stale."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Hashable
from threading import Lock
from typing import Generic, TypeVar

Key = TypeVar("Key", bound=Hashable)
Made = TypeVar("Made")


class Recent(Generic[Key, Made]):
    """Holds what was used last, shared by the threads of one process: as much as there is ``room`` for, each by its weight and one at
    least."""

    def __init__(self, room: int) -> None:
        self._room, self._lock = room, Lock()
        self._held, self._weight = OrderedDict[Key, tuple[Made, int]](), 0

    def get(self, key: Key) -> Made | None:
        with self._lock:
            if key not in self._held:
                return None
            self._held.move_to_end(key)
            return self._held[key][0]

    def get_or_make(
        self, key: Key, make: Callable[[], Made], worth: Callable[[Made], bool] = lambda _: True, weight: int = 1
    ) -> Made:
        """What is held, or else what ``make`` gives, which is held if it is ``worth`` it."""
        held = self.get(key)
        if held is not None:
            return held
        made = make()
        if worth(made):
            self.put(key, made, weight)
        return made

    def forget(self) -> None:
        """Begin anew, as a process that has just started."""
        with self._lock:
            self._held.clear()
            self._weight = 0

    def put(self, key: Key, value: Made, weight: int = 1) -> None:
        with self._lock:
            _, before = self._held.pop(key, (None, 0))
            self._held[key] = value, weight
            self._weight += weight - before
            while self._weight > self._room and len(self._held) > 1:
                _, (_, lighter) = self._held.popitem(last=False)
                self._weight -= lighter
