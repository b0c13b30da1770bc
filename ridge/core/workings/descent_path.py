"""The path of nonlinear least squares from a start to the solution, one damped Gauss-Newton step after the other.

Levenberg and Marquardt's damping as in ``ridge.core.fitting.damping``, in the model's own parameters, so that every step can be
followed; the fit itself takes a shorter way (it eliminates the linear parameters) to the best minimum.
"""

from __future__ import annotations

import numpy as np

from ridge.core.errors import NoFit
from ridge.core.fitting.damping import FIRST, GROWTH, MOST, eased, is_taken
from ridge.core.formula.tree import Name, number
from ridge.core.readings import Array
from ridge.core.results.steps import Check, ModelEquation, Origin, Statement, Step, Table, parameter
from ridge.core.workings.asked import Asked
from ridge.core.workings.exact_columns import exactly
from ridge.core.workings.linear_problem import is_linear
from ridge.core.workings.tried_by_hand import values_at_hand

SETTLED = 1e-18
"""A step that promises no more than this share of the sum of squares is not shown: nine digits stand."""
MOST_STEPS = 200
MOST_WORK = 4_000_000
"""Readings times steps; of very many readings the path is cut short."""
SHARE = 1e-6
"""Relative difference of two sums of squares within which they are the same minimum."""


def descent_path(asked: Asked) -> list[Step]:
    """Parameters and sum of squares at each step, from ``start`` (by default the values at hand), and whether it ends where the fit
    does. Raises NoFit where the model has no value at the start."""
    model = asked.wanted_model
    begin = values_at_hand(asked) | dict(asked.start) if asked.start else _begin(asked)
    path, whole = _descend(asked, begin)
    names = model.parameter_names
    rows = tuple(
        (*(exactly(begin[name]) if place == 0 else values[name] for name in names), rss)
        for place, (values, rss) in enumerate(path)
    )
    fit = asked.fit
    rss, best = path[-1][1], float(fit.statistics.residual_sum_of_squares)
    same = abs(rss - best) <= SHARE * best
    steps: list[Step] = [] if is_linear(model) else [Statement("not-linear")]
    steps += [
        ModelEquation("general-form", model),
        ModelEquation("at-hand", model, {name: exactly(begin[name]) for name in names}),
        Table(
            "path", (*(parameter(name) for name in names), Name("rss")), rows, marked_row=len(rows) - 1,
            labels=tuple(number(place) for place in range(len(rows))), facts={"names": names, "steps": len(rows) - 1}, origins=(Origin("readings"),),
        ),
        Statement("path-end", facts={"same": same, "rss": rss, "best": best, "whole": whole, "steps": len(path) - 1}),
        ModelEquation("equation", model, {name: fit.parameters[name].value for name in names}),
    ]  # fmt: skip
    if same:  # the parameters themselves may be hardly determined
        steps.append(Check("fit", (Name("rss"),), (rss,), (best,), SHARE))
    return steps


def _begin(asked: Asked) -> dict[str, float]:
    """Values read off the readings, unless a fit by hand gives others."""
    by_hand = asked.given_fit is not None and asked.given_fit.least_squares_in == "given"
    if by_hand or asked.values:
        return values_at_hand(asked)
    return values_at_hand(Asked(asked.readings, asked.model))


def _descend(asked: Asked, begin: dict[str, float]) -> tuple[list[tuple[dict[str, float], float]], bool]:
    """The path, and whether it came to its end."""
    model, readings = asked.wanted_model, asked.readings
    used = readings.used
    x, y, root = readings.x[used], readings.y[used], np.sqrt(readings.used_weights)
    free = [place for place, name in enumerate(model.parameter_names) if name not in model.fixed]

    def missed(at: Array) -> Array:
        values = dict(zip(model.parameter_names, at.tolist(), strict=True))
        with np.errstate(all="ignore"):
            return np.asarray((y - model.evaluate(x, values)) * root)

    def told(at: Array, rss: float) -> tuple[dict[str, float], float]:
        return dict(zip(model.parameter_names, at.tolist(), strict=True)), rss

    here = np.array([begin[name] for name in model.parameter_names])
    residuals = missed(here)
    rss = float(residuals @ residuals)
    if not np.isfinite(rss):
        raise NoFit(
            "The curve has no value at some readings with the values that the path begins with. Choose other values."
        )
    path = [told(here, rss)]
    damping, growth = FIRST, GROWTH
    sizes = np.zeros(len(free))
    most = max(20, min(MOST_STEPS, MOST_WORK // len(x)))
    while len(path) <= most and damping <= MOST:
        values = dict(zip(model.parameter_names, here.tolist(), strict=True))
        slopes = model.gradient(x, values)[:, free] * root[:, None]
        if not np.isfinite(slopes).all():
            break
        sizes = np.maximum(sizes, np.linalg.norm(slopes, axis=0))
        held = np.where(sizes > 0, sizes, 1.0)
        damped = np.concatenate([slopes / held, np.sqrt(damping) * np.eye(len(free))])
        turned = np.linalg.lstsq(damped, np.concatenate([residuals, np.zeros(len(free))]), rcond=None)[0]
        bent = (slopes / held) @ turned
        predicted = float(bent @ bent + 2 * damping * (turned @ turned))
        if predicted <= SETTLED * rss:
            break
        there = here.copy()
        there[free] += turned / held
        new = missed(there)
        new_rss = float(new @ new)
        if not (np.isfinite(new_rss) and is_taken(rss - new_rss, predicted, rss)):
            damping, growth = damping * growth, growth * 2
            continue
        damping, growth = eased(damping, (rss - new_rss) / predicted), GROWTH
        here, residuals, rss = there, new, new_rss
        path.append(told(here, rss))
    return path, len(path) <= most
