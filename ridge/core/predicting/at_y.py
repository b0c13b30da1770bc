"""x at a y: inverse prediction with its limits."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np
import numpy.typing as npt

from ridge.core.errors import BeyondDoubles, NoSolution, OutsideSense
from ridge.core.predicting.beyond import distance_beyond, in_ranges

if TYPE_CHECKING:
    from ridge.core.fitting.result import Fit


@dataclass(frozen=True)
class Solution:
    """One x at which the curve takes the wanted y, in the unit of x.

    ``standard_error`` is None where the scatter is unknown. ``low`` and ``high`` are Fieller's limits;
    they are infinite, and ``bounded`` is False, where the slope is not told apart from zero at this level.
    """

    value: float
    standard_error: float | None
    low: float
    high: float
    bounded: bool
    beyond: float
    beyond_ranges: float
    level: float


def solve(fit: Fit, y: npt.ArrayLike, repeats: int = 1, level: float = 0.95) -> list[Solution]:
    """Every x at which the line takes the value y.

    Parameters
    ----------
    y : float or array-like, shape (k,)
        The wanted y, or the repeated readings of one unknown: then their mean is taken and ``repeats`` is k.
    repeats : int
        Of how many readings y is the mean.
    level : float
        Confidence level of the limits.

    Standard error: s/|b|·√(1/repeats + 1/n + (y − ȳ)²/(b²Σ(x − x̄)²)) (for instance Miller and Miller,
    "Statistics and Chemometrics for Analytical Chemistry", section 5.6); limits by Fieller's theorem
    (Fieller, J. R. Stat. Soc. B 16, 1954; Draper and Smith, section 3.2).
    Without a free intercept, 1/n drops out and sums are taken about zero.

    Raises
    ------
    NoSolution
        The line is level.
    BeyondDoubles
        The crossing is beyond what a double can hold.
    OutsideSense
        y not finite, repeats below 1, a level outside (0, 1).
    """
    wanted = np.atleast_1d(np.asarray(y, dtype=float))
    if wanted.ndim != 1 or not len(wanted) or not np.all(np.isfinite(wanted)):
        raise OutsideSense("y", "must be a finite number, or a list of them.")
    if len(wanted) > 1:
        repeats = len(wanted)
    if repeats < 1 or repeats != int(repeats):
        raise OutsideSense("repeats", "is a count of readings: 1, 2, 3, …")
    width = fit.critical_value(level)
    deviation = fit.reading_deviation
    readings = fit.readings
    weights, used = readings.used_weights, readings.used

    with np.errstate(over="ignore", under="ignore", invalid="ignore", divide="ignore"):
        slope = np.longdouble(fit.parameters["slope"].value)
        target = np.longdouble(wanted.astype(np.longdouble).mean())
        if fit.model.has_constant:
            total = weights.sum()
            x_centre = np.dot(weights, readings.x[used].astype(np.longdouble)) / total
            y_centre = np.dot(weights, readings.y[used].astype(np.longdouble)) / total
            centre_variance = 1 / total
        else:
            x_centre, y_centre = np.longdouble(0), np.longdouble(fit.parameters["intercept"].value)
            centre_variance = 0.0
        rise = target - y_centre
        offset = rise / slope
        value = float(x_centre + offset)
        if slope == 0:
            raise NoSolution("The line is level: it never takes another value. No x can be found from a y.")
        if not np.isfinite(value):
            raise BeyondDoubles("x of that y")
        index = list(fit.parameters).index("slope")
        slope_variance = np.longdouble(fit.unit_covariance[index, index])
        spread = 1 / repeats + centre_variance

        error: float | None = None
        low, high, bounded = -np.inf, np.inf, False
        if deviation is not None and width is not None:
            error = float(deviation / abs(slope) * np.sqrt(spread + offset**2 * slope_variance))
            # g: squared half-width of the slope's interval relative to the slope; at 1 the interval reaches zero.
            g = (width * deviation / slope) ** 2 * slope_variance
            if g < 1:
                middle = x_centre + offset / (1 - g)
                half = width * deviation / abs(slope) / (1 - g)
                half *= np.sqrt(offset**2 * slope_variance + (1 - g) * spread)
                low, high, bounded = float(middle - half), float(middle + half), True
    beyond = float(distance_beyond(readings, value))
    return [
        Solution(value, error, low, high, bounded, beyond, float(in_ranges(readings, beyond)), level),
    ]
