"""The coordinates in which a fitted model is a straight line."""

from __future__ import annotations

from dataclasses import dataclass

from ridge.core.models.declared import Axis, StraightForm
from ridge.core.numerals import significant
from ridge.core.results.fit import Fit
from ridge.core.wording.families import in_letters
from ridge.core.wording.headings import heading, over
from ridge.core.wording.naming import Naming, with_unit
from ridge.core.wording.units import held_together, quotient, raised


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
    """The coordinates for a fit, or why there are none; as its family declares them."""
    form = fit.model.straight(fit.values)
    if isinstance(form, str):
        return in_letters(form, naming)
    line = f"slope {with_unit(_number(form.slope), _unit_of_slope(form, naming))}"
    if form.intercept is not None:
        line = f"{line}, intercept {_number(form.intercept)}"
    return Straight(
        form.x.how, form.y.how, _axis_title(form.x, naming.x, naming.x_unit), _axis_title(form.y, naming.y, naming.y_unit), line,
        form.x.shift, form.y.shift, form.x.power,
    )  # fmt: skip


def _axis_title(axis: Axis, symbol: str, unit: str) -> str:
    match axis.how:
        case "ln":
            return _of_logarithm(symbol, axis.shift, unit)
        case "reciprocal":
            return _title(f"1/{symbol}", quotient("", unit) if unit else "")
        case "power" if axis.power == 0.5:
            return _title(f"√{symbol}", f"√{held_together(unit)}" if unit else "")
        case "power":
            power = int(axis.power)
            return _title(raised(symbol, power), raised(unit, power) if unit else "")
    return _title(symbol, unit)


def _of_logarithm(symbol: str, shift: float, unit: str) -> str:
    if not shift:
        return f"ln({_title(symbol, unit)})" if unit else f"ln {symbol}"
    inner = f"{symbol} {'−' if shift > 0 else '+'} {significant(abs(shift), 4).text}"
    return f"ln(({inner} {unit}) / {over(unit)})" if unit else f"ln({inner})"


def _unit_of_slope(form: StraightForm, naming: Naming) -> str:
    """Of what is drawn on y over what is drawn on x; a logarithm has none."""
    in_x = {"none": -1.0, "ln": 0.0, "reciprocal": 1.0, "power": -form.x.power}[form.x.how]
    return naming.unit(in_x, 0 if form.y.how == "ln" else 1)


def _title(symbol: str, unit: str) -> str:
    return heading("", symbol, unit)


def _number(value: float) -> str:
    return significant(value, 4).text
