"""From the pixels of a picture to values and back, by marks on its axes, with turn and slant of the picture taken into account."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
import numpy.typing as npt

from ridge.core.errors import OutsideSense
from ridge.core.readings import Array
from ridge.pictures.placing import Matrix

Point = tuple[float, float]
Mark = tuple[Point, float]
LEAST_APART = 2.0
"""Pixels that two marks of an axis lie apart at least."""
LEAST_ANGLE = 5.0
"""Degrees between the axes at least: with less, every pixel off is many units off."""
SQUARE_WITHIN = 10.0
"""Degrees that the axes may be off a right angle before it is remarked."""


@dataclass(frozen=True)
class Scale:
    """Two marks on each axis, each a place in pixels from the upper left corner and its value there.

    ``log_x``, ``log_y``: logarithmic axes. Marks of one axis may lie anywhere along it; the axes need not cross at them, nor stand square
    or upright. Between the marks and beyond them values go on evenly (on a logarithmic axis their logarithms).

    Raises OutsideSense for marks at one place or of one value, for a value that has no logarithm, and for axes along one direction.

    >>> from ridge.pictures import Scale
    >>> scale = Scale(x_marks=[((100, 400), 0.0), ((500, 400), 10.0)], y_marks=[((100, 400), 1.0), ((100, 0), 100.0)], log_y=True)
    >>> scale.to_values([(300, 200)]).round(9).tolist()
    [[5.0, 10.0]]
    >>> scale.to_pixels([(5, 10)]).round(9).tolist()
    [[300.0, 200.0]]
    """

    x_marks: Sequence[Mark]
    y_marks: Sequence[Mark]
    log_x: bool = False
    log_y: bool = False

    def __post_init__(self) -> None:
        for axis in ("x", "y"):
            self._check(axis)
        if self.angle < LEAST_ANGLE or self.angle > 180 - LEAST_ANGLE:
            raise OutsideSense("y_marks", "lie along the same direction as those of x: no place can be read off.")

    @classmethod
    def plain(cls, height: float) -> Scale:
        """The picture's own pixels, with y upwards from its lower edge."""
        return cls([((0, height), 0.0), ((100, height), 100.0)], [((0, height), 0.0), ((0, height - 100), 100.0)])

    @classmethod
    def of_length(cls, ends: tuple[Point, Point], length: float) -> Scale:
        """Both axes in the unit of a known length between two places, from the first of them, x to the right and y upwards."""
        (x, y), (x2, y2) = ends
        pixels = float(np.hypot(x2 - x, y2 - y))
        if pixels < LEAST_APART:
            raise OutsideSense("ends", "lie at one place.")
        if not (np.isfinite(length) and length > 0):
            raise OutsideSense("length", "is a number above zero.")
        return cls([((x, y), 0.0), ((x + pixels, y), length)], [((x, y), 0.0), ((x, y - pixels), length)])

    def _check(self, axis: str) -> None:
        marks, log = (self.x_marks, self.log_x) if axis == "x" else (self.y_marks, self.log_y)
        name = f"{axis}_marks"
        if len(marks) != 2:
            raise OutsideSense(name, "are two marks.")
        (first, value), (second, other) = marks
        if not np.all(np.isfinite([*first, *second, value, other])):
            raise OutsideSense(name, "are finite numbers.")
        if np.hypot(first[0] - second[0], first[1] - second[1]) < LEAST_APART:
            raise OutsideSense(name, "lie at one place.")
        if log and min(value, other) <= 0:
            raise OutsideSense(name, "lie on a logarithmic axis: its values are above zero.")
        if value == other:
            raise OutsideSense(name, "have the same value.")

    @cached_property
    def _axes(self) -> Array:
        """Pixels for one step along each axis, in columns; shape (2, 2)."""
        columns = []
        for marks, log in ((self.x_marks, self.log_x), (self.y_marks, self.log_y)):
            (first, value), (second, other) = marks
            step = _even(other, log) - _even(value, log)
            columns.append((np.array(second, dtype=np.float64) - np.array(first, dtype=np.float64)) / step)
        return np.asarray(np.column_stack(columns), dtype=np.float64)

    @cached_property
    def _inverse(self) -> Array:
        return np.asarray(np.linalg.inv(self._axes), dtype=np.float64)

    @cached_property
    def _origin(self) -> Array:
        """Where both axes would be at zero, in pixels: each mark tells its own axis only, and together they tell both."""
        (at_x, x), _ = self.x_marks
        (at_y, y), _ = self.y_marks
        apart = self._inverse @ (np.array(at_x, dtype=np.float64) - np.array(at_y, dtype=np.float64))
        along_y = apart[1] + _even(y, self.log_y)
        return np.asarray(np.array(at_x) - self._axes @ np.array([_even(x, self.log_x), along_y]))

    @property
    def matrix(self) -> Matrix:
        """From pixels to places along the axes; of a logarithmic axis to the decimal logarithm of its values."""
        (a, c), (b, d) = self._inverse.tolist()
        e, f = (-(self._inverse @ self._origin)).tolist()
        return (a, b, c, d, e, f)

    @property
    def angle(self) -> float:
        """Degrees between the axes, from 0 to 180."""
        right, up = self._axes.T
        cosine = float(right @ up / (np.hypot(*right) * np.hypot(*up)))
        return float(np.degrees(np.arccos(np.clip(cosine, -1, 1))))

    @property
    def remark(self) -> str:
        """What is odd about the marks; empty where nothing is."""
        if abs(self.angle - 90) > SQUARE_WITHIN:
            return f"The axes stand at {self.angle:.0f}° to each other: check the marks, or the picture is slanted."
        return ""

    def to_values(self, pixels: npt.ArrayLike) -> Array:
        """Values of places, shape (n, 2)."""
        places = np.asarray(pixels, dtype=np.float64).reshape(-1, 2)
        even = (places - self._origin) @ self._inverse.T
        with np.errstate(over="ignore"):
            return np.column_stack([_back(even[:, 0], self.log_x), _back(even[:, 1], self.log_y)])

    def to_pixels(self, values: npt.ArrayLike) -> Array:
        """Places of values, shape (n, 2); NaN for what has no place on a logarithmic axis."""
        found = np.asarray(values, dtype=np.float64).reshape(-1, 2)
        with np.errstate(invalid="ignore", divide="ignore"):
            even = np.column_stack([_evens(found[:, 0], self.log_x), _evens(found[:, 1], self.log_y)])
            return np.asarray(even @ self._axes.T + self._origin)

    def standard_error(self, pixels: float = 0.5) -> tuple[float, float]:
        """Standard uncertainty of x and of y of a pick that is uncertain by so many pixels in each direction (JCGM 100:2008, 5.1.2); of a
        logarithmic axis as a share of the value."""
        across, up = (float(np.hypot(*row)) * pixels for row in self._inverse)
        tenfold = float(np.log(10))
        return across * (tenfold if self.log_x else 1.0), up * (tenfold if self.log_y else 1.0)


def _even(value: float, log: bool) -> float:
    return float(np.log10(value)) if log else float(value)


def _evens(values: Array, log: bool) -> Array:
    return np.where(values > 0, np.log10(np.where(values > 0, values, 1.0)), np.nan) if log else values


def _back(even: Array, log: bool) -> Array:
    return np.asarray(10.0**even) if log else even
