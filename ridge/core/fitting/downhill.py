"""From one trial to its minimum, by what its number of nonlinear parameters calls for."""

from __future__ import annotations

from math import inf

import numpy as np

from ridge.core.fitting.descend import Data
from ridge.core.fitting.descend_along import descend_along
from ridge.core.fitting.descend_one import descend_one
from ridge.core.fitting.effort import Effort
from ridge.core.fitting.place import Ground, Minimum, Place
from ridge.core.fitting.separable import Separable
from ridge.core.readings import Array


def downhill(
    problem: Separable,
    data: Data,
    start: Array,
    iterations: int,
    effort: Effort,
    farthest: Array | None = None,
    to_beat: float = inf,
    settled: float = 1e-24,
    damping: float = 1e-7,
) -> Minimum:
    """The minimum downhill from ``start`` (k,), each parameter no larger than ``farthest`` (k,) if that is given.

    Given up where it does not get below ``to_beat`` any more; done when a step promises no more than the share ``settled``.
    ``damping`` of the first step: more where the start may be far off.
    """
    walls = np.full(len(start), inf) if farthest is None else farthest
    if len(start) == 0:
        return Place(Ground(problem, data), []).minimum()
    if len(start) == 1:
        along, wall = float(start[0]), float(walls[0])
        return descend_along(problem, data, along, iterations, effort, wall, to_beat, settled, damping)
    return descend_one(problem, data, start, iterations, effort, walls, to_beat, settled, damping)
