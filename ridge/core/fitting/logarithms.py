"""Least squares in logarithms: the straight line that textbooks and calculators fit for some models.

It minimises relative rather than absolute misses, so its parameters differ from those of least squares in y
unless the scatter grows with y.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

import numpy as np
import numpy.typing as npt

from ridge.core.errors import OutsideSense, UndefinedAt
from ridge.core.fitting.least_squares import fit_in_y
from ridge.core.models import Line, Model
from ridge.core.readings import Array, Readings
from ridge.core.results.curve import Curve
from ridge.core.results.fit import Fit


class LogarithmicCurve:
    """e to the power of a straight line in x or ln x. The variance is that of the value, by the delta method."""

    def __init__(
        self, line: Curve, in_logarithm_of_x: bool, model: Model, values: Mapping[str, float], covariance: Array
    ) -> None:
        self.line, self.in_logarithm_of_x = line, in_logarithm_of_x
        self.model, self.values = model, values
        eigenvalues, vectors = np.linalg.eigh(covariance)
        self.root: Array = vectors * np.sqrt(np.maximum(eigenvalues, 0))

    def inner(self, x: npt.ArrayLike) -> Array:
        """x as the line takes it."""
        x = np.asarray(x, dtype=np.float64)
        with np.errstate(all="ignore"):
            return np.log(x) if self.in_logarithm_of_x else x

    def value(self, x: npt.ArrayLike) -> Array:
        with np.errstate(all="ignore"):
            return np.exp(self.line.value(self.inner(x)))

    def slope(self, x: npt.ArrayLike) -> Array:
        return self.model.slope(x, self.values)

    def bend(self, x: npt.ArrayLike) -> Array:
        return self.model.bend(x, self.values)

    def rows(self, x: npt.ArrayLike, order: int = 0) -> Array:
        x = np.asarray(x, dtype=np.float64)
        gradients = (self.model.gradient(x, self.values), *self.model.slope_gradients(x, self.values))
        with np.errstate(all="ignore"):
            return np.asarray(gradients[order] @ self.root)

    def unit_variance(self, x: npt.ArrayLike) -> Array:
        return np.asarray(np.sum(self.rows(x) ** 2, axis=-1))


def fit_in_logarithms(readings: Readings, model: Model) -> Fit:
    """ln y = ln a + k·x for an exponential, ln y = ln a + n·ln x for a power law; a logarithmic model is a line in ln x.

    ``statistics``, ``leverage``, intervals and tests are those of the straight line, in units of ln y;
    ``fitted`` and ``residuals`` are in the unit of y. An uncertainty u of y counts as u/y. ``log_line`` of the result
    holds the line itself.

    Raises OutsideSense for a model that is no straight line in logarithms, UndefinedAt where y (or x) is not positive.
    """
    form = model.logarithms
    if form is None:
        raise OutsideSense(
            "least_squares_in",
            "logarithms make a straight line of an exponential without level, a power law and a logarithmic model only.",
        )
    if not form.of_y:
        return replace(fit_in_y(readings, model), least_squares_in="logarithms")
    factor, second, both = form.factor, form.slope, form.of_x
    used = readings.used
    with np.errstate(invalid="ignore"):
        wrong = used & ((readings.y <= 0) | (both & (readings.x <= 0)))
    if wrong.any():
        raise UndefinedAt(
            tuple(np.flatnonzero(wrong).tolist()),
            f"Logarithms need positive y{' and x' if both else ''}",
            "Set these readings aside, or use least squares in y.",
        )
    with np.errstate(all="ignore"):
        x = np.log(readings.x) if both else readings.x
        line_readings = Readings(
            np.where(used, x, np.nan),
            np.where(used, np.log(readings.y), np.nan),
            y_error=None if readings.y_error is None else np.abs(readings.y_error / readings.y),
            weight=readings.weight,
            count=readings.count,
            included=readings.included,
            absolute_errors=readings.absolute_errors,
        )
    fixed = {}
    if factor in model.fixed:
        if model.fixed[factor] <= 0:
            raise OutsideSense(factor, "must be kept at a positive value in logarithms.")
        fixed["intercept"] = float(np.log(model.fixed[factor]))
    if second in model.fixed:
        fixed["slope"] = model.fixed[second]
    line = fit_in_y(line_readings, Line().with_fixed(fixed))
    intercept, slope = line.parameters["intercept"], line.parameters["slope"]
    a = float(np.exp(intercept.value))
    parameters = {
        factor: replace(
            intercept,
            name=factor,
            value=a,
            standard_error=None if intercept.standard_error is None else a * intercept.standard_error,
            logarithm=intercept,
        ),
        second: replace(slope, name=second),
    }
    turn = np.array([[0.0, a], [1.0, 0.0]])  # from (slope, intercept) to (a, k)
    values = {name: parameters[name].value for name in model.parameter_names}
    unit_covariance = turn @ line.unit_covariance @ turn.T
    curve = LogarithmicCurve(line.curve, both, model, values, unit_covariance)
    fitted = curve.value(readings.x)
    return Fit(
        readings=readings,
        model=model.with_fixed({name: values[name] for name in model.fixed}),
        parameters={name: parameters[name] for name in model.parameter_names},
        covariance=turn @ line.covariance @ turn.T,
        statistics=line.statistics,
        fitted=fitted,
        residuals=readings.y - fitted,
        leverage=line.leverage,
        unit_covariance=unit_covariance,
        curve=curve,
        least_squares_in="logarithms",
        log_line=line,
    )
