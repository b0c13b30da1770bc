"""From trial values to minima: damped Gauss–Newton steps on many trials side by side.

Levenberg–Marquardt on the nonlinear parameters alone, the linear ones eliminated in Kaufman's way (BIT 15, 1975);
damping as in ``damping``; scales after Moré (LNM 630, 1978).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ridge.core.fitting.damping import FIRST, GROWTH, LAST_DIGIT, MOST, SETTLED, eased_each, is_taken
from ridge.core.fitting.effort import STEP, Effort
from ridge.core.fitting.separable import Separable
from ridge.core.readings import Array


@dataclass
class Data:
    """What a search works on: x, y and root weights (None for ones), each of length n.

    Where every trial has readings of its own, y is (trials, n).
    """

    x: Array
    y: Array
    root: Array | None


@dataclass
class Limits:
    """Lowest and highest allowed values of the nonlinear parameters, each of length k."""

    low: Array
    high: Array

    def clip(self, thetas: Array) -> Array:
        return np.clip(thetas, self.low, self.high)


def descend(
    problem: Separable, data: Data, thetas: Array, iterations: int, limits: Limits | None, effort: Effort
) -> tuple[Array, Array, Array]:
    """Go downhill from every trial; returns the nonlinear parameters, linear coefficients and sums of squares, best first."""
    thetas, coefficients, rss = descend_each(problem, data, thetas, iterations, limits, effort)
    order = np.argsort(rss, kind="stable")
    return thetas[order], coefficients[order], rss[order]


def descend_each(
    problem: Separable,
    data: Data,
    thetas: Array,
    iterations: int,
    limits: Limits | None,
    effort: Effort,
    settled: float = SETTLED,
) -> tuple[Array, Array, Array]:
    """The same in the order of the trials; one is done when a step promises no more than the share ``settled``."""
    thetas = np.array(thetas, dtype=float)
    here = problem.project(data.x, data.y, data.root, thetas)
    coefficients, rss, residuals, directions = here.coefficients, here.rss, np.array(here.residuals), here.directions
    trials, k = thetas.shape
    if not k:
        return thetas, coefficients, rss
    damping = np.full(trials, FIRST)
    growth = np.full(trials, GROWTH)
    scale = np.zeros((trials, k))
    going = np.flatnonzero(np.isfinite(rss))
    factor = np.empty((trials, k, k + 1))
    fresh = going
    for _ in range(iterations):
        if not len(going) or effort.passed:
            break
        effort.spend(problem.operations + STEP, len(going) * len(data.x))
        if len(fresh):
            slopes = problem.slopes(data.x, thetas[fresh], coefficients[fresh])
            if data.root is not None:
                slopes *= data.root
            for direction in directions:
                if direction.ndim == 1:
                    slopes -= (slopes @ direction)[:, :, None] * direction
                else:
                    one = direction[fresh] if len(fresh) < trials else direction
                    slopes -= np.einsum("ksn,sn->ks", slopes, one)[:, :, None] * one
            factor[fresh] = _small_factor(slopes, residuals[fresh])
            lengths = np.einsum("sij,sij->sj", factor[fresh, :, :k], factor[fresh, :, :k])
            scale[fresh] = np.maximum(scale[fresh], np.sqrt(lengths))
        at = going
        inner, target = factor[at, :, :k], factor[at, :, k]
        size = np.where(scale[at] > 0, scale[at], 1.0)
        scaled = _damped_step(inner / size[:, None, :], target, damping[at])
        step = scaled / size
        trial = thetas[at] + step
        if limits is not None:
            trial = limits.clip(trial)
            step = trial - thetas[at]
            scaled = step * size
        predicted = np.einsum("sj,sj->s", scaled, damping[at][:, None] * scaled) + _squared(
            np.einsum("sij,sj->si", inner, step)
        )
        y = data.y[at] if data.y.ndim == 2 else data.y
        found = problem.project(data.x, y, data.root, trial)
        gained = rss[at] - found.rss
        better = is_taken(gained, predicted, rss[at])
        ratio = np.where(predicted > 0, gained / predicted, 0.0)
        done = (predicted <= settled * rss[at]) | np.all(np.abs(step) <= LAST_DIGIT * np.abs(thetas[at]), axis=1)
        done |= rss[at] <= 0
        won = at[better]
        thetas[won], coefficients[won], rss[won] = trial[better], found.coefficients[better], found.rss[better]
        residuals[won] = found.residuals[better]
        for direction, moved in zip(directions, found.directions, strict=True):
            if direction.ndim > 1:
                direction[won] = moved[better]
        damping[at] = np.where(better, eased_each(damping[at], ratio), damping[at] * growth[at])
        growth[at] = np.where(better, GROWTH, growth[at] * 2)
        stuck = ~better & (damping[at] > MOST)
        going = at[~(done | stuck)]
        fresh = (
            np.intersect1d(won, going, assume_unique=True) if len(won) < len(going) else won[~(done | stuck)[better]]
        )
    return thetas, coefficients, rss


def _small_factor(slopes: Array, residuals: Array) -> Array:
    """R of the slopes (k, trials, n) and the residuals turned the same way, (trials, k, k + 1); zeros where not finite."""
    k, trials, n = slopes.shape
    if k == 1:
        length = np.sqrt(np.einsum("sn,sn->s", slopes[0], slopes[0]))
        share = np.einsum("sn,sn->s", slopes[0], residuals) / np.where(length > 0, length, 1.0)
        found = np.stack([length, share], axis=1)[:, None, :]
        return np.where(np.isfinite(found).all(axis=2, keepdims=True), found, 0.0)
    stacked = np.empty((trials, n, k + 1))
    stacked[:, :, :k] = slopes.transpose(1, 2, 0)
    stacked[:, :, k] = residuals
    usable = np.all(np.isfinite(stacked), axis=(1, 2))
    if not usable.all():
        stacked[~usable] = 0.0
    triangle = _triangle(stacked)
    factor = np.zeros((trials, k, k + 1))
    rows = min(k, triangle.shape[1])
    factor[:, :rows] = triangle[:, :rows]
    return factor


def _damped_step(inner: Array, target: Array, damping: Array) -> Array:
    """Least squares of target on the scaled factor, each parameter drawn to zero by the damping."""
    trials, k = target.shape
    if k == 1:
        return np.asarray((inner[:, 0] * target) / (inner[:, 0] ** 2 + damping[:, None]))
    damped = np.zeros((trials, 2 * k, k + 1))
    damped[:, :k, :k] = inner
    damped[:, :k, k] = target
    damped[:, k + np.arange(k), np.arange(k)] = np.sqrt(damping)[:, None]
    triangle = _triangle(damped)[:, :k]
    return _back_substitute(triangle[:, :, :k], triangle[:, :, k])


def _triangle(stacked: Array) -> Array:
    """R of the QR decomposition of each matrix."""
    return np.asarray(np.linalg.qr(stacked, mode="r"))


def _squared(vectors: Array) -> Array:
    return np.asarray(np.einsum("si,si->s", vectors, vectors))


def _back_substitute(triangle: Array, target: Array) -> Array:
    """Solve upper triangular systems side by side, (trials, k, k) and (trials, k)."""
    k = target.shape[1]
    result = np.zeros_like(target)
    for j in range(k - 1, -1, -1):
        known = target[:, j] - np.einsum("sj,sj->s", triangle[:, j, j + 1 :], result[:, j + 1 :])
        result[:, j] = known / triangle[:, j, j]
    return np.nan_to_num(result, nan=0.0, posinf=0.0, neginf=0.0)
