"""Rounding with uncertainty, numbers as text, equations and sentences."""

from __future__ import annotations

from unittest import TestCase

import numpy as np

from ridge.core import Readings, fit, with_values
from ridge.core.models import Exponential, Line, Power
from ridge.core.numerals import group, name_rows, probability, share, significant, write
from ridge.core.wording.answers import word_prediction, word_solution
from ridge.core.wording.equation import word_equation
from ridge.core.wording.judgement import how_well, list_statistics, percent, sides_text
from ridge.core.wording.method import method_sentence, rounding_cost, rounding_sentence
from ridge.core.wording.naming import Naming, symbol_latex, with_unit
from ridge.core.wording.rounding import round_with_uncertainty
from ridge.core.wording.units import quotient


class ValueAndUncertainty(TestCase):
    """The rule of the Particle Data Group; see ``tests.core.test_rounding``."""

    def test_table(self) -> None:
        for value, uncertainty, expected in (
            (1.60712, 0.0151, "1.607 ± 0.015"),
            (12.4523, 0.0632, "12.45 ± 0.06"),
            (-0.8973, 0.018, "−0.897 ± 0.018"),
            (2.888, 0.0096, "2.888 ± 0.010"),
            (0.1, 0.195, "0.10 ± 0.20"),
            (3, 40, "3 ± 40"),
            (1234.5, 12, "1235 ± 12"),
            (-0.001, 0.19, "−0.001 ± 0.190"),
            (123456.7, 3210, "123\u202f500 ± 3200"),
            (1.2345e-7, 2.3e-9, "(1.235 ± 0.023)\u202f×\u202f10⁻⁷"),
            (1234567, 0.5, "(1.2345670 ± 0.0000005)\u202f×\u202f10⁶"),
            (0.44, 12, "0.4 ± 12.0"),
            (58, 1.5e6, "(0.00 ± 1.50)\u202f×\u202f10⁶"),
            (0, 1.2, "0.0 ± 1.2"),
            (5, None, "5"),
            (2.5, 0.0, "2.5"),
        ):
            self.assertEqual(round_with_uncertainty(value, uncertainty).text, expected)


class Numbers(TestCase):
    def test_notation(self) -> None:
        self.assertEqual(write(-1234.56, 1).text, "−1234.6")
        self.assertEqual(group("1234567.25"), "1\u202f234\u202f567.25")
        self.assertEqual(significant(12345.678).text, "12\u202f350")
        self.assertEqual(significant(25.0, strip=True).text, "25")
        self.assertEqual(significant(5e-324, 2).text, "5.0\u202f×\u202f10⁻³²⁴")
        self.assertEqual(write(float("inf"), 2).text, "∞")
        self.assertEqual(write(2.675, 2).text, "2.68")

    def test_r_squared_never_rounds_up_to_one(self) -> None:
        self.assertEqual(share(0.99999999), "0.99999999")
        self.assertEqual(share(1 - 1e-15), "above 0.999999999999")
        self.assertEqual(share(1.0), "1")
        self.assertEqual(percent(0.99999), "99.999\u00a0%")
        self.assertNotIn("100", percent(1 - 1e-9))

    def test_probability(self) -> None:
        self.assertEqual((probability(0.0312), probability(3e-9)), ("0.031", "< 0.0001"))

    def test_rows(self) -> None:
        self.assertEqual(name_rows([6]), "row 7")
        self.assertEqual(name_rows([2, 8]), "rows 3 and 9")
        self.assertEqual(name_rows([0, 1, 2, 3, 8]), "rows 1 to 4 and 9")
        self.assertEqual(name_rows([0, 2, 4, 6, 8, 10, 12, 14]), "rows 1, 3, 5, 7, 9, 11 and 2 more")


class Symbols(TestCase):
    def test_units(self) -> None:
        self.assertEqual(quotient("mm", "N"), "mm/N")
        self.assertEqual(quotient("mV", "g/kg"), "mV/(g/kg)")
        self.assertEqual((quotient("m", "m"), quotient("", "h"), quotient("m", "")), ("", "1/h", "m"))
        self.assertEqual(with_unit("5", "°"), "5°")
        self.assertEqual(with_unit("5 ± 1", "°"), "(5 ± 1)°")
        self.assertEqual(with_unit("5", "m"), "5\u00a0m")

    def test_latex(self) -> None:
        self.assertEqual(symbol_latex("t"), "t")
        self.assertEqual(symbol_latex("x_0"), r"x_{\mathrm{0}}")
        self.assertEqual(symbol_latex("load"), r"\mathit{load}")
        self.assertEqual(symbol_latex(r"}\input{x"), r"\mathit{\}\backslash input\{x}")


class Equations(TestCase):
    def test_decimals_keep_the_curve_within_a_tenth_of_s(self) -> None:
        random = np.random.default_rng(3)
        for offset in (0.0, 1e4, -3e6):
            x = offset + np.linspace(0, 50, 12)
            result = fit(Readings(x, 4 + 0.37 * x + random.normal(0, 0.8, 12)), Line())
            equation = result.equation
            slope, _, rest = equation.latex.partition("=")[2].partition(r"\,x")
            intercept = float(
                rest.replace(" ", "").replace(r"\,", "").replace(r"\times10^{", "e").replace("}", "") or 0
            )
            strays = np.abs(float(slope) * x + intercept - result.evaluate(x)).max()
            s = result.statistics.residual_standard_deviation or 0
            self.assertLessEqual(strays, s / 10 * (1 + 1e-6))
            self.assertAlmostEqual(strays, equation.largest_difference, delta=1e-6 * s)

    def test_too_few_decimals_are_told(self) -> None:
        # Far from x = 0 the digits that the slope's uncertainty justifies do not suffice: the curve would leave the readings.
        x = 1e4 + np.linspace(0, 50, 12)
        result = fit(Readings(x, 4 + 0.37 * x + np.resize([0.8, -0.8], 12)), Line())
        self.assertGreater(result.equation.justified_difference, result.equation.allowed)
        self.assertIn("more decimals", rounding_sentence(result, Naming()))

    def test_the_decimals_of_the_course_are_obeyed_and_their_cost_is_that_of_the_rounded_numbers(self) -> None:
        x = np.linspace(0, 40, 15)
        result = fit(Readings(x, 12.34 + 0.0567 * x + np.resize([0.05, -0.02, -0.03], 15)), Line())
        safe = result.equation
        shown = word_equation(result, Naming(), decimals={"slope": 1, "intercept": 1})
        slope, intercept = result.values["slope"], result.values["intercept"]
        self.assertEqual(shown.text, f"y = {slope:.1f}·x + {intercept:.1f}")
        strays = np.abs((round(slope, 1) - slope) * x + round(intercept, 1) - intercept).max()
        self.assertAlmostEqual(shown.largest_difference, strays, delta=1e-12)
        said = rounding_cost(result, Naming(y_unit="m"), shown, safe)
        self.assertIn(f"by up to {float(f'{strays:.2g}'):g}", said)
        self.assertIn(f"{safe.decimals['slope']} decimals for m", said)
        self.assertEqual(rounding_cost(result, Naming(), safe, safe), "")
        # More decimals than are needed cost nothing.
        more = word_equation(result, Naming(), decimals={"slope": 9, "intercept": 9})
        self.assertEqual(rounding_cost(result, Naming(), more, safe), "")

    def test_numbers_set_by_hand_stand_with_as_many_digits_as_the_equation_needs(self) -> None:
        for offset in (0.0, 5e3):
            x = offset + np.linspace(0, 30, 10)
            readings = Readings(x, 2 + 0.123456789 * x + np.resize([0.2, -0.1, -0.1], 10))
            given = with_values(readings, Line(), {"slope": 0.123456789, "intercept": 1.987654321})
            short = word_equation(given, Naming(), given_digits=4)
            self.assertLessEqual(short.largest_difference, short.allowed)
            self.assertLess(len(short.text), len(word_equation(given, Naming()).text))
        self.assertEqual(word_equation(given, Naming()).text, "y = 0.123456789·x + 1.987654321")
        # A fit has its decimals from its uncertainties, whatever is said of given numbers.
        result = fit(readings, Line())
        self.assertEqual(word_equation(result, Naming(), given_digits=2), result.equation)

    def test_in_logarithms_nothing_of_the_line_there_is_given_in_the_unit_of_y(self) -> None:
        x = np.linspace(0, 8, 14)
        y = 40 * np.exp(-0.3 * x) * np.exp(np.resize([0.1, -0.05, -0.06, 0.02], 14))
        result = fit(Readings(x, y), Exponential(), least_squares_in="logarithms")
        naming = Naming(y="T", y_unit="K")
        slope, start = np.polyfit(x, np.log(y), 1)
        there = np.log(y) - (start + slope * x)
        s = np.sqrt(there @ there / 12)
        here = y - np.exp(start + slope * x)
        said = how_well(result, naming)
        self.assertIn(f"typically misses by {s:.2g}, a factor of {np.exp(s):.3g};", said)
        self.assertIn(f"misses a reading by {float(f'{np.sqrt(here @ here / 12):.2g}'):g}\u00a0K", said)
        r_squared = 1 - there @ there / ((np.log(y) - np.log(y).mean()) @ (np.log(y) - np.log(y).mean()))
        self.assertIn(f"{r_squared * 100:.2f}\u00a0% of the variation", said)
        listed = {row.name: row for row in list_statistics(result, naming)}
        self.assertEqual({row.unit for row in listed.values()}, {""})
        self.assertEqual(listed["residual_standard_deviation"].value, f"{s:.3g}")
        self.assertIn("ln T", listed["r_squared"].meaning)
        power = fit(Readings(x + 1, y), Power(), least_squares_in="logarithms")
        correlation = next(row for row in list_statistics(power, naming) if row.name == "correlation")
        self.assertIn("ln x and ln T", correlation.meaning)

    def test_text_and_latex(self) -> None:
        self.assertEqual(fit(Readings([0, 1, 2], [1, 3, 5]), Line()).equation.text, "y = 2·x + 1")
        self.assertEqual(fit(Readings([0, 1, 2], [-1, -3, -5]), Line()).equation.text, "y = −2·x − 1")
        self.assertEqual(fit(Readings([0, 1, 2], [0, 2, 4]), Line(0.0)).equation.text, "y = 2·x")
        named = word_equation(fit(Readings([0, 1, 2], [1, 3, 5]), Line()), Naming("F", "u_L"))
        self.assertEqual(named.latex, r"u_{\mathrm{L}} = 2\,F + 1")


class Sentences(TestCase):
    naming = Naming("F", "L", "N", "mm")

    def setUp(self) -> None:
        self.fit = fit(Readings([0, 2, 4, 6, 8, 10], [0.3, 4.1, 8.6, 12.2, 16.9, 20.1]), Line())

    def test_how_well_gives_r_squared_with_its_degrees_of_freedom(self) -> None:
        text = how_well(self.fit, self.naming)
        self.assertIn("99.82", text)
        self.assertIn("4 degrees of freedom", text)
        self.assertIn("no significant pattern", text)

    def test_a_prediction_says_how_far_beyond_it_stands(self) -> None:
        inside = word_prediction(self.fit, self.fit.predict(3.0), self.naming)
        self.assertEqual(inside.place, "")
        beyond = word_prediction(self.fit, self.fit.predict(24.0), self.naming)
        self.assertIn("14\u00a0N past the last reading, 1.4 times the measured range.", beyond.place)
        self.assertNotIn("largest", beyond.place)
        before = word_prediction(self.fit, self.fit.predict(-5.0), self.naming)
        self.assertIn("before the first reading", before.place)
        self.assertEqual(
            word_prediction(self.fit, self.fit.predict(10.0), self.naming).place, "At the edge of the readings."
        )

    def test_an_answer_without_limits_does_not_pretend(self) -> None:
        loose = fit(Readings([1, 2, 3, 4, 5], [1, 4, 2, 1, 4]), Line())
        words = word_solution(loose, loose.solve(3.0)[0], 3.0, 1, self.naming)
        self.assertNotIn("±", words.result)
        self.assertIn("No finite 95\u00a0% limits", words.sentence)

    def test_limits_are_written_with_their_level_and_kind(self) -> None:
        loose = fit(Readings([1, 2, 3, 4, 5, 6], [1, 3, 2, 5, 3, 6]), Line())
        words = word_solution(loose, loose.solve(9.0, level=0.8)[0], 9.0, 1, self.naming)
        self.assertRegex(words.result, r"^F = 10\.6\xa0N \(80\xa0% CI 7\.2 to 20\.7\)$")

    def test_counts_of_one_sentence_are_written_alike(self) -> None:
        self.assertEqual(sides_text(6, 0), "Six readings lie above it and none below")
        self.assertEqual(sides_text(1, 12), "One reading lies above it and twelve below")
        self.assertEqual(sides_text(13, 11), "13 readings lie above it and 11 below")
        self.assertEqual(sides_text(0, 3), "No reading lies above it and three below")

    def test_method_names_weights_and_what_is_fixed(self) -> None:
        readings = Readings([0, 1, 2, 3], [0, 2, 4, 7], y_error=[1, 1, 1, 2], absolute_errors=True)
        text = method_sentence(fit(readings, Line(0.0)), self.naming, aside=1)
        for part in ("4 readings", "1 set aside", "taken as absolute", "intercept c fixed at 0\u00a0mm"):
            self.assertIn(part, text)

    def test_every_statistic_is_labelled_or_says_why_it_is_absent(self) -> None:
        for result in (self.fit, fit(Readings([1, 2], [1, 3]), Line()), fit(Readings([1, 2, 3], [1, 2, 3]), Line())):
            for text in list_statistics(result, self.naming):
                self.assertTrue(text.label and text.meaning.endswith("."))
                self.assertTrue(text.absent or text.full)
