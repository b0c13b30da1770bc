"""Trees as plain text and as LaTeX."""

from __future__ import annotations

import re
from collections.abc import Callable

from ridge.core.decimal_sign import between_values, in_sign, latex_in_sign
from ridge.core.formula.functions import ALL_FUNCTIONS, TYPED
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

# A degree sign goes with the angles of these, so that nobody takes them for radians.
_ANGLE_IN_DEGREES = {"sin_of_degrees", "cos_of_degrees", "tan_of_degrees"}
_RANK = {"+": 1, "-": 1, "*": 2, "/": 2, "^": 4}
_SIGN = 3
_WHOLE = 9

_GREEK = {
    "α": "alpha", "β": "beta", "γ": "gamma", "δ": "delta", "ε": "varepsilon", "ζ": "zeta", "η": "eta", "θ": "theta",
    "ι": "iota", "κ": "kappa", "λ": "lambda", "μ": "mu", "ν": "nu", "ξ": "xi", "π": "pi", "ρ": "rho", "σ": "sigma",
    "ς": "varsigma", "τ": "tau", "υ": "upsilon", "φ": "varphi", "χ": "chi", "ψ": "psi", "ω": "omega", "ϑ": "vartheta",
    "ϕ": "phi", "Γ": "Gamma", "Δ": "Delta", "Θ": "Theta", "Λ": "Lambda", "Ξ": "Xi", "Π": "Pi", "Σ": "Sigma",
    "Υ": "Upsilon", "Φ": "Phi", "Ψ": "Psi", "Ω": "Omega",
}  # fmt: skip
_SPELLED = {name: name for name in (*_GREEK.values(), "epsilon", "phi") if len(name) > 2 or name in ("mu", "nu", "xi")}
_SUBSCRIPT = str.maketrans("₀₁₂₃₄₅₆₇₈₉", "0123456789")


def rank(node: Node) -> int:
    """How tightly a node holds together, as text."""
    match node:
        case Operation(sign):
            return _RANK[sign]
        case Negative():
            return _SIGN
        case Number(value) if value < 0:
            return _SIGN
        case _:
            return _WHOLE


def to_text(node: Node, symbol: Callable[[str], str] = lambda name: name) -> str:
    """Plain text in the decimal sign that holds here, which reads back as the same tree; ``symbol`` may put other letters for names."""

    def inner(part: Node, least: int) -> str:
        text = to_text(part, symbol)
        return f"({text})" if rank(part) < least else text

    match node:
        case Number(text=text):
            return in_sign(text)
        case Constant(name):
            return "π" if name == "pi" else name
        case Name(name):
            return symbol(name)
        case Negative(part):
            return "-" + inner(part, _SIGN)
        case Operation("+", left, right):
            return f"{inner(left, 1)} + {inner(right, 2)}"
        case Operation("-", left, right):
            return f"{inner(left, 1)} - {inner(right, 2)}"
        case Operation("^", base, exponent):
            return f"{inner(base, 5)}^{inner(exponent, _SIGN)}"
        case Operation(sign, left, right):
            return f"{inner(left, 2)}{sign}{inner(right, 3)}"
        case Call(function, arguments):
            return (
                f"{TYPED.get(function, function)}({between_values().join(to_text(part, symbol) for part in arguments)})"
            )
        case Comparison(sign, left, right):
            return f"{to_text(left, symbol)} {sign} {to_text(right, symbol)}"
        case Choice(condition, yes, no):
            return f"if({between_values().join(to_text(part, symbol) for part in (condition, yes, no))})"
    raise TypeError(node)


_RAISED = str.maketrans("0123456789", "⁰¹²³⁴⁵⁶⁷⁸⁹")
_COMPARED = {"<=": "≤", ">=": "≥", "!=": "≠"}


def to_print(node: Node, symbol: Callable[[str], str], written: Callable[[Number], str]) -> str:
    """Text for reading: true minus, middle dots, raised whole exponents, e^(…). ``written`` puts numbers into words."""

    def inner(part: Node, least: int) -> str:
        text = to_print(part, symbol, written)
        loose = rank(part) < least or (isinstance(part, Number) and "×" in text and least > 1)
        return f"({text})" if loose else text

    match node:
        case Number():
            return written(node)
        case Constant(name):
            return "π" if name == "pi" else name
        case Name(name):
            return symbol(name)
        case Negative(part):
            return "−" + inner(part, 2)
        case Operation("+", left, right):
            return f"{inner(left, 1)} + {inner(right, 1)}"
        case Operation("-", left, right):
            return f"{inner(left, 1)} − {inner(right, 2)}"
        case Operation("*", left, right):
            return f"{inner(left, 2)}·{inner(right, _WHOLE if rank(right) == _SIGN else 3)}"
        case Operation("/", left, right):
            return f"{inner(left, 2)}/{inner(right, _WHOLE if rank(right) <= _SIGN else 3)}"
        case Operation("^", Call(function, arguments), Number(text=text)) if text.isdigit() and _upright(function):
            shown = between_values().join(to_print(part, symbol, written) for part in arguments)
            return f"{TYPED.get(function, function)}{text.translate(_RAISED)}({shown})"
        case Operation("^", base, Number(text=text)) if text.isdigit():
            return f"{inner(base, _WHOLE)}{text.translate(_RAISED)}"
        case Operation("^", base, exponent):
            return f"{inner(base, _WHOLE)}^{inner(exponent, _WHOLE)}"
        case Call("exp", (argument,)):
            return f"e^({to_print(argument, symbol, written)})"
        case Call(function, (argument,)) if function in _ANGLE_IN_DEGREES:
            return f"{TYPED[function]}({inner(argument, _WHOLE)}°)"
        case Call(function, arguments):
            shown = between_values().join(to_print(part, symbol, written) for part in arguments)
            return f"{TYPED.get(function, function)}({shown})"
        case Comparison(sign, left, right):
            compared = _COMPARED.get(sign, sign)
            return f"{to_print(left, symbol, written)} {compared} {to_print(right, symbol, written)}"
        case Choice(condition, yes, no):
            return f"if({between_values().join(to_print(part, symbol, written) for part in (condition, yes, no))})"
    raise TypeError(node)


def symbol_to_latex(name: str) -> str:
    """``k_1`` and ``x₀`` with a subscript, Greek letters by name, longer words upright."""
    plain = name.translate(_SUBSCRIPT)
    match = re.fullmatch(r"([^\W\d_]+?)_?(\d+|(?<=_)\w+)?", plain)
    head, tail = (match.group(1), match.group(2)) if match else (plain, None)
    if len(head) == 1:
        shown = "\\" + _GREEK[head] if head in _GREEK else head
    elif head in _SPELLED:
        shown = "\\" + head
    else:
        shown = rf"\mathrm{{{head}}}"
    if not tail:
        return shown
    return f"{shown}_{{{tail}}}" if tail.isdigit() or len(tail) == 1 else rf"{shown}_{{\mathrm{{{tail}}}}}"


def number_to_latex(text: str) -> str:
    """``1.5e-3`` as a power of ten."""
    digits, _, power = text.lower().partition("e")
    shown = latex_in_sign(digits)
    if not power:
        return shown
    exponent = int(power)
    return rf"10^{{{exponent}}}" if digits in ("1", "1.") else rf"{shown} \times 10^{{{exponent}}}"


_COMPARE_LATEX = {"<": "<", ">": ">", "<=": r"\le", ">=": r"\ge", "=": "=", "!=": r"\ne"}


def to_latex(
    node: Node,
    symbol: Callable[[str], str] = symbol_to_latex,
    written: Callable[[Number], str] = lambda number: number_to_latex(number.text),
) -> str:
    r"""LaTeX with fractions, roots and raised exponents; ``symbol`` may put other letters for names, ``written`` words numbers.

    >>> from ridge.core.formula import parse
    >>> from ridge.core.formula.writing import to_latex
    >>> to_latex(parse("a*x^2/2").tree)
    '\\frac{a\\,x^{2}}{2}'
    """

    def inner(part: Node, least: int) -> str:
        text = to_latex(part, symbol, written)
        return rf"\left({text}\right)" if rank(part) < least else text

    match node:
        case Number():
            return written(node)
        case Constant(name):
            return r"\pi" if name == "pi" else r"\mathrm{e}"
        case Name(name):
            return symbol(name)
        case Negative(part):
            return "-" + inner(part, 2)
        case Operation("+", left, right):
            return f"{inner(left, 1)} + {inner(right, 1)}"
        case Operation("-", left, right):
            return f"{inner(left, 1)} - {inner(right, 2)}"
        case Operation("*", left, right):
            first, second = inner(left, 2), inner(right, 3)
            between = r" \cdot " if second[:1].isdigit() else r"\,"
            if rank(right) == _SIGN and not second.startswith(r"\left"):
                second = rf"\left({to_latex(right, symbol, written)}\right)"
            return f"{first}{between}{second}"
        case Operation("/", left, right):
            return rf"\frac{{{to_latex(left, symbol, written)}}}{{{to_latex(right, symbol, written)}}}"
        case Operation("^", Call(function, (argument,)), Number(value, text)) if value > 0 and _upright(function):
            return rf"{ALL_FUNCTIONS[function].latex}^{{{text}}}\left({to_latex(argument, symbol, written)}\right)"
        case Operation("^", base, exponent):
            held = inner(base, 5)
            if isinstance(base, Call) or (isinstance(base, Operation) and base.sign == "/"):
                held = rf"\left({to_latex(base, symbol, written)}\right)"
            return f"{held}^{{{to_latex(exponent, symbol, written)}}}"
        case Call("sqrt", (argument,)):
            return rf"\sqrt{{{to_latex(argument, symbol, written)}}}"
        case Call("cbrt", (argument,)):
            return rf"\sqrt[3]{{{to_latex(argument, symbol, written)}}}"
        case Call("abs", (argument,)):
            return rf"\left|{to_latex(argument, symbol, written)}\right|"
        case Call("exp", (argument,)):
            return rf"\mathrm{{e}}^{{{to_latex(argument, symbol, written)}}}"
        case Call("floor" | "ceil" as function, (argument,)):
            side = "floor" if function == "floor" else "ceil"
            return rf"\left\l{side} {to_latex(argument, symbol, written)} \right\r{side}"
        case Call(function, (argument,)) if function in _ANGLE_IN_DEGREES:
            return rf"{ALL_FUNCTIONS[function].latex}\left({inner(argument, _WHOLE)}^\circ\right)"
        case Call(function, arguments):
            parts = between_values().join(to_latex(part, symbol, written) for part in arguments)
            known = ALL_FUNCTIONS.get(function)
            return rf"{known.latex if known else function}\left({parts}\right)"
        case Comparison(sign, left, right):
            return f"{to_latex(left, symbol, written)} {_COMPARE_LATEX[sign]} {to_latex(right, symbol, written)}"
        case Choice(condition, yes, no):
            return (
                rf"\begin{{cases}}{to_latex(yes, symbol, written)} & {to_latex(condition, symbol, written)}\\"
                rf"{to_latex(no, symbol, written)} & \text{{otherwise}}\end{{cases}}"
            )
    raise TypeError(node)


def _upright(function: str) -> bool:
    return TYPED.get(function, function) in ("sin", "cos", "tan", "sinh", "cosh", "tanh")
