"""Repeated readings made into one row each, with the mean, its standard uncertainty and how many there were."""

from __future__ import annotations

from dataclasses import replace
from decimal import Context, Decimal
from functools import reduce
from typing import Literal

import numpy as np
from pydantic import Field

from ridge.core.numerals import group, place, significant
from ridge.studies.content.allowed import LIMITS
from ridge.studies.content.changes.base import Change, ChangeRefused, Outcome
from ridge.studies.content.changes.columns import called, find_column
from ridge.studies.content.changes.refusals import refuse_calculated
from ridge.studies.content.changes.whole_table import PutTable
from ridge.studies.content.columns import first_filled
from ridge.studies.content.fields import Key
from ridge.studies.content.readings import Status, Table, read_table
from ridge.studies.content.state import ColumnState, StudyState, new_key

ENOUGH = 5
"""Repeats from which on the scatter of each mean is known well enough to weigh by: of five the standard deviation is itself uncertain by
36 % (JCGM 100:2008, table E.1). Of fewer only their number weighs."""


DIGITS = 15
"""Significant digits of a mean at most: what a double holds."""

_EXACT = Context(prec=700)


class AverageRepeats(Change):
    """Rows in use with the same x, or with the same text in the column ``by``, made into one each. All other rows (set aside, incomplete,
    without x) stay as they are, below."""

    kind: Literal["average_repeats"] = "average_repeats"
    by: Key = ""
    new_keys: list[Key] = Field(default_factory=lambda: [new_key(), new_key()], min_length=2, max_length=2)

    def apply(self, state: StudyState) -> Outcome:
        x, y = state.column("x"), state.column("y")
        assert x is not None and y is not None
        refuse_calculated(y)
        for role in ("y_error", "weight", "count"):
            if held := first_filled(state.columns, role):
                raise ChangeRefused(
                    f"{called(held)} says something of each single reading, which a mean would lose. Remove that column first."
                )
        if len(state.columns) + 2 > LIMITS["columns"]:
            raise ChangeRefused(f"Two columns more are needed; a study holds {LIMITS['columns']} at most.")
        table = read_table(state)
        groups = self._groups(state, table)
        if all(len(rows) < 2 for rows in groups):
            what = called(state.columns[find_column(state, self.by)]) if self.by else table.naming.x
            raise ChangeRefused(f"No two readings in use have the same {what}.")
        kept = [row for row in range(state.row_count) if table.status[row] not in (Status.USED, Status.BLANK)]
        made = self._made(state, table, groups, kept)
        label = (
            f"average repeats: {group(str(sum(map(len, groups))))} readings into {group(str(len(groups)))}"
            f"{f', {len(kept)} other rows kept' if len(kept) > 1 else ', one other row kept' if kept else ''}"
        )
        return Outcome(made, PutTable.of(state), label)

    def _groups(self, state: StudyState, table: Table) -> list[list[int]]:
        """Rows (from 0) that belong together, in the order of their first ones; those of different series never do."""
        by = state.columns[find_column(state, self.by)].cells if self.by else None
        series = table.series.indices if table.series else np.zeros(state.row_count, dtype=np.int32)
        groups: dict[tuple[object, int], list[int]] = {}
        for row in np.flatnonzero(table.status == Status.USED).tolist():
            key = by[row].strip() or f"\0{row}" if by else float(table.readings.x[row])
            groups.setdefault((key, int(series[row])), []).append(row)
        return list(groups.values())

    def _made(self, state: StudyState, table: Table, groups: list[list[int]], kept: list[int]) -> StudyState:
        blank = [""] * len(kept)
        scale = {column.key: 10.0**-column.exponent for column in state.columns}
        columns = []
        for column in state.columns:
            if column.formula:
                cells = [""] * len(groups)
            elif column.role in ("x", "y"):
                values = (table.readings.x if column.role == "x" else table.readings.y) * scale[column.key]
                cells = [_mean(values[rows], [column.cells[row] for row in rows]) for rows in groups]
            else:
                cells = [_common([column.cells[row] for row in rows]) for rows in groups]
            columns.append(replace(column, cells=(*cells, *(column.cells[row] for row in kept))))
        y = state.column("y")
        assert y is not None
        known = min(map(len, groups)) >= ENOUGH
        errors = [_of_mean(table.readings.y[rows] * scale[y.key]) for rows in groups]
        symbol = y.symbol or "y"
        columns += [
            ColumnState(
                self.new_keys[0], f"standard uncertainty of the mean of {symbol}", "", y.unit, "y_error" if known else "other",
                exponent=y.exponent, cells=(*errors, *blank),
            ),
            ColumnState(
                self.new_keys[1], "number of repeats", "", "", "other" if known else "weight",
                cells=(*(str(len(rows)) for rows in groups), *("" if known else "1" for _ in kept)),
            ),
        ]  # fmt: skip
        place = {row: len(groups) + at for at, row in enumerate(kept)}
        assumed = {
            at: state.assumed[rows[0]] for at, rows in enumerate(groups) if all(row in state.assumed for row in rows)
        }
        return replace(
            state,
            columns=tuple(columns),
            aside={place[row]: why for row, why in state.aside.items() if row in place},
            assumed=assumed | {place[row]: why for row, why in state.assumed.items() if row in place},
        )


def _mean(values: np.ndarray, texts: list[str]) -> str:
    """With two decimals more than the readings have; a value that all share stays as it was typed."""
    if len(set(texts)) == 1:
        return texts[0]
    try:
        typed = [Decimal(text.strip().replace("\u2212", "-").replace(",", ".")) for text in texts]
    except ArithmeticError:  # thousands apart, a power of ten, a clock
        return significant(float(np.mean(values)), DIGITS, strip=True).plain
    mean = float(reduce(_EXACT.add, typed)) / len(typed)
    most = max(-int(one.as_tuple().exponent) for one in typed)
    digits = place(mean) + 1 + max(most, 0) + 2
    return significant(mean, min(max(digits, 1), DIGITS), strip=True).plain


def _of_mean(values: np.ndarray) -> str:
    """s/√n (JCGM 100:2008, 4.2.3); empty for a single reading, and where all are the same."""
    if len(values) < 2:
        return ""
    error = float(np.std(values, ddof=1) / np.sqrt(len(values)))
    return significant(error, 3).plain if error > 0 else ""


def _common(texts: list[str]) -> str:
    return texts[0] if len(set(texts)) == 1 else ""
