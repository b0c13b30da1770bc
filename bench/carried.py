"""Uncertainty carried through formulas, and where to measure next; propagation beside the package ``uncertainties``."""

from __future__ import annotations

import numpy as np
from uncertainties import unumpy

from bench.timing import medians
from ridge.core import Readings, fit
from ridge.core.carrying import carry, follow, propagate, where_next
from ridge.core.formula import parse
from ridge.core.models import Exponential

ROWS = 100_000
BESIDE = 2_000
"""Rows that the other package is given: it takes them one by one."""


def run() -> None:
    draw = np.random.default_rng(1)
    columns = {name: (draw.uniform(1, 2, ROWS), 0.01) for name in "abcde"}
    few = {name: (values[:BESIDE], error) for name, (values, error) in columns.items()}
    units = dict.fromkeys("abcde", "cm")
    other = {name: unumpy.uarray(values, error) for name, (values, error) in few.items()}
    steps = {"p": "a*b", "q": "p/c", "r": "sqrt(q*d)", "s": "r + e", "t": "s - q"}
    trees = {name: parse(text).tree for name, text in steps.items()}
    x = np.linspace(0, 10, 1000)
    made = fit(Readings(x, 5 * np.exp(-0.3 * x) + draw.normal(0, 0.05, 1000)), Exponential())
    formula = "a*b/c + sqrt(d*e) - a"
    whole, part, beside, chained, quantity, places = medians(
        lambda: propagate(formula, columns, units=units),
        lambda: propagate(formula, few, units=units),
        lambda: unumpy.std_devs(
            other["a"] * other["b"] / other["c"] + unumpy.sqrt(other["d"] * other["e"]) - other["a"]
        ),
        lambda: carry(trees, columns, ROWS, units=units),
        lambda: follow("-ln(2)/k", made),
        lambda: where_next(made, "k", between=(0, 20)),
        repeats=5,
    )
    print(f"\nUncertainty through five columns of {ROWS} rows: {whole:.0f} ms (goal 300)")
    print(f"  of {BESIDE} rows {part:.1f} ms, by the package uncertainties {beside:.0f} ms")
    print(f"  column by column, five that use one another: {chained:.0f} ms (goal 300)")
    print(
        f"What follows from a fit, with its budget: {quantity:.1f} ms; where to measure next {places:.1f} ms (goal 50)"
    )
