"""Curves as samples for drawing, and the view that shows them with their readings: numbers, as the API gives them on."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence

import numpy as np
from pydantic import BaseModel as Schema

from ridge.core.carrying import Moved, prediction_with_shared
from ridge.core.interpolation import Interpolation
from ridge.core.judging.misses import seen_residuals
from ridge.core.predicting.at_x import predict
from ridge.core.readings import Array
from ridge.core.results.fit import Fit
from ridge.core.wording.naming import Naming
from ridge.core.wording.sense import sense_of
from ridge.studies.content.readings import Status, Table

SAMPLES, SAMPLES_A_LINE = 321, 97
SAMPLES_A_CYCLE, MOST_SAMPLES = 24, 4000
SAMPLES_A_PIECE = 12
FARTHEST = 1e307  # no view reaches farther, so that its width stays finite


class StretchOut(Schema):
    """A stretch of an axis."""

    low: float
    high: float


class CurveOut(Schema):
    """Samples of the curve with the confidence interval of the curve; None where that is unbounded."""

    x: list[float]
    y: list[float | None]
    low: list[float | None]
    high: list[float | None]


class ViewOut(Schema):
    """The view that shows all readings and the answers near them: low and high of each axis."""

    x: StretchOut
    y: StretchOut
    residual: float


def finite(values: Array | Iterable[float]) -> list[float | None]:
    """For JSON: None where a value is not finite."""
    array = np.asarray(values, dtype=float)
    if np.isfinite(array).all():
        return array.tolist()  # type: ignore[no-any-return]
    return [value if math.isfinite(value) else None for value in array.tolist()]


def drawn(values: Array) -> list[float | None]:
    """Values that are drawn and not read: to a millionth of the largest, which is finer than any screen."""
    known = np.abs(values[np.isfinite(values)])
    largest = float(known.max()) if len(known) else 0.0
    if not largest:
        return finite(values)
    decimals = 6 - math.floor(math.log10(largest))
    return finite(np.round(values, decimals)) if abs(decimals) < 300 else finite(values)


def sample_curve(
    result: Fit | Interpolation,
    low: float,
    high: float,
    level: float,
    naming: Naming,
    growing: bool = False,
    moved: Sequence[Moved] = (),
) -> CurveOut:
    """The curve and its confidence interval over a stretch of the x axis; ``growing``: denser towards zero, for axes
    that are not drawn evenly. An interpolation, and a curve with given numbers, has no interval. It ends where x or y makes no
    sense any more."""
    return _within_sense(_sampled(result, low, high, level, naming, growing, moved), naming)


def _within_sense(curve: CurveOut, naming: Naming) -> CurveOut:
    of_y = sense_of(naming, "y")
    if of_y.anything:
        return curve

    def inside(values: list[float | None]) -> list[float | None]:
        return [None if value is None else min(max(value, of_y.low), of_y.high) for value in values]

    there = [value is not None and of_y.holds(value) for value in curve.y]
    y = [value if holds else None for value, holds in zip(curve.y, there, strict=True)]
    band = [
        [value if holds else None for value, holds in zip(inside(end), there, strict=True)]
        for end in (curve.low, curve.high)
    ]
    return curve.model_copy(update={"y": y, "low": band[0], "high": band[1]})


def _sampled(
    result: Fit | Interpolation,
    low: float,
    high: float,
    level: float,
    naming: Naming,
    growing: bool,
    moved: Sequence[Moved],
) -> CurveOut:
    of_x = sense_of(naming, "x")
    if of_x.low < high and low < of_x.high:
        low, high = max(low, of_x.low), min(high, of_x.high)
    x = _places(result, low, high, growing)
    if isinstance(result, Interpolation) or result.least_squares_in == "given":
        with np.errstate(all="ignore"):
            y = finite(result.evaluate(x))
        return CurveOut(x=x.tolist(), y=y, low=[None] * len(x), high=[None] * len(x))
    prediction = prediction_with_shared(predict(result, x, level), moved)
    return CurveOut(
        x=x.tolist(),
        y=finite(prediction.value),
        low=finite(prediction.mean_low),
        high=finite(prediction.mean_high),
    )


def _places(result: Fit | Interpolation, low: float, high: float, growing: bool) -> Array:
    if isinstance(result, Interpolation):
        count = int(min(max(SAMPLES, SAMPLES_A_PIECE * len(result.x)), MOST_SAMPLES))
    else:
        count = SAMPLES if result.model.bends else SAMPLES_A_LINE
        cycles = result.model.cycles(result.values, low, high)
        count = int(min(max(count, SAMPLES_A_CYCLE * cycles), MOST_SAMPLES))
    x = 2 * np.linspace(low / 2, high / 2, count)  # halved, so that the widest stretch does not overflow
    if growing and low > 0 and high / low > 2:
        x = np.geomspace(low, high, max(count, SAMPLES))
    if isinstance(result, Interpolation):
        nodes = result.x[(result.x > low) & (result.x < high)]
        x = np.union1d(x, nodes[:MOST_SAMPLES])  # its corners are at the readings
    return x


def _padded(low: float, high: float, share_of_span: float) -> StretchOut:
    span = high - low
    if span <= abs(low) * 1e-12:
        span = abs(low) or 1.0
    return StretchOut(low=max(low - share_of_span * span, -FARTHEST), high=min(high + share_of_span * span, FARTHEST))


def default_view(table: Table, result: Fit | None, answers: Sequence[tuple[float, float]] = ()) -> ViewOut:
    """All readings, those set aside too, and those of the places of ``answers`` that stand within two ranges of them."""
    shown = (table.status == Status.USED) | (table.status == Status.ASIDE)
    x, y = table.readings.x[shown], table.readings.y[shown]
    if not len(x):
        return ViewOut(x=StretchOut(low=0, high=10), y=StretchOut(low=0, high=10), residual=1.0)
    low, high = float(x.min()), float(x.max())
    reach = 2 * (high - low)
    near = [place for place in answers if low - reach <= place[0] <= high + reach]
    xs = [low, high, *(place[0] for place in near)]
    ys = [float(y.min()), float(y.max()), *(place[1] for place in near)]
    if table.readings.y_error is not None:
        errors = np.nan_to_num(table.readings.y_error[shown])
        ys += [float((y - errors).min()), float((y + errors).max())]
    residual = 1.0
    if result is not None:
        used = seen_residuals(result)[table.readings.used]
        residual = float(np.max(np.abs(used), initial=0.0)) or result.statistics.residual_standard_deviation or 1.0
        residual = min(residual, FARTHEST)
    return ViewOut(x=_padded(min(xs), max(xs), 0.09), y=_padded(min(ys), max(ys), 0.09), residual=residual * 1.25)
