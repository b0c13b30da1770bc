"""The notebook page does what it says."""

from __future__ import annotations

import doctest
import inspect
import io
import json
from datetime import date
from importlib import import_module
from pathlib import Path
from typing import Any
from unittest import TestCase

import numpy as np
import pandas
from matplotlib import pyplot
from matplotlib.figure import Figure

from ridge.core import Fit, Readings, fit, interpolate
from ridge.core.errors import OutsideSense
from ridge.core.models import Exponential, Line, Polynomial

PAGE = Path(__file__).parent.parent.parent / "docs" / "notebook.md"


class Page(TestCase):
    def test_every_example_gives_what_is_printed(self) -> None:
        result = doctest.testfile(str(PAGE), module_relative=False, optionflags=doctest.NORMALIZE_WHITESPACE)
        self.assertEqual(result.failed, 0)
        self.assertGreater(result.attempted, 20)

    def test_a_data_frame(self) -> None:
        frame = pandas.DataFrame({"load": [0, 1, 2, 3], "stretch": [0.1, 2.0, 4.1, 5.9], "error": [0.1] * 4})
        readings = Readings.from_columns(frame, "load", "stretch", y_error="error")
        self.assertAlmostEqual(fit(readings, Line()).values["slope"], 1.95, places=10)
        self.assertIn("<table>", readings._repr_html_())
        with self.assertRaises(OutsideSense):
            Readings.from_columns(frame, "weight", "stretch")


class AtHand(TestCase):
    """What a fit, a prediction and an interpolation give beside their numbers."""

    def setUp(self) -> None:
        x = np.linspace(0, 6, 13)
        self.readings = Readings(x, 4 * np.exp(-x / 2) + 1 + np.cos(5 * x) / 40)
        self.fit: Fit = fit(self.readings, Exponential(level=True))

    def test_it_is_a_function(self) -> None:
        x = np.array([[0.5, 1.0], [2.0, 9.0]])
        np.testing.assert_array_equal(self.fit(x), self.fit.evaluate(x))
        curve = interpolate(self.readings, "monotone")
        np.testing.assert_array_equal(curve([1.0, 2.0]), curve.evaluate([1.0, 2.0]))

    def test_plain_values_for_other_programs(self) -> None:
        found = json.loads(json.dumps(self.fit.to_dict(), allow_nan=False))
        self.assertEqual(found["parameters"]["k"]["value"], self.fit.parameters["k"].value)
        self.assertEqual(found["statistics"]["r_squared"], self.fit.statistics.r_squared)
        self.assertEqual({row.name for row in self.fit.derived}, set(found["derived"]))
        exact = fit(Readings([0, 1, 2], [1, 3, 5]), Line()).to_dict()
        self.assertNotIn("aic", exact["statistics"])
        json.dumps(exact, allow_nan=False)

    def test_predictions_as_a_data_frame(self) -> None:
        predicted = self.fit.predict([1.0, 8.0])
        frame = pandas.DataFrame(predicted.to_dict())
        self.assertEqual(frame["high"].tolist(), predicted.high.tolist())
        self.assertEqual(len(pandas.DataFrame(self.fit.predict(1.0).to_dict())), 1)
        self.assertIn("<th>mean_low</th>", predicted._repr_html_())

    def test_drawn_on_given_axes(self) -> None:
        axes = Figure().add_subplot()
        self.assertIs(self.fit.plot(axes), axes)
        curve, points = axes.lines[0], axes.lines[1]
        np.testing.assert_allclose(curve.get_ydata(), self.fit(curve.get_xdata()))  # type: ignore[arg-type]
        np.testing.assert_array_equal(points.get_ydata(), self.readings.y)

    def test_drawn_where_no_axes_are_given(self) -> None:
        pyplot.switch_backend("agg")
        axes = self.fit.plot()
        self.assertIs(axes, pyplot.gca())
        self.assertEqual(len(axes.lines[1].get_xdata()), self.readings.n)
        pyplot.close("all")

    def test_parameters_by_the_letters_of_the_page(self) -> None:
        quadratic = fit(self.readings, Polynomial(2))
        self.assertIs(quadratic.parameters["c_2"], quadratic.parameters["c2"])
        with self.assertRaisesRegex(KeyError, "c_3 is no parameter of this model; it has c0, c1, c2"):
            quadratic.parameters["c_3"]

    def test_an_interpolation_shows_itself(self) -> None:
        shown = interpolate(self.readings, "cubic-spline")._repr_html_()
        self.assertIn("cubic pieces", shown)
        self.assertIn("<li>", shown)


class WhatIsNoReading(TestCase):
    def said(self, x: Any, y: Any) -> str:
        with self.assertRaises(OutsideSense) as caught:
            Readings(x, y)
        return str(caught.exception)

    def test_texts_and_dates_are_named(self) -> None:
        self.assertIn("x: holds texts such as 1.5", self.said(["1.5", "2"], [1, 2]))
        self.assertIn(
            "y: holds dates", self.said([1, 2], np.array(["2026-05-01", "2026-05-02"], dtype="datetime64[D]"))
        )
        self.assertIn("x: holds dates", self.said([date(2026, 5, 1), date(2026, 5, 2)], [1, 2]))
        self.assertIn("x: holds something that is not a number", self.said([object(), 2], [1, 2]))

    def test_what_is_masked_is_not_used(self) -> None:
        y = np.ma.masked_array([1.0, 2.0, 99.0, 4.0], mask=[False, False, True, False])
        readings = Readings([1, 2, 3, 4], y)
        self.assertEqual(readings.used.tolist(), [True, True, False, True])
        self.assertAlmostEqual(fit(readings, Line()).values["slope"], 1.0)
        self.assertEqual(Readings([1, 2], np.array([None, 3])).used.tolist(), [False, True])

    def test_a_family_is_not_yet_a_model(self) -> None:
        readings = Readings([1, 2, 3], [1, 2, 4])
        for model, said in ((Line, "such as Line(), not Line"), ("line", "not 'line'")):
            with self.assertRaises(OutsideSense) as caught:
                fit(readings, model)  # type: ignore[arg-type]
            self.assertIn(said, str(caught.exception))
        with self.assertRaisesRegex(OutsideSense, r"made by Readings\(x, y\)"):
            fit([1, 2, 3], Line())  # type: ignore[arg-type]


class Examples(TestCase):
    """What a notebook asks of the core says in its docstring how it is asked, and gets what stands there."""

    ASKED = {
        "readings": ("Readings", "Readings.from_columns"),
        "fitting.fit": ("fit",),
        "by_hand.given": ("with_values",),
        "interpolation.interpolate": ("interpolate",),
        "predicting.at_x": ("predict",),
        "predicting.at_y": ("solve",),
        "predicting.features": ("roots", "turning_points", "inflexions", "tangent", "area", "crossings"),
        "predicting.parameter_limits": ("profile_interval", "intervals"),
        "predicting.derived": ("derived_of",),
        "judging.comparison": ("leave_one_out", "nested_test", "degree_ladder", "compare"),
        "judging.ranking": ("rank_models", "bends"),
        "judging.resampling": ("random_shares", "k_fold", "each_in_turn", "bootstrap"),
        "judging.quantiles": ("normal_quantiles",),
        "judging.misses": ("typical_miss",),
        "judging.cautions": ("findings_of",),
        "judging.patterns": ("pattern_of",),
        "judging.influence": ("readings_far_off", "readings_that_decide"),
        "wording.rounding": ("round_with_uncertainty",),
        "wording.equation": ("word_equation",),
        "carrying.propagation": ("propagate",),
        "carrying.following": ("follow",),
        "carrying.agreement": ("agree",),
        "carrying.next_reading": ("where_next",),
        "workings.work": ("work",),
        "formula.parse": ("parse",),
        "formula.writing": ("to_latex",),
    }

    def test_each_has_one_that_runs(self) -> None:
        for module, names in self.ASKED.items():
            held: Any = import_module(f"ridge.core.{module}")
            for name in names:
                asked = held
                for part in name.split("."):
                    asked = getattr(asked, part)
                tests = doctest.DocTestFinder(recurse=False).find(inspect.unwrap(asked), name, globs={})
                self.assertTrue(tests and tests[0].examples, name)
                said = io.StringIO()
                doctest.DocTestRunner().run(tests[0], out=said.write)
                self.assertEqual(said.getvalue(), "", name)
