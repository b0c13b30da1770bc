"""Whether a result agrees with an accepted or a second value (JCGM 100 has no test; common practice: the difference over its standard
uncertainty)."""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot, inf, isfinite, isinf
from typing import Protocol

import numpy as np
from scipy.special import ndtr, ndtri, stdtr, stdtrit

from ridge.core.carrying.propagation import SEED
from ridge.core.errors import OutsideSense
from ridge.core.numerals import probability, significant
from ridge.core.readings import Array

DISAGREES = 0.01
"""p below which a difference is called a disagreement; up to ``DOUBTFUL`` it is called doubtful."""
DOUBTFUL = 0.05
POWER = 0.8
"""Chance with which a difference would have been noticed that this experiment could notice."""


class HasUncertainty(Protocol):
    """What can be compared: a fit's parameter, something that follows, a second result."""

    @property
    def value(self) -> float: ...

    @property
    def standard_error(self) -> float | None: ...

    @property
    def degrees_of_freedom(self) -> float: ...


@dataclass(frozen=True)
class Agreement:
    """``difference``: the first minus the second. ``standard_uncertainties``: the same over its standard uncertainty; ``p``: chance of one
    at least as large where both are the same. ``noticeable``: the difference that this experiment notices with ``POWER`` at
    ``DOUBTFUL``. None where no uncertainty is known."""

    difference: float
    standard_error: float | None
    standard_uncertainties: float | None
    p: float | None
    noticeable: float | None
    degrees_of_freedom: float
    simulated: bool = False
    """Whether ``p`` is that of a simulation, since the result is not normal."""

    @property
    def message(self) -> str:
        """In words."""
        if self.standard_uncertainties is None or self.p is None:
            return "Nothing tells how uncertain the difference is, so it cannot be judged."
        size = significant(abs(self.standard_uncertainties), 2).text
        verdict = (
            "no disagreement"
            if self.p >= DOUBTFUL
            else "a doubtful agreement"
            if self.p >= DISAGREES
            else "a disagreement"
        )
        chance = probability(self.p)
        said = f"p {chance}" if chance.startswith("<") else f"p = {chance}"
        if self.simulated:
            return f"By simulation {verdict} ({said})."
        return f"Differs by {size} standard uncertaint{'y' if size == '1.0' else 'ies'}: {verdict} ({said})."


def agree(first: HasUncertainty, second: HasUncertainty | float, uncertainty: float = 0.0) -> Agreement:
    """``first`` beside ``second``, a result of its own or a value with its standard ``uncertainty``; independent of one another.

    Raises OutsideSense for a negative uncertainty or a value that is not finite.

    >>> from ridge.core.carrying import agree, follow
    >>> from ridge.core import Readings, fit
    >>> from ridge.core.models import Line
    >>> line = fit(Readings([0.2, 0.4, 0.6, 0.8], [0.81, 1.60, 2.42, 3.21]), Line())
    >>> agree(follow("4*pi^2/slope", line), 9.81, 0.02).message
    'Differs by 0.63 standard uncertainties: no disagreement (p = 0.58).'
    """
    if isinstance(second, int | float):
        if uncertainty < 0 or not isfinite(uncertainty) or not isfinite(second):
            raise OutsideSense("accepted value", "is a finite number with an uncertainty that is not negative.")
        value, error, degrees = float(second), uncertainty, inf
    else:
        value, error, degrees = second.value, second.standard_error or 0.0, second.degrees_of_freedom
        if second.standard_error is None:
            return _unjudged(first.value - value)
    difference = first.value - value
    own = first.standard_error
    if own is None:
        return _unjudged(difference)
    together = hypot(own, error)
    if together == 0:
        return _unjudged(difference)
    sample = getattr(first, "sample", None)
    if sample is not None:
        return _by_draws(difference, together, sample, value, error)
    nu = _effective(((own, first.degrees_of_freedom), (error, degrees)), together)
    z = difference / together
    p = 2 * float(ndtr(-abs(z)) if isinf(nu) else stdtr(nu, -abs(z)))
    noticed = _quantile(1 - DOUBTFUL / 2, nu) + _quantile(POWER, nu)
    return Agreement(difference, together, z, p, noticed * together, nu)


def _by_draws(difference: float, together: float, sample: Array, value: float, error: float) -> Agreement:
    """By the draws that also give the limits, so that verdict and interval agree (JCGM 101:2008)."""
    other = value + error * np.random.default_rng(SEED).standard_normal(len(sample))
    above = float(np.mean(np.random.default_rng(SEED + 1).permutation(sample) > other))
    p = max(2 * min(above, 1 - above), 1 / len(sample))
    spread = float(np.subtract(*np.quantile(sample, [0.84134, 0.15866]))) / 2
    noticed = (_quantile(1 - DOUBTFUL / 2, inf) + _quantile(POWER, inf)) * hypot(spread, error)
    return Agreement(difference, together, difference / together, min(p, 1.0), noticed, inf, True)


def _unjudged(difference: float) -> Agreement:
    return Agreement(difference, None, None, None, None, np.inf)


def _effective(parts: tuple[tuple[float, float], ...], together: float) -> float:
    """Welch and Satterthwaite (JCGM 100, G.4.1)."""
    rest = sum(
        (error / together) ** 4 / degrees for error, degrees in parts if error and not isinf(degrees) and degrees > 0
    )
    return 1 / rest if rest > 0 else inf


def _quantile(share: float, degrees: float) -> float:
    return float(ndtri(share) if isinf(degrees) else stdtrit(degrees, share))
