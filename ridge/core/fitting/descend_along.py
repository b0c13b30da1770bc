"""Down to a minimum along one nonlinear parameter, the linear ones eliminated.

Gauss and Newton's step, damped where it fails, as in ``descend``; as soon as two places are known, Newton's own step with
the curvature from their gradients. It takes in the bend of the model that Gauss and Newton leave out, so that the last
digits come sooner.
"""

from __future__ import annotations

from math import hypot, isfinite

from ridge.core.fitting.descend import Data
from ridge.core.fitting.effort import STEP, Effort
from ridge.core.fitting.place import Ground, Minimum, Place
from ridge.core.fitting.separable import Separable


def descend_along(
    problem: Separable,
    data: Data,
    start: float,
    iterations: int,
    effort: Effort,
    farthest: float,
    to_beat: float,
    settled: float,
    damping: float,
) -> Minimum:
    """Go downhill from ``start``, no farther from zero than ``farthest``; the rest as in ``downhill``."""
    ground = Ground(problem, data)
    here = Place(ground, [start])
    growth, largest = 2.0, 0.0
    length = gradient = curvature = 0.0
    before: tuple[float, float] | None = None  # the last place and the gradient there
    moved = True
    for _ in range(iterations if isfinite(here.rss) else 0):
        if effort.passed or here.rss <= 0:
            break
        effort.spend(problem.operations + STEP, len(data.x))
        if moved:
            (slope,), rest = here.slopes()
            length, gradient = hypot(*slope), 0.0
            for a, b in zip(slope, rest, strict=True):
                gradient += a * b
            promised = gradient / length * (gradient / length) if length > 0 else 0.0
            # Even five times what the straightened problem promises would not do.
            if not isfinite(promised) or here.rss - 5 * promised > to_beat * (1 + 1e-9):
                break
            largest = max(largest, length) or 1.0
            curvature = _curvature(length * length, gradient, here.shape[0], before)
            before = here.shape[0], gradient
        step = gradient / (curvature if moved and curvature else length * length + damping * largest * largest or 1.0)
        predicted = (damping * largest * largest + length * length) * step * step
        if predicted <= settled * here.rss or damping > 1e12:
            break
        place = here.shape[0] + step
        moved = False
        if abs(place) <= farthest:
            there = Place(ground, [place])
            gained = here.rss - there.rss
            # Where the step is down in the rounding of the sum it is taken on trust: it is nearly the last.
            moved = gained > 0 or (predicted < 1e-13 * here.rss and gained > -1e-13 * here.rss)
        if moved:
            if there.rss - to_beat > 100 * gained:
                break  # at this pace it would take for ever
            bend = 2 * min(gained / predicted, 2.0) - 1
            damping, growth = max(damping * max(1 / 3, 1 - bend * bend * bend), 1e-15), 2.0
            here = there
        else:
            damping, growth = max(damping * growth, 1e-3), growth * 2
    return here.minimum()


def _curvature(usual: float, gradient: float, place: float, before: tuple[float, float] | None) -> float:
    """Half the second derivative of the sum of squares from the last two gradients; 0 where it is not to be trusted."""
    if before is None or place == before[0]:
        return 0.0
    found = (before[1] - gradient) / (place - before[0])
    return found if 0.3 * usual < found < 3 * usual else 0.0
