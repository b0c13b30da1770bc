"""Workings in exact arithmetic, each beside what SymPy takes for the same reduction, in the same run."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

import numpy as np
import sympy

from bench.timing import medians
from ridge.core import Readings, fit
from ridge.core.models import Exponential, Line, Model, Polynomial
from ridge.core.workings import Working, work

COUNT, DEGREE = 200, 6
GOAL = 300  # ms


def _readings() -> Readings:
    draw = np.random.default_rng(1)
    x = np.round(np.linspace(0.1, 9.9, COUNT), 2)
    return Readings(x, np.round(20 + 3 * x - 0.4 * x**2 + draw.normal(0, 0.5, COUNT), 2))


def by_sympy(readings: Readings) -> sympy.Matrix:
    """The normal equations of the polynomial, reduced in SymPy's exact arithmetic."""
    x = [sympy.Rational(repr(value)) for value in readings.x.tolist()]
    y = sympy.Matrix([sympy.Rational(repr(value)) for value in readings.y.tolist()])
    a = sympy.Matrix([[value**power for power in range(DEGREE, -1, -1)] for value in x])
    return (a.T * a).row_join(a.T * y).rref()[0]


def run() -> None:
    readings = _readings()
    nodes = Readings(readings.x[::20], readings.y[::20])
    polynomial, exponential = fit(readings, Polynomial(DEGREE)), fit(readings, Exponential())
    cases: list[tuple[str, Readings, Model | object, dict[str, float]]] = [
        ("line-by-sums", readings, Line(), {}),
        ("least-squares", readings, polynomial, {}),
        ("goodness-of-fit", readings, polynomial, {}),
        ("interval-at", readings, polynomial, {"x": 5.0}),
        ("solve-for-x", readings, polynomial, {"y": 20.0}),
        ("through-points", nodes, None, {}),
        ("divided-differences", nodes, None, {}),
        ("lagrange", nodes, None, {}),
        ("straight-pieces", readings, None, {}),
        ("natural-spline", readings, None, {}),
        ("by-hand", readings, Exponential(), {}),
        ("least-squares-path", readings, exponential, {}),
    ]

    def call(what: str, of: Readings, model: object, more: dict[str, float]) -> Callable[[], object]:
        return lambda: work(what, of, model, **more)  # type: ignore[arg-type]

    beside, *times = medians(lambda: by_sympy(readings), *(call(*case) for case in cases), repeats=3)
    words = medians(*(partial(_word, work(case[0], case[1], case[2], **case[3])) for case in cases), repeats=3)  # type: ignore[arg-type]
    print(f"\nWorkings, {COUNT} readings, degree {DEGREE} (goal {GOAL} ms in the core)")
    print(f"  {'reduction by SymPy':22} {beside:8.1f} ms")
    for (what, *_), time, word in zip(cases, times, words, strict=True):
        print(f"  {what:22} {time:8.1f} ms, in words {word:6.1f} ms more")


def _word(working: Working) -> object:
    return working.worded
