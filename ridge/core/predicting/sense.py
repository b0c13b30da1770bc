"""Limits of sense: values that a quantity cannot have, whatever a model says."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from ridge.core.predicting.at_x import Prediction
from ridge.core.predicting.solution import Solution


@dataclass(frozen=True)
class Sense:
    """Least and greatest value that makes sense, in the unit of the column, and why: "no negative speed"."""

    low: float = -np.inf
    high: float = np.inf
    why: str = ""

    @property
    def anything(self) -> bool:
        return not (np.isfinite(self.low) or np.isfinite(self.high))

    def holds(self, value: float) -> bool:
        return self.low <= value <= self.high


def prediction_within(prediction: Prediction, sense: Sense) -> Prediction:
    """The same with its limits ending where y makes no sense any more."""
    if sense.anything:
        return prediction
    ends = {
        name: np.clip(getattr(prediction, name), sense.low, sense.high)
        for name in ("mean_low", "mean_high", "low", "high")
    }
    return replace(prediction, **ends)


def solutions_within(solutions: Sequence[Solution], sense: Sense) -> list[Solution]:
    """Those at an x that makes sense, their limits ending where it does not any more."""
    if sense.anything:
        return list(solutions)
    return [
        replace(one, low=max(one.low, sense.low), high=min(one.high, sense.high))
        for one in solutions
        if sense.holds(one.value)
    ]
