"""The functions that a formula may use: their values, derivatives and how they are written."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np
from scipy import special

from ridge.core.formula.tree import (
    ONE,
    ZERO,
    Choice,
    Comparison,
    Constant,
    Node,
    add,
    call,
    divide,
    multiply,
    negative,
    number,
    power,
    subtract,
)

Values = Any  # an array of floats or long doubles, or one number


@dataclass(frozen=True)
class Function:
    """``derivatives`` holds one rule an argument: from the arguments to the partial derivative."""

    values: Callable[..., Values]
    derivatives: tuple[Callable[..., Node], ...]
    latex: str
    meaning: str


class Special:
    """A special function of SciPy's: it knows doubles only, and takes far longer than a function of NumPy's."""

    def __init__(self, function: Callable[..., Values]) -> None:
        self._function = function

    def __call__(self, *values: Values) -> Values:
        return self._function(*(np.asarray(value, dtype=np.float64) for value in values))


def _sinc(values: Values) -> Values:
    values = np.asarray(values)
    near = np.abs(values) < 1e-4
    safe = np.where(near, values.dtype.type(1), values)
    square = values * values
    return np.where(near, 1 - square / 6 + square * square / 120, np.sin(safe) / safe)


def _sinc_slope(values: Values) -> Values:
    values = np.asarray(values)
    near = np.abs(values) < 1e-2
    safe = np.where(near, values.dtype.type(1), values)
    square = values * values
    series = values * (-1 / 3 + square * (1 / 30 - square * (1 / 840 - square / 45360)))
    return np.where(near, series, (np.cos(safe) - np.sin(safe) / safe) / safe)


def _sinc_bend(values: Values) -> Values:
    values = np.asarray(values)
    near = np.abs(values) < 1e-2
    safe = np.where(near, values.dtype.type(1), values)
    square = values * values
    series = -1 / 3 + square * (1 / 10 - square * (1 / 168 - square / 6480))
    return np.where(near, series, -_sinc(safe) - 2 * _sinc_slope(safe) / safe)


def _sinc_twist(values: Values) -> Values:
    """Third derivative: −(cos u + 3·sinc″(u))/u, a series near zero."""
    values = np.asarray(values)
    near = np.abs(values) < 1e-1
    safe = np.where(near, values.dtype.type(1), values)
    square = values * values
    series = values * (1 / 5 - square * (1 / 42 - square * (1 / 1080 - square / 55440)))
    return np.where(near, series, -(np.cos(safe) + 3 * _sinc_bend(safe)) / safe)


def _arc(sign: int) -> Callable[[Node], Node]:
    def rule(u: Node) -> Node:
        root = call("sqrt", subtract(ONE, power(u, number(2))))
        return divide(ONE, root) if sign > 0 else negative(divide(ONE, root))

    return rule


def _one_plus_square(u: Node) -> Node:
    return add(ONE, power(u, number(2)))


_TWO = number(2)
_DEGREE = divide(Constant("pi"), number(180))
_RADIAN = divide(number(180), Constant("pi"))
_PI = np.longdouble("3.14159265358979323846264338327950288")


def _of_degrees(function: Callable[..., Values]) -> Callable[..., Values]:
    def values_of(degrees: Values) -> Values:
        angle = np.asarray(degrees) * 1.0
        return function(angle * angle.dtype.type(_PI / 180))

    return values_of


def _to_degrees(function: Callable[..., Values]) -> Callable[..., Values]:
    def values_of(values: Values) -> Values:
        angle = np.asarray(function(values))
        return angle * angle.dtype.type(180 / _PI)

    return values_of


def _none(*_: Node) -> Node:
    return ZERO


FUNCTIONS: dict[str, Function] = {
    "sin": Function(np.sin, (lambda u: call("cos", u),), r"\sin", "sine of an angle in radians"),
    "cos": Function(np.cos, (lambda u: negative(call("sin", u)),), r"\cos", "cosine of an angle in radians"),
    "tan": Function(np.tan, (lambda u: _one_plus_square(call("tan", u)),), r"\tan", "tangent of an angle in radians"),
    "asin": Function(np.arcsin, (_arc(1),), r"\arcsin", "angle in radians whose sine is given"),
    "acos": Function(np.arccos, (_arc(-1),), r"\arccos", "angle in radians whose cosine is given"),
    "atan": Function(
        np.arctan, (lambda u: divide(ONE, _one_plus_square(u)),), r"\arctan", "angle in radians whose tangent is given"
    ),
    "sinh": Function(np.sinh, (lambda u: call("cosh", u),), r"\sinh", "hyperbolic sine"),
    "cosh": Function(np.cosh, (lambda u: call("sinh", u),), r"\cosh", "hyperbolic cosine"),
    "tanh": Function(np.tanh, (lambda u: subtract(ONE, power(call("tanh", u), _TWO)),), r"\tanh", "hyperbolic tangent"),
    "exp": Function(np.exp, (lambda u: call("exp", u),), r"\exp", "e to that power"),
    "ln": Function(np.log, (lambda u: divide(ONE, u),), r"\ln", "natural logarithm"),
    "log10": Function(
        np.log10, (lambda u: divide(ONE, multiply(u, call("ln", number(10)))),), r"\log_{10}", "logarithm to base 10"
    ),
    "log2": Function(
        np.log2, (lambda u: divide(ONE, multiply(u, call("ln", _TWO))),), r"\log_{2}", "logarithm to base 2"
    ),
    "sqrt": Function(np.sqrt, (lambda u: divide(ONE, multiply(_TWO, call("sqrt", u))),), r"\sqrt", "square root"),
    "cbrt": Function(
        np.cbrt,
        (lambda u: divide(ONE, multiply(number(3), power(call("cbrt", u), _TWO))),),
        r"\sqrt[3]",
        "cube root, also of negative numbers",
    ),
    "abs": Function(np.abs, (lambda u: call("sign", u),), "", "size without sign"),
    "sign": Function(np.sign, (_none,), r"\operatorname{sign}", "−1, 0 or 1"),
    "floor": Function(np.floor, (_none,), "", "greatest whole number not above"),
    "ceil": Function(np.ceil, (_none,), "", "smallest whole number not below"),
    "min": Function(
        np.minimum,
        (
            lambda u, v: Choice(Comparison("<=", u, v), ONE, ZERO),
            lambda u, v: Choice(Comparison("<=", u, v), ZERO, ONE),
        ),
        r"\min",
        "the smaller of two",
    ),
    "max": Function(
        np.maximum,
        (
            lambda u, v: Choice(Comparison(">=", u, v), ONE, ZERO),
            lambda u, v: Choice(Comparison(">=", u, v), ZERO, ONE),
        ),
        r"\max",
        "the larger of two",
    ),
    "sinc": Function(_sinc, (lambda u: call("sinc_slope", u),), r"\operatorname{sinc}", "sin(u)/u, and 1 at 0"),
    "erf": Function(
        Special(special.erf),
        (lambda u: divide(multiply(_TWO, call("exp", negative(power(u, _TWO)))), call("sqrt", Constant("pi"))),),
        r"\operatorname{erf}",
        "error function",
    ),
    "gamma": Function(
        Special(special.gamma),
        (lambda u: multiply(call("gamma", u), call("digamma", u)),),
        r"\Gamma",
        "gamma function",
    ),
}
"""What a user may type. The names with a word of degrees are put in when a formula measures angles in degrees."""


def _times_ln(factor: Values, values: Values) -> Values:
    """factor·ln(values), and 0 where the factor is 0: so xⁿ·ln x ends at x = 0, as its limit does."""
    factor = np.asarray(factor)
    zero = factor == 0
    return np.where(zero, factor, factor * np.log(np.where(zero, factor.dtype.type(1), values)))


FARTHEST_POLYGAMMA = -1e4
"""Below this SciPy's polygamma counts up term by term, without end for −1e30; Γ is zero there to the last digit."""


def _polygamma(order: int) -> Callable[[Any], Any]:
    def of(u: Any) -> Any:
        near = u >= FARTHEST_POLYGAMMA
        return np.where(near, special.polygamma(order, np.where(near, u, 1.0)), np.nan)

    return of


# Derivatives up to the third order are needed, for the uncertainty of a curve's bend; their own are not.
_INNER: dict[str, Function] = {
    "times_ln": Function(
        _times_ln, (lambda u, v: call("ln", v), lambda u, v: divide(u, v)), r"\operatorname{times\,ln}", ""
    ),
    "sinc_slope": Function(_sinc_slope, (lambda u: call("sinc_bend", u),), r"\operatorname{sinc}'", ""),
    "sinc_bend": Function(
        _sinc_bend,
        (lambda u: call("sinc_twist", u),),
        r"\operatorname{sinc}''",
        "",
    ),
    "sinc_twist": Function(_sinc_twist, (), r"\operatorname{sinc}'''", ""),
    "digamma": Function(Special(special.digamma), (lambda u: call("trigamma", u),), r"\psi", "derivative of ln Γ"),
    "trigamma": Function(Special(_polygamma(1)), (lambda u: call("tetragamma", u),), r"\psi_1", ""),
    "tetragamma": Function(Special(_polygamma(2)), (), r"\psi_2", ""),
    "sin_of_degrees": Function(
        _of_degrees(np.sin), (lambda u: multiply(_DEGREE, call("cos_of_degrees", u)),), r"\sin", ""
    ),
    "cos_of_degrees": Function(
        _of_degrees(np.cos), (lambda u: negative(multiply(_DEGREE, call("sin_of_degrees", u))),), r"\cos", ""
    ),
    "tan_of_degrees": Function(
        _of_degrees(np.tan),
        (lambda u: multiply(_DEGREE, _one_plus_square(call("tan_of_degrees", u))),),
        r"\tan",
        "",
    ),
    "asin_in_degrees": Function(_to_degrees(np.arcsin), (lambda u: multiply(_RADIAN, _arc(1)(u)),), r"\arcsin", ""),
    "acos_in_degrees": Function(_to_degrees(np.arccos), (lambda u: multiply(_RADIAN, _arc(-1)(u)),), r"\arccos", ""),
    "atan_in_degrees": Function(
        _to_degrees(np.arctan), (lambda u: divide(_RADIAN, _one_plus_square(u)),), r"\arctan", ""
    ),
}

ALL_FUNCTIONS = FUNCTIONS | _INNER

IN_DEGREES = {
    "sin": "sin_of_degrees",
    "cos": "cos_of_degrees",
    "tan": "tan_of_degrees",
    "asin": "asin_in_degrees",
    "acos": "acos_in_degrees",
    "atan": "atan_in_degrees",
}

ALIASES = {
    "arcsin": "asin",
    "arccos": "acos",
    "arctan": "atan",
    "√": "sqrt",
}
"""Other usual spellings."""

TYPED = {inner: typed for typed, inner in IN_DEGREES.items()}
