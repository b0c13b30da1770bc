"""Uncertainty carried through a formula: the law of propagation (JCGM 100:2008, clause 5), and a seeded simulation (JCGM 101:2008)
where the formula is too curved for it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from ridge.core.carrying.coherent import in_coherent_units
from ridge.core.errors import LengthsDiffer, OutsideSense
from ridge.core.formula import Program, differentiate, parse
from ridge.core.formula.tree import Node, names_in
from ridge.core.readings import Array
from ridge.core.results.read_only import ReadOnly

CURVED = 0.1
"""Share of the standard uncertainty by which a second-order term must shift value or uncertainty for the rule to count as poor."""
DRAWS = 20_000
SEED = 1
MOST_SIMULATED = 2_000
"""Rows that are simulated at most; of more, every so manieth decides."""

Source = tuple[npt.ArrayLike, npt.ArrayLike]


@dataclass(frozen=True)
class Propagated:
    """What a formula comes to, every field in the common shape of its sources.

    ``budget``: of each source its share of the variance; the shares sum to one (with correlations some may be negative), NaN where nothing
    is uncertain. ``curved``: where first order is a poor rule; ``simulated``: there the standard deviation of a simulation, elsewhere
    NaN. ``unit``: of the result, empty where it is not known.
    """

    value: Array
    standard_error: Array
    budget: Mapping[str, Array]
    curved: npt.NDArray[np.bool_]
    simulated: Array
    unit: str
    unit_remark: str

    def __post_init__(self) -> None:
        object.__setattr__(self, "budget", ReadOnly(self.budget))


def propagate(
    formula: str,
    sources: Mapping[str, Source],
    *,
    units: Mapping[str, str] | None = None,
    correlations: Mapping[tuple[str, str], float] | None = None,
    simulate: bool = True,
) -> Propagated:
    """Value and standard uncertainty of ``formula``.

    Parameters
    ----------
    sources :
        Values and standard uncertainties by name, each a number or an array; together of one shape. A source counts once however
        often it occurs: x − x is exact.
    units :
        Of the sources; those left out have none.
    correlations :
        Coefficients of pairs of sources; those left out are independent (JCGM 100, 5.2).

    Raises OutsideSense for a name without a source, a negative uncertainty or a coefficient beyond ±1; LengthsDiffer; FormulaError.

    >>> from ridge.core.carrying import propagate
    >>> g = propagate("4*pi^2*L/T^2", {"L": (1.0, 0.001), "T": (2.006, 0.002)}, units={"L": "m", "T": "s"})
    >>> round(float(g.value), 3), round(float(g.standard_error), 3), g.unit
    (9.811, 0.022, 'm/s²')
    >>> round(float(g.budget["T"]), 2)
    0.8
    """
    tree = parse(formula).tree
    return propagate_tree(tree, sources, units or {}, correlations or {}, simulate)


def propagate_tree(
    tree: Node,
    sources: Mapping[str, Source],
    units: Mapping[str, str],
    correlations: Mapping[tuple[str, str], float],
    simulate: bool = True,
) -> Propagated:
    """The same of a formula that has been read. Raises UnitsDiffer."""
    coherent = in_coherent_units(tree, units)
    tree, names = coherent.tree, names_in(tree)
    missing = [name for name in names if name not in sources]
    if missing:
        raise OutsideSense(missing[0], "has neither a value nor an uncertainty.")
    values, errors = _columns(names, sources)
    program = Program([tree, *(differentiate(tree, name) for name in names)], names)
    shape = np.broadcast_shapes(*(value.shape for value in values)) if values else ()
    with np.errstate(all="ignore"):
        value, *slopes = (np.broadcast_to(one, shape).astype(np.float64) for one in program(*values))
        parts = [slope * error for slope, error in zip(slopes, errors, strict=True)]
        r = _matrix(names, correlations)
        variance, budget = _variance(parts, r, shape)
        error = np.sqrt(np.maximum(variance, 0.0))
        curved = _curved(tree, names, values, errors, error, shape)
        # First order says nothing at a turning point or a kink (z³, |z| at 0), unless effects cancel.
        flat = np.all([part == 0 for part in parts], axis=0) if parts else np.zeros(shape, dtype=np.bool_)
        flat = np.asarray(flat & _depends(tree, names, values, errors, shape))
        curved = np.asarray(curved | flat)
    simulated = np.full(shape, np.nan)
    if simulate and curved.any():
        simulated = _simulated(program, values, errors, r, curved, shape)
    found = dict(zip(names, budget, strict=True))
    return Propagated(value, error, found, curved, simulated, coherent.unit, coherent.remark)


def _columns(names: tuple[str, ...], sources: Mapping[str, Source]) -> tuple[list[Array], list[Array]]:
    values = [np.asarray(sources[name][0], dtype=np.float64) for name in names]
    errors = [np.asarray(sources[name][1], dtype=np.float64) for name in names]
    lengths = {array.shape for array in (*values, *errors) if array.shape}
    if len(lengths) > 1:
        longest = max(lengths)
        name = next(
            name
            for name, value, error in zip(names, values, errors, strict=True)
            if {value.shape, error.shape} - {longest, ()}
        )
        raise LengthsDiffer(name, int(np.prod(min(lengths))), int(np.prod(longest)))
    for name, error in zip(names, errors, strict=True):
        if np.any(error < 0):
            raise OutsideSense(name, "has a negative uncertainty.")
    return values, errors


def _matrix(names: tuple[str, ...], correlations: Mapping[tuple[str, str], float]) -> Array:
    r = np.eye(len(names))
    for (first, second), coefficient in correlations.items():
        if not -1 <= coefficient <= 1:
            raise OutsideSense(f"{first}, {second}", "a correlation coefficient lies between −1 and 1.")
        if first in names and second in names and first != second:
            i, j = names.index(first), names.index(second)
            r[i, j] = r[j, i] = coefficient
    return r


def _variance(parts: list[Array], r: Array, shape: tuple[int, ...]) -> tuple[Array, list[Array]]:
    """JCGM 100, equation 13; what each source contributes, as a share."""
    total = np.zeros(shape)
    own = []
    for i, part in enumerate(parts):
        mixed = np.zeros(shape)
        for j, other in enumerate(parts):
            if r[i, j]:
                mixed = mixed + r[i, j] * other
        own.append(part * mixed)
        total = total + own[-1]
    return total, [one / np.where(total > 0, total, np.nan) for one in own]


def _curved(
    tree: Node, names: tuple[str, ...], values: list[Array], errors: list[Array], error: Array, shape: tuple[int, ...]
) -> npt.NDArray[np.bool_]:
    """Where the terms of second order matter: the shift ½Σfᵢᵢuᵢ², and Σ(½fᵢⱼ² + fᵢfᵢⱼⱼ)uᵢ²uⱼ² (JCGM 100, note to 5.1.2)."""
    firsts = [differentiate(tree, name) for name in names]
    seconds = [[differentiate(first, name) for name in names] for first in firsts]
    found = Program([one for row in seconds for one in row], names)(*values) if names else []
    size = len(names)
    shift, more = np.zeros(shape), np.zeros(shape)
    for i in range(size):
        for j in range(size):
            second = np.broadcast_to(found[i * size + j], shape)
            if i == j:
                shift = shift + 0.5 * second * errors[i] ** 2
            more = more + 0.5 * second**2 * errors[i] ** 2 * errors[j] ** 2
    return np.asarray((np.abs(shift) > CURVED * error) | (more > ((1 + CURVED) ** 2 - 1) * error**2))


def _depends(
    tree: Node, names: tuple[str, ...], values: list[Array], errors: list[Array], shape: tuple[int, ...]
) -> npt.NDArray[np.bool_]:
    """Whether the value changes at all within the uncertainty of its sources: x − x does not."""
    program = Program([tree], names)
    here = np.broadcast_to(program(*values)[0], shape)
    moved = np.zeros(shape, dtype=np.bool_)
    for i in range(len(names)):
        for side in (-1.0, 1.0):
            at = [
                value + side * error if j == i else value
                for j, (value, error) in enumerate(zip(values, errors, strict=True))
            ]
            there = np.broadcast_to(program(*at)[0], shape)
            moved = moved | (np.isfinite(there) & (np.abs(there - here) > 1e-12 * np.abs(here)))
    return moved


def draw(
    tree: Node,
    sources: Mapping[str, Source],
    correlations: Mapping[tuple[str, str], float],
    scatter: Mapping[str, tuple[str, float]],
) -> Array:
    """Return draws of a formula of single numbers in rising order, shape (k,); those without a value are left out.

    The sources are normal, except the parameters of fits: ``scatter`` gives the fit of each and its degrees of freedom, whose
    estimated scatter makes them a multivariate t (JCGM 101:2008, 6.4.9 and 6.4.8). The draws are the same at every call.
    """
    names = names_in(tree)
    values, errors = _columns(names, sources)
    random = np.random.default_rng(SEED)
    root = np.linalg.cholesky(_matrix(names, correlations) + 1e-12 * np.eye(len(names)))
    draws = root @ random.standard_normal((len(names), DRAWS))
    scales = {
        fit: np.sqrt(degrees / random.chisquare(degrees, DRAWS))
        for fit, degrees in dict(scatter.values()).items()
        if np.isfinite(degrees) and degrees > 0
    }
    at = []
    for name, value, error, one in zip(names, values, errors, draws, strict=True):
        fit = scatter[name][0] if name in scatter else None
        at.append(float(value) + float(error) * one * (1.0 if fit is None else scales.get(fit, 1.0)))
    with np.errstate(all="ignore"):
        found = np.broadcast_to(Program([tree], names)(*at)[0], (DRAWS,))
    return np.sort(found[np.isfinite(found)])


def _simulated(
    program: Program,
    values: list[Array],
    errors: list[Array],
    r: Array,
    curved: npt.NDArray[np.bool_],
    shape: tuple[int, ...],
) -> Array:
    """Standard deviation of draws from normal distributions (JCGM 101, clause 7), the same draws in every row."""
    draws = np.random.default_rng(SEED).standard_normal((len(values), DRAWS))
    root = np.linalg.cholesky(r + 1e-12 * np.eye(len(r)))
    draws = root @ draws
    result = np.full(shape, np.nan)
    flat, rows = result.reshape(-1), np.flatnonzero(curved.reshape(-1))
    spread = [
        (np.broadcast_to(v, shape).reshape(-1), np.broadcast_to(e, shape).reshape(-1))
        for v, e in zip(values, errors, strict=True)
    ]
    with np.errstate(all="ignore"):
        for row in rows[:MOST_SIMULATED].tolist():
            at = [v[row] + e[row] * draw for (v, e), draw in zip(spread, draws, strict=True)]
            drawn = np.broadcast_to(program(*at)[0], (DRAWS,))
            kept = drawn[np.isfinite(drawn)]
            flat[row] = float(np.std(kept)) if len(kept) > DRAWS / 2 else np.inf
    return result
