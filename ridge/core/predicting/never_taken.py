"""Prove that a curve never takes a value, from its equation; a search that found nothing proves nothing."""

from __future__ import annotations

import numpy as np

from ridge.core.formula import Program, parse
from ridge.core.models import Polynomial, Sinusoid
from ridge.core.results.fit import Fit

MARGIN = 1e-9
"""Share of the size of the values by which a target must miss the range of a curve, since both are rounded."""


def never_takes(fit: Fit, target: float) -> bool:
    """Whether the equation excludes the value: no real inverse, beyond the crest of a wave, past the extreme of a polynomial."""
    model, values = fit.model, fit.values
    if isinstance(model, Sinusoid):
        return abs(target - values["midline"]) > abs(values["amplitude"]) * (1 + MARGIN)
    if isinstance(model, Polynomial):
        return _past_extreme([values.get(f"c{power}", 0.0) for power in range(model.degree + 1)], target)
    if not model.inverses:
        return False
    names = ("y", *model.parameter_names)
    at = [np.float64(target), *(np.float64(values[name]) for name in model.parameter_names)]
    with np.errstate(all="ignore"):
        found = Program([parse(text, "y").tree for text in model.inverses], names)(*at)
    return all(np.isnan(np.float64(x)) for x in found)


def _past_extreme(coefficients: list[float], target: float) -> bool:
    """Whether a polynomial of even degree stays on one side of a value; ``coefficients`` from the lowest power up."""
    curve = np.polynomial.Polynomial(coefficients).trim()
    if curve.degree() % 2 or not curve.degree():
        return False
    turns = curve.deriv().roots()
    values = curve(np.real(turns[np.abs(np.imag(turns)) <= 1e-6 * (1 + np.abs(turns))]))
    size = MARGIN * max(abs(target), float(np.max(np.abs(values), initial=0.0)))
    if curve.coef[-1] > 0:
        return bool(np.min(values, initial=np.inf) > target + size)
    return bool(np.max(values, initial=-np.inf) < target - size)
