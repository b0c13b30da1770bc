"""Quantities that follow from the parameters of a fit, with propagated uncertainties."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from ridge.core.formula import Program, differentiate, parse
from ridge.core.models.base import Derived

if TYPE_CHECKING:
    from ridge.core.fitting.result import Fit


@dataclass(frozen=True)
class DerivedQuantity:
    """Value and standard error (None where unknown), in powers ``unit`` of the units of x and y; or an angle in degrees."""

    name: str
    value: float
    standard_error: float | None
    unit: tuple[int, int]
    angle: bool


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
            found.append(_dressed(quantity, value, float(np.sqrt(variance)) if variance >= 0 else None))
    return found


def _dressed(quantity: Derived, value: float, error: float | None) -> DerivedQuantity:
    return DerivedQuantity(quantity.name, value, error, quantity.unit, quantity.angle)


def _compute(expression: str, names: tuple[str, ...], values: list[float]) -> list[float]:
    tree = parse(expression).tree
    program = Program([tree, *(differentiate(tree, name) for name in names)], names)
    return [float(value) for value in program(*(np.float64(value) for value in values))]
