"""What is said of a quantity of one's own that follows from a fit: value, uncertainty, unit, limits, budget, agreement."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence

from ridge.core.carrying import CONSTANTS, Follows, agree, follow
from ridge.core.errors import RidgeError
from ridge.core.formula import parse
from ridge.core.formula.tree import Name, Node, names_in, number, substitute
from ridge.core.numerals import capital, full, significant
from ridge.core.results.fit import Fit
from ridge.core.wording.limits import limits_text
from ridge.core.wording.naming import Naming, with_unit
from ridge.core.wording.rounding import round_with_uncertainty
from ridge.exchange.cells import NotANumber, read_number
from ridge.exchange.script import Followed
from ridge.studies.content.state import OwnQuantity
from ridge.studies.words.fit_schemas import DerivedOut, ShareOut


def own_quantities(wanted: Sequence[OwnQuantity], fit: Fit, naming: Naming, level: float) -> list[DerivedOut]:
    """Each of them, in words, or what is in its way."""
    return [_own(one, fit, naming, level) for one in wanted]


def _own(one: OwnQuantity, fit: Fit, naming: Naming, level: float) -> DerivedOut:
    try:
        found = _followed(one, fit, naming)
        agreement = _agreement(one, found)
    except (RidgeError, NotANumber) as problem:
        return DerivedOut(
            name=one.name, text="", full="", formula=one.formula, problem=f"{capital(str(problem)).removesuffix('.')}."
        )
    if not math.isfinite(found.value):
        return DerivedOut(
            name=one.name, text="", full="", formula=one.formula, problem="It has no value with these parameters."
        )
    estimated = fit.least_squares_in != "given" and not fit.statistics.exact
    error = found.standard_error if estimated else None
    value = round_with_uncertainty(found.value, error or None).text
    low, high = found.interval(level) if error else (-math.inf, math.inf)
    return DerivedOut(
        name=one.name, text=with_unit(value, found.unit), full=full(found.value), value=value, unit=found.unit, number=found.value, standard_error=error,
        interval=limits_text(low, high) if error and math.isfinite(low) and math.isfinite(high) else "",
        formula=one.formula, budget=_budget(found, naming) if error else [], remark=_remark(found, level, bool(error)),
        agreement=agreement if estimated else "",
    )  # fmt: skip


def in_parameters(formula: str, fit: Fit, naming: Naming) -> Node:
    """A formula in the letters of the page, with parameters by their names and constants as numbers."""
    tree = parse(formula).tree
    letters = {naming.letter(name): name for name in fit.parameters}
    meant: dict[str, Node] = {}
    for name in names_in(tree):
        if name in fit.parameters:
            continue
        if name in letters:
            meant[name] = Name(letters[name])
        elif name in CONSTANTS:
            meant[name] = number(CONSTANTS[name].value)
    return substitute(tree, meant)


def scripted_follows(wanted: Sequence[OwnQuantity], fit: Fit, naming: Naming) -> Iterator[Followed]:
    """Those that have a value, for a script."""
    for one in wanted:
        try:
            found, tree = _followed(one, fit, naming), in_parameters(one.formula, fit, naming)
        except RidgeError:
            continue
        if math.isfinite(found.value):
            yield Followed(one.name, tree, found.unit)


def _followed(one: OwnQuantity, fit: Fit, naming: Naming) -> Follows:
    """With the letters of the course for parameters, and constants by their symbols where no parameter is called so."""
    names = names_in(parse(one.formula).tree)
    letters = {naming.letter(name): name for name in fit.parameters}
    units = naming.parameter_units(fit.model)
    constants = {
        name: CONSTANTS[name]
        for name in names
        if name in CONSTANTS and name not in fit.parameters and name not in letters
    }
    known = {name: (constant.value, constant.standard_error) for name, constant in constants.items()}
    aliases = {letter: name for letter, name in letters.items() if letter in names and letter not in fit.parameters}
    return follow(
        one.formula,
        fit,
        known=known,
        aliases=aliases,
        units=units | {name: constant.unit for name, constant in constants.items()},
    )


def _budget(found: Follows, naming: Naming) -> list[ShareOut]:
    """The largest share first; what contributes nothing is left out."""
    shares = sorted(
        ((share, name) for name, share in found.budget.items() if math.isfinite(share) and abs(share) > 5e-4),
        reverse=True,
    )
    return [
        ShareOut(source=naming.letter(name), share=share, text=f"{significant(100 * share, 2).text}\u00a0%")
        for share, name in shares
    ]


def _remark(found: Follows, level: float, estimated: bool) -> str:
    said = [found.unit_remark] if found.unit_remark else []
    if estimated and not found.bounded(level):
        said.append("It divides by something that is not significantly different from zero, so it has no limits.")
    elif estimated and found.curved and found.simulated is not None:
        said.append(
            f"The formula is so curved here that first-order propagation is a poor rule: simulated, the standard uncertainty is "
            f"{significant(found.simulated, 2).text}, and the limits use it."
        )
    return " ".join(said)


def _agreement(one: OwnQuantity, found: Follows) -> str:
    if not one.accepted.strip():
        return ""
    accepted, error = read_number(one.accepted), read_number(one.accepted_error)
    if accepted is None:
        return ""
    beside = agree(found, accepted, error or 0.0)
    if beside.noticeable is None:
        return beside.message
    noticed = with_unit(significant(beside.noticeable, 2).text, found.unit)
    return f"{beside.message} A difference of {noticed} would be noticed four times in five."
