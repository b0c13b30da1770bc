"""What the form of a column shows while it is filled in: whether symbol, uncertainty and formula can be used, and names."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np

from ridge.core.carrying.unit_algebra import plain_if_it_is
from ridge.core.errors import FormulaError
from ridge.core.formula import parse
from ridge.core.formula.parse import called_curves
from ridge.core.formula.writing import to_latex
from ridge.core.numerals import group, join, name_rows, significant
from ridge.core.wording.naming import with_unit
from ridge.studies.analysis.calculated import calculate, uncertainty_from_sources
from ridge.studies.content.changes.base import ChangeRefused
from ridge.studies.content.changes.converting import factor_of
from ridge.studies.content.columns import column_values, names_for_formulas
from ridge.studies.content.state import ColumnState, StudyState, new_key
from ridge.studies.content.symbols import symbol_problem
from ridge.studies.content.uncertainties import (
    CARRIED,
    TypedUncertainty,
    last_digit,
    read_uncertainty,
    uncertainty_problem,
)
from ridge.studies.words.schemas import KnownNameOut

_FIRST = 3  # values that are shown of a formula


def symbol_look(state: StudyState, key: str, symbol: str, name: str) -> tuple[str, str]:
    """What is wrong with a symbol for the column of a key (empty for a new one), and what could be used instead."""
    return symbol_problem(symbol, [column.symbol for column in state.columns if column.key != key], name)


def formula_look(state: StudyState, key: str, formula: str, unit: str) -> dict[str, object]:
    """Describe a formula and a unit typed for the column of a key (empty for a new one): what is wrong with it and where, how it is
    typeset, its first values, and the rows in which it has none."""
    if not formula.strip():
        return {}
    names = names_for_formulas(state)
    letters = [fit.letter for fit in state.fits if fit.letter not in names]
    try:
        curves = tuple((letter, None) for letter in called_curves(formula, letters, alone=True))
        latex = to_latex(parse(formula, "row", curves=curves).tree)
    except FormulaError as error:
        return {
            "problem": str(error), "position": error.position, "length": max(error.length, 1), "possible": error.possible,
        }  # fmt: skip
    tried, tried_state = _tried(state, key, formula, unit)
    found = calculate(tried_state)[tried.key]
    rows = sorted(found.wrong)
    if found.problem and not rows:
        return {"problem": found.problem, "latex": latex}
    said = f"No value in {name_rows(rows)}: {found.wrong[rows[0]]}." if rows else ""
    shown = [text for text in found.texts if text][:_FIRST]
    return {"latex": latex, "values": shown, "no_value": said, **_carried_look(tried_state, tried)}


def _tried(state: StudyState, key: str, formula: str, unit: str) -> tuple[ColumnState, StudyState]:
    """Return a column with a formula and a unit that are not saved yet, and the study with it."""
    held = next((column for column in state.columns if column.key == key), None)
    blank = ("",) * state.row_count
    if held is None:
        tried = ColumnState(key or new_key(), "", "", unit, "other", cells=blank, formula=formula)
        return tried, replace(state, columns=(*state.columns, tried))
    tried = replace(held, formula=formula, unit=unit, cells=blank, uncertainty="")
    return tried, replace(state, columns=tuple(tried if column.key == key else column for column in state.columns))


def _carried_look(state: StudyState, column: ColumnState) -> dict[str, object]:
    """The uncertainty and the unit that a formula has from its sources."""
    found = uncertainty_from_sources(state, column)
    step = found.step
    if step is None:
        return {"not_carried": found.problem}
    unit = plain_if_it_is(step.unit)
    look: dict[str, object] = {"unit": unit, "unit_remark": step.unit_remark}
    errors = step.standard_error[np.isfinite(step.standard_error) & np.isfinite(step.value)]
    if found.problem or not errors.size:
        return look | {"not_carried": found.problem or "It has no value whose uncertainty is known."}
    low, high = (significant(float(end), 2).text for end in (errors.min(), errors.max()))
    said = f"Standard uncertainty from its sources: {with_unit(low if low == high else f'{low} to {high}', unit)}."
    lacking = np.flatnonzero(np.isfinite(step.value) & ~np.isfinite(step.standard_error)).tolist()
    if lacking:
        said += f" None in {name_rows(lacking)}: a source has none, or the formula is infinitely steep there."
    if found.poor:
        row, drawn = found.poor
        first = significant(float(step.standard_error[row]), 2).text
        said += (
            f" In row {row + 1} the formula is so curved that first-order propagation ({first}) is a poor rule: simulated, the "
            f"standard uncertainty is {significant(drawn, 2).text}."
        )
    return look | {"carried": said}


def conversion(state: StudyState, key: str, unit: str) -> str:
    """``1 cm = 0.01 m`` where the column of a key can be converted into another unit."""
    held = next((column for column in state.columns if column.key == key), None)
    if held is None or not unit or unit == held.unit:
        return ""
    try:
        factor = factor_of(held, unit)
    except ChangeRefused:
        return ""
    return f"1\u00a0{held.unit} = {significant(float(factor), 12, strip=True).text}\u00a0{unit}"


def uncertainty_look(state: StudyState, key: str, text: str, formula: str) -> tuple[str, str]:
    """What is wrong with an uncertainty as typed for a column, and what it is used as where that is not what was typed."""
    if problem := uncertainty_problem(text, calculated=bool(formula.strip())):
        return problem, ""
    if text.strip().lower() == CARRIED:
        return "", "As carried from what it is calculated from."
    typed = read_uncertainty(text)
    held = next((column for column in state.columns if column.key == key), None)
    problem, used = _own_part(state, held, typed)
    if typed.shared and not problem:
        what = join([part.shared_as(held.unit if held else "") for part in typed.shared])
        used = f"{used} All readings share the {what}: it weighs none of them, and goes into parameters and answers.".strip()
    return problem, used


def _own_part(state: StudyState, held: ColumnState | None, typed: TypedUncertainty) -> tuple[str, str]:
    """The same of what each value has for itself."""
    if typed.plain and not typed.needs_digits:
        return "", _larger_than_values(state, held, typed)
    digit = last_digit(held.cells, held.exponent) if held is not None and typed.needs_digits else math.nan
    if typed.needs_digits and math.isnan(digit):
        return "No number in this column shows a last digit.", ""
    if not typed.parts:
        return "", ""
    if typed.share is not None:
        used = f"{significant(100 * typed.share, 3).text}\u00a0% of each value"
    elif all(part.of != "value" for part in typed.parts):
        used = with_unit(significant(float(typed.standard(np.zeros(1), digit)[0]), 3).text, held.unit if held else "")
    else:
        used = "both together"
    said = f"Used as a standard uncertainty of {used}: {typed.text}."
    return "", f"{said} {_larger_than_values(state, held, typed, digit)}".strip()


def _larger_than_values(
    state: StudyState, held: ColumnState | None, typed: TypedUncertainty, digit: float = math.nan
) -> str:
    """Said where an uncertainty is larger than some of the values: often one with a wrong unit, or a forgotten point."""
    if held is None or not typed.parts:
        return ""
    values = column_values(state)[held.key].numbers
    with np.errstate(invalid="ignore"):
        smaller = int(np.sum((np.abs(values) < typed.standard(values, digit)) & (values != 0)))
    if not smaller:
        return ""
    return (
        f"It is larger than {group(str(smaller))} of the values."
        if smaller > 1
        else "It is larger than one of the values."
    )


def names_offered(state: StudyState, key: str) -> list[KnownNameOut]:
    """What the formula of a column may use besides functions."""
    found = []
    for column in state.columns:
        name = column.symbol or (column.role if column.role in ("x", "y") else "")
        if name and column.key != key and name.isidentifier():
            meaning = f"column {column.name or column.symbol or column.role}"
            found.append(KnownNameOut(name=name, insert=name, meaning=meaning, column=True))
    found.append(KnownNameOut(name="row", insert="row", meaning="the number of the row"))
    taken = {one.name for one in found}
    for fit in state.fits:
        if fit.letter not in taken:
            at_row, anywhere = f"value of fit {fit.letter} at the row", f"fit {fit.letter} at any value"
            found.append(KnownNameOut(name=fit.letter, insert=fit.letter, meaning=at_row))
            found.append(KnownNameOut(name=f"{fit.letter}(…)", insert=f"{fit.letter}(", meaning=anywhere))
    return found
