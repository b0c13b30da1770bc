"""The formula language: what is understood, what is refused and how, derivatives, writing."""

from __future__ import annotations

import time
from unittest import TestCase

import mpmath
import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from ridge.core.errors import FormulaError
from ridge.core.formula import differentiate, evaluate, parse, to_latex, to_text
from ridge.core.formula.checks import check_text, meant_variable
from ridge.core.formula.functions import FUNCTIONS
from ridge.core.formula.parse import Curve, rename, tokens_of
from ridge.core.formula.tree import Node, Number, contains
from ridge.core.models import Formula
from tests.examples import examples

# Formula, values, result; the results by hand.
UNDERSTOOD: list[tuple[str, dict[str, float], float]] = [
    ("-x^2", {"x": 3}, -9),
    ("(-x)^2", {"x": 3}, 9),
    ("2^3^2", {}, 512),
    ("2**-x", {"x": 1}, 0.5),
    ("2x", {"x": 3}, 6),
    ("a x", {"a": 2, "x": 5}, 10),
    ("3(x+1)", {"x": 1}, 6),
    ("x(x+1)", {"x": 2}, 6),
    ("a(x+1)^2", {"a": 2, "x": 2}, 18),
    ("2 x^2 y", {"x": 3, "y": 2}, 36),
    ("x sin(x)", {"x": 0}, 0),
    ("1/2x", {"x": 4}, 2),
    ("8/4/2", {}, 1),
    ("2-3-4", {}, -5),
    ("a*-b", {"a": 2, "b": 3}, -6),
    ("--x", {"x": 2}, 2),
    ("1.5e-3x", {"x": 2}, 0.003),
    (".5x", {"x": 4}, 2),
    ("y = 2x + 1", {"x": 1}, 3),
    ("f(x) = 2x", {"x": 1}, 2),
    ("x²", {"x": 3}, 9),
    ("x⁻¹", {"x": 4}, 0.25),
    ("2·x×3÷4", {"x": 2}, 3),
    ("5−x", {"x": 2}, 3),
    ("[x+1]{2}", {"x": 2}, 6),
    ("sin^2(x)+cos²(x)", {"x": 0.7}, 1),
    ("e^(2x)/exp(2x)", {"x": 1.1}, 1),
    ("π/pi", {}, 1),
    ("arctan(x)-atan(x)", {"x": 2}, 0),
    ("√(x)", {"x": 9}, 3),
    ("cbrt(x)", {"x": -8}, -2),
    ("abs(x)+sign(x)", {"x": -3}, 2),
    ("floor(x)+ceil(x)", {"x": 1.5}, 3),
    ("min(x,2)+max(x,2,7)", {"x": 5}, 9),
    ("sinc(x)", {"x": 0}, 1),
    ("log10(x)+log2(x)", {"x": 1}, 0),
    ("gamma(x)", {"x": 5}, 24),
    ("if(x<2, 1, 5)", {"x": 1}, 1),
    ("if(x<2,1,5)", {"x": 1}, 1),
    ("sinc(0*x)", {"x": 1}, 1),
    ("0,5*x", {"x": 4}, 2),
    ("2*(x + 0,25)", {"x": 1}, 2.5),
    ("max(0,5; x)", {"x": 0.25}, 0.5),
    ("if(x < 1,5; 0,5; 2)", {"x": 1}, 0.5),
    ("if(x≥2, 1, 5)", {"x": 1}, 5),
    ("if(x=1, 1, 5)", {"x": 1}, 1),
    ("k_1 + k₁ + k1", {"k_1": 2}, 6),
    ("ω x", {"ω": 2, "x": 3}, 6),
    ("µ", {"μ": 2}, 2),
]

# Formula, where the mistake is, a word of the message.
REFUSED: list[tuple[str, int, str]] = [
    ("", 0, "no formula yet"),
    ("a*(x+1", 2, "never closed"),
    ("a*x+1)", 5, "closes nothing"),
    ("sin x", 4, "sin(x)"),
    ("log(x)", 0, "log10 or log2"),
    ("log x", 0, "log10 or log2"),
    ("max(0,5, x)", 4, "one number or two values"),
    ("max(0,5; x, 2)", 10, "not both"),
    ("a,b", 1, "comma"),
    ("sine(x)", 0, "Did you mean sin?"),
    ("rate(x)", 0, "rate*("),
    ("2 3", 2, "* for a product"),
    ("1.5.2", 3, "* for a product"),
    ("a**", 3, "missing"),
    ("a*/b", 2, "cannot stand here"),
    ("sin^-1(x)", 0, "asin"),
    ("sin⁻¹(x)", 0, "asin"),
    ("\u0430*x", 0, "look like"),  # a Cyrillic letter
    ("\U0001d465+1", 0, "Type 'x' instead"),  # a mathematical italic x
    ("a+x$", 3, "no meaning"),
    ("x<2", 1, "if("),
    ("if(x,1,2)", 4, "comparison first"),
    ("max(1)", 0, "two values"),
    ("sin(1, 2)", 0, "one value"),
    ("sin()", 4, "a number, a name or a bracket"),
    ("1e999*x", 0, "too large"),
    ("a x = 3", 4, "if("),
    ("∞", 0, "no meaning"),
]


class Reading(TestCase):
    def test_what_is_understood(self) -> None:
        for text, values, expected in UNDERSTOOD:
            with self.subTest(text):
                self.assertAlmostEqual(float(evaluate(parse(text).tree, values)), expected, places=12)

    def test_parameters_come_in_the_order_of_first_appearance(self) -> None:
        self.assertEqual(parse("p*exp(-q*x)+r").names, ("p", "q", "r"))
        self.assertEqual(parse("b + a*t + c*t^2", "t").names, ("b", "a", "c"))
        self.assertEqual(parse("x₀ + k_1*x + x_0").names, ("x₀", "k_1"))
        self.assertEqual(parse("e*x", "e").names, ("x",))

    def test_mistakes_are_placed_and_named(self) -> None:
        for text, position, word in REFUSED:
            with self.subTest(text), self.assertRaises(FormulaError) as caught:
                parse(text)
            with self.subTest(text):
                self.assertIn(word, str(caught.exception))
                self.assertEqual(caught.exception.position, position)

    def test_only_known_names_where_the_names_are_given(self) -> None:
        parse("load/area", known=("load", "area"))
        with self.assertRaises(FormulaError) as caught:
            parse("load/aera", known=("load", "area"))
        self.assertEqual((caught.exception.position, caught.exception.found), (5, "aera"))
        self.assertIn("Did you mean area?", str(caught.exception))

    def test_hostile_text_ends_soon_with_a_reason(self) -> None:
        hostile = [
            "(" * 5000, "x" * 100_000, "^".join("x" * 400), "-" * 900 + "x", "+".join("1" * 450), "(" * 400 + "x" + ")" * 400,
            "sin(" * 150 + "x" + ")" * 150, "a" * 999 + "(", "__import__('os')", "x.__class__", "lambda x: x", "\x00", "2*x/" * 240,
        ]  # fmt: skip
        for text in hostile:
            start = time.monotonic()
            with self.subTest(text[:20]), self.assertRaises(FormulaError):
                parse(text)
            self.assertLess(time.monotonic() - start, 2.0)

    def test_powers_of_powers_cost_nothing(self) -> None:
        with np.errstate(all="ignore"):
            self.assertEqual(float(evaluate(parse("9^9^9^9^9^9").tree, {})), np.inf)

    @examples(300)
    @given(st.text(alphabet="0123456789.,xyabe+-*/^()[] sincolgπ²₀=<>if", max_size=30))
    def test_any_text_is_read_or_refused(self, text: str) -> None:
        try:
            parsed = parse(text)
        except FormulaError as error:
            self.assertTrue(0 <= error.position <= len(text))
            self.assertTrue(str(error))
        else:
            self.assertEqual(parse(to_text(parsed.tree)).tree, parsed.tree)


class Derivatives(TestCase):
    def test_against_differences_in_high_precision(self) -> None:
        known = {
            "sin": mpmath.sin, "cos": mpmath.cos, "tan": mpmath.tan, "asin": mpmath.asin, "acos": mpmath.acos,
            "atan": mpmath.atan, "sinh": mpmath.sinh, "cosh": mpmath.cosh, "tanh": mpmath.tanh, "exp": mpmath.exp,
            "ln": mpmath.log, "log10": mpmath.log10, "log2": lambda u: mpmath.log(u, 2), "sqrt": mpmath.sqrt,
            "cbrt": mpmath.cbrt, "erf": mpmath.erf, "gamma": mpmath.gamma, "sinc": lambda u: mpmath.sin(u) / u,
        }  # fmt: skip
        for name, reference in known.items():
            tree = parse(f"{name}(x)").tree
            slope, bend = differentiate(tree, "x"), differentiate(differentiate(tree, "x"), "x")
            for place in (0.3, 0.71):
                with self.subTest(name, place=place):
                    self.assertAlmostEqual(float(evaluate(tree, {"x": place})), float(reference(place)), places=13)
                    for order, derived in ((1, slope), (2, bend), (3, differentiate(bend, "x"))):
                        expected = float(mpmath.diff(reference, place, order))
                        self.assertAlmostEqual(float(evaluate(derived, {"x": place})) / expected, 1, places=11)

    def test_every_function_has_its_rules(self) -> None:
        self.assertEqual([name for name, function in FUNCTIONS.items() if not function.derivatives], [])

    def test_sinc_near_zero(self) -> None:
        tree = parse("sinc(x)").tree
        slope, bend = differentiate(tree, "x"), differentiate(differentiate(tree, "x"), "x")
        with mpmath.workdps(40):
            for place in (1e-9, 1e-5, 9e-5, 2e-4, 5e-3, 0.0099, 0.0101, 0.1):
                exact = mpmath.mpf(place)
                value = mpmath.sin(exact) / exact
                first = (mpmath.cos(exact) - value) / exact
                second = -value - 2 * first / exact
                for node, expected in ((tree, value), (slope, first), (bend, second)):
                    self.assertAlmostEqual(
                        float(evaluate(node, {"x": np.float64(place)})) / float(expected), 1, places=10
                    )

    def test_rules_of_combination(self) -> None:
        cases = {
            "x^3": "3*x^2", "a^x": "a^x*ln(a)", "x^x": "x^x*(ln(x)+1)", "e^(k*x)": "k*e^(k*x)", "(x+1)/(x-2)": "-3/(x-2)^2",
            "1/x": "-1/x^2", "if(x<1,x^2,3*x)": "3", "abs(-x)": "1", "min(x, x^2)": "1", "max(x, x^2)": "2*x",
            "-(x*a)": "-a", "floor(x)": "0", "sin(x)^2": "2*sin(x)*cos(x)",
        }  # fmt: skip
        values = {"x": 1.7, "a": 2.3, "k": 0.4}
        for text, expected in cases.items():
            found = float(evaluate(differentiate(parse(text).tree, "x"), values))
            self.assertAlmostEqual(found, float(evaluate(parse(expected).tree, values)), places=12, msg=text)

    def test_angles_in_degrees(self) -> None:
        tree = parse("a*sin(x) + asin(0.5) + tan(x)", degrees=True).tree
        self.assertAlmostEqual(float(evaluate(tree, {"a": 2, "x": 30})), 1 + 30 + np.tan(np.pi / 6), places=12)
        slope = float(evaluate(differentiate(tree, "x"), {"a": 2, "x": 30}))
        expected = (2 * np.cos(np.pi / 6) + 1 / np.cos(np.pi / 6) ** 2) * np.pi / 180
        self.assertAlmostEqual(slope, expected, places=12)
        self.assertNotIn("degrees", to_latex(tree) + to_text(tree))

    def test_long_doubles_stay_long(self) -> None:
        x = np.array(["0.1", "0.7"], dtype=np.longdouble)
        self.assertEqual(evaluate(parse("exp(x)+x^2/3").tree, {"x": x}).dtype, np.longdouble)


class Writing(TestCase):
    def test_text_reads_back_as_the_same_tree(self) -> None:
        for text, _, _ in UNDERSTOOD:
            tree = parse(text).tree
            self.assertEqual(parse(to_text(tree)).tree, tree, text)

    def test_latex(self) -> None:
        cases = {
            "a*x^2/(1+x)": r"\frac{a\,x^{2}}{1 + x}",
            "sqrt(x)+abs(x)": r"\sqrt{x} + \left|x\right|",
            "sin²(x)": r"\sin^{2}\left(x\right)",
            "e^(-k*t)": r"\mathrm{e}^{-k\,t}",
            "exp(-k*t)": r"\mathrm{e}^{-k\,t}",
            "k_1*x₀": r"k_{1}\,x_{0}",
            "ω*τ+π": r"\omega\,\tau + \pi",
            "(a/b)^2": r"\left(\frac{a}{b}\right)^{2}",
            "1.5e-3*x": r"1.5 \times 10^{-3}\,x",
            "rate*x": r"\mathrm{rate}\,x",
            "2*3": r"2 \cdot 3",
            "a-(b-c)": r"a - \left(b - c\right)",
            "if(x<2,a,b)": r"\begin{cases}a & x < 2\\b & \text{otherwise}\end{cases}",
            "floor(x)": r"\left\lfloor x \right\rfloor",
        }
        for text, latex in cases.items():
            self.assertEqual(to_latex(parse(text).tree), latex, text)

    def test_a_product_with_a_negative_number_keeps_its_bracket(self) -> None:
        tree: Node = parse("x*(-3)").tree
        self.assertIn(r"\left(-3\right)", to_latex(tree))
        self.assertIsInstance(parse("3").tree, Number)


class Work(TestCase):
    def test_a_special_function_counts_as_many_quick_ones(self) -> None:
        plain, usual, special = (Formula(text).operations for text in ("a*x+b", "exp(a*x)+b", "gamma(a*x)+b"))
        self.assertGreater(usual, plain)
        self.assertGreater(special, 5 * usual)


class Called(TestCase):
    """Other curves called by their letters."""

    PARABOLA = (("A", Curve(parse("2*x^2 + 3*x + 1").tree, "x")),)

    def test_the_value_of_the_other_curve(self) -> None:
        tree = parse("A(x) - A(x - 1)/2", curves=self.PARABOLA).tree
        self.assertEqual(evaluate(tree, {"x": 3.0}), 28 - 15 / 2)
        self.assertEqual(parse("A*(x - 1)", curves=self.PARABOLA).names, ("A",))

    def test_calls_inside_calls_do_not_grow_without_end(self) -> None:
        # Each call doubles what is written out: thirty of them, in ninety letters, would be a thousand million parts.
        self.assertEqual(evaluate(parse("A(A(0*x))", curves=self.PARABOLA).tree, {"x": 1.0}), 6.0)
        for deep in (10, 30, 95):
            with self.assertRaisesRegex(FormulaError, "make the formula too long"):
                parse("A(" * deep + "x" + ")" * deep, curves=self.PARABOLA)


class WhatIsMeant(TestCase):
    """Slips that can be read, but as a rule are not what was meant."""

    def noted(self, text: str) -> list[str]:
        return [note.message for note in check_text(text, parse(text)) if note.code == "product-after-division"]

    def test_products_right_behind_a_division(self) -> None:
        for text, divisor, inner in (
            ("u/v*x", "v", "v*x"), ("a/b x", "b", "b x"), ("a/2b", "2", "2b"), ("a/x^2*b", "x^2", "x^2*b"),
            ("a/sin(x)*b", "sin(x)", "sin(x)*b"), ("a/-b*x", "-b", "-b*x"), ("1/2(x+a)", "2", "2(x+a)"), ("a/x²b", "x²", "x²b"),
        ):  # fmt: skip
            (message,) = self.noted(text)
            self.assertIn(f"divides by {divisor} only", message, text)
            self.assertIn(f"/({inner})", message, text)

    def test_where_brackets_say_it_nothing_is_noted(self) -> None:
        for text in ("u/(v*x)", "(u/v)*x", "u/(v)*x", "a*x/b", "a/x+b*x", "a/b-x", "x^(1/2)*a", "a/b/x"):
            self.assertEqual(self.noted(text), [], text)

    def test_the_left_side_names_the_variable(self) -> None:
        for text in ("y(t) = a*t+b", "h (t)=a*t+b", "a*F+b"):
            parsed = parse(text, "F", named_on_the_left=True)
            self.assertEqual((parsed.names, parsed.variable), (("a", "b"), "F"), text)
            self.assertTrue(contains(parsed.tree, {"F"}))
        # A column's formula is no function of its own name's argument.
        self.assertEqual(parse("w(t) = 2*t", "row").names, ("t",))

    def test_another_name_for_the_variable(self) -> None:
        for text, called, meant in (
            ("a*t+b", [], "t"), ("v*time+b", ["time"], "time"), ("a*f+b", [], "f"), ("a*x^2", [], "x"), ("k*load", ["load"], "load"),
            ("a*F+t", [], ""), ("a+b", [], ""), ("p*q", ["load"], ""), ("v*elapsedtime", ["elapsed time"], "elapsedtime"),
        ):  # fmt: skip
            self.assertEqual(meant_variable(parse(text, "F"), called), meant, text)

    def test_a_name_is_replaced_where_it_stands_alone(self) -> None:
        self.assertEqual(rename("y = t*exp(-t/tau)+tan(t)", "t", "F"), "y = F*exp(-F/tau)+tan(F)")
        self.assertEqual(rename("1e3t + t₀", "t", "x"), "1e3x + t₀")

    def test_tokens_of_what_no_formula_has(self) -> None:
        with self.assertRaisesRegex(FormulaError, "'%' has no meaning"):
            tokens_of("2 %")

    def test_too_long_is_said_with_the_length(self) -> None:
        with self.assertRaisesRegex(FormulaError, "702 characters; 500 at most"):
            parse("x+" * 351)
