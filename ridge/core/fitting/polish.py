"""The last digits of a nonlinear fit: Gauss–Newton steps in extended precision with exact derivatives."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ridge.core.fitting.linear import LinearSolution, solve
from ridge.core.fitting.solved import Prepared
from ridge.core.models.base import Extended, ExtendedNumber, Model
from ridge.core.readings import Array

STEPS = 60


@dataclass(frozen=True)
class Polished:
    """``values`` of all parameters, extended; ``solution`` of the last linearised solve, its columns divided by
    ``sizes``; ``rest``: weighted residuals at the values, in units of y_scale."""

    values: dict[str, ExtendedNumber]
    solution: LinearSolution
    sizes: Extended
    rest: Extended
    settled: bool

    @property
    def condition(self) -> float:
        """Condition number of the derivatives, their columns of size one, from above."""
        inverse = self.solution.inverse_factor
        return float(np.sqrt(np.sum(inverse * inverse) * len(self.rest) * len(inverse)))


class NotFinite(ArithmeticError):
    """A derivative has no value at some reading."""


def weighted_rest(prepared: Prepared, model: Model, values: dict[str, ExtendedNumber]) -> Extended:
    """Observed minus curve, times root weight, in units of y_scale."""
    rest = prepared.target - np.asarray(model.evaluate(prepared.long_x, values)) / prepared.y_scale  # type: ignore[arg-type]
    if prepared.root is not None:
        rest = rest * prepared.root
    return np.asarray(rest, dtype=np.longdouble)


def polish(prepared: Prepared, model: Model, values: dict[str, ExtendedNumber]) -> Polished:
    """Step until the parameters stand to the last digits. Raises DependentColumn where they cannot be told apart."""
    free = model.free_names
    at = [model.parameter_names.index(name) for name in free]
    values = dict(values)
    with np.errstate(all="ignore"):
        rest = weighted_rest(prepared, model, values)
        rss = np.dot(rest, rest)
        for _ in range(STEPS):
            design = np.asarray(model.gradient(prepared.long_x, values), dtype=np.longdouble)[:, at] / prepared.y_scale  # type: ignore[arg-type]
            sizes = _sizes(design)
            design /= sizes
            if not np.all(np.isfinite(design)):
                raise NotFinite
            solution = solve(design, _plain(rest, prepared.root), prepared.root)
            steps = solution.coefficients / sizes
            size = float(np.sqrt(np.dot(solution.projections, solution.projections)))
            share = np.longdouble(1)
            for _ in range(8):
                trial = values | {name: values[name] + share * steps[i] for i, name in enumerate(free)}
                found = weighted_rest(prepared, model, trial)
                found_rss = np.dot(found, found)
                if found_rss <= rss * (1 + 1e-15):
                    break
                share /= 4
            else:
                return Polished(values, solution, sizes, rest, True)
            values, rest, rss = trial, found, found_rss
            # The step in units of s. What is left after it is smaller still: no digit of a double moves any more.
            relative = float(size / np.sqrt(rss)) if rss > 0 else 0.0
            if relative < 1e-11 or size < 1e-19:
                return Polished(values, solution, sizes, rest, True)
    return Polished(values, solution, sizes, rest, False)


def _plain(rest: Extended, root: Extended | None) -> Extended:
    """Residuals without their weights, which ``solve`` puts on again; a copy, since it is used up."""
    return rest.copy() if root is None else rest / root


def _sizes(design: Extended) -> Extended:
    """Length of each column, 1 for a zero column."""
    largest = np.max(np.abs(design), axis=0)
    return np.where((largest > 0) & np.isfinite(largest), largest, np.longdouble(1))


def spread_covariance(model: Model, polished: Polished, y_scale: ExtendedNumber) -> tuple[Array, Array, Array]:
    """Covariance of all parameters for unit variance, its root and the sizes of the rows (see ``NonlinearCurve``)."""
    count = len(model.parameter_names)
    at = [model.parameter_names.index(name) for name in model.free_names]
    inverse = polished.solution.inverse_factor
    sizes, root = np.ones(count), np.zeros((count, len(at)))
    sizes[at] = (1 / polished.sizes / y_scale).astype(np.float64)
    root[at] = inverse.astype(np.float64)
    covariance = np.zeros((count, count))
    factor = inverse / polished.sizes[:, None] / y_scale
    covariance[np.ix_(at, at)] = (factor @ factor.T).astype(np.float64)
    return covariance, root, sizes
