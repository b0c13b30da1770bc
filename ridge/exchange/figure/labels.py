"""Where the label of each curve stands: beside it, clear of readings, curves and one another."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
import numpy.typing as npt

Points = npt.NDArray[np.float64]  # shape (n, 2), in mm from the lower left of the axes

_ALONG = (0.78, 0.6, 0.4, 0.22, 0.9, 0.1, 0.5, 0.3, 0.7)
_AWAY = (1.4, 2.6, 4.0)
_PIXEL = 0.254  # mm of paper to a pixel of the screen
_CLEAR = 0.5


@dataclass(frozen=True)
class Box:
    """A text's place: its lower left and its size, in mm."""

    left: float
    bottom: float
    width: float
    height: float

    def holds(self, points: Points) -> bool:
        """Whether any of the points lies in it or at its edge."""
        x, y = points[:, 0], points[:, 1]
        across = (x > self.left - _CLEAR) & (x < self.left + self.width + _CLEAR)
        return bool((across & (y > self.bottom - _CLEAR) & (y < self.bottom + self.height + _CLEAR)).any())

    def meets(self, other: Box) -> bool:
        apart = self.left > other.left + other.width or other.left > self.left + self.width
        return not (apart or self.bottom > other.bottom + other.height or other.bottom > self.bottom + self.height)


def free_spot(
    line: Points, size: tuple[float, float], axes: tuple[float, float], taken: Sequence[Box], points: Points
) -> Box | None:
    """A place for a text of this size beside a curve; None where there is none that covers nothing. ``points``: all that is
    drawn, curves as their samples."""
    width, height = size
    for away in _AWAY:
        for share in _ALONG:
            if not len(line):
                return None
            x, y = line[round(share * (len(line) - 1))]
            for sideways, up in ((-1, 1), (1, -1), (1, 1), (-1, -1)):
                left = x - width / 2 + sideways * away
                bottom = y + away if up > 0 else y - away - height
                box = Box(min(max(left, 0.5), axes[0] - width - 0.5), bottom, width, height)
                within = box.bottom >= 0.5 and box.bottom + height <= axes[1] - 0.5 and box.left >= 0.5
                if within and not box.holds(points) and not any(box.meets(other) for other in taken):
                    return box
    return None


def moved(box: Box, by: tuple[float, float], axes: tuple[float, float]) -> Box:
    """Where the user moved it, still inside the axes; ``by`` in pixels of the screen, down counted positive."""
    left = min(max(box.left + by[0] * _PIXEL, 0.0), max(axes[0] - box.width, 0.0))
    bottom = min(max(box.bottom - by[1] * _PIXEL, 0.0), max(axes[1] - box.height, 0.0))
    return Box(left, bottom, box.width, box.height)


def dense(points: Points, step: float = 0.8) -> Points:
    """The same with places between them, so that nothing slips through a gap."""
    if len(points) < 2:
        return points
    found = [points[:1]]
    for start, end in pairwise(points):
        far = float(np.hypot(*(end - start)))
        if not np.isfinite(far):
            continue
        count = min(int(far / step) + 1, 400)
        found.append(start + (end - start) * (np.arange(1, count + 1) / count)[:, None])
    return np.concatenate(found)
