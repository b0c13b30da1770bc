"""Trees compiled to a flat list of array operations; what two trees share is computed once."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import Any

import numpy as np

from ridge.core.formula.functions import ALL_FUNCTIONS, IN_DEGREES, Special
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
    children,
)

Values = Any  # an array of floats or long doubles, or one number

_COMPARE: dict[str, Callable[..., Values]] = {
    "<": np.less, "<=": np.less_equal, ">": np.greater, ">=": np.greater_equal, "=": np.equal, "!=": np.not_equal,
}  # fmt: skip
_EXTENDED = np.dtype(np.longdouble)
_CONSTANTS = {
    "pi": np.longdouble("3.14159265358979323846264338327950288"),
    "e": np.longdouble("2.71828182845904523536028747135266250"),
}


def _to_power(base: Values, exponent: Values) -> Values:
    """Small whole exponents by multiplication: quicker, and exact for long doubles too."""
    if np.ndim(exponent) == 0:
        whole = float(exponent)
        if whole == 2:
            return base * base
        if whole == 3:
            return base * base * base
        if whole == -1:
            return np.true_divide(1.0, base)
        if whole == 0.5:
            return np.sqrt(base)
    return np.power(base, exponent)


_OPERATIONS: dict[str, Callable[..., Values]] = {
    "+": np.add, "-": np.subtract, "*": np.multiply, "/": np.true_divide, "^": _to_power,
}  # fmt: skip


def _choose(condition: Values, yes: Values, no: Values) -> Values:
    return np.where(condition, yes, no)


_QUICK = {np.negative, np.add, np.subtract, np.multiply, np.true_divide, *_COMPARE.values(), _choose}
_WAVES = {ALL_FUNCTIONS[name].values for wave in ("sin", "cos", "tan") for name in (wave, IN_DEGREES[wave])}
SLOWER, WAVES, SLOWEST = 8, 20, 80
"""How many times as long as an addition a power or a function takes (measured on 100 000 numbers: exp 1, a power 3, an inverse sine 8),
a sine (19), and a special function (erf 35, gamma 66, digamma 110)."""
EXTENDED, EXTENDED_SLOWER, EXTENDED_POWER = 4, 60, 430
"""The same on extended numbers, in additions of doubles: an addition (4), a function (a logarithm 45, exp 65, a sine 200), a power (430)."""


def _cost(function: Callable[..., Values]) -> int:
    if function in _QUICK:
        return 1
    return WAVES if function in _WAVES else SLOWEST if isinstance(function, Special) else SLOWER


def _extended_cost(function: Callable[..., Values]) -> int:
    if function in _QUICK:
        return EXTENDED
    if function is _to_power:
        return EXTENDED_POWER
    return 10 * WAVES if function in _WAVES else EXTENDED_SLOWER


class Program:
    """Computes several trees at once.

    ``names`` are the inputs in the order in which values are handed over. Inputs may be arrays of any shapes that
    broadcast; long doubles stay long doubles.
    """

    def __init__(self, outputs: Sequence[Node], names: Sequence[str]) -> None:
        self.names = tuple(names)
        self._slots: dict[Node, int] = {Name(name): i for i, name in enumerate(names)}
        self._constants: list[tuple[int, Any]] = []
        self._steps: list[tuple[int, Callable[..., Values], tuple[int, ...]]] = []
        self._count = len(self.names)
        self._outputs = [self._place(output) for output in outputs]
        self._blank: list[Values] = [None] * self._count
        for slot, constant in self._constants:
            self._blank[slot] = float(constant)

    @property
    def operations(self) -> int:
        """What one call costs, in operations as quick as an addition."""
        return sum(_cost(function) for _, function, _ in self._steps)

    @property
    def extended_operations(self) -> int:
        """The same for a call with extended numbers."""
        return sum(_extended_cost(function) for _, function, _ in self._steps)

    def _place(self, root: Node) -> int:
        """The slot of a node's value; parts before wholes, without recursion."""
        waiting: list[tuple[Node, bool]] = [(root, False)]
        while waiting:
            node, ready = waiting.pop()
            if node in self._slots:
                continue
            if not ready:
                waiting.append((node, True))
                waiting.extend((child, False) for child in children(node))
                continue
            slot = self._count
            self._count += 1
            self._slots[node] = slot
            parts = tuple(self._slots[child] for child in children(node))
            match node:
                case Number(value):
                    self._constants.append((slot, value))
                case Constant(name):
                    self._constants.append((slot, _CONSTANTS[name]))
                case Negative():
                    self._steps.append((slot, np.negative, parts))
                case Operation(sign):
                    self._steps.append((slot, _OPERATIONS[sign], parts))
                case Call(function):
                    self._steps.append((slot, ALL_FUNCTIONS[function].values, parts))
                case Comparison(sign):
                    self._steps.append((slot, _COMPARE[sign], parts))
                case Choice():
                    self._steps.append((slot, _choose, parts))
                case Name(name):
                    raise KeyError(name)
        return self._slots[root]

    def __call__(self, *inputs: Values) -> list[Values]:
        """Values of the outputs; NaN or an infinity where they are undefined. Scalars stay scalars.

        Call it inside ``np.errstate(all="ignore")``.
        """
        values = self._blank.copy()
        values[: len(inputs)] = inputs
        if self._constants and _EXTENDED in [getattr(value, "dtype", None) for value in inputs]:
            for slot, constant in self._constants:
                values[slot] = constant
        for slot, function, parts in self._steps:
            values[slot] = function(*[values[part] for part in parts])
        return [values[slot] for slot in self._outputs]


def evaluate(node: Node, inputs: Mapping[str, Values]) -> Values:
    """The value of one tree."""
    with np.errstate(all="ignore"):
        return Program([node], tuple(inputs))(*inputs.values())[0]
