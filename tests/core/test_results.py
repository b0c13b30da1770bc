"""Results cannot be changed by whoever holds them, and parameters answer to their letters."""

from __future__ import annotations

import pickle
from dataclasses import FrozenInstanceError
from unittest import TestCase

import numpy as np

from ridge.core import Fit, Readings, fit
from ridge.core.models import Exponential, Line, Sinusoid

X = np.linspace(0, 5, 12)


class ReadOnlyResults(TestCase):
    def closed(self, found: Fit) -> None:
        arrays = {
            "fitted": found.fitted, "residuals": found.residuals, "leverage": found.leverage, "covariance": found.covariance,
            "correlations": found.correlations, "standardised": found.standardised_residuals, "deleted": found.deleted_residuals,
            "distance": found.cooks_distance,
        }  # fmt: skip
        for name, array in arrays.items():
            with self.subTest(name), self.assertRaises(ValueError):
                array[...] = 0
        with self.assertRaises(TypeError):
            found.parameters["slope"] = found.parameters["intercept"]  # type: ignore[index]
        with self.assertRaises(TypeError):
            found.statistics.absent["aic"] = ""  # type: ignore[index]
        with self.assertRaises(FrozenInstanceError):
            found.model = Sinusoid()  # type: ignore[misc]
        self.assertIsInstance(found.derived, tuple)

    def test_here_and_after_a_way_through_another_process(self) -> None:
        found = fit(Readings(X, 2 * X + np.cos(X)), Line())
        self.closed(found)
        self.closed(pickle.loads(pickle.dumps(found)))

    def test_what_is_remembered_is_worked_out_once(self) -> None:
        found = fit(Readings(X, 2 * X + np.cos(X)), Line())
        self.assertIs(found.pattern, found.pattern)
        self.assertIs(found.equation, found.equation)


class Letters(TestCase):
    def test_beside_names(self) -> None:
        found = fit(Readings(X, 2 * X + np.cos(X)), Line())
        self.assertIs(found.parameters["m"], found.parameters["slope"])
        self.assertIs(found.parameters["c"], found.parameters["intercept"])
        self.assertEqual(list(found.parameters), ["slope", "intercept"])
        self.assertNotIn("m", found.parameters)

    def test_a_name_goes_before_a_letter(self) -> None:
        found = fit(Readings(X, 3 * np.exp(-X) + 2 + np.cos(X) / 50), Exponential(level=True))
        self.assertEqual(found.parameters["c"].name, "c")

    def test_one_that_is_not_there(self) -> None:
        found = fit(Readings(X, 2 * X + np.cos(X)), Line())
        with self.assertRaisesRegex(KeyError, "no parameter of this model; it has slope, intercept"):
            found.parameters["b"]
