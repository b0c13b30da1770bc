"""Places of a curve that can be taken hold of: where they are, and what the parameters become when they are moved."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from ridge.core.by_hand.handles import handles, round_to_step
from ridge.core.errors import OutsideSense
from ridge.core.formula import Program, parse
from ridge.core.models import Model
from ridge.core.models.grips import Grip
from ridge.core.readings import Readings

FINER = 20
"""A grip moves parameters in this part of their handles' steps, so that they keep no more digits than show."""
FRAME = ("low", "middle", "high", "y_low", "y_middle", "y_high")


@dataclass(frozen=True)
class Place:
    """A grip as it stands, in the units of x and y."""

    name: str
    x: float
    y: float
    does: str


def places(readings: Readings, model: Model, values: Mapping[str, float]) -> list[Place]:
    """The grips of a curve with these numbers; those that move only fixed parameters, or have no place, are left out."""
    around = _around(readings, model, values)
    found = []
    for grip in _grips(model):
        x, y = _compute(grip.x, around), _compute(grip.y, around)
        if np.isfinite(x) and np.isfinite(y):
            found.append(Place(grip.name, x, y, grip.does))
    return found


def move(
    readings: Readings, model: Model, values: Mapping[str, float], name: str, x: float, y: float
) -> dict[str, float]:
    """The free parameters after the grip called ``name`` was moved to (x, y).

    Where the curve cannot follow (a logarithm would be taken of a negative number), they stay as they were.
    Raises OutsideSense for a grip that the model does not have.
    """
    grip = next((one for one in _grips(model) if one.name == name), None)
    if grip is None:
        raise OutsideSense(name, "is no place of this curve that can be moved.")
    around = {**_around(readings, model, values), "to_x": x, "to_y": y}
    moved = {parameter: _compute(text, around) for parameter, text in grip.sets.items()}
    before = {parameter: float(values[parameter]) for parameter in model.free_names}
    if not all(np.isfinite(value) for value in moved.values()):
        return before
    settled = model.canonical({**model.fixed, **before, **moved})
    steps = {handle.name: handle.step for handle in handles(readings, model, settled)}
    return {
        parameter: round_to_step(float(settled[parameter]), steps[parameter] / FINER)
        if settled[parameter] != before[parameter]
        else before[parameter]
        for parameter in model.free_names
    }


def _grips(model: Model) -> list[Grip]:
    if {*FRAME, "to_x", "to_y"} & set(model.parameter_names):
        return []  # an own formula that uses these names itself
    return [grip for grip in model.grips if not set(grip.sets) & set(model.fixed)]


def _around(readings: Readings, model: Model, values: Mapping[str, float]) -> dict[str, float]:
    """The names that a grip's formulas may use, with their values."""
    low, high = readings.measured_range
    at = np.array([low, (low + high) / 2, high])
    all_values = {**model.fixed, **values}
    frame = [*at.tolist(), *model.evaluate(at, all_values).tolist()]
    return {**dict(zip(FRAME, frame, strict=True)), **all_values}


def _compute(text: str, around: Mapping[str, float]) -> float:
    with np.errstate(all="ignore"):
        return float(_program(text, tuple(around))(*(np.float64(value) for value in around.values()))[0])


@lru_cache(maxsize=512)
def _program(text: str, names: tuple[str, ...]) -> Program:
    return Program([parse(text).tree], names)
