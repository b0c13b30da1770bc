"""The chance that a curve whose shape is searched accounts for so much of readings that only scatter about a constant.

Where the shape of a curve is chosen by the readings, such as the frequency of a sinusoid, it has no meaning if nothing but a
constant is there, and F does not follow the F distribution (Davies, Biometrika 64, 1977, and 74, 1987). The chance is
estimated by a Monte Carlo test (Barnard 1963; Davison and Hinkley, "Bootstrap Methods and their Application", 1997,
section 4.2): a constant with normal scatter, at the same x and with the same weights, fitted by the same search.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property, lru_cache
from hashlib import blake2b
from math import exp, lgamma, pi, sqrt

import numpy as np
import numpy.typing as npt
from scipy.special import chdtrc, fdtrc

from ridge.core.fitting.descend import Data, Limits, descend_each
from ridge.core.fitting.effort import Effort
from ridge.core.fitting.scene import Bounds, Scene, inner_scene, natural_scene
from ridge.core.fitting.solved import prepare
from ridge.core.models.base import Model
from ridge.core.models.periods import most_cycles
from ridge.core.readings import Array, Readings

SMALLEST = 1e-3
"""Chances below this are not simulated: a bound serves."""
BETWEEN = 10
"""How many times as likely as on the trial values alone a find is, at most, with all that lies between them."""
STEPS, ROUGHLY = 12, 1e-4
"""Steps of a descent on a draw, and the promised share of its sum of squares at which it ends: a chance needs no more digits."""
STEADY = 30.0
"""A mean of so many standard deviations is as good as any larger one."""
WORK = 3e8
"""What one simulation may cost, in the units of ``effort``."""


@dataclass(frozen=True)
class Searched:
    """A model as it was to be fitted, before anything of it was held; picklable, and worked out only when asked."""

    readings: Readings
    model: Model
    bounds: Bounds

    def chance(self, regression: float, rss: float, terms: int, degrees: int, known: float | None) -> float | None:
        """Chance of at least so much accounted for; None where the search cannot be repeated within reason.

        ``terms``: parameters beyond the constant; ``known``: the uncertainty of a reading of weight one where it is known.
        """
        scene = self._scene
        if scene is None or not regression + rss > 0:
            return None
        share = regression / (regression + rss)
        size = regression / known**2 if known is not None else share
        if known is not None:
            plain = float(chdtrc(terms, size))
        else:
            plain = float(fdtrc(terms, degrees, share / (1 - share) / terms * degrees)) if share < 1 else 0.0
        bound = BETWEEN * len(scene.thetas) * plain
        if bound < SMALLEST:
            return bound
        if self.model.inner_form is not None and self.model.inner_form.more is not None and scene.condensed:
            return _of_periodogram(scene, share)
        drawn = _drawn(_Question(scene, self._about_a_constant, self._mean, known is not None, self._key))
        return None if drawn is None else float((1 + np.count_nonzero(drawn >= size)) / (1 + len(drawn)))

    def __getstate__(self) -> dict[str, object]:
        """Without what is worked out, which holds compiled forms."""
        return {"readings": self.readings, "model": self.model, "bounds": self.bounds}

    @cached_property
    def _scene(self) -> Scene | None:
        """None where the search is no projection: where a part that no factor stands before moves with the shape."""
        with np.errstate(all="ignore"):
            prepared = prepare(self.readings)
            plain = self.model.inner_form is not None and not self.model.fixed and not self.bounds
            if plain and self.model.inner_form is not None:
                scene = inner_scene(prepared, self.model.inner_form)
            else:
                scene = natural_scene(prepared, self.model, self.bounds)
        return None if scene.problem.has_offset else scene

    @property
    def _about_a_constant(self) -> bool:
        return self.model.null == "constant"

    @cached_property
    def _mean(self) -> float:
        """The mean in standard deviations where it matters to the search: for a model without a constant term."""
        if self.model.has_constant or not self._about_a_constant:
            return 0.0
        used, weights = self.readings.used, self.readings.used_weights
        y = self.readings.y[used]
        y = y / (np.max(np.abs(y)) or 1.0)
        mean = float(weights @ y / weights.sum())
        spread = float(np.sqrt(weights @ (y - mean) ** 2 / max(1, self.readings.n - 1)))
        steady = abs(mean) / spread if spread > 0 else STEADY
        # In steps, so that readings nearly alike share their draws.
        return min(STEADY, round(steady, 1) if steady < 2 else float(round(steady)))

    @cached_property
    def _key(self) -> bytes:
        readings = self.readings
        parts = (repr(self.model), sorted(self.model.fixed.items()), sorted(self.bounds.items()))
        text = repr(parts).encode() + readings.x[readings.used].tobytes() + readings.used_weights.tobytes()
        if self.model.inner_form is None or self.model.fixed or self.bounds:
            text += readings.y[readings.used].tobytes()  # the reach of the search is read off y, too
        return blake2b(text, digest_size=16).digest()


def _of_periodogram(scene: Scene, share: float) -> float:
    """An upper bound for a sinusoid on many readings.

    Baluev, Monthly Notices of the RAS 385, 2008, 1279, equations 5 and 6 (from memory): the best of all frequencies up to
    the highest, by the upcrossings of the periodogram.
    """
    x, n = scene.data.x, len(scene.data.x)
    weights = np.ones(n) if scene.data.root is None else scene.data.root**2
    mean = weights @ x / weights.sum()
    width = most_cycles(n) * sqrt(4 * pi * float(weights @ (x - mean) ** 2 / weights.sum()))
    of_base, of_both = n - 1, n - 3
    left = 1 - share
    gamma = sqrt(2 / of_base) * exp(lgamma(of_base / 2) - lgamma((of_base - 1) / 2))
    single = left ** (of_both / 2)
    return float(min(1.0, single + gamma * width * left ** ((of_both - 1) / 2) * sqrt(of_base / 2 * share)))


@dataclass(frozen=True)
class _Question:
    """What the draws depend on, and on nothing else."""

    scene: Scene = field(compare=False)
    about_a_constant: bool
    mean: float
    known: bool
    key: bytes


@lru_cache(maxsize=128)
def _drawn(question: _Question) -> Array | None:
    """Of each draw the largest share of its squares about the mean that the search accounts for, or with known
    uncertainties the largest sum of squares itself; None where that is too much work."""
    scene = question.scene
    small, problem = scene.small, scene.problem
    n, groups = len(scene.data.x), len(small.x)
    draws = 999 if groups <= 40 else 399
    effort = Effort(WORK)
    trials = min(2, len(scene.thetas)) * draws
    if 12 * problem.operations * trials * groups > WORK:
        draws = 99
        trials = min(2, len(scene.thetas)) * draws
        if 12 * problem.operations * trials * groups > WORK:
            return None
    random = np.random.default_rng(20)
    root = np.ones(groups) if small.root is None else small.root
    with np.errstate(all="ignore"):
        y = question.mean * root + random.standard_normal((draws, groups))  # times root weight
        within = random.chisquare(n - groups, draws) if n > groups else np.zeros(draws)
        whole = np.einsum("dn,dn->d", y, y)
        about = whole - (y @ root) ** 2 / (root @ root) if question.about_a_constant else whole
        explained = _on_trials(scene, y)
        starts = _promising(explained, 2)
        best = whole - np.take_along_axis(explained, starts[:1], axis=0)[0]
        limits = Limits(-scene.farthest, scene.farthest)
        plain = y / root
        for row in starts:
            data = Data(small.x, plain, small.root)
            _, _, rss = descend_each(problem, data, scene.thetas[row], STEPS, limits, effort, settled=ROUGHLY)
            best = np.fmin(best, rss)
        gained = np.maximum(about - best, 0.0)
    return np.asarray(gained if question.known else gained / (about + within))


def _on_trials(scene: Scene, y: Array) -> Array:
    """Squares of every draw that each trial accounts for, (trials, draws); −1 where a trial has no value."""
    small = scene.small
    found = scene.problem.project(small.x, np.zeros(len(small.x)), small.root, scene.thetas)
    explained = np.zeros((len(scene.thetas), len(y)))
    for direction in found.directions:
        along = y @ direction.T if direction.ndim > 1 else y @ direction
        explained += (along * along).T
    explained[~(np.isfinite(found.rss)[:, None] & np.isfinite(explained))] = -1.0
    return explained


def _promising(explained: Array, most: int) -> npt.NDArray[np.intp]:
    """Of every draw the best trial, and the best one that is not its neighbour in the list, (most, draws)."""
    first = np.argmax(explained, axis=0)
    others = explained.copy()
    draws = np.arange(others.shape[1])
    for off in (-2, -1, 0, 1, 2):
        others[np.clip(first + off, 0, len(others) - 1), draws] = -1.0
    return np.stack([first, np.argmax(others, axis=0)])[:most]
