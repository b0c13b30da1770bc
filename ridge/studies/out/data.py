"""The readings of a study with fitted values, residuals and answers, as tables for other programs."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ridge.core.wording.headings import heading
from ridge.core.wording.naming import NO_BREAK
from ridge.exchange.cells import CLOCK_UNITS
from ridge.exchange.data_files import Sheet
from ridge.studies.analysis.calculated import calculate
from ridge.studies.analysis.fits import fit_all
from ridge.studies.content.columns import column_values
from ridge.studies.content.readings import Status, read_table
from ridge.studies.content.state import ColumnState, StudyState
from ridge.studies.words.fit_schemas import ComputedFit, RefusedFit
from ridge.studies.words.schemas import AnalysisOut, AnswerOut, AnswerRowOut, NumberOut

_STATUS = {
    Status.BLANK: "", Status.USED: "in use", Status.ASIDE: "set aside", Status.PROBLEM: "unusable",
    Status.UNKNOWN: "unknown", Status.UNKNOWN_ASIDE: "set aside",
}  # fmt: skip


def readings_sheet(state: StudyState) -> Sheet:
    """Every row with its columns as numbers, whether it is in use, and of each fit the fitted value and the residual."""
    table = read_table(state)
    rows = state.filled_rows
    calculated = calculate(state)
    values = column_values(state)
    headings: list[str] = ["row"]
    columns: list[Sequence[float | str]] = [range(1, rows + 1)]
    for column in state.columns:
        symbol = column.symbol or (column.role if column.role in ("x", "y") and not column.name else "")
        headings.append(heading(column.name, symbol, column.unit))
        columns.append(
            _cells(
                column,
                calculated[column.key].texts if column.key in calculated else column.cells,
                values[column.key].numbers,
                rows,
            )
        )
    headings.append("status")
    columns.append([_STATUS[Status(int(status))] for status in table.status[:rows]])
    if state.aside:
        headings.append("reason")
        columns.append([state.aside.get(row, "") for row in range(rows)])
    naming = table.naming
    for one in fit_all(table, state.linked_fits):
        if one.fit is None:
            continue
        letter = one.wanted.letter
        headings += [heading(f"fitted {letter}", "", naming.y_unit), heading(f"residual {letter}", "", naming.y_unit)]
        columns += [one.fit.fitted[:rows].tolist(), one.fit.residuals[:rows].tolist()]
    return Sheet("Readings", headings, columns)


def _cells(
    column: ColumnState, texts: Sequence[str], numbers: np.ndarray, rows: int
) -> Sequence[float] | Sequence[str]:
    """Numbers where the column holds any; otherwise, and of a clock, what was typed."""
    if column.unit not in CLOCK_UNITS and np.isfinite(numbers[:rows]).any():
        return numbers[:rows].tolist()  # type: ignore[no-any-return]
    return list(texts[:rows])


def parameters_sheet(analysis: AnalysisOut) -> Sheet:
    """Every parameter, quantity of one's own and statistic of every fit, in full."""
    rows: list[tuple[float | str, ...]] = []
    for fit in analysis.fits:
        if not isinstance(fit, ComputedFit):
            continue
        rows += [
            (fit.letter, "parameter", one.name, one.number, _or_empty(one.standard_error), one.unit)
            for one in fit.parameters
        ]
        rows += [
            (fit.letter, "follows", one.name, one.number, _or_empty(one.standard_error), one.unit)
            for one in fit.derived
            if one.number is not None
        ]
        rows += [(fit.letter, "statistic", row.label, _or_empty(row.number), "", row.unit) for row in fit.statistics]
    headings = ["fit", "kind", "quantity", "value", "standard error", "unit"]
    return Sheet("Fits", headings, _turned(rows, len(headings)))


def answers_sheet(state: StudyState, analysis: AnalysisOut) -> Sheet:
    """Every answer as numbers, one a row for each pair of its limits, with what it says in words beside it."""
    leading = analysis.fits[0].letter if analysis.fits else ""
    rows: list[tuple[float | str, ...]] = []
    asked = [(unknown.label, unknown.answer) for unknown in analysis.unknowns]
    for name, answer in (*asked, *((one.name, one) for one in analysis.answers)):
        results: Sequence[AnswerOut | AnswerRowOut] = answer.rows if len(answer.rows) > 1 else [answer]
        for one in results:
            letter = getattr(one, "letter", "") or (answer.fit if answer.fit != "all" else "") or leading
            said = one.result or one.problem
            question = one.asked or answer.asked
            rows += [
                (name, question, letter, *_in_cells(number, state.level), said, one.place) for number in one.numbers
            ] or [(name, question, letter, "", "", "", "", "", "", "", said, one.place)]
    headings = [
        "name", "asked", "fit", "quantity", "value", "low", "high", "unit", "level", "limits of", "answer", "position",
    ]  # fmt: skip
    return Sheet("Answers", headings, _turned([tuple(map(_breakable, row)) for row in rows], len(headings)))


def _in_cells(number: NumberOut, level: float) -> tuple[float | str, ...]:
    low, high = _or_empty(number.low), _or_empty(number.high)
    return number.quantity, number.value, low, high, number.unit, "" if low == high == "" else level, number.limits


def _breakable(cell: float | str) -> float | str:
    return cell.replace(NO_BREAK, " ") if isinstance(cell, str) else cell


def about_sheet(state: StudyState, analysis: AnalysisOut) -> Sheet:
    """What the study is and how its fits were made."""
    rows = [("title", state.title), ("question", state.question)]
    for fit in analysis.fits:
        if isinstance(fit, RefusedFit):
            rows.append((f"fit {fit.letter}", fit.refusal))
            continue
        said = fit.safe_text if isinstance(fit, ComputedFit) else fit.how_well
        rows.append((f"fit {fit.letter}", f"{fit.label or fit.name}: {said}"))
        rows.append((f"method {fit.letter}", fit.method))
    return Sheet("About", ["what", "said"], _turned([row for row in rows if row[1]], 2))


def _or_empty(number: float | None) -> float | str:
    return "" if number is None else number


def _turned(rows: Sequence[tuple[float | str, ...]], width: int) -> list[list[float | str]]:
    """Rows as columns."""
    return [[row[place] for row in rows] for place in range(width)]
