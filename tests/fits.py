"""What is said of a fit, by the kind that a test expects it to be."""

from __future__ import annotations

from typing import Any

from ridge.studies.analysis.curves import CurveOut
from ridge.studies.words.fit_schemas import (
    ActionOut,
    ComputedFit,
    DescribedFit,
    DifferenceOut,
    DrawnFit,
    FittedFit,
    HandFit,
    InterpolationFit,
    KnownFit,
    RefusedFit,
)


def refusal_of(fit: DescribedFit) -> str:
    """Why there is no curve; empty where there is one."""
    return fit.refusal if isinstance(fit, RefusedFit) else ""


def refused(fit: DescribedFit) -> RefusedFit:
    assert isinstance(fit, RefusedFit), fit
    return fit


def drawn(fit: DescribedFit) -> DrawnFit:
    assert isinstance(fit, DrawnFit), fit
    return fit


def curve_of(fit: DescribedFit) -> CurveOut:
    """The samples of its curve."""
    curve = drawn(fit).curve
    assert curve is not None
    return curve


def difference_of(fit: DescribedFit) -> DifferenceOut:
    assert isinstance(fit, HandFit | KnownFit) and fit.difference is not None, fit
    return fit.difference


def computed(fit: DescribedFit) -> ComputedFit:
    assert isinstance(fit, ComputedFit), fit
    return fit


def fitted(fit: DescribedFit) -> FittedFit:
    assert isinstance(fit, FittedFit), fit
    return fit


def by_hand(fit: DescribedFit) -> HandFit:
    assert isinstance(fit, HandFit), fit
    return fit


def through_all(fit: DescribedFit) -> InterpolationFit:
    assert isinstance(fit, InterpolationFit), fit
    return fit


def change_of(action: ActionOut) -> dict[str, Any]:
    """What the button of an action sends."""
    return action.change.model_dump(exclude_none=True)
