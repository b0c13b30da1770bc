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
from ridge.core.results.statistics import Chance

SMALLEST = 1e-3
"""Chances below this are not simulated: a bound serves."""
BETWEEN = 10
"""How many times as likely as on the trial values alone a find is, at most, with all that lies between them."""
STEPS, ROUGHLY = 12, 1e-4
"""Steps of a descent on a draw, and the promised share of its sum of squares at which it ends: a chance needs no more digits."""
STEADY = 30.0
"""A mean of so many standard deviations is as good as any larger one."""
AT_A_TIME = 250
"""Draws of which descents are made together."""
WORK = 3e8
"""What one simulation may cost, in the units of ``effort``."""


@dataclass(frozen=True)
class Searched:
    """A model as it was to be fitted, before anything of it was held; picklable, and worked out only when asked."""

    readings: Readings
    model: Model
    bounds: Bounds
    passed_over: float = 1.0
    """Share of the sum of squares of the fit that the best curve found has (``Solved.passed_over``): the draws keep their best."""

    def chance(self, regression: float, rss: float, terms: int, degrees: int, known: float | None) -> Chance | None:
        """Chance of at least so much accounted for; None where the search cannot be repeated within reason.

        ``terms``: parameters beyond the constant; ``known``: the uncertainty of a reading of weight one where it is known.
        """
        scene = self._scene
        if scene is None or not regression + rss > 0:
            return None
        regression += (1 - self.passed_over) * rss
        rss *= self.passed_over
        share = regression / (regression + rss)
        size = regression / known**2 if known is not None else share
        if known is not None:
            plain = float(chdtrc(terms, size))
        else:
            plain = float(fdtrc(terms, degrees, share / (1 - share) / terms * degrees)) if share < 1 else 0.0
        bound = BETWEEN * len(scene.thetas) * plain
        if bound < SMALLEST:
            return Chance(bound, at_most=True)
        if self.model.inner_form is not None and self.model.inner_form.more is not None and scene.condensed:
            return Chance(_of_periodogram(scene, share), at_most=True)
        drawn = _drawn(_Question(scene, self._about_a_constant, self._mean, known is not None, self._key))
        return None if drawn is None else drawn.chance(size)

    def __getstate__(self) -> dict[str, object]:
        """Without what is worked out, which holds compiled forms."""
        return {"readings": self.readings, "model": self.model, "bounds": self.bounds, "passed_over": self.passed_over}

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
def _drawn(question: _Question) -> _Draws | None:
    """The draws of a question; None where they are too much work."""
    scene = question.scene
    groups = len(scene.small.x)
    draws = 999 if groups <= 40 else 399
    if _work(scene, draws) > WORK:
        draws = 99
        if _work(scene, draws) > WORK:
            return None
    with np.errstate(all="ignore"):
        return _Draws(question, draws)


def _work(scene: Scene, draws: int) -> float:
    return 12.0 * scene.problem.operations * min(2, len(scene.thetas)) * draws * len(scene.small.x)


class _Draws:
    """Draws of a constant with scatter alone, and how much of each the search accounts for: on the trial values alone, and after a
    descent from the best two of them for those of which it was asked."""

    def __init__(self, question: _Question, count: int) -> None:
        scene, groups = question.scene, len(question.scene.small.x)
        self._scene, self._known = scene, question.known
        n, random = len(scene.data.x), np.random.default_rng(20)
        root = np.ones(groups) if scene.small.root is None else scene.small.root
        y = question.mean * root + random.standard_normal((count, groups))  # times root weight
        within = random.chisquare(n - groups, count) if n > groups else np.zeros(count)
        self._whole = np.einsum("dn,dn->d", y, y)
        self._about = self._whole - (y @ root) ** 2 / (root @ root) if question.about_a_constant else self._whole
        self._all = self._about + within
        explained = _on_trials(scene, y)
        self._starts = _promising(explained, 2)
        self._plain = y / root
        self._best = self._whole - np.take_along_axis(explained, self._starts[:1], axis=0)[0]
        self._rough = self._sizes(np.arange(count))
        self._order = np.argsort(-self._rough, kind="stable")
        self._descended: dict[int, Array] = {}

    def chance(self, size: float) -> Chance:
        """How often the search accounts for ``size`` or more: the share of squares about the mean, or with known uncertainties the
        sum of squares itself.

        Those that come so far on the trial values count; of the others the nearest are tried first, as many at a time, until what a
        descent still gains, twice over, does not bring the next ones there.
        """
        reached = int(np.count_nonzero(self._rough >= size))
        count, gain = reached, 0.0
        for first in range(reached - reached % AT_A_TIME, len(self._order), AT_A_TIME):
            some = self._order[first : first + AT_A_TIME]
            if first > reached and self._rough[some[0]] + 2 * gain < size:
                break
            if first not in self._descended:
                self._descended[first] = self._after_descent(some)
            found, rough = self._descended[first], self._rough[some]
            gain = max(gain, float(np.max(found - rough)))
            count += int(np.count_nonzero((found >= size) & (rough < size)))
        # None of N draws: the chance is at most 1/(N + 1), as far as so many draws can show.
        return Chance((1 + count) / (1 + len(self._order)), at_most=count == 0)

    def _sizes(self, some: npt.NDArray[np.intp]) -> Array:
        gained = np.maximum(self._about[some] - self._best[some], 0.0)
        return np.asarray(gained if self._known else gained / self._all[some])

    def _after_descent(self, some: npt.NDArray[np.intp]) -> Array:
        scene, effort = self._scene, Effort(WORK)
        limits = Limits(-scene.farthest, scene.farthest)
        data = Data(scene.small.x, self._plain[some], scene.small.root)
        with np.errstate(all="ignore"):
            for row in self._starts[:, some]:
                _, _, rss = descend_each(scene.problem, data, scene.thetas[row], STEPS, limits, effort, settled=ROUGHLY)
                self._best[some] = np.fmin(self._best[some], rss)
        return self._sizes(some)


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
