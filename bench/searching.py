"""Fits without starting values against a dense search of the same problem."""

from __future__ import annotations

from collections.abc import Callable, Iterator

import numpy as np
from scipy.optimize import minimize_scalar

from ridge.core import Readings, fit
from ridge.core.errors import RidgeError
from ridge.core.models import Exponential, Model, Sinusoid

COUNT = 150


def _left(columns: np.ndarray, y: np.ndarray) -> float:
    basis = np.linalg.qr(columns)[0]
    rest = y - basis @ (basis.T @ y)
    rest -= basis @ (basis.T @ rest)
    return float(rest @ rest)


def _dense(columns: Callable[[float], np.ndarray], trials: np.ndarray, y: np.ndarray) -> float:
    found = np.array([_left(columns(trial), y) for trial in trials])
    best = np.inf
    for i in np.argsort(found)[:12]:
        ends = trials[max(0, i - 1)], trials[min(len(trials) - 1, i + 1)]
        result = minimize_scalar(
            lambda v: _left(columns(v), y), bounds=ends, method="bounded", options={"xatol": 1e-13}
        )
        best = min(best, float(result.fun))
    return best


def _count(model: Model, cases: Iterator[tuple[np.ndarray, np.ndarray, float]]) -> str:
    missed = refused = 0
    for x, y, best in cases:
        try:
            missed += fit(Readings(x, y), model).statistics.residual_sum_of_squares > best * (1 + 1e-6)
        except RidgeError:
            refused += 1
    return f"| {model!r} | {COUNT} | {COUNT - missed - refused} | {missed} | {refused} |"


def _sinusoids() -> Iterator[tuple[np.ndarray, np.ndarray, float]]:
    random = np.random.default_rng(21)
    for i in range(COUNT):
        n, cycles, span = int(random.integers(8, 61)), random.uniform(0.6, 8), 10 ** random.uniform(-4, 4)
        u = np.linspace(0, 1, n) if i % 2 else np.sort(random.uniform(0, 1, n))
        x, size = span * (u + random.uniform(-50, 50)), 10 ** random.uniform(-3, 3)
        wave = np.sin(2 * np.pi * cycles * u + random.uniform(0, 7))
        y = size * (random.normal() * 5 + wave + random.normal(0, 10 ** random.uniform(-2, -0.3), n))
        place, most = (x - x.min()) / np.ptp(x), max(10, n / 2)
        trials = np.linspace(0.05, most, int(60 * most))
        yield x, y, _dense(
            lambda f, p=place: np.column_stack([np.sin(2 * np.pi * f * p), np.cos(2 * np.pi * f * p), np.ones_like(p)]),  # type: ignore[misc]
            trials, y,
        )  # fmt: skip


def _exponentials() -> Iterator[tuple[np.ndarray, np.ndarray, float]]:
    random = np.random.default_rng(22)
    trials = np.concatenate([-np.geomspace(2000, 1e-3, 600), np.geomspace(1e-3, 2000, 600)])
    for i in range(COUNT):
        n, span = int(random.integers(8, 61)), 10 ** random.uniform(-4, 4)
        u = np.linspace(0, 1, n) if i % 2 else np.sort(random.uniform(0, 1, n))
        k, size = random.choice([-1, 1]) * 10 ** random.uniform(-0.3, 1.3), 10 ** random.uniform(-3, 3)
        noise = random.normal(0, 10 ** random.uniform(-3, -0.7), n)
        y = size * (random.normal() * 5 + np.exp(k * (u - (k > 0))) + noise)
        x = span * (u + random.uniform(-3, 3))
        place = (x - x.min()) / np.ptp(x)
        yield x, y, _dense(
            lambda k, p=place: np.column_stack([np.exp(k * p - max(k, 0)), np.ones_like(p)]), trials, y  # type: ignore[misc]
        )  # fmt: skip


def run() -> Iterator[str]:
    yield "| model | problems | best minimum found | another found | refused |"
    yield "| --- | ---: | ---: | ---: | ---: |"
    yield _count(Sinusoid(), _sinusoids())
    yield _count(Exponential(level=True), _exponentials())
