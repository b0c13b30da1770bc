"""x at a y from a straight line: the textbook formula, with Fieller's limits."""

from __future__ import annotations

import numpy as np

from ridge.core.errors import NoSolution
from ridge.core.predicting.repeats import Scatter
from ridge.core.predicting.solution import Solution, place
from ridge.core.results.fit import Fit


def solve_line(
    fit: Fit, target: np.longdouble, repeats: float, level: float, scatter: Scatter | None = None
) -> Solution:
    """The x at which the line takes the value ``target``, the mean of ``repeats`` readings; infinite for the line itself,
    without the scatter of a new reading.

    Standard error: s/|b|·√(1/repeats + 1/n + (y − ȳ)²/(b²Σ(x − x̄)²)) (for instance Miller and Miller,
    "Statistics and Chemometrics for Analytical Chemistry", section 5.6); limits by Fieller's theorem
    (Fieller, J. R. Stat. Soc. B 16, 1954; Draper and Smith, section 3.2), infinite where the slope is not told apart
    from zero at this level. ``scatter``: that of ``repeats``, see there; left out, that of the fit. Without a free intercept, 1/n drops out and sums are taken about zero.
    Raises NoSolution where the line is level, BeyondDoubles.
    """
    scatter = scatter or Scatter(fit.reading_deviation, fit.critical_value(level))
    width, deviation = scatter.width, scatter.deviation
    readings = fit.readings
    weights, used = readings.used_weights, readings.used
    with np.errstate(over="ignore", under="ignore", invalid="ignore", divide="ignore"):
        slope = np.longdouble(fit.parameters["slope"].value)
        if fit.model.has_constant:
            total = weights.sum()
            x_centre = np.dot(weights, readings.x[used].astype(np.longdouble)) / total
            y_centre = np.dot(weights, readings.y[used].astype(np.longdouble)) / total
            centre_variance = 1 / total
        else:
            x_centre, y_centre = np.longdouble(0), np.longdouble(fit.parameters["intercept"].value)
            centre_variance = 0.0
        offset = (target - y_centre) / slope
        value = float(x_centre + offset)
        if slope == 0:
            raise NoSolution("The line is level: it never takes another value. No x can be found from a y.")
        index = list(fit.parameters).index("slope")
        slope_variance = np.longdouble(fit.unit_covariance[index, index])
        spread = float(readings.new_reading(float(target))) ** 2 / repeats + centre_variance

        error: float | None = None
        low, high = -np.inf, np.inf
        if deviation is not None and width is not None:
            error = float(deviation / abs(slope) * np.sqrt(spread + offset**2 * slope_variance))
            # g: squared half-width of the slope's interval relative to the slope; at 1 the interval reaches zero.
            g = (width * deviation / slope) ** 2 * slope_variance
            if g < 1:
                middle = x_centre + offset / (1 - g)
                half = width * deviation / abs(slope) / (1 - g)
                half *= np.sqrt(offset**2 * slope_variance + (1 - g) * spread)
                low, high = float(middle - half), float(middle + half)
    return place(fit, value, error, low, high, level)
