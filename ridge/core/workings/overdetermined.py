"""A model that is linear in its parameters as an overdetermined system: its normal equations, solved and checked.

The method is in every textbook of linear algebra, e.g. Strang, "Introduction to Linear Algebra", 5th ed., section 4.3.
"""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction

from ridge.core.formula.tree import Name
from ridge.core.results.steps import Check, Matrix, Origin, Row, Statement, Step, System
from ridge.core.workings.asked import Asked
from ridge.core.workings.ends import closing_steps, opening_steps
from ridge.core.workings.exact_columns import ExactColumn, SideBySide, combined, shown
from ridge.core.workings.exact_matrices import times_vector
from ridge.core.workings.linear_problem import LinearProblem
from ridge.core.workings.row_reduction import Reduction, reduce_rows
from ridge.core.workings.solving import carried, carried_row, many_solutions, solve_by_rows

_FROM_READINGS = (Origin("readings", "row"),)


def least_squares(asked: Asked) -> list[Step]:
    """From the general form to the residual vector. Raises what ``linear_problem`` raises."""
    problem = asked.problem
    steps = [*opening_steps(asked, problem), *_system(problem)]
    reduction = reduce_rows(problem.augmented_square, len(problem.unknowns) + 1, rational=problem.rational)
    inconsistent = len(problem.unknowns) in reduction.pivots
    rank = len(reduction.pivots) - inconsistent
    steps += _how_many_solutions(problem, reduction, inconsistent, rank)
    if rank < len(problem.unknowns) and (same := _groups(problem)):
        steps.append(Statement("same-rows", facts={"groups": same}))
    if rank < len(problem.unknowns) and not inconsistent:
        return steps
    steps += _normal_equations(problem)
    by_rows = solve_by_rows(
        problem.normal, problem.normal_right, problem.unknowns, Name("normal_right"), problem.rational,
        (Origin("normal-matrix", "row", "column"),),
    )  # fmt: skip
    steps += by_rows.steps
    if by_rows.solution is None:
        return steps
    found = by_rows.solution
    steps += _by_inverse(problem, found)
    steps += _projection(problem, found)
    return steps + closing_steps(asked, problem, found)


def _system(problem: LinearProblem) -> list[Step]:
    """The equation of each reading, those that clash, **A** and **y**."""
    rows = SideBySide(problem.columns)
    steps: list[Step] = [
        System("each-reading", problem.unknowns, rows, problem.right, problem.rows_of, origins=_FROM_READINGS),
    ]
    clashing = _clashing(problem)
    if clashing:
        steps.append(Statement("clash", facts={"groups": clashing}))
    steps += [
        Matrix("design-matrix", "A", rows, problem.headings, rows_of=problem.rows_of, origins=_FROM_READINGS),
        Matrix(
            "right-hand-side", "y", SideBySide([problem.right]), (problem.right_heading,), rows_of=problem.rows_of,
            vector=True, origins=_FROM_READINGS,
        ),
        Statement("unknowns", facts={"unknowns": problem.unknowns, "equations": problem.count}),
    ]  # fmt: skip
    return steps


def _clashing(problem: LinearProblem) -> tuple[tuple[int, ...], ...]:
    """Readings, from 0, whose rows of **A** are the same and whose right sides differ."""
    right = dict(zip(problem.rows_of, problem.right.tops, strict=True))
    return tuple(group for group in _groups(problem) if len({right[row] for row in group}) > 1)


def _groups(problem: LinearProblem) -> tuple[tuple[int, ...], ...]:
    """Readings, from 0, whose rows of **A** are the same."""
    groups: dict[tuple[int, ...], list[int]] = {}
    for row, key in zip(problem.rows_of, zip(*(column.tops for column in problem.columns), strict=True), strict=True):
        groups.setdefault(key, []).append(row)
    return tuple(tuple(group) for group in groups.values() if len(group) > 1)


def _how_many_solutions(problem: LinearProblem, reduction: Reduction, inconsistent: bool, rank: int) -> list[Step]:
    """[A|y] reduced, and what that says."""
    count = len(problem.unknowns)
    top = len(reduction.pivots)
    shown_rows = carried(reduction.rows[: min(top, problem.count)], problem.rational)
    steps: list[Step] = [
        Matrix(
            "reduced-system", "", shown_rows, (*problem.unknowns, problem.right_heading), 1,
            marked=tuple((row, column) for row, column in enumerate(reduction.pivots)),
            origins=(Origin("design-matrix"), Origin("right-hand-side")),
            more=max(0, problem.count - top),
        )
    ]  # fmt: skip
    if inconsistent:
        steps.append(Statement("none", facts={"equations": problem.count, "unknowns": count}))
    elif rank == count:
        steps.append(Statement("one", facts={"equations": problem.count, "unknowns": count}))
    else:
        steps.append(Statement("many", facts={"equations": problem.count, "unknowns": count, "rank": rank}))
        steps += many_solutions(reduction, problem.unknowns, problem.rational)
    return steps


def _normal_equations(problem: LinearProblem) -> list[Step]:
    rational = problem.rational
    columns = problem.columns
    steps: list[Step] = [
        Statement("projection", facts={"weighted": problem.weights is not None}),
        Matrix(
            "transpose", "A^T", columns, origins=(Origin("design-matrix", "column", "row"),),
            facts={"across": problem.rows_of},
        ),
    ]  # fmt: skip
    if problem.weights is not None:
        steps.append(
            Matrix(
                "weight-matrix",
                "W",
                SideBySide([problem.weights]),
                rows_of=problem.rows_of,
                vector=True,
                facts={"diagonal": True},
                origins=_FROM_READINGS,
            )
        )
    middle = "A^TW" if problem.weights is not None else "A^T"
    steps += [
        Matrix(
            "normal-matrix", middle + "A", carried(problem.normal, rational),
            origins=(Origin("design-matrix", None, "row"), Origin("design-matrix", None, "column")),
        ),
        Matrix(
            "normal-right-hand-side", middle + "y", tuple((value,) for value in carried_row(problem.normal_right, rational)),
            vector=True, origins=(Origin("design-matrix", None, "row"), Origin("right-hand-side")),
        ),
    ]  # fmt: skip
    return steps


def _by_inverse(problem: LinearProblem, found: Sequence[Fraction]) -> list[Step]:
    """The second route, and that it comes to the same."""
    assert problem.inverse is not None  # there is one solution
    product = times_vector(problem.inverse, problem.normal_right)
    rational = problem.rational
    symbol = "(A^TWA)^-1" if problem.weights is not None else "(A^TA)^-1"
    return [
        Matrix("inverse", symbol, carried(problem.inverse, rational), origins=(Origin("normal-matrix"),)),
        Matrix(
            "by-inverse", "p", tuple((value,) for value in carried_row(product, rational)), vector=True,
            origins=(Origin("inverse", "row"), Origin("normal-right-hand-side")), labels=problem.unknowns,
        ),
        Check(
            "both-routes", problem.unknowns, carried_row(found, rational), carried_row(product, rational), 0.0 if rational else 1e-9
        ),
    ]  # fmt: skip


def _projection(problem: LinearProblem, found: Sequence[Fraction]) -> list[Step]:
    """Fitted values, residuals, that these stand at right angles to the columns, and what the curve does."""
    fitted = combined(problem.columns, found, problem.count)
    residuals = problem.right - fitted
    rational = problem.rational
    across = tuple(column.dot(residuals) for column in problem.weighted_columns)
    # Rounded numbers are solved exactly as they are: what is left is zero all the same.
    zeros: Row = (Fraction(0),) * len(across)
    return [
        _vector("fitted", "Ap", fitted, problem, (Origin("design-matrix", "row"), Origin("coefficients"))),
        _vector("residuals", "r", residuals, problem, (Origin("right-hand-side", "row"), Origin("fitted", "row"))),
        Check("orthogonality", problem.headings, tuple(shown(value, rational) for value in across), zeros),
        Statement("what-the-curve-does", facts=_course(problem, residuals)),
    ]


def _vector(name: str, symbol: str, column: ExactColumn, problem: LinearProblem, origins: tuple[Origin, ...]) -> Matrix:
    return Matrix(name, symbol, SideBySide([column]), rows_of=problem.rows_of, vector=True, origins=origins)


def _course(
    problem: LinearProblem, residuals: ExactColumn
) -> dict[str, tuple[int, ...] | tuple[tuple[int, ...], ...] | int]:
    """Readings that the curve passes through, and pairs at one x between which it runs midway."""
    tops = residuals.tops
    # Of rounded numbers, what rounding leaves of a zero.
    largest = Fraction(max(map(abs, problem.right.tops)), problem.right.bottom)
    near = 0 if problem.rational else int(largest * residuals.bottom / 10**12)
    through = tuple(row for row, top in zip(problem.rows_of, tops, strict=True) if abs(top) <= near)
    groups: dict[int, list[int]] = {}
    for place, top in enumerate(problem.x.tops):
        groups.setdefault(top, []).append(place)
    halved = tuple(
        (problem.rows_of[group[0]], problem.rows_of[group[1]])
        for group in groups.values()
        if len(group) == 2 and tops[group[0]] and abs(tops[group[0]] + tops[group[1]]) <= near
    )
    return {"through": through, "halved": halved, "count": problem.count}
