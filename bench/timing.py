"""Medians and percentiles of repeated calls."""

from __future__ import annotations

import time
from collections.abc import Callable
from statistics import median


def milliseconds(call: Callable[[], object]) -> float:
    start = time.perf_counter()
    call()
    return (time.perf_counter() - start) * 1e3


def medians(*calls: Callable[[], object], repeats: int) -> list[float]:
    """Medians in milliseconds; the calls take turns, so that a busy moment falls on all of them."""
    times: list[list[float]] = [[] for _ in calls]
    for _ in range(repeats):
        for call, own in zip(calls, times, strict=True):
            own.append(milliseconds(call))
    return [median(own) for own in times]


def percentile(values: list[float], share: float) -> float:
    ordered = sorted(values)
    return ordered[min(len(ordered) - 1, int(share * len(ordered)))]
