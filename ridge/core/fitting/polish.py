"""The last digits of a nonlinear fit: Gauss–Newton steps in extended precision with exact derivatives."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from ridge.core.fitting.effort import STEP, Effort
from ridge.core.fitting.linear import LinearSolution, solve, solve_in_doubles
from ridge.core.fitting.solved import Prepared, among_all
from ridge.core.models.base import Extended, ExtendedNumber, Model
from ridge.core.readings import Array

STEPS = 60
SETTLED = 1e-11
"""A step of fewer standard deviations than this moves no digit of a double (parameters stand to about 1e-5 s at worst)."""
NOTHING = 1e-19
"""The same where nothing scatters: the rounding of extended numbers of size one."""
ROUNDING = 1e-15
"""Share by which a sum of squares may rise in its own rounding."""
SHORTENED, SHORTER = 8, 4
"""How often a step that leads uphill is shortened, and by how much each time (step halving, Bates and Watts 1988, section 2.2)."""


@dataclass(frozen=True)
class Polished:
    """``values`` of all parameters, extended; ``solution`` of the last linearised solve, whose columns are the derivatives
    by the free ones; ``residuals``: weighted residuals at the values, in units of y_scale."""

    values: dict[str, ExtendedNumber]
    solution: LinearSolution
    residuals: Extended
    settled: bool

    @cached_property
    def scaled_inverse(self) -> Extended:
        """R⁻¹ of the derivatives with columns of length one."""
        return self.solution.inverse_factor * self.solution.lengths[:, None]

    @property
    def condition(self) -> float:
        """Condition number of the derivatives, their columns of size one, from above."""
        inverse = self.scaled_inverse
        return float(np.sqrt((inverse * inverse).sum() * len(inverse)))


class NotFinite(ArithmeticError):
    """A derivative has no value at some reading."""


def _weighted_residuals(prepared: Prepared, model: Model, values: Mapping[str, Any]) -> Extended:
    """Observed minus curve, times root weight, in units of y_scale."""
    residuals: Extended = np.asarray(model.evaluate(prepared.long_x, values), dtype=np.longdouble)
    residuals /= prepared.y_scale
    np.subtract(prepared.target, residuals, out=residuals)
    if prepared.root is not None:
        residuals *= prepared.root
    return residuals


def _linearised(
    prepared: Prepared, model: Model, values: Mapping[str, Any], at: list[int], residuals: Extended
) -> LinearSolution:
    """The residuals projected on the derivatives by the free parameters: in doubles where that keeps the digits."""
    for x, solver in ((prepared.x, solve_in_doubles), (prepared.long_x, solve)):
        plain = {name: float(value) for name, value in values.items()} if x is prepared.x else values
        basis = model.derivatives(x, plain)
        if len(at) < len(basis):
            basis = basis[at]
        if np.isfinite(basis).all():
            solution = solver(basis, _plain(residuals, prepared.root), prepared.root)
            if solution is not None:
                return solution
    raise NotFinite


def polish(prepared: Prepared, model: Model, values: dict[str, ExtendedNumber], effort: Effort) -> Polished:
    """Step until the parameters stand to the last digits. Raises DependentColumn where they cannot be told apart."""
    free = model.free_names
    at = [model.parameter_names.index(name) for name in free]
    values = dict(values)
    of_values, of_derivatives = model.polish_operations
    for _ in range(STEPS):
        residuals = _weighted_residuals(prepared, model, values)
        rss = np.dot(residuals, residuals)
        solution = _linearised(prepared, model, values, at, residuals)
        effort.spend(of_values + of_derivatives + STEP, len(residuals))
        steps = solution.coefficients * prepared.y_scale
        size = float(np.sqrt(np.dot(solution.projections, solution.projections)))
        # The step in units of s. After one so small, what the solve left over are the residuals, and no digit of a double moves.
        if size < SETTLED * float(np.sqrt(rss)) or size < NOTHING:
            values |= {name: values[name] + steps[i] for i, name in enumerate(free)}
            return Polished(values, solution, solution.weighted_residuals, True)
        fraction = np.longdouble(1)
        for _ in range(SHORTENED):
            trial = values | {name: values[name] + fraction * steps[i] for i, name in enumerate(free)}
            found = _weighted_residuals(prepared, model, trial)
            if np.dot(found, found) <= rss * (1 + ROUNDING):
                break
            effort.spend(of_values + STEP, len(residuals))
            fraction /= SHORTER
        else:
            return Polished(values, solution, residuals, True)
        values = trial
        if effort.passed:
            break
    return Polished(values, solution, found, False)


def _plain(residuals: Extended, root: Extended | None) -> Extended:
    """Residuals without their weights, which ``solve`` puts on again; a copy, since it is used up."""
    return residuals.copy() if root is None else residuals / root


def spread_covariance(model: Model, polished: Polished) -> tuple[Array, Array, Array]:
    """Covariance of all parameters for unit variance, its root and the sizes of the rows (see ``NonlinearCurve``)."""
    factor = polished.solution.inverse_factor
    covariance = among_all(model, model.free_names, (factor @ factor.T).astype(np.float64))
    sizes, root = (1 / polished.solution.lengths).astype(np.float64), polished.scaled_inverse.astype(np.float64)
    if len(sizes) < len(model.parameter_names):
        at = [model.parameter_names.index(name) for name in model.free_names]
        sizes_of_free, root_of_free = sizes, root
        sizes, root = np.ones(len(model.parameter_names)), np.zeros((len(model.parameter_names), len(at)))
        sizes[at], root[at] = sizes_of_free, root_of_free
    return covariance, root, sizes
