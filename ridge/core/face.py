"""The public face: fits and interpolations that can be asked everything, for notebooks and scripts.

What they answer is worked out by the packages below; here are only the methods that lead there.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, fields
from functools import wraps
from importlib import import_module
from typing import Any, ParamSpec

import numpy as np
import numpy.typing as npt

from ridge.core.by_hand import given
from ridge.core.fitting.effort import QUESTION
from ridge.core.fitting.fit import fit as fit_model
from ridge.core.interpolation import base
from ridge.core.interpolation.cautions import findings_of as findings_between
from ridge.core.interpolation.interpolate import interpolate as interpolate_readings
from ridge.core.judging.cautions import findings_of
from ridge.core.judging.patterns import Pattern, pattern_of
from ridge.core.predicting.at_x import Prediction, predict
from ridge.core.predicting.at_y import solve
from ridge.core.predicting.derived import DerivedQuantity, derived_of
from ridge.core.predicting.solution import Solution
from ridge.core.readings import Array
from ridge.core.results import fit as results
from ridge.core.results.finding import Caution
from ridge.core.results.statistics import Statistics
from ridge.core.wording.cautions import word_caution
from ridge.core.wording.equation import Equation, word_equation
from ridge.core.wording.naming import Naming
from ridge.core.wording.summary import as_html, as_text, interpolation_as_html

STATISTICS = tuple(
    field.name
    for field in fields(Statistics)
    if field.name not in ("absent", "searched", "terms", "known_error", "f_p_plain")
)
Asked = ParamSpec("Asked")
PLACES = 241
"""Places at which a curve is drawn."""


@dataclass(frozen=True, repr=False)
class Fit(results.Fit):
    __doc__ = results.Fit.__doc__

    @classmethod
    def of(cls, plain: results.Fit) -> Fit:
        """The same fit with everything that it can be asked."""
        return cls(**{field.name: getattr(plain, field.name) for field in fields(plain)})

    def __repr__(self) -> str:
        return f"Fit({self.equation.text}, n={self.statistics.n})"

    def _repr_latex_(self) -> str:
        return f"${self.equation.latex}$"

    def _repr_html_(self) -> str:
        """Equation, parameters and the first statistics as a table, for notebooks."""
        return as_html(self)

    def __call__(self, x: npt.ArrayLike) -> Array:
        """Values of the curve at x, in its shape."""
        return self.evaluate(x)

    def summary(self) -> str:
        """Equation, parameters, statistics and cautions as plain text, to be printed."""
        return as_text(self)

    def to_dict(self) -> dict[str, Any]:
        """Numbers and texts that JSON can hold: model, equation, parameters, statistics, derived quantities, cautions."""
        return {
            "model": repr(self.model),
            "equation": self.equation.text,
            "least_squares_in": self.least_squares_in,
            "parameters": {
                name: {"value": one.value, "standard_error": one.standard_error, "fixed": one.fixed}
                for name, one in self.parameters.items()
            },
            "statistics": {
                name: getattr(self.statistics, name)
                for name in (*STATISTICS, "f_p_value")
                if name not in self.statistics.absent
            },
            "derived": {one.name: {"value": one.value, "standard_error": one.standard_error} for one in self.derived},
            "cautions": [{"code": one.code, "message": one.message, "remedy": one.remedy} for one in self.cautions],
        }

    def plot(self, axes: Any = None, level: float = 0.95) -> Any:
        """Readings, curve and the confidence interval of the curve on Matplotlib's ``axes``, by default the current ones, which are
        returned."""
        if axes is None:
            axes = import_module("matplotlib.pyplot").gca()  # loaded only where it is wanted
        used, aside = self.readings.used, ~self.readings.included
        low, high = self.readings.measured_range
        x = np.linspace(low, high, PLACES)
        shown = self.predict(x, level)
        axes.fill_between(x, shown.mean_low, shown.mean_high, alpha=0.2, linewidth=0)
        axes.plot(x, shown.value)
        axes.errorbar(
            self.readings.x[used], self.readings.y[used], fmt="o",
            xerr=None if self.readings.x_error is None else self.readings.x_error[used],
            yerr=None if self.readings.y_error is None else self.readings.y_error[used],
        )  # fmt: skip
        axes.plot(self.readings.x[aside], self.readings.y[aside], "o", fillstyle="none")
        axes.set_title(self.equation.text)
        return axes

    def predict(
        self, x: npt.ArrayLike, level: float = 0.95, checked: bool = False, refits: float = QUESTION
    ) -> Prediction:
        """y at x with both intervals; see ``ridge.core.predicting.at_x``."""
        return predict(self, x, level, checked, refits)

    def solve(
        self,
        y: npt.ArrayLike,
        repeats: int = 1,
        level: float = 0.95,
        interval: tuple[float, float] | None = None,
        checked: bool = False,
        refits: float = QUESTION,
    ) -> list[Solution]:
        """Every x at which the curve takes the value y; see ``ridge.core.predicting.at_y``."""
        return solve(self, y, repeats, level, interval, checked, refits)

    @property
    def derived(self) -> tuple[DerivedQuantity, ...]:
        """Half-life, period, vertex and the like, with propagated standard errors."""
        return derived_of(self)

    @property
    def pattern(self) -> Pattern:
        """Signs, runs, bend and spread of the residuals; see ``ridge.core.judging.patterns``."""
        return pattern_of(self)

    @property
    def cautions(self) -> list[Caution]:
        """What a user should know about this fit, each with what to do about it; in the plain symbols x and y."""
        return [word_caution(finding, Naming()) for finding in findings_of(self)]

    @property
    def equation(self) -> Equation:
        """The equation as text and LaTeX, rounded so that it stays within a tenth of s of the full one."""
        return results.once(word_equation)(self)


class Interpolation(base.Interpolation):
    __doc__ = base.Interpolation.__doc__

    def __call__(self, x: npt.ArrayLike) -> Array:
        """Values of the curve at x, in its shape."""
        return self.evaluate(x)

    def _repr_html_(self) -> str:
        """What it is, where it runs, and what to know about it, for notebooks."""
        return interpolation_as_html(self)

    @property
    def cautions(self) -> list[Caution]:
        """What a user should know about this curve, each with what to do about it."""
        return [word_caution(finding, Naming()) for finding in findings_between(self)]


def _dressed(make: Callable[Asked, results.Fit]) -> Callable[Asked, Fit]:
    """The same, its result with everything that it can be asked."""

    @wraps(make)
    def made(*args: Asked.args, **named: Asked.kwargs) -> Fit:
        return Fit.of(make(*args, **named))

    return made


def _dressed_between(make: Callable[Asked, base.Interpolation]) -> Callable[Asked, Interpolation]:
    @wraps(make)
    def made(*args: Asked.args, **named: Asked.kwargs) -> Interpolation:
        found = make(*args, **named)
        return Interpolation(**{field.name: getattr(found, field.name) for field in fields(found)})

    return made


fit = _dressed(fit_model)
with_values = _dressed(given.with_values)
interpolate = _dressed_between(interpolate_readings)
