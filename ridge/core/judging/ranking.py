"""The catalogue of models ranked on given readings."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ridge.core.catalogue import MODELS
from ridge.core.errors import RidgeError
from ridge.core.fitting.effort import Effort
from ridge.core.fitting.fit import fit
from ridge.core.judging.beside_constant import chance_beside_constant
from ridge.core.judging.comparison import leave_one_out, nested_test
from ridge.core.judging.patterns import pattern_of
from ridge.core.judging.significance import SIGNIFICANT
from ridge.core.models import Model, Polynomial
from ridge.core.readings import Readings
from ridge.core.results.fit import Fit

TRIED: tuple[Model, ...] = tuple(entry.model() for entry in MODELS if entry.form.tried)
CLOSE = 2.0
"""Differences of AICc up to which two models are as good as each other (Burnham and Anderson 2002, section 2.6)."""


@dataclass(frozen=True)
class Ranked:
    """One model of the catalogue.

    ``fit`` is None where it cannot be fitted, and ``refusal`` says why. ``difference``: AICc above that of the best model; None
    where there is none. ``weight``: its Akaike weight. ``close``: within ``CLOSE`` of the best. ``patterned``: whether its
    residuals show an order. ``no_better_than_constant``: whether the evidence against a constant is too weak for so many
    models tried. ``surpassed``: for a constant, whether another model is significantly better. ``parameters``: how many the
    readings chose. ``leave_one_out``: its error, only where there are too few readings for AICc.
    """

    model: Model
    fit: Fit | None
    refusal: str
    difference: float | None
    weight: float
    close: bool
    patterned: bool
    no_better_than_constant: bool
    surpassed: bool
    parameters: int
    leave_one_out: float | None = None


def rank_models(readings: Readings, candidates: Sequence[Model] = TRIED, effort: Effort | None = None) -> list[Ranked]:
    """Fit every candidate and order by AICc; of models as good as each other the one with fewer parameters comes first.

    Models that fit exactly come first. Each other one is tested against a constant, at 0.05 divided by the number of models
    (Bonferroni): those without significant evidence stand below the constant, so that pure noise puts another model first in
    at most 5 % of studies. Models without AICc (too few readings) follow those with it; where only a constant has an AICc
    (four readings or fewer) the leave-one-out error decides. Those that cannot be fitted stand at the end. None is left out.
    ``effort`` is that of all fits together.

    >>> from ridge.core import Readings
    >>> from ridge.core.judging.ranking import rank_models
    >>> from ridge.core.models import Line, Polynomial
    >>> readings = Readings([1, 2, 3, 4, 5, 6, 7], [2.1, 3.9, 6.2, 7.8, 10.1, 11.9, 14.1])
    >>> [ranked.model for ranked in rank_models(readings, [Polynomial(3), Line()])]
    [Line(), Polynomial(3)]
    """
    fitted: list[tuple[Model, Fit | None, str]] = []
    for model in candidates:
        try:
            fitted.append((model, fit(readings, model, effort=effort), ""))
        except RidgeError as error:
            fitted.append((model, None, str(error)))
    return order_models(fitted)


def order_models(fitted: Sequence[tuple[Model, Fit | None, str]]) -> list[Ranked]:
    """Models that were fitted to the same readings, or refused with the reason, in the order of ``rank_models``."""
    chances = [None if one is None else chance_beside_constant(one) for _, one, _ in fitted]
    tried = sum(p is not None for p in chances)
    idle = [p is not None and p > SIGNIFICANT / max(tried, 1) for p in chances]
    surpassed = any(p is not None and not weak for p, weak in zip(chances, idle, strict=True))
    few = not any(one is not None and not one.model.flat and one.statistics.aicc is not None for _, one, _ in fitted)
    known = [
        one.statistics.aicc
        for (_, one, _), weak in zip(fitted, idle, strict=True)
        if one is not None and one.statistics.aicc is not None and not weak and not (one.model.flat and surpassed)
    ]
    best = min(known, default=0.0)
    total = sum(float(np.exp(-(value - best) / 2)) for value in known) or 1.0  # of models that are more than a constant
    ranked = []
    for (model, one, refusal), weak in zip(fitted, idle, strict=True):
        value = None if one is None or few else one.statistics.aicc
        difference = None if value is None else value - best
        patterned = one is not None and one.statistics.degrees_of_freedom > 0 and pattern_of(one).visible
        beaten = one is not None and one.model.flat and surpassed
        counts = difference is not None and not weak and not beaten
        weight = float(np.exp(-difference / 2)) / total if counts and difference is not None else 0.0
        close = counts and difference is not None and difference <= CLOSE
        parameters = len(model.parameter_names) if one is None else _chosen(one)
        left_out = leave_one_out(one).error if few and one is not None else None
        ranked.append(
            Ranked(model, one, refusal, difference, weight, close, patterned, weak, beaten, parameters, left_out)
        )
    return sorted(ranked, key=_order)


def _chosen(fit: Fit) -> int:
    """Parameters that the readings chose, those at a bound among them."""
    return fit.statistics.n - fit.statistics.degrees_of_freedom + sum(held.why == "bound" for held in fit.held)


def _order(one: Ranked) -> tuple[int, float, float]:
    if one.fit is None:
        return 7, 0, 0.0
    # Of as many parameters a polynomial is the plainest.
    form = one.model.linear_form
    statistics, count = one.fit.statistics, one.parameters + (0.0 if form and form.transforms_nothing else 0.5)
    if statistics.exact:
        return 0, count, 0.0
    if statistics.degrees_of_freedom <= 0:
        return 6, count, 0.0
    if one.fit.model.flat:
        return 3, count, 0.0
    if one.difference is not None:
        return 4 if one.no_better_than_constant else 1, count if one.close else 99, one.difference
    miss = statistics.residual_standard_deviation if one.leave_one_out is None else one.leave_one_out
    miss = miss if miss is not None and np.isfinite(miss) else np.inf
    return 5 if one.no_better_than_constant else 2, 0.0 if one.leave_one_out is not None else count, float(miss)


def bends(readings: Readings) -> int:
    """How often the readings visibly change the way they bend: 0 for straight, 1 for one bend, 2 for an S …

    The degree of the lowest polynomial that no other up to the sixth improves significantly, less one.

    >>> from ridge.core import Readings
    >>> from ridge.core.judging.ranking import bends
    >>> bends(Readings([-3, -2, -1, 0, 1, 2, 3], [9.1, 4.0, 0.9, 0.1, 1.1, 3.9, 9.0]))
    1
    """
    fitted: list[Fit] = []
    for degree in range(1, 7):
        try:
            fitted.append(fit(readings, Polynomial(degree)))
        except RidgeError:
            break
    for place, one in enumerate(fitted):
        higher = fitted[place + 1 :]
        if one.statistics.exact or not any(_improves(one, more, SIGNIFICANT / len(higher)) for more in higher):
            return place
    return max(len(fitted) - 1, 0)


def _improves(smaller: Fit, larger: Fit, chance: float) -> bool:
    if larger.statistics.exact:
        return True
    p = nested_test(smaller, larger).p
    return p is not None and p < chance
