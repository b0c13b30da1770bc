"""Which parameters enter a formula linearly, so that least squares finds them in one solve."""

from __future__ import annotations

from collections.abc import Iterable

from ridge.core.formula.tree import (
    Call,
    Choice,
    Comparison,
    Constant,
    Name,
    Negative,
    Node,
    Number,
    Operation,
    contains,
)


def is_affine(node: Node, names: frozenset[str]) -> bool:
    """Whether the node is a sum of terms that hold at most one of the names each, to the first power."""
    match node:
        case Number() | Constant() | Name():
            return True
        case Negative(part):
            return is_affine(part, names)
        case Operation("+" | "-", left, right):
            return is_affine(left, names) and is_affine(right, names)
        case Operation("*", left, right):
            if contains(left, names) and contains(right, names):
                return False
            return is_affine(left, names) and is_affine(right, names)
        case Operation("/", left, right):
            return not contains(right, names) and is_affine(left, names)
        case Operation("^") | Call() | Comparison():
            return not contains(node, names)
        case Choice(condition, yes, no):
            return not contains(condition, names) and is_affine(yes, names) and is_affine(no, names)
    raise TypeError(node)


def linear_names(node: Node, candidates: Iterable[str]) -> tuple[str, ...]:
    """A largest set of names, found greedily, in which the formula is affine.

    A name that would keep others out is left to the search: names that go well together come first.
    """
    alone = [name for name in candidates if is_affine(node, frozenset({name}))]
    clashes = {
        name: sum(not is_affine(node, frozenset({name, other})) for other in alone if other != name) for name in alone
    }
    chosen: list[str] = []
    for name in sorted(alone, key=lambda name: clashes[name]):
        if is_affine(node, frozenset({*chosen, name})):
            chosen.append(name)
    return tuple(name for name in alone if name in chosen)
