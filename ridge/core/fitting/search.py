"""The best minimum without starting values: trials on scales from the readings, then downhill from the promising ones."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
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


def try_all(problem: Separable, data: Data, thetas: Array, effort: Effort) -> Array:
    """Sum of squares of every trial, the linear parameters at their best."""
    effort.spend(problem.operations, len(thetas) * len(data.x))
    block = max(1, ROOM // (len(data.x) * (len(problem.linear) + 2)))
    if len(thetas) <= block:
        return problem.project(data.x, data.y, data.root, thetas).rss
    return np.concatenate(
        [
            problem.project(data.x, data.y, data.root, thetas[start : start + block]).rss
            for start in range(0, len(thetas), block)
        ]
    )


def valleys(rss: Array, most: int) -> Indices:
    """Indices of the local minima of a scan along one parameter, deepest first."""
    lowest = rss < np.inf
    lowest[1:] &= rss[1:] <= rss[:-1]
    lowest[:-1] &= rss[:-1] < rss[1:]
    found = lowest.nonzero()[0]
    return found[np.argsort(rss[found], kind="stable")[:most]]


def bottoms(thetas: Array, rss: Array, found: Indices) -> Array:
    """Where the parabolas through the valleys of a scan and their neighbours are lowest, (number, 1)."""
    places: list[list[float]] = []
    for i in found.tolist():
        here = float(thetas[i, 0])
        places.append([here])
        if 0 < i < len(rss) - 1:
            left, right = here - float(thetas[i - 1, 0]), float(thetas[i + 1, 0]) - here
            down, up = float(rss[i - 1] - rss[i]) / left, float(rss[i + 1] - rss[i]) / right
            if isfinite(down + up) and down + up > 0:
                places[-1] = [here + (down * right - up * left) / (2 * (down + up))]
    return np.array(places).reshape(-1, 1)


def apart(thetas: Array, rss: Array, most: int) -> Indices:
    """Indices of the best trials that do not crowd each other, deepest first.

    Distances are counted in ranks along each parameter, so that no unit matters.
    """
    order = np.argsort(rss, kind="stable")
    order = order[np.isfinite(rss[order])][: 40 * most]
    if not len(order):
        return order
    place = np.argsort(np.argsort(thetas, axis=0, kind="stable"), axis=0, kind="stable")[order] / len(thetas)
    chosen: list[int] = []
    for i in range(len(order)):
        if all(np.max(np.abs(place[i] - place[j])) > 0.06 for j in chosen):
            chosen.append(i)
            if len(chosen) == most:
                break
    return order[chosen]


def trial_thetas(reach: Sequence[Spread], limits: Limits | None) -> Array:
    """Trials that fill the reach of the nonlinear parameters evenly, (trials, k); of a single one ascending."""
    k = len(reach)
    if k == 1:
        return np.sort(_placed((np.arange(512)[:, None] + 0.5) / 512, reach, limits), axis=0)
    return _placed(low_discrepancy(min(384 * k, 1600), k), reach, limits)


def _placed(points: Array, reach: Sequence[Spread], limits: Limits | None) -> Array:
    thetas = np.stack([spread(points[:, i]) for i, spread in enumerate(reach)], axis=1)
    return limits.clip(thetas) if limits else thetas


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
    terms = separate_terms(problem)
    sums = _term_by_term(problem, small, terms, reach, limits, effort.part(TERM_BY_TERM)) if len(terms) > 1 else []
    thetas = trial_thetas(reach, limits)
    rss = try_all(problem, small, thetas, effort)
    if k == 1:
        starts = thetas[valleys(rss, 8)]
    elif sums:
        starts = thetas[apart(thetas, rss, 16)]
    else:
        seeds = thetas[apart(thetas, rss, 8)]

        def placed(points: Array) -> Array:
            return _placed(points, reach, limits)

        starts = np.concatenate([thetas[apart(thetas, rss, 16)], _scan_each(problem, small, seeds, placed, k, effort)])
    starts, _, rss = descend(problem, small, starts, 25, limits, effort)
    best = distinct(starts, rss, 8)
    starts, _, rss = descend(problem, small, starts[best], 80, limits, effort)
    best = distinct(starts, rss, 4)
    starts, rss = starts[best], rss[best]
    if sums:
        starts, _, rss = descend(problem, small, np.concatenate([starts, *sums]), 80, limits, effort)
        best = distinct(starts, rss, 4)
        starts, rss = starts[best], rss[best]
    return starts, rss


def separate_terms(problem: Separable) -> list[list[int]]:
    """Places of the nonlinear parameters of each term, where the formula is a sum of terms that share none; else empty."""
    of_column: dict[int, list[int]] = {}
    for i, columns in enumerate(problem.parts):
        if len(columns) != 1 or columns[0] is None:
            return []
        of_column.setdefault(columns[0], []).append(i)
    return list(of_column.values())


SAME_SUM = 1e-6
"""Share by which the sums of squares of two sums of terms differ at least when they are not the same terms in another order."""
SAME_RSS, SAME_THETA = 1e-9, 1e-5
"""Shares within which two minima have the same sum of squares and the same nonlinear parameters: they are one."""
TERM_BY_TERM = 1.2e9
"""What putting a sum together may cost; the search of all its terms at once has the rest."""
BEAM = 4
"""Sums that are carried on, at each number of terms."""


@dataclass(frozen=True)
class _Sum:
    """Some of the terms at their places: their numbers, their nonlinear parameters (k,) and the sum of squares."""

    terms: tuple[int, ...]
    theta: Array
    rss: float


def _term_by_term(
    problem: Separable,
    data: Data,
    terms: Sequence[Sequence[int]],
    reach: Sequence[Spread],
    limits: Limits | None,
    effort: Effort,
) -> list[Array]:
    """Starts (1, k) put together term by term, each term where it leads lowest beside those that are there already, which then
    settle. So peaks find their places on the ground that they stand on (forward selection, as in matching pursuit; Mallat
    and Zhang, IEEE Transactions on Signal Processing 41, 1993); several sums are carried on, since the best first peak may be
    a broad one over two."""
    middle = np.array([float(spread(np.array([0.5]))[0]) for spread in reach])
    forms = [problem.form_of(term) for term in terms]
    sums = [_Sum((), middle, np.inf)]
    for _ in terms:
        longer: list[_Sum] = []
        for one in sums:
            # Of terms of one kind, such as several peaks, the next one stands for all that are left.
            next_ones = {forms[number]: number for number in reversed(range(len(terms))) if number not in one.terms}
            for number in sorted(next_ones.values()):
                longer += _with_one_more(problem, data, one, number, terms, reach, limits, effort)
        longer.sort(key=lambda one: one.rss)
        # Sums of equal size are one sum, its terms in another order.
        sums = [one for i, one in enumerate(longer) if not i or one.rss > longer[i - 1].rss * (1 + SAME_SUM)][:BEAM]
        if effort.passed or not sums:
            return []
    return [one.theta[None] for one in sums]


def _with_one_more(
    problem: Separable,
    data: Data,
    known: _Sum,
    number: int,
    terms: Sequence[Sequence[int]],
    reach: Sequence[Spread],
    limits: Limits | None,
    effort: Effort,
) -> list[_Sum]:
    if effort.passed:
        return []
    added = list(terms[number])
    chosen = sorted([i for term in known.terms for i in terms[term]] + added)
    part = problem.only(chosen)
    points = low_discrepancy(200 * len(added), len(added))
    trials = np.repeat(known.theta[None], len(points), axis=0)
    for place, i in enumerate(added):
        trials[:, i] = reach[i](points[:, place])
    trials = limits.clip(trials) if limits else trials
    effort.spend(part.operations, len(trials) * len(data.x))
    tried = part.project(data.x, data.y, data.root, trials[:, chosen])
    # The best place is often one where a term takes away from a broader one; peaks as a rule all rise.
    signs = np.sign(tried.coefficients[:, [part.linear.index(problem.linear[j]) for j in _columns(problem, chosen)]])
    alike = np.where(np.abs(signs.sum(axis=1)) == signs.shape[1], tried.rss, np.inf)
    picked = np.concatenate([apart(trials[:, added], tried.rss, 4), apart(trials[:, added], alike, 4)])
    starts = trials[np.unique(picked)]
    inside = Limits(limits.low[chosen], limits.high[chosen]) if limits else None
    found, _, rss = descend(part, data, starts[:, chosen], 40, inside, effort)
    sums = []
    for i in distinct(found, rss, 3):
        theta = known.theta.copy()
        theta[chosen] = found[i]
        sums.append(_Sum((*known.terms, number), theta, float(rss[i])))
    return sums


def _columns(problem: Separable, places: Sequence[int]) -> list[int]:
    """The columns that the nonlinear parameters in these places shape, each once."""
    return sorted({column for i in places for column in problem.parts[i] if column is not None})


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


def distinct(thetas: Array, rss: Array, most: int) -> list[int]:
    """The best minima, each once."""
    chosen: list[int] = []
    for i in range(len(rss)):
        if np.isfinite(rss[i]) and all(
            abs(rss[i] - rss[j]) > SAME_RSS * rss[j] or not np.allclose(thetas[i], thetas[j], rtol=SAME_THETA, atol=0)
            for j in chosen
        ):
            chosen.append(i)
            if len(chosen) == most:
                break
    return chosen
