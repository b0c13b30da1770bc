"""A cubic spline from its second derivatives at the knots (e.g. Burden and Faires, section 3.5; de Boor, chapter IV)."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from fractions import Fraction
from functools import cached_property, partial

from flint import fmpq

from ridge.core.errors import OutsideSense, TooFewReadings
from ridge.core.formula import parse
from ridge.core.formula.tree import Name, Node
from ridge.core.results.steps import Check, Coefficients, Equation, Exact, Origin, Statement, Step, Table
from ridge.core.workings.asked import Asked
from ridge.core.workings.ends import nodes_steps
from ridge.core.workings.exact_columns import exactly
from ridge.core.workings.exact_matrices import from_flint, to_flint
from ridge.core.workings.numbers_put_in import worked
from ridge.core.workings.solving import solve_by_rows

MOST_KNOTS = 200
MOST_WRITTEN = 60
"""Pieces that are also written as equations; of more only their coefficients."""
MOST_REDUCED = 12
"""Knots up to which the system stands as a matrix and every operation on its rows is shown."""
_PIECE = "a + b*(x - x_0) + c*(x - x_0)^2 + d*(x - x_0)^3"
_NAMES = ("a", "b", "c", "d")


@dataclass(frozen=True)
class _Knots:
    x: list[Fraction]
    y: list[Fraction]

    @cached_property
    def widths(self) -> list[Fraction]:
        return [after - before for before, after in zip(self.x, self.x[1:], strict=False)]

    @cached_property
    def slopes(self) -> list[Fraction]:
        """Of the straight pieces."""
        rises = [after - before for before, after in zip(self.y, self.y[1:], strict=False)]
        return [rise / width for rise, width in zip(rises, self.widths, strict=True)]


EndRows = Callable[[_Knots, tuple[Fraction, Fraction]], tuple[list[Fraction], Fraction, list[Fraction], Fraction]]
"""Coefficients and right side of the first and of the last row."""


def _row(size: int, **places: Fraction | int) -> list[Fraction]:
    row = [Fraction(0)] * size
    for place, value in places.items():
        row[int(place[1:]) if place[0] == "p" else size - int(place[1:])] += value
    return row


def _natural(
    knots: _Knots, slopes: tuple[Fraction, Fraction]
) -> tuple[list[Fraction], Fraction, list[Fraction], Fraction]:
    size = len(knots.x)
    return _row(size, p0=1), Fraction(0), _row(size, q1=1), Fraction(0)


def _clamped(
    knots: _Knots, slopes: tuple[Fraction, Fraction]
) -> tuple[list[Fraction], Fraction, list[Fraction], Fraction]:
    size, h, straight = len(knots.x), knots.widths, knots.slopes
    return (
        _row(size, p0=2 * h[0], p1=h[0]), 6 * (straight[0] - slopes[0]),
        _row(size, q2=h[-1], q1=2 * h[-1]), 6 * (slopes[1] - straight[-1]),
    )  # fmt: skip


def _not_a_knot(
    knots: _Knots, slopes: tuple[Fraction, Fraction]
) -> tuple[list[Fraction], Fraction, list[Fraction], Fraction]:
    size, h = len(knots.x), knots.widths
    if size == 2:  # one piece, straight
        return _natural(knots, slopes)
    if size == 3:  # one parabola
        return _row(3, p0=1, p1=-1), Fraction(0), _row(3, p1=1, p2=-1), Fraction(0)
    return (
        _row(size, p0=h[1], p1=-(h[0] + h[1]), p2=h[0]), Fraction(0),
        _row(size, q3=h[-1], q2=-(h[-2] + h[-1]), q1=h[-2]), Fraction(0),
    )  # fmt: skip


def _periodic(
    knots: _Knots, slopes: tuple[Fraction, Fraction]
) -> tuple[list[Fraction], Fraction, list[Fraction], Fraction]:
    size, h, straight = len(knots.x), knots.widths, knots.slopes
    return (
        _row(size, p0=2 * (h[0] + h[-1]), p1=h[0], q2=h[-1]), 6 * (straight[0] - straight[-1]),
        _row(size, p0=1, q1=-1), Fraction(0),
    )  # fmt: skip


_ENDS: dict[str, EndRows] = {
    "natural": _natural, "clamped": _clamped, "not-a-knot": _not_a_knot, "periodic": _periodic
}  # fmt: skip


def cubic_spline(asked: Asked, ends: str) -> list[Step]:
    """Widths, the system for the second derivatives, its solution, the pieces, the checks at every knot; and the value at ``x``.

    Raises TooFewReadings, OutsideSense for too many knots or ends that do not repeat.
    """
    nodes, steps = asked.nodes, nodes_steps(asked)
    if asked.clash:
        return steps
    size = len(nodes)
    if size > MOST_KNOTS:
        raise OutsideSense("readings", f"a spline is followed through {MOST_KNOTS} knots at most. Set readings aside.")
    knots = _Knots(nodes.xs, nodes.ys)
    if ends == "periodic" and size < 3:
        raise TooFewReadings(3, size)
    if ends == "periodic" and knots.y[0] != knots.y[-1]:
        raise OutsideSense("ends", "a periodic spline needs the same y at its first and last x.")
    steps.append(
        Table(
            "widths",
            tuple(Name(name) for name in ("piece", "x_0", "x_1", "y_0", "y_1", "width", "piece_slope")),
            tuple(
                (
                    Fraction(i + 1),
                    knots.x[i],
                    knots.x[i + 1],
                    knots.y[i],
                    knots.y[i + 1],
                    knots.widths[i],
                    knots.slopes[i],
                )
                for i in range(size - 1)
            ),
            nodes.rows_of[:-1],
            origins=(Origin("readings", "row"),),
        )
    )
    matrix, right = _system(knots, _ENDS[ends], (exactly(asked.end_slopes[0]), exactly(asked.end_slopes[1])))
    solution, more = _solved(matrix, right, ends)
    steps += more
    pieces = _pieces(knots, solution)
    steps += _pieces_steps(asked, knots, pieces)
    return steps + _checks(knots, pieces)


def _system(
    knots: _Knots, ends: EndRows, slopes: tuple[Fraction, Fraction]
) -> tuple[list[list[Fraction]], list[Fraction]]:
    size, h, straight = len(knots.x), knots.widths, knots.slopes
    first, first_right, last, last_right = ends(knots, slopes)
    matrix, right = [first], [first_right]
    for i in range(1, size - 1):
        row = [Fraction(0)] * size
        row[i - 1], row[i], row[i + 1] = h[i - 1], 2 * (h[i - 1] + h[i]), h[i]
        matrix.append(row)
        right.append(6 * (straight[i] - straight[i - 1]))
    return [*matrix, last], [*right, last_right]


def _solved(matrix: list[list[Fraction]], right: list[Fraction], ends: str) -> tuple[list[Fraction], list[Step]]:
    """The second derivatives, and the steps that lead there."""
    size = len(right)
    unknowns: tuple[Node, ...] = tuple(Name(f"M_{i}") for i in range(size))
    steps: list[Step] = [Statement("spline-rows", facts={"ends": ends, "inner": size - 2})]
    origins = (Origin("widths"),)
    if size <= MOST_REDUCED:
        solving = solve_by_rows(matrix, right, unknowns, Name("right"), True, origins)
        assert solving.solution is not None  # such a system always has one solution (de Boor, chapter IV)
        steps += [step for step in solving.steps if step.name != "coefficients"]
        solution = list(solving.solution)
    else:
        steps.append(
            Table(
                "tridiagonal",
                tuple(Name(name) for name in ("row_number", "below", "diagonal", "above", "right")),
                tuple(
                    (
                        Fraction(i),
                        matrix[i][i - 1] if i else Fraction(0),
                        matrix[i][i],
                        matrix[i][i + 1] if i + 1 < size else Fraction(0),
                        right[i],
                    )
                    for i in range(size)
                ),
                origins=origins,
                facts={"ends": ends},
            )
        )
        solution = _sparsely(matrix, right)
    steps.append(Coefficients("second-derivatives", unknowns, tuple(solution), origins=origins))
    return solution, steps


def _sparsely(matrix: list[list[Fraction]], right: list[Fraction]) -> list[Fraction]:
    """The same elimination with what is not zero alone: a step for each knot. Its pivots are never zero (the inner rows are
    diagonally dominant, and the end rows leave them so)."""
    size = len(right)
    rows = [{place: to_flint(value) for place, value in enumerate(row) if value} for row in matrix]
    values = [to_flint(value) for value in right]
    for pivot in range(size):
        for row in range(pivot + 1, size):
            if not (below := rows[row].pop(pivot, None)):
                continue
            factor = below / rows[pivot][pivot]
            for place, value in rows[pivot].items():
                if place > pivot:
                    rows[row][place] = rows[row].get(place, fmpq(0)) - factor * value
            values[row] -= factor * values[pivot]
    found: list[fmpq] = [fmpq(0)] * size
    for row in reversed(range(size)):
        rest = sum((value * found[place] for place, value in rows[row].items() if place > row), fmpq(0))
        found[row] = (values[row] - rest) / rows[row][row]
    return [from_flint(value) for value in found]


def _pieces(knots: _Knots, bends: Sequence[Fraction]) -> list[tuple[Fraction, ...]]:
    """a, b, c and d of every piece, in powers of x from its first knot."""
    h, straight = knots.widths, knots.slopes
    return [
        (
            knots.y[i], straight[i] - h[i] * (2 * bends[i] + bends[i + 1]) / 6, bends[i] / 2,
            (bends[i + 1] - bends[i]) / (6 * h[i]),
        )
        for i in range(len(h))
    ]  # fmt: skip


def _pieces_steps(asked: Asked, knots: _Knots, pieces: list[tuple[Fraction, ...]]) -> list[Step]:
    here = None
    if asked.x is not None:
        here = min(max(bisect_right(knots.x, exactly(asked.x)) - 1, 0), len(pieces) - 1)
    steps: list[Step] = [
        Equation("piece-form", Name("y"), parse(_PIECE).tree),
        Table(
            "pieces", tuple(Name(name) for name in ("piece", "x_0", "x_1", *_NAMES)),
            tuple((Fraction(i + 1), knots.x[i], knots.x[i + 1], *piece) for i, piece in enumerate(pieces)),
            marked_row=here, origins=(Origin("second-derivatives"), Origin("widths", "row")),
        ),
    ]  # fmt: skip
    for i, piece in enumerate(pieces if len(pieces) <= MOST_WRITTEN else []):
        given: dict[str, Exact] = {**dict(zip(_NAMES, piece, strict=True)), "x_0": knots.x[i]}
        steps.append(
            Equation(
                "piece",
                Name("y"),
                parse(_PIECE).tree,
                given,
                tidy=True,
                numbers_only=True,
                folded=len(pieces) > 6,
                facts={"low": knots.x[i], "high": knots.x[i + 1], "number": i + 1},
                origins=(Origin("pieces", i),),
            )
        )
    if asked.x is not None and here is not None:
        numbers = {**dict(zip(_NAMES, pieces[here], strict=True)), "x_0": knots.x[here], "x": exactly(asked.x)}
        steps.append(worked("value-at-x", Name("y"), _PIECE, numbers, origins=(Origin("pieces", here),)))
    return steps


def _checks(knots: _Knots, pieces: list[tuple[Fraction, ...]]) -> list[Step]:
    """Value, slope and second derivative from both sides of every inner knot."""
    inner = range(1, len(pieces))
    h = knots.widths
    tellers: dict[str, Callable[[tuple[Fraction, ...], Fraction], Fraction]] = {
        "knots-value": lambda piece, at: sum((c * at**k for k, c in enumerate(piece)), Fraction(0)),
        "knots-slope": lambda piece, at: piece[1] + 2 * piece[2] * at + 3 * piece[3] * at**2,
        "knots-bend": lambda piece, at: 2 * piece[2] + 6 * piece[3] * at,
    }
    at = tuple(knots.x[i] for i in inner)
    headings = tuple(Name("x") for _ in inner)
    return [
        Check(name, headings, tuple(tell(pieces[i - 1], h[i - 1]) for i in inner), tuple(tell(pieces[i], Fraction(0)) for i in inner), at=at)
        for name, tell in tellers.items()
        if len(pieces) > 1
    ]  # fmt: skip


SPLINES = {f"{ends}-spline": partial(cubic_spline, ends=ends) for ends in _ENDS}
"""The working of each kind of ends, by name."""
