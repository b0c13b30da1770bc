"""The straight line y = slope·x + intercept, the intercept free or fixed."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np
import numpy.typing as npt

from ridge.core.errors import OutsideSense
from ridge.core.models.base import Extended, ExtendedNumber, LinearModel


class Line(LinearModel):
    """y = slope·x + intercept.

    Parameters
    ----------
    intercept : float, optional
        Keep the intercept at this value (``Line(intercept=0.0)`` is the line through the origin).
        Left out, it is fitted.
    """

    family = "line"
    parameter_names = ("slope", "intercept")

    def __init__(self, intercept: float | None = None) -> None:
        if intercept is not None and not np.isfinite(intercept):
            raise OutsideSense("intercept", "must be a finite number.")
        self.fixed = {} if intercept is None else {"intercept": float(intercept)}
        self.has_constant = self.centred = intercept is None

    def __repr__(self) -> str:
        return f"Line(intercept={self.fixed['intercept']})" if self.fixed else "Line()"

    def evaluate(self, x: npt.ArrayLike, parameters: Mapping[str, float]) -> npt.NDArray[np.float64]:
        return np.asarray(parameters["slope"] * np.asarray(x, dtype=float) + parameters["intercept"])

    def gradient(self, x: npt.ArrayLike, parameters: Mapping[str, float]) -> npt.NDArray[np.float64]:
        x = np.asarray(x, dtype=float)
        return np.column_stack([x, np.ones_like(x)])

    def design(self, u: Extended) -> Extended:
        return np.stack([np.ones_like(u), u] if self.has_constant else [u]).T

    def known_part(self, x: Extended) -> Extended | float:
        return self.fixed.get("intercept", 0.0)

    def to_natural(self, centre: ExtendedNumber, scale: ExtendedNumber) -> Extended:
        if not self.has_constant:
            return np.array([[1 / scale]])
        # slope = b1 / scale, intercept = b0 − b1·centre / scale
        return np.array([[0, 1 / scale], [1, -centre / scale]], dtype=np.longdouble)
