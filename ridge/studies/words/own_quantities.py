"""What is said of a quantity of one's own that follows from a fit: value, uncertainty, unit, limits, budget, agreement."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence

from ridge.core.carrying import CONSTANTS, Follows, agree, follow
from ridge.core.carrying.fits_together import told_together
from ridge.core.carrying.unit_algebra import factor_between, simplified
from ridge.core.errors import RidgeError
from ridge.core.formula import parse
from ridge.core.formula.tree import Name, Node, multiply, names_in, number, substitute
from ridge.core.numerals import capital, full, number_as_given, significant
from ridge.core.predicting.in_common import rows_in_common
from ridge.core.results.fit import Fit
from ridge.core.wording.limits import limits_text
from ridge.core.wording.naming import Naming, with_unit
from ridge.core.wording.rounding import round_with_uncertainty
from ridge.exchange.cells import NotANumber, read_number
from ridge.exchange.script import Followed
from ridge.studies.analysis.fits import Fitted
from ridge.studies.analysis.own_sources import OF_FIT, SourceReader, Sources, read_known
from ridge.studies.content.readings import Table
from ridge.studies.content.state import OwnQuantity, StudyState
from ridge.studies.words.fit_schemas import DerivedOut, ShareOut

PLAIN = "1"
"""What is typed as the unit of a plain number, since nothing stands for its own."""


def own_quantities(
    one: Fitted, fitted: Sequence[Fitted], table: Table, state: StudyState, level: float
) -> list[DerivedOut]:
    """Each of them that is wanted of a fit, in words, or what is in its way."""
    if one.fit is None or not one.wanted.follows:
        return []
    reader = SourceReader(one, fitted, table, state)
    return [_own(wanted, one.fit, reader, level) for wanted in one.wanted.follows]


def _own(one: OwnQuantity, fit: Fit, reader: SourceReader, level: float) -> DerivedOut:
    try:
        sources = _sources(one, reader)
        found, remark = _in_unit(one, _followed(one, sources))
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
    said = [remark, _remark(found, level, bool(error)), *_apart(sources)]
    return DerivedOut(
        name=one.name, text=with_unit(value, found.unit), full=full(found.value), value=value, unit=found.unit, number=found.value, standard_error=error,
        interval=limits_text(low, high, value=found.value) if error and math.isfinite(low) and math.isfinite(high) else "",
        formula=one.formula, budget=_budget(found, reader.naming) if error else [], remark=" ".join(part for part in said if part),
        agreement=agreement if estimated else "", simpler=_simpler(found.unit),
    )  # fmt: skip


def _simpler(unit: str) -> str | None:
    found = simplified(unit) if unit else unit
    return None if found == unit else found or PLAIN


def followed_in_unit(one: OwnQuantity, reader: SourceReader) -> Follows:
    """Its value in numbers. Raises RidgeError, NotANumber."""
    return _in_unit(one, _followed(one, _sources(one, reader)))[0]


def _sources(one: OwnQuantity, reader: SourceReader) -> Sources:
    return reader.read(one, names_in(parse(one.formula).tree))


def _in_unit(one: OwnQuantity, found: Follows) -> tuple[Follows, str]:
    """In the unit that is wanted, where the quantity can be converted into it."""
    if not one.unit or one.unit == found.unit:
        return found, ""
    unit = "" if one.unit == PLAIN else one.unit
    factor = factor_between(found.unit, unit) if found.unit else None
    if factor is None:
        return found, f"{found.unit or 'A plain number'} cannot be converted into {unit or 'a plain number'}."
    return found.times(factor, unit), ""


def _apart(sources: Sources) -> Iterator[str]:
    """That fits to the same readings whose part in common cannot be told are taken as independent."""
    letters = list(sources.fits)
    for place, letter in enumerate(letters):
        for other in letters[place + 1 :]:
            pair = sources.fits[letter], sources.fits[other]
            common = rows_in_common(*pair)
            if common is not None and common.any() and not told_together(*pair):
                yield f"{other} is fitted to the same readings in another way; the two are taken as independent."


def in_parameters(one: OwnQuantity, fit: Fit, naming: Naming) -> Node:
    """Its formula with parameters by their names, and known values and constants as numbers. Raises NotANumber, OutsideSense."""
    tree = parse(one.formula).tree
    given = {known.symbol: known for known in one.known}
    letters = naming.by_letter(fit.parameters, given)
    meant: dict[str, Node] = {}
    for name in names_in(tree):
        if name in fit.parameters:
            continue
        if name in letters:
            meant[name] = Name(letters[name])
        elif name in given:
            meant[name] = number(read_known(given[name].value, given[name].uncertainty)[0])
        elif name in CONSTANTS:
            meant[name] = number(CONSTANTS[name].value)
    return substitute(tree, meant)


def scripted_follows(one: Fitted, fitted: Sequence[Fitted], table: Table, state: StudyState) -> Iterator[Followed]:
    """Those that have a value, for a script; the formula of one that needs more than parameters and known values is left out."""
    if one.fit is None or not one.wanted.follows:
        return
    reader = SourceReader(one, fitted, table, state)
    for wanted in one.wanted.follows:
        try:
            sources = _sources(wanted, reader)
            found = _followed(wanted, sources)
        except (RidgeError, NotANumber):
            continue
        if not math.isfinite(found.value):
            continue
        if sources.linked or len(sources.fits) > 1:
            yield Followed(wanted.name, None, wanted.formula)
            continue
        tree, converted = in_parameters(wanted, one.fit, reader.naming), _in_unit(wanted, found)[0]
        if converted.unit != found.unit:
            tree = multiply(number(factor_between(found.unit, converted.unit) or 1.0), tree)
        yield Followed(wanted.name, tree, converted.unit)


def _followed(one: OwnQuantity, sources: Sources) -> Follows:
    return follow(
        one.formula, sources.fits, known=sources.known, units=sources.units, aliases=sources.aliases, linked=sources.linked,
        moved=sources.moved,
    )  # fmt: skip


def _budget(found: Follows, naming: Naming) -> list[ShareOut]:
    """The largest share first; what contributes nothing is left out."""
    shares = sorted(
        ((share, name) for name, share in found.budget.items() if math.isfinite(share) and abs(share) > 5e-4),
        reverse=True,
    )
    return [
        ShareOut(source=_called(name, naming), share=share, text=f"{significant(100 * share, 2).text}\u00a0%")
        for share, name in shares
    ]


def _called(name: str, naming: Naming) -> str:
    """A source in the letters of the course, also where it is a parameter of another fit."""
    match = OF_FIT.fullmatch(name)
    return f"{match[1]}_{naming.letter(match[2])}" if match else naming.letter(name)


def _remark(found: Follows, level: float, estimated: bool) -> str:
    said = [found.unit_remark] if found.unit_remark else []
    if estimated and not found.bounded(level):
        said.append("It divides by something that is not significantly different from zero, so it has no limits.")
    elif estimated and found.curved and found.simulated is not None:
        said.append(
            f"The formula is so curved here that first-order propagation is a poor rule: the limits are quantiles of a simulation, "
            f"whose standard deviation is {significant(found.simulated, 2).text}."
        )
    return " ".join(said)


def _agreement(one: OwnQuantity, found: Follows) -> str:
    if not one.accepted.strip():
        return ""
    accepted, error = read_number(one.accepted), read_number(one.accepted_error)
    if accepted is None:
        return ""
    beside = agree(found, accepted, error or 0.0)
    given = round_with_uncertainty(accepted, error).text if error else number_as_given(accepted)
    said = f"Accepted value {with_unit(given, found.unit)}. {beside.message}"
    if beside.noticeable is None:
        return said
    noticed = with_unit(significant(beside.noticeable, 2).text, found.unit)
    return f"{said} A difference of {noticed} would be noticed four times in five."
