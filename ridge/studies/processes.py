"""Processes beside this one that carry out what takes its time: begun when they are first needed, replaced when they are beyond mending."""

from __future__ import annotations

import multiprocessing
from collections.abc import Callable
from threading import Lock
from typing import Any

from pebble import ProcessPool


class Processes:
    """``count`` of them, each having called ``begin(*given)`` before anything else; ``loaded``: modules that all of them share."""

    def __init__(self, count: int, begin: Callable[..., None], given: tuple[Any, ...], loaded: list[str]) -> None:
        self._count, self._begin, self._given, self._loaded = count, begin, given, loaded
        self._lock = Lock()
        self._pool: ProcessPool | None = None

    def running(self) -> ProcessPool:
        with self._lock:
            if self._pool is None:
                context = multiprocessing.get_context("forkserver")
                context.set_forkserver_preload(self._loaded)
                self._pool = ProcessPool(self._count, initializer=self._begin, initargs=self._given, context=context)
            return self._pool

    def replace(self, pool: ProcessPool) -> None:
        """Those that are asked next are new; what these have been asked already they still finish."""
        with self._lock:
            if self._pool is pool:
                self._pool = None
        pool.close()  # type: ignore[no-untyped-call]
        pool.stop()  # type: ignore[no-untyped-call]
