"""Quantities that follow from the parameters of a fit, with propagated uncertainties."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from ridge.core.formula import Program, differentiate, parse

if TYPE_CHECKING:
    from ridge.core.fitting.result import Fit


@dataclass(frozen=True)
class DerivedQuantity:
    """Value and standard error (None where unknown), in powers ``unit`` of the units of x and y; or an angle in degrees.

    ``of``: the parameter that it follows from where that is a single free one, else empty.
    """

    name: str
    value: float
    standard_error: float | None
    unit: tuple[int, int]
    angle: bool
    of: str = ""


def derive(fit: Fit) -> list[DerivedQuantity]:
    """Every derived quantity of the model that has a meaning for these parameters.

    Standard errors by the delta method: √(g·C·gᵀ) with the exact gradient g and the covariance C of the parameters.
    """
    names = fit.model.parameter_names
    values = [fit.values[name] for name in names]
    found = []
    with np.errstate(all="ignore"):
        for quantity in (*fit.model.derived, *fit.model.derived_beyond(fit.values, fit.readings.measured_range[1])):
            if quantity.when and not _compute(quantity.when, names, values)[0] > 0:
                continue
            value, *gradient = _compute(quantity.expression, names, values)
            if not np.isfinite(value):
                continue
            direction = np.array(gradient)
            variance = float(direction @ fit.covariance @ direction)
            error = float(np.sqrt(variance)) if variance >= 0 else None
            moving = [
                name for name, slope in zip(names, gradient, strict=True) if slope and name in fit.model.free_names
            ]
            of = moving[0] if len(moving) == 1 else ""
            found.append(DerivedQuantity(quantity.name, value, error, quantity.unit, quantity.angle, of))
    return found


def carried_over(fit: Fit, quantity: DerivedQuantity, low: float, high: float) -> tuple[float, float]:
    """Limits of a quantity from those of the parameter that it follows from (``quantity.of``), in rising order.

    Exact, since the quantity rises or falls with it throughout. A limit at which it has no meaning, such as a half-life
    where the rate is zero or beyond, leaves that side open.
    """
    of_model = (*fit.model.derived, *fit.model.derived_beyond(fit.values, fit.readings.measured_range[1]))
    form = next(one for one in of_model if one.name == quantity.name)
    names = fit.model.parameter_names
    ends = []
    with np.errstate(all="ignore"):
        for limit in (low, high):
            values = [float({**fit.values, quantity.of: limit}[name]) for name in names]
            there = not form.when or _compute(form.when, names, values)[0] > 0
            value = _compute(form.expression, names, values)[0] if there else np.inf
            ends.append(value if np.isfinite(value) else np.inf)
    return min(ends), max(ends)


def _compute(expression: str, names: tuple[str, ...], values: list[float]) -> list[float]:
    tree = parse(expression).tree
    program = Program([tree, *(differentiate(tree, name) for name in names)], names)
    return [float(value) for value in program(*(np.float64(value) for value in values))]
