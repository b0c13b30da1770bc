"""What is answered, in numbers and with what they belong to. Nothing in here is worded: that is ``answer_words``' work."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from ridge.core.interpolation import Interpolation
from ridge.core.predicting.at_x import Prediction
from ridge.core.predicting.features import Place, Quantity, Tangent
from ridge.core.predicting.solution import Solution
from ridge.core.results.fit import Fit
from ridge.studies.analysis.fits import Kind

Why = Literal[
    "error", "no fit", "no fitted curve", "no sense of x", "no sense of y", "against sense", "no value", "too large",
    "only without sense", "places without sense", "no places",
]  # fmt: skip


@dataclass(frozen=True)
class NoAnswer:
    """Why there is none. ``error``: what was raised; ``value``: the x that was asked for, or the y that the curve says;
    ``of``: the features that were looked for."""

    why: Why
    error: Exception | None = None
    value: float = 0.0
    of: str = ""


@dataclass(frozen=True)
class ValueAtX:
    """y of a fit at one x, its limits ending where y makes no sense. ``checked``: whether they were held against refits."""

    fit: Fit
    prediction: Prediction
    checked: bool
    kind: Kind = "fit"

    @property
    def x(self) -> float:
        return float(self.prediction.x)

    @property
    def y(self) -> float:
        return float(self.prediction.value)


@dataclass(frozen=True)
class SolutionsAtY:
    """Every x of a fit at one y (the mean of ``repeats`` readings) that makes sense, the nearest to the readings first;
    ``left_out``: how many make none."""

    fit: Fit
    y: float
    repeats: int
    solutions: tuple[Solution, ...]
    left_out: int
    checked: bool
    kind: Kind = "fit"


@dataclass(frozen=True)
class OnInterpolation:
    """A place on an interpolation, which knows no uncertainty. ``looking``: x was asked for."""

    curve: Interpolation
    x: float
    y: float
    looking: bool


@dataclass(frozen=True)
class SlopeAtX:
    """Value and slope of a fit at one x. ``unit``: that into which the slope was converted, empty for its own."""

    letter: str
    tangent: Tangent
    unit: str = ""
    kind: Kind = "fit"


@dataclass(frozen=True)
class AreaBetween:
    """The area under a fit from ``ends[0]`` to ``ends[1]``; ``height``: its y at the first of them; ``unit``: that into which the area was
    converted, empty for its own."""

    letter: str
    ends: tuple[float, float]
    area: Quantity
    height: float
    unit: str = ""
    kind: Kind = "fit"


@dataclass(frozen=True)
class PlacesFound:
    """Where a curve does something: ``of`` says what of which fit ("zeros of A")."""

    of: str
    places: tuple[Place, ...]
    kind: Kind = "fit"


One = NoAnswer | ValueAtX | SolutionsAtY | OnInterpolation


@dataclass(frozen=True)
class Entry:
    """One of several answers: from which fit, and to which of the given values (of y: to all of them together)."""

    letter: str
    given: float
    answered: One


@dataclass(frozen=True)
class Several:
    """Several values, several fits, or both. ``values``: what was given."""

    letters: tuple[str, ...]
    values: tuple[float, ...]
    entries: tuple[Entry, ...]


Answered = One | SlopeAtX | AreaBetween | PlacesFound | Several


def is_unchecked(found: Answered) -> bool:
    """Whether limits are by standard errors that were to be held against refits and are not."""
    if isinstance(found, Several):
        return any(is_unchecked(entry.answered) for entry in found.entries)
    if isinstance(found, ValueAtX):
        return not found.checked and bool(np.any(found.prediction.unchecked))
    return isinstance(found, SolutionsAtY) and not found.checked and any(one.unchecked for one in found.solutions)
