"""The catalogue of models ranked on given readings."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ridge.core.errors import RidgeError
from ridge.core.fitting.effort import Effort
from ridge.core.fitting.fit import fit
from ridge.core.fitting.result import Fit
from ridge.core.models import (
    Exponential,
    Gaussian,
    Line,
    Logarithmic,
    Logistic,
    Model,
    Polynomial,
    Power,
    Reciprocal,
    Sinusoid,
)
from ridge.core.readings import Readings

CATALOGUE: tuple[Model, ...] = (
    Line(), Polynomial(2), Polynomial(3), Polynomial(4), Exponential(), Exponential(level=True), Logarithmic(),
    Logarithmic(shift=True), Power(), Reciprocal(), Sinusoid(), Logistic(), Logistic(level=True), Gaussian(),
)  # fmt: skip
CLOSE = 2.0
"""Differences of AICc up to which two models are as good as each other (Burnham and Anderson 2002, section 2.6)."""


@dataclass(frozen=True)
class Ranked:
    """One model of the catalogue.

    ``fit`` is None where it cannot be fitted, and ``refusal`` says why. ``difference``: AICc above the best one's; None
    where there is none. ``weight``: its Akaike weight. ``close``: as good as the best. ``patterned``: whether its residuals
    show an order.
    """

    model: Model
    fit: Fit | None
    refusal: str
    difference: float | None
    weight: float
    close: bool
    patterned: bool


def rank_models(
    readings: Readings, candidates: Sequence[Model] = CATALOGUE, effort: Effort | None = None
) -> list[Ranked]:
    """Fit every candidate and order by AICc; of models as good as each other the one with fewer parameters comes first.

    Models that fit exactly come first of all; those without AICc (too few readings) follow by their residual standard
    deviation, those that cannot be fitted at the end. None is left out. ``effort`` is that of all fits together.
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
    known = [one.statistics.aicc for _, one, _ in fitted if one is not None and one.statistics.aicc is not None]
    best = min(known, default=0.0)
    total = sum(float(np.exp(-(value - best) / 2)) for value in known) or 1.0
    ranked = []
    for model, one, refusal in fitted:
        value = None if one is None else one.statistics.aicc
        difference = None if value is None else value - best
        weight = 0.0 if difference is None else float(np.exp(-difference / 2)) / total
        patterned = one is not None and one.statistics.degrees_of_freedom > 0 and one.pattern.visible
        close = difference is not None and difference <= CLOSE
        ranked.append(Ranked(model, one, refusal, difference, weight, close, patterned))
    return sorted(ranked, key=_order)


def _order(one: Ranked) -> tuple[int, int, float]:
    if one.fit is None:
        return 5, 0, 0.0
    statistics, count = one.fit.statistics, len(one.model.parameter_names)
    if statistics.exact:
        return 0, count, 0.0
    if one.difference is not None:
        return 1, count if one.close else 99, one.difference
    return 3, count, statistics.residual_standard_deviation or 0.0


def bends(readings: Readings) -> int:
    """How often the readings visibly change the way they bend: 0 for straight, 1 for one bend, 2 for an S …

    The degree of the polynomial that AICc prefers up to 6, less one.
    """
    ranked = rank_models(readings, [Polynomial(degree) for degree in range(1, 7)])
    for one in ranked:
        if one.fit is not None and isinstance(one.model, Polynomial):
            return one.model.degree - 1
    return 0
