"""Least squares for models that are not linear in all their parameters, with or without starting values."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace
from math import isfinite

import numpy as np

from ridge.core.errors import BeyondDoubles, NoFit, NotIdentifiable, OutsideSense, TooFewReadings, UndefinedAt
from ridge.core.fitting.aliases import slowest_first
from ridge.core.fitting.damping import FIRST, SETTLED
from ridge.core.fitting.descend import Data, descend
from ridge.core.fitting.downhill import downhill
from ridge.core.fitting.effort import Effort
from ridge.core.fitting.fitted_curve import NonlinearCurve
from ridge.core.fitting.high_precision import DIGITS, NEARLY_EXACT, refine
from ridge.core.fitting.linear import DependentColumn
from ridge.core.fitting.place import Minimum
from ridge.core.fitting.polish import NotFinite, Polished, polish, spread_covariance
from ridge.core.fitting.redundancy import involved, known_combination, null_directions, structural_rank
from ridge.core.fitting.scene import Bounds, data_of, inner_scene, limits_of, natural_problem, reaches
from ridge.core.fitting.search import apart, bottoms, search, try_all, valleys
from ridge.core.fitting.separable import Separable
from ridge.core.fitting.solved import Prepared, Solved, among_all, check_values, reach_of, sums
from ridge.core.fitting.trials import low_discrepancy
from ridge.core.models.base import InnerForm, Model
from ridge.core.numerals import significant
from ridge.core.readings import Array
from ridge.core.results.parameter import Held


class _Nowhere(Exception):
    """No trial had a value at every reading."""


SUSPICIOUS = 1e9
"""Condition number of the derivatives from which on the parameters may not all be told apart."""
_ALIKE = 1e-9
"""Minima whose sums of squares differ by less than this share are one."""
AT_BOUND = 1e-9
"""A parameter within this share of its bound lies at it."""
AS_GOOD, ROUNDED = 1e-6, 1e-24
"""Share by which a sum of squares may be larger and the curve still be as good; and what each reading of size one adds to it by
rounding."""
EXACT = 1e-28
"""Square of the rounding of a reading of size one: sums of squares below it are all zero."""
ON_FEW, LIKELY = 1e-7, 1.02
"""Share of the sum of squares at which a descent on few readings ends, and by which one found there may be larger than the best and
still be the best on all."""


@np.errstate(all="ignore")  # once for all that is tried below: overflow and the like are told by what they leave
def solve_nonlinear(
    prepared: Prepared, model: Model, start: Mapping[str, float], bounds: Bounds, effort: Effort
) -> Solved:
    """The best minimum, polished; of sinusoids that the readings cannot distinguish, the slowest. With ``start``, the minimum
    downhill from there.

    Raises TooFewReadings, UndefinedAt, NoFit, BeyondDoubles, NotIdentifiable.
    """
    n = len(prepared.x)
    free = model.free_names
    if n < len(free):
        rank = structural_rank(model, prepared.x, list(_random_values(prepared, model, 12)))
        if n < rank or not rank:
            raise TooFewReadings(rank or len(free), n)
    elif prepared.x[0] == prepared.x[-1] and np.ptp(prepared.x) == 0 and len(free) > 1:
        raise NotIdentifiable(
            f"All x are equal ({significant(float(prepared.x[0]), 6, strip=True).text}), so the shape of the curve cannot be fitted.",
            "the mean of y at that x",
            "Add readings at another x, or swap x and y.",
        )
    try:
        values, passed_over = _minimum(prepared, model, start, bounds, effort)
        return replace(_settle(prepared, model, values, bounds, effort, ()), passed_over=passed_over)
    except _Nowhere:
        raise _explain_failure(prepared, model, bool(start)) from None


def _minimum(
    prepared: Prepared, model: Model, start: Mapping[str, float], bounds: Bounds, effort: Effort
) -> tuple[dict[str, np.longdouble], float]:
    """Parameters near the chosen minimum, in their own units, and the share of its sum of squares that the best one has."""
    constrained = bool(model.fixed or bounds)
    if model.inner_form is not None and not constrained and not start:
        found, passed_over = _inner_minimum(prepared, model, model.inner_form, effort)
        return model.canonical(found), passed_over
    seeds: list[Mapping[str, float]] = []
    if model.inner_form is not None and not start:
        # The unconstrained minimum, its kept parameters put in their place, is one more start.
        inner, _ = _inner_minimum(prepared, model, model.inner_form, effort)
        seeds.append({name: float(value) for name, value in inner.items()})
    found = model.canonical(_natural_minimum(prepared, model, start, seeds, bounds, effort))
    return (found if start or bounds else model.with_positive_signs(found)), 1.0


def _inner_minimum(
    prepared: Prepared, model: Model, form: InnerForm, effort: Effort
) -> tuple[dict[str, np.longdouble], float]:
    scene = inner_scene(prepared, form)
    problem, data, small, thetas, farthest = scene.problem, scene.data, scene.small, scene.thetas, scene.farthest
    u, single = data.x, len(form.nonlinear) == 1
    rss = try_all(problem, small, thetas, effort)
    starts = bottoms(thetas, rss, valleys(rss, 4)) if single else thetas[apart(thetas, rss, 6)]
    if scene.condensed:
        likely = _minima(problem, small, starts, 30, effort, farthest, settled=ON_FEW)
        starts = np.array([one.theta for one in likely if one.rss <= LIKELY * likely[0].rss][:2])
        starts = starts.reshape(len(starts), len(form.nonlinear))
        if form.more is not None:
            starts = np.concatenate([starts, form.more(u, data.y)])
            farthest = np.maximum(farthest, 1.1 * np.max(np.abs(starts), axis=0, initial=0.0))
            starts = starts[np.argsort(try_all(problem, data, starts, effort), kind="stable")[:1]]
    minima = _minima(problem, data, starts, 100, effort.on_all, farthest)
    least = minima[0].rss if minima else 0.0
    if model.periodic and single:
        minima = slowest_first(minima, data.x, len(model.free_names))
    runs_off = False
    for best in minima:
        inner = dict(zip(form.nonlinear, best.theta.astype(np.longdouble), strict=True))
        scaled = best.coefficients.astype(np.longdouble) * prepared.y_scale
        inner |= dict(zip(form.linear, scaled, strict=True))
        found_natural = form.natural(inner, np.longdouble(scene.origin), np.longdouble(scene.span))
        # Far from x = 0 a parameter may be beyond all doubles; the next best may not.
        held = [float(value) for value in found_natural.values()]
        vanished = 0.0 in held and bool(np.all(scaled != 0))
        if all(map(isfinite, held)) and not vanished:
            at_readings = model.evaluate(prepared.long_x, found_natural)
            if np.isfinite(at_readings).all():
                return found_natural, min(1.0, least / best.rss) if best.rss > 0 else 1.0
            runs_off = True
            break
    if runs_off:
        row = int(np.flatnonzero(prepared.readings.used)[np.flatnonzero(~np.isfinite(at_readings))[0]])
        raise NoFit(
            f"There is no best fit: the closer the curve comes to running off to infinity at row {row + 1}, the better it meets "
            "that reading, and the others are none the better for it. Choose another model, or set that row aside."
        )
    if minima:
        raise BeyondDoubles(f"factor of the {model.title}")
    raise _Nowhere


def _minima(
    problem: Separable,
    data: Data,
    starts: Array,
    iterations: int,
    effort: Effort,
    farthest: Array,
    settled: float = SETTLED,
) -> list[Minimum]:
    """Minima downhill from the starts, the deepest first; of equally deep ones the plainest, such as the lowest frequency."""
    found: list[Minimum] = []
    for start in starts:
        to_beat = min((one.rss for one in found), default=np.inf)
        found.append(downhill(problem, data, start, iterations, effort, farthest, to_beat, settled))
    known = sorted((one for one in found if np.isfinite(one.rss)), key=lambda one: one.rss)
    if not known:
        return []
    limit = known[0].rss * (1 + _ALIKE) + EXACT * len(data.x)
    alike = sorted((one for one in known if one.rss <= limit), key=lambda one: abs(float(one.theta[0])))
    return alike + [one for one in known if one.rss > limit]


def _natural_minimum(
    prepared: Prepared,
    model: Model,
    start: Mapping[str, float],
    seeds: list[Mapping[str, float]],
    bounds: Bounds,
    effort: Effort,
) -> dict[str, np.longdouble]:
    problem = natural_problem(model, bounds)
    data = _scaled_data(prepared, problem)
    names = problem.nonlinear
    limits = limits_of(names, bounds)
    missing = [name for name in names if name not in start]
    if missing:
        reach = reaches(prepared, model, names, bounds)
        starts, _ = search(problem, data, reach, limits, effort)
        if seeds:
            seeded = np.array([[seed[name] for name in names] for seed in seeds])
            starts = np.concatenate([limits.clip(seeded) if limits else seeded, starts])
        for i, name in enumerate(names):
            if name in start:
                starts[:, i] = start[name]
    else:
        starts = np.array([[start[name] for name in names]], dtype=float).reshape(1, len(names))
        starts = limits.clip(starts) if limits else starts
    if not len(starts):
        raise _Nowhere
    if len(starts) == 1 and limits is None:
        best = downhill(problem, data, starts[0], 400, effort.on_all, damping=FIRST)
    else:
        found, coefficients, rss = descend(problem, data, starts, 400, limits, effort.on_all)
        best = Minimum(found[0], coefficients[0], float(rss[0]))
    if not np.isfinite(best.rss):
        raise _Nowhere
    size = prepared.y_scale if not problem.has_offset else np.longdouble(1)
    values = {name: np.longdouble(value) for name, value in model.fixed.items()}
    values |= dict(zip(names, best.theta.astype(np.longdouble), strict=True))
    values |= dict(zip(problem.linear, best.coefficients.astype(np.longdouble) * size, strict=True))
    return {name: values[name] for name in model.parameter_names}


def _scaled_data(prepared: Prepared, problem: Separable) -> Data:
    """y of size one where the whole curve scales with it; otherwise weights that make the residuals of size one."""
    data = data_of(prepared, prepared.x)
    if problem.has_offset:
        size = float(prepared.y_scale)
        root = np.full(len(data.x), 1 / size) if data.root is None else data.root / size
        return Data(data.x, data.y * size, root)
    return data


def _random_values(prepared: Prepared, model: Model, count: int) -> Iterator[dict[str, float]]:
    """Parameter values spread over their reach, always the same."""
    free = model.free_names
    reach = reaches(prepared, model, free, {})
    points = low_discrepancy(count, len(free))
    for point in points:
        yield dict(model.fixed) | {name: float(reach[i](point[i : i + 1])[0]) for i, name in enumerate(free)}


def _explain_failure(prepared: Prepared, model: Model, started: bool) -> UndefinedAt | NoFit | OutsideSense:
    """Why no parameters were found: readings at which the model never has a value, or starts that lead nowhere."""
    undefined = np.ones(len(prepared.x), dtype=bool)
    for values in _random_values(prepared, model, 24):
        undefined &= ~np.isfinite(model.evaluate(prepared.x, values))
    rows = np.flatnonzero(prepared.readings.used)[undefined]
    if len(rows) and len(rows) < len(prepared.x):
        return UndefinedAt(
            tuple(rows.tolist()),
            "The model has no value at these readings, whatever its parameters",
            "Set them aside, shift x, or choose another model.",
        )
    if started:
        return OutsideSense(
            "start", "the model has no value at the readings from there. Try other values, or give none."
        )
    return NoFit(
        "No parameters were found at which this model has a value at every reading. Check the formula: a root or a "
        "logarithm of something negative, a division by zero, or a value that grows beyond all numbers."
    )


def _settle(
    prepared: Prepared,
    model: Model,
    values: dict[str, np.longdouble],
    bounds: Bounds,
    effort: Effort,
    held: tuple[Held, ...],
) -> Solved:
    """Hold what cannot move or cannot be told, polish the rest, and sum up."""
    check_values({name: float(value) for name, value in values.items()})
    bounded = [name for name in model.free_names if name in bounds]
    for name in bounded:
        low, high = bounds[name]
        edge = (
            low
            if values[name] <= low + AT_BOUND * abs(low)
            else high
            if values[name] >= high - AT_BOUND * abs(high)
            else None
        )
        if edge is not None:
            model = model.with_fixed({name: edge})
            values = {**values, name: np.longdouble(edge)}
            held = (*held, Held(name, edge, "bound"))
    plain = {name: float(value) for name, value in values.items()}
    dependent = ""
    if effort.passed:  # no work for the last digits of what is held anyway
        directions = null_directions(model, prepared.x, plain, model.free_names)
        if directions is not None and len(directions):
            return _hold_one(prepared, model, values, directions, bounds, effort, held)
    try:
        polished = polish(prepared, model, values, effort.on_all)
    except NotFinite:
        raise _Nowhere from None
    except DependentColumn as cause:
        polished, dependent = None, model.free_names[cause.index]
    if polished is None or polished.condition > SUSPICIOUS:
        directions = null_directions(model, prepared.x, plain, model.free_names)
        if directions is not None and len(directions):
            return _hold_one(prepared, model, values, directions, bounds, effort, held)
    if polished is None:
        # Told apart by too little for extended precision, though not by nothing: at the edge of what readings can say.
        kept = model.with_fixed({dependent: plain[dependent]})
        return _settle(prepared, kept, values, bounds, effort, (*held, Held(dependent, plain[dependent], "redundant")))
    for name in bounded:
        low, high = bounds[name]
        if not low <= polished.values[name] <= high:
            edge = low if polished.values[name] < low else high
            return _settle(prepared, model, {**values, name: np.longdouble(edge)}, bounds, effort, held)
    return _sum_up(prepared, model, polished, held, effort)


def _hold_one(
    prepared: Prepared,
    model: Model,
    values: dict[str, np.longdouble],
    directions: Array,
    bounds: Bounds,
    effort: Effort,
    held: tuple[Held, ...],
) -> Solved:
    """Keep one of the parameters that do the same job, at a plain value where the curve stays as good."""
    plain = {name: float(value) for name, value in values.items()}
    names = involved(directions[0], plain, model.free_names)
    chosen = model.inner_form is not None or _could_be_told(prepared, model)
    combination = known_combination(model, prepared.x, plain, names)
    search_first = [name for name in names if name not in model.linear] or names
    # In a formula the fault is as a rule in its form, and another value serves as well; a family's own form has none.
    # Where much is redundant, trying values for each would take for ever: they stay where they are.
    simple = model.typed and len(directions) + len(held) <= 2 and not effort.passed
    allowed = _as_good(prepared, model, values) if simple else 0.0
    for name in search_first[:3] if simple else ():
        for value in (0.0, 1.0, -1.0):
            low, high = bounds.get(name, (-np.inf, np.inf))
            if not low <= value <= high or effort.passed:
                continue
            kept = model.with_fixed({name: value})
            try:
                again = _natural_minimum(prepared, kept, {}, [], bounds, effort)
                solved = _settle(
                    prepared, kept, again, bounds, effort, (*held, Held(name, value, "redundant", combination, chosen))
                )
            except (_Nowhere, BeyondDoubles, NotIdentifiable):
                continue
            if solved.rss / float(prepared.y_scale) ** 2 <= allowed:
                return solved
    name = search_first[0]
    return _settle(
        prepared,
        model.with_fixed({name: plain[name]}),
        values,
        bounds,
        effort,
        (*held, Held(name, plain[name], "redundant", combination, chosen)),
    )


def _as_good(prepared: Prepared, model: Model, values: dict[str, np.longdouble]) -> float:
    """The sum of squares up to which another curve is as good as the one with these values."""
    residuals = prepared.target - np.asarray(model.evaluate(prepared.long_x, values)) / prepared.y_scale  # type: ignore[arg-type]
    weighted = residuals if prepared.root is None else residuals * prepared.root
    return float(np.dot(weighted, weighted)) * (1 + AS_GOOD) + ROUNDED * len(residuals)


ENOUGH = 1000
"""Places at which a curve is looked at to see what could be told of its parameters."""


def _could_be_told(prepared: Prepared, model: Model) -> bool:
    """Whether readings over this range could tell all free parameters, did they only scatter less or lie elsewhere."""
    places = prepared.x[:: max(1, len(prepared.x) // ENOUGH)]
    return structural_rank(model, places, list(_random_values(prepared, model, 12))) == len(model.free_names)


def _sum_up(prepared: Prepared, model: Model, polished: Polished, held: tuple[Held, ...], effort: Effort) -> Solved:
    free = len(model.free_names)
    weights, target = prepared.weights, prepared.target
    centre = np.longdouble(0)
    if model.null == "fixed":
        centre = np.longdouble(model.fixed[model.constant or ""]) / prepared.y_scale
    elif model.null == "constant":
        centre = target.mean() if prepared.root is None else np.dot(weights, target) / np.longdouble(weights.sum())
    about = target - centre
    whole = np.dot(about if prepared.root is None else weights * about, about)
    weighted, rss = polished.residuals, np.dot(polished.residuals, polished.residuals)
    refined, cut_short = None, effort.missed or effort.on_all.missed or not polished.settled
    if 0 < rss < NEARLY_EXACT**2 * np.dot(target, target) and not effort.passed:
        effort.spend(DIGITS * model.operations, len(target) * free)
        y = prepared.readings.y[prepared.readings.used]
        refined = refine(model, polished.values, prepared.x, y, weights)
    if refined is not None:
        weighted = refined.residuals.astype(np.longdouble) / prepared.y_scale
        rss = np.longdouble(refined.rss) / prepared.y_scale**2
    regression = max(whole - rss, np.longdouble(0))
    rss_y, regression_y, ratio, exact = sums(prepared, rss, regression, reach_of(weighted), free)
    with np.errstate(over="ignore", under="ignore"):
        values = {name: float(polished.values[name]) for name in model.parameter_names}
        if refined is not None:
            values |= dict(zip(model.free_names, refined.values.tolist(), strict=True))
        check_values(values)
        covariance, root, sizes = spread_covariance(model, polished)
        if refined is not None:
            covariance = among_all(model, model.free_names, refined.unit_covariance)
        plain = weighted if prepared.root is None else weighted / prepared.root
        residuals = (plain * prepared.y_scale).astype(np.float64)
    return Solved(
        model, values, covariance, NonlinearCurve(model, values, root, sizes), residuals, polished.solution.leverage,
        rss_y, regression_y, ratio, exact, held, cut_short,
    )  # fmt: skip
