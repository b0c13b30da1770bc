"""How the parameters of two fits to the same readings go together."""

from __future__ import annotations

import numpy as np

from ridge.core.predicting.in_common import rows_in_common, weights_of
from ridge.core.readings import Array
from ridge.core.results.fit import Fit


def told_together(first: Fit, second: Fit) -> bool:
    """Whether what they have in common can be told: both by least squares in y, with a known scatter."""
    return all(fit.least_squares_in == "y" and fit.reading_deviation is not None for fit in (first, second))


def correlations_between(first: Fit, second: Fit) -> Array | None:
    """Correlations of the parameters of one with those of the other, in their orders; None where they have no reading in common, or
    what they have cannot be told.

    Of estimates that are linear in the same readings, C₁J₁ᵀ√(W₁W₂)J₂C₂·s² with C = (JᵀWJ)⁻¹ (JCGM 100:2008, F.1.2.3), by the tangent
    of models that are bent, and with the smaller of the two s.
    """
    common = rows_in_common(first, second)
    if common is None or not common.any() or not told_together(first, second):
        return None
    x = first.readings.x[common]
    weights = np.sqrt(weights_of(first, common) * weights_of(second, common))[:, None]
    with np.errstate(all="ignore"):
        errors = [np.sqrt(np.diag(fit.unit_covariance)) for fit in (first, second)]
        # Each parameter in its own standard errors, so that very large and very small ones go together well.
        one, other = (
            fit.model.gradient(x, fit.values) @ (fit.unit_covariance / error)
            for fit, error in zip((first, second), errors, strict=True)
        )
        deviations = sorted(float(fit.reading_deviation or 0.0) for fit in (first, second))
        share = deviations[0] / deviations[1] if deviations[1] else 0.0
        return np.asarray(np.clip(share * (one * weights).T @ other, -1, 1))
