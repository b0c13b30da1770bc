"""The readings of a study with fitted values, residuals and answers, as tables for other programs."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ridge.core.wording.headings import heading
from ridge.core.wording.naming import NO_BREAK
from ridge.exchange.cells import CLOCK_UNITS
from ridge.exchange.data_files import Sheet
from ridge.studies.calculated import calculate
from ridge.studies.columns import column_values
from ridge.studies.fits import fit_all
from ridge.studies.readings import Status, read_table
from ridge.studies.schemas import AnalysisOut
from ridge.studies.state import ColumnState, StudyState

_STATUS = {
    Status.BLANK: "", Status.USED: "in use", Status.ASIDE: "set aside", Status.PROBLEM: "unusable",
    Status.UNKNOWN: "unknown",
}  # fmt: skip


def readings_sheet(state: StudyState) -> Sheet:
    """Every row with its columns as numbers, whether it is in use, and of each fit the fitted value and the residual."""
    table = read_table(state)
    rows = state.filled_rows
    calculated = calculate(state)
    values = column_values(state)
    headings: list[str] = ["row"]
    columns: list[Sequence[float | str]] = [[float(row) for row in range(1, rows + 1)]]
    for column in state.columns:
        headings.append(heading(column.name, column.symbol, CLOCK_UNITS.get(column.unit, column.unit)))
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
    for one in fit_all(table, state.fits):
        if one.fit is None:
            continue
        letter = one.wanted.letter
        headings += [heading(f"fitted {letter}", "", naming.y_unit), heading(f"residual {letter}", "", naming.y_unit)]
        columns += [one.fit.fitted[:rows].tolist(), one.fit.residuals[:rows].tolist()]
    return Sheet("Readings", headings, columns)


def _cells(
    column: ColumnState, texts: Sequence[str], numbers: np.ndarray, rows: int
) -> Sequence[float] | Sequence[str]:
    """Numbers where the column holds any; otherwise what was typed."""
    if np.isfinite(numbers[:rows]).any():
        return numbers[:rows].tolist()  # type: ignore[no-any-return]
    return list(texts[:rows])


def parameters_sheet(analysis: AnalysisOut) -> Sheet:
    """Every parameter and statistic of every fit, in full."""
    rows: list[tuple[float | str, ...]] = []
    for fit in analysis.fits:
        for parameter in fit.parameters:
            value, _, error = parameter.full.partition(" ± ")
            rows.append((fit.letter, "parameter", parameter.name, _number(value), _number(error), parameter.unit))
        rows += [
            (fit.letter, "statistic", row.label, _number(row.full or "none"), "", row.unit) for row in fit.statistics
        ]
    headings = ["fit", "kind", "quantity", "value", "standard error", "unit"]
    return Sheet("Fits", headings, _turned(rows, len(headings)))


def answers_sheet(analysis: AnalysisOut) -> Sheet:
    """Every answer, one a row, those with several results in as many rows."""
    rows: list[tuple[str, ...]] = []
    for unknown in analysis.unknowns:
        rows.append(
            (
                unknown.label,
                unknown.answer.asked,
                unknown.answer.result or unknown.answer.problem,
                unknown.answer.sentence,
                unknown.answer.place,
            )
        )
    for one in analysis.answers:
        if len(one.rows) > 1:
            rows += [
                (
                    one.name,
                    f"{row.asked} {row.letter}".strip(),
                    row.result or row.problem,
                    f"{row.curve} {row.new}".strip(),
                    row.place,
                )
                for row in one.rows
            ]
        else:
            rows.append((one.name, one.asked, one.result or one.problem, one.sentence, one.place))
    headings = ["name", "asked", "answer", "limits", "place"]
    return Sheet(
        "Answers",
        headings,
        _turned([tuple(cell.replace(NO_BREAK, " ") for cell in row) for row in rows], len(headings)),
    )


def about_sheet(state: StudyState, analysis: AnalysisOut) -> Sheet:
    """What the study is and how its fits were made."""
    rows = [("title", state.title), ("question", state.question)]
    for fit in analysis.fits:
        rows.append(
            (
                f"fit {fit.letter}",
                fit.refusal or f"{fit.label or fit.name}: {fit.safe_text or fit.equation_text or fit.how_well}",
            )
        )
        rows.append((f"method {fit.letter}", fit.method))
    return Sheet("About", ["what", "said"], _turned([row for row in rows if row[1]], 2))


def _number(text: str) -> float | str:
    """As a number, so that no program has to guess; what is none stays a text."""
    try:
        return float(text)
    except ValueError:
        return text


def _turned(rows: Sequence[tuple[float | str, ...]], width: int) -> list[list[float | str]]:
    """Rows as columns."""
    return [[row[place] for row in rows] for place in range(width)]
