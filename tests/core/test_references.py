"""Which works stand behind a result: those of the methods that were really used, each once, by surname."""

from __future__ import annotations

from unittest import TestCase

import numpy as np

from ridge.core import Readings, fit, interpolate, with_values
from ridge.core.models import Exponential, Line, Polynomial, Sinusoid
from ridge.core.wording import references as works
from ridge.core.wording.references import references

X = np.linspace(0.5, 9.5, 16)
READINGS = Readings(X, 3 + 2 * np.exp(-0.5 * X) + np.resize([0.05, -0.04, -0.01], 16))


class References(TestCase):
    def test_what_is_linear_and_what_is_not(self) -> None:
        for model in (Line(), Polynomial(3)):
            self.assertEqual(references([fit(READINGS, model)]), [works.ORTHOGONALISATION, works.LEAST_SQUARES])
        for curved in (Exponential(level=True), Sinusoid()):
            found = references([fit(READINGS, curved)])
            self.assertEqual(found, [works.NONLINEAR, works.MONTE_CARLO, works.LEAST_SQUARES, works.SEPARABLE])

    def test_distances_in_both_directions(self) -> None:
        errors = Readings(X, READINGS.y, x_error=np.full(16, 0.1), y_error=np.full(16, 0.1))
        found = references([fit(errors, Line(), least_squares_in="orthogonal")])
        self.assertEqual(found, [works.NONLINEAR, works.ORTHOGONAL])

    def test_interpolations(self) -> None:
        for kind, work in (
            ("polynomial", works.BARYCENTRIC),
            ("cubic-spline", works.SPLINES),
            ("spline", works.SPLINES),
            ("monotone", works.MONOTONE),
        ):
            self.assertEqual(references([interpolate(READINGS, kind)]), [work])
        self.assertEqual(references([interpolate(READINGS, "linear")]), [])

    def test_given_numbers_need_none(self) -> None:
        given = with_values(READINGS, Line(), {"slope": -0.1, "intercept": 4.0})
        self.assertEqual(references([given]), [])

    def test_an_x_asked_for_a_y_adds_its_limits_for_a_line_only(self) -> None:
        line, curve = fit(READINGS, Line()), fit(READINGS, Exponential(level=True))
        self.assertIn(works.FIELLER, references([line], inverse=True))
        self.assertNotIn(works.FIELLER, references([curve], inverse=True))
        self.assertNotIn(works.FIELLER, references([line]))

    def test_each_once_and_by_surname(self) -> None:
        fits = [fit(READINGS, model) for model in (Line(), Polynomial(2), Sinusoid(), Exponential())]
        found = references([*fits, interpolate(READINGS, "monotone")], inverse=True)
        self.assertEqual(len(found), len(set(found)))
        surnames = ["Bates", "Björck", "Davison", "Draper", "Fieller", "Fritsch", "Golub"]
        for surname, work in zip(surnames, found, strict=True):
            self.assertIn(surname, work.split(":")[0])
