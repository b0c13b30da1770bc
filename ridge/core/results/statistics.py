"""The statistics of a fit, and what turns standard errors into intervals and chances."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property, lru_cache
from math import inf
from typing import Protocol

from scipy.special import ndtr, ndtri, stdtr, stdtrit

from ridge.core.errors import OutsideSense
from ridge.core.results.read_only import ReadOnly


@dataclass(frozen=True)
class Chance:
    """A p-value. ``at_most``: it is an upper bound, since a simulation reached it in none of its draws or a bound sufficed."""

    value: float
    at_most: bool = False


class Search(Protocol):
    """A search for the shape of a curve that can be repeated on mere scatter."""

    def chance(self, regression: float, rss: float, terms: int, degrees: int, known: float | None) -> Chance | None:
        """Chance of at least so much accounted for where there is nothing; None where it cannot be had within reason."""


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
    for that (see ``ridge.core.fitting.searched``) and is worked out when it is asked for.

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
    searched: Search | None = field(default=None, repr=False, compare=False)
    terms: int = 0
    """Parameters beyond what the model is compared with."""
    known_error: float | None = None
    """The uncertainty of a reading of weight one where it is known absolutely."""

    def __post_init__(self) -> None:
        object.__setattr__(self, "absent", ReadOnly(self.absent))

    @property
    def f_p_value(self) -> float | None:
        """Probability of an F at least this large if there were nothing but what the model is compared with."""
        return None if self._f_chance is None else self._f_chance.value

    @property
    def f_p_at_most(self) -> bool:
        """Whether ``f_p_value`` is an upper bound."""
        return self._f_chance is not None and self._f_chance.at_most

    @cached_property
    def _f_chance(self) -> Chance | None:
        if self.f_statistic is None or self.searched is None:
            return None if self.f_p_plain is None else Chance(self.f_p_plain)
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
def critical_value(level: float, degrees_of_freedom: float, absolute: bool) -> float | None:
    """Half-width of a two-sided interval in standard errors; None when nothing estimates the scatter.

    Student's t with the residual degrees of freedom; the normal distribution when uncertainties are absolute.
    """
    check_level(level)
    if absolute or degrees_of_freedom == inf:
        return float(ndtri((1 + level) / 2))
    return float(stdtrit(degrees_of_freedom, (1 + level) / 2)) if degrees_of_freedom > 0 else None


def two_sided_p(t: float, degrees_of_freedom: float, absolute: bool) -> float:
    """Probability of a value at least as far from zero as ``t`` when the true parameter is zero."""
    return float(2 * (ndtr(-abs(t)) if absolute or degrees_of_freedom == inf else stdtr(degrees_of_freedom, -abs(t))))
