"""What must hold for any readings and any formula."""

from __future__ import annotations

from itertools import pairwise
from typing import Any
from unittest import TestCase

import numpy as np
from hypothesis import assume, given
from hypothesis import strategies as st

from ridge.core import Readings, fit, interpolate
from ridge.core.errors import RidgeError
from ridge.core.formula import differentiate, evaluate, parse
from ridge.core.formula.dimensions import unit_powers
from ridge.core.formula.linearity import is_affine, linear_names
from ridge.core.formula.tree import Constant, Name, Negative, Node, Operation, call, number
from ridge.core.interpolation import KINDS
from ridge.core.judging.patterns import ranks
from ridge.core.models import Exponential, Formula, Gaussian, Line, Polynomial, Sinusoid
from ridge.core.predicting.crossings import find_crossings
from tests.examples import examples

quick = examples(40)
X = np.array([0.0, 0.7, 1.1, 1.9, 2.4, 3.0, 3.9, 4.4, 5.2, 6.0, 6.3, 7.5])
NOISE = np.random.default_rng(7).normal(0, 0.1, 12)
shifts = st.integers(-(2**20), 2**20).map(lambda value: value / 64)


def trees() -> st.SearchStrategy[Node]:
    """Formulas in x, a and b that have a value nearly everywhere."""
    leaves: st.SearchStrategy[Any] = st.one_of(
        st.sampled_from([Name("x"), Name("a"), Name("b"), Constant("pi")]),
        st.integers(1, 5).map(lambda value: number(value)),
    )

    def grow(part: st.SearchStrategy[Any]) -> st.SearchStrategy[Any]:
        return st.one_of(
            st.tuples(st.sampled_from("+-*"), part, part).map(lambda t: Operation(t[0], t[1], t[2])),
            part.map(lambda p: Operation("/", p, Operation("+", number(2), Operation("^", p, number(2))))),
            part.map(Negative), st.tuples(st.sampled_from(["sin", "cos", "atan", "tanh"]), part).map(lambda t: call(t[0], t[1])),
        )  # fmt: skip

    return st.recursive(leaves, grow, max_leaves=8)


class AnyFormula(TestCase):
    values = {"x": np.float64(0.7), "a": np.float64(1.3), "b": np.float64(-0.4)}

    @examples(150)
    @given(trees(), st.sampled_from(["x", "a", "b"]))
    def test_the_derivative_is_the_limit_of_differences(self, tree: Node, name: str) -> None:
        exact = float(evaluate(differentiate(tree, name), self.values))
        assume(np.isfinite(exact))
        step = np.longdouble(1e-6)
        held = {key: np.longdouble(value) for key, value in self.values.items()}
        up, down = (evaluate(tree, held | {name: held[name] + side * step}) for side in (1, -1))
        self.assertAlmostEqual(exact, float((up - down) / (2 * step)), delta=1e-6 * (1 + abs(exact)) * 10)

    @examples(150)
    @given(trees())
    def test_what_is_called_linear_is_linear(self, tree: Node) -> None:
        names = frozenset(linear_names(tree, ("a", "b")))
        self.assertTrue(is_affine(tree, names))
        for name in names:
            second = differentiate(differentiate(tree, name), name)
            self.assertAlmostEqual(float(evaluate(second, self.values)), 0, places=9)

    @quick
    @given(st.integers(-3, 3), st.integers(-3, 3))
    def test_units_scale_as_they_say(self, i: int, j: int) -> None:
        # Measuring x and y in other units changes each parameter by the powers that its unit names.
        for text in ("a*exp(-k*x)+c", "h*exp(-(x-m)^2/(2*s^2))+d", "v*x/(k+x)", "(a+b*x)/(1+c*x)"):
            parsed = parse(text)
            powers = unit_powers(parsed.tree, "x", parsed.names)
            plain = {name: 0.5 + 0.3 * place for place, name in enumerate(parsed.names)}
            scaled = {name: value * 2.0 ** (i * powers[name][0] + j * powers[name][1]) for name, value in plain.items()}
            one = evaluate(parsed.tree, {"x": 1.7, **plain})
            other = evaluate(parsed.tree, {"x": 1.7 * 2.0**i, **scaled})
            self.assertAlmostEqual(float(other) / (float(one) * 2.0**j), 1, places=12)


class AnyShift(TestCase):
    @quick
    @given(shifts)
    def test_moving_x_moves_the_curve_and_nothing_else(self, shift: float) -> None:
        for model, y in (
            (Polynomial(3), X**3 - 4 * X), (Exponential(level=True), 9 * np.exp(-0.5 * X) + 2), (Sinusoid(), 3 * np.sin(1.7 * X)),
            (Gaussian(), 9 * np.exp(-((X - 3) ** 2))),
        ):  # fmt: skip
            try:
                moved = fit(Readings(X + shift, y + NOISE), model)
            except RidgeError:
                continue  # far from zero a·e^(kx) has no double for its a
            plain = fit(Readings(X, y + NOISE), model)
            self.assertAlmostEqual(
                moved.statistics.residual_sum_of_squares / plain.statistics.residual_sum_of_squares, 1, delta=1e-6
            )
            np.testing.assert_allclose(moved.fitted, plain.fitted, rtol=1e-6, atol=1e-6)
            np.testing.assert_allclose(moved.leverage, plain.leverage, rtol=1e-5, atol=1e-7)

    @quick
    @given(st.floats(-100, 100))
    def test_moving_y_moves_the_constant_and_nothing_else(self, shift: float) -> None:
        for model, constant in ((Polynomial(2), "c0"), (Exponential(level=True), "c"), (Sinusoid(), "midline")):
            y = 3 * np.sin(0.9 * X) + NOISE
            plain, moved = fit(Readings(X, y), model), fit(Readings(X, y + shift), model)
            self.assertAlmostEqual(
                moved.values[constant] - plain.values[constant], shift, delta=1e-5 * (1 + abs(shift))
            )

    @quick
    @given(shifts, st.integers(-8, 8))
    def test_interpolations_move_and_stretch_with_the_readings(self, shift: float, power: int) -> None:
        y = 3 * np.sin(0.9 * X) + NOISE
        at = np.array([0.3, 2.0, 5.9])
        for kind in KINDS:
            plain = interpolate(Readings(X, y), kind).evaluate(at)
            other = interpolate(Readings((X + shift) * 2.0**power, y), kind).evaluate((at + shift) * 2.0**power)
            np.testing.assert_allclose(other, plain, rtol=1e-6, atol=1e-6)


class AnyNumbers(TestCase):
    @quick
    @given(st.lists(st.floats(-10, 10).map(lambda value: round(value, 3)), min_size=1, max_size=6, unique=True))
    def test_every_root_of_a_polynomial_is_found(self, wanted: list[float]) -> None:
        wanted = sorted(wanted)
        assume(all(b - a > 0.05 for a, b in pairwise(wanted)))

        def value(x: np.ndarray) -> np.ndarray:
            return np.asarray(np.prod([x - root for root in wanted], axis=0))

        found = find_crossings(value, np.linspace(-11, 11, 2001))
        np.testing.assert_allclose(found, wanted, atol=1e-9)

    @quick
    @given(st.lists(st.integers(-5, 5), min_size=1, max_size=30))
    def test_ranks_add_up_and_ties_share(self, values: list[int]) -> None:
        found = ranks(np.array(values, dtype=float))
        n = len(values)
        self.assertAlmostEqual(float(found.sum()), n * (n + 1) / 2)
        for i in range(n):
            for j in range(n):
                self.assertEqual(found[i] < found[j], values[i] < values[j])

    @quick
    @given(st.floats(0.05, 0.95), st.floats(0.5, 4))
    def test_solving_what_was_predicted_gives_the_x_back(self, place: float, rate: float) -> None:
        y = 9 * np.exp(-rate * X / 4) + 2 + NOISE / 50
        result = fit(Readings(X, y), Exponential(level=True))
        x = place * 3.0
        found = result.solve(float(result.predict(x).value), interval=(-1, 8))
        self.assertAlmostEqual(min(abs(one.value - x) for one in found), 0, delta=1e-8)
        self.assertTrue(all(one.low <= one.value <= one.high for one in found))

    @quick
    @given(st.permutations(list(range(12))))
    def test_a_formula_and_a_family_of_the_same_curve_agree(self, order: list[int]) -> None:
        rows = np.array(order)
        y = 9 * np.exp(-0.5 * X) + 2 + NOISE
        family = fit(Readings(X[rows], y[rows]), Exponential(level=True))
        own = fit(Readings(X[rows], y[rows]), Formula("u*exp(v*x) + w"))
        for one, other in (("a", "u"), ("k", "v"), ("c", "w")):
            self.assertAlmostEqual(family.values[one], own.values[other], delta=1e-8)
            self.assertAlmostEqual(
                family.parameters[one].standard_error or 0, own.parameters[other].standard_error or 1, delta=1e-8
            )

    def test_a_line_is_a_polynomial_is_a_formula(self) -> None:
        readings = Readings(X, 2 * X + NOISE, y_error=np.linspace(0.1, 0.3, 12))
        line, polynomial, own = (fit(readings, model) for model in (Line(), Polynomial(1), Formula("m*x + q")))
        for names in (("slope", "c1", "m"), ("intercept", "c0", "q")):
            one, two, three = (
                result.parameters[name] for result, name in zip((line, polynomial, own), names, strict=True)
            )
            self.assertAlmostEqual(one.value, two.value, places=13)
            self.assertAlmostEqual(one.value, three.value, places=11)
            self.assertAlmostEqual(one.standard_error or 0, three.standard_error or 1, places=11)
        self.assertAlmostEqual(line.statistics.aicc or 0, own.statistics.aicc or 1, places=9)
