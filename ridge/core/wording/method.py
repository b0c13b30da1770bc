"""What was done to get the fit, in a sentence: nothing that was assumed stays hidden."""

from __future__ import annotations

import numpy as np

from ridge.core.judging.misses import typical_miss
from ridge.core.numerals import group, number_as_given, significant
from ridge.core.results.fit import Fit
from ridge.core.wording.equation import Equation, word_equation
from ridge.core.wording.naming import Naming, parameter_called, with_unit


def method_sentence(fit: Fit, naming: Naming, aside: int, *, by_hand: bool = False) -> str:
    """Least squares in what, on how many readings, with which weights and fixed parameters; for given numbers, that
    nothing was fitted. ``by_hand``: whether they were set rather than known."""
    n = fit.statistics.n
    if fit.least_squares_in == "given":
        said = "Its numbers were set by hand" if by_hand else "A known curve: all its numbers are given"
        return f"{said}; nothing was fitted. It is judged on {group(str(n))} reading{'' if n == 1 else 's'}."
    rows = int(fit.readings.used.sum())
    text = f"{_least_squares(fit, naming)} on {group(str(n))} reading{'' if n == 1 else 's'}"
    if rows != n:
        text += f" in {group(str(rows))} rows, each counted as often as it occurred"
    if aside:
        text += f", {group(str(aside))} set aside"
    if fit.readings.y_error is None and fit.readings.weight is None:
        text += ", all of equal weight"
    elif fit.readings.y_error is not None:
        text += f", weighted by the uncertainties of {naming.y} ({_given(fit, naming)})"
        text += ", which are taken as absolute" if fit.readings.absolute_errors else ", of which only the ratios count"
    else:
        text += ", weighted by the weight column"
    units = naming.parameter_units(fit.model)
    for name, value in fit.model.fixed.items():
        text += f"; {parameter_called(name, naming)} fixed at {with_unit(number_as_given(value), units[name])}"
    return text + "."


def _given(fit: Fit, naming: Naming) -> str:
    """How the uncertainties were given: a share, one for all, or from the least to the greatest."""
    readings = fit.readings
    assert readings.y_error is not None
    if readings.error_share is not None:
        share = significant(readings.error_share * 100, 3, strip=True).text
        return f"{share}\u00a0% of the fitted {naming.y}, repeated until both agree"
    errors = readings.y_error[readings.used]
    low, high = (significant(float(end), 3, strip=True).text for end in (errors.min(), errors.max()))
    return f"{naming.y_with_unit(low)} each" if low == high else f"{low} to {naming.y_with_unit(high)}"


def _least_squares(fit: Fit, naming: Naming) -> str:
    if fit.least_squares_in == "orthogonal":
        return f"Least squares of the distances in {naming.x} and {naming.y}, each in units of its uncertainty,"
    if fit.least_squares_in == "logarithms":
        return "Least squares in logarithms"
    return f"Least squares in {naming.y}"


def rounding_sentence(fit: Fit, naming: Naming, equation: Equation | None = None) -> str:
    """How far the rounded equation strays from the full one, and what fewer decimals would have cost."""

    equation = equation or word_equation(fit, naming)
    off = naming.y_with_unit(significant(equation.largest_difference, 1).text)
    s = typical_miss(fit)
    if not s or fit.statistics.exact:
        return f"The rounded equation stays within {off} of the full one over the measured range."
    text = f"The rounded equation stays within {off} of the full one over the measured range, {significant(equation.largest_difference / s, 1).text} times the typical miss."
    if equation.justified_difference > equation.allowed:
        cost = naming.y_with_unit(significant(equation.justified_difference, 1).text)
        text += f" It shows more decimals than the uncertainties alone justify: with those it would differ by {cost}."
    return text


def rounding_cost(fit: Fit, naming: Naming, shown: Equation, safe: Equation) -> str:
    """What the decimals of ``shown`` cost, and which would be enough; empty where they are."""
    if not shown.largest_difference > shown.allowed:
        return ""
    s = typical_miss(fit)
    estimated = bool(s) and not fit.statistics.exact
    if np.isfinite(shown.largest_difference):
        off = naming.y_with_unit(significant(shown.largest_difference, 2).text)
        text = f"With these decimals the equation differs by up to {off} from the full one over the measured range"
        text += (
            f", {significant(shown.largest_difference / s, 2).text} times the typical miss." if s and estimated else "."
        )
    else:
        text = "With these decimals the equation has no value on part of the measured range."
    short = [name for name in fit.model.free_names if shown.decimals[name] < safe.decimals[name]]
    enough = [f"{safe.decimals[name]} for {naming.letter(name)}" for name in short]
    limit = "a tenth of the typical miss" if estimated else "a millionth of its spread"
    if enough:
        first, *others = enough
        wanted = " and ".join(
            [first.replace(" for", " decimals for" if not first.startswith("1 ") else " decimal for"), *others]
        )
        text += f" To stay within {limit} it takes {wanted}."
    return text
