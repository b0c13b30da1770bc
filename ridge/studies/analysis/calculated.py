"""What calculated columns show, those that use fits included."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from ridge.core.numerals import name_rows
from ridge.studies.analysis.fits import curve_of, fit_all
from ridge.studies.content.columns import MOST_DIGITS, FitValues, calculated_texts, column_values, sensible_digits
from ridge.studies.content.given_errors import Carried, carried
from ridge.studies.content.readings import read_table
from ridge.studies.content.state import ColumnState, StudyState

SHOWN = 50
"""Cells without a value that are told one by one."""
FITTED_ROLES = ("x", "y", "x_error", "y_error", "weight", "count")


@dataclass(frozen=True)
class Calculated:
    """``texts``: one a row; ``problem``: what is wrong with the formula, or the rows where it has no value; ``wrong``: why,
    by row, the first of them."""

    texts: tuple[str, ...]
    problem: str
    wrong: Mapping[int, str]


def calculate(state: StudyState) -> dict[str, Calculated]:
    """Every calculated column by its key. One that is fitted cannot use a fit; the others see all fits."""
    formulas = [column for column in state.columns if column.formula]
    if not formulas:
        return {}
    before = column_values(state)
    after = column_values(state, _fit_values(state))
    found = {}
    for column in formulas:
        values = (before if column.role in FITTED_ROLES else after)[column.key]
        problem = values.problem
        if not problem and values.wrong:
            rows = sorted(values.wrong)
            problem = f"{column.formula} has no value in {name_rows(rows)}: {values.wrong[rows[0]]}."
        digits = MOST_DIGITS if values.problem else sensible_digits(state, column)
        wrong = {row: values.wrong[row] for row in sorted(values.wrong)[:SHOWN]}
        found[column.key] = Calculated(calculated_texts(values.numbers, digits), problem, wrong)
    return found


def uncertainty_from_sources(state: StudyState, column: ColumnState) -> Carried:
    """What a calculated column has from its sources; one that is fitted cannot use a fit."""
    fits = None if column.role in FITTED_ROLES else _fit_values(state)
    return carried(state, column, column_values(state, fits), fits, tried=True)


def _fit_values(state: StudyState) -> dict[str, FitValues]:
    fits, table = {}, read_table(state)
    for one in fit_all(table, state.linked_fits):
        if one.fit is not None:
            units = table.naming.parameter_units(one.fit.model)
            fits[one.wanted.letter] = FitValues.of(one.fit, curve_of(one.fit), units)
    return fits
