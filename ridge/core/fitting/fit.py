"""Fitting a model to readings by least squares: the front door."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from ridge.core.errors import OutsideSense
from ridge.core.fitting.effort import Effort
from ridge.core.fitting.errors_in_x import fit_orthogonal
from ridge.core.fitting.least_squares import check_given, fit_in_y
from ridge.core.fitting.logarithms import fit_in_logarithms
from ridge.core.fitting.scene import Bounds
from ridge.core.models import Model
from ridge.core.readings import Readings
from ridge.core.results.fit import Fit


def fit(
    readings: Readings,
    model: Model,
    *,
    start: Mapping[str, float] | None = None,
    fixed: Mapping[str, float] | None = None,
    bounds: Bounds | None = None,
    x_range: tuple[float, float] | None = None,
    least_squares_in: str = "y",
    effort: Effort | None = None,
) -> Fit:
    """Fit ``model`` to the readings in use by weighted least squares.

    Models that are linear in their parameters are solved outright, in extended precision. The others need no
    starting values: the parameters that enter linearly are eliminated (Golub and Pereyra 1973), the rest is
    searched on scales taken from the readings, and the best minimum is polished with exact derivatives until the
    last digits stand. The same input gives the same output.

    Parameters
    ----------
    start : mapping, optional
        Values to begin from, by parameter name; the minimum downhill from there is taken instead of the best one.
        Parameters that enter linearly are solved for at once, so that their starts do not matter.
    fixed : mapping, optional
        Parameters kept at a value.
    bounds : mapping, optional
        Lowest and highest value by parameter name; infinities for no bound.
    x_range : (low, high), optional
        Only readings in this stretch of x take part.
    least_squares_in : "y", "logarithms" or "orthogonal"
        "logarithms": a straight line through ln y (exponential), ln y against ln x (power) or y against ln x
        (logarithmic), as textbooks and calculators do; see ``ridge.core.fitting.logarithms``. "orthogonal": distances
        in x and y, each in units of its uncertainty; see ``ridge.core.fitting.errors_in_x``.
    effort : Effort, optional
        Work after which the search stops with the best so far; a caution says so. Left out: ``effort.USUAL``. It counts
        operations, not seconds, so that the same input gives the same output on a busy machine too.

    Weights enter as in ``Readings.used_weights``. Uncertainties in per cent are those of the fitted values: the fit is repeated
    with the weights of its own curve until both agree (iteratively reweighted least squares; Carroll and Ruppert,
    "Transformation and Weighting in Regression", 1988, section 2.1).

    Raises
    ------
    TooFewReadings
        Fewer readings in use than parameters that they could tell.
    NotIdentifiable
        The x values cannot tell the parameters of a linear model apart.
    UndefinedAt
        The model has no value at some readings.
    NoFit
        No parameters give the model a value at every reading.
    OutsideSense
        A fixed value, bound, start or weight outside sense.
    BeyondDoubles
        A parameter or a sum of squares is beyond what a double can hold.

    >>> from ridge.core import Readings, fit
    >>> from ridge.core.models import Line
    >>> line = fit(Readings([1, 2, 3, 4, 5], [2.1, 3.9, 6.2, 7.8, 10.1]), Line())
    >>> round(line.parameters["slope"].value, 3), round(line.parameters["slope"].standard_error, 3)
    (1.99, 0.06)
    """
    if not isinstance(readings, Readings):
        raise OutsideSense("readings", "are made by Readings(x, y).")
    if not isinstance(model, Model):
        called = model.__name__ if isinstance(model, type) else repr(model)
        raise OutsideSense("model", f"is a family with its options, such as Line(), not {called}.")
    if x_range is not None:
        readings = readings.within(*x_range)
    if fixed:
        model = model.with_fixed(fixed)
    match least_squares_in:
        case "logarithms":
            check_given(model, start or {}, bounds or {})
            return fit_in_logarithms(readings, model)
        case "orthogonal":
            return fit_orthogonal(readings, model, fit_in_y(readings, model, start, bounds, effort))
        case "y":
            found = fit_in_y(readings, model, start, bounds, effort)
            return found if readings.relative_error is None else _with_errors_of_curve(found, model, bounds, effort)
    raise OutsideSense("least_squares_in", "is 'y', 'logarithms' or 'orthogonal'.")


MOST_REPEATED = 60
"""Fits with the weights of the one before; each is closer by about the relative uncertainty, so that a dozen are usual."""
AGREED = 1e-11
"""Share of the largest fitted value by which two fits in a row may differ."""


def _with_errors_of_curve(found: Fit, model: Model, bounds: Bounds | None, effort: Effort | None) -> Fit:
    """Repeat a fit until its uncertainties in per cent are those of its own curve."""
    for _ in range(MOST_REPEATED):
        start = None if model.linear_form is not None else {name: found.values[name] for name in model.free_names}
        again = fit_in_y(found.readings.with_errors_at(found.fitted), model, start, bounds, effort)
        used = again.readings.used
        moved = np.max(np.abs(again.fitted[used] - found.fitted[used]), initial=0.0)
        found = again
        if moved <= AGREED * np.max(np.abs(again.fitted[used]), initial=0.0):
            break
    return found
