"""A reading that occurred several times is as good as so many equal rows: the same fit, the same errors, the same words.

Everything is compared with the rows written out; statsmodels' WLS with frequency weights by ``np.repeat`` besides.
"""

from __future__ import annotations

from unittest import TestCase

import numpy as np
import statsmodels.api as sm
from hypothesis import given
from hypothesis import strategies as st

from ridge.core import Fit, Readings, fit
from ridge.core.errors import OutsideSense
from ridge.core.models import Exponential, Line, Model, Polynomial, Power
from tests.examples import examples

X = np.array([0.5, 1.0, 2.0, 3.0, 4.5, 6.0, 8.0])
COUNT = np.array([3, 1, 2, 5, 1, 1, 4])
ROWS = np.repeat(np.arange(len(X)), COUNT)
Y = 5 * np.exp(-0.3 * X) + np.array([0.1, -0.2, 0.05, 0.15, -0.1, 0.12, -0.05])
ERROR = np.array([0.1, 0.2, 0.1, 0.3, 0.2, 0.1, 0.2])


def both(model: Model, method: str = "y", **more: object) -> tuple[Fit, Fit]:
    """The fit of counted readings and that of the rows written out."""

    def given_as(rows: np.ndarray) -> dict[str, object]:
        return {name: value[rows] if isinstance(value, np.ndarray) else value for name, value in more.items()}

    every = np.arange(len(X))
    counted = Readings(X, Y, count=COUNT, **given_as(every))  # type: ignore[arg-type]
    written = Readings(X[ROWS], Y[ROWS], **given_as(ROWS))  # type: ignore[arg-type]
    return fit(counted, model, least_squares_in=method), fit(written, model, least_squares_in=method)


class LikeRepeatedRows(TestCase):
    def check(self, counted: Fit, written: Fit, digits: float = 1e-10) -> None:
        for name, parameter in written.parameters.items():
            np.testing.assert_allclose(counted.parameters[name].value, parameter.value, rtol=digits)
            error = counted.parameters[name].standard_error
            self.assertEqual(error is None, parameter.standard_error is None)
            if error is not None and parameter.standard_error is not None:
                np.testing.assert_allclose(error, parameter.standard_error, rtol=digits)
        one, other = counted.statistics, written.statistics
        self.assertEqual((one.n, one.degrees_of_freedom), (other.n, other.degrees_of_freedom))
        for name in (
            "r_squared",
            "residual_sum_of_squares",
            "residual_standard_deviation",
            "aicc",
            "bic",
            "chi_squared",
        ):
            mine, theirs = getattr(one, name), getattr(other, name)
            self.assertEqual(mine is None, theirs is None, name)
            if mine is not None:
                np.testing.assert_allclose(mine, theirs, rtol=digits, err_msg=name)
        first = np.searchsorted(ROWS, np.arange(len(X)))
        np.testing.assert_allclose(counted.standardised_residuals, written.standardised_residuals[first], rtol=1e-7)
        mine_at, theirs_at = counted.predict([2.5, 9.0]), written.predict([2.5, 9.0])
        np.testing.assert_allclose(mine_at.low, theirs_at.low, rtol=1e-9)
        np.testing.assert_allclose(mine_at.mean_high, theirs_at.mean_high, rtol=1e-9)

    def test_of_every_way_of_solving(self) -> None:
        for model in (Line(), Line(intercept=0.0), Polynomial(2), Exponential(), Power()):
            with self.subTest(repr(model)):
                self.check(*both(model), digits=1e-8)

    def test_with_uncertainties_relative_and_absolute(self) -> None:
        for absolute in (False, True):
            self.check(*both(Line(), y_error=ERROR, absolute_errors=absolute))

    def test_with_weights_in_logarithms_and_in_both_directions(self) -> None:
        self.check(*both(Polynomial(2), weight=1 / ERROR))
        counted, written = both(Exponential(), "logarithms")
        np.testing.assert_allclose(list(counted.values.values()), list(written.values.values()), rtol=1e-10)
        counted, written = both(Line(), "orthogonal", y_error=ERROR, x_error=0.5 * ERROR)
        np.testing.assert_allclose(list(counted.values.values()), list(written.values.values()), rtol=1e-6)

    def test_inverse_prediction(self) -> None:
        counted, written = both(Line())
        mine, theirs = counted.solve(2.0)[0], written.solve(2.0)[0]
        np.testing.assert_allclose(
            [mine.value, mine.low, mine.high], [theirs.value, theirs.low, theirs.high], rtol=1e-9
        )

    @examples(40)
    @given(st.lists(st.integers(1, 9), min_size=7, max_size=7))
    def test_against_statsmodels(self, counts: list[int]) -> None:
        rows = np.repeat(np.arange(7), counts)
        expected = sm.OLS(Y[rows], sm.add_constant(X[rows])).fit()
        found = fit(Readings(X, Y, count=counts), Line())
        np.testing.assert_allclose([found.values["intercept"], found.values["slope"]], expected.params, rtol=1e-9)
        errors = [found.parameters[name].standard_error for name in ("intercept", "slope")]
        np.testing.assert_allclose(errors, expected.bse, rtol=1e-9)  # type: ignore[arg-type]


class BadCounts(TestCase):
    def test_none_and_halves(self) -> None:
        left_out = Readings(X, Y, count=[0, 1, 1, np.nan, 1, 1, 1])
        self.assertEqual(left_out.used.tolist(), [False, True, True, False, True, True, True])
        self.assertEqual(left_out.n, 5)
        with self.assertRaisesRegex(OutsideSense, "whole numbers"):
            Readings(X, Y, count=[1.5] * 7)
