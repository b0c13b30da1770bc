"""How often the limits that Ridge shows hold what nature has, in simulated studies of one law."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from math import pi

import numpy as np

from ridge.core import Fit, Readings, fit
from ridge.core.errors import RidgeError
from ridge.core.predicting.derived import derived_of, limits_of
from ridge.core.predicting.features import Place, area, inflexions, turning_points
from ridge.core.predicting.parameter_limits import intervals
from tests.simulated import LAWS, Law, clean

STUDIES = 100
LEVELS = (0.95, 0.99)
Held = dict[str, tuple[dict[float, float], int]]


def covered(job: tuple[int, int, float]) -> Held:
    """By quantity the share of studies whose limits hold it at each level, and the number of studies."""
    law, n, share = LAWS[job[0]], job[1], job[2]
    truth = _as_nature_has_it(law)
    hits: dict[str, dict[float, int]] = defaultdict(lambda: dict.fromkeys(LEVELS, 0))
    studied: dict[str, int] = defaultdict(int)
    for seed in range(STUDIES):
        random = np.random.default_rng((seed, 99))
        try:
            result = fit(clean(law, n, share, 3 * seed + 1), law.model)
        except RidgeError:
            continue
        scatter = random.normal(0, share * law.height, 3)
        for level in LEVELS:
            for name, held in _held(result, truth, law, scatter, level):
                hits[name][level] += held
                studied[name] += level == LEVELS[0]
    return {
        name: ({level: count / studied[name] for level, count in found.items()}, studied[name])
        for name, found in hits.items()
        if studied[name] >= STUDIES // 2
    }


def _as_nature_has_it(law: Law) -> Fit:
    """A fit whose parameters are those of the law, so that all that follows from them can be read off it."""
    x = np.linspace(law.low, law.high, 400)
    return fit(Readings(x, law.truth(x) + 1e-9 * law.height * np.cos(37 * x)), law.model)


def _held(result: Fit, truth: Fit, law: Law, scatter: np.ndarray, level: float) -> Iterator[tuple[str, bool]]:
    span = law.high - law.low
    found = intervals(result, level)
    for name, one in found.items():
        value = truth.values[name]
        if name == "phase":
            value = _nearest_turn(value, result.values[name], 2 * pi)
        yield f"parameter {name}", one.low <= value <= one.high
    places = np.array([law.low + 0.44 * span, law.high + 0.25 * span])
    at, curve = result.predict(places, level, checked=True), truth.evaluate(places)
    for i, where in enumerate(("inside", "beyond")):
        yield f"curve {where}", bool(at.mean_low[i] <= curve[i] <= at.mean_high[i])
        yield f"new reading {where}", bool(at.low[i] <= curve[i] + scatter[i] <= at.high[i])
    wanted = law.low + 0.31 * span
    try:
        solved = result.solve(float(truth.evaluate([wanted])[0] + scatter[2]), 1, level, checked=True)
        yield "x at a y", any(one.low <= wanted <= one.high for one in solved)
    except RidgeError:
        yield "x at a y", False
    of_truth = {quantity.name: quantity.value for quantity in derived_of(truth)}
    for quantity in derived_of(result):
        if quantity.name in of_truth and quantity.name != "next crest":
            value = of_truth[quantity.name]
            if quantity.name == "shift along x":
                value = _nearest_turn(value, quantity.value, 2 * pi / result.values["angular_frequency"])
            low, high = limits_of(result, quantity, found, level)
            yield quantity.name, low <= value <= high
    try:
        under = area(result, law.low, law.high, level)
        yield "area", under.low <= area(truth, law.low, law.high).value <= under.high
    except RidgeError:
        pass
    for find in (turning_points, inflexions):
        known, seen = (
            find(truth, (law.low, law.high)),
            find(result, (law.low - 0.1 * span, law.high + 0.1 * span), level),
        )
        if known and seen:
            yield from _place_held(known[0], min(seen, key=lambda one: abs(one.x - known[0].x)))


def _place_held(known: Place, seen: Place) -> Iterator[tuple[str, bool]]:
    if seen.x_error is not None and seen.y_error is not None:
        yield f"{known.kind}, x", seen.x_low <= known.x <= seen.x_high
        yield f"{known.kind}, y", seen.y_low <= known.y <= seen.y_high


def _nearest_turn(value: float, to: float, turn: float) -> float:
    return to + (value - to + turn / 2) % turn - turn / 2
