"""How often intervals hold the truth in simulated studies."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from ridge.core import Readings, fit
from ridge.core.errors import RidgeError
from ridge.core.models import Exponential, Line, Model, Polynomial, Sinusoid

STUDIES = 1000
LEVELS = (0.9, 0.95, 0.99)
CASES: list[tuple[Model, dict[str, float], float]] = [
    (Line(), {"slope": 2.0, "intercept": 1.0}, 1.0),
    (Polynomial(2), {"c0": 1.0, "c1": 2.0, "c2": -0.3}, 1.0),
    (Exponential(), {"a": 30.0, "k": -0.4}, 1.0),
    (Sinusoid(), {"amplitude": 3.0, "angular_frequency": 1.2, "phase": 0.5, "midline": 4.0}, 0.5),
]


def run() -> Iterator[str]:
    yield "| model | readings | parameters 90, 95, 99 % | curve | new reading | not fitted |"
    yield "| --- | ---: | --- | --- | --- | ---: |"
    for model, values, spread in CASES:
        for n in (8, 20, 100):
            random = np.random.default_rng(n)
            x = np.linspace(0, 10, n)
            curve, truth = model.evaluate(x, values), float(model.evaluate([4.4], values)[0])
            inside = {level: np.zeros(3) for level in LEVELS}
            fitted = 0
            for _ in range(STUDIES):
                y, new = curve + random.normal(0, spread, n), truth + random.normal(0, spread)
                try:
                    result = fit(Readings(x, y), model)
                except RidgeError:
                    continue
                fitted += 1
                for level in LEVELS:
                    held = [
                        low <= values[p.name] <= high
                        for p in result.parameters.values()
                        for low, high in [p.interval(level)]
                    ]
                    found = result.predict(4.4, level)
                    inside[level] += np.array((
                        np.mean(held), bool(found.mean_low <= truth <= found.mean_high), bool(found.low <= new <= found.high)
                    ))  # fmt: skip
            shown = [", ".join(f"{100 * inside[level][i] / fitted:.1f}" for level in LEVELS) for i in range(3)]
            yield f"| {model!r} | {n} | {' | '.join(shown)} | {STUDIES - fitted} |"
