"""A small memory of what was made for a study at a version. Versions are never reused, so nothing in it goes stale."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable
from threading import Lock
from typing import Generic, TypeVar
from uuid import UUID

Made = TypeVar("Made")


class Recent(Generic[Made]):
    """Holds the last ``size`` values, shared by the threads of one process."""

    def __init__(self, size: int) -> None:
        self._size, self._held, self._lock = size, OrderedDict[tuple[UUID, int], Made](), Lock()

    def get_or_make(self, key: tuple[UUID, int], make: Callable[[], Made]) -> Made:
        with self._lock:
            if key in self._held:
                self._held.move_to_end(key)
                return self._held[key]
        made = make()
        self.put(key, made)
        return made

    def put(self, key: tuple[UUID, int], value: Made) -> None:
        with self._lock:
            self._held[key] = value
            self._held.move_to_end(key)
            while len(self._held) > self._size:
                self._held.popitem(last=False)
