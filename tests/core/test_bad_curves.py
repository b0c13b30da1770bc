"""Hopeless and extreme readings for every model: an exception of the core's own or a fit with cautions, never a bare warning."""

from __future__ import annotations

import warnings
from unittest import TestCase

import numpy as np

from ridge.core import Fit, Readings, fit, interpolate
from ridge.core.errors import FormulaError, RidgeError
from ridge.core.interpolation import KINDS
from ridge.core.models import (
    Exponential,
    Formula,
    Gaussian,
    Logarithmic,
    Logistic,
    Model,
    Polynomial,
    Power,
    Reciprocal,
    Sinusoid,
)

X = np.linspace(1, 10, 12)
NOISE = np.random.default_rng(0).normal(0, 1, 12)
MODELS: list[Model] = [
    Polynomial(2), Polynomial(5), Polynomial(2, terms=[2]), Exponential(), Exponential(level=True), Logarithmic(),
    Logarithmic(shift=True), Power(), Reciprocal(), Sinusoid(), Sinusoid(degrees=True), Logistic(), Logistic(level=True),
    Gaussian(), Formula("p*exp(-q*x)+r"), Formula("a*sin(b*x+c)"), Formula("a*ln(b*x+c)+d"), Formula("a*b*x"), Formula("sqrt(a-x)*b"),
]  # fmt: skip
READINGS: dict[str, tuple[object, object]] = {
    "none": ([], []),
    "one": ([1.0], [2.0]),
    "two": ([1.0, 2.0], [3.0, 5.0]),
    "three": ([1.0, 2, 4], [1.0, 2, 2.5]),
    "one x": ([2.0] * 6, [1.0, 2, 3, 4, 5, 6]),
    "one y": (X, np.full(12, 3.0)),
    "all zero": (X, np.zeros(12)),
    "nothing finite": ([np.nan] * 5, [1.0] * 5),
    "huge": (X * 1e299, (X + NOISE / 100) * 1e299),
    "tiny": (X * 1e-299, (X + NOISE / 100) * 1e-299),
    "huge y": (X, (2 * X + NOISE / 10) * 1e300),
    "tiny y": (X, (2 * X + NOISE / 10) * 1e-300),
    "huge x": (X * 1e300, 2 * X + NOISE / 10),
    "negative": (X, -X - 1 + NOISE / 10),
    "x on both sides of zero": (X - 5, X + NOISE / 10),
    "x from zero": (np.arange(12.0), np.arange(12.0) + NOISE / 10),
    "noise": (X, NOISE),
    "a step": (X, (X > 5) * 1.0),
    "far from zero": (X + 1e9, X + NOISE / 10),
    "three x": (np.repeat([1.0, 2.0, 3.0], 4), NOISE + np.repeat([1.0, 2.0, 3.0], 4)),
    "one far off": (X, np.where(X[3] == X, 1e12, X)),
    "one spike": (X, np.eye(12)[4] * 1e5),
    "up and down": (X, (-1.0) ** np.arange(12)),
    "all sizes": (np.array([1e-300, 1e300, 1, 2, 3, 4]), np.arange(1.0, 7.0)),
}


class EveryModel(TestCase):
    def setUp(self) -> None:
        caught = warnings.catch_warnings()
        caught.__enter__()
        warnings.simplefilter("error")
        self.addCleanup(caught.__exit__, None, None, None)

    def use(self, result: Fit) -> None:
        """Ask for all that a screen shows."""
        self.assertTrue(all(np.isfinite(value) for value in result.values.values()))
        self.assertTrue(result.equation.text.startswith("y = "))
        for caution in result.cautions:
            self.assertTrue(caution.message.endswith(".") and caution.remedy.endswith("."), caution)
        self.assertTrue(repr(result) and result._repr_html_() and result._repr_latex_())
        _ = result.derived, result.standardised_residuals, result.deleted_residuals, result.cooks_distance
        result.predict(np.linspace(1, 12, 5))

    def test_everything_everywhere(self) -> None:
        refused = 0
        for name, (x, y) in READINGS.items():
            for place, model in enumerate(MODELS):
                # Every other model with weights, the next set of readings with the others.
                weight = np.linspace(0.1, 10, len(x)) if (place + len(name)) % 2 else None  # type: ignore[arg-type]
                with self.subTest(name, model=repr(model), weighted=weight is not None):
                    try:
                        self.use(fit(Readings(x, y, weight=weight), model))  # type: ignore[arg-type]
                    except RidgeError as error:
                        refused += 1
                        self.assertTrue(str(error))
        self.assertGreater(refused, 0)

    def test_interpolations(self) -> None:
        for name, (x, y) in READINGS.items():
            for kind in KINDS:
                with self.subTest(name, kind=kind):
                    try:
                        curve = interpolate(Readings(x, y), kind, average_repeats=True)  # type: ignore[arg-type]
                    except RidgeError as error:
                        self.assertTrue(str(error))
                    else:
                        self.assertEqual(curve.cautions[-1].code, "no-residuals")

    def test_hostile_formulas_end_with_a_fit_or_a_reason(self) -> None:
        y = X + 0.01 * np.sin(40 * X)
        for text in (
            "*".join(["(x+a)"] * 140), "x^" * 80 + "a", "sin(" * 90 + "a*x" + ")" * 90, "gamma(" * 30 + "a*x" + ")" * 30,
            "*".join(f"sin(a{i}*x)" for i in range(11)), "+".join(f"a{i}*exp(-b{i}*x)" for i in range(6)), "a*" + "/".join(["(x+b)"] * 120),
        ):  # fmt: skip
            with self.subTest(text[:30]):
                try:
                    result = fit(Readings(X, y), Formula(text))
                except RidgeError as error:
                    self.assertTrue(str(error))
                else:
                    self.use(result)
                    result.curve.rows([2.0], 2)
        with self.assertRaises(FormulaError):
            Formula("+".join(f"a{i}*x^{i}" for i in range(30)))

    def test_a_million_readings(self) -> None:
        x = np.linspace(0, 10, 1_000_000)
        y = 2 * x + 1 + np.sin(1e4 * x)
        self.assertAlmostEqual(fit(Readings(x, y), Polynomial(2)).values["c1"], 2, delta=0.01)
