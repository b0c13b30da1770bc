"""What is searched for the best nonlinear parameters of a curve: the problem, the readings and the trials."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from ridge.core.fitting.descend import Data, Limits
from ridge.core.fitting.search import CONDENSED, condense, trial_thetas
from ridge.core.fitting.separable import Separable
from ridge.core.fitting.solved import Prepared
from ridge.core.fitting.trials import Spread, spreads
from ridge.core.formula import parse
from ridge.core.formula.tree import Node
from ridge.core.models.base import InnerForm, Model
from ridge.core.readings import Array

Bounds = Mapping[str, tuple[float, float]]

SCANNED = 120
"""Readings that a scan along one parameter works on."""


@dataclass(frozen=True)
class Scene:
    """A family's own form over u = (x − ``origin``)/``span``: all readings, the few that trials are made on, the trial values of the nonlinear parameters,
    (trials, k), and how large a nonlinear parameter may become, (k,)."""

    problem: Separable
    data: Data
    small: Data
    thetas: Array
    farthest: Array
    origin: float
    span: float

    @property
    def condensed(self) -> bool:
        return len(self.small.x) < len(self.data.x)


def data_of(prepared: Prepared, x: Array) -> Data:
    root = None if prepared.root is None else prepared.root.astype(np.float64)
    return Data(x, prepared.target.astype(np.float64), root)


def inner_scene(prepared: Prepared, form: InnerForm) -> Scene:
    """The scene of a family without fixed or bounded parameters."""
    low, high = float(prepared.x.min()), float(prepared.x.max())
    origin = low if form.shifts else 0.0
    span = (high - origin) if form.shifts else max(abs(low), abs(high))
    span = span or 1.0
    problem = _inner_problem(form.formula, form.linear, form.nonlinear)
    data = data_of(prepared, (prepared.x - origin) / span)
    single = len(form.nonlinear) == 1
    small = condense(data, SCANNED if single else CONDENSED)
    thetas = form.thetas(small.x)
    if form.more is not None and len(small.x) == len(data.x):
        thetas = np.concatenate([thetas, form.more(small.x, small.y)])
    farthest = 2 * np.abs(thetas[[0, -1]] if single else thetas).max(axis=0)
    return Scene(problem, data, small, thetas, farthest, origin, span)


@lru_cache(maxsize=32)
def _inner_problem(formula: str, linear: tuple[str, ...], nonlinear: tuple[str, ...]) -> Separable:
    """One a family, compiled once."""
    return Separable(parse(formula).tree, "x", linear, nonlinear, {})


def natural_problem(model: Model, searched: Collection[str] = (), last: str = "") -> Separable:
    """Any model in its own parameters. ``searched``: those that are searched even where they enter linearly, such as bounded ones,
    since a solve would not keep to their bounds; ``last``: one that is searched, too, and put last."""
    free = model.free_names
    linear = tuple(name for name in model.linear if name in free and name not in searched and name != last)
    nonlinear = [name for name in free if name not in linear and name != last]
    order = (*nonlinear, last) if last else tuple(nonlinear)
    return _problem(model.expression, model.variable, linear, order, tuple(sorted(model.fixed.items())))


@lru_cache(maxsize=128)
def _problem(
    tree: Node, variable: str, linear: tuple[str, ...], nonlinear: tuple[str, ...], fixed: tuple[tuple[str, float], ...]
) -> Separable:
    return Separable(tree, variable, linear, nonlinear, dict(fixed))


def natural_scene(prepared: Prepared, model: Model, bounds: Bounds) -> Scene:
    """The scene of any model in its own parameters."""
    problem = natural_problem(model, bounds)
    data = data_of(prepared, prepared.x)
    small = condense(data)
    limits = limits_of(problem.nonlinear, bounds)
    thetas = trial_thetas(reaches(prepared, model, problem.nonlinear, bounds), limits)
    return Scene(problem, data, small, thetas, np.full(thetas.shape[1], np.inf), 0.0, 1.0)


def reaches(prepared: Prepared, model: Model, names: tuple[str, ...], bounds: Bounds) -> list[Spread]:
    """Where each nonlinear parameter is looked for."""
    y = prepared.readings.y[prepared.readings.used]
    found = spreads(model.expression, model.variable, names, prepared.x, y)
    for i, name in enumerate(names):
        low, high = bounds.get(name, (-np.inf, np.inf))
        if np.isfinite(low) and np.isfinite(high):
            found[i] = _within(low, high)
    return found


def _within(low: float, high: float) -> Spread:
    if low > 0 and high > 50 * low:
        return lambda v: np.exp(np.log(low) + v * np.log(high / low))
    return lambda v: low + v * (high - low)


def limits_of(names: tuple[str, ...], bounds: Bounds) -> Limits | None:
    """Bounds of the named parameters side by side; None where there are none."""
    if not bounds:
        return None
    low, high = (
        np.array([bounds.get(name, (-np.inf, np.inf))[side] for name in names], dtype=float) for side in (0, 1)
    )
    return Limits(low, high)
