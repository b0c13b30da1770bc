"""A fit: a model with the parameters that least squares gave it on these readings."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import cached_property, wraps
from typing import Any, TypeVar

import numpy as np
import numpy.typing as npt

from ridge.core.models import Model
from ridge.core.readings import Array, Readings
from ridge.core.results.curve import Curve
from ridge.core.results.parameter import Held, Parameter, Parameters
from ridge.core.results.read_only import frozen
from ridge.core.results.statistics import Statistics, critical_value

Found = TypeVar("Found")


def once(make: Callable[[Fit], Found]) -> Callable[[Fit], Found]:
    """A function of a fit that is worked out once for each, and kept with it."""
    key = f"{make.__module__}.{make.__qualname__}"

    @wraps(make)
    def kept(fit: Fit) -> Found:
        known = vars(fit)
        if key not in known:
            known[key] = make(fit)
        found: Found = known[key]
        return found

    return kept


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
    shared_covariance: Array | None = None
    """What errors that all readings share have added to ``covariance``, see ``ridge.core.carrying.shared_errors``; None for nothing."""

    def __post_init__(self) -> None:
        letters = {about.letter: name for name, about in self.model.about.items() if about.letter}
        object.__setattr__(self, "parameters", Parameters(self.parameters, letters))
        self._close()

    def __setstate__(self, state: dict[str, Any]) -> None:
        """From another process, where arrays come open again."""
        vars(self).update(state)
        self._close()

    def _close(self) -> None:
        for value in vars(self).values():
            if isinstance(value, np.ndarray):
                frozen(value)

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
        """Return the half-width of a two-sided interval in standard errors; None where nothing estimates the scatter, and for a
        curve whose numbers were given: nothing was fitted, so it has no uncertainty."""
        if self.least_squares_in == "given":
            return None
        return critical_value(level, self.statistics.degrees_of_freedom, self.readings.absolute_errors)

    def effective_degrees(self, direction: Array) -> float:
        """Degrees of freedom of what moves so with the parameters: those of the scatter, more where shared errors take part in it
        (Welch and Satterthwaite: JCGM 100:2008, G.4.1)."""
        degrees = float(self.statistics.degrees_of_freedom)
        if self.shared_covariance is None or degrees <= 0:
            return degrees
        whole = float(direction @ self.covariance @ direction)
        scatter = whole - float(direction @ self.shared_covariance @ direction)
        return degrees * (whole / scatter) ** 2 if scatter > 0 else np.inf

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
        return frozen(result)

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
        return frozen(result)

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
        return frozen(np.where(alone & bool(self.reading_deviation) & (not self.statistics.exact), np.inf, found))

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
            found = t * np.sqrt((degrees - 1) / np.maximum(degrees - t**2, 1e-300)) if degrees > 1 else t * np.nan
        return frozen(found)

    @cached_property
    def correlations(self) -> Array:
        """Correlations of the parameters with one another, in their order; NaN where one is fixed or nothing scatters."""
        errors = np.sqrt(np.diag(self.unit_covariance))
        with np.errstate(invalid="ignore", divide="ignore"):
            return frozen(self.unit_covariance / np.outer(errors, errors))
