"""The tree of a formula: a handful of immutable nodes."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from threading import Lock
from typing import Any, ClassVar, Self
from weakref import WeakValueDictionary


class _Kept:
    """Equal nodes are one object: derivatives share most of their parts, and comparing them costs nothing."""

    _known: ClassVar[WeakValueDictionary[tuple[Any, ...], Any]] = WeakValueDictionary()
    _lock: ClassVar[Lock] = Lock()

    def __new__(cls, *parts: Any) -> Self:
        key = (cls, *parts)
        with _Kept._lock:
            return _Kept._known.setdefault(key, super().__new__(cls))  # type: ignore[no-any-return]

    def __reduce__(self) -> tuple[Any, ...]:
        return type(self), tuple(vars(self).values())


@dataclass(frozen=True, eq=False)
class Number(_Kept):
    value: float
    text: str


@dataclass(frozen=True, eq=False)
class Constant(_Kept):
    """π or e."""

    name: str


@dataclass(frozen=True, eq=False)
class Name(_Kept):
    """A parameter or the independent variable."""

    name: str


@dataclass(frozen=True, eq=False)
class Negative(_Kept):
    part: Node


@dataclass(frozen=True, eq=False)
class Operation(_Kept):
    """``left`` and ``right`` joined by one of + - * / ^."""

    sign: str
    left: Node
    right: Node


@dataclass(frozen=True, eq=False)
class Call(_Kept):
    """A function of ``ridge.core.formula.functions`` and its arguments."""

    function: str
    arguments: tuple[Node, ...]


@dataclass(frozen=True, eq=False)
class Comparison(_Kept):
    """The condition of an ``if``; sign is one of < <= > >= = !=."""

    sign: str
    left: Node
    right: Node


@dataclass(frozen=True, eq=False)
class Choice(_Kept):
    """``if(condition, yes, no)``."""

    condition: Comparison
    yes: Node
    no: Node


Node = Number | Constant | Name | Negative | Operation | Call | Comparison | Choice


def number(value: float) -> Number:
    """A number made by the program rather than typed."""
    return Number(float(value), f"{value:g}" if float(f"{value:g}") == value else repr(float(value)))


ZERO, ONE = number(0), number(1)


def children(node: Node) -> tuple[Node, ...]:
    """The parts of a node, left to right."""
    match node:
        case Negative(part):
            return (part,)
        case Operation(_, left, right) | Comparison(_, left, right):
            return (left, right)
        case Call(_, arguments):
            return arguments
        case Choice(condition, yes, no):
            return (condition, yes, no)
        case _:
            return ()


def walk(node: Node) -> Iterator[Node]:
    """The node and everything below it, in the order of reading."""
    waiting = [node]
    while waiting:
        here = waiting.pop()
        yield here
        waiting.extend(reversed(children(here)))


def names_in(node: Node) -> tuple[str, ...]:
    """Names in order of first appearance."""
    return tuple(dict.fromkeys(part.name for part in walk(node) if isinstance(part, Name)))


def contains(node: Node, names: frozenset[str] | set[str]) -> bool:
    """Whether any of the names occurs below."""
    return any(isinstance(part, Name) and part.name in names for part in walk(node))


# Building with the plainest simplifications, so that derivatives stay readable and quick.


def _value(node: Node) -> float | None:
    return node.value if isinstance(node, Number) else None


def add(left: Node, right: Node) -> Node:
    if _value(left) == 0:
        return right
    if _value(right) == 0:
        return left
    if isinstance(right, Negative):
        return subtract(left, right.part)
    return Operation("+", left, right)


def subtract(left: Node, right: Node) -> Node:
    if _value(right) == 0:
        return left
    if _value(left) == 0:
        return negative(right)
    if isinstance(right, Negative):
        return add(left, right.part)
    return ZERO if left == right else Operation("-", left, right)


def negative(part: Node) -> Node:
    if _value(part) == 0:
        return ZERO
    return part.part if isinstance(part, Negative) else Negative(part)


def multiply(left: Node, right: Node) -> Node:
    if _value(left) == 0 or _value(right) == 0:
        return ZERO
    if _value(left) == 1:
        return right
    if _value(right) == 1:
        return left
    if isinstance(left, Negative):
        return negative(multiply(left.part, right))
    if isinstance(right, Negative):
        return negative(multiply(left, right.part))
    return Operation("*", left, right)


def divide(left: Node, right: Node) -> Node:
    if _value(left) == 0:
        return ZERO
    if _value(right) == 1:
        return left
    return negative(divide(left.part, right)) if isinstance(left, Negative) else Operation("/", left, right)


def power(base: Node, exponent: Node) -> Node:
    if _value(exponent) == 0:
        return ONE
    return base if _value(exponent) == 1 else Operation("^", base, exponent)


def call(function: str, *arguments: Node) -> Call:
    return Call(function, arguments)


def with_children(node: Node, parts: Sequence[Node]) -> Node:
    """Return the node with other parts, in the order of ``children``."""
    match node:
        case Negative():
            return negative(*parts)
        case Operation(sign):
            return _JOIN[sign](*parts)
        case Call(function):
            return Call(function, tuple(parts))
        case Comparison(sign):
            return Comparison(sign, *parts)
        case Choice():
            return Choice(*parts)  # type: ignore[arg-type]
    return node


def substitute(node: Node, values: Mapping[str, Node]) -> Node:
    """The tree with names replaced."""
    if not contains(node, set(values)):
        return node
    if isinstance(node, Name):
        return values.get(node.name, node)
    return with_children(node, [substitute(part, values) for part in children(node)])


_JOIN = {"+": add, "-": subtract, "*": multiply, "/": divide, "^": power}
