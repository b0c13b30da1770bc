"""A small memory of what was computed, by a key that names all of what it was computed from, so nothing in it goes stale."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Hashable
from threading import Lock
from typing import Generic, TypeVar

from ridge.core.decimal_sign import decimal_sign

Key = TypeVar("Key", bound=Hashable)
Made = TypeVar("Made")


class Recent(Generic[Key, Made]):
    """Holds what was used last, shared by the threads of one process: as much as there is ``room`` for, each by its weight and one at
    least. ``worded``: what is held has numbers in words, so that it is held once for each decimal sign."""

    def __init__(self, room: int, *, worded: bool = False) -> None:
        self._room, self._worded, self._lock = room, worded, Lock()
        self._held, self._weight = OrderedDict[Hashable, tuple[Made, int]](), 0

    def _named(self, key: Key) -> Hashable:
        return (decimal_sign(), key) if self._worded else key

    def get(self, key: Key) -> Made | None:
        named = self._named(key)
        with self._lock:
            if named not in self._held:
                return None
            self._held.move_to_end(named)
            return self._held[named][0]

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
        named = self._named(key)
        with self._lock:
            _, before = self._held.pop(named, (None, 0))
            self._held[named] = value, weight
            self._weight += weight - before
            while self._weight > self._room and len(self._held) > 1:
                _, (_, lighter) = self._held.popitem(last=False)
                self._weight -= lighter
