"""Own formulas are fitted in a process of their own, so that a heavy one holds up nobody else and can be stopped."""

from __future__ import annotations

import contextlib
import multiprocessing
from collections.abc import Mapping
from concurrent.futures import ProcessPoolExecutor
from concurrent.futures import TimeoutError as TookTooLong
from concurrent.futures.process import BrokenProcessPool
from threading import Lock

from ridge.core import Fit, fit
from ridge.core.errors import NoFit
from ridge.core.models import Model
from ridge.core.readings import Readings

PROCESSES = 2
GRACE = 3.0
"""Seconds past its deadline after which a fit that does not stop by itself is ended."""

_lock = Lock()
_pool: ProcessPoolExecutor | None = None


def fit_in_worker(
    readings: Readings,
    model: Model,
    values: Mapping[str, float],
    bounds: Mapping[str, tuple[float, float]],
    method: str,
    seconds: float,
) -> Fit:
    """``ridge.core.fit`` in another process. Raises what it raises, and NoFit where the process had to be ended."""
    pool = _running()
    try:
        future = pool.submit(_fit, readings, model, dict(values), dict(bounds), method, seconds)
        return future.result(timeout=seconds + GRACE)
    except TookTooLong:
        _end(pool)
        raise NoFit(
            f"The fit did not come to an end within {seconds + GRACE:.0f} seconds and was stopped. Make the formula shorter, "
            "or give values to begin from."
        ) from None
    except BrokenProcessPool:
        _end(pool)
        raise NoFit("The fit was stopped, since it needed more than there is. Make the formula shorter.") from None


def _fit(
    readings: Readings,
    model: Model,
    values: dict[str, float],
    bounds: dict[str, tuple[float, float]],
    method: str,
    seconds: float,
) -> Fit:
    start = {name: value for name, value in values.items() if name in model.free_names}
    return fit(readings, model, start=start, bounds=bounds, least_squares_in=method, seconds=seconds)


def _running() -> ProcessPoolExecutor:
    global _pool
    with _lock:
        if _pool is None:
            context = multiprocessing.get_context("forkserver")
            context.set_forkserver_preload(["ridge.studies.worker"])
            _pool = ProcessPoolExecutor(PROCESSES, mp_context=context)
        return _pool


def _end(pool: ProcessPoolExecutor) -> None:
    """Kill what is running there; the next fit starts anew."""
    global _pool
    with _lock:
        if _pool is pool:
            _pool = None
    for process in list(getattr(pool, "_processes", {}).values()):
        with contextlib.suppress(OSError):
            process.kill()
    pool.shutdown(wait=False, cancel_futures=True)
