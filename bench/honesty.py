"""How honest the judgement is: cautions found, missed and raised without reason; noise called a law; limits that hold.

Everything with fixed seeds; a share is compared with what so many studies allow.
"""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Callable, Iterable, Iterator, Sequence
from math import sqrt
from multiprocessing import Pool
from typing import Any

import numpy as np
from scipy.stats import binom

from bench import residual_checks
from bench.covering import STUDIES, covered
from bench.page import put
from ridge.core import Readings, fit
from ridge.core.errors import RidgeError
from ridge.core.judging.influence import readings_that_decide
from ridge.core.judging.ranking import order_models
from ridge.core.judging.significance import SIGNIFICANT
from ridge.core.models import Constant
from tests.labelled import CONSTANT, Study, studies
from tests.simulated import HIGH, LAWS, LOW, SIZES, clean, noise

CLEAN, NOISE, DECIDED = 150, 150, 60
IN_CLEAN = (
    "far-off", "one-reading-decides", "patterned-residuals", "spread-changes", "errors-do-not-match", "level-not-near",
    "less-than-a-cycle", "fewer-than-two-readings-a-cycle", "step-between-readings", "pole-inside", "swings",
)  # fmt: skip


def _percent(count: int, of: int) -> str:
    return f"{100 * count / of:.1f}" if of else "–"


def labelled() -> Iterator[str]:
    yield "| caution | wanted in | found | missed | raised without reason | where |"
    yield "| --- | ---: | ---: | ---: | ---: | --- |"
    hits, misses, alarms, where = Counter[str](), Counter[str](), Counter[str](), defaultdict[str, list[str]](list)
    every = studies()
    for study in every:
        codes = {caution.code for caution in study.fitted().cautions}
        label = _label(study)
        if label:
            (hits if codes & study.wanted else misses)[label] += 1
        for code in codes - study.wanted - study.allowed:
            alarms[code] += 1
            where[code].append(study.name)
    for code in sorted({*hits, *misses, *alarms}):
        told = "; ".join(where[code])
        yield f"| {code} | {hits[code] + misses[code]} | {hits[code]} | {misses[code]} | {alarms[code]} | {told} |"
    yield f"| all {len(every)} studies | {hits.total() + misses.total()} | {hits.total()} | {misses.total()} | {alarms.total()} | |"


def _label(study: Study) -> str:
    return "no better than a constant" if study.wanted == CONSTANT else " or ".join(sorted(study.wanted))


def by_chance(count: int, of: int, level: float) -> bool:
    """Whether so many of so many may hold at that level: within what three standard errors are to a normal share, which those
    near one are not (the binomial distribution)."""
    tail = 0.00135
    return float(binom.cdf(count, of, level)) > tail and float(binom.sf(count - 1, of, level)) > tail


def _of_clean(job: tuple[int, int, float]) -> Counter[str]:
    law, (_, n, share) = LAWS[job[0]], job
    found: Counter[str] = Counter()
    for seed in range(CLEAN):
        try:
            result = fit(clean(law, n, share, seed), law.model)
        except RidgeError:
            found["refused"] += 1
            continue
        found.update({caution.code for caution in result.cautions})
        found["fitted"] += 1
    return found


def false_alarms(each: Callable[[Callable[..., Any], Iterable[Any]], Iterator[Any]]) -> Iterator[str]:
    yield f"| caution | {' | '.join(str(n) for n in SIZES)} readings | most in one law | of |"
    yield "| --- | ---: | ---: | ---: | ---: | --- |"
    jobs = [(i, n, share) for i in range(len(LAWS)) for n in SIZES for share in (LOW, HIGH)]
    found = list(each(_of_clean, jobs))
    for code in IN_CLEAN:
        by_size = [
            _percent(
                sum(one[code] for job, one in zip(jobs, found, strict=True) if job[1] == n),
                sum(one["fitted"] for job, one in zip(jobs, found, strict=True) if job[1] == n),
            )
            for n in SIZES
        ]
        shares = [one[code] / max(one["fitted"], 1) for one in found]
        most = int(np.argmax(shares))
        told = (
            f"{LAWS[jobs[most][0]].name}, {jobs[most][1]} readings, {100 * jobs[most][2]:g} %" if shares[most] else ""
        )
        yield f"| {code} | {' | '.join(by_size)} | {100 * shares[most]:.1f} | {told} |"


def _of_noise(job: tuple[int, int, float]) -> tuple[int, int, int]:
    """Studies, those called significant or ranked above the constant without a caution, and those by the plain F test."""
    law, (_, n, mean) = LAWS[job[0]], job
    fitted = praised = plainly = 0
    for seed in range(NOISE):
        readings = noise(n, seed, mean)
        try:
            result = fit(readings, law.model)
        except RidgeError:
            continue
        fitted += 1
        codes = {caution.code for caution in result.cautions}
        constant = fit(readings, Constant())
        first = order_models([(constant.model, constant, ""), (law.model, result, "")])[0].fit is result
        significant = (result.statistics.f_p_value or 1) < SIGNIFICANT
        praised += (significant or first) and not codes & CONSTANT
        plainly += (result.statistics.f_p_plain or 1) < SIGNIFICANT
    return fitted, praised, plainly


def praise_of_noise(each: Callable[[Callable[..., Any], Iterable[Any]], Iterator[Any]]) -> Iterator[str]:
    yield f"| model | {' | '.join(f'{n} readings' for n in SIZES)} | all | by the F distribution alone |"
    yield "| --- | ---: | ---: | ---: | ---: | ---: |"
    jobs = [(i, n, mean) for i in range(len(LAWS)) for n in SIZES for mean in (50.0, 0.0)]
    found = list(each(_of_noise, jobs))
    for i, law in enumerate(LAWS):
        shown = []
        whole = np.zeros(3, dtype=int)
        for n in SIZES:
            some = np.sum([one for job, one in zip(jobs, found, strict=True) if job[:2] == (i, n)], axis=0)
            whole += some
            shown.append(_percent(int(some[1]), int(some[0])))
        yield f"| {law.name} | {' | '.join(shown)} | {_percent(int(whole[1]), int(whole[0]))} | {_percent(int(whole[2]), int(whole[0]))} |"


def _of_decided(job: tuple[int, int, str]) -> tuple[int, int]:
    """Studies in which setting one reading aside moves the curve by more than its limits, and those in which it is named."""
    law, (_, n, kind) = LAWS[job[0]], job
    moved = named = 0
    for seed in range(DECIDED):
        readings = clean(law, n, LOW, 3 * seed + 1)
        random = np.random.default_rng((seed, n, job[0]))
        x, y, scatter = readings.x.copy(), readings.y.copy(), LOW * law.height
        if kind == "lonely":
            x = np.append(np.sort(law.low + (law.high - law.low) * 0.35 * random.random(n - 1)), law.high)
            y = law.truth(x) + random.normal(0, scatter, n)
            row = n - 1
        else:
            row = int(random.choice([0, n - 1]))
        y[row] += random.choice([-1, 1]) * random.uniform(3, 15) * scatter
        try:
            whole = fit(Readings(x, y), law.model)
            rest = fit(Readings(x, y, included=np.arange(n) != row), law.model)
        except RidgeError:
            continue
        at = whole.predict(np.linspace(x.min(), x.max(), 41))
        with np.errstate(all="ignore"):
            if not np.nanmax(np.abs(rest.evaluate(at.x) - at.value) / (at.mean_high - at.value), initial=0.0) > 1:
                continue
        moved += 1
        named += row in readings_that_decide(whole)
    return moved, named


def decided(each: Callable[[Callable[..., Any], Iterable[Any]], Iterator[Any]]) -> Iterator[str]:
    yield "| model | lonely reading, 8 | 20 | end reading, 8 | 20 | 60 |"
    yield "| --- | ---: | ---: | ---: | ---: | ---: |"
    kinds = [("lonely", 8), ("lonely", 20), ("end", 8), ("end", 20), ("end", 60)]
    jobs = [(i, n, kind) for i in range(len(LAWS)) for kind, n in kinds]
    found = list(each(_of_decided, jobs))
    whole = [[0, 0] for _ in kinds]
    for i, law in enumerate(LAWS):
        shown = []
        for place, (moved, named) in enumerate(found[i * len(kinds) : (i + 1) * len(kinds)]):
            whole[place][0] += moved
            whole[place][1] += named
            shown.append(f"{named} of {moved}")
        yield f"| {law.name} | {' | '.join(shown)} |"
    yield f"| all, % | {' | '.join(_percent(named, moved) for moved, named in whole)} |"


def coverage(each: Callable[[Callable[..., Any], Iterable[Any]], Iterator[Any]]) -> Iterator[str]:
    yield "| law | figures | within three standard errors | outside: said 95, 99 %, held |"
    yield "| --- | ---: | ---: | --- |"
    jobs = [(i, n, share) for i in range(len(LAWS)) for n in SIZES for share in (LOW, HIGH)]
    found = list(each(covered, jobs))
    for i, law in enumerate(LAWS):
        figures, outside = 0, []
        for job, one in zip(jobs, found, strict=True):
            if job[0] != i:
                continue
            for name, (held, studied) in one.items():
                for level, share in held.items():
                    figures += 1
                    if not by_chance(round(share * studied), studied, level):
                        outside.append(
                            f"{name}, {job[1]} readings, {100 * job[2]:g} %: {100 * level:g} → {100 * share:.1f}"
                        )
        yield f"| {law.name} | {figures} | {figures - len(outside)} | {'; '.join(outside)} |"


SECTIONS: Sequence[tuple[str, str, Callable[[Any], Iterator[str]]]] = (
    (
        "Cautions on labelled studies",
        "Small studies with what there is to be said of each (`tests/labelled.py`). Goal: every wanted caution found; of the "
        "clean ones fewer than 5 % with any one false alarm.",
        lambda each: labelled(),
    ),
    (
        "False alarms on clean studies",
        f"Readings that a family's own law gave, {len(LAWS)} laws, scatter of {100 * LOW:g} and {100 * HIGH:g} % of the height of "
        f"the curve, {CLEAN} studies each: per cent in which a caution is raised. Goal: below 5. One standard error of a "
        f"single law's share is {100 * sqrt(0.03 * 0.97 / CLEAN):.1f}.",
        false_alarms,
    ),
    (
        "Noise called a law",
        f"A constant (50 and 0) with normal scatter, {2 * NOISE} studies a size: per cent in which the fit is called significant or "
        f"stands above the constant, and no caution says that a constant does as well. Goal: at most 6; one standard error is "
        f"{100 * sqrt(0.05 * 0.95 / 2 / NOISE):.1f}. Last: what p by the F distribution would call significant.",
        praise_of_noise,
    ),
    (
        "One reading that decides",
        "Of the studies in which setting a disturbed reading aside moves the curve by more than its 95 % limits, those in which "
        "that reading is named. Lonely: two thirds of the range hold no other reading. End: the first or last of evenly spaced "
        "ones. Goal: 95 %. It cannot be reached together with fewer than 5 % false alarms for eight evenly spaced readings of a "
        "law with a steep end: of clean studies of this kind setting the end reading aside moves the curve by more than "
        "its limits in 50 (exponential) to 88 % (quartic), so that only what is larger than that is told.",
        decided,
    ),
    (
        "Coverage of everything that has limits",
        "Parameters, the curve and a new reading inside and a quarter range beyond, x at a y, derived quantities, area, "
        "turning points and inflexions, as the page shows them (by profile where ± would mislead). Goal: within three "
        f"standard errors of what is said; {STUDIES} studies each.",
        coverage,
    ),
)


def write() -> None:
    with Pool() as pool:
        for title, note, run in (*SECTIONS, *residual_checks.SECTIONS):
            rows = list(run(lambda work, jobs: pool.imap(work, jobs)))
            print(f"\n{title}\n{note}", *rows, sep="\n", flush=True)
            put(title, note, rows)
