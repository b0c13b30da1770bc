"""The statistics of a fit: what is computed, and why a figure is absent where it is."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property, lru_cache
from typing import TYPE_CHECKING

import numpy as np
from scipy.special import chdtrc, fdtrc, ndtr, ndtri, stdtr, stdtrit

from ridge.core.errors import OutsideSense

if TYPE_CHECKING:
    from ridge.core.judging.searched import Searched


@dataclass(frozen=True)
class Statistics:
    """Statistics of a fit with p parameters that the readings chose. A figure that has no meaning here is None; ``absent`` says why.

    Sums of squares are weighted (``Readings.used_weights``) and in squared units of y. R² and adjusted R² are about the
    (weighted) mean of y for every model, so that they can be compared; negative where the mean misses by less.
    ``r_squared_about_zero`` has the uncorrected total sum of squares, as NIST certifies it for models without a constant; it
    is given where the model has no free constant. The total and the regression sum of squares, and F, are about what the
    model is compared with (``compared_with``, see ``Model.null``): a constant wherever that is a special case of the model,
    else its constant term at the fixed value, else zero. With absolute uncertainties F has these for its denominator and
    p comes from χ²; otherwise the variance that the residuals estimate. Where the shape of the curve was ``searched``, p allows
    for that (see ``ridge.core.judging.searched``) and is worked out when it is asked for.

    aic, aicc and bic come from the normal likelihood and count the residual variance as a parameter
    where it is estimated (Burnham and Anderson, "Model Selection and Multimodel Inference", 2002).
    chi_squared needs absolute uncertainties.
    """

    n: int
    degrees_of_freedom: int
    residual_sum_of_squares: float
    total_sum_of_squares: float
    regression_sum_of_squares: float
    r_squared: float | None
    r_squared_about_zero: float | None
    adjusted_r_squared: float | None
    correlation: float | None
    residual_standard_deviation: float | None
    f_statistic: float | None
    f_p_plain: float | None
    """p by the F distribution (χ² with absolute uncertainties), which supposes that nothing was searched."""
    aic: float | None
    aicc: float | None
    bic: float | None
    chi_squared: float | None
    reduced_chi_squared: float | None
    exact: bool
    compared_with: str
    absent: Mapping[str, str] = field(default_factory=dict)
    searched: Searched | None = field(default=None, repr=False, compare=False)
    terms: int = 0
    """Parameters beyond what the model is compared with."""
    known_error: float | None = None
    """The uncertainty of a reading of weight one where it is known absolutely."""

    @cached_property
    def f_p_value(self) -> float | None:
        """Probability of an F at least this large if there were nothing but what the model is compared with."""
        if self.f_statistic is None or self.searched is None:
            return self.f_p_plain
        return self.searched.chance(
            self.regression_sum_of_squares,
            self.residual_sum_of_squares,
            self.terms,
            self.degrees_of_freedom,
            self.known_error,
        )


def check_level(level: float) -> None:
    """Raise OutsideSense unless 0 < level < 1."""
    if not 0 < level < 1:
        raise OutsideSense("level", "a confidence level lies between 0 and 1 (0.95 for 95 %), its ends excluded.")


@lru_cache(maxsize=256)
def critical_value(level: float, degrees_of_freedom: int, absolute: bool) -> float | None:
    """Half-width of a two-sided interval in standard errors; None when nothing estimates the scatter.

    Student's t with the residual degrees of freedom; the normal distribution when uncertainties are absolute.
    """
    check_level(level)
    if absolute:
        return float(ndtri((1 + level) / 2))
    return float(stdtrit(degrees_of_freedom, (1 + level) / 2)) if degrees_of_freedom > 0 else None


def two_sided_p(t: float, degrees_of_freedom: int, absolute: bool) -> float:
    """Probability of a value at least as far from zero as ``t`` when the true parameter is zero."""
    return float(2 * (ndtr(-abs(t)) if absolute else stdtr(degrees_of_freedom, -abs(t))))


def compute_statistics(
    *,
    n: int,
    free: int,
    compared_with: str,
    rss: float,
    regression: float,
    r_squared: float | None,
    r_squared_about_zero: float | None,
    ratio: float,
    exact: bool,
    correlation: float | None,
    log_weight_sum: float,
    reference_error: float | None,
    at_bounds: int = 0,
    searched: Searched | None = None,
) -> Statistics:
    """Statistics from the sums of a solve, ``regression`` about what the model is compared with.

    ``free``: parameters that the readings chose; ``at_bounds``: those that ran against a bound, which count for aic and the
    like only.
    ``ratio`` is the regression over the residual sum of squares, taken before rounding to doubles.
    ``reference_error`` is the uncertainty of a reading of weight one where it is known absolutely, else None.
    ``log_weight_sum`` is Σ ln(weight) over the readings in use.
    """
    absent: dict[str, str] = {}
    degrees = max(n - free, 0)
    terms = free - (1 if compared_with == "constant" else 0)
    known = reference_error is not None

    if r_squared is None:
        absent["r_squared"] = "All y are equal: there is no variation to account for."
    adjusted = s = f = f_p = None
    if degrees > 0:
        s = float(np.sqrt(rss / degrees))
        if r_squared is not None:
            adjusted = 1 - (1 - r_squared) * (n - 1) / degrees
    else:
        why = "There are as many parameters as readings, so nothing is left to estimate the scatter from."
        for name in ("residual_standard_deviation", "adjusted_r_squared", "f_statistic", "f_p_value"):
            absent[name] = why
    if terms == 0:
        absent["f_statistic"] = absent["f_p_value"] = "The model is what others are compared with."
    if exact and degrees > 0:
        why = "The fit is exact: the readings do not scatter about it, so there is nothing to compare with."
        absent["f_statistic"] = absent["f_p_value"] = why
    elif degrees > 0 and terms > 0 and regression + rss > 0:
        if reference_error is not None:
            explained = float(np.square(np.divide(np.sqrt(regression), reference_error)))
            f, f_p = explained / terms, float(chdtrc(terms, explained))
        else:
            f = ratio * degrees / terms
            f_p = float(fdtrc(terms, degrees, f))

    aic = aicc = bic = chi = reduced = None
    log_likelihood: float | None = None
    if reference_error is not None:
        chi = float(np.square(np.divide(np.sqrt(rss), reference_error)))
        reduced = chi / degrees if degrees > 0 else None
        log_likelihood = -0.5 * (chi + n * (np.log(2 * np.pi) + 2 * np.log(reference_error)) - log_weight_sum)
    elif not exact and rss > 0:
        log_likelihood = -0.5 * (n * (np.log(2 * np.pi * rss / n) + 1) - log_weight_sum)
    else:
        absent["aic"] = absent["aicc"] = absent["bic"] = "The likelihood of an exact fit has no bound."
    if log_likelihood is not None:
        counted = free + at_bounds + (0 if known else 1)
        aic = float(-2 * log_likelihood + 2 * counted)
        bic = float(-2 * log_likelihood + counted * np.log(n))
        if n - counted - 1 > 0:
            aicc = aic + 2 * counted * (counted + 1) / (n - counted - 1)
        else:
            absent["aicc"] = f"It needs at least {counted + 2} readings."
    if chi is None:
        absent["chi_squared"] = absent["reduced_chi_squared"] = "It needs uncertainties of y that are known absolutely."
    elif reduced is None:
        absent["reduced_chi_squared"] = "There are no degrees of freedom to divide by."
    if r_squared_about_zero is None:
        absent["r_squared_about_zero"] = "The model has a free constant, so R² is about the mean alone."
    if correlation is None:
        absent["correlation"] = "All x or all y are equal."

    return Statistics(
        n=n, degrees_of_freedom=degrees, residual_sum_of_squares=rss, total_sum_of_squares=rss + regression,
        regression_sum_of_squares=regression, r_squared=r_squared,
        r_squared_about_zero=r_squared_about_zero, adjusted_r_squared=adjusted,
        correlation=correlation, residual_standard_deviation=s, f_statistic=f, f_p_plain=f_p,
        aic=aic, aicc=aicc, bic=bic, chi_squared=chi, reduced_chi_squared=reduced, exact=exact,
        compared_with=compared_with, absent=absent, searched=searched, terms=terms, known_error=reference_error,
    )  # fmt: skip
