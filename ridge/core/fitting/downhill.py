"""From one trial to its minimum by damped steps, without the cost of many side by side (see ``descend``).

One loop, and two kinds of linear algebra: plain floats along a single nonlinear parameter, a QR decomposition for several.
"""

from __future__ import annotations

from collections.abc import Sequence
from math import hypot, inf, isfinite, sqrt

import numpy as np
from scipy.linalg.lapack import dgeqrf

from ridge.core.fitting.damping import FIRST, GROWTH, MOST, SETTLED, eased, is_taken
from ridge.core.fitting.descend import Data
from ridge.core.fitting.effort import STEP, Effort
from ridge.core.fitting.place import Ground, Minimum, Place, Row, Split
from ridge.core.readings import Array

HOPELESS = 5.0
"""How many times what the straightened problem promises a descent may still gain, at most (measured)."""
NEAR = 1e-7
"""Damping of a first step from a place that is near its minimum already: hardly any."""
BEATEN = 1e-9
"""Share of a sum of squares by which another must be larger to be beaten by it."""
CREEPING = 1e-4
"""Share by which a sum of squares may have fallen in the last quarter of all steps and yet count as come to its end."""
PACE = 100.0
"""Steps like the last one after which a descent that has not reached its goal is given up."""
TRUSTED = 0.3
"""Share of Gauss and Newton's curvature below which, and its inverse above which, one from two gradients is not believed."""


class Along:
    """The problem straightened at a place, for one parameter. ``promised``: by how much the sum of squares would fall if it were as
    straight as this.

    As soon as two places are known the step is Newton's own, with the curvature from their gradients: it takes in
    the bend of the model that Gauss and Newton leave out, so that the last digits come sooner."""

    def __init__(self, place: Place, before: Along | None) -> None:
        (slope,), residuals = place.slopes()
        self.at = place.theta[0]
        self.length, self.gradient = hypot(*slope), 0.0
        for a, b in zip(slope, residuals, strict=True):
            self.gradient += a * b
        self.promised = self.gradient / self.length * (self.gradient / self.length) if self.length > 0 else 0.0
        self.largest: float = max(before.largest if before else 0.0, self.length) or 1.0
        self._curvature = self._from_gradients(before)

    def _from_gradients(self, before: Along | None) -> float:
        """Half the second derivative of the sum of squares; 0 where it is not to be trusted."""
        if before is None or self.at == before.at:
            return 0.0
        usual, found = self.length * self.length, (before.gradient - self.gradient) / (self.at - before.at)
        return found if TRUSTED * usual < found < 3 * usual else 0.0

    def step(self, damping: float, fresh: bool) -> tuple[Row, float]:
        """The damped step, and by how much it promises to lower the sum. ``fresh``: whether no other was tried here yet."""
        held = damping * self.largest * self.largest
        step = self.gradient / (
            self._curvature if fresh and self._curvature else self.length * self.length + held or 1.0
        )
        return [step], (held + self.length * self.length) * step * step


class Several:
    """The same for more than one parameter: R of the slopes and the residuals turned the same way, scaled after Moré (LNM 630, 1978)."""

    def __init__(self, place: Place, before: Several | None) -> None:
        slopes, residuals = place.slopes()
        k = len(slopes)
        side_by_side = np.zeros((max(len(residuals), k), k + 1), order="F")
        side_by_side[: len(residuals)] = np.array([*slopes, residuals]).T
        triangle = np.triu(dgeqrf(side_by_side, overwrite_a=1)[0][:k])
        self._inner: list[Row] = triangle[:, :-1].tolist()
        self._target: Row = triangle[:, -1].tolist()
        self.promised = _dot(self._target, self._target)
        self.scale: Row = [
            max(old, hypot(*(row[j] for row in self._inner)))
            for j, old in enumerate(before.scale if before else [0.0] * k)
        ]
        self._size = [value if value > 0 else 1.0 for value in self.scale]

    def step(self, damping: float, fresh: bool) -> tuple[Row, float]:
        """As in ``Along``."""
        k = len(self._target)
        damped = np.zeros((2 * k, k))
        damped[:k] = np.array(self._inner) / self._size
        damped[k + np.arange(k), np.arange(k)] = sqrt(damping)
        found = np.linalg.lstsq(damped, np.array([*self._target, *([0.0] * k)]), rcond=None)[0]
        step = [float(value) / length for value, length in zip(found, self._size, strict=True)]
        bent = [_dot(row, step) for row in self._inner]
        held = damping * sum((a * b) * (a * b) for a, b in zip(step, self._size, strict=True))
        return step, held + _dot(bent, bent)


def downhill(
    problem: Split,
    data: Data,
    start: Array,
    iterations: int,
    effort: Effort,
    farthest: Array | None = None,
    to_beat: float = inf,
    settled: float = SETTLED,
    damping: float = NEAR,
) -> Minimum:
    """The minimum downhill from ``start`` (k,), each parameter no larger than ``farthest`` (k,) if that is given.

    Given up where it does not get below ``to_beat`` any more; done when a step promises no more than the share ``settled``.
    ``damping`` of the first step: more where the start may be far off.
    """
    walls = [inf] * len(start) if farthest is None else farthest.tolist()
    ground = Ground(problem, data)
    here = Place(ground, start.tolist())
    kind = Along if len(walls) == 1 else Several
    straight: Along | Several | None = None
    growth, moved, falling, lately = GROWTH, True, False, here.rss
    for i in range(iterations if isfinite(here.rss) and walls else 0):
        if effort.passed or here.rss <= 0:
            break
        effort.spend(problem.operations + STEP, len(data.x))
        if moved:
            straight = kind(here, straight)  # type: ignore[arg-type]
            if not isfinite(straight.promised) or here.rss - HOPELESS * straight.promised > to_beat * (1 + BEATEN):
                falling = True
                break
        assert straight is not None
        step, predicted = straight.step(damping, moved)
        if predicted <= settled * here.rss or damping > MOST:
            break
        theta = [a + b for a, b in zip(here.theta, step, strict=True)]
        moved = all(abs(value) <= wall for value, wall in zip(theta, walls, strict=True))
        if moved:
            there = Place(ground, theta)
            gained = here.rss - there.rss
            moved = is_taken(gained, predicted, here.rss)
        if not moved:
            damping, growth = max(damping * growth, FIRST), growth * 2
            continue
        if there.rss - to_beat > PACE * gained:
            break  # at this pace it would take for ever
        damping, growth = eased(damping, gained / predicted if predicted > 0 else 1.0), GROWTH
        here = there
        if 4 * i < 3 * iterations:
            lately = here.rss
    else:
        falling = lately - here.rss > CREEPING * here.rss
    return here.minimum(not falling and not effort.missed)


def _dot(a: Sequence[float], b: Sequence[float]) -> float:
    return sum(u * v for u, v in zip(a, b, strict=True))
