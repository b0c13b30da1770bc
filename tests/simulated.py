"""Simulated studies: readings that a family's own law gave, and readings that no law gave.

Invented, with fixed seeds. Used by tests and by ``./run bench honesty``.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ridge.core import Readings
from ridge.core.models import (
    Exponential,
    Formula,
    Gaussian,
    Line,
    Logarithmic,
    Logistic,
    Model,
    Polynomial,
    Power,
    Reciprocal,
    Sinusoid,
)

SIZES = (8, 20, 60)
"""Numbers of readings that everything is measured at."""
LOW, HIGH = 0.02, 0.1
"""Standard deviation of the readings as a share of the height of the curve: a careful and a rough measurement."""


@dataclass(frozen=True)
class Law:
    """A model with the parameters that nature has, and the stretch of x in which it is measured."""

    model: Model
    values: dict[str, float]
    low: float = 0.5
    high: float = 10.0

    @property
    def name(self) -> str:
        return repr(self.model)

    def places(self, n: int, random: np.random.Generator) -> np.ndarray:
        """Evenly spaced x; in every second study each is off by up to a fifth of a step."""
        x = np.linspace(self.low, self.high, n)
        step = (self.high - self.low) / (n - 1)
        return x + (random.uniform(-0.2, 0.2, n) * step if random.random() < 0.5 else 0.0)

    def truth(self, x: np.ndarray) -> np.ndarray:
        return self.model.evaluate(x, self.values)

    @property
    def height(self) -> float:
        return float(np.ptp(self.truth(np.linspace(self.low, self.high, 200))))


LAWS: tuple[Law, ...] = (
    Law(Line(), {"slope": 2.0, "intercept": 1.0}),
    Law(Line(intercept=0.0), {"slope": 2.0, "intercept": 0.0}),
    Law(Polynomial(2), {"c0": 3.0, "c1": 4.0, "c2": -0.3}),
    Law(Polynomial(3), {"c0": -8.0, "c1": 8.0, "c2": -1.65, "c3": 0.1}),
    Law(Polynomial(4), {"c0": 4.0, "c1": -6.0, "c2": 2.6, "c3": -0.37, "c4": 0.017}),
    Law(Exponential(), {"a": 30.0, "k": -0.4}),
    Law(Exponential(level=True), {"a": 30.0, "k": -0.4, "c": 7.0}),
    Law(Logarithmic(), {"a": 3.0, "b": 2.0}),
    Law(Logarithmic(shift=True), {"a": 3.0, "x0": -0.5, "b": 2.0}),
    Law(Power(), {"a": 2.0, "n": 1.5}),
    Law(Reciprocal(), {"a": 6.0, "b": 1.0}),
    Law(Sinusoid(), {"amplitude": 3.0, "angular_frequency": 1.3, "phase": 0.5, "midline": 4.0}),
    Law(Logistic(), {"upper": 10.0, "rate": 1.2, "midpoint": 5.0}),
    Law(Logistic(level=True), {"upper": 10.0, "rate": 1.2, "midpoint": 5.0, "lower": 2.0}),
    Law(Gaussian(), {"height": 8.0, "centre": 5.0, "width": 1.5, "level": 2.0}),
    Law(Formula("p*exp(-q*x) + r"), {"p": 30.0, "q": 0.4, "r": 7.0}),
    Law(Formula("v*x/(h + x)"), {"v": 10.0, "h": 2.0}),
    Law(Formula("a*sin(b*x) + c"), {"a": 3.0, "b": 1.3, "c": 4.0}),
)


def clean(law: Law, n: int, share: float, seed: int) -> Readings:
    """Readings that the law gave, with normal scatter of that share of the curve's height; in every third study the scatter is
    known."""
    random = np.random.default_rng((seed, n, LAWS.index(law)))
    x, spread = law.places(n, random), share * law.height
    y, known = law.truth(x) + random.normal(0, spread, n), seed % 3 == 0
    return Readings(x, y, y_error=spread if known else None, absolute_errors=known)


def noise(n: int, seed: int, mean: float = 50.0) -> Readings:
    """A constant with normal scatter of one."""
    random = np.random.default_rng((seed, n, round(mean)))
    return Readings(LAWS[0].places(n, random), mean + random.normal(0, 1, n))
