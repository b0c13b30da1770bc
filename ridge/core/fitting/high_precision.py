"""Nonlinear fits whose residuals are lost in the rounding of doubles: solved again in 60 digits.

Each reading is taken as the decimal that was written down: the shortest one that reads back as its double.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from threading import Lock
from typing import Any

import numpy as np
from flint import arb, arb_mat, ctx

from ridge.core.formula import differentiate
from ridge.core.formula.tree import Call, Constant, Name, Negative, Node, Number, Operation
from ridge.core.models.base import Model
from ridge.core.readings import Array

SETTLED = 1e-30
"""A step by less than this share of every parameter is the last: half of the digits are to spare."""
NEARLY_EXACT = 1e-10
"""Typical misses below this share of the readings are worth it."""
DIGITS = 2000
"""How many times as long as in doubles all steps together take."""
MOST = 2000
"""Readings times parameters up to which it is quick."""
BITS, STEPS = 220, 12
_precision = Lock()  # flint's precision is one for all threads

_FUNCTIONS: dict[str, Callable[[Any], Any]] = {
    "sin": arb.sin, "cos": arb.cos, "tan": arb.tan, "asin": arb.asin, "acos": arb.acos, "atan": arb.atan, "sinh": arb.sinh,
    "cosh": arb.cosh, "tanh": arb.tanh, "exp": arb.exp, "ln": arb.log, "sqrt": arb.sqrt, "erf": arb.erf, "gamma": arb.gamma,
}  # fmt: skip


@dataclass(frozen=True)
class Refined:
    """Free parameters (p,), covariance for unit variance (p, p), weighted residuals (n,) and their squared length."""

    values: Array
    unit_covariance: Array
    residuals: Array
    rss: float


class _Unknown(Exception):
    """The formula holds something that is not computed here."""


def _compute(node: Node, inputs: Mapping[str, Any], known: dict[Node, Any]) -> Any:
    if node in known:
        return known[node]
    match node:
        case Number(text=text):
            value = arb(text)
        case Constant(name):
            value = arb.pi() if name == "pi" else arb(1).exp()
        case Name(name):
            value = inputs[name]
        case Negative(part):
            value = -_compute(part, inputs, known)
        case Operation(sign, left, right):
            value = _operate(sign, _compute(left, inputs, known), _compute(right, inputs, known))
        case Call(function, (argument,)) if function in _FUNCTIONS:
            value = _FUNCTIONS[function](_compute(argument, inputs, known))
        case _:
            raise _Unknown
    known[node] = value
    return value


def _operate(sign: str, left: Any, right: Any) -> Any:
    match sign:
        case "+":
            return left + right
        case "-":
            return left - right
        case "*":
            return left * right
        case "/":
            return left / right
    return left**right


def refine(model: Model, values: Mapping[str, Any], x: Array, y: Array, weights: Array) -> Refined | None:
    """Gauss–Newton steps in 60 digits from parameters that are nearly right; None where that cannot be done."""
    free = model.free_names
    if len(x) * len(free) > MOST:
        return None
    with _precision:
        before = ctx.prec
        ctx.prec = BITS
        try:
            return _refine(model, values, x, y, weights)
        except (_Unknown, ZeroDivisionError, ValueError, OverflowError):
            return None
        finally:
            ctx.prec = before


def _refine(model: Model, values: Mapping[str, Any], x: Array, y: Array, weights: Array) -> Refined | None:
    free, size = model.free_names, len(model.free_names)
    trees = [differentiate(model.expression, name) for name in free]
    places, wanted = ([arb(repr(float(value))) for value in column] for column in (x, y))
    shares = [arb(float(weight)) for weight in weights]
    inputs = {name: arb(float(value)) for name, value in values.items()}
    for step in range(STEPS):
        matrix, side, residuals = [[arb(0)] * size for _ in range(size)], [arb(0)] * size, []
        for place, target, share in zip(places, wanted, shares, strict=True):
            known: dict[Node, Any] = {}
            here = inputs | {model.variable: place}
            residual = target - _compute(model.expression, here, known)
            slopes = [_compute(tree, here, known) for tree in trees]
            residuals.append(residual)
            for i in range(size):
                side[i] += share * slopes[i] * residual
                for j in range(size):
                    matrix[i][j] += share * slopes[i] * slopes[j]
        # Only the middles of the balls go on: their radii would grow from step to step.
        inverse = arb_mat([[entry.mid() for entry in row] for row in matrix]).inv()
        move = inverse * arb_mat([[entry.mid()] for entry in side])
        largest = max(abs(float(move[i, 0])) / (abs(float(inputs[name])) or 1.0) for i, name in enumerate(free))
        if largest < SETTLED and step:
            break
        for i, name in enumerate(free):
            inputs[name] = (inputs[name] + move[i, 0]).mid()
    else:
        return None
    weighted = [share.sqrt() * residual for share, residual in zip(shares, residuals, strict=True)]
    found = Refined(
        np.array([float(inputs[name]) for name in free]),
        np.array([[float(inverse[i, j].mid()) for j in range(size)] for i in range(size)]),
        np.array([float(residual) for residual in weighted]),
        float(sum((residual * residual for residual in weighted), arb(0))),
    )
    return found if np.isfinite(found.rss) and np.all(np.isfinite(found.unit_covariance)) else None
