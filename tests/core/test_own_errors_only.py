"""Only the core's own errors leave the core, no warning is printed, whatever formula meets whatever readings.

``python -m tests.core.test_own_errors_only`` tries every model on every set of readings; the test a twelfth of them, spread evenly.
"""

from __future__ import annotations

import sys
import warnings
from collections.abc import Callable, Iterator
from functools import partial
from unittest import TestCase

import numpy as np

from ridge.core import Fit, Readings, fit
from ridge.core.errors import RidgeError
from ridge.core.judging.comparison import leave_one_out
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
from ridge.core.predicting.features import area, crossings, inflexions, roots, tangent, turning_points
from ridge.core.predicting.parameter_limits import intervals
from ridge.core.wording.answers import word_prediction, word_solutions
from ridge.core.wording.derived import word_derived
from ridge.core.wording.families import beyond_sentence
from ridge.core.wording.judgement import how_well, list_statistics
from ridge.core.wording.naming import Naming
from ridge.core.wording.residuals import word_residuals

NAMING = Naming()
X = np.linspace(0.5, 10, 12)
SCATTER = np.random.default_rng(3).normal(0, 1, 12)
READINGS = {
    "a line": (X, 2 * X + 1 + 0.2 * SCATTER), "constant": (X, np.full(12, 3.0)), "zeros": (X, np.zeros(12)), "negative": (X - 5, -X),
    "one": (X[:1], X[:1]), "two": (X[:2], X[:2]), "three": (X[:3], X[:3] ** 2), "one x": (np.full(6, 2.0), X[:6]), "exact": (X, 3 * X),
    "huge": (1e30 * X, 1e30 * X + 1e29 * SCATTER), "tiny": (1e-30 * X, 1e-30 * X + 1e-32 * SCATTER), "a step": (X, (X > 5) * 1.0),
    "decay": (X, 5 * np.exp(-X) + 0.01 * SCATTER), "noise": (X, SCATTER), "through zero": (np.arange(8.0) - 3, (np.arange(8.0) - 3) ** 2),
}  # fmt: skip
FORMULAS = (
    "gamma(a*x)+b", "a*x^b", "a*sqrt(x-b)", "a*ln(b*x+1)", "a/(x-b)", "a*exp(b*x)+c", "if(x<a,b,c)", "floor(a*x)", "abs(x-a)*b",
    "max(a,b*x)", "a*tan(b*x)", "asin(a*x)", "a*x+b", "a", "a*b*x", "a+b+x", "x^a^b", "erf(a*x)*b+c", "sinc(a*x)", "a*x/(b+x)",
    "1/(a+b*x)", "a*cosh(x/b)", "ln(a*x)/b", "sign(x-a)*b", "min(a*x,b)", "ceil(x/a)", "gamma(x)*a", "a^x", "(a*x)^(b*x)", "exp(exp(a*x))",
)  # fmt: skip
MODELS: tuple[Model, ...] = (
    Line(), Line(0.0), Polynomial(2), Polynomial(5), Exponential(), Exponential(level=True), Logarithmic(), Logarithmic(shift=True), Power(),
    Reciprocal(), Sinusoid(), Logistic(), Logistic(level=True), Gaussian(), *(Formula(text) for text in FORMULAS),
)  # fmt: skip


def uses(result: Fit) -> Iterator[tuple[str, Callable[[], object]]]:
    """Everything that is asked of a fit."""
    yield "cautions", lambda: result.cautions
    yield "equation", lambda: result.equation
    yield "how well", lambda: how_well(result, NAMING)
    yield "statistics", lambda: list_statistics(result, NAMING)
    yield "residuals", lambda: word_residuals(result, NAMING)
    yield "derived", lambda: word_derived(result, NAMING, intervals(result))
    yield "left out", lambda: leave_one_out(result)
    yield "influence", lambda: (result.cooks_distance, result.deleted_residuals)
    yield "features", lambda: [find(result) for find in (roots, turning_points, inflexions)]
    yield "tangent", lambda: tangent(result, 2.0)
    yield "area", lambda: area(result, 1, 2)
    yield "crossings", lambda: crossings(result, result)
    low, high = result.readings.measured_range
    for x in (low, 0.0, (low + high) / 2, high * 3, 1e30):
        yield f"y at {x}", partial(_y_at, result, x)
    y = result.readings.y[result.readings.used]
    for value in (float(y.mean()), float(y.max()) * 2 + 1, 0.0, -1e6):
        yield f"x at {value}", partial(_x_at, result, value)


def _y_at(result: Fit, x: float) -> object:
    return word_prediction(result, result.predict(x, checked=True), NAMING), beyond_sentence(result, NAMING, x)


def _x_at(result: Fit, y: float) -> object:
    return word_solutions(result, result.solve(y, checked=True), y, 1, NAMING)


def failures(cases: Iterator[tuple[str, Model]]) -> Iterator[str]:
    """What leaves the core that is none of its own errors."""
    with warnings.catch_warnings():
        warnings.simplefilter("error")
        for name, model in cases:
            x, y = READINGS[name]
            try:
                result = fit(Readings(x, y), model)
            except RidgeError:
                continue
            except Exception as error:
                yield f"{model!r} on {name}: {error!r}"
                continue
            for what, use in uses(result):
                try:
                    use()
                except RidgeError:
                    pass
                except Exception as error:
                    yield f"{what} of {model!r} on {name}: {error!r}"


def cases(every: int) -> Iterator[tuple[str, Model]]:
    for i, model in enumerate(MODELS):
        for j, name in enumerate(READINGS):
            if (i + j) % every == 0:
                yield name, model


class OwnErrorsOnly(TestCase):
    def test_every_twelfth_of_all_pairs(self) -> None:
        self.assertEqual(list(failures(cases(12))), [])


if __name__ == "__main__":
    found = 0
    for failure in failures(cases(1)):
        found += 1
        print(failure, flush=True)
    print(f"{len(MODELS) * len(READINGS)} tried, {found} failures")
    sys.exit(bool(found))
