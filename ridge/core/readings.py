"""Readings: the measured pairs, what is known about their uncertainty, and which may take part in a fit."""

from __future__ import annotations

from collections.abc import Mapping
from copy import copy
from functools import cached_property
from hashlib import blake2b
from typing import Any

import numpy as np
import numpy.typing as npt

from ridge.core.errors import LengthsDiffer, OutsideSense

Array = npt.NDArray[np.float64]
Mask = npt.NDArray[np.bool_]


FLOOR = 1e-3
"""Share of the largest |y| below which a per cent uncertainty does not follow the curve."""


def _column(name: str, values: npt.ArrayLike, length: int | None) -> Array:
    # What is masked is not known, as an empty cell is.
    masked = isinstance(values, np.ma.MaskedArray)
    raw = np.ma.filled(values.astype(np.float64), np.nan) if masked else np.asarray(values)  # type: ignore[union-attr]
    if raw.dtype.kind in "US":
        raise OutsideSense(name, f"holds texts such as {raw.flat[0]!s}: turn them into numbers first.")
    if raw.dtype.kind == "M" or (raw.dtype.kind == "O" and any(hasattr(value, "isoformat") for value in raw.flat)):
        raise OutsideSense(name, "holds dates: give numbers, such as the days or hours since the first of them.")
    try:
        array = raw.astype(np.float64)
    except (TypeError, ValueError) as cause:
        raise OutsideSense(name, "holds something that is not a number.") from cause
    if array.ndim == 0 and length is not None:
        array = np.full(length, float(array))
    if array.ndim != 1:
        raise OutsideSense(name, "must be a plain list of numbers.")
    if length is not None and len(array) != length:
        raise LengthsDiffer(name, len(array), length)
    array.setflags(write=False)
    return array


def _marks(name: str, values: npt.ArrayLike | None, length: int, default: bool) -> Mask:
    marks = np.full(length, default) if values is None else np.array(values, dtype=np.bool_)
    if marks.shape != (length,):
        raise LengthsDiffer(name, marks.size, length)
    return marks


class Readings:
    """Measured pairs (x, y), one per row, any order, repeats allowed.

    Parameters
    ----------
    x, y : array-like, shape (n,)
        In any units. NaN or an infinity marks a missing value; such a row takes no part in a fit.
    x_error, y_error : array-like, shape (n,) or one number, optional
        Standard uncertainties in the units of x and y, positive.
    weight : array-like, shape (n,), optional
        Factors on the squared residuals, not negative; a reading of weight 0 takes no part.
    count : array-like, shape (n,), optional
        How often each reading occurred: it then stands for so many equal ones, in sums as in degrees of freedom. One of
        0 takes no part.
    included : array-like of bool, shape (n,), optional
        False for a reading that is set aside.
    assumed : array-like of bool, shape (n,), optional
        True for a reading that was not measured but supposed; it takes part, and a caution says so.
    error_share : float, optional
        Where the uncertainty of every y is the same share of it (0.04 for 4 %): that share, by which the uncertainty of a new
        reading is known at any y.
    relative_error : array-like, shape (n,) or one number, optional
        The part of ``y_error`` that is a share of the value, as that share; the rest of it is constant. ``error_share`` by
        default. A fit takes the share of its own curve, not of the measured y: see ``with_errors_at``.
    absolute_errors : bool
        True: ``y_error`` is known in absolute terms and is taken at its word.
        False: only the ratios between the uncertainties are known; their size is estimated from the scatter.

    Raises
    ------
    LengthsDiffer, OutsideSense

    >>> from ridge.core import Readings
    >>> readings = Readings([1, 2, 3, None], [2.1, 3.9, 6.2, 7.0], y_error=0.2)
    >>> readings.n, readings.used.tolist()
    (3, [True, True, True, False])
    """

    def __init__(
        self,
        x: npt.ArrayLike,
        y: npt.ArrayLike,
        x_error: npt.ArrayLike | None = None,
        y_error: npt.ArrayLike | None = None,
        weight: npt.ArrayLike | None = None,
        included: npt.ArrayLike | None = None,
        absolute_errors: bool = False,
        assumed: npt.ArrayLike | None = None,
        count: npt.ArrayLike | None = None,
        error_share: float | None = None,
        relative_error: npt.ArrayLike | None = None,
    ) -> None:
        self.x = _column("x", x, None)
        n = len(self.x)
        self.y = _column("y", y, n)
        self.x_error = None if x_error is None else _column("x_error", x_error, n)
        self.y_error = None if y_error is None else _column("y_error", y_error, n)
        self.weight = None if weight is None else _column("weight", weight, n)
        self.count = None if count is None else _column("count", count, n)
        if self.count is not None and np.any(np.nan_to_num(self.count) % 1):
            raise OutsideSense("count", "must be whole numbers: how often each reading occurred.")
        self.included = _marks("included", included, n, True)
        self.assumed = _marks("assumed", assumed, n, False)
        if absolute_errors and self.y_error is None:
            raise OutsideSense(
                "absolute_errors", "needs y_error: without uncertainties there is nothing to take as absolute."
            )
        self.absolute_errors = absolute_errors
        self.error_share = error_share if self.y_error is not None else None
        relative = error_share if relative_error is None else relative_error
        self.relative_error = (
            None if relative is None or self.y_error is None else _column("relative_error", relative, n)
        )
        self._constant_error = self._constant_part()

    @classmethod
    def from_columns(cls, columns: Mapping[str, npt.ArrayLike], x: str, y: str, **more: Any) -> Readings:
        """Readings from named columns: a dictionary of lists, or a data frame.

        ``x`` and ``y`` name columns; so do ``x_error``, ``y_error``, ``weight`` and ``included`` where they are texts.
        Other keyword arguments go to ``Readings`` as they are. Raises OutsideSense for a name that is not there.

        >>> from ridge.core import Readings
        >>> Readings.from_columns({"load": [1, 2, 3], "stretch": [2.1, 3.9, 6.2]}, "load", "stretch")
        Readings(3 rows, 3 used)
        """

        def column(name: str) -> npt.ArrayLike:
            try:
                return columns[name]
            except KeyError:
                raise OutsideSense(name, f"is not among the columns {', '.join(map(str, columns))}.") from None

        given: dict[str, Any] = {key: column(value) if isinstance(value, str) else value for key, value in more.items()}
        return cls(column(x), column(y), **given)

    def __len__(self) -> int:
        return len(self.x)

    def __repr__(self) -> str:
        return f"Readings({len(self)} rows, {int(self.used.sum())} used)"

    def _repr_html_(self) -> str:
        """The first rows as a table, for notebooks."""
        head = "".join(
            f"<tr><td>{i + 1}</td><td>{self.x[i]:g}</td><td>{self.y[i]:g}</td><td>{'' if self.used[i] else 'not used'}</td></tr>"
            for i in range(min(10, len(self)))
        )
        more = f"<tr><td colspan=4>and {len(self) - 10} more</td></tr>" if len(self) > 10 else ""
        return f"<table><thead><tr><th>row</th><th>x</th><th>y</th><th></th></tr></thead><tbody>{head}{more}</tbody></table>"

    @cached_property
    def fingerprint(self) -> bytes:
        """The same for equal readings, whatever objects hold them, and different for others."""
        digest = blake2b(digest_size=16)
        columns = (
            self.x, self.y, self.x_error, self.y_error, self.weight, self.count, self.included, self.assumed,
            self.relative_error, self._constant_error,
        )  # fmt: skip
        for column in columns:
            digest.update(b"-" if column is None else column.tobytes() + b"+")
        digest.update(repr((self.absolute_errors, self.error_share)).encode())
        return digest.digest()

    def within(self, low: float, high: float) -> Readings:
        """The same readings with only those from ``low`` to ``high`` in x, ends included, taking part.

        Raises OutsideSense where low is not below high.
        """
        if not low < high:
            raise OutsideSense("x_range", "its first value must be smaller than its second.")
        with np.errstate(invalid="ignore"):
            inside = (self.x >= low) & (self.x <= high)
        return self.choosing(self.included & inside)

    def choosing(self, included: npt.ArrayLike) -> Readings:
        """The same readings with another choice of rows, shape (n,), taking part."""
        other = copy(self)
        for name in ("used", "unknowns", "measured_range", "reference_error", "used_weights", "fingerprint"):
            other.__dict__.pop(name, None)
        other.included = _marks("included", included, len(self), True)
        return other

    def _constant_part(self) -> Array | None:
        """What ``y_error`` holds beside the share of the value, shape (n,)."""
        if self.relative_error is None or self.y_error is None:
            return None
        with np.errstate(over="ignore", invalid="ignore"):
            rest = self.y_error**2 - (self.relative_error * self.y) ** 2
            # What is left by rounding is nothing.
            return np.sqrt(np.where(rest > 1e-12 * self.y_error**2, rest, 0.0))

    def with_errors_at(self, values: Array) -> Readings:
        """Return the readings with uncertainties that are shares of ``values``, shape (n,), instead of the measured y.

        Weights from measured values favour readings that happen to lie low, which biases the curve. ``FLOOR`` keeps the
        uncertainty positive where the curve crosses zero.
        """
        if self.relative_error is None or self._constant_error is None or self.y_error is None:
            return self
        other = self.choosing(self.included)
        with np.errstate(over="ignore", invalid="ignore"):
            size = np.maximum(np.abs(values), FLOOR * np.max(np.abs(self.y[self.used]), initial=0.0))
            errors = np.hypot(self._constant_error, self.relative_error * size)
        known = np.isfinite(errors) & (errors > 0)
        other.y_error = np.where(known & (self.y_error > 0), errors, self.y_error)
        other.y_error.setflags(write=False)
        return other

    def moved(self, x: npt.ArrayLike | None = None, y: npt.ArrayLike | None = None) -> Readings:
        """The same readings moved by so much, each shift of shape (n,); None for not at all."""
        other = self.choosing(self.included)
        other.x = self.x if x is None else _column("x", self.x + np.asarray(x, dtype=np.float64), len(self))
        other.y = self.y if y is None else _column("y", self.y + np.asarray(y, dtype=np.float64), len(self))
        return other

    @cached_property
    def used(self) -> Mask:
        """Rows that take part in a fit: included, finite, with a usable uncertainty and a positive weight."""
        mask: Mask = self.included & np.isfinite(self.x) & np.isfinite(self.y)
        if self.y_error is not None:
            mask &= np.isfinite(self.y_error) & (self.y_error > 0)
        if self.weight is not None:
            mask &= np.isfinite(self.weight) & (self.weight > 0)
        if self.count is not None:
            mask &= np.isfinite(self.count) & (self.count > 0)
        return mask

    @property
    def weighted(self) -> bool:
        """Whether one reading may count for more than another."""
        return not (self.y_error is None and self.weight is None and self.count is None)

    @property
    def used_counts(self) -> Array:
        """How often each of the rows in use occurred, shape (number used,); ones where no count is given."""
        return np.ones(int(self.used.sum())) if self.count is None else self.count[self.used]

    @property
    def n(self) -> int:
        """Number of readings in use, repeats counted."""
        return int(self.used.sum()) if self.count is None else int(self.count[self.used].sum())

    @cached_property
    def unknowns(self) -> Mask:
        """Rows with a y but no x: their x is to be found from the curve."""
        return self.included & np.isfinite(self.y) & np.isnan(self.x)

    @cached_property
    def measured_range(self) -> tuple[float, float]:
        """Smallest and largest x in use, in the unit of x. (nan, nan) where nothing is in use."""
        x = self.x[self.used]
        return (float(x.min()), float(x.max())) if len(x) else (float("nan"), float("nan"))

    @cached_property
    def reference_error(self) -> float:
        """Standard uncertainty of a reading of weight one, in the unit of y.

        The root of the harmonic mean of the squared uncertainties in use; 1 where none are given.
        """
        if self.y_error is None:
            return 1.0
        errors = self.y_error[self.used]
        if not len(errors):
            return 1.0
        smallest = errors.min()
        return float(smallest / np.sqrt(np.average((smallest / errors) ** 2, weights=self.used_counts)))

    @property
    def equally_weighted(self) -> bool:
        """Whether a new reading weighs as much as any of these."""
        same = self.y_error is None or np.ptp(self.y_error[self.used]) == 0 if self.used.any() else True
        return bool(same) and self.weight is None

    def new_reading(self, y: npt.ArrayLike) -> Array:
        """Standard deviation of a new reading at y over that of a reading of weight one, in the shape of y.

        By the rule of the column where its uncertainty is a share of y; otherwise one.
        """
        y = np.asarray(y, dtype=np.float64)
        if self.error_share is None:
            return np.ones(y.shape)
        with np.errstate(over="ignore", invalid="ignore"):
            return np.asarray(np.maximum(np.abs(y) * self.error_share / self.reference_error, 1e-6))

    @cached_property
    def used_weights(self) -> Array:
        """Weights of the rows in use, shape (number used,).

        ``weight`` as given, times (reference_error / y_error)², times ``count``. The second factor has mean one, so
        that equal uncertainties leave sums of squares and s in the units of y.
        """
        weights = np.ones(int(self.used.sum()))
        if self.y_error is not None:
            with np.errstate(under="ignore"):
                weights = (self.reference_error / self.y_error[self.used]) ** 2
            # Beside a far smaller uncertainty a reading counts for next to nothing, but it still counts.
            weights = np.maximum(weights, np.finfo(np.float64).tiny)
        if self.weight is not None:
            with np.errstate(over="ignore", under="ignore"):
                weights = np.maximum(weights * self.weight[self.used], np.finfo(np.float64).tiny)
        if self.count is not None:
            weights = weights * self.count[self.used]
        return weights
