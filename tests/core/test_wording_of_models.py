"""What models and parameters are called, the coordinates in which a model is straight, and what residuals show."""

from __future__ import annotations

from typing import Any
from unittest import TestCase

import numpy as np
from numpy.polynomial import Polynomial as Reference

from ridge.core import Fit, Readings, fit
from ridge.core.models import (
    FAMILIES,
    Exponential,
    Formula,
    Line,
    Logarithmic,
    Logistic,
    Model,
    Polynomial,
    Power,
    Reciprocal,
    Sinusoid,
)
from ridge.core.models.square_root import SquareRoot
from ridge.core.wording.families import parameter_meaning
from ridge.core.wording.naming import Naming
from ridge.core.wording.residuals import word_residuals
from ridge.core.wording.straight import Straight, straighten
from ridge.core.wording.suggestion import word_suggested

NAMING = Naming("t", "h", "s", "m", "time", "height")
X = np.linspace(0.5, 8, 24)
NOISE = np.random.default_rng(4).normal(0, 0.01, 24)


def fitted(model: Model, y: np.ndarray) -> Fit:
    return fit(Readings(X, y + NOISE), model)


class Names(TestCase):
    def test_as_a_sentence_calls_them(self) -> None:
        for model, name in (
            (Line(), "line"),
            (Line(intercept=0.0), "line through the origin"),
            (Line(intercept=2.0), "line with fixed intercept"),
            (Polynomial(3), "cubic"),
            (Polynomial(7), "polynomial of degree 7"),
            (Exponential(level=True), "exponential with level"),
            (Logarithmic(shift=True), "logarithmic with shift"),
            (Logistic(level=True), "logistic with level"),
            (Sinusoid(), "sinusoid in radians"),
            (Sinusoid(degrees=True, form="cos"), "cosine in degrees"),
            (Formula("a*x"), "own formula"),
        ):
            self.assertEqual(model.name, name)

    def test_every_parameter_of_every_family_has_a_meaning(self) -> None:
        options: dict[str, dict[str, Any]] = {
            "polynomial": {"degree": 3}, "exponential": {"level": True}, "logarithmic": {"shift": True}, "logistic": {"level": True}
        }  # fmt: skip
        for family, kind in FAMILIES.items():
            if family == "formula":
                continue
            model = kind(**options.get(family, {}))
            for name in model.parameter_names:
                meaning = parameter_meaning(model, name, NAMING)
                self.assertTrue(meaning and "{" not in meaning, (family, name))

    def test_in_the_studys_own_words(self) -> None:
        self.assertEqual(parameter_meaning(Line(), "slope", NAMING), "change in height for one s more")
        self.assertEqual(parameter_meaning(Polynomial(3), "c3", NAMING), "coefficient of t³")
        self.assertEqual(parameter_meaning(Exponential(), "a", Naming()), "y where x is zero")
        self.assertEqual(parameter_meaning(Formula("a*x"), "a", NAMING), "")


class Straightened(TestCase):
    def check(self, model: Model, y: np.ndarray, x_title: str, y_title: str, slope: str) -> None:
        """The curve's own values lie on a line there, by NumPy's fit through them, and its slope is the one that is told."""
        result = fitted(model, y)
        found = straighten(result, NAMING)
        assert isinstance(found, Straight)
        self.assertEqual((found.x_title, found.y_title), (x_title, y_title))
        ways: dict[str, Any] = {
            "none": lambda v: v, "ln": np.log, "reciprocal": lambda v: 1 / v, "power": lambda v: v**found.x_power
        }  # fmt: skip
        u, v = ways[found.x](X - found.x_shift), ways[found.y](result.evaluate(X) - found.y_shift)
        line = Reference.fit(u, v, 1).convert()
        np.testing.assert_allclose(line(u), v, atol=1e-9 * np.ptp(v) + 1e-12)
        self.assertIn(slope, found.line)
        told = float(found.line.removeprefix("slope ").replace("−", "-").split()[0].rstrip(","))
        np.testing.assert_allclose(told, line.coef[1], rtol=1e-3)

    def test_the_usual_coordinates(self) -> None:
        self.check(Exponential(), 5 * np.exp(-X / 4), "t / s", "ln(h / m)", "1/s, intercept")
        self.check(Logarithmic(), 2 * np.log(X) + 3, "ln(t / s)", "h / m", "\u00a0m")
        self.check(Power(), 2 * X**1.5, "ln(t / s)", "ln(h / m)", "slope 1.")
        self.check(Reciprocal(), 3 / X + 1, "1/t / (1/s)", "h / m", "\u00a0m·s")
        self.check(SquareRoot(), 3 * np.sqrt(X) + 1, "√t / √s", "h / m", "slope 2.99")

    def test_what_is_taken_off_first_is_in_the_title(self) -> None:
        found = straighten(fitted(Exponential(level=True), 5 * np.exp(-X / 2) + 2), NAMING)
        assert isinstance(found, Straight)
        self.assertRegex(found.y_title, r"^ln\(\(h − (1\.99|2\.0).* m\) / m\)$")
        self.assertAlmostEqual(found.y_shift, 2, delta=0.05)

    def test_a_single_power_with_a_constant(self) -> None:
        square = Polynomial(2, terms=[0, 2])
        self.check(square, 1 + 0.5 * X**2, "t² / s²", "h / m", "slope 0.")
        self.assertIn("that power and a constant alone", str(straighten(fitted(Polynomial(2), X**2 + X), NAMING)))

    def test_why_there_are_none(self) -> None:
        for model, y, why in (
            (Line(), X, "straight already"),
            (Exponential(), -np.exp(-X), "below its level"),
            (Power(), -(X**2), "negative"),
            (Sinusoid(), np.sin(2 * X), "no usual coordinates"),
        ):
            self.assertIn(why, str(straighten(fitted(model, y), NAMING)))


class ResidualsInWords(TestCase):
    def test_nothing_is_left_of_pure_scatter(self) -> None:
        said = " ".join(word_residuals(fitted(Line(), X), NAMING))
        for part in (
            "above the line",
            "as expected by chance",
            "No significant curvature",
            "No significant change of spread with h",
            "Consistent with a normal distribution",
        ):
            self.assertIn(part, said)

    def test_one_large_residual_spoils_the_shape(self) -> None:
        y = X.copy()
        y[7] += 3
        said = " ".join(word_residuals(fitted(Line(), y), NAMING))
        self.assertIn("Not normally distributed", said)
        self.assertIn("Row 8 lies farther from the line than expected of 24 readings", said)

    def test_downward_bend(self) -> None:
        said = " ".join(word_residuals(fitted(Line(), -(X**2)), NAMING))
        self.assertIn("They are curved: below at both ends and above in the middle", said)


class Suggestions(TestCase):
    def test_none_one_and_several(self) -> None:
        self.assertIn("leaves a pattern", word_suggested([]))
        self.assertIn("The cubic is the best", word_suggested(["cubic"]))
        self.assertIn("line, cubic and sinusoid", word_suggested(["line", "cubic", "sinusoid"]))
