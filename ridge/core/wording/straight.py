"""The coordinates in which a fitted model is a straight line."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from ridge.core.models import Exponential, Logarithmic, Model, Polynomial
from ridge.core.wording.headings import heading, over
from ridge.core.wording.naming import Naming
from ridge.core.wording.numbers import significant
from ridge.core.wording.units import quotient, raised

if TYPE_CHECKING:
    from ridge.core.fitting.result import Fit


@dataclass(frozen=True)
class Straight:
    """What is done to the values of each axis: "none", "ln", "reciprocal" or "power" (``x_power``), after ``x_shift`` or
    ``y_shift`` is taken off. Titles name the new axes; ``line`` is the line there.
    """

    x: str
    y: str
    x_title: str
    y_title: str
    line: str
    x_shift: float = 0.0
    y_shift: float = 0.0
    x_power: float = 1.0


def straighten(fit: Fit, naming: Naming) -> Straight | str:
    """The coordinates for a fit (common practice: ln y against x, y against ln x, ln y against ln x, y against 1/x or xⁿ),
    or why there are none."""
    model, values = fit.model, fit.values
    x, y = _title(naming.x, naming.x_unit), _title(naming.y, naming.y_unit)
    if model.family in ("constant", "line"):
        return "A line is straight already."
    if isinstance(model, Exponential):
        if values["a"] <= 0:
            return f"ln {naming.y} has no value here, since the curve lies below its level."
        level = values.get("c", 0.0)
        name, unit = _less(naming.y, level, naming.y_unit)
        title = _title(f"ln({name}{unit})", "")
        line = f"slope {_number(values['k'])}{_per(naming.x_unit)}, intercept {_number(float(np.log(values['a'])))}"
        return Straight("none", "ln", x, title, line, y_shift=level)
    if isinstance(model, Logarithmic):
        shift = values.get("x0", 0.0)
        name, unit = _less(naming.x, shift, naming.x_unit)
        line = f"slope {_number(values['a'])}{_in(naming.y_unit)}"
        return Straight("ln", "none", f"ln({name}{unit})", y, line, x_shift=shift)
    if model.family == "power":
        if values["a"] <= 0:
            return f"ln {naming.y} has no value where {naming.y} is negative."
        line = f"slope {_number(values['n'])}"
        return Straight("ln", "ln", _ln(naming.x, naming.x_unit), _ln(naming.y, naming.y_unit), line)
    if model.family == "reciprocal":
        title = _title(f"1/{naming.x}", quotient("", naming.x_unit) if naming.x_unit else "")
        return Straight("reciprocal", "none", title, y, f"slope {_number(values['a'])}")
    return _of_polynomial(model, fit, naming, x, y)


def _of_polynomial(model: Model, fit: Fit, naming: Naming, x: str, y: str) -> Straight | str:
    """A polynomial of one power and a constant is straight against that power."""
    if isinstance(model, Polynomial):
        free = [int(name.removeprefix("c")) for name in model.parameter_names if fit.values[name] != 0]
        powers = [power for power in free if power > 0]
        if len(powers) == 1:
            power = powers[0]
            title = _title(raised(naming.x, power), raised(naming.x_unit, power) if naming.x_unit else "")
            line = f"slope {_number(fit.values[f'c{power}'])}"
            return Straight("power", "none", title, y, line, x_power=float(power))
        return "A polynomial is only straight against a power when it has that power and a constant alone."
    return "There are no usual coordinates in which this model is a straight line."


def _title(symbol: str, unit: str) -> str:
    return heading("", symbol, unit)


def _ln(symbol: str, unit: str) -> str:
    return f"ln({_title(symbol, unit)})" if unit else f"ln {symbol}"


def _less(symbol: str, level: float, unit: str) -> tuple[str, str]:
    if not level:
        return symbol, f" / {over(unit)}" if unit else ""
    sign = "−" if level > 0 else "+"
    inner = f"{symbol} {sign} {significant(abs(level), 4).text}"
    return (f"({inner} {unit})", f" / {over(unit)}") if unit else (inner, "")


def _number(value: float) -> str:
    return significant(value, 4).text


def _per(unit: str) -> str:
    return f" {quotient('', unit)}" if unit else ""


def _in(unit: str) -> str:
    return f" {unit}" if unit else ""
