"""x at a y: inverse prediction with its limits."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import numpy.typing as npt

from ridge.core.errors import NoSolution, OutsideSense
from ridge.core.fitting.effort import QUESTION, Effort
from ridge.core.models import Line
from ridge.core.predicting.curve_at_y import solve_curve
from ridge.core.predicting.curve_limits import x_limits
from ridge.core.predicting.line_at_y import solve_line
from ridge.core.predicting.never_taken import never_takes
from ridge.core.predicting.parameter_limits import can_mislead
from ridge.core.predicting.repeats import scatter_of
from ridge.core.predicting.solution import Solution
from ridge.core.results.fit import Fit

MOST_CHECKED = 6
"""Solutions, the nearest first, whose limits are held against refits."""
NOT_THERE = "The curve does not take that value there. Look at a wider stretch, or check the value."
NEVER = "The curve never takes that value. Check the value, or choose another model."
NOT_FOUND = (
    "No such place was found: searched up to a thousand measured ranges beyond the readings, and in coarse steps to the end of "
    "the computer's numbers. Check the value, or choose another model."
)
NOT_FOUND_IN_CYCLES = "No such place was found within three measured ranges of the readings."


def solve(
    fit: Fit,
    y: npt.ArrayLike,
    repeats: int = 1,
    level: float = 0.95,
    interval: tuple[float, float] | None = None,
    checked: bool = False,
    refits: float = QUESTION,
) -> list[Solution]:
    """Every x at which the curve takes the value y, the nearest to the readings first, ``MOST`` of them at most.

    Parameters
    ----------
    y : float or array-like, shape (k,)
        The wanted y, or the repeated readings of one sample: then their mean is taken, ``repeats`` is k, and their scatter is
        pooled with that of the residuals.
    repeats : int
        Of how many readings y is the mean.
    level : float
        Confidence level of the limits.
    interval : (low, high), optional
        Where x is looked for. Left out: anywhere for a line, otherwise up to a thousand measured ranges beyond the readings
        (three for a sinusoid).
    checked : bool
        The limits are held against refits, and replaced where they mislead: see ``ridge.core.predicting.curve_limits``.

    refits : float
        What these refits may cost, see ``effort``.

    See ``ridge.core.predicting.line_at_y`` for lines and ``ridge.core.predicting.curve_at_y`` for the rest.

    Raises
    ------
    NoSolution
        The curve does not take that value there.
    BeyondDoubles
        The crossing is beyond what a double can hold.
    OutsideSense
        y not finite, repeats below 1, a level outside (0, 1), an interval without width.

    >>> from ridge.core import Readings, fit
    >>> from ridge.core.models import Line
    >>> line = fit(Readings([1, 2, 3, 4, 5], [2.1, 3.9, 6.2, 7.8, 10.1]), Line())
    >>> [round(one.value, 2) for one in line.solve(5.0)]
    [2.49]
    """

    wanted = np.atleast_1d(np.asarray(y, dtype=float))
    if wanted.ndim != 1 or not len(wanted) or not np.all(np.isfinite(wanted)):
        raise OutsideSense("y", "must be a finite number, or a list of them.")
    if len(wanted) > 1:
        repeats = len(wanted)
    if repeats < 1 or repeats != int(repeats):
        raise OutsideSense("repeats", "is a count of readings: 1, 2, 3, …")
    if interval is not None and not (np.all(np.isfinite(interval)) and interval[0] < interval[1]):
        raise OutsideSense("interval", "its first value must be smaller than its second, both finite.")
    fit.critical_value(level)
    scatter = scatter_of(fit, level, wanted)
    target = np.longdouble(wanted.astype(np.longdouble).mean())
    if isinstance(fit.model, Line) and fit.least_squares_in == "y" and "slope" not in fit.model.fixed:
        found = [solve_line(fit, target, int(repeats), level, scatter)]  # by closed form, however far
        if interval is not None:
            found = [solution for solution in found if interval[0] <= solution.value <= interval[1]]
    else:
        found = solve_curve(fit, float(target), int(repeats), level, interval, scatter)
        if checked:
            effort = Effort(refits)
            near = [_checked(fit, solution, float(target), int(repeats), effort) for solution in found[:MOST_CHECKED]]
            found = near + [replace(one, unchecked=one.bounded and can_mislead(fit)) for one in found[MOST_CHECKED:]]
        elif can_mislead(fit):
            found = [replace(solution, unchecked=solution.bounded) for solution in found]
    if not found:
        raise NoSolution(_why_none(fit, float(target), interval is not None))
    return found


def _why_none(fit: Fit, target: float, within: bool) -> str:
    if never_takes(fit, target):
        return NEVER
    if within:
        return NOT_THERE
    return NOT_FOUND_IN_CYCLES if fit.model.periodic else NOT_FOUND


def _checked(fit: Fit, solution: Solution, y: float, repeats: int, effort: Effort) -> Solution:
    if solution.touches:
        return solution
    limits = x_limits(fit, solution.value, y, repeats, (solution.low, solution.high), solution.level, effort)
    if limits.ends is None:
        return replace(solution, unchecked=limits.no_profile)
    low, high = limits.ends
    return replace(solution, low=low, high=high, bounded=bool(np.isfinite(high - low)), profiled=True)
