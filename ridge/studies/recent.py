"""A small memory of what was computed, by a key that names all of what it was computed from, so nothing in it goes stale."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Hashable
from threading import Lock
from typing import Generic, TypeVar

Key = TypeVar("Key", bound=Hashable)
Made = TypeVar("Made")


class Recent(Generic[Key, Made]):
    """Holds the last ``size`` values, shared by the threads of one process."""

    def __init__(self, size: int) -> None:
        self._size, self._held, self._lock = size, OrderedDict[Key, Made](), Lock()

    def get(self, key: Key) -> Made | None:
        with self._lock:
            if key in self._held:
                self._held.move_to_end(key)
            return self._held.get(key)

    def get_or_make(self, key: Key, make: Callable[[], Made], worth: Callable[[Made], bool] = lambda _: True) -> Made:
        """What is held, or else what ``make`` gives, which is held if it is ``worth`` it."""
        held = self.get(key)
        if held is not None:
            return held
        made = make()
        if worth(made):
            self.put(key, made)
        return made

    def forget(self) -> None:
        """Begin anew, as a process that has just started."""
        with self._lock:
            self._held.clear()

    def put(self, key: Key, value: Made) -> None:
        with self._lock:
            self._held[key] = value
            self._held.move_to_end(key)
            while len(self._held) > self._size:
                self._held.popitem(last=False)
