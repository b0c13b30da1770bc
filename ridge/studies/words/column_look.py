"""What the form of a column shows while it is filled in: whether symbol, uncertainty and formula can be used, and names."""

from __future__ import annotations

from dataclasses import replace

from ridge.core.errors import FormulaError
from ridge.core.formula import parse
from ridge.core.formula.parse import called_curves
from ridge.core.formula.writing import to_latex
from ridge.core.numerals import capital, name_rows
from ridge.exchange.cells import NotANumber
from ridge.studies.analysis.calculated import calculate
from ridge.studies.content.columns import names_for_formulas, read_uncertainty
from ridge.studies.content.state import ColumnState, StudyState, new_key
from ridge.studies.content.symbols import symbol_problem
from ridge.studies.words.schemas import KnownNameOut

_FIRST = 3  # values that are shown of a formula


def uncertainty_problem(text: str) -> str:
    """What is wrong with the uncertainty of a column; empty if nothing."""
    try:
        read_uncertainty(text)
    except NotANumber as reason:
        return f"{capital(str(reason))}."
    return ""


def symbol_look(state: StudyState, key: str, symbol: str, name: str) -> tuple[str, str]:
    """What is wrong with a symbol for the column of a key (empty for a new one), and what could be used instead."""
    return symbol_problem(symbol, [column.symbol for column in state.columns if column.key != key], name)


def formula_look(state: StudyState, key: str, formula: str) -> dict[str, object]:
    """A formula as it would be for the column of a key (empty for a new one): what is wrong with it and where, how it is
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
    tried = ColumnState(key or new_key(), "", "", "", "other", cells=("",) * state.row_count, formula=formula)
    columns = tuple(tried if column.key == key else column for column in state.columns)
    held = next((column for column in state.columns if column.key == key), None)
    if held is not None:
        tried = replace(held, formula=formula, cells=tried.cells)
        columns = tuple(tried if column.key == key else column for column in state.columns)
    else:
        columns = (*columns, tried)
    found = calculate(replace(state, columns=columns))[tried.key]
    rows = sorted(found.wrong)
    if found.problem and not rows:
        return {"problem": found.problem, "latex": latex}
    said = f"No value in {name_rows(rows)}: {found.wrong[rows[0]]}." if rows else ""
    return {"latex": latex, "values": [text for text in found.texts if text][:_FIRST], "no_value": said}


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
