"""What is read off a formula: linear parameters, units, notes before fitting, the value of its parts."""

from __future__ import annotations

from unittest import TestCase

import numpy as np

from ridge.core import Readings
from ridge.core.formula import parse
from ridge.core.formula.checks import check_at, check_text, meant_variable, parts_at
from ridge.core.formula.dimensions import unit_powers
from ridge.core.formula.linearity import is_affine, linear_names


def linear(text: str) -> tuple[str, ...]:
    parsed = parse(text)
    return linear_names(parsed.tree, parsed.names)


class Linearity(TestCase):
    def test_parameters_that_enter_linearly(self) -> None:
        self.assertEqual(linear("p*exp(-q*x)+r"), ("p", "r"))
        self.assertEqual(linear("(a+b*x)/(1+c*x)"), ("a", "b"))
        self.assertEqual(linear("a*x^b"), ("a",))
        self.assertEqual(linear("a*sin(w*x)+b*cos(w*x)+c"), ("a", "b", "c"))
        self.assertEqual(linear("exp(-a*x)/(b+c*x)"), ())
        self.assertEqual(linear("if(x<c, a, b*x)"), ("a", "b"))
        self.assertEqual(len(linear("a*b*x")), 1)
        self.assertEqual(linear("a^2*x + b - c/d"), ("b", "c"))

    def test_a_product_of_two_is_not_affine_in_both(self) -> None:
        tree = parse("a*b+c").tree
        self.assertTrue(is_affine(tree, frozenset({"a", "c"})))
        self.assertFalse(is_affine(tree, frozenset({"a", "b"})))


class Units(TestCase):
    """Powers of the units of x and y, by hand."""

    def check(self, text: str, expected: dict[str, tuple[float, float]]) -> None:
        parsed = parse(text)
        self.assertEqual(unit_powers(parsed.tree, "x", parsed.names), expected, text)

    def test_common_forms(self) -> None:
        self.check("a*exp(-k*x)+c", {"a": (0, 1), "k": (-1, 0), "c": (0, 1)})
        self.check("h*exp(-(x-m)^2/(2*s^2))", {"h": (0, 1), "m": (1, 0), "s": (1, 0)})
        self.check("A*sin(2*pi*x/T+p)", {"A": (0, 1), "T": (1, 0), "p": (0, 0)})
        self.check("(a+b*x)/(1+c*x+d*x^2)", {"a": (0, 1), "b": (-1, 1), "c": (-1, 0), "d": (-2, 0)})
        self.check("v*x/(k+x)", {"v": (0, 1), "k": (1, 0)})
        self.check("exp(-a*x)/(b+c*x)", {"a": (-1, 0), "b": (0, -1), "c": (-1, -1)})
        self.check("sqrt(a*x)", {"a": (-1, 2)})

    def test_mixed_units_do_not_stop_it(self) -> None:
        parsed = parse("a*(x + x^2) + sin(x)")
        self.assertEqual(set(unit_powers(parsed.tree, "x", parsed.names)), {"a"})


class Notes(TestCase):
    readings = Readings([0.0, 1.0, 2.0, 3.0], [1.0, 2.0, 3.0, 5.0], included=[True, True, True, False])

    def codes(self, text: str, *listed: str) -> list[str]:
        return [note.code for note in check_text(text, parse(text), listed)]

    def test_before_any_reading(self) -> None:
        self.assertEqual(self.codes("a*x+b"), [])
        self.assertEqual(self.codes("a+b"), ["no-variable"])
        self.assertEqual(self.codes("ax+b"), ["no-variable"])
        self.assertEqual(self.codes("a*x", "a", "q"), ["unused"])
        self.assertEqual(self.codes("a-a+b*x"), ["no-effect"])
        self.assertEqual(self.codes("sine*x"), ["like-a-function"])
        self.assertEqual(self.codes("e*x+a"), ["euler"])
        self.assertEqual(self.codes("a/2x"), ["product-after-division"])
        self.assertEqual([n.code for n in check_text("h*exp(-x)", parse("h*exp(-x)"), fitted="h")], ["is-fitted"])
        self.assertEqual(check_text("H*exp(-x)", parse("H*exp(-x)"), fitted="h"), [])
        self.assertEqual(meant_variable(parse("b + X*a"), []), "X")
        note = check_text("a*x + e", parse("a*x + e"))[0]
        self.assertEqual((note.position, note.length), (6, 1))

    def test_the_part_without_a_value_is_named_with_its_rows(self) -> None:
        parsed = parse("a*ln(x)+b")
        note = check_at(parsed, self.readings, {"a": 1, "b": 0})[0]
        self.assertEqual((note.code, note.rows), ("undefined", (0,)))
        self.assertIn("ln(x) has no value at row 1", note.message)

    def test_out_of_scale(self) -> None:
        parsed = parse("a*x+b")
        self.assertEqual([n.code for n in check_at(parsed, self.readings, {"a": 1e9, "b": 0})], ["out-of-scale"])
        self.assertEqual([n.code for n in check_at(parsed, self.readings, {"a": 1e-9, "b": 0})], ["out-of-scale"])
        self.assertEqual(check_at(parsed, self.readings, {"a": 1, "b": 1}), [])

    def test_parts_have_a_value_per_reading(self) -> None:
        parts = parts_at(parse("a*exp(-x)+2*x"), self.readings, {"a": 3})
        self.assertEqual([part.text for part in parts], ["a*exp(-x) + 2*x", "a*exp(-x)", "exp(-x)", "-x", "2*x"])
        np.testing.assert_allclose(parts[1].values, 3 * np.exp(-np.arange(4.0)))
