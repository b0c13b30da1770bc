"""Exact derivatives of formula trees, by the usual rules."""

from __future__ import annotations

from functools import lru_cache

from ridge.core.formula.functions import ALL_FUNCTIONS
from ridge.core.formula.tree import (
    ONE,
    ZERO,
    Call,
    Choice,
    Comparison,
    Constant,
    Name,
    Negative,
    Node,
    Number,
    Operation,
    add,
    call,
    contains,
    divide,
    multiply,
    negative,
    number,
    power,
    subtract,
)


@lru_cache(maxsize=4096)
def differentiate(node: Node, name: str) -> Node:
    """∂node/∂name. At the corners of abs, min, max, floor and ``if``, the derivative of the branch taken."""
    match node:
        case Number() | Constant():
            return ZERO
        case Name(other):
            return ONE if other == name else ZERO
        case Negative(part):
            return negative(differentiate(part, name))
        case Operation("+", left, right):
            return add(differentiate(left, name), differentiate(right, name))
        case Operation("-", left, right):
            return subtract(differentiate(left, name), differentiate(right, name))
        case Operation("*", left, right):
            return add(
                multiply(differentiate(left, name), right),
                multiply(left, differentiate(right, name)),
            )
        case Operation("/", left, right):
            top = differentiate(left, name)
            if not contains(right, {name}):
                return divide(top, right)
            # (left/right)' = (left' − (left/right)·right') / right, which reuses the quotient's value.
            return divide(subtract(top, multiply(node, differentiate(right, name))), right)
        case Operation("^", base, exponent):
            return _power(node, base, exponent, name)
        case Call(function, arguments):
            total: Node = ZERO
            for argument, rule in zip(arguments, ALL_FUNCTIONS[function].derivatives, strict=True):
                inner = differentiate(argument, name)
                if inner != ZERO:
                    total = add(total, multiply(rule(*arguments), inner))
            return total
        case Choice(condition, yes, no):
            first, second = differentiate(yes, name), differentiate(no, name)
            return first if first == second else Choice(condition, first, second)
        case Comparison():
            return ZERO
    raise TypeError(node)


def _power(node: Node, base: Node, exponent: Node, name: str) -> Node:
    of_base, of_exponent = differentiate(base, name), differentiate(exponent, name)
    total: Node = ZERO
    if of_base != ZERO:
        lower = number(exponent.value - 1) if isinstance(exponent, Number) else subtract(exponent, ONE)
        total = multiply(multiply(exponent, power(base, lower)), of_base)
    if of_exponent != ZERO:
        own = node if base == Constant("e") else call("times_ln", node, base)
        total = add(total, multiply(own, of_exponent))
    return total
