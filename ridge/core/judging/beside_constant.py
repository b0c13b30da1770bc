"""Test a fit against a constant."""

from __future__ import annotations

import numpy as np
from scipy.special import fdtrc

from ridge.core.results.fit import Fit


def chance_beside_constant(fit: Fit) -> float | None:
    """p of the fit against a constant; None where nothing can be tested: no degrees of freedom, an exact fit, all y equal, a
    fit that is a constant, numbers that were given.

    Where a constant is a special case of the model, p of F. Otherwise F is formed with the variation about the mean, and the
    larger of the two counts: a curve that misses by more than the mean does is no better than it, whatever it has over zero.
    """
    if fit.log_line is not None:
        return chance_beside_constant(fit.log_line)
    statistics = fit.statistics
    free = fit.statistics.n - statistics.degrees_of_freedom
    if (
        statistics.degrees_of_freedom <= 0
        or statistics.exact
        or statistics.r_squared is None
        or not fit.model.free_names
    ):
        return None
    if fit.model.flat:
        return None
    if statistics.compared_with == "constant":
        return statistics.f_p_value
    explained = statistics.r_squared
    if explained <= 0:
        return 1.0
    f = explained / (1 - explained) * statistics.degrees_of_freedom / max(free - 1, 1) if explained < 1 else np.inf
    over_mean = float(fdtrc(max(free - 1, 1), statistics.degrees_of_freedom, f))
    return max(over_mean, statistics.f_p_value or 0.0)
