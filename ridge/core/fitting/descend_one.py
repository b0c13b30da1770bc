"""From one trial to its minimum: the same steps as ``descend``, without the cost of many side by side."""

from __future__ import annotations

from collections.abc import Sequence
from math import hypot, isfinite, sqrt

import numpy as np
from scipy.linalg.lapack import dgeqrf

from ridge.core.fitting.descend import Data
from ridge.core.fitting.effort import STEP, Effort
from ridge.core.fitting.place import Ground, Minimum, Place, Row
from ridge.core.fitting.separable import Separable
from ridge.core.readings import Array


def descend_one(
    problem: Separable,
    data: Data,
    shape: Array,
    iterations: int,
    effort: Effort,
    farthest: Array,
    to_beat: float,
    settled: float,
    damping: float,
) -> Minimum:
    """Go downhill from one shape (k,), each parameter no larger than ``farthest`` (k,); the rest as in ``downhill``."""
    ground = Ground(problem, data)
    here = Place(ground, shape.tolist())
    walls = farthest.tolist()
    growth = 2.0
    scale = size = [0.0] * len(walls)
    moved = True
    inner: list[Row] = []
    target: Row = []
    for _ in range(iterations if isfinite(here.rss) and walls else 0):
        if effort.passed or here.rss <= 0:
            break
        effort.spend(problem.operations + STEP, len(data.x))
        if moved:
            inner, target = _linearised(here)
            promised = _dot(target, target)
            # Even five times what the straightened problem promises would not do.
            if not isfinite(promised) or here.rss - 5 * promised > to_beat * (1 + 1e-9):
                break
            scale = [max(old, hypot(*(row[j] for row in inner))) for j, old in enumerate(scale)]
            size = [value if value > 0 else 1.0 for value in scale]
        step = _step(inner, target, size, damping)
        bent = [_dot(row, step) for row in inner]
        predicted = damping * sum((a * b) * (a * b) for a, b in zip(step, size, strict=True)) + _dot(bent, bent)
        if predicted <= settled * here.rss or damping > 1e12:
            break
        shape_there = [a + b for a, b in zip(here.shape, step, strict=True)]
        if all(abs(value) <= wall for value, wall in zip(shape_there, walls, strict=True)):
            there = Place(ground, shape_there)
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
    return here.minimum()


def _linearised(place: Place) -> tuple[list[Row], Row]:
    """R of the slopes, (k, k), and the rest turned the same way, (k,)."""
    slopes, rest = place.slopes()
    k = len(slopes)
    side_by_side = np.zeros((max(len(rest), k), k + 1), order="F")
    side_by_side[: len(rest)] = np.array([*slopes, rest]).T
    triangle = np.triu(dgeqrf(side_by_side, overwrite_a=1)[0][:k])
    return triangle[:, :-1].tolist(), triangle[:, -1].tolist()


def _step(inner: list[Row], target: Row, size: Row, damping: float) -> Row:
    """The step that minimises |target − inner·step|² + damping·|size·step|²."""
    k = len(target)
    damped = np.zeros((2 * k, k))
    damped[:k] = np.array(inner) / size
    damped[k + np.arange(k), np.arange(k)] = sqrt(damping)
    found = np.linalg.lstsq(damped, np.array([*target, *([0.0] * k)]), rcond=None)[0]
    return [float(value) / length for value, length in zip(found, size, strict=True)]


def _dot(a: Sequence[float], b: Sequence[float]) -> float:
    return sum(u * v for u, v in zip(a, b, strict=True))
