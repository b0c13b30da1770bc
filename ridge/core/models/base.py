"""The shape that every family of models has."""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Mapping
from typing import ClassVar

import numpy as np
import numpy.typing as npt

Extended = npt.NDArray[np.longdouble]
ExtendedNumber = np.longdouble


class Model(ABC):
    """A form of equation with named parameters."""

    family: ClassVar[str]
    parameter_names: tuple[str, ...]
    fixed: dict[str, float]
    has_constant: bool
    """Whether a free constant term is among the parameters; without one R² counts from zero."""

    @property
    def free_names(self) -> tuple[str, ...]:
        return tuple(name for name in self.parameter_names if name not in self.fixed)

    @abstractmethod
    def evaluate(self, x: npt.ArrayLike, parameters: Mapping[str, float]) -> npt.NDArray[np.float64]:
        """Values at x, same shape as x, for given parameters."""

    @abstractmethod
    def gradient(self, x: npt.ArrayLike, parameters: Mapping[str, float]) -> npt.NDArray[np.float64]:
        """Exact derivatives with respect to every parameter, shape (len(x), len(parameter_names))."""


class LinearModel(Model):
    """A model that is linear in its parameters, so that one least-squares solve finds them.

    The solve happens in u = (x − centre) / scale, which keeps it well conditioned wherever x lies.
    """

    centred: bool
    """Whether x may be shifted before solving (not where a parameter is tied to x = 0)."""

    @abstractmethod
    def design(self, u: Extended) -> Extended:
        """Columns of the shifted basis, shape (len(u), number of free parameters), the constant first."""

    @abstractmethod
    def known_part(self, x: Extended) -> Extended | float:
        """What the fixed parameters contribute at x."""

    @abstractmethod
    def to_natural(self, centre: ExtendedNumber, scale: ExtendedNumber) -> Extended:
        """Matrix that turns the coefficients of ``design`` into the free parameters."""
