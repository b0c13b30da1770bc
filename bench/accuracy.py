"""The core's figures as tables, printed or kept in ``docs/accuracy.md``."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from bench import certified, coverage, curves, memory, searching
from bench.page import put

SECTIONS: list[tuple[str, str, Callable[[], Iterator[str]]]] = [
    (
        "Certified problems, linear",
        "Digits agreed with the NIST/ITL Statistical Reference Datasets (certified to 15). 16.0 is full agreement; where the "
        "certified value is zero, the figure says how many zeros follow the point. Goal: 13 throughout.",
        certified.linear,
    ),
    (
        "Certified problems, nonlinear",
        "The 18 problems kept here, given as own formulas (certified to 11 digits). Goal: 9 digits from either start, the "
        "certified minimum without a start, 2 s each. The residuals of Lanczos1 are 10⁻¹³ of y and drown in the rounding of "
        "doubles: such readings are taken as the decimals that were written down, and solved in 60 digits.",
        certified.nonlinear,
    ),
    (
        "Fits without starting values",
        "Random noisy problems, the minimum compared with that of a dense search. Refused: the best parameters are beyond "
        "what doubles hold.",
        searching.run,
    ),
    (
        "Coverage of intervals",
        "Share of 1000 simulated studies, in per cent, whose 90, 95 and 99 % intervals hold the truth. One standard "
        "deviation of the share itself is 0.9, 0.7 and 0.3.",
        coverage.run,
    ),
    (
        "Where standard errors mislead",
        "Share of 300 simulated studies of few and loose readings whose 95 % confidence interval of the curve, beyond the readings, holds "
        "the truth. One standard deviation of the share is 1.3. Replaced: limits that follow the profile of the sum of squares.",
        coverage.where_errors_mislead,
    ),
    (
        "Speed",
        "Medians of one run, full statistics included. The references are given good starts, Ridge none. Goals: line 1, "
        "exponential 3, sinusoid 5, cubic 5.",
        curves.run,
    ),
    ("Memory", "Resident memory of a process with 100 000 readings. Goal: 300 MB.", memory.run),
]


def show() -> None:
    for title, note, run in SECTIONS:
        print(f"\n{title}\n{note}")
        for row in run():
            print(row, flush=True)


def write() -> None:
    for title, note, run in SECTIONS:
        print(title, flush=True)
        put(title, note, run())
