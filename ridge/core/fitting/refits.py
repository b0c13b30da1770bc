"""Least sums of squares beside a fit: with a parameter held, or with one more reading. Nothing else of a refit is worked out."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np

from ridge.core.fitting.descend import Data
from ridge.core.fitting.downhill import downhill
from ridge.core.fitting.effort import STEP, Effort
from ridge.core.fitting.place import Ground, Minimum, Place, Split
from ridge.core.fitting.scene import natural_problem
from ridge.core.fitting.separable import Separable
from ridge.core.readings import Array
from ridge.core.results.fit import Fit

STEPS = 100
SETTLED = 1e-11
"""Share of the sum of squares that a last step promises: a rise that matters is a share of some thousandth at least."""
LAST_DIGITS = 1e-20
"""The same where the parameters themselves are wanted."""
REPRODUCED = 1e-3
"""How far a sum of squares may be off that is worked out anew at the fit itself."""


class NoProfile(Exception):
    """The refits of a question would cost more than they may, or do not come to an end: the readings hardly tell the parameters
    apart."""


class _Held:
    """A problem whose last nonlinear parameter stays where it is."""

    def __init__(self, problem: Separable, value: float) -> None:
        self._problem, self._value = problem, value
        self._moving = sum(map(len, problem.parts[:-1]))
        self.parts, self.operations = problem.parts[:-1], problem.operations

    def split_of_one(self, x: Array, theta: Sequence[float]) -> tuple[Any, list[Any], list[Any]]:
        offset, columns, derivatives = self._problem.split_of_one(x, [*theta, self._value])
        return offset, columns, derivatives[: self._moving]


class Refits:
    """Refits of one fit that is not linear in its parameters, each beginning from the fit itself, so that none depends on those
    before it. Sums of squares are weighted, and in squares of ``fit.reading_deviation``."""

    def __init__(self, fit: Fit, effort: Effort) -> None:
        assert fit.reading_deviation
        used = fit.readings.used
        self._fit, self._effort, self._deviation = fit, effort, fit.reading_deviation
        self._root = np.sqrt(fit.readings.used_weights) / self._deviation
        self._data = Data(fit.readings.x[used], fit.readings.y[used], self._root)
        self.lowest = fit.statistics.residual_sum_of_squares / self._deviation / self._deviation
        self._sound: set[str] = set()

    def holding(self, name: str, value: float) -> float:
        """The least sum of squares with a parameter kept at a value; infinite where there is none. Raises NoProfile."""
        problem = natural_problem(self._fit.model, last=name)
        names = problem.nonlinear[:-1]
        best = self._best(names)
        self._check(name, _Held(problem, self._fit.values[name]), best)
        starts = [best, best + self._tangent(name, names, value)]
        return self._lowest(_Held(problem, value), self._data, starts)

    def with_one_more(self, x: float, y: float, weight: float) -> float:
        """The least sum of squares with one more reading, its own square among them; infinite where there is none. Raises
        NoProfile."""
        problem, data, root = natural_problem(self._fit.model), self._data, np.sqrt(weight) / self._deviation
        best = self._best(problem.nonlinear)
        self._check("", problem, best)
        return self._lowest(
            problem, Data(np.append(data.x, x), np.append(data.y, y), np.append(self._root, root)), [best]
        )

    def without(self, place: int) -> dict[str, float]:
        """The parameters of the fit to all rows in use but one. Raises NoProfile where they cannot be told, or not by so little."""
        problem, data = natural_problem(self._fit.model), self._data
        best = self._best(problem.nonlinear)
        self._check("", problem, best)
        others = Data(np.delete(data.x, place), np.delete(data.y, place), np.delete(self._root, place))
        if len(others.x) < len(self._fit.model.free_names):
            raise NoProfile
        found = self._minimum(problem, others, [best], LAST_DIGITS)
        if not np.isfinite(found.rss):
            raise NoProfile
        values = dict(zip(problem.nonlinear, found.theta.tolist(), strict=True))
        return {
            **self._fit.model.fixed,
            **values,
            **dict(zip(problem.linear, found.coefficients.tolist(), strict=True)),
        }

    def _tangent(self, name: str, names: Sequence[str], value: float) -> Array:
        """How far the others move with a parameter while the model is straight."""
        model, covariance = self._fit.model, self._fit.unit_covariance
        row = covariance[model.parameter_names.index(name)]
        at = [model.parameter_names.index(other) for other in names]
        moved = row[at] / row[model.parameter_names.index(name)] * (value - self._fit.values[name])
        return np.asarray(np.where(np.isfinite(moved), moved, 0.0))

    def _best(self, names: Sequence[str]) -> Array:
        return np.array([self._fit.values[name] for name in names])

    def _check(self, which: str, problem: Split, best: Array) -> None:
        """Raise NoProfile where rounding hides at the fit itself what a refit would tell."""
        if which not in self._sound:
            with np.errstate(all="ignore"):
                found = Place(Ground(problem, self._data), best.tolist()).rss
            if not abs(found - self.lowest) <= REPRODUCED * max(1.0, self.lowest):
                raise NoProfile
            self._sound.add(which)

    def _lowest(self, problem: Split, data: Data, starts: list[Array]) -> float:
        return self._minimum(problem, data, starts, SETTLED).rss

    def _minimum(self, problem: Split, data: Data, starts: list[Array], settled: float) -> Minimum:
        if self._effort.passed:
            raise NoProfile
        with np.errstate(all="ignore"):
            ground = Ground(problem, data)
            self._effort.spend(len(starts) * (problem.operations + STEP), len(data.x))
            start = min(starts, key=lambda one: Place(ground, one.tolist()).rss)
            found = downhill(problem, data, start, STEPS, self._effort, settled=settled)
        if not found.settled and np.isfinite(found.rss):
            raise NoProfile
        return found
