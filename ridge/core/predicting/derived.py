"""Quantities that follow from the parameters of a fit, with propagated uncertainties."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
from scipy.special import ndtri

from ridge.core.formula import Program, differentiate, parse
from ridge.core.models.base import Derived
from ridge.core.predicting.features import limits_of_zeros
from ridge.core.predicting.parameter_limits import Interval
from ridge.core.readings import Array
from ridge.core.results.fit import Fit, once
from ridge.core.results.statistics import critical_value


@dataclass(frozen=True)
class DerivedQuantity:
    """Value and standard error (None where unknown), in powers ``unit`` of the units of x and y; or an angle in degrees.

    ``meaning``: a template, see ``ridge.core.models.declared``. ``of``: the parameter that it follows from where that is a single free one, else empty.
    """

    name: str
    value: float
    standard_error: float | None
    unit: tuple[int, int]
    angle: bool
    meaning: str
    of: str = ""
    degrees_of_freedom: float = 0.0
    zero_of: int | None = None
    """The derivative of the curve that is zero at this x, if it is such a place; see ``Derived``."""


@once
def derived_of(fit: Fit) -> tuple[DerivedQuantity, ...]:
    """Every derived quantity of the model that has a meaning for these parameters.

    Standard errors by the delta method: √(g·C·gᵀ) with the exact gradient g and the covariance C of the parameters.

    >>> from ridge.core import Readings, fit
    >>> from ridge.core.models import Exponential
    >>> decay = fit(Readings([0, 1, 2, 3, 4], [8.0, 4.9, 3.1, 1.8, 1.2]), Exponential())
    >>> [(one.name, round(one.value, 2)) for one in decay.derived][:2]
    [('half-life', 1.43), ('time constant', 2.07)]
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
            found.append(
                DerivedQuantity(
                    quantity.name, value, error, quantity.unit, quantity.angle, quantity.meaning, of, fit.effective_degrees(direction),
                    quantity.zero_of,
                )
            )  # fmt: skip
    return tuple(found)


def limits_of(fit: Fit, quantity: DerivedQuantity, limits: Mapping[str, Interval], level: float) -> tuple[float, float]:
    """Limits of a quantity at ``level``: for a place on the curve by inverting its band (Fieller's for a line), as for a
    prediction; from those of the parameter that it follows from where its ± would mislead (see ``intervals``); otherwise by
    the standard error; infinite where there is none."""
    if quantity.zero_of is not None and quantity.standard_error and not fit.statistics.exact:
        return _limits_of_place(fit, quantity, level)
    of = limits.get(quantity.of)
    if of is not None and of.method == "profile":
        return carried_over(fit, quantity, of.low, of.high)
    width = critical_value(level, quantity.degrees_of_freedom, fit.readings.absolute_errors)
    error = quantity.standard_error
    if width is None or not error or not np.isfinite(error) or fit.statistics.exact:
        return -np.inf, np.inf
    return quantity.value - width * error, quantity.value + width * error


def _limits_of_place(fit: Fit, quantity: DerivedQuantity, level: float) -> tuple[float, float]:
    assert quantity.zero_of is not None and quantity.standard_error is not None
    alone = fit.covariance - (0.0 if fit.shared_covariance is None else fit.shared_covariance)
    lows, highs = limits_of_zeros(fit, [quantity.value], quantity.zero_of, [quantity.standard_error], level)
    low, high = float(lows[0]), float(highs[0])
    if fit.shared_covariance is None:
        return low, high
    direction = _gradient(fit, quantity)
    scatter = float(direction @ alone @ direction)
    common = np.sqrt(max(quantity.standard_error**2 - scatter, 0.0))
    far = float(ndtri((1 + level) / 2)) * common
    return float(quantity.value - np.hypot(quantity.value - low, far)), float(
        quantity.value + np.hypot(high - quantity.value, far)
    )


def _gradient(fit: Fit, quantity: DerivedQuantity) -> Array:
    names = fit.model.parameter_names
    form = next(one for one in fit.model.derived if one.name == quantity.name)
    return np.array(_compute(form.expression, names, [fit.values[name] for name in names])[1:])


def carried_over(fit: Fit, quantity: DerivedQuantity, low: float, high: float) -> tuple[float, float]:
    """Limits of a quantity from those of the parameter that it follows from (``quantity.of``), in rising order.

    Exact while the quantity rises or falls with it throughout. Where it has no meaning on the way to a limit or runs off to
    infinity there, such as 1/ω where ω comes to zero, it is unbounded on that side.
    """
    of_model = (*fit.model.derived, *fit.model.derived_beyond(fit.values, fit.readings.measured_range[1]))
    form = next(one for one in of_model if one.name == quantity.name)
    best = fit.values[quantity.of]
    low_end, high_end = quantity.value, quantity.value
    for limit in (low, high):
        if np.isfinite(limit):
            way = np.linspace(best, limit, 33)
        else:
            way = np.append(best + np.sign(limit) * (abs(best) or 1.0) * np.geomspace(1e-3, 1e9, 33), limit)
        reached = _along(fit, form, quantity, way)
        low_end, high_end = min(low_end, reached), max(high_end, reached)
    return low_end, high_end


def _along(fit: Fit, form: Derived, quantity: DerivedQuantity, way: Array) -> float:
    """Where a quantity comes to along a way of its parameter; infinite where it does not go one way all along."""
    names = fit.model.parameter_names
    found = []
    with np.errstate(all="ignore"):
        for value in way.tolist():
            at = [float({**fit.values, quantity.of: value}[name]) for name in names]
            there = not form.when or _compute(form.when, names, at)[0] > 0
            found.append(_compute(form.expression, names, at)[0] if there else np.nan)
    if not np.isfinite(way[-1]) and np.isnan(found[-1]):
        found[-1] = found[-2]  # it has no limit there
    with np.errstate(invalid="ignore"):
        steps = np.diff(found)
    known = steps[np.isfinite(steps) & (steps != 0)]
    if not len(known):
        return quantity.value if np.isfinite(found).all() else float(np.inf)
    direction = np.sign(known[0])
    if not np.isfinite(found).all() or np.any(known * direction < 0):
        return float(direction * np.inf)
    return float(found[-1])


def _compute(expression: str, names: tuple[str, ...], values: list[float]) -> list[float]:
    tree = parse(expression).tree
    program = Program([tree, *(differentiate(tree, name) for name in names)], names)
    return [float(value) for value in program(*(np.float64(value) for value in values))]
