"""Uncertainties in per cent are those of the fitted value: weights from measured values would bias the curve."""

from __future__ import annotations

from unittest import TestCase

import numpy as np
from scipy.optimize import fsolve

from ridge.core import Fit, Readings, fit, with_values
from ridge.core.models import Exponential, Line
from ridge.core.readings import Array

X = np.linspace(1, 10, 30)
TRUE = 5 + 3 * X


def scattered(share: float, seed: int) -> Array:
    return np.asarray(TRUE * (1 + share * np.random.default_rng(seed).normal(size=len(X))))


def fitted(y: Array, share: float, absolute: bool = False) -> Fit:
    return fit(Readings(X, y, y_error=share * np.abs(y), error_share=share, absolute_errors=absolute), Line())


class Relative(TestCase):
    def test_the_estimating_equations_hold_with_the_weights_of_the_curve(self) -> None:
        """Σ w(ŷ)(y − ŷ)∂ŷ/∂θ = 0 with w = 1/ŷ² (Carroll and Ruppert 1988, section 2.1), solved by SciPy."""
        y = scattered(0.15, 3)

        def equations(values: Array) -> list[float]:
            curve = values[0] * X + values[1]
            pull = (y - curve) / curve**2
            return [float(pull @ X), float(pull.sum())]

        slope, intercept = fsolve(equations, [3.0, 5.0], xtol=1e-13)
        found = fitted(y, 0.15)
        self.assertAlmostEqual(found.values["slope"], slope, places=9)
        self.assertAlmostEqual(found.values["intercept"], intercept, places=8)

    def test_coverage_of_the_curve(self) -> None:
        """Of 400 studies about 380 intervals contain the truth; by the weights of measured values 57 % (15 %) and 36 % (20 %)."""
        for share in (0.15, 0.2):
            for absolute in (False, True):
                held = 0
                for seed in range(400):
                    found = fitted(scattered(share, seed), share, absolute).predict(5.5)
                    held += bool(found.mean_low <= 21.5 <= found.mean_high)
                self.assertAlmostEqual(held / 400, 0.95, delta=3 * np.sqrt(0.95 * 0.05 / 400))

    def test_a_constant_part_stays_constant(self) -> None:
        y = scattered(0.1, 5)
        readings = Readings(X, y, y_error=np.hypot(0.5, 0.1 * y), relative_error=0.1)
        found = fit(readings, Line())
        assert found.readings.y_error is not None
        np.testing.assert_allclose(found.readings.y_error, np.hypot(0.5, 0.1 * found.fitted), rtol=1e-9)

    def test_a_nonlinear_model_and_a_curve_by_hand(self) -> None:
        y = 40 * np.exp(-0.2 * X) * (1 + 0.1 * np.random.default_rng(2).normal(size=len(X)))
        readings = Readings(X, y, y_error=0.1 * y, error_share=0.1)
        found = fit(readings, Exponential())
        assert found.readings.y_error is not None
        np.testing.assert_allclose(found.readings.y_error, 0.1 * found.fitted, rtol=1e-9)
        given = with_values(readings, Exponential(), {"a": 40.0, "k": -0.2})
        assert given.readings.y_error is not None
        np.testing.assert_allclose(given.readings.y_error, 0.1 * given.fitted, rtol=1e-9)

    def test_a_curve_near_zero_is_warned_of(self) -> None:
        x = np.arange(-3.0, 9)
        y = 2 * x + np.array([0.1, -0.2, 0.1, 0.05, 0.1, -0.3, 0.2, 0.1, -0.4, 0.3, 0.2, -0.5])
        found = fit(Readings(x, y, y_error=0.1 * np.abs(y), error_share=0.1), Line())
        self.assertIn("relative-errors-near-zero", [one.code for one in found.cautions])
        calm = fitted(scattered(0.1, 1), 0.1)
        self.assertNotIn("relative-errors-near-zero", [one.code for one in calm.cautions])
