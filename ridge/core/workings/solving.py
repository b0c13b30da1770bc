"""Solving a square or any other system of linear equations by row reduction, as steps."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction

from ridge.core.formula.tree import Name, Node, divide, multiply, subtract
from ridge.core.results.steps import (
    Coefficients,
    Equation,
    Exact,
    Matrix,
    Operation,
    Origin,
    Row,
    Rows,
    Statement,
    Step,
)
from ridge.core.workings.exact_columns import shown
from ridge.core.workings.row_reduction import Reduction, reduce_rows


@dataclass(frozen=True)
class Solving:
    """Its steps; the solution, None where there is none or more than one."""

    steps: tuple[Step, ...]
    solution: tuple[Fraction, ...] | None
    reduction: Reduction


def carried(rows: Sequence[Sequence[Fraction]], rational: bool) -> Rows:
    """Rows as a step carries them."""
    return tuple(tuple(shown(value, rational) for value in row) for row in rows)


def carried_row(values: Sequence[Fraction], rational: bool) -> Row:
    return tuple(shown(value, rational) for value in values)


def solve_by_rows(
    matrix: Sequence[Sequence[Fraction]],
    right: Sequence[Fraction],
    unknowns: tuple[Node, ...],
    right_heading: Node,
    rational: bool,
    origins: tuple[Origin, ...],
) -> Solving:
    """The augmented matrix, its reduced row echelon form, the single operations, the solution, and the other way: back
    substitution."""
    augmented = tuple((*row, value) for row, value in zip(matrix, right, strict=True))
    headings = (*unknowns, right_heading)
    reduction = reduce_rows(augmented, len(unknowns), rational=rational)
    marked = tuple((row, column) for row, column in enumerate(reduction.pivots))
    steps: list[Step] = [
        Matrix("augmented", "", carried(augmented, rational), headings, 1, origins=origins),
        Matrix(
            "reduced", "", carried(reduction.rows, rational), headings, 1, marked=marked, origins=(Origin("augmented"),),
            facts={"pivots": len(reduction.pivots), "unknowns": len(unknowns), "operations": len(reduction.operations)},
        ),
    ]  # fmt: skip
    steps += [
        Operation(
            "operation", one.how, one.target, one.source, shown(one.factor, rational), carried(one.rows, rational), headings,
            folded=True,
        )
        for one in reduction.operations
    ]  # fmt: skip
    rest = reduction.rows[len(reduction.pivots) :]
    if any(row[-1] for row in rest):
        steps.append(Statement("no-solution"))
        return Solving(tuple(steps), None, reduction)
    if len(reduction.pivots) < len(unknowns):
        steps += many_solutions(reduction, unknowns, rational)
        return Solving(tuple(steps), None, reduction)
    solution = tuple(row[-1] for row in reduction.rows[: len(unknowns)])
    last = len(unknowns)
    steps.append(
        Coefficients(
            "coefficients", unknowns, carried_row(solution, rational), origins=(Origin("reduced", "column", last),)
        )
    )
    steps += _back_substitution(augmented, unknowns, headings, rational)
    return Solving(tuple(steps), solution, reduction)


def many_solutions(reduction: Reduction, unknowns: tuple[Node, ...], rational: bool) -> list[Step]:
    """Each bound unknown written with the free ones."""
    free = [column for column in range(len(unknowns)) if column not in reduction.pivots]
    steps: list[Step] = [
        Statement("many-solutions", facts={"free": tuple(unknowns[column] for column in free)}),
    ]
    for row, column in enumerate(reduction.pivots):
        given: dict[str, Exact] = {"value_0": shown(reduction.rows[row][-1], rational)}
        tree: Node = Name("value_0")
        for place, other in enumerate(free, 1):
            if reduction.rows[row][other]:
                given[f"value_{place}"] = shown(reduction.rows[row][other], rational)
                tree = subtract(tree, multiply(Name(f"value_{place}"), unknowns[other]))
        steps.append(Equation("free-form", unknowns[column], tree, given, tidy=True, numbers_only=True))
    return steps


def _back_substitution(
    augmented: Sequence[Sequence[Fraction]], unknowns: tuple[Node, ...], headings: tuple[Node, ...], rational: bool
) -> list[Step]:
    """The echelon form, then the unknowns from the last to the first."""
    echelon = reduce_rows(augmented, len(unknowns), rational=rational, upwards=False)
    steps: list[Step] = [
        Matrix("echelon", "", carried(echelon.rows, rational), headings, 1, origins=(Origin("augmented"),), folded=True)
    ]
    found: dict[int, Fraction] = {}
    for row in reversed(range(len(unknowns))):
        values = echelon.rows[row]
        given: dict[str, Exact] = {"value_0": shown(values[-1], rational), "divisor": shown(values[row], rational)}
        taken: Node = Name("value_0")
        left = values[-1]
        for other in range(row + 1, len(unknowns)):
            left -= values[other] * found[other]
            if values[other]:
                given[f"value_{other}"] = shown(values[other], rational)
                given[f"known_{other}"] = shown(found[other], rational)
                taken = subtract(taken, multiply(Name(f"value_{other}"), Name(f"known_{other}")))
        found[row] = left / values[row]
        steps.append(
            Equation(
                "back-substitution", unknowns[row], divide(taken, Name("divisor")), given,
                shown(found[row], rational), numbers_only=True, folded=True, origins=(Origin("echelon", row),),
            )
        )  # fmt: skip
    return steps
