"""From one trial to its minimum: the same steps as ``descend``, without the cost of many side by side.

With few readings nearly all time goes into calls, so the readings are touched by one program and one factorisation a
step, and what is left, a handful of numbers, is worked on as plain floats.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import hypot, inf, isfinite, sqrt
from typing import Any

import numpy as np
from scipy.linalg.lapack import dgeqrf

from ridge.core.fitting.deadline import Deadline
from ridge.core.fitting.descend import Data
from ridge.core.fitting.separable import NEGLIGIBLE, Separable
from ridge.core.readings import Array

Row = list[float]


@dataclass(frozen=True)
class Minimum:
    """Nonlinear parameters (k,), linear ones (m,), and the sum of squares there."""

    shape: Array
    coefficients: Array
    rss: float


class _Ground:
    """What every place of one descent stands on: the problem and the readings."""

    def __init__(self, problem: Separable, data: Data) -> None:
        self.problem, self.data = problem, data

    def triangle(self, columns: list[Any]) -> list[Row]:
        """R of the columns, each an array (n,) or a number, times the root weights: row by row, below the diagonal zeros.

        Where there are fewer readings than columns, rows of zeros take their place.
        """
        count, length = len(columns), len(self.data.x)
        held = np.zeros((max(length, count), count), order="F")
        for j, column in enumerate(columns):
            held[:length, j] = column
        if self.data.root is not None:
            held[:length] *= self.data.root[:, None]
        found = dgeqrf(held, overwrite_a=1)[0][:count]
        for i in range(1, count):
            found[i, :i] = 0.0  # where the factorisation keeps its own notes
        return found.tolist()  # type: ignore[no-any-return]


class _Place:
    """The best linear parameters at one shape. ``rss`` is infinite where the model has no value."""

    def __init__(self, ground: _Ground, shape: Row) -> None:
        self.shape, self._ground = shape, ground
        offset, columns, derivatives = ground.problem.split_of_one(ground.data.x, shape)
        wanted = ground.data.y if offset is None else ground.data.y - offset
        told = list(range(len(columns)))
        rows = ground.triangle([*columns, *derivatives, wanted])
        while (extra := _adds_nothing(rows, len(told))) is not None:
            del told[extra]
            rows = ground.triangle([*(columns[j] for j in told), *derivatives, wanted])
        self.coefficients = [0.0] * len(columns)
        self._count = count = len(told)
        for i in range(count - 1, -1, -1):
            row = rows[i]
            known = row[-1]
            for j in range(i + 1, count):
                known -= row[j] * self.coefficients[told[j]]
            self.coefficients[told[i]] = known / row[i]
        self._rest = rest = rows[count:]
        rss = 0.0
        for row in rest:
            rss += row[-1] * row[-1]
        self.rss = rss if isfinite(rss + sum(self.coefficients)) else inf

    def linearised(self) -> tuple[list[Row], Row]:
        """R of the slopes, the linear parameters taken out, (k, k); and the rest turned the same way, (k,)."""
        slopes: list[Row] = []
        place = self._count
        for parts in self._ground.problem.parts:
            slope = [0.0] * len(self._rest)
            for j in parts:
                factor = 1.0 if j is None else self.coefficients[j]
                for i, row in enumerate(self._rest):
                    slope[i] += factor * row[place]
                place += 1
            slopes.append(slope)
        target = [row[-1] for row in self._rest]
        if len(slopes) == 1:
            length = hypot(*slopes[0])
            return [[length]], [_dot(slopes[0], target) / length if length > 0 else 0.0]
        small = np.zeros((max(len(target), len(slopes)), len(slopes) + 1), order="F")
        small[: len(target)] = np.array([*slopes, target]).T
        triangle = np.triu(dgeqrf(small, overwrite_a=1)[0][: len(slopes)])
        return triangle[:, :-1].tolist(), triangle[:, -1].tolist()


def _adds_nothing(rows: list[Row], count: int) -> int | None:
    """The first of so many columns that is a combination of those before it."""
    for i in range(count):
        length = hypot(*[row[i] for row in rows[: i + 1]])
        if abs(rows[i][i]) <= NEGLIGIBLE * length:
            return i
    return None


def _dot(a: Sequence[float], b: Sequence[float]) -> float:
    return sum(u * v for u, v in zip(a, b, strict=True))


def descend_one(
    problem: Separable,
    data: Data,
    shape: Array,
    iterations: int,
    deadline: Deadline,
    farthest: Array,
    to_beat: float = inf,
    settled: float = 1e-24,
) -> Minimum:
    """Go downhill from one shape (k,), each parameter no larger than ``farthest`` (k,).

    Given up where it does not get below ``to_beat`` any more; done when a step promises no more than the share ``settled``.
    """
    with np.errstate(all="ignore"):
        ground = _Ground(problem, data)
        here = _Place(ground, shape.tolist())
        walls = farthest.tolist()
        damping, growth = 1e-7, 2.0
        scale = size = [0.0] * len(walls)
        moved = True
        inner: list[Row] = []
        target: Row = []
        before: tuple[float, float] | None = None  # of one parameter: its last place and the gradient there
        for _ in range(iterations if isfinite(here.rss) and walls else 0):
            if deadline.passed or here.rss <= 0:
                break
            if moved:
                inner, target = here.linearised()
                promised = _dot(target, target)
                # Even five times what the straightened problem promises would not do.
                if not isfinite(promised) or here.rss - 5 * promised > to_beat * (1 + 1e-9):
                    break
                scale = [max(old, hypot(*(row[j] for row in inner))) for j, old in enumerate(scale)]
                size = [value if value > 0 else 1.0 for value in scale]
            step = _secant_step(inner, target, here.shape, before) if moved else None
            if step is None:
                step = _step(inner, target, size, damping)
            if moved and len(target) == 1:
                before = (here.shape[0], inner[0][0] * target[0])
            bent = [_dot(row, step) for row in inner]
            predicted = damping * sum((a * b) * (a * b) for a, b in zip(step, size, strict=True)) + _dot(bent, bent)
            if predicted <= settled * here.rss or damping > 1e12:
                break
            shape_there = [a + b for a, b in zip(here.shape, step, strict=True)]
            if all(abs(value) <= wall for value, wall in zip(shape_there, walls, strict=True)):
                there = _Place(ground, shape_there)
                gained = here.rss - there.rss
                # Where the step is down in the rounding of the sum it is taken on trust: it is nearly the last.
                moved = gained > 0 or (predicted < 1e-13 * here.rss and gained > -1e-13 * here.rss)
            else:
                moved = False
            if moved:
                if there.rss - to_beat > 100 * gained:
                    break  # at this pace it would take for ever
                ratio = min(gained / predicted, 2.0) if predicted > 0 else 1.0
                bend = 2 * ratio - 1
                damping = max(damping * max(1 / 3, 1 - bend * bend * bend), 1e-15)
                growth = 2.0
                here = there
            else:
                damping = max(damping * growth, 1e-3)
                growth *= 2
    return Minimum(np.array(here.shape), np.array(here.coefficients), here.rss)


def _secant_step(inner: list[Row], target: Row, shape: Row, before: tuple[float, float] | None) -> Row | None:
    """Newton's step for one parameter, the curvature from the last two gradients; None where it is not to be trusted.

    It takes in the bend of the model that Gauss and Newton leave out, so that the last digits come sooner.
    """
    if before is None:
        return None
    gradient = inner[0][0] * target[0]
    moved = shape[0] - before[0]
    curvature = (before[1] - gradient) / moved if moved else 0.0
    usual = inner[0][0] * inner[0][0]
    return [gradient / curvature] if 0.3 * usual < curvature < 3 * usual else None


def _step(inner: list[Row], target: Row, size: Row, damping: float) -> Row:
    """The step that minimises |target − inner·step|² + damping·|size·step|²."""
    k = len(target)
    if k == 1:
        scaled = inner[0][0] / size[0]
        return [scaled * target[0] / (scaled * scaled + damping) / size[0]]
    damped = np.zeros((2 * k, k))
    damped[:k] = np.array(inner) / size
    damped[k + np.arange(k), np.arange(k)] = sqrt(damping)
    found = np.linalg.lstsq(damped, np.array([*target, *([0.0] * k)]), rcond=None)[0]
    return [float(value) / length for value, length in zip(found, size, strict=True)]
