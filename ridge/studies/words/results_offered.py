"""Results of a study that another study can take over as known values: parameters, what follows from them, and answers."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator

from ridge.core.carrying import follow, with_shared
from ridge.core.decimal_sign import in_sign
from ridge.core.errors import RidgeError
from ridge.core.numerals import full, significant
from ridge.core.wording.naming import with_unit
from ridge.core.wording.rounding import round_with_uncertainty
from ridge.exchange.cells import NotANumber
from ridge.studies.analysis.fits import Fitted, fit_all
from ridge.studies.analysis.own_sources import SourceReader
from ridge.studies.content.readings import read_table
from ridge.studies.content.state import AnswerState, OwnQuantity, StudyState
from ridge.studies.words.own_quantities import followed_in_unit
from ridge.studies.words.schemas import ResultOut

DIGITS = 4
"""Significant digits of an uncertainty that is handed on: enough that nothing is lost by rounding it again."""


def results_offered(state: StudyState) -> list[ResultOut]:
    """Those that have a value, each with its standard uncertainty."""
    table = read_table(state)
    fitted = fit_all(table, state.linked_fits)
    found: list[ResultOut] = []
    for one in fitted:
        if one.fit is None:
            continue
        found += _parameters(one, table.naming.parameter_units(one.fit.model), table.naming.letter)
        reader = SourceReader(one, fitted, table, state)
        found += [out for wanted in one.wanted.follows for out in _own(wanted, one, reader)]
    leading = next((one for one in fitted if one.fit is not None), None)
    if leading is not None:
        reader = SourceReader(leading, fitted, table, state)
        found += [out for kept in state.answers for out in _answer(kept, reader)]
    return found


def _parameters(one: Fitted, units: dict[str, str], letter_of: Callable[[str], str]) -> Iterator[ResultOut]:
    assert one.fit is not None
    for name, parameter in with_shared(one.fit, one.moved).parameters.items():
        letter = letter_of(name)
        error = None if parameter.fixed or one.fit.statistics.exact else parameter.standard_error
        yield _out(f"{letter} of {one.wanted.letter}", letter, parameter.value, error, units[name])


def _own(wanted: OwnQuantity, one: Fitted, reader: SourceReader) -> Iterator[ResultOut]:
    try:
        found = followed_in_unit(wanted, reader)
    except (RidgeError, NotANumber):
        return
    assert one.fit is not None
    error = None if one.fit.statistics.exact else found.standard_error
    if math.isfinite(found.value):
        yield _out(f"{wanted.name} of {one.wanted.letter}", wanted.name, found.value, error, found.unit)


def _answer(kept: AnswerState, reader: SourceReader) -> Iterator[ResultOut]:
    try:
        sources, unit = reader.of_answer(kept, "answer")
        found = follow("answer", sources.fits, linked=sources.linked)
    except (RidgeError, NotANumber):
        return
    if math.isfinite(found.value):
        yield _out(reader.called(kept), kept.name, found.value, found.standard_error, unit)


def _out(name: str, symbol: str, value: float, error: float | None, unit: str) -> ResultOut:
    told = error is not None and math.isfinite(error) and error > 0
    return ResultOut(
        name=name, symbol=symbol, text=with_unit(round_with_uncertainty(value, error if told else None).text, unit), value=full(value),
        uncertainty=in_sign(significant(error, DIGITS, strip=True).plain) if told and error is not None else "", unit=unit,
    )  # fmt: skip
