"""The best minimum without starting values: trials on scales from the readings, then downhill from the promising ones."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from math import isfinite

import numpy as np
import numpy.typing as npt

from ridge.core.fitting.descend import Data, Limits, descend
from ridge.core.fitting.effort import Effort
from ridge.core.fitting.separable import Separable
from ridge.core.fitting.trials import Spread, low_discrepancy
from ridge.core.readings import Array

Indices = npt.NDArray[np.intp]

CONDENSED = 240
"""Readings that a search over many trials works on; the last descent takes all of them."""
ROOM = 2_000_000
"""Numbers held at once by one block of trials."""


def condense(data: Data, groups: int = CONDENSED) -> Data:
    """The readings in order of x; of many, the means of groups of neighbours, each with the weight of its group."""
    order = data.x.argsort(kind="stable")
    x, y = data.x[order], data.y[order]
    root = None if data.root is None else data.root[order]
    if len(x) <= 4 * groups // 3:
        return Data(x, y, root)
    starts = np.arange(groups) * len(x) // groups
    weights = np.ones(len(x)) if root is None else root * root
    total = np.add.reduceat(weights, starts)
    return Data(
        np.add.reduceat(weights * x, starts) / total, np.add.reduceat(weights * y, starts) / total, np.sqrt(total)
    )


def try_all(problem: Separable, data: Data, shapes: Array, effort: Effort) -> Array:
    """Sum of squares of every trial, the linear parameters at their best."""
    effort.spend(problem.operations, len(shapes) * len(data.x))
    block = max(1, ROOM // (len(data.x) * (len(problem.linear) + 2)))
    if len(shapes) <= block:
        return problem.project(data.x, data.y, data.root, shapes).rss
    return np.concatenate(
        [
            problem.project(data.x, data.y, data.root, shapes[start : start + block]).rss
            for start in range(0, len(shapes), block)
        ]
    )


def valleys(rss: Array, most: int) -> Indices:
    """Indices of the local minima of a scan along one parameter, deepest first."""
    lowest = rss < np.inf
    lowest[1:] &= rss[1:] <= rss[:-1]
    lowest[:-1] &= rss[:-1] < rss[1:]
    found = lowest.nonzero()[0]
    return found[np.argsort(rss[found], kind="stable")[:most]]


def bottoms(shapes: Array, rss: Array, found: Indices) -> Array:
    """Where the parabolas through the valleys of a scan and their neighbours are lowest, (number, 1)."""
    places: list[list[float]] = []
    for i in found.tolist():
        here = float(shapes[i, 0])
        places.append([here])
        if 0 < i < len(rss) - 1:
            left, right = here - float(shapes[i - 1, 0]), float(shapes[i + 1, 0]) - here
            down, up = float(rss[i - 1] - rss[i]) / left, float(rss[i + 1] - rss[i]) / right
            if isfinite(down + up) and down + up > 0:
                places[-1] = [here + (down * right - up * left) / (2 * (down + up))]
    return np.array(places).reshape(-1, 1)


def apart(shapes: Array, rss: Array, most: int) -> Indices:
    """Indices of the best trials that do not crowd each other, deepest first.

    Distances are counted in ranks along each parameter, so that no unit matters.
    """
    order = np.argsort(rss, kind="stable")
    order = order[np.isfinite(rss[order])][: 40 * most]
    if not len(order):
        return order
    place = np.argsort(np.argsort(shapes, axis=0, kind="stable"), axis=0, kind="stable")[order] / len(shapes)
    chosen: list[int] = []
    for i in range(len(order)):
        if all(np.max(np.abs(place[i] - place[j])) > 0.06 for j in chosen):
            chosen.append(i)
            if len(chosen) == most:
                break
    return order[chosen]


def trial_shapes(reach: Sequence[Spread], limits: Limits | None) -> Array:
    """Trials that fill the reach of the nonlinear parameters evenly, (trials, k); of a single one ascending."""
    k = len(reach)
    if k == 1:
        return np.sort(_placed((np.arange(512)[:, None] + 0.5) / 512, reach, limits), axis=0)
    return _placed(low_discrepancy(min(384 * k, 1600), k), reach, limits)


def _placed(points: Array, reach: Sequence[Spread], limits: Limits | None) -> Array:
    shapes = np.stack([spread(points[:, i]) for i, spread in enumerate(reach)], axis=1)
    return limits.clip(shapes) if limits else shapes


def search(
    problem: Separable, data: Data, reach: Sequence[Spread], limits: Limits | None, effort: Effort
) -> tuple[Array, Array]:
    """Minima of a problem with k nonlinear parameters, (number, k) and their sums of squares, best first.

    ``reach``: where each nonlinear parameter is looked for. Works on the condensed readings.
    """
    k = len(problem.nonlinear)
    if k == 0:
        return np.zeros((1, 0)), np.zeros(1)
    small = condense(data)
    shapes = trial_shapes(reach, limits)
    rss = try_all(problem, small, shapes, effort)
    if k == 1:
        starts = shapes[valleys(rss, 8)]
    else:
        seeds = shapes[apart(shapes, rss, 8)]

        def placed(points: Array) -> Array:
            return _placed(points, reach, limits)

        starts = np.concatenate([shapes[apart(shapes, rss, 16)], _scan_each(problem, small, seeds, placed, k, effort)])
    starts, _, rss = descend(problem, small, starts, 25, limits, effort)
    best = distinct(starts, rss, 8)
    starts, _, rss = descend(problem, small, starts[best], 80, limits, effort)
    best = distinct(starts, rss, 4)
    return starts[best], rss[best]


def _scan_each(
    problem: Separable, data: Data, seeds: Array, placed: Callable[[Array], Array], k: int, effort: Effort
) -> Array:
    """Improve each seed by scanning one parameter after the other with the rest held."""
    steps = 96
    scan = (np.arange(steps) + 0.5) / steps
    seeds = seeds.copy()
    for _ in range(2):
        for i in range(k):
            if effort.passed or not len(seeds):
                return seeds
            values = placed(np.repeat(scan[:, None], k, axis=1))[:, i]
            trials = np.repeat(seeds, steps + 1, axis=0)
            trials.reshape(len(seeds), steps + 1, k)[:, :steps, i] = values
            rss = try_all(problem, data, trials, effort).reshape(len(seeds), steps + 1)
            best = np.argmin(rss, axis=1)
            seeds = trials.reshape(len(seeds), steps + 1, k)[np.arange(len(seeds)), best]
    return seeds


def distinct(shapes: Array, rss: Array, most: int) -> list[int]:
    """The best minima, each once."""
    chosen: list[int] = []
    for i in range(len(rss)):
        if np.isfinite(rss[i]) and all(
            abs(rss[i] - rss[j]) > 1e-9 * rss[j] or not np.allclose(shapes[i], shapes[j], rtol=1e-5, atol=0)
            for j in chosen
        ):
            chosen.append(i)
            if len(chosen) == most:
                break
    return chosen
