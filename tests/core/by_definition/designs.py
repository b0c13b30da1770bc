"""Fits to made-up readings with the algebra of their designs written out."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np
import numpy.typing as npt
from scipy import stats

Floats = npt.NDArray[np.float64]


def close(found: Any, expected: Any, rtol: float = 1e-7, atol: float = 0.0) -> None:
    np.testing.assert_allclose(np.asarray(found, dtype=float), np.asarray(expected, dtype=float), rtol=rtol, atol=atol)


class Design:
    """A weighted polynomial fit done with numpy alone."""

    def __init__(
        self, x: Floats, y: Floats, powers: list[int], weights: Floats | None = None, given: bool = False
    ) -> None:
        self.powers = powers
        weights = np.ones(len(x)) if weights is None else weights
        rows = self.rows(x) * np.sqrt(weights)[:, None]
        self.pull = np.linalg.pinv(rows)  # what each reading, times its root weight, gives to each coefficient
        self.coefficients = self.pull @ (y * np.sqrt(weights))
        self.degrees = len(x) - len(powers)
        rest = y * np.sqrt(weights) - rows @ self.coefficients
        self.s = 1.0 if given else float(np.sqrt(rest @ rest / self.degrees))
        self.unit = self.pull @ self.pull.T
        self.t = float(stats.norm.ppf(0.975) if given else stats.t.ppf(0.975, self.degrees))

    def rows(self, x: npt.ArrayLike, order: int = 0) -> Floats:
        at = np.atleast_1d(np.asarray(x, dtype=float))
        found = []
        for power in self.powers:
            factor = float(np.prod([power - i for i in range(order)])) if order else 1.0
            found.append(factor * at ** max(power - order, 0) if factor else 0 * at)
        return np.stack(found, axis=1)

    def value(self, x: float, order: int = 0) -> float:
        return float((self.rows(x, order) @ self.coefficients)[0])

    def error(self, x: float, order: int = 0) -> float:
        row = self.rows(x, order)[0]
        return self.s * float(np.sqrt(row @ self.unit @ row))

    def outside(self, x: float, y: float, repeats: int = 1) -> float:
        """Positive where y is not within the interval of the mean of so many new readings at x."""
        return abs(self.value(x) - y) - self.t * float(np.hypot(self.error(x), self.s / np.sqrt(repeats)))


def readings(seed: int, law: Callable[[Floats], Floats], n: int = 14, scatter: float = 0.4) -> tuple[Floats, Floats]:
    random = np.random.default_rng(seed)
    x = np.linspace(0, 10, n)
    return x, law(x) + random.normal(0, scatter, n)
