"""From one trial to its minimum: the same steps as ``descend``, without the cost of many side by side."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np

from ridge.core.fitting.deadline import Deadline
from ridge.core.fitting.descend import Data
from ridge.core.fitting.separable import NEGLIGIBLE, Separable
from ridge.core.readings import Array


@dataclass(frozen=True)
class Minimum:
    """Nonlinear parameters (k,), linear ones (m,), and the sum of squares there."""

    shape: Array
    coefficients: Array
    rss: float


class _Place:
    """The best linear parameters at one shape. ``rss`` is infinite where the model has no value."""

    def __init__(self, problem: Separable, data: Data, shape: Array) -> None:
        self.shape = shape
        offset, columns = problem.columns_of_one(data.x, shape)
        rest = data.y.copy() if offset is None else data.y - offset
        if data.root is not None:
            rest = rest * data.root
        count = len(columns)
        factor = np.zeros((count, count))
        shares = np.zeros(count)
        directions: list[Array] = []
        for j, column in enumerate(columns):
            column = np.full(len(data.x), column) if np.ndim(column) == 0 else np.array(column)
            if data.root is not None:
                column *= data.root
            length = column @ column
            for i, direction in enumerate(directions):
                factor[i, j] = direction @ column
                column -= factor[i, j] * direction
            left = np.sqrt(column @ column)
            if not left > NEGLIGIBLE * np.sqrt(length):
                factor[j, j] = np.inf
                column[:] = 0.0
            else:
                factor[j, j] = left
                column /= left
            shares[j] = column @ rest
            rest -= shares[j] * column
            directions.append(column)
        coefficients = np.zeros(count)
        for j in range(count - 1, -1, -1):
            coefficients[j] = (shares[j] - factor[j, j + 1 :] @ coefficients[j + 1 :]) / factor[j, j]
        rss = float(rest @ rest)
        self.coefficients, self.rest, self.directions = coefficients, rest, directions
        self.rss = rss if np.isfinite(rss) and np.isfinite(coefficients).all() else np.inf

    def linearised(self, problem: Separable, data: Data) -> tuple[Array, Array]:
        """R of the slopes, the linear parameters taken out, (k, k); and the rest turned the same way, (k,)."""
        slopes: list[Any] = []
        for slope in problem.slopes_of_one(data.x, self.shape, self.coefficients):
            slope = np.full(len(data.x), slope) if np.ndim(slope) == 0 else np.array(slope)
            if data.root is not None:
                slope *= data.root
            for direction in self.directions:
                slope -= (direction @ slope) * direction
            slopes.append(slope)
        k = len(slopes)
        if k == 1:
            length = np.sqrt(slopes[0] @ slopes[0])
            return np.array([[length]]), np.array([slopes[0] @ self.rest / length if length > 0 else 0.0])
        triangle = np.asarray(np.linalg.qr(np.column_stack([*slopes, self.rest]), mode="r"))
        factor = np.zeros((k, k + 1))
        factor[: min(k, len(triangle))] = triangle[:k]
        return factor[:, :k], factor[:, k]


def descend_one(
    problem: Separable,
    data: Data,
    shape: Array,
    iterations: int,
    deadline: Deadline,
    to_beat: float = np.inf,
    farthest: Array | float = np.inf,
    settled: float = 1e-24,
) -> Minimum:
    """Go downhill from one shape (k,), each parameter no larger than ``farthest``.

    Given up where it cannot get below ``to_beat`` any more; done when a step promises no more than the share ``settled``.
    """
    with np.errstate(all="ignore"):
        here = _Place(problem, data, np.array(shape, dtype=float))
        damping, growth = 1e-7, 2.0
        scale = np.zeros(len(here.shape))
        moved = True
        inner, target = np.zeros((0, 0)), np.zeros(0)
        before: tuple[float, float] | None = None  # of one parameter: its last place and the gradient there
        for _ in range(iterations if np.isfinite(here.rss) and len(here.shape) else 0):
            if deadline.passed or here.rss <= 0:
                break
            if moved:
                inner, target = here.linearised(problem, data)
                if not (np.isfinite(inner).all() and np.isfinite(target).all()):
                    break
                scale = np.maximum(scale, np.sqrt((inner * inner).sum(axis=0)))
                size = np.where(scale > 0, scale, 1.0)
                # Even five times what the straightened problem promises would not do.
                if here.rss - 5 * float(target @ target) > to_beat * (1 + 1e-9):
                    break
            step = _secant_step(inner, target, here.shape, before) if moved else None
            if step is None:
                step = _step(inner / size, target, damping) / size
            if moved and len(target) == 1:
                before = (float(here.shape[0]), float(inner[0, 0] * target[0]))
            scaled = step * size
            bent = inner @ step
            predicted = float(damping * (scaled @ scaled) + bent @ bent)
            there = _Place(problem, data, here.shape + step)
            inside = bool(np.all(np.abs(there.shape) <= farthest))
            gained = here.rss - there.rss if inside else -np.inf
            # Where the step is down in the rounding of the sum it is taken on trust: it is nearly the last.
            moved = gained > 0 or (predicted < 1e-13 * here.rss and gained > -1e-13 * here.rss)
            if moved:
                ratio = min(gained / predicted, 2.0) if predicted > 0 else 1.0
                damping = max(damping * max(1 / 3, 1 - (2 * ratio - 1) ** 3), 1e-15)
                growth = 2.0
                here = there
            else:
                damping = max(damping * growth, 1e-3)
                growth *= 2
            if predicted <= settled * here.rss or damping > 1e12:
                break
    return Minimum(here.shape, here.coefficients, here.rss)


def _secant_step(inner: Array, target: Array, shape: Array, before: tuple[float, float] | None) -> Array | None:
    """Newton's step for one parameter, the curvature from the last two gradients; None where it is not to be trusted.

    It takes in the bend of the model that Gauss and Newton leave out, so that the last digits come sooner.
    """
    if before is None:
        return None
    gradient = float(inner[0, 0] * target[0])
    moved = float(shape[0]) - before[0]
    curvature = (before[1] - gradient) / moved if moved else 0.0
    usual = float(inner[0, 0]) ** 2
    return np.array([gradient / curvature]) if 0.3 * usual < curvature < 3 * usual else None


def _step(inner: Array, target: Array, damping: float) -> Array:
    k = len(target)
    if k == 1:
        return np.asarray(inner[0] * target / (inner[0] ** 2 + damping))
    damped = np.zeros((2 * k, k))
    damped[:k], damped[k + np.arange(k), np.arange(k)] = inner, np.sqrt(damping)
    wanted = np.concatenate([target, np.zeros(k)])
    return np.asarray(np.linalg.lstsq(damped, wanted, rcond=None)[0])
