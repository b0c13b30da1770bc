"""Formulas with exact numbers put in: what an equation of a working comes to."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from fractions import Fraction
from typing import Any

from ridge.core.errors import BeyondDoubles
from ridge.core.formula import parse
from ridge.core.formula.tree import Call, Constant, Name, Negative, Node, Number, Operation, names_in
from ridge.core.results.steps import Equation, Exact
from ridge.core.workings.exact_columns import exactly, shown

_FUNCTIONS: Mapping[str, Callable[[float], float]] = {
    "ln": math.log, "exp": math.exp, "sin": math.sin, "cos": math.cos, "tan": math.tan, "asin": math.asin,
    "acos": math.acos, "atan": math.atan, "abs": abs,
}  # fmt: skip


def worked(
    name: str, left: Node, formula: str | Node, numbers: Mapping[str, Exact], rational: bool = True, **fields: Any
) -> Equation:
    """``left`` = ``formula`` with those of the ``numbers`` put in that it names, and what it comes to."""
    tree = parse(formula).tree if isinstance(formula, str) else formula
    given = {one: numbers[one] for one in names_in(tree)}
    carried = {one: _carried(value, rational) for one, value in given.items()}
    return Equation(name, left, tree, carried, _carried(outcome(tree, given), rational), **fields)


def _carried(value: Exact, rational: bool) -> Exact:
    whole = isinstance(value, Fraction) and value.denominator == 1
    return shown(value, rational or whole) if isinstance(value, Fraction) else value


def outcome(tree: Node, given: Mapping[str, Exact]) -> Exact:
    """What the formula comes to: a fraction as long as it can be one.

    Raises BeyondDoubles where it leaves the doubles, ZeroDivisionError, and ValueError where a function has no value.
    """
    try:
        return _outcome(tree, given)
    except OverflowError:
        raise BeyondDoubles("number") from None


def _outcome(tree: Node, given: Mapping[str, Exact]) -> Exact:
    match tree:
        case Number(value):
            return exactly(value)
        case Constant(name):
            return math.pi if name == "pi" else math.e
        case Name(name):
            return given[name]
        case Negative(part):
            return -_outcome(part, given)
        case Operation(sign, left, right):
            return _joined(sign, _outcome(left, given), _outcome(right, given))
        case Call("sqrt", (argument,)):
            return root(_outcome(argument, given))
        case Call(function, (argument,)) if function in _FUNCTIONS:
            return _FUNCTIONS[function](float(_outcome(argument, given)))
    raise TypeError(tree)


def _joined(sign: str, left: Exact, right: Exact) -> Exact:
    match sign:
        case "+":
            return left + right
        case "-":
            return left - right
        case "*":
            return left * right
        case "/":
            return left / right
    if isinstance(right, Fraction) and right.denominator == 1:
        return left ** int(right)
    return float(float(left) ** float(right))


def root(value: Exact) -> Exact:
    """Its square root: a fraction where it is one."""
    if isinstance(value, Fraction) and value >= 0:
        top, bottom = math.isqrt(value.numerator), math.isqrt(value.denominator)
        if top * top == value.numerator and bottom * bottom == value.denominator:
            return Fraction(top, bottom)
        # Of very large and very small ones the quotient is taken before they become doubles.
        scale = 2 * max(0, 60 - (value.numerator.bit_length() - value.denominator.bit_length()) // 2)
        found = math.isqrt((value.numerator << 2 * scale) // value.denominator)
        return float(Fraction(found, 1 << scale))
    return math.sqrt(value)
