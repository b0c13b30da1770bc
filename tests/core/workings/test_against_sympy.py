"""Every step of the workings of linear problems against SymPy's exact arithmetic, on random small problems."""

from __future__ import annotations

from fractions import Fraction
from itertools import pairwise
from typing import Any
from unittest import TestCase

import sympy
from hypothesis import given
from hypothesis import strategies as st

from ridge.core import Readings
from ridge.core.models import Line, Polynomial
from ridge.core.results.steps import Operation, Step
from ridge.core.workings import work
from tests.examples import examples

decimals = st.integers(-99, 99).map(lambda value: value / 10)
quick = examples(40)
X = sympy.Symbol("x")


def distinct_points(least: int, most: int) -> st.SearchStrategy[list[tuple[float, float]]]:
    return st.lists(st.tuples(decimals, decimals), min_size=least, max_size=most, unique_by=lambda pair: pair[0])


def exact(value: Any) -> Any:
    """As SymPy has it: the decimal that was typed."""
    if isinstance(value, list | tuple):
        return [exact(one) for one in value]
    return (
        sympy.Rational(value.numerator, value.denominator)
        if isinstance(value, Fraction)
        else sympy.Rational(str(value))
    )


def columns(points: list[tuple[float, float]]) -> tuple[list[float], list[float]]:
    x, y = zip(*points, strict=True)
    return list(x), list(y)


def named(steps: tuple[Step, ...], name: str) -> Any:
    return next(step for step in steps if step.name == name).value


def checks_hold(case: TestCase, steps: tuple[Step, ...]) -> None:
    checks = [step for step in steps if step.kind == "check"]
    case.assertTrue(checks)
    for check in checks:
        case.assertTrue(check.value, check)


class LeastSquares(TestCase):
    @quick
    @given(distinct_points(4, 7), st.integers(1, 3))
    def test_normal_equations_and_projection(self, points: list[tuple[float, float]], degree: int) -> None:
        x, y = columns(points)
        steps = work("least-squares", Readings(x, y), Polynomial(degree)).steps
        a = sympy.Matrix([[at**power for power in range(degree, -1, -1)] for at in exact(x)])
        right = sympy.Matrix(exact(y))
        self.assertEqual(sympy.Matrix(exact(named(steps, "design-matrix"))), a)
        self.assertEqual(sympy.Matrix(exact(named(steps, "right-hand-side"))), right)
        self.assertEqual(sympy.Matrix(exact(named(steps, "transpose"))), a.T)
        self.assertEqual(sympy.Matrix(exact(named(steps, "normal-matrix"))), a.T * a)
        self.assertEqual(sympy.Matrix(exact(named(steps, "normal-right-hand-side"))), a.T * right)
        augmented = (a.T * a).row_join(a.T * right)
        self.assertEqual(sympy.Matrix(exact(named(steps, "augmented"))), augmented)
        self.assertEqual(sympy.Matrix(exact(named(steps, "reduced"))), augmented.rref()[0])
        self.assertEqual(sympy.Matrix(exact(named(steps, "inverse"))), (a.T * a).inv())
        solution = (a.T * a).LUsolve(a.T * right)
        self.assertEqual(sympy.Matrix(exact(named(steps, "coefficients"))), solution)
        self.assertEqual(sympy.Matrix(exact(named(steps, "by-inverse"))), solution)
        self.assertEqual(sympy.Matrix(exact(named(steps, "fitted"))), a * solution)
        self.assertEqual(sympy.Matrix(exact(named(steps, "residuals"))), right - a * solution)
        self.assertEqual(sympy.Matrix(exact(named(steps, "reduced-system"))), self.nonzero(a.row_join(right).rref()[0]))
        checks_hold(self, steps)

    def nonzero(self, matrix: sympy.Matrix) -> sympy.Matrix:
        kept = [matrix.row(i) for i in range(matrix.rows) if any(matrix.row(i))]
        return sympy.Matrix.vstack(*kept)

    @quick
    @given(distinct_points(3, 6), st.lists(st.integers(1, 5), min_size=6, max_size=6))
    def test_weights(self, points: list[tuple[float, float]], weights: list[int]) -> None:
        x, y = columns(points)
        readings = Readings(x, y, weight=weights[: len(x)])
        steps = work("least-squares", readings, Line()).steps
        a = sympy.Matrix([[at, 1] for at in exact(x)])
        w = sympy.diag(*weights[: len(x)])
        self.assertEqual(sympy.Matrix(exact(named(steps, "normal-matrix"))), a.T * w * a)
        solution = (a.T * w * a).LUsolve(a.T * w * sympy.Matrix(exact(y)))
        self.assertEqual(sympy.Matrix(exact(named(steps, "coefficients"))), solution)
        by_sums = work("line-by-sums", readings, Line()).steps
        self.assertEqual(sympy.Matrix(exact(named(by_sums, "coefficients"))), solution)
        checks_hold(self, steps)
        checks_hold(self, by_sums)

    @quick
    @given(distinct_points(2, 4))
    def test_too_few_readings_leave_a_coefficient_free(self, points: list[tuple[float, float]]) -> None:
        x, y = columns(points)
        steps = work("least-squares", Readings(x, y), Polynomial(len(x) + 1)).steps
        a = sympy.Matrix([[at**power for power in range(len(x) + 1, -1, -1)] for at in exact(x)])
        reduced = a.row_join(sympy.Matrix(exact(y))).rref()[0]
        self.assertEqual(sympy.Matrix(exact(named(steps, "reduced-system"))), self.nonzero(reduced))
        self.assertIn("many", [step.name for step in steps])
        self.assertEqual(sum(step.name == "free-form" for step in steps), len(x))
        self.assertNotIn("coefficients", [step.name for step in steps])

    @quick
    @given(distinct_points(3, 6))
    def test_every_row_operation_follows_from_the_one_before(self, points: list[tuple[float, float]]) -> None:
        x, y = columns(points)
        steps = work("least-squares", Readings(x, y), Polynomial(2)).steps
        matrix = sympy.Matrix(exact(named(steps, "augmented")))
        operations = [step for step in steps if isinstance(step, Operation)]
        self.assertTrue(operations)
        for step in operations:
            match step.how:
                case "swap":
                    matrix = matrix.elementary_row_op("n<->m", row1=step.target, row2=step.source)
                case "scale":
                    matrix = matrix.elementary_row_op("n->kn", row=step.target, k=exact(step.factor))
                case _:
                    away = -exact(step.factor)
                    matrix = matrix.elementary_row_op("n->n+km", row=step.target, k=away, row2=step.source)
            self.assertEqual(sympy.Matrix(exact(step.value)), matrix)
        self.assertEqual(sympy.Matrix(exact(named(steps, "reduced"))), matrix)


class Sums(TestCase):
    @quick
    @given(distinct_points(3, 8))
    def test_slope_intercept_and_correlation(self, points: list[tuple[float, float]]) -> None:
        x, y = columns(points)
        steps = work("line-by-sums", Readings(x, y), Line()).steps
        u, v, n = exact(x), exact(y), len(x)
        sums = [
            n,
            sum(u),
            sum(v),
            sum(a * a for a in u),
            sum(a * b for a, b in zip(u, v, strict=True)),
            sum(b * b for b in v),
        ]
        self.assertEqual(exact(named(steps, "sums")), sums)
        m, c = sympy.symbols("m c")
        found = sympy.solve([sums[3] * m + sums[1] * c - sums[4], sums[1] * m + n * c - sums[2]], [m, c])
        self.assertEqual(exact(named(steps, "coefficients")), [found[m], found[c]])
        self.assertEqual(exact(named(steps, "slope-about-means")), found[m])
        if len(set(v)) > 1:
            r = (sums[4] - sums[1] * sums[2] / n) / sympy.sqrt(
                (sums[3] - sums[1] ** 2 / n) * (sums[5] - sums[2] ** 2 / n)
            )
            self.assertAlmostEqual(float(named(steps, "correlation")), float(r), delta=1e-14)
        checks_hold(self, steps)


class ThroughPoints(TestCase):
    @quick
    @given(distinct_points(2, 6), decimals)
    def test_all_ways_to_the_same_polynomial(self, points: list[tuple[float, float]], at: float) -> None:
        x, y = columns(points)
        nodes = sorted(zip(exact(x), exact(y), strict=True))
        wanted = sympy.Poly(sympy.interpolate(nodes, X), X)
        coefficients = [wanted.coeff_monomial(X**power) for power in range(len(x))]
        value = wanted.eval(exact(at))
        for what in ("through-points", "divided-differences", "lagrange"):
            steps = work(what, Readings(x, y), x=at).steps
            self.assertEqual(exact(named(steps, "equation")), coefficients, what)
            if what != "through-points":
                self.assertEqual(exact(named(steps, "value-at-x")), value, what)
            checks_hold(self, steps)

    @quick
    @given(distinct_points(2, 6))
    def test_divided_differences_are_the_mean_values(self, points: list[tuple[float, float]]) -> None:
        """Entry k of row i is the leading coefficient of the polynomial through nodes i to i + k."""
        x, y = columns(points)
        nodes = sorted(zip(exact(x), exact(y), strict=True))
        table = named(work("divided-differences", Readings(x, y)).steps, "divided-differences")
        for i, row in enumerate(table):
            for k, entry in enumerate(row[1:]):
                if i + k >= len(nodes):
                    self.assertIsNone(entry)
                    continue
                leading = sympy.Poly(sympy.interpolate(nodes[i : i + k + 1], X), X).coeff_monomial(X**k)
                self.assertEqual(exact(entry), leading)


class Splines(TestCase):
    @quick
    @given(distinct_points(3, 6), st.sampled_from(["natural", "clamped", "not-a-knot", "periodic"]))
    def test_pieces_join_smoothly_and_keep_their_ends(self, points: list[tuple[float, float]], ends: str) -> None:
        x, y = columns(points)
        if ends == "periodic":
            y[x.index(max(x))] = y[x.index(min(x))]
        steps = work(f"{ends}-spline", Readings(x, y), end_slopes=(1.5, -0.5)).steps
        nodes = sorted(zip(exact(x), exact(y), strict=True))
        rows = exact(named(steps, "pieces"))
        pieces = [sum(c * (X - row[1]) ** k for k, c in enumerate(row[3:])) for row in rows]
        for piece, (left, right) in zip(pieces, pairwise(nodes), strict=True):
            self.assertEqual(piece.subs(X, left[0]) - left[1], 0)
            self.assertEqual(sympy.expand(piece).subs(X, right[0]) - right[1], 0)
        for order in (1, 2):
            for before, after, (knot, _) in zip(pieces, pieces[1:], nodes[1:-1], strict=False):
                self.assertEqual(sympy.diff(before, X, order).subs(X, knot), sympy.diff(after, X, order).subs(X, knot))
        first, last = nodes[0][0], nodes[-1][0]

        def at(piece: Any, place: Any, order: int) -> Any:
            return sympy.diff(piece, X, order).subs(X, place)

        match ends:
            case "natural":
                self.assertEqual((at(pieces[0], first, 2), at(pieces[-1], last, 2)), (0, 0))
            case "clamped":
                self.assertEqual((at(pieces[0], first, 1), at(pieces[-1], last, 1)), (exact(1.5), exact(-0.5)))
            case "not-a-knot":
                self.assertEqual(at(pieces[0], first, 3), at(pieces[1], first, 3))
                self.assertEqual(at(pieces[-2], last, 3), at(pieces[-1], last, 3))
            case _:
                for order in (1, 2):
                    self.assertEqual(at(pieces[0], first, order), at(pieces[-1], last, order))
        self.assertEqual(
            exact(named(steps, "second-derivatives")),
            [*(at(piece, node[0], 2) for piece, node in zip(pieces, nodes, strict=False)), at(pieces[-1], last, 2)],
        )
        checks_hold(self, steps)


class JudgedExactly(TestCase):
    @quick
    @given(distinct_points(4, 7), decimals)
    def test_sums_of_squares_and_leverage(self, points: list[tuple[float, float]], at: float) -> None:
        x, y = columns(points)
        readings = Readings(x, y)
        a, right = sympy.Matrix([[one, 1] for one in exact(x)]), sympy.Matrix(exact(y))
        hat = (a.T * a).inv()
        left = right - a * hat * a.T * right
        mean = sum(right) / len(x)
        steps = work("goodness-of-fit", readings, Line()).steps
        table = next(step for step in steps if step.name == "residual-table")
        self.assertEqual(exact(table.sums[-1]), (left.T * left)[0])  # type: ignore[attr-defined]
        self.assertEqual(exact(named(steps, "total-squares")), [mean, sum((one - mean) ** 2 for one in right)])
        if any(left):
            row = sympy.Matrix([[exact(at), 1]])
            inside = work("interval-at", readings, Line(), x=at).steps
            self.assertEqual(exact(named(inside, "leverage-at-x")), [(row * hat * row.T)[0]])
            checks_hold(self, inside)
            checks_hold(self, steps)

    @quick
    @given(distinct_points(4, 7), decimals)
    def test_both_roots_of_a_parabola(self, points: list[tuple[float, float]], wanted: float) -> None:
        x, y = columns(points)
        steps = work("solve-for-x", Readings(x, y), Polynomial(2), y=wanted).steps
        c0, c1, c2 = exact(named(work("least-squares", Readings(x, y), Polynomial(2)).steps, "equation"))
        if not c2:
            return
        roots = sympy.Poly(c2 * X**2 + c1 * X + c0 - exact(wanted), X)
        self.assertEqual(exact(named(steps, "discriminant")), c1**2 - 4 * c2 * (c0 - exact(wanted)))
        found = sorted(float(step.value) for step in steps if step.name == "root")
        real = sorted(float(root) for root in sympy.roots(roots, multiple=True) if root.is_real)
        self.assertEqual(len(found), 2 if real else 0)
        for mine, other in zip(found, real, strict=bool(real) and len(real) == 2):
            self.assertAlmostEqual(mine, other, delta=1e-9 * max(1, abs(other)))
