"""A formula's tree as an expression in Python for arrays, with ``np`` for NumPy and ``special`` for scipy.special."""

from __future__ import annotations

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
)

_SAME = (
    "sin",
    "cos",
    "tan",
    "sinh",
    "cosh",
    "tanh",
    "exp",
    "log10",
    "log2",
    "sqrt",
    "cbrt",
    "abs",
    "sign",
    "floor",
    "ceil",
)
_CALLS = {name: f"np.{name}({{}})" for name in _SAME} | {
    "asin": "np.arcsin({})", "acos": "np.arccos({})", "atan": "np.arctan({})", "ln": "np.log({})",
    "min": "np.minimum({}, {})", "max": "np.maximum({}, {})", "sinc": "np.sinc(({}) / np.pi)",
    "erf": "special.erf({})", "gamma": "special.gamma({})",
    "sin_of_degrees": "np.sin(np.deg2rad({}))", "cos_of_degrees": "np.cos(np.deg2rad({}))",
    "tan_of_degrees": "np.tan(np.deg2rad({}))", "asin_in_degrees": "np.rad2deg(np.arcsin({}))",
    "acos_in_degrees": "np.rad2deg(np.arccos({}))", "atan_in_degrees": "np.rad2deg(np.arctan({}))",
}  # fmt: skip
_SIGNS = {"^": "**", "=": "=="}


def to_python(node: Node) -> str:
    """The expression; names stay as they are, so they have to be names in Python too.

    Raises KeyError for the functions that only derivatives use.
    """
    match node:
        case Number(value, _):
            return repr(value)
        case Constant(name):
            return "np.pi" if name == "pi" else "np.e"
        case Name(name):
            return name
        case Negative(part):
            return f"(-{to_python(part)})"
        case Operation(sign, left, right) | Comparison(sign, left, right):
            return f"({to_python(left)} {_SIGNS.get(sign, sign)} {to_python(right)})"
        case Call(function, arguments):
            return _CALLS[function].format(*map(to_python, arguments))
        case Choice(condition, yes, no):
            return f"np.where({to_python(condition)}, {to_python(yes)}, {to_python(no)})"
