"""The fitted curve: its value, slope and variance, each computed in the form that keeps its digits."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

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


@dataclass(frozen=True)
class LinearCurve:
    """A polynomial in u = (t(x) − centre)/scale: far from zero it does not subtract nearly equal numbers."""

    model: Model
    form: LinearForm
    powers: tuple[int, ...]
    centre: ExtendedNumber
    scale: ExtendedNumber
    coefficients: Extended
    inverse_factor: Extended
    known: tuple[tuple[int, float], ...]
    """Power and value of each fixed parameter."""
    values: Mapping[str, float]

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

    def slope(self, x: npt.ArrayLike) -> Array:
        return self._derivative(x, 1)

    def bend(self, x: npt.ArrayLike) -> Array:
        return self._derivative(x, 2)

    def _derivative(self, x: npt.ArrayLike, order: int) -> Array:
        if not self.form.transforms_nothing:
            return self.model.slope(x, self.values) if order == 1 else self.model.bend(x, self.values)
        t, u = self._inner(x)
        with np.errstate(all="ignore"):
            columns = _derived_powers(u, self.powers, order) / self.scale**order
            total = np.tensordot(self.coefficients, columns, axes=1) if self.powers else np.zeros_like(u)
            for power, fixed in self.known:
                total = total + np.longdouble(fixed) * _derived_powers(t, (power,), order)[0]
            return np.asarray(total, dtype=np.float64)

    def rows(self, x: npt.ArrayLike, order: int = 0) -> Array:
        u = self._inner(x)[1].astype(np.float64)
        with np.errstate(all="ignore"):
            columns = _derived_powers(u, self.powers, 0)
            if order and self.form.transforms_nothing:
                columns = _derived_powers(u, self.powers, order) / float(self.scale) ** order
            elif order:
                # By the chain rule, with the derivatives of t by x.
                first, second = self.form.transform_derivatives(np.asarray(x, dtype=np.float64))
                one = _derived_powers(u, self.powers, 1) / float(self.scale)
                two = _derived_powers(u, self.powers, 2) / float(self.scale) ** 2
                columns = one * first if order == 1 else two * first**2 + one * second
            return np.asarray(np.moveaxis(columns, 0, -1) @ self.inverse_factor.astype(np.float64))

    def unit_variance(self, x: npt.ArrayLike) -> Array:
        return np.asarray(np.sum(self.rows(x) ** 2, axis=-1))


def _derived_powers(u: Any, powers: tuple[int, ...], order: int) -> Any:
    """Derivatives of the powers of u along a new first axis."""
    if order == 0:
        return powers_of(u, powers)
    u = np.asarray(u)
    rows = np.zeros((len(powers), *u.shape), dtype=u.dtype)
    for i, power in enumerate(powers):
        if power >= order:
            factor = power if order == 1 else power * (power - 1)
            rows[i] = factor * _raised(u, power - order)
    return rows


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

    def slope(self, x: npt.ArrayLike) -> Array:
        return self.model.slope(x, self.values)

    def bend(self, x: npt.ArrayLike) -> Array:
        return self.model.bend(x, self.values)

    def rows(self, x: npt.ArrayLike, order: int = 0) -> Array:
        x = np.asarray(x, dtype=np.float64)
        if order == 0:
            gradient = self.model.gradient(x, self.values)
        else:
            gradient = self.model.slope_gradients(x, self.values)[order - 1]
        with np.errstate(all="ignore"):
            return np.asarray((gradient * self.sizes) @ self.root)

    def unit_variance(self, x: npt.ArrayLike) -> Array:
        return np.asarray(np.sum(self.rows(x) ** 2, axis=-1))
