"""How far a fit typically misses, in the unit of y."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

if TYPE_CHECKING:
    from ridge.core.fitting.result import Fit


def typical_miss(fit: Fit) -> float | None:
    """s in the unit of y, also where least squares was done in logarithms and the statistics are those of the line there."""
    if fit.log_line is None:
        return fit.statistics.residual_standard_deviation
    degrees = fit.statistics.degrees_of_freedom
    rest = fit.residuals[fit.readings.used]
    return float(np.sqrt(np.sum(rest**2) / degrees)) if degrees > 0 else None
