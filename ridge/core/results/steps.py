"""The steps of a working: what is shown in each, in exact numbers, without a word."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from fractions import Fraction
from typing import Any, ClassVar, Literal

from ridge.core.formula.tree import Name, Node
from ridge.core.models.base import Model
from ridge.core.results.read_only import ReadOnly

Exact = Fraction | float
"""A fraction; a float where exactness has ended."""
Row = tuple[Exact, ...]
Rows = Sequence[Sequence[Exact]]
Place = int | Literal["row", "column"] | None
Kind = Literal["statement", "equation", "table", "matrix", "operation", "check"]


_PARAMETER = "parameter "


def parameter(name: str) -> Name:
    """A parameter in a step's tree: apart from what is named the same among sums and statistics."""
    return Name(_PARAMETER + name)


def parameter_name(node: Node) -> str | None:
    """Of which parameter this is the name; None where it is another thing."""
    return node.name.removeprefix(_PARAMETER) if isinstance(node, Name) and node.name.startswith(_PARAMETER) else None


@dataclass(frozen=True)
class Origin:
    """Where a number comes from: cells of an earlier step, or of ``readings``. ``row`` and ``column`` count from 0; None for all of
    them; "row" and "column" for that in which the number itself stands."""

    step: str
    row: Place = None
    column: Place = None


@dataclass(frozen=True)
class Step:
    """One step. ``name``: what it is, the same in every working; ``facts``: what its sentence tells; ``origins``: of all its numbers;
    ``folded``: whether it is detail that is opened on request."""

    kind: ClassVar[Kind]
    name: str
    facts: Mapping[str, Any] = field(default_factory=dict, kw_only=True)
    origins: tuple[Origin, ...] = field(default=(), kw_only=True)
    folded: bool = field(default=False, kw_only=True)

    def __post_init__(self) -> None:
        object.__setattr__(self, "facts", ReadOnly(self.facts))

    @property
    def value(self) -> Any:
        """Its numbers: one, a list, or a list of rows; None where it has none."""
        return None


@dataclass(frozen=True)
class Statement(Step):
    """What is said without a number of its own."""

    kind = "statement"


@dataclass(frozen=True)
class Equation(Step):
    """``left`` = ``formula`` = the formula with the numbers put in = ``result``.

    ``left`` and ``formula``: trees of the formula language in the names of ``given``, of parameters and of what the wording
    knows (``sum_xy``, ``mean_x``). Names without a number stay letters. ``tidy``: terms of zero and factors of one are left out;
    ``numbers_only``: the formula is not shown in letters.
    """

    kind = "equation"
    left: Node
    formula: Node | None = None
    given: Mapping[str, Exact] = field(default_factory=dict)
    result: Exact | None = None
    tidy: bool = False
    numbers_only: bool = False

    @property
    def value(self) -> Exact | None:
        return self.result

    @property
    def number(self) -> Exact:
        """What it comes to, where it does."""
        assert self.result is not None
        return self.result


@dataclass(frozen=True)
class ModelEquation(Step):
    """The equation of a model, in letters or with ``values`` for its parameters."""

    kind = "equation"
    model: Model
    values: Mapping[str, Exact] | None = None

    @property
    def value(self) -> list[Exact] | None:
        return None if self.values is None else list(self.values.values())


@dataclass(frozen=True)
class Coefficients(Step):
    """Each unknown with its value, in the order of the columns."""

    kind = "equation"
    names: tuple[Node, ...]
    values: Row

    @property
    def value(self) -> list[Exact]:
        return list(self.values)


@dataclass(frozen=True)
class System(Step):
    """Equations side by side: a row of coefficients of the unknowns, and what they come to. ``rows_of``: the reading of each, from 0."""

    kind = "equation"
    unknowns: tuple[Node, ...]
    rows: Rows
    right: Sequence[Exact]
    rows_of: Sequence[int] = ()

    @property
    def value(self) -> list[list[Exact]]:
        return [[*row, right] for row, right in zip(self.rows, self.right, strict=True)]


@dataclass(frozen=True)
class Table(Step):
    """Columns under headings. ``rows_of``: the reading that each row belongs to, from 0; ``sums``: the foot, in later steps under
    ``sum_names`` ("" for none); ``marked_row``: one that is pointed out; ``labels``: what each row is about, where that is no
    reading. None for a cell that has nothing."""

    kind = "table"
    headings: tuple[Node, ...]
    rows: Sequence[Sequence[Exact | None]]
    rows_of: Sequence[int] = ()
    sums: tuple[Exact | None, ...] = ()
    sum_names: tuple[str, ...] = ()
    marked_row: int | None = None
    labels: tuple[Node, ...] = ()

    @property
    def value(self) -> list[list[Exact | None]]:
        return [list(row) for row in self.rows]


@dataclass(frozen=True)
class Values(Step):
    """Several numbers under headings in one line."""

    kind = "table"
    headings: tuple[Node, ...]
    values: Row

    @property
    def value(self) -> list[Exact]:
        return list(self.values)


@dataclass(frozen=True)
class Matrix(Step):
    """A matrix ``symbol``. ``headings``: trees over its columns; ``bar``: how many columns stand behind a bar; ``rows_of`` and
    ``labels`` as in Table; ``marked``: cells that are pointed out; ``vector``: whether its value is a plain list; ``more``: rows of
    zeros not shown."""

    kind = "matrix"
    symbol: str
    rows: Rows
    headings: tuple[Node, ...] = ()
    bar: int = 0
    rows_of: Sequence[int] = ()
    marked: tuple[tuple[int, int], ...] = ()
    vector: bool = False
    more: int = 0
    labels: tuple[Node, ...] = ()

    @property
    def value(self) -> list[Any]:
        return [row[0] for row in self.rows] if self.vector else [list(row) for row in self.rows]


@dataclass(frozen=True)
class Operation(Step):
    """One operation on the rows of a matrix, and the matrix after it. ``how``: "swap" with ``source``, "scale" by ``factor`` (1/factor is
    the pivot), "subtract" ``factor`` times ``source``. Rows count from 0."""

    kind = "operation"
    how: Literal["swap", "scale", "subtract"]
    target: int
    source: int
    factor: Exact
    rows: Rows
    headings: tuple[Node, ...] = ()
    bar: int = 1

    @property
    def value(self) -> list[list[Exact]]:
        return [list(row) for row in self.rows]


@dataclass(frozen=True)
class Check(Step):
    """Two ways to the same numbers. ``left`` and ``right``: one a place; ``headings``: what each is. ``close``: equal within rounding
    is enough, since they are floats."""

    kind = "check"
    headings: tuple[Node, ...]
    left: Row
    right: Row
    tolerance: float = 0.0
    """Largest difference over the larger of the two that is rounding."""
    at: Row = ()
    """The x of each place, where the headings do not tell them apart."""

    @property
    def holds(self) -> bool:
        return all(
            a == b
            or (self.tolerance > 0 and abs(float(a) - float(b)) <= self.tolerance * max(abs(float(a)), abs(float(b))))
            for a, b in zip(self.left, self.right, strict=True)
        )

    @property
    def value(self) -> bool:
        return self.holds
