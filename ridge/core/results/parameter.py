"""A fitted parameter with its uncertainty, and one that was kept though nobody asked."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from ridge.core.results.read_only import ReadOnly
from ridge.core.results.statistics import check_level, critical_value, two_sided_p


@dataclass(frozen=True)
class Parameter:
    """One parameter. ``standard_error``, ``t`` and ``p_value`` are None where they have no meaning."""

    name: str
    value: float
    standard_error: float | None
    fixed: bool
    degrees_of_freedom: float
    absolute: bool
    exact: bool
    tested: bool = True
    """Whether zero is a value that it can be tested against: not where others have no meaning then, such as the frequency of
    a sinusoid without amplitude."""
    logarithm: Parameter | None = None
    """Where least squares was done in logarithms: the line's parameter whose e-th power this one is."""

    @property
    def relative_error(self) -> float | None:
        """Standard error as a share of the value's size."""
        return None if self.standard_error is None or self.value == 0 else abs(self.standard_error / self.value)

    @property
    def t(self) -> float | None:
        """Value over standard error; None for a fixed parameter, for an exact fit, in logarithms, and where zero cannot be tested."""
        if self.fixed or self.exact or not self.tested or self.logarithm is not None or not self.standard_error:
            return None
        return self.value / self.standard_error

    @property
    def p_value(self) -> float | None:
        """Two-sided p of the hypothesis that the parameter is zero."""
        return None if self.t is None else two_sided_p(self.t, self.degrees_of_freedom, self.absolute)

    def interval(self, level: float = 0.95) -> tuple[float, float]:
        """Confidence interval in the parameter's unit; unbounded where the scatter is unknown."""
        check_level(level)
        if self.logarithm is not None:
            low, high = self.logarithm.interval(level)
            return (float(np.exp(low)), float(np.exp(high)))
        if self.fixed:
            return (self.value, self.value)
        width = critical_value(level, self.degrees_of_freedom, self.absolute)
        if width is None or self.standard_error is None:
            return (-np.inf, np.inf)
        return (self.value - width * self.standard_error, self.value + width * self.standard_error)


class Parameters(ReadOnly[Parameter]):
    """Parameters by name in the order of the model; each can also be had by the ``letters`` that usually stand for it, with or
    without the sign of an index: c_0."""

    def __init__(self, parameters: Mapping[str, Parameter], letters: Mapping[str, str]) -> None:
        super().__init__(parameters)
        self._names = {letter: name for letter, name in letters.items() if letter not in parameters}

    def __contains__(self, name: object) -> bool:
        return name in self._values

    def __getitem__(self, name: str) -> Parameter:
        for written in (name, name.replace("_", "")):
            called = self._names.get(written, written)
            if called in self._values:
                return self._values[called]
        raise KeyError(f"{name} is no parameter of this model; it has {', '.join(self)}.")


@dataclass(frozen=True)
class Held:
    """A parameter that was kept although the user did not ask for it.

    ``why``: "bound" (it ran against a bound) or "redundant" (the readings cannot tell it). ``combination``: what can
    be known of the redundant ones. ``chosen``: whether the readings chose its value; not so where the formula has it twice
    over, so that no readings could.
    """

    name: str
    value: float
    why: str
    combination: str = ""
    chosen: bool = True
