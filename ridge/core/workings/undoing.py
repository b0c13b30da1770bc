"""An equation turned over to its x, one operation at a time, where x stands in it once."""

from __future__ import annotations

from dataclasses import dataclass
from math import acos, asin, atan, ceil, floor, pi

from ridge.core.formula.tree import Call, Constant, Name, Negative, Node, Number, Operation, walk
from ridge.core.formula.tree import call as called
from ridge.core.formula.tree import number as made_number
from ridge.core.results.steps import Exact
from ridge.core.workings.numbers_put_in import outcome, root

BEFORE = "right side"
"""What the right side was: no parameter can be called that."""
TURNS = 40
"""Solutions of a periodic equation that are followed."""


@dataclass(frozen=True)
class Undone:
    """One step: ``left`` (still around x) = ``formula`` in ``before`` (what the right side was) and parameters = ``value``.
    ``how``: the operation that was undone; ``branch``: which of several values this is, in words of the trade."""

    how: str
    left: Node
    formula: Node
    numbers: dict[str, Exact]
    value: Exact


@dataclass(frozen=True)
class NoValue(Exception):
    """``how`` could not be undone at ``value``."""

    how: str
    left: Node
    value: Exact


def occurs_once(tree: Node, variable: str) -> bool:
    return sum(isinstance(part, Name) and part.name == variable for part in walk(tree)) == 1


def undo(tree: Node, variable: str, y: Exact, values: dict[str, Exact], low: float, high: float) -> list[list[Undone]]:
    """Every way from tree = y to variable = …, for periodic functions those that lead into the stretch ``low`` to ``high``.

    Raises NoValue where an operation cannot be undone, TypeError for one that has no inverse here.
    """
    return [steps for steps in _undo(tree, variable, y, values, (low, high)) if steps is not None]


def _holds(node: Node, variable: str) -> bool:
    return any(isinstance(part, Name) and part.name == variable for part in walk(node))


def _undo(
    tree: Node, variable: str, y: Exact, values: dict[str, Exact], stretch: tuple[float, float]
) -> list[list[Undone]]:
    if isinstance(tree, Name):
        return [[]]
    ways: list[list[Undone]] = []
    first_failure: NoValue | None = None
    for one in _one_step(tree, variable, y, values, stretch):
        if isinstance(one, NoValue):
            first_failure = first_failure or one
            continue
        try:
            for rest in _undo(one.left, variable, one.value, values, stretch):
                ways.append([one, *rest])
        except NoValue as failure:
            first_failure = first_failure or failure
    if not ways and first_failure is not None:
        raise first_failure
    return ways


def _one_step(
    tree: Node, variable: str, y: Exact, values: dict[str, Exact], stretch: tuple[float, float]
) -> list[Undone | NoValue]:
    before = Name(BEFORE)
    numbers: dict[str, Exact] = {**values, BEFORE: y}

    def made(how: str, left: Node, formula: Node) -> Undone | NoValue:
        try:
            return Undone(how, left, formula, numbers, outcome(formula, numbers))
        except (ZeroDivisionError, ValueError, ArithmeticError):
            return NoValue(how, left, y)

    match tree:
        case Negative(part):
            return [made("sign", part, Negative(before))]
        case Operation("+", left, right):
            inner, other = (left, right) if _holds(left, variable) else (right, left)
            return [made("add", inner, Operation("-", before, other))]
        case Operation("-", left, right):
            if _holds(left, variable):
                return [made("subtract", left, Operation("+", before, right))]
            return [made("subtract", right, Operation("-", left, before))]
        case Operation("*", left, right):
            inner, other = (left, right) if _holds(left, variable) else (right, left)
            return [made("multiply", inner, Operation("/", before, other))]
        case Operation("/", left, right):
            if _holds(left, variable):
                return [made("divide", left, Operation("*", before, right))]
            return [made("divide", right, Operation("/", left, before))]
        case Operation("^", base, exponent) if not _holds(exponent, variable):
            return _root(base, exponent, y, values, numbers)
        case Operation("^", base, exponent) if not _holds(base, variable):
            return [made("exponential", exponent, Operation("/", called("ln", before), called("ln", base)))]
        case Call("exp", (inner,)):
            return [made("exp", inner, called("ln", before))]
        case Call("ln", (inner,)):
            return [made("ln", inner, called("exp", before))]
        case Call("sqrt", (inner,)):
            return (
                [made("sqrt", inner, Operation("^", before, made_number(2)))] if y >= 0 else [NoValue("sqrt", inner, y)]
            )
        case Call("sin" | "cos" | "tan" as function, (inner,)):
            return _angles(function, inner, variable, y, values, stretch)
    raise TypeError(tree)


def _root(
    base: Node, exponent: Node, y: Exact, values: dict[str, Exact], numbers: dict[str, Exact]
) -> list[Undone | NoValue]:
    power = outcome(exponent, values)
    before = Name(BEFORE)
    if power == 2:
        if y < 0:
            return [NoValue("square", base, y)]
        found = root(y)
        plus = Undone("square", base, called("sqrt", before), numbers, found)
        minus = Undone("square", base, Negative(called("sqrt", before)), numbers, -found)
        return [plus, minus] if found else [plus]
    if power == 0:
        return [NoValue("power", base, y)]
    whole = float(power).is_integer()
    formula = Operation("^", before, Operation("/", made_number(1), exponent))
    if y > 0:
        size = float(y) ** (1 / float(power))
        ways: list[Undone | NoValue] = [Undone("power", base, formula, numbers, size)]
        if whole and int(power) % 2 == 0:
            ways.append(Undone("power", base, Negative(formula), numbers, -size))
        return ways
    if y < 0 and whole and int(power) % 2:
        return [Undone("power", base, formula, numbers, -((-float(y)) ** (1 / float(power))))]
    if y == 0 and power > 0:
        return [Undone("power", base, formula, numbers, 0.0)]
    return [NoValue("power", base, y)]


def _angles(
    function: str, inner: Node, variable: str, y: Exact, values: dict[str, Exact], stretch: tuple[float, float]
) -> list[Undone | NoValue]:
    """Both values of an angle, and those whole turns further on that lie in the stretch."""
    size = float(y)
    if function != "tan" and abs(size) > 1:
        return [NoValue(function, inner, y)]
    ends = [float(outcome(inner, {**values, variable: end})) for end in stretch]
    low, high = min(ends), max(ends)
    before = Name(BEFORE)
    match function:
        case "sin":
            first = called("asin", before)
            bases: list[tuple[Node, float]] = [
                (first, asin(size)),
                (Operation("-", Constant("pi"), first), pi - asin(size)),
            ]
        case "cos":
            first = called("acos", before)
            bases = [(first, acos(size)), (Negative(first), -acos(size))]
        case _:
            bases = [(called("atan", before), atan(size))]
    turn = pi if function == "tan" else 2 * pi
    found: list[Undone] = []
    for formula, angle in bases:
        first_turn, last_turn = ceil((low - angle) / turn - 1e-12), floor((high - angle) / turn + 1e-12)
        for turns in range(first_turn, min(last_turn, first_turn + TURNS) + 1):
            tree = formula
            if turns:
                whole = Operation("*", Number(2.0, str(2 * abs(turns))), Constant("pi"))
                if function == "tan":
                    whole = Operation("*", Number(2.0, str(abs(turns))), Constant("pi"))
                tree = Operation("+" if turns > 0 else "-", formula, whole)
            found.append(Undone(function, inner, tree, {**values, BEFORE: y}, angle + turns * turn))
    if not found:
        return [NoValue("stretch", inner, y)]
    return list(found)
