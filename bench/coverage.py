"""How often intervals hold the truth in simulated studies."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from ridge.core import Readings, fit
from ridge.core.errors import RidgeError
from ridge.core.models import Exponential, Line, Logistic, Model, Polynomial, Sinusoid

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


LOOSE: list[tuple[Model, dict[str, float], float, int, float, float]] = [
    (Exponential(), {"a": 10.0, "k": -0.5}, 4.0, 6, 8.0, 1.5),
    (Exponential(level=True), {"a": 10.0, "k": -0.5, "c": 3.0}, 4.0, 8, 8.0, 0.8),
    (Logistic(), {"upper": 10.0, "rate": 1.0, "midpoint": 4.0}, 5.0, 8, 8.0, 0.6),
]
LOOSE_STUDIES = 300


def where_errors_mislead() -> Iterator[str]:
    """Few loose readings and a curve asked beyond them: by standard errors, and held against refits."""
    yield "| model | readings, up to x | asked at | by standard errors, % | held against refits, % | replaced, % |"
    yield "| --- | ---: | ---: | ---: | ---: | ---: |"
    for model, values, end, n, at, spread in LOOSE:
        random = np.random.default_rng(3)
        x = np.linspace(0, end, n)
        curve, truth = model.evaluate(x, values), float(model.evaluate([at], values)[0])
        plain = checked = replaced = fitted = 0
        for _ in range(LOOSE_STUDIES):
            try:
                result = fit(Readings(x, curve + random.normal(0, spread, n)), model)
            except RidgeError:
                continue
            fitted += 1
            by_errors, by_profile = result.predict(at), result.predict(at, checked=True)
            plain += bool(by_errors.mean_low <= truth <= by_errors.mean_high)
            checked += bool(by_profile.mean_low <= truth <= by_profile.mean_high)
            replaced += bool(by_profile.profiled)
        shares = (f"{100 * count / fitted:.1f}" for count in (plain, checked, replaced))
        yield f"| {model!r} | {n}, {end:g} | {at:g} | {' | '.join(shares)} |"
