"""What a working is asked about."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property

from ridge.core.errors import OutsideSense
from ridge.core.fitting.fit import fit
from ridge.core.models import Model
from ridge.core.readings import Readings
from ridge.core.results.fit import Fit
from ridge.core.workings.linear_problem import LinearProblem, linear_problem
from ridge.core.workings.nodes import Nodes, nodes_of


@dataclass(frozen=True)
class Asked:
    """Readings and a model or its fit; the rest where the working needs it.

    ``x``: where an interval or a value is wanted; ``y``: what x is wanted for; ``level``: of an interval; ``values``: of the parameters,
    by hand; ``start``: where a path begins; ``attempts``: earlier values by hand; ``end_slopes``: of a clamped spline;
    ``average_repeats``: whether an interpolation takes the mean of several y at one x; ``rising``: whether terms are written from the lowest power up.
    """

    readings: Readings
    model: Model | None = None
    given_fit: Fit | None = None
    least_squares_in: str = "y"
    x: float | None = None
    y: float | None = None
    level: float = 0.95
    values: Mapping[str, float] = field(default_factory=dict)
    start: Mapping[str, float] = field(default_factory=dict)
    attempts: Sequence[Mapping[str, float]] = ()
    end_slopes: tuple[float, float] = (0.0, 0.0)
    average_repeats: bool = False
    rising: bool = False

    @property
    def clash(self) -> bool:
        """Whether no curve passes through all readings, since one x has several y."""
        return bool(self.nodes.repeated) and not self.average_repeats

    @property
    def wanted_model(self) -> Model:
        """Raises OutsideSense where none was given."""
        if self.model is None:
            raise OutsideSense("model", "is needed for this working: give a model such as Line(), or a fit.")
        return self.model

    @cached_property
    def fit(self) -> Fit:
        """The fit that was given, or made of the readings now."""
        if self.given_fit is not None:
            return self.given_fit
        return fit(self.readings, self.wanted_model, least_squares_in=self.least_squares_in)

    @cached_property
    def problem(self) -> LinearProblem:
        return linear_problem(self.readings, self.wanted_model, self.least_squares_in, self.rising)

    @cached_property
    def nodes(self) -> Nodes:
        """The readings in use in order of x, those of one x as their mean. Raises TooFewReadings for fewer than two."""
        return nodes_of(self.readings)
