"""The statistics of a fit from the sums of its solve, and why a figure is absent where it is."""

from __future__ import annotations

import numpy as np
from scipy.special import chdtrc, fdtrc

from ridge.core.results.statistics import Search, Statistics


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
    searched: Search | None = None,
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
