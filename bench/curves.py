"""Fits beside general-purpose libraries in one run: the libraries are given good starts, Ridge none."""

from __future__ import annotations

from collections.abc import Callable, Iterator

import numpy as np
from scipy.optimize import curve_fit

from bench import line
from bench.timing import medians
from ridge.core import Readings, fit
from ridge.core.models import Exponential, Model, Polynomial, Sinusoid

SIZES = ((20, 60), (1_000, 40), (100_000, 7))


def _ours(x: np.ndarray, y: np.ndarray, model: Model) -> object:
    result = fit(Readings(x, y), model)
    return result.statistics, [p.interval(0.95) for p in result.parameters.values()], result.leverage


def run() -> Iterator[str]:
    yield "| model | readings | Ridge, ms | reference, ms | ratio |"
    yield "| --- | ---: | ---: | ---: | ---: |"
    random = np.random.default_rng(1)
    for n, repeats in SIZES:
        x = np.linspace(0, 10, n)
        noise = random.normal(0, 0.5, n)
        cases: list[tuple[str, Model, np.ndarray, Callable[[np.ndarray, np.ndarray], object]]] = [
            (
                "exponential with level, `curve_fit`", Exponential(level=True), 30 * np.exp(-0.4 * x) + 7 + noise,
                lambda x, y: curve_fit(lambda x, a, k, c: a * np.exp(k * x) + c, x, y, p0=(25, -0.5, 5)),
            ),
            (
                "sinusoid, `curve_fit`", Sinusoid(), 3 * np.sin(2 * x + 1) + 4 + noise,
                lambda x, y: curve_fit(lambda x, a, w, p, d: a * np.sin(w * x + p) + d, x, y, p0=(2.5, 2.05, 0.8, 3.8)),
            ),
            ("cubic, `polyfit`", Polynomial(3), x**3 - 4 * x + 10 * noise, lambda x, y: np.polyfit(x, y, 3, cov=True)),
        ]  # fmt: skip
        y = 3 + 0.7 * x + noise
        own, other = medians(lambda x=x, y=y: line.ours(x, y), lambda x=x, y=y: line.theirs(x, y), repeats=repeats)  # type: ignore[misc]
        yield _row("line, statsmodels' OLS", n, own, other)
        for name, model, y, reference in cases:
            own, other = medians(
                lambda m=model, x=x, y=y: _ours(x, y, m),  # type: ignore[misc]
                lambda r=reference, x=x, y=y: r(x, y),  # type: ignore[misc]
                repeats=repeats,
            )
            yield _row(name, n, own, other)


def _row(name: str, n: int, own: float, other: float) -> str:
    return f"| {name} | {n} | {own:.2f} | {other:.2f} | {own / other:.1f} |"
