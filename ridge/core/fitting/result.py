"""A fit: a model with the parameters that least squares gave it on these readings."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import TYPE_CHECKING

import numpy as np
import numpy.typing as npt

from ridge.core.fitting.curve import Curve
from ridge.core.fitting.solved import Held
from ridge.core.judging.statistics import Statistics, check_level, critical_value, two_sided_p
from ridge.core.models import Model
from ridge.core.readings import Array, Readings

if TYPE_CHECKING:
    from ridge.core.judging.cautions import Caution, Finding
    from ridge.core.judging.derived import DerivedQuantity
    from ridge.core.judging.patterns import Pattern
    from ridge.core.predicting.at_x import Prediction
    from ridge.core.predicting.at_y import Solution
    from ridge.core.wording.equation import Equation


@dataclass(frozen=True)
class Parameter:
    """One parameter. ``standard_error``, ``t`` and ``p_value`` are None where they have no meaning."""

    name: str
    value: float
    standard_error: float | None
    fixed: bool
    degrees_of_freedom: int
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


@dataclass(frozen=True)
class Fit:
    """A model fitted to readings.

    Arrays over readings have one entry per row, in the order of the readings. ``fitted`` is given wherever x
    is finite, ``residuals`` (observed minus fitted) wherever y is too, also for rows that are set aside;
    ``leverage`` only for rows in use. Elsewhere they hold NaN.
    ``covariance`` has one row per parameter in the order of ``parameters``, zeros for fixed ones,
    NaN where the scatter is unknown.
    """

    readings: Readings
    model: Model
    parameters: Mapping[str, Parameter]
    covariance: Array
    statistics: Statistics
    fitted: Array
    residuals: Array
    leverage: Array
    unit_covariance: Array
    """Covariance for a reading of weight one whose variance is one: (JᵀWJ)⁻¹, fixed parameters zero."""
    curve: Curve
    least_squares_in: str = "y"
    held: tuple[Held, ...] = ()
    """Parameters kept although nobody asked for it: at a bound, or since the readings cannot tell them apart."""
    cut_short: bool = False
    """Whether the search was stopped before it settled, by its effort as a rule."""
    log_line: Fit | None = None
    """The straight line behind a fit in logarithms."""

    def __repr__(self) -> str:
        return f"Fit({self.equation.text}, n={self.statistics.n})"

    def _repr_latex_(self) -> str:
        return f"${self.equation.latex}$"

    def _repr_html_(self) -> str:
        """Equation, parameters and the first statistics as a table, for notebooks."""
        from ridge.core.wording.summary import as_html

        return as_html(self)

    @property
    def values(self) -> dict[str, float]:
        return {name: parameter.value for name, parameter in self.parameters.items()}

    @property
    def reading_deviation(self) -> float | None:
        """Standard deviation of a reading of weight one: given, or estimated from the residuals; None if unknown."""
        if self.readings.absolute_errors:
            return self.readings.reference_error
        return self.statistics.residual_standard_deviation

    def critical_value(self, level: float) -> float | None:
        return critical_value(level, self.statistics.degrees_of_freedom, self.readings.absolute_errors)

    def evaluate(self, x: npt.ArrayLike) -> Array:
        """Values of the curve at x."""
        return self.curve.value(x)

    @cached_property
    def standardised_residuals(self) -> Array:
        """Residual over its own standard deviation, s·√((1 − leverage)/weight); NaN where that is zero or unknown.

        Internally studentised, e.g. Cook and Weisberg, "Residuals and Influence in Regression", 1982.
        """
        if self.log_line is not None:
            return self.log_line.standardised_residuals
        result = np.full(len(self.readings), np.nan)
        deviation, used = self.reading_deviation, self.readings.used
        if deviation and not self.statistics.exact:
            counts = self.readings.used_counts
            room = 1 - self.leverage[used] / counts
            with np.errstate(divide="ignore", invalid="ignore"):
                own = deviation * np.sqrt(np.where(room > 1e-12, room, np.nan) * counts / self.readings.used_weights)
                result[used] = self.residuals[used] / own
        return result

    @cached_property
    def _rows_standardised(self) -> Array:
        """The same for each row as a whole: that of the mean of as many equal readings as the row counts for."""
        result = np.full(len(self.readings), np.nan)
        deviation, used = self.reading_deviation, self.readings.used
        if deviation and not self.statistics.exact:
            room = 1 - self.leverage[used]
            with np.errstate(divide="ignore", invalid="ignore"):
                own = deviation * np.sqrt(np.where(room > 1e-12, room, np.nan) / self.readings.used_weights)
                result[used] = self.residuals[used] / own
        return result

    @cached_property
    def cooks_distance(self) -> Array:
        """Squared shift of all fitted values, over parameters times s², when a row is left out (Cook, Technometrics 19, 1977).

        A row that counts for several readings is left out as a whole. Infinite where the row alone determines a parameter:
        without it there is no such fit.
        """
        if self.log_line is not None:
            return self.log_line.cooks_distance
        free = max(1, len(self.model.free_names))
        with np.errstate(divide="ignore", invalid="ignore"):
            found = self._rows_standardised**2 * self.leverage / ((1 - self.leverage) * free)
        alone = self.readings.used & (self.leverage > 1 - 1e-12)
        return np.where(alone & bool(self.reading_deviation) & (not self.statistics.exact), np.inf, found)

    @cached_property
    def deleted_residuals(self) -> Array:
        """Residuals against the fit without the reading itself, over their standard deviation there.

        Externally studentised: t·√((d − 1)/(d − t²)) from the standardised residual t and d degrees of freedom (Cook and
        Weisberg 1982, section 2.2.1); exact for linear models, by the tangent plane for others. With absolute
        uncertainties the standardised ones. A row that counts for several readings is taken as a whole. NaN where they
        cannot be had.
        """
        if self.log_line is not None:
            return self.log_line.deleted_residuals
        t = self._rows_standardised
        if self.readings.absolute_errors:
            return t
        degrees = self.statistics.degrees_of_freedom
        with np.errstate(invalid="ignore", divide="ignore"):
            return (
                np.asarray(t * np.sqrt((degrees - 1) / np.maximum(degrees - t**2, 1e-300)))
                if degrees > 1
                else t * np.nan
            )

    @cached_property
    def correlations(self) -> Array:
        """Correlations of the parameters with one another, in their order; NaN where one is fixed or nothing scatters."""
        errors = np.sqrt(np.diag(self.unit_covariance))
        with np.errstate(invalid="ignore", divide="ignore"):
            return np.asarray(self.unit_covariance / np.outer(errors, errors))

    def predict(self, x: npt.ArrayLike, level: float = 0.95, checked: bool = False) -> Prediction:
        """y at x with both intervals; see ``ridge.core.predicting.at_x``."""
        from ridge.core.predicting.at_x import predict

        return predict(self, x, level, checked)

    def solve(
        self,
        y: npt.ArrayLike,
        repeats: int = 1,
        level: float = 0.95,
        interval: tuple[float, float] | None = None,
        checked: bool = False,
    ) -> list[Solution]:
        """Every x at which the curve takes the value y; see ``ridge.core.predicting.at_y``."""
        from ridge.core.predicting.at_y import solve

        return solve(self, y, repeats, level, interval, checked)

    @cached_property
    def derived(self) -> list[DerivedQuantity]:
        """Half-life, period, vertex and the like, with propagated standard errors."""
        from ridge.core.judging.derived import derive

        return derive(self)

    @cached_property
    def pattern(self) -> Pattern:
        """Signs, runs, bend and spread of the residuals; see ``ridge.core.judging.patterns``."""
        from ridge.core.judging.patterns import find_pattern

        return find_pattern(self)

    @cached_property
    def findings(self) -> list[Finding]:
        """What the cautions are about, with the numbers they rest on."""
        from ridge.core.judging.cautions import find

        return find(self)

    @cached_property
    def cautions(self) -> list[Caution]:
        """What a user should know about this fit, each with what to do about it."""
        from ridge.core.judging.cautions import find_cautions

        return find_cautions(self)

    @cached_property
    def equation(self) -> Equation:
        """The equation as text and LaTeX, rounded so that it stays within a tenth of s of the full one."""
        from ridge.core.wording.equation import word_equation

        return word_equation(self)
