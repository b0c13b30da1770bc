"""The equation of a fit with as many digits as it needs, checked against the full one."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from latex2mathml.converter import convert

from ridge.core.decimal_sign import in_sign
from ridge.core.formula.tree import Node, Number, Operation, negative, substitute
from ridge.core.formula.writing import number_to_latex, symbol_to_latex, to_latex, to_print
from ridge.core.judging.misses import typical_miss
from ridge.core.models.base import Model
from ridge.core.numerals import NumberText, place, round_to, significant, write
from ridge.core.readings import Array
from ridge.core.results.fit import Fit
from ridge.core.wording.naming import Naming, symbol_latex
from ridge.core.wording.rounding import round_with_uncertainty, uncertainty_decimals


@dataclass(frozen=True)
class Equation:
    """An equation in rounded numbers and what the rounding costs.

    ``decimals`` of each parameter in text; ``justified`` are the decimals that the uncertainties alone would
    give. ``largest_difference`` and ``justified_difference``: the farthest that each rounded equation strays from the
    full one inside the measured range, in the unit of y; ``allowed`` is a tenth of s.
    """

    text: str
    latex: str
    decimals: dict[str, int]
    justified: dict[str, int]
    largest_difference: float
    justified_difference: float
    allowed: float

    @property
    def mathml(self) -> str:
        """The equation as MathML."""
        return str(convert(self.latex))

    def _repr_latex_(self) -> str:
        return f"${self.latex}$"


def word_equation(
    fit: Fit,
    naming: Naming | None = None,
    decimals: Mapping[str, int] | None = None,
    *,
    given_digits: int | None = None,
) -> Equation:
    """The equation of ``fit`` in the study's symbols.

    Decimals start from what the standard errors justify and grow until the rounded equation stays within a
    tenth of s of the full one over the measured range. An exact fit, or one without an estimate of s, is held
    to a millionth of the spread of its values instead. ``decimals`` given by parameter are obeyed; what they cost
    is told in ``largest_difference``. Numbers that were given stand in full, or, from ``given_digits`` significant
    digits on, with as many as the equation needs.

    >>> from ridge.core import Readings, fit
    >>> from ridge.core.models import Line
    >>> line = fit(Readings([1, 2, 3, 4, 5], [2.1, 3.9, 6.2, 7.8, 10.1]), Line())
    >>> line.equation.text
    'y = 1.99·x + 0.05'
    """
    naming = naming or Naming()
    at = _places(fit)
    full = fit.model.evaluate(at, fit.values)
    s = typical_miss(fit)
    spread = float(np.ptp(full[np.isfinite(full)])) if np.isfinite(full).any() else 0.0
    spread = spread or float(np.max(np.abs(full), initial=0.0)) or 1.0
    estimated = bool(s) and not fit.statistics.exact
    allowed = s / 10 if s and estimated else spread * 1e-6
    rounded = fit.model.free_names
    justified = {name: _justified_decimals(fit, name) for name in fit.model.parameter_names}
    if given_digits is not None and fit.least_squares_in == "given":
        rounded = fit.model.parameter_names
        justified = {name: given_digits - 1 - place(fit.parameters[name].value) for name in rounded}
    cost = _difference(fit, justified, at, full)
    if decimals is not None:
        chosen = justified | dict(decimals)
        difference = _difference(fit, chosen, at, full)
    else:
        chosen, difference = _refine(fit, rounded, dict(justified), at, full, allowed)
    numbers = {
        name: write(fit.parameters[name].value, chosen[name])
        if (estimated and name in fit.model.free_names) or (decimals is not None and name in decimals)
        else significant(float(round_to(fit.parameters[name].value, chosen[name])), 15, strip=True)
        for name in fit.model.parameter_names
    }
    text, latex = write_equation(fit.model, numbers, naming)
    return Equation(text, latex, chosen, justified, difference, cost, allowed)


def _places(fit: Fit) -> Array:
    """Where the rounded equation is compared with the full one: a line strays most at the ends."""
    low, high = fit.readings.measured_range
    if not fit.model.bends:
        return np.array([low, high])
    return np.linspace(low, high, 61)


def _refine(
    fit: Fit, names: Sequence[str], decimals: dict[str, int], at: Array, full: Array, allowed: float
) -> tuple[dict[str, int], float]:
    """Add decimals where rounding moves the curve most until it stays within ``allowed``."""
    difference = _difference(fit, decimals, at, full)
    own = {name: _difference(fit, {name: decimals[name]}, at, full) for name in names}
    for _ in range(15 * max(1, len(own))):
        if difference <= allowed or not own:
            break
        worst = max(own, key=own.__getitem__)
        if not own[worst] > 0:
            break
        decimals[worst] += 1
        own[worst] = _difference(fit, {worst: decimals[worst]}, at, full)
        difference = _difference(fit, decimals, at, full)
    return decimals, difference


def _justified_decimals(fit: Fit, name: str) -> int:
    parameter = fit.parameters[name]
    error = parameter.standard_error
    if parameter.fixed:
        return 15 - place(parameter.value)
    if error and not fit.statistics.exact and np.isfinite(error):
        return uncertainty_decimals(error)
    return 5 - place(parameter.value)


def _difference(fit: Fit, decimals: Mapping[str, int], at: Array, full: Array) -> float:
    """Farthest distance between the full curve and the one with the named parameters rounded."""
    rounded = dict(fit.values)
    for name, digits in decimals.items():
        rounded[name] = float(round_to(fit.parameters[name].value, digits))
    with np.errstate(over="ignore", invalid="ignore"):
        off = np.abs(fit.model.evaluate(at, rounded) - full)
        off = off[np.isfinite(full)]
        return float(np.max(np.where(np.isfinite(off), off, np.inf), initial=0.0))


def write_equation(model: Model, numbers: Mapping[str, NumberText], naming: Naming) -> tuple[str, str]:
    """The model's equation with numbers in place of its parameters, as text and as LaTeX."""
    texts = {number.plain: number for number in numbers.values()}
    inserted: dict[str, Node] = {}
    for name, number in numbers.items():
        texts[number.plain.removeprefix("-")] = _without_sign(number)
        # Only a plain 0 or 1 may vanish from the equation; a fitted 0.00 or 1.00 keeps its place and its decimals.
        digits = number.plain.removeprefix("-")
        size = Number(float(digits) if digits in ("0", "1") else 2.0, digits)
        inserted[name] = negative(size) if number.plain.startswith("-") else size
    tree = substitute(in_order(model, naming), inserted)

    def text_of(number: Number) -> str:
        return texts[number.text].text if number.text in texts else in_sign(number.text)

    def latex_of(number: Number) -> str:
        return texts[number.text].latex if number.text in texts else number_to_latex(number.text)

    def symbol(name: str) -> str:
        return naming.x if name == model.variable else name

    def latex_symbol(name: str) -> str:
        return symbol_latex(naming.x) if name == model.variable else symbol_to_latex(name)

    return (
        f"{naming.y} = {to_print(tree, symbol, text_of)}",
        f"{symbol_latex(naming.y)} = {to_latex(tree, latex_symbol, latex_of)}",
    )


def with_errors(fit: Fit, naming: Naming) -> tuple[str, str]:
    """The equation with every fitted parameter and its standard error in brackets, as text and as LaTeX."""
    numbers = {}
    for place_, (name, parameter) in enumerate(fit.parameters.items()):
        if parameter.fixed or not parameter.standard_error:
            numbers[name] = significant(parameter.value, 15, strip=True)
            continue
        rounded = round_with_uncertainty(abs(parameter.value), parameter.standard_error)
        sign = "-" if parameter.value < 0 else ""
        # The plain form is only a name for it, which no other number has.
        numbers[name] = NumberText(
            f"{sign}({rounded.text})", rf"{sign}\left({rounded.latex}\right)", f"{sign}9.87654321{place_}"
        )
    return write_equation(fit.model, numbers, naming)


def write_symbols(model: Model, naming: Naming) -> tuple[str, str]:
    """The model's equation with letters for its parameters (``naming.letter``), as text and as LaTeX."""

    def symbol(name: str) -> str:
        return naming.x if name == model.variable else _lowered(naming.letter(name))

    def latex_symbol(name: str) -> str:
        return symbol_latex(naming.x) if name == model.variable else symbol_to_latex(naming.letter(name))

    tree = in_order(model, naming)
    return (
        f"{naming.y} = {to_print(tree, symbol, lambda number: in_sign(number.text))}",
        f"{symbol_latex(naming.y)} = {to_latex(tree, latex_symbol)}",
    )


def in_order(model: Model, naming: Naming) -> Node:
    """The equation's right side with its terms in the order of the course; an own formula stays as it was typed."""
    tree = model.written_expression
    if not naming.rising or model.typed:
        return tree
    terms = []
    while isinstance(tree, Operation) and tree.sign == "+":
        terms.append(tree.right)
        tree = tree.left
    for term in reversed(terms):  # what stood last comes first
        tree = Operation("+", term, tree)
    return tree


def _lowered(letter: str) -> str:
    """``c₂`` for ``c_2``."""
    return re.sub(r"_(\d+)$", lambda match: match[1].translate(str.maketrans("0123456789", "₀₁₂₃₄₅₆₇₈₉")), letter)


def _without_sign(number: NumberText) -> NumberText:
    return NumberText(
        number.text.removeprefix("\u2212"), number.latex.removeprefix("-"), number.plain.removeprefix("-")
    )
