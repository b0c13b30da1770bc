"""Least squares in y: straight solves, searches, and bounds."""

from __future__ import annotations

from collections.abc import Mapping
from itertools import product

import numpy as np

from ridge.core.errors import FormulaError, NotIdentifiable, OutsideSense, TooFewReadings
from ridge.core.fitting.dress import dress
from ridge.core.fitting.effort import USUAL, Effort
from ridge.core.fitting.linear_fit import solve_linear
from ridge.core.fitting.nonlinear_fit import solve_nonlinear
from ridge.core.fitting.scene import Bounds
from ridge.core.fitting.searched import Searched
from ridge.core.fitting.solved import Prepared, Solved, prepare
from ridge.core.models import Model
from ridge.core.readings import Readings
from ridge.core.results.fit import Fit
from ridge.core.results.parameter import Held


def fit_in_y(
    readings: Readings,
    model: Model,
    start: Mapping[str, float] | None = None,
    bounds: Bounds | None = None,
    effort: Effort | None = None,
) -> Fit:
    """See ``ridge.core.fitting.fit``."""
    start, bounds = check_given(model, start or {}, bounds or {})
    n = int(readings.used.sum())
    if n == 0 or (model.linear_form is not None and n < len(model.free_names)):
        raise TooFewReadings(max(1, len(model.free_names)), n)
    prepared = prepare(readings)
    if not model.parameter_names:
        text = model.formula
        raise FormulaError(
            "The formula has no parameter to fit. Put a letter where a number is to be found.", 0, len(text), text
        )
    if not model.free_names and model.linear_form is None:
        raise OutsideSense("fixed", "keeps every parameter, so there is nothing to fit.")
    if model.linear_form is not None:
        return dress(readings, _solve_linear(prepared, model, bounds))
    solved = solve_nonlinear(prepared, model, start, bounds, Effort(USUAL) if effort is None else effort)
    linear = set(model.free_names) <= set(model.linear)
    return dress(readings, solved, None if linear else Searched(readings, model, bounds, solved.passed_over))


def check_given(model: Model, start: Mapping[str, float], bounds: Bounds) -> tuple[dict[str, float], Bounds]:
    for name in (*start, *bounds):
        if name not in model.parameter_names:
            raise OutsideSense(name, f"is no parameter of this model; it has {', '.join(model.parameter_names)}.")
    for name, value in start.items():
        if not np.isfinite(value):
            raise OutsideSense(name, "must start from a finite number.")
    for name, (low, high) in bounds.items():
        if not low < high:
            raise OutsideSense(name, "its lower bound must be smaller than its upper one.")
    free = {name: (float(low), float(high)) for name, (low, high) in bounds.items() if name not in model.fixed}
    return {name: float(value) for name, value in start.items() if name not in model.fixed}, free


def _solve_linear(prepared: Prepared, model: Model, bounds: Bounds) -> Solved:
    """Within bounds, the best of the solves with each bounded parameter free or at one of its bounds."""
    form = model.linear_form
    assert form is not None
    free = solve_linear(prepared, model, form)
    if all(low <= free.values[name] <= high for name, (low, high) in bounds.items()):
        return free
    if len(bounds) > 6:
        raise OutsideSense("bounds", "six bounded parameters at most in a model that is linear in its parameters.")
    best: Solved | None = None
    choices = [[None, *(edge for edge in bounds[name] if np.isfinite(edge))] for name in bounds]
    for choice in product(*choices):
        kept = {name: float(edge) for name, edge in zip(bounds, choice, strict=True) if edge is not None}
        if not kept:
            continue
        try:
            found = solve_linear(prepared, model.with_fixed(kept), form)
        except NotIdentifiable:
            continue
        inside = all(low <= found.values[name] <= high for name, (low, high) in bounds.items())
        if inside and (best is None or found.rss < best.rss):
            held = tuple(Held(name, value, "bound") for name, value in kept.items())
            best = Solved(**{**vars(found), "held": held})
    if best is None:
        raise OutsideSense("bounds", "leave no parameters that the readings could tell.")
    return best
