"""y at an x: the curve's value, the interval of the curve and the interval of a new reading."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
import numpy.typing as npt

from ridge.core.errors import OutsideSense
from ridge.core.fitting.effort import QUESTION, Effort
from ridge.core.fitting.logarithms import LogarithmicCurve
from ridge.core.predicting.beyond import distance_beyond, in_ranges
from ridge.core.predicting.curve_limits import curve_limits
from ridge.core.predicting.parameter_limits import can_mislead
from ridge.core.readings import Array, Mask
from ridge.core.results.fit import Fit


@dataclass(frozen=True)
class Prediction:
    """Values at ``x``, every field in the shape of x.

    mean_low, mean_high: confidence interval of the curve. low, high: prediction interval of one new reading, of the uncertainty
    that the column's rule gives it there (``Readings.error_share``), otherwise of weight one. Infinite where the scatter is unknown. ``beyond``: distance outside the measured range in
    the unit of x (0 inside), ``beyond_ranges`` the same as a multiple of that range's width.
    """

    x: Array
    value: Array
    standard_error: Array
    mean_low: Array
    mean_high: Array
    low: Array
    high: Array
    beyond: Array
    beyond_ranges: Array
    level: float
    profiled: Mask
    """Where the limits follow the profile of the sum of squares, since ± standard errors would mislead."""
    unchecked: Mask
    """Where they are by standard errors although these may mislead: nothing was refitted yet, or it would cost too much."""

    def to_dict(self) -> dict[str, list[float]]:
        """Columns by name, as ``pandas.DataFrame`` takes them: x, value, the limits of the curve and of a new reading."""
        names = ("x", "value", "standard_error", "mean_low", "mean_high", "low", "high", "beyond")
        return {name: np.atleast_1d(getattr(self, name)).ravel().tolist() for name in names}

    def _repr_html_(self) -> str:
        """The same as a table, for notebooks."""
        columns = self.to_dict()
        head = "".join(f"<th>{name}</th>" for name in columns)
        rows = "".join(
            f"<tr>{''.join(f'<td>{value:.6g}</td>' for value in row)}</tr>"
            for row in zip(*columns.values(), strict=True)
        )
        return f"<table><thead><tr>{head}</tr></thead><tbody>{rows}</tbody></table>"


def predict(
    fit: Fit, x: npt.ArrayLike, level: float = 0.95, checked: bool = False, refits: float = QUESTION
) -> Prediction:
    """y at x (any shape) with its intervals at ``level``.

    Variance of the curve g·C·gᵀ with the exact gradient g; of a new reading, that plus the variance of a
    reading of weight one (Draper and Smith, "Applied Regression Analysis", 3rd ed., section 3.1). ``checked``: these are
    held against refits (some milliseconds for each x), and replaced where they mislead: see
    ``ridge.core.predicting.curve_limits``; the interval of a new reading then adds the squares side by side (Zou and Donner,
    Statistics in Medicine 27, 2008).
    Raises OutsideSense for a level outside (0, 1) or an x that is not finite.

    >>> from ridge.core import Readings, fit
    >>> from ridge.core.models import Line
    >>> line = fit(Readings([1, 2, 3, 4, 5], [2.1, 3.9, 6.2, 7.8, 10.1]), Line())
    >>> found = line.predict(6)
    >>> round(float(found.value), 2), round(float(found.low), 2), round(float(found.high), 2)
    (11.99, 11.12, 12.86)
    """
    x = np.asarray(x, dtype=float)
    if not np.all(np.isfinite(x)):
        raise OutsideSense("x", "must be finite numbers.")
    if isinstance(fit.curve, LogarithmicCurve) and fit.log_line is not None:
        return _of_logarithms(fit, fit.curve, fit.log_line, x, level)
    width = fit.critical_value(level)
    deviation = fit.reading_deviation
    with np.errstate(over="ignore", under="ignore", invalid="ignore"):
        value = fit.evaluate(x)
        if width is None or deviation is None:
            error = new_error = half = new_half = np.full(x.shape, np.inf)
        else:
            error = deviation * np.sqrt(fit.curve.unit_variance(x))
            new_error = np.hypot(error, deviation * fit.readings.new_reading(value))
            half, new_half = width * error, width * new_error
        beyond = distance_beyond(fit.readings, x)
        found = Prediction(
            x=x, value=value, standard_error=error, mean_low=value - half, mean_high=value + half,
            low=value - new_half, high=value + new_half, beyond=beyond,
            beyond_ranges=in_ranges(fit.readings, beyond), level=level, profiled=np.zeros(x.shape, dtype=np.bool_),
            unchecked=np.full(x.shape, not checked and can_mislead(fit)),
        )  # fmt: skip
    return _checked(fit, found, refits) if checked and deviation is not None else found


def _checked(fit: Fit, found: Prediction, refits: float) -> Prediction:
    """The same with the limits of the profile wherever those by standard errors mislead; all share the work of one question."""
    width, deviation = fit.critical_value(found.level), fit.reading_deviation
    if width is None or deviation is None:
        return found
    mean = np.array([found.mean_low, found.mean_high]).reshape(2, -1)
    profiled, unchecked = np.zeros((2, found.x.size), dtype=np.bool_)
    value, effort = found.value.ravel(), Effort(refits)
    with np.errstate(invalid="ignore"):
        halves = mean[1] - value
    for i, x in enumerate(found.x.ravel().tolist()):
        limits = curve_limits(fit, x, float(halves[i]), found.level, effort)
        unchecked[i] = limits.no_profile
        if limits.ends is not None:
            mean[:, i], profiled[i] = limits.ends, True
    with np.errstate(over="ignore", invalid="ignore"):
        scatter = width * deviation * fit.readings.new_reading(value)
        low, high = value - np.hypot(value - mean[0], scatter), value + np.hypot(mean[1] - value, scatter)
    shape = found.x.shape
    mask = profiled.reshape(shape)
    return replace(
        found, mean_low=mean[0].reshape(shape), mean_high=mean[1].reshape(shape),
        low=np.where(mask, low.reshape(shape), found.low), high=np.where(mask, high.reshape(shape), found.high),
        profiled=mask, unchecked=unchecked.reshape(shape),
    )  # fmt: skip


def _of_logarithms(fit: Fit, curve: LogarithmicCurve, line: Fit, x: Array, level: float) -> Prediction:
    """The line's intervals, taken to the power of e: asymmetric, as the scatter is."""
    inner = curve.inner(x)
    defined = np.isfinite(inner)
    of_line = predict(line, np.where(defined, inner, 0.0), level)
    beyond = distance_beyond(fit.readings, x)
    with np.errstate(over="ignore", invalid="ignore"):

        def risen(values: Array) -> Array:
            return np.where(defined, np.exp(values), np.nan)

        value = risen(of_line.value)
        return Prediction(
            x=x, value=value, standard_error=value * of_line.standard_error, mean_low=risen(of_line.mean_low),
            mean_high=risen(of_line.mean_high), low=risen(of_line.low), high=risen(of_line.high), beyond=beyond,
            beyond_ranges=in_ranges(fit.readings, beyond), level=level, profiled=np.zeros(x.shape, dtype=np.bool_),
            unchecked=np.zeros(x.shape, dtype=np.bool_),
        )  # fmt: skip
