"""Where an answer stands on the plot, and what it is in numbers."""

from __future__ import annotations

import math
from collections.abc import Iterable

from ridge.studies.words.schemas import AnswerOut, MarkOut, NumberOut


def mark_at(x: float, y: float, **limits: float) -> MarkOut | None:
    """A mark with those of its limits (``x_low``, ``x_high``, ``y_low``, ``y_high``) that are finite; None off the plane."""
    if not (math.isfinite(x) and math.isfinite(y)):
        return None
    names = ("x_low", "x_high", "y_low", "y_high")
    edges = {name: value if math.isfinite(value := limits.get(name, math.nan)) else None for name in names}
    return MarkOut(x=x, y=y, **edges)


def seen_at(answers: Iterable[AnswerOut]) -> list[tuple[float, float]]:
    """Places that the view should show: of several x of one y only the answer itself, so that one far out does not press the
    readings together."""
    marks = [
        mark for one in answers for mark in (one.mark, *(row.mark for row in one.rows if one.direction != "x_at_y"))
    ]
    return [(mark.x, mark.y) for mark in marks if mark]


NEW, CURVE, OF_X = "new reading", "curve", "x of the reading"


def numbers_of(
    quantity: str, value: float, unit: str, *limits: tuple[str, float | None, float | None]
) -> list[NumberOut]:
    """A result with each pair of its limits (what they are the limits of, low, high), as far as they are finite."""

    def finite(end: float | None) -> float | None:
        return end if end is not None and math.isfinite(end) else None

    if not math.isfinite(value):
        return []
    known = [(of, finite(low), finite(high)) for of, low, high in limits]
    bounded = [one for one in known if one[1:] != (None, None)]
    return [
        NumberOut(quantity=quantity, value=value, low=low, high=high, unit=unit, limits=of)
        for of, low, high in bounded or [("", None, None)]
    ]
