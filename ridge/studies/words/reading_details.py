"""One row in words: what it is, how far off the line, how unusual. Its x and y stand in the table."""

from __future__ import annotations

import math

import numpy as np

from ridge.core.numerals import significant, write
from ridge.core.results.fit import Fit
from ridge.core.wording.rounding import uncertainty_decimals
from ridge.studies.content.readings import Status, Table
from ridge.studies.content.state import StudyState

_STATUS_WORDS = {
    Status.USED: "in use", Status.ASIDE: "set aside", Status.UNKNOWN: "an unknown", Status.BLANK: "empty",
    Status.UNKNOWN_ASIDE: "set aside",
}  # fmt: skip


def describe_reading(
    state: StudyState, table: Table, fit: Fit | None, row: int, *, judged: bool = True
) -> list[tuple[str, str]]:
    """Return label and value of each thing to say about a row; ``judged``: also what tells how well the curve fits."""
    naming = table.naming
    problem = next((p.message for p in table.problems if p.row == row), None)
    if problem:
        return [("unusable", problem)]
    status = Status(int(table.status[row]))
    entries = [("status", _STATUS_WORDS[status])]
    if status in (Status.ASIDE, Status.UNKNOWN_ASIDE) and state.aside.get(row):
        entries.append(("reason", state.aside[row]))
    if row in state.assumed:
        entries.append(("assumed", state.assumed[row] or "without a reason"))
    if status not in (Status.USED, Status.ASIDE):
        return entries
    if fit is None or not math.isfinite(fit.residuals[row]):
        return entries
    s = fit.reading_deviation
    decimals = uncertainty_decimals(s) + 1 if s and judged and not fit.statistics.exact else None

    def word(value: float) -> str:
        shown = significant(value, 6, strip=True) if decimals is None else write(value, decimals)
        return naming.y_with_unit(shown.text)

    entries += [
        (f"on the {fit.model.graph}", word(float(fit.fitted[row]))),
        ("residual", word(float(fit.residuals[row]))),
    ]
    if not judged:  # a standardised residual beside the residual tells s
        return entries
    standardised, leverage = float(fit.standardised_residuals[row]), float(fit.leverage[row])
    if math.isfinite(standardised):
        entries.append(("standardised", write(standardised, 2).text))
    if math.isfinite(leverage) and np.nanmax(fit.leverage) > 0:  # readings do not pull a curve that is given
        entries.append(("leverage", write(leverage, 3).text))
    return entries
