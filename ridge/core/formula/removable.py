"""Gaps of a formula that can be closed: sin(u)/u has no value at u = 0, sinc(u) has the limit 1 there."""

from __future__ import annotations

from ridge.core.formula.tree import Call, Choice, Comparison, Negative, Node, Operation


def with_sinc(tree: Node) -> Node:
    """Return the formula with ``sinc(u)`` for each ``sin(u)/u``; the same tree where there is none.

    >>> from ridge.core.formula import parse
    >>> from ridge.core.formula.writing import to_text
    >>> to_text(with_sinc(parse("a*(sin(x/w)/(x/w))^2").tree))
    'a*sinc(x/w)^2'
    """
    match tree:
        case Operation("/", Call("sin", (inside,)), below) if inside is below:
            return Call("sinc", (with_sinc(inside),))
        case Operation(sign, left, right):
            return Operation(sign, with_sinc(left), with_sinc(right))
        case Negative(part):
            return Negative(with_sinc(part))
        case Call(function, arguments):
            return Call(function, tuple(with_sinc(part) for part in arguments))
        case Choice(condition, yes, no):
            sides = Comparison(condition.sign, with_sinc(condition.left), with_sinc(condition.right))
            return Choice(sides, with_sinc(yes), with_sinc(no))
    return tree
