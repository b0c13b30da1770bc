"""Uncertainty carried through formulas that use one another, each source counted once however many ways lead from it: first order with
exact derivatives (JCGM 100:2008, 5.1.2 and 5.2), and a seeded simulation beside it (JCGM 101:2008)."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from ridge.core.carrying.coherent import FitCurve, in_coherent_units, written_out
from ridge.core.carrying.propagation import DRAWS, SEED, Source
from ridge.core.formula import Program, differentiate
from ridge.core.formula.tree import Node, names_in
from ridge.core.readings import Array
from ridge.core.results.read_only import ReadOnly

Correlations = Mapping[tuple[str, str], float | Array]
"""Coefficients of pairs of sources: one for all rows, or one a row."""


@dataclass(frozen=True)
class Step:
    """What one formula comes to, each array of shape (rows,).

    ``slopes``: its derivative by each source that it depends on, directly or through other steps. ``unit``: empty where it is not known,
    with what is remarked of it.
    """

    value: Array
    standard_error: Array
    slopes: Mapping[str, Array]
    unit: str
    unit_remark: str

    def __post_init__(self) -> None:
        object.__setattr__(self, "slopes", ReadOnly(self.slopes))


def carry(
    formulas: Mapping[str, Node],
    sources: Mapping[str, Source],
    rows: int,
    *,
    correlations: Correlations | None = None,
    units: Mapping[str, str] | None = None,
    curves: Mapping[str, FitCurve] | None = None,
) -> dict[str, Step]:
    """Every step by its name.

    Parameters
    ----------
    formulas :
        Trees by the names of the steps, each using sources and steps before it.
    sources :
        Values and standard uncertainties by name, each a number or of shape (rows,).
    correlations :
        Coefficients of pairs of sources, for all rows or of shape (rows,); those left out are independent.
    units :
        Of sources, and of steps that are wanted in a unit.
    curves :
        Of the fits that the formulas call, by letter; their parameters are sources.

    >>> from ridge.core.formula import parse
    >>> found = carry({"s": parse("a + b").tree, "d": parse("s - b").tree}, {"a": (3.0, 0.3), "b": (1.0, 0.4)}, 1)
    >>> [round(float(found[name].standard_error[0]), 3) for name in "sd"]
    [0.5, 0.3]
    """
    found: dict[str, Step] = {}
    known = dict(units or {})
    values = {
        name: np.broadcast_to(np.asarray(value, dtype=np.float64), (rows,)) for name, (value, _) in sources.items()
    }
    errors = {
        name: np.broadcast_to(np.asarray(error, dtype=np.float64), (rows,)) for name, (_, error) in sources.items()
    }
    for step, typed in formulas.items():
        coherent = in_coherent_units(typed, known, known.get(step, ""), curves=curves)
        tree, names = coherent.tree, names_in(written_out(typed, curves or {}))
        program = Program([tree, *(differentiate(tree, name) for name in names)], names)
        with np.errstate(all="ignore"):
            value, *partial = (
                np.broadcast_to(np.asarray(one, dtype=np.float64), (rows,))
                for one in program(*(values[name] for name in names))
            )
            slopes: dict[str, Array] = {}
            for name, slope in zip(names, partial, strict=True):
                # Of a source the slope is its own; of a step that of each source behind it, by the chain rule.
                behind = found[name].slopes if name in found else {name: np.ones(rows)}
                for source, inner in behind.items():
                    slopes[source] = slopes.get(source, 0.0) + slope * inner
            variance = _variance(slopes, errors, correlations or {}, rows)
        known.setdefault(step, coherent.unit)
        values[step] = value
        found[step] = Step(value, np.sqrt(np.maximum(variance, 0.0)), slopes, coherent.unit, coherent.remark)
    return found


def _variance(slopes: Mapping[str, Array], errors: Mapping[str, Array], correlations: Correlations, rows: int) -> Array:
    # What is exact contributes nothing, even where the formula is infinitely steep.
    parts = {name: np.where(errors[name] == 0, 0.0, slope * errors[name]) for name, slope in slopes.items()}
    total = np.zeros(rows)
    for part in parts.values():
        total = total + part**2
    pairs = {tuple(sorted(pair)): coefficient for pair, coefficient in correlations.items()}  # either way round, once
    for (one, other), coefficient in pairs.items():
        if one in parts and other in parts and one != other:
            total = total + 2 * coefficient * parts[one] * parts[other]
    return total


def simulated(
    formulas: Mapping[str, Node],
    sources: Mapping[str, Source],
    step: str,
    rows: Sequence[int],
    correlations: Correlations | None = None,
    units: Mapping[str, str] | None = None,
    curves: Mapping[str, FitCurve] | None = None,
) -> Array:
    """Standard deviation of ``step`` in some rows by draws from normal distributions (JCGM 101, clause 7), shape (len(rows),); infinite
    where most draws have no value. The draws are the same at every call. ``units`` and ``curves`` as in ``carry``."""
    known = dict(units or {})
    trees = {}
    for name, typed in formulas.items():
        coherent = in_coherent_units(typed, known, known.get(name, ""), curves=curves)
        known.setdefault(name, coherent.unit)
        trees[name] = coherent.tree
    names = list(sources)
    normal = np.random.default_rng(SEED).standard_normal((len(names), DRAWS))
    found = []
    for row in rows:
        draws = dict(zip(names, _root(names, correlations or {}, row) @ normal, strict=True))
        at = {name: _at(value, row) + _at(error, row) * draws[name] for name, (value, error) in sources.items()}
        with np.errstate(all="ignore"):
            for name, tree in trees.items():
                used = names_in(tree)
                at[name] = np.broadcast_to(Program([tree], used)(*(at[one] for one in used))[0], (DRAWS,))
                if name == step:
                    break
        kept = at[step][np.isfinite(at[step])]
        found.append(float(np.std(kept)) if len(kept) > DRAWS / 2 else np.inf)
    return np.array(found)


def _root(names: Sequence[str], correlations: Correlations, row: int) -> Array:
    """A square root of the correlations of the sources in one row."""
    matrix = np.eye(len(names))
    for (one, other), coefficient in correlations.items():
        if one in names and other in names and one != other:
            i, j = names.index(one), names.index(other)
            matrix[i, j] = matrix[j, i] = _at(coefficient, row)
    # Roundings may leave it just short of definite.
    values, vectors = np.linalg.eigh(matrix)
    return np.asarray(vectors * np.sqrt(np.maximum(values, 0.0)))


def _at(values: object, row: int) -> float:
    array = np.asarray(values, dtype=np.float64)
    return float(array[row] if array.shape else array)
