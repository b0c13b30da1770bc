"""What a curve does between the readings, and what of it they never come near."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from ridge.core.formula import Program, differentiate
from ridge.core.formula.functions import IN_DEGREES
from ridge.core.formula.tree import Call, Node, Number, Operation, contains, walk
from ridge.core.models.base import Model
from ridge.core.predicting.crossings import find_crossings, search_grid
from ridge.core.readings import Array
from ridge.core.results.fit import Fit

SWINGS = 0.35
"""Share of the height of the readings by which a curve goes beyond all of them when it is said to swing."""
CYCLE = 0.95
"""A measured cycle, nearly."""
NEAR = 0.5
"""Share of the measured height of the curve that may lie between the readings and a level when they come near it."""
STEP = 0.9
"""Share of all that a curve rises and falls which lies between two neighbours when it is said to step there."""
_WAVES = {"sin": 2 * np.pi, "cos": 2 * np.pi, IN_DEGREES["sin"]: 360.0, IN_DEGREES["cos"]: 360.0}
_POLES_OF = {"tan", IN_DEGREES["tan"]}


@dataclass(frozen=True)
class _Parts:
    """Parts of a formula that tell what its curve does: what it divides by, and the angles of its waves with a full turn and
    whether a free parameter sets their frequency."""

    divisors: tuple[Node, ...]
    angles: tuple[tuple[Node, float, bool], ...]


def poles_inside(fit: Fit) -> list[float]:
    """Where the curve runs off to infinity within the measured range: where something that it divides by is zero."""
    low, high = fit.readings.measured_range
    divisors = _parts(fit.model).divisors
    if not divisors or not high > low:
        return []
    grid = np.unique(np.concatenate([search_grid(low, high, max(_cycles(fit), default=0.0)), _places(fit)]))
    found: set[float] = set()
    for divisor in divisors:
        program = _program(divisor, fit.model)
        values = [fit.values[name] for name in fit.model.parameter_names]

        def at(x: Array, program: Program = program, values: list[float] = values) -> Array:
            return np.asarray(np.broadcast_to(program(x, *values)[0], np.shape(x)), dtype=np.float64)

        found |= {x for x in find_crossings(at, grid) if low <= x <= high and _runs_off(fit, x, high - low)}
    return sorted(found)


def _runs_off(fit: Fit, x: float, span: float) -> bool:
    """Whether the curve grows without end towards x; a zero above and below may leave it finite there."""
    beside = np.array([1e-6, 1e-7, 1e-8]) * max(span, abs(x) * 1e-3)
    with np.errstate(all="ignore"):
        sizes = np.fmax(np.abs(fit.evaluate(x + beside)), np.abs(fit.evaluate(x - beside)))
    return bool(np.isfinite(sizes).all() and sizes[1] > 2 * sizes[0] and sizes[2] > 2 * sizes[1])


def undefined_inside(fit: Fit) -> float | None:
    """An x within the measured range at which the model has no value."""
    low, high = fit.readings.measured_range
    zero = [0.0] if low < 0 < high else []  # where 1/x and ln x end
    dense = np.unique(np.concatenate([np.linspace(low, high, 401), _places(fit), zero]))
    missing = ~np.isfinite(fit.evaluate(dense))
    return float(dense[missing][0]) if missing.any() else None


def _places(fit: Fit) -> Array:
    """Places of the readings, of many only some."""
    x = np.unique(fit.readings.x[fit.readings.used])
    return np.asarray(x if len(x) < 2000 else x[:: len(x) // 1000])


def swings(fit: Fit) -> float:
    """How far the curve goes beyond all readings between them, where that is more than the scatter and the steepness of its ends
    explain; else 0."""
    low, high = fit.readings.measured_range
    x, y = _places(fit), fit.readings.y[fit.readings.used]
    count = int(min(max(401, 32 * max(_cycles(fit), default=0.0)), 20_001))
    dense = np.unique(np.concatenate([np.linspace(low, high, count), x]))
    with np.errstate(all="ignore"):
        values, at_readings = fit.evaluate(dense), fit.evaluate(x)
    values = values[np.isfinite(values)]
    if not len(values):
        return 0.0
    top, bottom = max(float(y.max()), float(at_readings.max())), min(float(y.min()), float(at_readings.min()))
    outside = max(float(values.max()) - top, bottom - float(values.min()))
    return outside if outside > SWINGS * float(np.ptp(y)) else 0.0


@dataclass(frozen=True)
class Cycles:
    """Cycles of a wave over the measured range; ``free``: whether its frequency is fitted."""

    number: float
    free: bool


def waves(fit: Fit) -> list[Cycles]:
    """The waves of a formula."""
    held = frozenset(one.name for one in fit.held)
    free = [one for _, _, one in _parts(fit.model, held).angles]
    return [Cycles(number, one) for number, one in zip(_cycles(fit), free, strict=True)]


def _cycles(fit: Fit) -> list[float]:
    low, high = fit.readings.measured_range
    x = np.linspace(low, high, 401)
    found = []
    for angle, turn, _ in _parts(fit.model).angles:
        with np.errstate(all="ignore"):
            values = _program(angle, fit.model)(x, *(fit.values[name] for name in fit.model.parameter_names))[0]
        turned = float(np.sum(np.abs(np.diff(np.broadcast_to(values, x.shape))))) / turn
        found.append(turned if np.isfinite(turned) else 0.0)
    return found


@dataclass(frozen=True)
class Level:
    """A level that the curve approaches on one side: how far it still is from it at the last reading there, and an x at which it
    would be near it, infinite where there is none within reason."""

    value: float
    left: float
    near_at: float


FAR = 1e4
"""Measured ranges after which a curve has reached its level, if it has one."""


def distant_levels(fit: Fit) -> Iterator[Level]:
    """Levels that follow from fitted parameters and that no reading comes near."""
    low, high = fit.readings.measured_range
    span = high - low
    at_readings = fit.evaluate(_places(fit))
    height = float(np.ptp(at_readings))
    if not np.isfinite(height) or not height > 0:
        return
    for end, way in ((high, 1.0), (low, -1.0)):
        far = end + way * span * np.array([FAR, 2 * FAR, 4 * FAR])
        with np.errstate(all="ignore"):
            values = fit.evaluate(far)
            moves = fit.model.derivatives(far[-1:], fit.values)[:, 0]
        reached = np.isfinite(values).all() and float(np.ptp(values)) <= 1e-3 * height
        fitted = any(moves[fit.model.parameter_names.index(name)] != 0 for name in fit.model.free_names)
        left = abs(float(fit.evaluate(np.array([end]))[0]) - float(values[-1])) if reached else 0.0
        if reached and fitted and left > NEAR * height and _on_the_way(fit, end, way, span, float(values[-1])):
            yield Level(float(values[-1]), left, _near(fit, end, way, span, float(values[-1]), left))


def _on_the_way(fit: Fit, end: float, way: float, span: float, level: float) -> bool:
    """Whether the curve draws nearer to the level from the last reading on, so that this is the level it was leaving for."""
    inner, outer = fit.evaluate(np.array([end - way * 0.25 * span, end]))
    return bool(abs(outer - level) < abs(inner - level))


def _near(fit: Fit, end: float, way: float, span: float, level: float, left: float) -> float:
    """Where no more is left than a fifth of what is left at the last reading."""
    steps = span * np.geomspace(0.01, 100, 200)
    with np.errstate(all="ignore"):
        close = np.abs(fit.evaluate(end + way * steps) - level) < left / 5
    return float(end + way * steps[np.argmax(close)]) if close.any() else way * np.inf


def step_between(fit: Fit) -> tuple[float, float] | None:
    """Neighbouring x between which a curve whose steepness is fitted does nearly all that it does."""
    x = _places(fit)
    if fit.model.linear_form is not None or len(x) < 6:
        return None
    changes = np.abs(np.diff(fit.evaluate(x)))
    whole = float(changes.sum())
    place = int(np.argmax(changes))
    return (float(x[place]), float(x[place + 1])) if changes[place] > STEP * whole > 0 else None


def _parts(model: Model, held: frozenset[str] = frozenset()) -> _Parts:
    return _parts_of(model.expression, model.variable, frozenset(model.free_names) | held)


@lru_cache(maxsize=256)
def _parts_of(tree: Node, variable: str, free: frozenset[str]) -> _Parts:
    divisors: list[Node] = []
    angles: list[tuple[Node, float, bool]] = []
    for part in walk(tree):
        match part:
            case Operation("/", _, below) if contains(below, {variable}):
                divisors.append(below)
            case Operation("^", base, exponent) if contains(base, {variable}) and not _surely_positive(exponent):
                divisors.append(base)
            case Call(function, (angle,)) if function in _WAVES and contains(angle, {variable}):
                frequency = differentiate(angle, variable)
                angles.append((angle, _WAVES[function], contains(frequency, free)))
            case Call(function, (angle,)) if function in _POLES_OF and contains(angle, {variable}):
                divisors.append(Call("cos" if function == "tan" else IN_DEGREES["cos"], (angle,)))
    return _Parts(tuple(dict.fromkeys(divisors)), tuple(angles))


def _surely_positive(exponent: Node) -> bool:
    return isinstance(exponent, Number) and exponent.value > 0


@lru_cache(maxsize=256)
def _program_of(tree: Node, variable: str, names: tuple[str, ...]) -> Program:
    return Program([tree], (variable, *names))


def _program(tree: Node, model: Model) -> Program:
    return _program_of(tree, model.variable, model.parameter_names)
