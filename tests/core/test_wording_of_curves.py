"""Equations, units, derived quantities and sentences of every model."""

from __future__ import annotations

from unittest import TestCase

import numpy as np

from ridge.core import Readings, fit, interpolate
from ridge.core.formula import evaluate, parse
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
from ridge.core.predicting.features import area, roots, tangent, turning_points
from ridge.core.wording.derived import word_derived
from ridge.core.wording.equation import word_equation, write_symbols
from ridge.core.wording.families import beyond_sentence
from ridge.core.wording.features import word_places, word_quantity, word_tangent
from ridge.core.wording.headings import heading
from ridge.core.wording.judgement import how_well
from ridge.core.wording.naming import Naming
from ridge.core.wording.pieces import word_piece

X = np.linspace(0.5, 10, 25)
NOISE = np.random.default_rng(1).normal(0, 0.2, 25)
NAMING = Naming("t", "h", "h", "m", "time", "height")


class Equations(TestCase):
    def test_symbols(self) -> None:
        for model, text in (
            (Line(), "h = m·t + c"),
            (Polynomial(3), "h = c₃·t³ + c₂·t² + c₁·t + c₀"),
            (Polynomial(4, terms=[1, 4]), "h = c₄·t⁴ + c₁·t"),
            (Exponential(level=True), "h = a·e^(k·t) + c"),
            (Logarithmic(shift=True), "h = a·ln(t − x₀) + b"),
            (Power(), "h = a·t^n"),
            (Reciprocal(), "h = a/t + b"),
            (Sinusoid(form="cos"), "h = A·cos(ω·t + φ) + d"),
            (Logistic(), "h = L/(1 + e^(−k·(t − x₀)))"),
            (Formula("p*exp(-q*x)+r"), "h = p·e^(−q·t) + r"),
        ):
            self.assertEqual(write_symbols(model, NAMING)[0], text)
        own = Naming("t", "h", letters=(("slope", "b"), ("intercept", "a")))
        self.assertEqual(write_symbols(Line(), own)[0], "h = b·t + a")

    def test_degrees_carry_their_sign(self) -> None:
        text, latex = write_symbols(Sinusoid(degrees=True), NAMING)
        self.assertEqual(text, "h = A·sin((ω·t + φ)°) + d")
        self.assertIn(r"\sin\left(\left(\omega\,t + \varphi\right)^\circ\right)", latex)
        result = fit(Readings(X, 3 * np.sin(X) + NOISE), Sinusoid(degrees=True))
        self.assertRegex(result.equation.text, r"sin\(\([\d.]+·x [−+] [\d.]+\)°\)")
        self.assertNotIn("°", fit(Readings(X, 3 * np.sin(X) + NOISE), Sinusoid()).equation.text)

    def test_numbers_keep_their_decimals_and_signs(self) -> None:
        cases: list[tuple[Model, np.ndarray, str]] = [
            (Polynomial(2), X**2 - 4 * X - 3, "y = x² − 4·x − 3"),
            (Exponential(), 3 * np.exp(-0.5 * X), "y = 3·e^(−0.5·x)"),
            (Reciprocal(), -5 / X - 1, "y = −5/x − 1"),
            (Logarithmic(), 3 * np.log(X) - 1, "y = 3·ln(x) − 1"),
            (Power(), 3 * X**-1.5, "y = 3·x^(−1.5)"),
        ]
        for model, y, text in cases:
            self.assertEqual(fit(Readings(X, y), model).equation.text, text)

    def test_the_rounded_equation_stays_within_a_tenth_of_s(self) -> None:
        for model, y in (
            (Polynomial(4), 0.01 * X**4 - X**2 + 3), (Exponential(level=True), 30 * np.exp(-0.4 * X) + 7),
            (Sinusoid(), 3 * np.sin(2 * X) + 4), (Gaussian(), 20 * np.exp(-((X - 4) ** 2) / 4) + 2),
        ):  # fmt: skip
            result = fit(Readings(X, y + NOISE), model)
            equation = result.equation
            rounded = {name: round(value, equation.decimals[name]) for name, value in result.values.items()}
            at = np.linspace(0.5, 10, 61)
            off = float(np.max(np.abs(model.evaluate(at, rounded) - model.evaluate(at, result.values))))
            self.assertLessEqual(off, equation.allowed * (1 + 1e-9))
            self.assertAlmostEqual(off, equation.largest_difference, delta=1e-3 * equation.allowed)

    def test_decimals_of_the_course_are_obeyed_and_their_cost_told(self) -> None:
        result = fit(Readings(X, 30 * np.exp(-0.4 * X) + 7 + NOISE), Exponential(level=True))
        equation = word_equation(result, decimals={"a": 0, "k": 1, "c": 0})
        self.assertEqual(equation.text, "y = 30·e^(−0.4·x) + 7")
        self.assertGreater(equation.largest_difference, equation.allowed)

    def test_text_latex_and_mathml(self) -> None:
        result = fit(Readings(X, 30 * np.exp(-0.4 * X) + 7 + NOISE), Exponential(level=True))
        equation = word_equation(result, NAMING)
        self.assertRegex(equation.text, r"^h = [\d.]+·e\^\(−[\d.]+·t\) \+ [\d.]+$")
        self.assertRegex(equation.latex, r"^h = [\d.]+\\,\\mathrm\{e\}\^\{-[\d.]+\\,t\} \+ [\d.]+$")
        self.assertTrue(equation.mathml.startswith("<math") and "<msup>" in equation.mathml)

    def test_the_printed_equation_reads_back(self) -> None:
        result = fit(Readings(X, 30 * np.exp(-0.4 * X) + 7 + NOISE), Exponential(level=True))
        tree = parse(result.equation.text).tree
        self.assertIsNotNone(tree)


class Units(TestCase):
    def test_units_of_parameters(self) -> None:
        for model, units in (
            (Line(), {"slope": "m/h", "intercept": "m"}),
            (Polynomial(2), {"c0": "m", "c1": "m/h", "c2": "m/h²"}),
            (Exponential(level=True), {"a": "m", "k": "1/h", "c": "m"}),
            (Reciprocal(), {"a": "m·h", "b": "m"}),
            (Sinusoid(), {"amplitude": "m", "angular_frequency": "rad/h", "phase": "rad", "midline": "m"}),
            # The factor of a power law is the value of y where x is one.
            (Power(), {"a": "m", "n": ""}),
            (Sinusoid(degrees=True), {"amplitude": "m", "angular_frequency": "°/h", "phase": "°", "midline": "m"}),
            (Gaussian(), {"height": "m", "centre": "h", "width": "h", "level": "m"}),
        ):
            self.assertEqual(NAMING.parameter_units(model), units)

    def test_units_that_are_products(self) -> None:
        naming = Naming("x", "y", "m/s", "kg")
        self.assertEqual(naming.unit(2, 0), "(m/s)²")
        self.assertEqual(naming.unit(-1, 1), "kg/(m/s)")
        self.assertEqual(naming.unit(0.5, 0), "")

    def test_what_two_units_share_is_put_together(self) -> None:
        for x, y, powers, unit in (
            ("m", "m", (-2, 1), "1/m"),
            ("m", "m", (-1, 1), ""),
            ("s", "m/s", (-1, 1), "m/s²"),
            ("s", "m/s", (1, 1), "m"),
            ("m", "m", (1, 1), "m²"),
            ("kg", "g/kg", (1, 1), "g"),
            ("h", "m/s", (-1, 1), "(m/s)/h"),
            ("s", "m·s⁻¹", (-1, 1), "m/s²"),
            ("g/kg", "mV", (-1, 1), "mV/(g/kg)"),
            ("°C", "°C", (-1, 1), ""),
            ("s", "√cm", (-1, 1), "√cm/s"),
        ):
            self.assertEqual(Naming("x", "y", x, y).unit(*powers), unit, (x, y, powers))

    def test_headings_by_the_convention_of_the_si(self) -> None:
        # SI Brochure, 9th ed., section 5.4.1: T/K, v/(m/s).
        for name, symbol, unit, exponent, said in (
            ("speed", "v", "m/s", 0, "speed v / (m/s)"),
            ("", "S", "g/kg", 0, "S / (g/kg)"),
            ("height", "y", "m", -3, "height y / (10⁻³ m)"),
            ("", "N", "", 3, "N / 10³"),
            ("time", "t", "h:min", 0, "time t / h:min"),
            ("label", "", "", 0, "label"),
            ("", "", "", 0, "column"),
        ):
            self.assertEqual(heading(name, symbol, unit, exponent), said)


class Sentences(TestCase):
    def test_derived_quantities(self) -> None:
        result = fit(Readings(X, 3 * np.sin(0.5 * X) + 4 + NOISE), Sinusoid())
        texts = {derived.name: derived.text for derived in word_derived(result, NAMING)}
        self.assertRegex(texts["period"], r"^12\.\d\d ± 0\.\d\d\xa0h$")
        self.assertRegex(texts["next crest"], r"^1[56]\.\d\d? ± 0\.\d\d?\xa0h$")
        angle = word_derived(fit(Readings(X, 2 * X + NOISE), Line()), NAMING)[1].text
        self.assertTrue(angle.endswith("°"))

    def test_what_each_model_does_beyond(self) -> None:
        for model, y, words in (
            (Line(), 2 * X, "goes on for ever"), (Polynomial(2), -X * X, "steeply down on this side"),
            (Exponential(level=True), 30 * np.exp(-0.4 * X) + 7, "levels off towards h = 6.99"), (Exponential(), np.exp(0.3 * X), "moves away ever faster"),
            (Logarithmic(), np.log(X) * 9, "rising, ever more slowly"), (Power(), X**1.5, "rising on this side, by the same factor"),
            (Reciprocal(), 9 / X, "levels off"), (Sinusoid(), 3 * np.sin(X), "repeats itself"),
            (Logistic(), 30 / (1 + np.exp(4 - X)), "upper limit"), (Gaussian(), 9 * np.exp(-((X - 4) ** 2)), "returns to the level"),
            (Formula("a*x+b*sqrt(x)"), X + 3 * np.sqrt(X), "formula's doing"),
        ):  # fmt: skip
            self.assertIn(words, beyond_sentence(fit(Readings(X, y + NOISE / 20), model), NAMING, 99.0))

    def test_how_well_speaks_of_the_curve(self) -> None:
        y = 30 * np.exp(-0.4 * X) + 7 + NOISE
        self.assertRegex(how_well(fit(Readings(X, y), Exponential(level=True)), NAMING), "^The curve accounts for 99")
        self.assertRegex(how_well(fit(Readings(X, y), Exponential()), NAMING), "^The curve accounts for 94")
        through = how_well(fit(Readings([1, 2, 3], [1.0, 5, 2]), Polynomial(2)), NAMING)
        self.assertIn("through every reading by construction", through)

    def test_features(self) -> None:
        result = fit(Readings(X, (X - 3) * (X - 7) + NOISE), Polynomial(2))
        self.assertRegex(
            word_places(turning_points(result), NAMING, 0.95)[0],
            r"^minimum at t = 5\.0\d+\xa0h \(95\xa0% CI 4\.9\d+ to 5\.0\d+\), h = −3\.9",
        )
        self.assertRegex(word_places(roots(result), NAMING, 0.95)[0], r"^zero at t = 3\.0")
        self.assertRegex(
            word_tangent(tangent(result, 3), NAMING, 0.95),
            r"^slope at t = 3\xa0h: −4\.0\d+\xa0m/h \(95\xa0% CI −4\.\d+ to −3\.\d+\)$",
        )
        self.assertRegex(
            word_quantity(area(result, 3, 7), NAMING.unit(1, 1), 0.9),
            r"^−10\.\d+\xa0m·h \(90\xa0% CI −1\d\.\d+ to −10\.\d+\)$",
        )


class Pieces(TestCase):
    def test_the_equation_of_each_piece(self) -> None:
        curve = interpolate(Readings([0, 1, 2], [0.0, 1.0, 0.0]), "cubic-spline", ends="natural")
        texts = [word_piece(piece, NAMING) for piece in curve.pieces]
        self.assertEqual(texts[0].text, "h = 1.5·t − 0.5·t³ for 0 ≤ t ≤ 1")
        self.assertEqual(texts[1].text, "h = 1 − 1.5·(t − 1)² + 0.5·(t − 1)³ for 1 ≤ t ≤ 2")
        self.assertEqual(texts[0].latex, r"h = 1.5\,t - 0.5\,t^{3} \quad 0 \le t \le 1")
        self.assertIn(r"\left(t - 1\right)^{2}", texts[1].latex)

    def test_signs_and_zeros(self) -> None:
        straight = interpolate(Readings([-2, 0, 1], [-3.0, -3.0, 5.0]), "linear")
        self.assertEqual(
            [word_piece(piece, NAMING).text for piece in straight.pieces],
            ["h = −3 for −2 ≤ t ≤ 0", "h = −3 + 8·t for 0 ≤ t ≤ 1"],
        )
        falling = interpolate(Readings([-2, 0], [3.0, -1.0]), "linear")
        self.assertEqual(word_piece(falling.pieces[0], NAMING).text, "h = 3 − 2·(t + 2) for −2 ≤ t ≤ 0")

    def test_it_reads_back_as_the_curve(self) -> None:
        curve = interpolate(Readings(X, np.sin(X)), "cubic-spline", ends="not-a-knot")
        for piece in curve.pieces[::5]:
            right = word_piece(piece, Naming()).text.partition(" = ")[2].partition(" for ")[0]
            middle = (piece.low + piece.high) / 2
            found = float(evaluate(parse(right).tree, {"x": middle}))
            self.assertAlmostEqual(found, float(curve.predict(middle).value), places=4)


class MoreCautions(TestCase):
    def codes(self, model: Model, y: np.ndarray, x: np.ndarray = X) -> list[str]:
        return [caution.code for caution in fit(Readings(x, y), model).cautions]

    def test_each_is_found(self) -> None:
        random = np.random.default_rng(3)
        self.assertIn("patterned-residuals", self.codes(Polynomial(2), 3 * np.sin(X) + NOISE))
        self.assertIn("spread-changes", self.codes(Line(), 2 * X + X**2 * random.normal(0, 0.1, 25)))
        self.assertIn("no-better-than-constant", self.codes(Polynomial(3), random.normal(0, 1, 25)))
        self.assertIn("highest-term-not-needed", self.codes(Polynomial(4), X**2 + NOISE))
        self.assertIn(
            "swings", self.codes(Polynomial(10), np.where(np.arange(12) == 6, 5.0, 0.0) + NOISE[:12] / 9, X[:12])
        )
        self.assertIn("less-than-a-cycle", self.codes(Sinusoid(), 3 * np.sin(0.15 * X) + NOISE / 100))
        self.assertIn("pole-inside", self.codes(Reciprocal(), 1 / (X - 5.1) + NOISE, X - 5.1))
        self.assertIn(
            "undefined-inside",
            self.codes(Formula("a*sqrt(x^2 - 1) + b"), np.abs(X - 5.1) + NOISE, X - 5.1 + 9 * np.sign(X - 5.1)),
        )

    def test_too_few_readings_a_cycle(self) -> None:
        x = np.sort(np.random.default_rng(4).uniform(0, 10, 9))
        self.assertIn("fewer-than-two-readings-a-cycle", self.codes(Sinusoid(), np.sin(4.5 * x), x))

    def test_rows_that_take_no_part_are_named(self) -> None:
        x, y, weight = X.copy(), 2 * X + NOISE, np.ones(25)
        x[2], y[4], y[6], weight[8], weight[9], weight[10] = np.inf, np.nan, -np.inf, 0, -1, np.nan
        x[12] = y[12] = np.nan  # an empty row, and an unknown
        x[13] = np.nan
        readings = Readings(x, y, weight=weight, included=np.arange(25) != 20)
        caution = next(c for c in fit(readings, Line()).cautions if c.code == "rows-left-out")
        self.assertEqual(caution.rows, (2, 4, 6, 8, 9, 10))
        self.assertIn("Rows 3, 5, 7 and 9 to 11 are unusable", caution.message)

    def test_assumed_readings_are_named(self) -> None:
        readings = Readings(X, 2 * X + NOISE, assumed=np.arange(25) == 4)
        caution = next(c for c in fit(readings, Line()).cautions if c.code == "assumed-readings")
        self.assertEqual(caution.rows, (4,))
        self.assertIn("Row 5 was not measured but assumed", caution.message)
