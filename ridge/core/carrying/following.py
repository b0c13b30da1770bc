"""A quantity of one's own that follows from fits: value, standard uncertainty with all covariances, limits, and its budget."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field, replace

import numpy as np
from scipy.special import ndtri, stdtrit

from ridge.core.carrying.coherent import in_coherent_units
from ridge.core.carrying.fits_together import correlations_between
from ridge.core.carrying.propagation import CURVED, DRAWS, Propagated, draw, propagate_tree
from ridge.core.carrying.shared_errors import Moved
from ridge.core.errors import OutsideSense
from ridge.core.formula import parse
from ridge.core.formula.tree import (
    Name,
    Negative,
    Node,
    Number,
    Operation,
    add,
    multiply,
    names_in,
    number,
    substitute,
    walk,
)
from ridge.core.readings import Array
from ridge.core.results.fit import Fit
from ridge.core.results.read_only import ReadOnly
from ridge.core.results.statistics import check_level


@dataclass(frozen=True)
class Linked:
    """A result that moves with the parameters of fits: an answer, the mean of a column. ``slopes``: by how much with each parameter, by its
    full name; ``own``: standard uncertainty that it has besides, from the scatter of the fit of the letter ``scatter_of`` (None where
    it is known absolutely); ``shared``: by how much one standard uncertainty of a shared error moves it, by the name of that."""

    value: float
    slopes: Mapping[str, float] = field(default_factory=dict)
    own: float = 0.0
    scatter_of: str | None = None
    shared: Mapping[str, float] = field(default_factory=dict)


@dataclass(frozen=True)
class Follows:
    """``value`` and ``standard_error`` (None where the scatter of a fit is unknown); ``degrees_of_freedom``: effective ones (JCGM 100,
    G.4.1), infinite where every uncertainty is known absolutely. ``budget``: share of the variance by source, in the names of the
    formula, summing to one. ``curved``, ``simulated``, ``unit`` and ``unit_remark`` as in ``Propagated``."""

    value: float
    standard_error: float | None
    degrees_of_freedom: float
    budget: Mapping[str, float]
    curved: bool
    simulated: float | None
    unit: str
    unit_remark: str
    denominators: tuple[tuple[float, float], ...] = ()
    """Value and standard uncertainty of each denominator of the formula."""
    sample: Array | None = field(default=None, repr=False, compare=False)
    """Where the formula is curved, draws of its value in rising order, see ``propagation.draw``."""

    def __post_init__(self) -> None:
        object.__setattr__(self, "budget", ReadOnly(self.budget))

    def critical_value(self, level: float) -> float:
        """Half-width in standard uncertainties: Student's t with the effective degrees of freedom."""
        check_level(level)
        share = (1 + level) / 2
        return float(ndtri(share) if np.isinf(self.degrees_of_freedom) else stdtrit(self.degrees_of_freedom, share))

    def interval(self, level: float = 0.95) -> tuple[float, float]:
        """Limits at ``level``; infinite where the uncertainty is unknown, or where a denominator is not told apart from zero at this
        level, so that the quantity has no bound. Of a curved formula the probabilistically symmetric quantiles of its draws
        (JCGM 101:2008, 7.7.2)."""
        if self.standard_error is None or not self.bounded(level):
            return -np.inf, np.inf
        if self.sample is not None:
            low, high = np.quantile(self.sample, [(1 - level) / 2, (1 + level) / 2])
            return float(min(low, self.value)), float(max(high, self.value))
        half = self.critical_value(level) * self.standard_error
        return self.value - half, self.value + half

    def times(self, factor: float, unit: str) -> Follows:
        """The same in another unit, ``factor`` of which make one of its own."""
        size = abs(factor)
        return replace(
            self, value=self.value * factor, unit=unit,
            standard_error=None if self.standard_error is None else self.standard_error * size,
            simulated=None if self.simulated is None else self.simulated * size,
            denominators=self.denominators, sample=None if self.sample is None else np.sort(self.sample * factor),
        )  # fmt: skip

    def bounded(self, level: float = 0.95) -> bool:
        """Whether every denominator is told apart from zero at this level."""
        width = self.critical_value(level)
        return all(abs(value) > width * error for value, error in self.denominators)


def follow(
    formula: str,
    fits: Fit | Mapping[str, Fit],
    *,
    known: Mapping[str, tuple[float, float]] | None = None,
    units: Mapping[str, str] | None = None,
    aliases: Mapping[str, str] | None = None,
    linked: Mapping[str, Linked] | None = None,
    moved: Mapping[str, Sequence[Moved]] | None = None,
) -> Follows:
    """What ``formula`` comes to.

    Parameters
    ----------
    fits :
        One fit, whose parameters stand in the formula under their names or letters; or several by letter, whose parameters are
        ``A_slope``, ``B_slope``; those of the letter "" under their names alone. Fits to the same readings go together as far as these
        tell, others are independent.
    known :
        Further values with their standard uncertainties, by name: measured lengths, constants.
    units :
        Of parameters and known values, by name.
    aliases :
        Further names for parameters, such as the letters of a course.
    linked :
        Results that move with the parameters, by name.
    moved :
        What errors that all readings share do to each fit, by its letter ("" for one alone). In the budget they stand under their names.

    Raises OutsideSense for a name that nothing stands for, FormulaError, UnitsDiffer.

    >>> from ridge.core import Readings, fit
    >>> from ridge.core.carrying import follow
    >>> from ridge.core.models import Line
    >>> line = fit(Readings([0.2, 0.4, 0.6, 0.8], [0.81, 1.60, 2.42, 3.21]), Line())
    >>> g = follow("4*pi^2/slope", line)
    >>> round(g.value, 2), round(g.standard_error, 2), [round(end, 2) for end in g.interval(0.95)]
    (9.84, 0.05, [9.62, 10.07])
    """
    tree = parse(formula).tree
    of_fits, blocks = _parameters(fits)
    given, links = known or {}, linked or {}
    meant = _meant(names_in(tree), blocks, of_fits, {*given, *links}, aliases or {})
    tree = substitute(tree, {name: Name(full) for name, full in meant.items()})
    coherent = in_coherent_units(tree, units or {})
    unit, remark = coherent.unit, coherent.remark
    tree, free = _spelled_out(coherent.tree, blocks, of_fits, links, moved or {})
    names = names_in(tree)
    sources = {name: one for name, one in {**given, **free}.items() if name in names}
    correlations: dict[tuple[str, str], float] = {}
    unknown = False
    inside = {prefix: [name for name in names if of_fits.get(name, (None,))[0] == prefix] for prefix in blocks}
    for prefix, fit in blocks.items():
        unknown = _take(fit, inside[prefix], of_fits, sources, correlations) or unknown
    correlations |= _between_fits(blocks, inside, of_fits)
    found = replace(propagate_tree(tree, sources, {}, correlations), unit=unit, unit_remark=remark)
    error = None if unknown else float(found.standard_error)
    simulated = float(found.simulated) if found.curved and np.isfinite(found.simulated) else None
    sample = None
    if found.curved and not unknown:
        drawn = draw(tree, sources, correlations, _scatter(names, of_fits, blocks))
        sample = drawn if len(drawn) > DRAWS / 2 else None
    alone = sum(uncertainty > 0 for _, uncertainty in sources.values()) == 1
    if error is not None and simulated is not None and alone and error < CURVED * simulated:
        error = simulated  # at a turning point first order says nothing
    return Follows(
        float(found.value), error, _effective(found, of_fits, blocks, links), {name: float(share) for name, share in found.budget.items()},
        bool(found.curved), simulated, found.unit, found.unit_remark, _denominators(tree, sources, correlations), sample,
    )  # fmt: skip


def _scatter(names: Sequence[str], of_fits: Known, blocks: Mapping[str, Fit]) -> dict[str, tuple[str, float]]:
    """The fit of each parameter and its degrees of freedom, where these estimate its scatter."""
    return {
        name: (of_fits[name][0], float(blocks[of_fits[name][0]].statistics.degrees_of_freedom))
        for name in names
        if name in of_fits and not blocks[of_fits[name][0]].readings.absolute_errors
    }


Known = dict[str, tuple[str, str]]
"""Full name of a parameter in formulas → letter of its fit, and its name there."""


def _parameters(fits: Fit | Mapping[str, Fit]) -> tuple[Known, dict[str, Fit]]:
    if isinstance(fits, Fit):
        return {name: ("", name) for name in fits.parameters}, {"": fits}
    full = {
        f"{letter}_{name}" if letter else name: (letter, name)
        for letter, fit in fits.items()
        for name in fit.parameters
    }
    return full, dict(fits)


def _spelled_out(
    tree: Node,
    blocks: Mapping[str, Fit],
    of_fits: Known,
    linked: Mapping[str, Linked],
    moved: Mapping[str, Sequence[Moved]],
) -> tuple[Node, dict[str, tuple[float, float]]]:
    """The formula in what is independent or goes together as the parameters of a fit do: linked results by their tangent, and beside each
    parameter what shared errors do to it; with the values and standard uncertainties of all that is neither given nor a parameter."""
    free: dict[str, tuple[float, float]] = {}
    meant: dict[str, Node] = {}

    def shifted(node: Node, effects: Mapping[str, float]) -> Node:
        for name, effect in effects.items():
            if effect:
                node = add(node, multiply(number(effect), Name(name)))
                free[name] = (0.0, 1.0)
        return node

    names = names_in(tree)
    for name in names:
        if name in linked:
            link = linked[name]
            node: Node = number(link.value)
            for full, slope in link.slopes.items():
                prefix, own = of_fits[full]
                off = Operation("-", Name(full), number(blocks[prefix].values[own]))
                node = add(node, multiply(number(slope), off))
            if link.own:
                free[name] = (0.0, link.own)
                node = add(node, Name(name))
            meant[name] = shifted(node, link.shared)
        elif name in of_fits:
            prefix, own = of_fits[name]
            effects = {one.error.name: one.on_parameter(own) for one in moved.get(prefix, ())}
            meant[name] = shifted(Name(name), effects)
    return substitute(tree, meant), free


def _between_fits(
    blocks: Mapping[str, Fit], inside: Mapping[str, Sequence[str]], of_fits: Known
) -> dict[tuple[str, str], float]:
    """Correlations of the parameters of different fits to the same readings."""
    asked = [prefix for prefix in blocks if inside[prefix]]
    found = {}
    for place, one in enumerate(asked):
        for other in asked[place + 1 :]:
            between = correlations_between(blocks[one], blocks[other])
            if between is None:
                continue
            for first in inside[one]:
                for second in inside[other]:
                    i = list(blocks[one].parameters).index(of_fits[first][1])
                    j = list(blocks[other].parameters).index(of_fits[second][1])
                    if np.isfinite(between[i, j]):
                        found[first, second] = float(between[i, j])
    return found


def _meant(
    names: tuple[str, ...],
    fits: Mapping[str, Fit],
    of_fits: Known,
    known: Collection[str],
    aliases: Mapping[str, str],
) -> dict[str, str]:
    """What the names of a formula that are letters of the page stand for: ``m`` for ``slope``. Raises OutsideSense for what is nothing."""
    letters = {
        f"{prefix}_{about.letter}" if prefix else about.letter: f"{prefix}_{name}" if prefix else name
        for prefix, fit in fits.items()
        for name, about in fit.model.about.items()
        if about.letter
    } | dict(aliases)
    found = {}
    for name in names:
        if name in of_fits or name in known:
            continue
        if name not in letters:
            raise OutsideSense(name, f"stands for nothing here; there are {', '.join([*of_fits, *known])}.")
        found[name] = letters[name]
    return found


def _take(
    fit: Fit,
    names: list[str],
    of_fits: Known,
    sources: dict[str, tuple[float, float]],
    correlations: dict[tuple[str, str], float],
) -> bool:
    """Put the parameters of a fit among the sources; whether one that is fitted has no known uncertainty."""
    order = list(fit.parameters)
    unknown = False
    for name in names:
        parameter = fit.parameters[of_fits[name][1]]
        error = parameter.standard_error
        unknown = unknown or (not parameter.fixed and (error is None or not np.isfinite(error)))
        sources[name] = (parameter.value, 0.0 if parameter.fixed or error is None or not np.isfinite(error) else error)
    for i, one in enumerate(names):
        for other in names[i + 1 :]:
            a, b = order.index(of_fits[one][1]), order.index(of_fits[other][1])
            r = fit.correlations[a, b]
            if np.isfinite(r):
                correlations[one, other] = float(np.clip(r, -1, 1))
    return unknown


def _effective(found: Propagated, of_fits: Known, blocks: Mapping[str, Fit], linked: Mapping[str, Linked]) -> float:
    """Effective degrees of freedom by the Welch-Satterthwaite formula (JCGM 100, G.4.1), each fit one contribution."""
    shares: dict[str, float] = {}
    for name, share in found.budget.items():
        letter = of_fits[name][0] if name in of_fits else linked[name].scatter_of if name in linked else None
        if letter is not None and np.isfinite(share):
            shares[letter] = shares.get(letter, 0.0) + float(share)
    rest = 0.0
    for letter, whole in shares.items():
        fit = blocks[letter]
        degrees = fit.statistics.degrees_of_freedom
        if fit.readings.absolute_errors or not whole:
            continue
        if degrees <= 0:
            return np.inf
        rest += whole**2 / degrees
    return 1 / rest if rest > 0 else np.inf


def _below(part: Node) -> Node | None:
    """What a part of a formula is divided by, also where it is written as a negative power."""
    match part:
        case Operation("/", _, below):
            return below
        case Operation("^", base, Negative() | Operation("-", Number(0.0), _)):
            return base
        case Operation("^", base, Number(value)) if value < 0:
            return base
    return None


def _denominators(
    tree: Node, sources: Mapping[str, tuple[float, float]], correlations: Mapping[tuple[str, str], float]
) -> tuple[tuple[float, float], ...]:
    found = []
    for part in walk(tree):
        below = _below(part)
        if below is not None and names_in(below):
            one = propagate_tree(below, sources, {}, correlations, simulate=False)
            found.append((float(one.value), float(one.standard_error)))
    return tuple(found)
