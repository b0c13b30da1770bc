"""Child processes for long work: started when first needed, limited in processor time, and never outliving the server."""

from __future__ import annotations

import multiprocessing
import resource
import signal
from collections.abc import Callable
from concurrent.futures.process import BrokenProcessPool
from ctypes import CDLL
from math import ceil
from multiprocessing import forkserver
from threading import Lock
from typing import Any, TypeVar

from pebble import ProcessExpired, ProcessFuture, ProcessPool

BUSY = 10
"""Seconds of the clock allowed for each second of processor time: a busy machine is slow, not wrong."""
_PR_SET_PDEATHSIG = 1
Result = TypeVar("Result")

Broken = (BrokenProcessPool, RuntimeError)
"""Exceptions of ``schedule`` and its future where the pool can no longer be used."""


class Processes:
    """A pool of ``count`` processes, each having called ``begin(*given)`` first; ``loaded``: modules that all of them share."""

    def __init__(self, count: int, begin: Callable[..., None], given: tuple[Any, ...], loaded: list[str]) -> None:
        self._count, self._begin, self._given, self._loaded = count, begin, given, loaded
        self._lock = Lock()
        self._pool: ProcessPool | None = None

    def running(self) -> ProcessPool:
        """Return the pool, started if need be. Its processes may take seconds to start: schedule nothing while others wait."""
        with self._lock:
            if self._pool is None:
                context = multiprocessing.get_context("forkserver")
                context.set_forkserver_preload(["ridge.studies.end_with_parent", *self._loaded])
                # Ctrl+C reaches every process of the terminal; the server alone answers it. The children inherit the mask.
                before = signal.pthread_sigmask(signal.SIG_BLOCK, {signal.SIGINT})
                try:
                    forkserver.ensure_running()
                finally:
                    signal.pthread_sigmask(signal.SIG_SETMASK, before)
                self._pool = ProcessPool(
                    self._count, initializer=_start, initargs=(self._begin, self._given), context=context
                )
            return self._pool

    def replace(self, pool: ProcessPool) -> None:
        """Use new processes from now on; the old ones finish what they were asked."""
        with self._lock:
            if self._pool is pool:
                self._pool = None
        pool.close()  # type: ignore[no-untyped-call]
        pool.stop()  # type: ignore[no-untyped-call]


def schedule(pool: ProcessPool, seconds: float, function: Callable[..., Result], *given: Any) -> ProcessFuture[Result]:
    """Call a function in one of the processes, for at most so many seconds of processor time.

    The future raises ProcessExpired where the process ended, see ``ran_out``, and TimeoutError after ``BUSY`` times as long by the
    clock.
    """
    return pool.schedule(_within, (seconds, function, given), timeout=BUSY * seconds)


def ran_out(expired: ProcessExpired) -> bool:
    """Return whether a process ended because it used up its processor time."""
    return bool(expired.exitcode == -signal.SIGXCPU)


def _start(begin: Callable[..., None], given: tuple[Any, ...]) -> None:
    CDLL(None).prctl(_PR_SET_PDEATHSIG, signal.SIGKILL)
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    begin(*given)


def _within(seconds: float, function: Callable[..., Result], given: tuple[Any, ...]) -> Result:
    """Call a function; the kernel ends this process with SIGXCPU when it has used so many more seconds of processor time."""
    used = resource.getrusage(resource.RUSAGE_SELF)
    _, most = resource.getrlimit(resource.RLIMIT_CPU)
    resource.setrlimit(resource.RLIMIT_CPU, (ceil(used.ru_utime + used.ru_stime + seconds), most))
    return function(*given)
