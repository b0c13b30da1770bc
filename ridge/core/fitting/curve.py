"""The fitted curve: its value, slope and variance, each computed in the form that keeps its digits."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Protocol

import numpy as np
import numpy.typing as npt

from ridge.core.models.base import Extended, ExtendedNumber, LinearForm, Model
from ridge.core.readings import Array


def powers_of(u: Any, powers: tuple[int, ...]) -> Any:
    """The ascending powers of u along a new first axis, by repeated multiplication: ``**`` is slow for long doubles."""
    u = np.asarray(u)
    rows = np.empty((len(powers), *u.shape), dtype=u.dtype)
    for i, wanted in enumerate(powers):
        if i:
            rows[i] = rows[i - 1] * _raised(u, wanted - powers[i - 1])
        else:
            rows[i] = _raised(u, wanted)
    return rows


def _raised(u: Any, power: int) -> Any:
    """u to a small whole power."""
    if power == 0:
        return np.ones_like(u)
    result = u
    for _ in range(power - 1):
        result = result * u
    return result


class Curve(Protocol):
    """Arrays come back in the shape of x."""

    def value(self, x: npt.ArrayLike) -> Array:
        """The curve's y at x; NaN or infinite where it has none."""

    def unit_variance(self, x: npt.ArrayLike) -> Array:
        """Variance of the value for a reading of weight one whose variance is one."""


@dataclass(frozen=True)
class LinearCurve:
    """A polynomial in u = (t(x) − centre)/scale: far from zero it does not subtract nearly equal numbers."""

    form: LinearForm
    powers: tuple[int, ...]
    centre: ExtendedNumber
    scale: ExtendedNumber
    coefficients: Extended
    inverse_factor: Extended
    known: tuple[tuple[int, float], ...]
    """Power and value of each fixed parameter."""

    def _inner(self, x: npt.ArrayLike) -> tuple[Extended, Extended]:
        with np.errstate(all="ignore"):
            t = np.asarray(self.form.transform(np.asarray(x, dtype=np.longdouble)))
            return t, (t - self.centre) / self.scale

    def value(self, x: npt.ArrayLike) -> Array:
        t, u = self._inner(x)
        with np.errstate(all="ignore"):
            total = np.zeros_like(u)
            below = self.powers[-1] if self.powers else 0
            for power, coefficient in zip(reversed(self.powers), self.coefficients[::-1], strict=True):
                total = total * _raised(u, below - power) + coefficient
                below = power
            total = total * _raised(u, below)
            for power, fixed in self.known:
                total = total + np.longdouble(fixed) * t**power
            return np.asarray(total, dtype=np.float64)

    def unit_variance(self, x: npt.ArrayLike) -> Array:
        u = self._inner(x)[1].astype(np.float64)
        with np.errstate(all="ignore"):
            columns = np.moveaxis(powers_of(u, self.powers), 0, -1)
            return np.asarray(np.sum((columns @ self.inverse_factor.astype(np.float64)) ** 2, axis=-1))


@dataclass(frozen=True)
class NonlinearCurve:
    """The model at its parameters; the variance by the delta method with exact derivatives.

    ``root``: a square root of the covariance of all parameters for readings of variance one, zero rows for fixed
    ones; ``sizes``: what its rows were divided by to keep them near one.
    """

    model: Model
    values: Mapping[str, float]
    root: Array
    sizes: Array

    def value(self, x: npt.ArrayLike) -> Array:
        return self.model.evaluate(np.asarray(x, dtype=np.float64), self.values)

    def unit_variance(self, x: npt.ArrayLike) -> Array:
        gradient = self.model.gradient(np.asarray(x, dtype=np.float64), self.values)
        with np.errstate(all="ignore"):
            return np.asarray(np.sum(((gradient * self.sizes) @ self.root) ** 2, axis=-1))
