"""Parameters that cannot be told apart: found from the rank of the derivatives, and what can be known instead."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from itertools import combinations

import numpy as np

from ridge.core.fitting.trials import low_discrepancy
from ridge.core.models.base import Model
from ridge.core.readings import Array

RANK = 1e-11
"""Singular values below this share of the largest are zero."""
TAKES_PART = 1e-6
"""A parameter that moves by less than this share of the one that moves most takes no part in a direction."""
PLAIN_RATIO = 1e-6
"""How near to a plain ratio, and to one another, ratios have to be to be called it: derivatives at two places agree to far more."""
_PLAIN = (1.0, 2.0, 0.5, 3.0)


def null_directions(model: Model, x: Array, values: Mapping[str, float], free: Sequence[str]) -> Array | None:
    """Directions of the free parameters along which the curve does not move, (number, len(free)); None where undefined.

    From the singular values of the derivatives at x, their columns scaled to length one.
    """
    at = [model.parameter_names.index(name) for name in free]
    with np.errstate(all="ignore"):
        design = np.asarray(model.gradient(x, values), dtype=np.float64)[:, at]
        sizes = np.max(np.abs(design), axis=0)
        if not np.all(np.isfinite(sizes)):
            return None
        zero = sizes == 0
        sizes = np.where(zero, 1.0, sizes)
        scaled = design / sizes
        lengths = np.sqrt(np.einsum("np,np->p", scaled, scaled))
        scaled /= np.where(zero, 1.0, lengths)
    if len(scaled) > len(free):
        scaled = np.asarray(np.linalg.qr(scaled, mode="r"))
    _, singular, rows = np.linalg.svd(scaled, full_matrices=True)
    padded = np.zeros(len(free))
    padded[: len(singular)] = singular
    with np.errstate(all="ignore"):
        return np.asarray(rows[padded <= RANK * max(padded[0], 1e-300)] / (sizes * np.where(zero, 1.0, lengths)))


def structural_rank(model: Model, x: Array, trials: Sequence[Mapping[str, float]]) -> int:
    """How many free parameters any number of readings over this range could tell, at the best of the trials."""
    free = model.free_names
    dense = np.linspace(x.min(), x.max(), 8 * len(free) + 9)
    dense = np.unique(np.concatenate([dense, x]))
    best = 0
    for values in trials:
        with np.errstate(all="ignore"):
            defined = np.all(np.isfinite(np.asarray(model.gradient(dense, values), dtype=np.float64)), axis=1)
        if defined.sum() < len(free):
            continue
        found = null_directions(model, dense[defined], values, free)
        if found is not None:
            best = max(best, len(free) - len(found))
    return best


def without_meaning_at_zero(model: Model) -> frozenset[str]:
    """Free parameters that cannot be tested against zero, since others have no effect, or the model no value, where they are
    zero: the height of a peak, the rate of an exponential with a level (Davies, Biometrika 64, 1977). None of a model that is
    linear in its parameters."""
    key = (model.expression, model.free_names, tuple(model.fixed))
    found = _known.get(key)
    if found is None:
        if len(_known) > MOST_KNOWN:
            _known.clear()
        found = _known[key] = _without_meaning(model)
    return found


MOST_KNOWN = 512
_known: dict[tuple[object, ...], frozenset[str]] = {}


def _without_meaning(model: Model) -> frozenset[str]:
    free = model.free_names
    if set(free) <= set(model.linear):
        return frozenset()
    x = 2.1 + 2.9 * np.sort(low_discrepancy(4 * len(free) + 9, 1)[:, 0])
    trials = [
        dict(model.fixed) | dict(zip(free, (0.4 + 1.6 * point).tolist(), strict=True))
        for point in low_discrepancy(6, len(free))
    ]

    def lost(name: str | None) -> int | None:
        """The fewest directions without effect, with a parameter at zero; None where the model has no value at any trial."""
        found = [
            null_directions(model, x, values if name is None else {**values, name: 0.0}, free) for values in trials
        ]
        known = [len(directions) for directions in found if directions is not None]
        return min(known, default=None)

    usual = lost(None)
    if usual is None:
        return frozenset()
    at_zero = {name: lost(name) for name in free}
    return frozenset(name for name, directions in at_zero.items() if directions is None or directions > usual)


def involved(direction: Array, values: Mapping[str, float], free: Sequence[str]) -> list[str]:
    """Names that take part in a direction."""
    sizes = np.array([abs(values[name]) for name in free])
    # A parameter of zero is measured by the largest of the others.
    shares = np.abs(direction) / np.where(sizes > 0, sizes, sizes.max() or 1.0)
    shares = np.nan_to_num(shares, nan=0.0, posinf=1e300)
    return [name for name, share in zip(free, shares, strict=True) if share >= TAKES_PART * shares.max()]


def known_combination(model: Model, x: Array, values: Mapping[str, float], names: Sequence[str]) -> str:
    """What can be known of parameters that do one job: a product, quotient, sum or difference, or "a combination of …"."""
    free = model.free_names
    points = [
        values,
        {
            name: value * (1.23 if name in names else 1.0) + (0.07 if value == 0 else 0)
            for name, value in values.items()
        },
    ]
    directions = []
    for point in points:
        found = null_directions(model, x, point, free)
        if found is None or len(found) != 1:
            break
        directions.append(dict(zip(free, found[0].tolist(), strict=True)))
    parts: list[str] = []
    if len(directions) == 2:
        for first, second in combinations(names, 2):
            text = _pair(first, second, points, directions)
            if text:
                parts.append(text)
    if parts or len(names) < 2:
        return " and ".join(parts[:2])
    return "a combination of " + ", ".join(names[:-1]) + f" and {names[-1]}"


def _pair(
    first: str, second: str, points: Sequence[Mapping[str, float]], directions: Sequence[Mapping[str, float]]
) -> str:
    relative, absolute = [], []
    for point, direction in zip(points, directions, strict=True):
        if not direction[first] or not direction[second]:
            return ""
        absolute.append(direction[second] / direction[first])
        if point[first] and point[second]:
            relative.append(absolute[-1] * point[first] / point[second])
    for ratios, additive in ((relative, False), (absolute, True)):
        if len(ratios) < 2 or abs(ratios[0] - ratios[1]) > PLAIN_RATIO * abs(ratios[0]):
            continue
        for plain in _PLAIN:
            if abs(abs(ratios[0]) - plain) < PLAIN_RATIO:
                return _written(first, second, ratios[0], plain, additive)
    return ""


def _written(first: str, second: str, ratio: float, plain: float, additive: bool) -> str:
    if additive:
        factor = "" if plain == 1 else f"{plain:g}·"
        return f"{second} {'−' if ratio > 0 else '+'} {factor}{first}"
    power = "" if plain == 1 else f"^{plain:g}"
    return f"{second}/{first}{power}" if ratio > 0 else f"{second}·{first}{power}"
