"""Least squares for models that are polynomials in x, ln x or 1/x."""

from __future__ import annotations

from math import comb

import numpy as np

from ridge.core.errors import NotIdentifiable, UndefinedAt
from ridge.core.fitting.exact import MOST, solve_exactly
from ridge.core.fitting.fitted_curve import LinearCurve, powers_of
from ridge.core.fitting.linear import DependentColumn, LinearSolution, solve
from ridge.core.fitting.solved import Prepared, Solved, among_all, check_values, power_of_two, reach_of, sums
from ridge.core.models.base import Extended, ExtendedNumber, LinearForm, Model
from ridge.core.numerals import significant

SHOWS = 2e-14
"""Share of a coefficient beyond which rounding in extended precision would show in fifteen digits of it."""


def solve_linear(prepared: Prepared, model: Model, form: LinearForm) -> Solved:
    """Solve in u = (t − centre)/scale and in extended precision, so that the result carries the last digits of a double.

    The centre is the weighted mean of t; 0 where a lower power is missing or kept, since then t cannot be shifted.
    Raises UndefinedAt, NotIdentifiable, BeyondDoubles.
    """
    power_of = dict(zip(model.parameter_names, form.powers, strict=True))
    free = sorted(model.free_names, key=power_of.__getitem__)
    powers = tuple(power_of[name] for name in free)
    known = tuple((power_of[name], value) for name, value in model.fixed.items())
    with np.errstate(all="ignore"):
        t = np.asarray(form.transform(prepared.long_x))
    if not np.isfinite(t).all():
        rows = np.flatnonzero(prepared.readings.used)[~np.isfinite(t)]
        raise UndefinedAt(tuple(rows.tolist()), form.why, form.remedy)
    centred = powers == tuple(range(len(powers)))
    if centred and len(powers) > 1:
        centre = np.dot(prepared.weights, t) / np.longdouble(prepared.weights.sum())
    else:
        centre = np.longdouble(0)
    scale = power_of_two(reach_of(t, centre))
    u = t - centre
    u /= scale

    target, y_scale = prepared.target, prepared.y_scale
    if known:
        # What is kept is taken off first, in the readings' own size: it may be much larger than what is left.
        target = target * y_scale
        for power, value in known:
            target -= np.longdouble(value) * t**power
        y_scale = power_of_two(reach_of(target))
        target = target / y_scale
    else:
        target = target.copy()
    plain = target.copy() if 1 < len(powers) <= MOST // len(u) else None  # solving uses the target up
    _check_distinct(prepared, model, free, powers)
    try:
        solution = solve(powers_of(u, powers), target, prepared.root)
    except DependentColumn as cause:
        raise NotIdentifiable(
            f"The x values differ by too little to determine {free[cause.index]}.",
            "the mean of y",
            "Add readings over a wider range of x.",
        ) from cause

    natural = _to_natural(powers, centre, scale, centred)
    weighted, moving = solution.weighted_residuals, solution.projections[1 if model.has_constant else 0 :]
    rescale = y_scale / prepared.y_scale
    rss, regression, ratio, exact = sums(
        prepared,
        np.dot(weighted, weighted) * rescale**2,
        np.dot(moving, moving) * rescale**2,
        reach_of(weighted) * rescale,
        len(free),
    )
    with np.errstate(over="ignore", under="ignore"):
        root = natural @ solution.inverse_factor
        found, covariance = y_scale * (natural @ solution.coefficients), root @ root.T
        if plain is not None and _needs_fractions(prepared, natural, solution):
            exactly = solve_exactly(t, powers, plain, prepared.weights)
            if exactly is not None:
                found, covariance = exactly.coefficients * y_scale, exactly.unit_covariance
        values = dict(model.fixed) | dict(zip(free, found.astype(np.float64).tolist(), strict=True))
        check_values(values)
        unit_covariance = among_all(model, free, covariance.astype(np.float64))
        residuals = (weighted * y_scale).astype(np.float64)
        if prepared.root is not None:
            residuals /= np.sqrt(prepared.weights)
    ordered = {name: values[name] for name in model.parameter_names}
    curve = LinearCurve(
        model, form, powers, centre, scale, solution.coefficients * y_scale, solution.inverse_factor, known, ordered
    )
    return Solved(
        model, ordered, unit_covariance, curve, residuals, solution.leverage, rss, regression, ratio, exact
    )  # fmt: skip


def _needs_fractions(prepared: Prepared, natural: Extended, solution: LinearSolution) -> bool:
    """Whether rounding in extended precision would show in the coefficients."""
    unit = np.finfo(np.longdouble).eps
    inner, root = solution.coefficients, natural @ solution.inverse_factor
    size = np.sqrt(np.dot(prepared.target, prepared.target))
    rounding = unit * (np.abs(natural) @ np.abs(inner) + np.sqrt((root * root).sum(axis=1)) * size)
    return bool((rounding > SHOWS * np.abs(natural @ inner)).any())


def _check_distinct(prepared: Prepared, model: Model, free: list[str], powers: tuple[int, ...]) -> None:
    """Refuse where there are fewer different x than terms, which rounding might hide."""
    moving = [power for power in powers if power]
    x = prepared.x
    if not moving or (x[0] != x[-1] and len(moving) == 1):
        return
    head = set(x[: 4 * len(powers)].tolist())
    if len(head) > len(powers):
        return
    distinct = np.unique(x)
    told = len(distinct) - (0 if 0 in powers else int(0.0 in distinct))
    if told >= len(powers):
        return
    if len(distinct) == 1:
        raise NotIdentifiable(
            f"All x are equal ({significant(float(x[0]), 6, strip=True).text}), so no slope can be fitted.",
            "the mean of y at that x",
            "Add readings at another x, or swap x and y.",
        )
    raise NotIdentifiable(
        f"{len(distinct)} different x are not enough for {len(powers)} terms.",
        f"a polynomial of degree {max(told - 1, 0)}",
        f"Choose degree {max(told - 1, 1)} at most, or add readings at other x.",
    )


def _to_natural(powers: tuple[int, ...], centre: ExtendedNumber, scale: ExtendedNumber, centred: bool) -> Extended:
    """Matrix from coefficients of uᵏ to those of tᵏ: (t − centre)ᵏ/scaleᵏ multiplied out."""
    size = len(powers)
    matrix = np.zeros((size, size), dtype=np.longdouble)
    for column, power in enumerate(powers):
        share = 1 / scale**power
        if not centred:
            matrix[column, column] = share
            continue
        for row in range(power + 1):
            matrix[row, column] = comb(power, row) * (-centre) ** (power - row) * share
    return matrix
