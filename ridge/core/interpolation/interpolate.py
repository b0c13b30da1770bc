"""The front door: a curve of the wanted kind through the readings in use."""

from __future__ import annotations

import numpy as np

from ridge.core.errors import OutsideSense, RepeatedX, TooFewReadings
from ridge.core.interpolation.base import Interpolation, Shape
from ridge.core.interpolation.kinds import ENDS, HIGHEST, KINDS
from ridge.core.interpolation.piecewise import cubic_spline, monotone, spline, straight
from ridge.core.interpolation.through_all import ThroughAll
from ridge.core.readings import Array, Readings

MOST_FOR_ONE = 1000
"""Nodes up to which one polynomial is led through all; its value takes a step for each of them."""
_LEAST = {"linear": 2, "polynomial": 2, "cubic-spline": 2, "monotone": 2}


def interpolate(
    readings: Readings,
    kind: str,
    *,
    ends: str = "natural",
    degree: int = 3,
    end_slopes: tuple[float, float] = (0.0, 0.0),
    average_repeats: bool = False,
) -> Interpolation:
    """A curve through every reading in use.

    Parameters
    ----------
    kind : str
        "linear" (straight pieces), "polynomial" (one through all), "cubic-spline", "monotone" (cubics that do not turn
        between readings) or "spline" of the given degree.
    ends : str
        What a cubic spline does at its ends: "natural" (no bend there), "not-a-knot", "clamped" (with ``end_slopes``) or
        "periodic" (first and last y equal).
    degree : int
        1 to 5, for "spline".
    average_repeats : bool
        Whether several y at one x are replaced by their mean, weighted as in ``Readings.used_weights``.

    Raises
    ------
    TooFewReadings, RepeatedX, OutsideSense (for one polynomial through more than 1000 readings, too)

    >>> from ridge.core import Readings, interpolate
    >>> curve = interpolate(Readings([0, 1, 2, 3], [0, 1, 0, 1]), "monotone")
    >>> curve([0.5, 1.5]).tolist()
    [0.75, 0.5]
    """
    if kind not in KINDS:
        raise OutsideSense("kind", f"is one of {', '.join(KINDS)}.")
    if ends not in dict(ENDS):
        raise OutsideSense("ends", f"is one of {', '.join(dict(ENDS))}.")
    if kind == "spline" and degree not in range(1, HIGHEST + 1):
        raise OutsideSense("degree", f"is a whole number from 1 to {HIGHEST}.")
    if not np.all(np.isfinite(end_slopes)):
        raise OutsideSense("end_slopes", "must be two finite numbers.")
    x, y, averaged = _nodes(readings, average_repeats)
    least = degree + 1 if kind == "spline" else 3 if ends == "periodic" and kind == "cubic-spline" else _LEAST[kind]
    if kind == "polynomial" and len(x) > MOST_FOR_ONE:
        raise OutsideSense(
            "kind", f"one polynomial through more than {MOST_FOR_ONE} readings says nothing. Use a spline."
        )
    if len(x) < least:
        raise TooFewReadings(least, len(x))
    if kind == "cubic-spline" and ends == "periodic" and abs(y[0] - y[-1]) > 1e-12 * float(np.max(np.abs(y))):
        raise OutsideSense("ends", "a periodic spline needs the same y at its first and last x.")
    if kind == "cubic-spline" and ends == "periodic":
        y = np.append(y[:-1], y[0])
    with np.errstate(all="ignore"):
        try:
            shape = _shape(kind, x, y, ends, degree, end_slopes)
            held = bool(np.all(np.isfinite(shape.value(x))))
        except (ValueError, np.linalg.LinAlgError):  # SciPy's way of saying that numbers ran out
            held = False
        if not held:
            raise OutsideSense("y", "the readings are too large or too close together for this curve.")
    return Interpolation(readings, kind, ends, degree, x, y, shape, averaged)


def _shape(kind: str, x: Array, y: Array, ends: str, degree: int, end_slopes: tuple[float, float]) -> Shape:
    if kind == "linear":
        return straight(x, y)
    if kind == "polynomial":
        return ThroughAll(x, y)
    if kind == "cubic-spline":
        return cubic_spline(x, y, ends, end_slopes)
    return monotone(x, y) if kind == "monotone" else spline(x, y, degree)


def _nodes(readings: Readings, average_repeats: bool) -> tuple[Array, Array, bool]:
    """x ascending, each once, with its y; and whether any were averaged."""
    used = np.flatnonzero(readings.used)
    order = np.argsort(readings.x[used], kind="stable")
    x, y, weights = readings.x[used][order], readings.y[used][order], readings.used_weights[order]
    distinct, first, inverse, counts = np.unique(x, return_index=True, return_inverse=True, return_counts=True)
    if len(distinct) == len(x):
        return x, y, False
    if not average_repeats:
        raise RepeatedX(tuple(sorted(used[order][counts[inverse] > 1].tolist())))
    total = np.add.reduceat(weights, first)
    return distinct, np.add.reduceat(weights * y, first) / total, True
