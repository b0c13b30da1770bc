"""Several fits to the same readings, side by side."""

from __future__ import annotations

import contextlib
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from scipy.special import chdtrc, fdtrc

from ridge.core.errors import OutsideSense, RidgeError
from ridge.core.fitting.effort import QUESTION, Effort
from ridge.core.fitting.fit import fit as fit_readings
from ridge.core.fitting.refits import NoProfile, Refits
from ridge.core.judging.misses import in_y, typical_miss
from ridge.core.models import Model, Polynomial
from ridge.core.predicting.parameter_limits import can_mislead
from ridge.core.readings import Array, Mask
from ridge.core.results.fit import Fit

REFITTED = 60
"""Readings up to which a nonlinear model is fitted anew without each of them."""


@dataclass(frozen=True)
class LeaveOneOut:
    """Misses of each row in use by the fit to all the others, in the unit of y, and their root mean square, each as often as
    the row counts: a row that occurred several times is left out as a whole.

    ``exact``: whether each is that of a fit made without the reading. Otherwise the hat matrix of the tangent plane was
    used, which is exact for models that are linear in their parameters only.
    """

    misses: Array
    error: float
    exact: bool


@dataclass(frozen=True)
class Nested:
    """F-test of a model against a simpler one that it contains.

    ``f``: variation gained per added parameter over the variance that is left, or over the known one where uncertainties are
    absolute (then p comes from χ²). None, like ``p``, where the larger fit is
    exact or has no degrees of freedom.
    """

    added: int
    degrees_of_freedom: int
    f: float | None
    p: float | None


def leave_one_out(fit: Fit) -> LeaveOneOut:
    """What each reading in use looks like to the fit of the others.

    For models that are linear in their parameters residual/(1 − leverage) (Cook and Weisberg 1982, section 2.2.1); others are
    fitted anew without each reading up to 60 readings, beyond that by the same formula in the tangent plane.
    A reading that alone determines a parameter cannot be left out: its miss is NaN.

    >>> from ridge.core import Readings, fit
    >>> from ridge.core.models import Line
    >>> line = fit(Readings([1, 2, 3, 4, 5], [2.1, 3.9, 6.2, 7.8, 10.1]), Line())
    >>> from ridge.core.judging.comparison import leave_one_out
    >>> round(leave_one_out(line).error, 3)
    0.228
    """
    used = np.flatnonzero(fit.readings.used)
    room = 1 - fit.leverage[used]
    with np.errstate(divide="ignore", invalid="ignore"):
        misses = np.where(room > 1e-10, fit.residuals[used] / room, np.nan)
    given = fit.least_squares_in == "given"  # nothing was fitted, so leaving a reading out changes nothing
    exact = given or (fit.model.linear_form is not None and fit.log_line is None and not fit.held)
    if not exact and len(used) <= REFITTED:
        refits = Refits(fit, Effort(QUESTION)) if can_mislead(fit) else None
        misses = np.array([_without(fit, refits, place, int(row)) for place, row in enumerate(used)])
        exact = True
    known = np.isfinite(misses)
    if not known.any():
        return LeaveOneOut(misses, np.nan, exact)
    counts = fit.readings.used_counts[known]
    size = float(np.max(np.abs(misses[known]))) or 1.0
    return LeaveOneOut(misses, size * float(np.sqrt(counts @ (misses[known] / size) ** 2 / counts.sum())), exact)


def _without(fit: Fit, refits: Refits | None, place: int, row: int) -> float:
    """How far a reading lies from the fit to the others; NaN where they cannot be fitted."""
    at = np.array([fit.readings.x[row]])
    if refits is not None:
        with contextlib.suppress(NoProfile):
            return float(fit.readings.y[row] - fit.model.evaluate(at, refits.without(place))[0])
    included = fit.readings.included.copy()
    included[row] = False
    try:
        other = refit(fit, included)
    except RidgeError:
        return float("nan")
    return float(fit.readings.y[row] - other.evaluate(at)[0])


def refit(fit: Fit, included: Mask, effort: Effort | None = None) -> Fit:
    """The same model on another choice of rows, downhill from where it was; what ran against a bound stays there.

    Raises what ``fit`` raises.
    """

    start = fit.values if fit.model.linear_form is None and fit.log_line is None else None
    in_ = fit.least_squares_in
    return fit_readings(fit.readings.choosing(included), fit.model, start=start, least_squares_in=in_, effort=effort)


def contains(larger: Model, smaller: Model) -> bool:
    """Whether the smaller model is the larger one with some parameters kept at a value."""
    free, other = set(larger.free_names), set(smaller.free_names)
    first, second = _powers(larger), _powers(smaller)
    if first is not None and second is not None:
        return second < first and not larger.fixed and not smaller.fixed
    if larger.family != smaller.family or larger.variable != smaller.variable:
        return False
    if larger.expression == smaller.expression:
        return other < free and all(smaller.fixed.get(name) == value for name, value in larger.fixed.items())
    # With and without a level or a shift: the same parameters and one more.
    with_level = larger.level and not smaller.level
    with_shift = larger.shift and not smaller.shift
    return (with_level or with_shift) and other < free and not larger.fixed and not smaller.fixed


def _powers(model: Model) -> set[int] | None:
    """Powers of x of a polynomial with all its parameters free."""
    if model.linear_form is None or not model.linear_form.transforms_nothing:
        return None
    return {
        power
        for name, power in zip(model.parameter_names, model.linear_form.powers, strict=True)
        if name in model.free_names
    }


def nested_test(smaller: Fit, larger: Fit) -> Nested:
    """F-test for the parameters that ``larger`` has over ``smaller`` (Draper and Smith, section 6.1).

    Exact for linear models and normal scatter, approximate for others. Raises OutsideSense where the models are not nested
    or the fits do not use the same readings.

    >>> from ridge.core import Readings, fit
    >>> from ridge.core.models import Polynomial
    >>> bowl = fit(Readings([0, 1, 2, 3, 4, 5], [4.1, 1.0, 0.1, 0.9, 4.2, 8.9]), Polynomial(2))
    >>> from ridge.core.judging.comparison import nested_test
    >>> from ridge.core.models import Line
    >>> nested_test(fit(bowl.readings, Line()), bowl).p < 0.01
    True
    """
    if not contains(larger.model, smaller.model):
        raise OutsideSense("larger", "must be the smaller model with more parameters.")
    same = smaller.readings is larger.readings or np.array_equal(smaller.readings.used, larger.readings.used)
    if not same or smaller.least_squares_in != larger.least_squares_in:
        raise OutsideSense("larger", "must be fitted to the same readings in the same way.")
    one, other = smaller.statistics, larger.statistics
    added = one.degrees_of_freedom - other.degrees_of_freedom
    if other.exact or other.degrees_of_freedom <= 0 or not other.residual_sum_of_squares > 0:
        return Nested(added, other.degrees_of_freedom, None, None)
    gained = max(one.residual_sum_of_squares - other.residual_sum_of_squares, 0.0)
    if larger.readings.absolute_errors:
        explained = gained / larger.readings.reference_error**2
        return Nested(added, other.degrees_of_freedom, explained / added, float(chdtrc(added, explained)))
    f = gained / added / (other.residual_sum_of_squares / other.degrees_of_freedom)
    return Nested(added, other.degrees_of_freedom, f, float(fdtrc(added, other.degrees_of_freedom, f)))


@dataclass(frozen=True)
class Rung:
    """One of the polynomials by degree: R² never falls from one to the next, the leave-one-out error may rise."""

    degree: int
    r_squared: float | None
    adjusted_r_squared: float | None
    leave_one_out_error: float


def degree_ladder(fit_of_any: Fit, highest: int = 8) -> list[Rung]:
    """Polynomials of degree 1, 2, … on the readings of a fit, as far as there are readings for them.

    >>> from ridge.core import Readings, fit
    >>> from ridge.core.models import Polynomial
    >>> bowl = fit(Readings([0, 1, 2, 3, 4, 5], [4.1, 1.0, 0.1, 0.9, 4.2, 8.9]), Polynomial(2))
    >>> from ridge.core.judging.comparison import degree_ladder
    >>> [rung.degree for rung in degree_ladder(bowl, 3)]
    [1, 2, 3]
    """

    rungs: list[Rung] = []
    for degree in range(1, highest + 1):
        try:
            found = fit_readings(fit_of_any.readings, Polynomial(degree))
        except RidgeError:
            break
        statistics = found.statistics
        rungs.append(Rung(degree, statistics.r_squared, statistics.adjusted_r_squared, leave_one_out(found).error))
    return rungs


@dataclass(frozen=True)
class Row:
    """One fit in a comparison; criteria that it does not have are None."""

    fit: Fit
    parameters: int
    r_squared: float | None
    adjusted_r_squared: float | None
    residual_standard_deviation: float | None
    aic: float | None
    aicc: float | None
    bic: float | None
    leave_one_out: LeaveOneOut


def compare(fits: Sequence[Fit]) -> list[Row]:
    """The criteria of each fit, in the order given. Criteria compare fits to the same readings in y only.

    >>> from ridge.core import Readings, fit
    >>> from ridge.core.models import Polynomial
    >>> bowl = fit(Readings([0, 1, 2, 3, 4, 5], [4.1, 1.0, 0.1, 0.9, 4.2, 8.9]), Polynomial(2))
    >>> from ridge.core.judging.comparison import compare
    >>> from ridge.core.models import Line
    >>> [row.parameters for row in compare([bowl, fit(bowl.readings, Line())])]
    [3, 2]
    """
    return [
        Row(
            one, max(one.statistics.n - one.statistics.degrees_of_freedom, 0), in_y(one).r_squared, in_y(one).adjusted_r_squared,
            typical_miss(one), one.statistics.aic, one.statistics.aicc, one.statistics.bic,
            leave_one_out(one),
        )
        for one in fits
    ]  # fmt: skip
