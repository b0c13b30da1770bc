"""Where an answer stands on the plot."""

from __future__ import annotations

import math

from ridge.studies.schemas import MarkOut


def mark_at(x: float, y: float, **limits: float) -> MarkOut | None:
    """A mark with those of its limits (``x_low``, ``x_high``, ``y_low``, ``y_high``) that are finite; None off the plane."""
    if not (math.isfinite(x) and math.isfinite(y)):
        return None
    names = ("x_low", "x_high", "y_low", "y_high")
    edges = {name: value if math.isfinite(value := limits.get(name, math.nan)) else None for name in names}
    return MarkOut(x=x, y=y, **edges)
