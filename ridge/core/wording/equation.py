"""The equation of a fit with as many digits as it needs, checked against the full one."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from ridge.core.wording.naming import Naming, symbol_latex
from ridge.core.wording.numbers import MINUS, NumberText, place, round_to, significant, write
from ridge.core.wording.rounding import uncertainty_decimals

if TYPE_CHECKING:
    from ridge.core.fitting.result import Fit


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

    def _repr_latex_(self) -> str:
        return f"${self.latex}$"


def word_equation(fit: Fit, naming: Naming | None = None) -> Equation:
    """The equation of ``fit`` in the study's symbols.

    Decimals start from what the standard errors justify and grow until the rounded equation stays within a
    tenth of s of the full one over the measured range. An exact fit, or one without an estimate of s, is held
    to a millionth of the spread of its values instead.
    """
    naming = naming or Naming()
    ends = np.array(fit.readings.measured_range)
    s = fit.statistics.residual_standard_deviation
    spread = float(np.ptp(fit.evaluate(ends))) or abs(float(fit.evaluate(ends)[0])) or 1.0
    estimated = bool(s) and not fit.statistics.exact
    allowed = s / 10 if s and estimated else spread * 1e-6
    justified = {name: _justified_decimals(fit, name) for name in fit.model.parameter_names}
    cost = _difference(fit, justified, ends)
    decimals, difference = dict(justified), cost
    for _ in range(30):
        if difference <= allowed:
            break
        # Refine the parameter whose own rounding moves the curve most.
        worst = max(fit.model.free_names, key=lambda name: _difference(fit, {name: decimals[name]}, ends))
        decimals[worst] += 1
        difference = _difference(fit, decimals, ends)
    numbers = {
        name: write(fit.parameters[name].value, decimals[name])
        if estimated and name in fit.model.free_names
        else significant(float(round_to(fit.parameters[name].value, decimals[name])), 15, strip=True)
        for name in fit.model.parameter_names
    }
    text, latex = _line(numbers, naming)
    return Equation(text, latex, decimals, justified, difference, cost, allowed)


def _justified_decimals(fit: Fit, name: str) -> int:
    parameter = fit.parameters[name]
    error = parameter.standard_error
    if parameter.fixed:
        return 15 - place(parameter.value)
    if error and not fit.statistics.exact:
        return uncertainty_decimals(error)
    return 5 - place(parameter.value)


def _difference(fit: Fit, decimals: dict[str, int], at: np.ndarray) -> float:
    """Farthest distance between the full curve and the one with the named parameters rounded.

    For a line the farthest point is an end of the range.
    """
    rounded = dict(fit.values)
    for name, digits in decimals.items():
        rounded[name] = float(round_to(fit.parameters[name].value, digits))
    with np.errstate(over="ignore", invalid="ignore"):
        return float(np.max(np.abs(fit.model.evaluate(at, rounded) - fit.evaluate(at))))


def _line(numbers: dict[str, NumberText], naming: Naming) -> tuple[str, str]:
    slope, intercept = numbers["slope"], numbers["intercept"]
    text = f"{naming.y} = {_bracket(slope.text)}·{naming.x}"
    latex = rf"{symbol_latex(naming.y)} = {slope.latex}\,{symbol_latex(naming.x)}"
    if intercept.plain != "0":  # a fixed zero is not written out; a fitted one keeps its decimals
        sign = "-" if intercept.plain.startswith("-") else "+"
        text += f" {MINUS if sign == '-' else '+'} {intercept.text.removeprefix(MINUS)}"
        latex += f" {sign} {intercept.latex.removeprefix('-')}"
    return text, latex


def _bracket(text: str) -> str:
    return f"({text})" if "×" in text else text
