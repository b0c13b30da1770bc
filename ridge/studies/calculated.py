"""What calculated columns show, those that use fits included."""

from __future__ import annotations

from dataclasses import dataclass

from ridge.core.wording.numbers import name_rows
from ridge.studies.columns import FitValues, calculated_texts, column_values
from ridge.studies.fits import fit_all
from ridge.studies.readings import read_table
from ridge.studies.state import StudyState

FITTED_ROLES = ("x", "y", "x_error", "y_error", "weight", "count")


@dataclass(frozen=True)
class Calculated:
    """``texts``: one a row; ``problem``: what is wrong with the formula, or the rows where it has no value."""

    texts: tuple[str, ...]
    problem: str


def calculate(state: StudyState) -> dict[str, Calculated]:
    """Every calculated column by its key. One that is fitted cannot use a fit; the others see all fits."""
    formulas = [column for column in state.columns if column.formula]
    if not formulas:
        return {}
    before = column_values(state)
    fits: dict[str, FitValues] = {}
    for one in fit_all(read_table(state), state.fits):
        if one.fit is not None:
            fits[one.wanted.letter] = FitValues.of(one.fit)
    after = column_values(state, fits)
    found = {}
    for column in formulas:
        values = (before if column.role in FITTED_ROLES else after)[column.key]
        problem = values.problem
        if not problem and values.wrong:
            rows = sorted(values.wrong)
            problem = f"{column.formula} has no value in {name_rows(rows)}."
        found[column.key] = Calculated(calculated_texts(values.numbers), problem)
    return found
