"""Measure the checks of residuals, uncertainties in per cent and the choice of waves and models: sections of ``honesty``."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterable, Iterator
from math import sqrt
from typing import Any

import numpy as np

from ridge.core import Readings, fit
from ridge.core.catalogue import MODELS
from ridge.core.errors import RidgeError
from ridge.core.judging.cautions import findings_of
from ridge.core.judging.patterns import pattern_of
from ridge.core.judging.ranking import order_models
from ridge.core.judging.significance import WAVE_CHECK
from ridge.core.models import Constant, Line, Sinusoid

Each = Callable[[Callable[..., Any], Iterable[Any]], Iterator[Any]]
CODES = ("copied-rows", "coarse-step", "end-of-range", "two-groups", "few-places", "drifts", "patterned-residuals")
PER_CENT, WAVES, RECORDED, RANKED = 400, 200, 200, 100


def _of_per_cent(job: tuple[int, float]) -> tuple[int, int]:
    n, share = job
    held = studied = 0
    for seed in range(PER_CENT):
        random = np.random.default_rng((seed, n))
        x = np.linspace(1, 10, n)
        truth = 2 * x + 5
        y = truth * (1 + random.normal(0, share, n))
        if np.any(y <= 0):
            continue
        found = fit(Readings(x, y, y_error=share * y, error_share=share, absolute_errors=True), Line())
        at = found.predict([3.0, 8.0], 0.95)
        held += int(np.sum((at.mean_low <= 2 * at.x + 5) & (2 * at.x + 5 <= at.mean_high)))
        studied += 2
    return held, studied


def per_cent(each: Each) -> Iterator[str]:
    yield "| readings | 5 % | 10 % | 15 % | 20 % |"
    yield "| ---: | ---: | ---: | ---: | ---: |"
    sizes, shares = (8, 15, 30, 60), (0.05, 0.1, 0.15, 0.2)
    found = list(each(_of_per_cent, [(n, share) for n in sizes for share in shares]))
    for i, n in enumerate(sizes):
        shown = [f"{100 * held / studied:.1f}" for held, studied in found[i * 4 : i * 4 + 4]]
        yield f"| {n} | {' | '.join(shown)} |"


def _of_wave(job: tuple[int, float, float]) -> tuple[int, int]:
    """Count the studies in which a wave of so many standard deviations under a line is seen: by any check, and by the one for waves."""
    n, size, period = job
    seen = by_wave = 0
    for seed in range(WAVES):
        random = np.random.default_rng((seed, n))
        x = np.linspace(1, 10, n)
        y = 2 * x + 5 + size * np.sin(2 * np.pi * x / period + random.uniform(0, 6.3)) + random.normal(0, 1, n)
        pattern = pattern_of(fit(Readings(x, y), Line()))
        seen += pattern.visible
        by_wave += pattern.wave_p is not None and pattern.wave_p < WAVE_CHECK
    return seen, by_wave


def waves(each: Each) -> Iterator[str]:
    yield "| readings | no wave | period 2.2 | 3.5 | 6 | 3.5, twenty times the scatter |"
    yield "| ---: | ---: | ---: | ---: | ---: | ---: |"
    sizes = (10, 12, 15, 20, 40)
    kinds = ((0.0, 3.5), (3.0, 2.2), (3.0, 3.5), (3.0, 6.0), (20.0, 3.5))
    found = list(each(_of_wave, [(n, *kind) for n in sizes for kind in kinds]))
    for i, n in enumerate(sizes):
        some = found[i * len(kinds) : (i + 1) * len(kinds)]
        yield f"| {n} | {' | '.join(f'{100 * seen / WAVES:.1f}' for seen, _ in some)} |"


def _slow_wave(random: np.random.Generator, n: int) -> bool:
    x = np.round(np.linspace(0, 10, n), 2)
    y = np.round(5 + 1.9 * np.sin(2 * np.pi * x / 7 + random.uniform(0, 6.3)) + random.normal(0, 0.1, n), 2)
    found = fit(Readings(x, y), Sinusoid())
    return bool(abs(2 * np.pi / found.values["angular_frequency"] - 7) < 1)


def _fast_wave(random: np.random.Generator, n: int) -> bool:
    x = np.sort(random.uniform(0, 10, n))
    found = fit(Readings(x, np.sin(2 * np.pi * x / 0.9) + random.normal(0, 0.1, n)), Sinusoid())
    return bool(abs(2 * np.pi / found.values["angular_frequency"] - 0.9) < 0.05)


def _of_alias(job: tuple[str, int]) -> tuple[int, int]:
    kind, n = job
    made = _slow_wave if kind == "slow" else _fast_wave
    right = studied = 0
    for seed in range(60):
        try:
            right += made(np.random.default_rng((seed, n)), n)
        except RidgeError:
            continue
        studied += 1
    return right, studied


def aliases(each: Each) -> Iterator[str]:
    yield "| wave | 8 readings | 10 | 15 | 30 |"
    yield "| --- | ---: | ---: | ---: | ---: |"
    sizes = (8, 10, 15, 30)
    found = list(each(_of_alias, [(kind, n) for kind in ("slow", "fast") for n in sizes]))
    for i, name in enumerate(("period 7, x nearly evenly spaced", "period 0.9, x at random")):
        yield f"| {name} | {' | '.join(f'{right} of {studied}' for right, studied in found[4 * i : 4 * i + 4])} |"


def _recorded(kind: str, random: np.random.Generator, n: int) -> Readings:
    x = np.linspace(1, 10, n)
    scatter = random.normal(0, 0.3, n)
    y = np.round(2 * x + 1 + scatter, 2)
    match kind:
        case "display in whole units":
            return Readings(x, np.round(0.5 * x + 5 + scatter / 6))
        case "rows pasted twice":
            return Readings(np.tile(x, 2), np.tile(y, 2))
        case "upper end of the range":
            return Readings(x, np.minimum(y, 15))
        case "two x only":
            two = np.repeat([2.0, 7.0], [n // 2, n - n // 2])
            return Readings(two, np.round(2 * two + 1 + scatter, 2))
        case "drift with the row":
            order = random.permutation(n)
            return Readings(x[order], y[order] + np.linspace(0, 1.2, n))
        case "two samples, 6 s apart":
            return Readings(x, y + np.where(random.random(n) < 0.5, 1.8, 0.0))
        case "clean, rows in random order":
            order = random.permutation(n)
            return Readings(x[order], y[order])
    return Readings(x, y)


KINDS = (
    "clean", "clean, rows in random order", "display in whole units", "rows pasted twice", "upper end of the range", "two x only",
    "drift with the row", "two samples, 6 s apart",
)  # fmt: skip


def _of_recording(job: tuple[str, int]) -> Counter[str]:
    kind, n = job
    found: Counter[str] = Counter()
    for seed in range(RECORDED):
        readings = _recorded(kind, np.random.default_rng((seed, n)), n)
        found.update({one.code for one in findings_of(fit(readings, Line()))})
    return found


def recording(each: Each) -> Iterator[str]:
    yield f"| readings of a line | n | {' | '.join(CODES)} |"
    yield f"| --- | ---: | {' | '.join('---:' for _ in CODES)} |"
    jobs = [(kind, n) for kind in KINDS for n in (12, 20, 40)]
    for (kind, n), found in zip(jobs, each(_of_recording, jobs), strict=True):
        yield f"| {kind} | {n} | {' | '.join(f'{100 * found[code] / RECORDED:.1f}' for code in CODES)} |"


def _of_ranking(job: tuple[int, int]) -> tuple[int, int]:
    """Return 1 where another model than the constant comes first on noise, and how many were tried."""
    n, seed = job
    x = np.linspace(1, 10, n)
    readings = Readings(x, 50 + np.random.default_rng((seed, n)).normal(0, 1, n))
    tried = []
    for entry in MODELS:
        if entry.form.tried:
            try:
                model = entry.model()
                tried.append((model, fit(readings, model), ""))
            except RidgeError:
                continue
    first = order_models(tried)[0].fit
    return int(first is not None and not isinstance(first.model, Constant)), len(tried)


def ranking(each: Each) -> Iterator[str]:
    yield "| readings | something else first, % | of studies |"
    yield "| ---: | ---: | ---: |"
    for n in (8, 15, 40):
        found = list(each(_of_ranking, [(n, seed) for seed in range(RANKED)]))
        yield f"| {n} | {100 * sum(one for one, _ in found) / RANKED:.1f} | {RANKED} |"


SECTIONS = (
    (
        "Uncertainties in per cent",
        "A line whose readings scatter by so many per cent of their true value, with that as their absolute uncertainty: per cent of "
        f"studies in which the 95 % limits hold the curve. Goal: 95; one standard error is about {100 * sqrt(0.05 * 0.95 / 800):.1f}.",
        per_cent,
    ),
    (
        "Waves in the residuals",
        "A wave of three times the scatter under a line: per cent of data sets in which the residuals show a pattern. Goal: 95 from ten "
        "readings on, with at most 5 where there is no wave. It is reached from 15 readings on. With ten readings it is out of reach: "
        "if all of the 5 % allowed for false alarms were spent on waves alone, 84 to 91 % would be found, because six degrees of freedom "
        "are left for all periods together. A wave therefore counts below p = 0.02 and each other check below 0.0043.",
        waves,
    ),
    (
        "The slowest wave that fits",
        "Sinusoids on few readings: how often the right period is found. The first is the case in which a fast wave fits as well.",
        aliases,
    ),
    (
        "How readings were recorded",
        "Readings of a line, recorded in ways that mislead: per cent of studies in which each warning is given. In the first two rows "
        "every one is a false alarm.",
        recording,
    ),
    (
        "Suggested models on noise",
        f"A constant with normal scatter: how often another model than the constant comes first. Goal: at most 6; one standard error is "
        f"{100 * sqrt(0.05 * 0.95 / RANKED):.1f}.",
        ranking,
    ),
)  # fmt: skip
