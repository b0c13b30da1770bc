"""The readings of a report, each with its fitted value and its residual."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import numpy as np

from ridge.core.judging.misses import typical_miss
from ridge.core.numerals import MINUS, THIN, group, place, power_of_ten, significant, write
from ridge.core.readings import Array
from ridge.core.results.fit import Fit
from ridge.core.wording.headings import over
from ridge.core.wording.rounding import uncertainty_decimals
from ridge.exchange.report.content import (
    NUMBER,
    TEXT,
    Block,
    Grid,
    Heading,
    Kind,
    Paragraph,
    Text,
    joined,
    plain_text,
    symbol,
)
from ridge.studies.analysis.calculated import calculate
from ridge.studies.analysis.fits import Fitted
from ridge.studies.content.columns import column_values
from ridge.studies.content.readings import Status
from ridge.studies.content.state import ColumnState, ReportPart
from ridge.studies.out.report.source import Source, quantity

MOST_ROWS = 200
"""Rows of readings that a report holds; of more it has a summary."""
MOST_FITS = 2
"""Fits whose values stand beside the readings; of more only those of the first."""
LONG = 24
"""Rows from which on a narrow table is set in parts side by side."""
NARROW, NARROWEST = 46, 30
"""Characters across up to which two or three parts find room side by side."""
_CALCULATED = 5
_UNLIKE = 5
"""From which ratio of their uncertainties on readings are rounded each by its own."""
_LEAST, _MOST = 1e-3, 1e6
"""Sizes of fitted values that stand as they are."""


def readings(source: Source, _: ReportPart) -> Iterator[Block]:
    """Every row as it was typed, with what the drawn fits make of it; of many rows a summary."""
    rows = source.state.filled_rows
    if not rows:
        return
    yield Heading("Readings")
    if rows > MOST_ROWS:
        yield Paragraph(f"{source.analysis.summary}. Too many rows for paper: here is their summary.", "note")
        yield _summary(source)
        return
    columns = [*_typed(source, rows), *_computed(source, rows)]
    said = [_said(source, row) for row in range(rows)]
    if any(said):
        columns.append(("remark", TEXT, said))
    lines = tuple((str(row + 1), *(cells[row] for _, _, cells in columns)) for row in range(rows))
    head = ("row", *(head for head, _, _ in columns))
    kinds: tuple[Kind, ...] = (TEXT, *(kind for _, kind, _ in columns))
    yield Grid(_caption(source), head, lines, kinds, beside=_parts(head, lines))


_Column = tuple[Text, Kind, Sequence[str]]


def _typed(source: Source, rows: int) -> Iterator[_Column]:
    calculated, values = calculate(source.state), column_values(source.state)
    for column in source.state.columns:
        numbers = values[column.key].numbers[:rows]
        is_number = column.role not in ("series", "other") or bool(np.isfinite(numbers).any())
        if column.key in calculated:
            scale = 10.0**-column.exponent
            cells = [
                significant(value * scale, _CALCULATED, strip=True).text if np.isfinite(value) else text
                for value, text in zip(numbers.tolist(), calculated[column.key].texts, strict=False)
            ]
        else:
            cells = [
                _as_written(cell) if np.isfinite(value) else cell
                for cell, value in zip(column.cells[:rows], numbers.tolist(), strict=False)
            ]
        cells += [""] * (rows - len(cells))
        yield quantity(column.name, column.symbol, over(column.unit, column.exponent)), _kind(is_number), cells


def _kind(is_number: bool) -> Kind:
    return NUMBER if is_number else TEXT


def _as_written(cell: str) -> str:
    """A number with its digits as they were typed, a true minus sign and its power of ten."""
    digits, mark, exponent = cell.strip().lower().partition("e")
    digits = digits.replace("-", MINUS)
    return f"{digits}{THIN}×{THIN}{power_of_ten(int(exponent))}" if mark and exponent.lstrip("+-").isdigit() else digits


def _computed(source: Source, rows: int) -> Iterator[_Column]:
    """Fitted value and residual of the drawn fits, in the multiplier of the y column and to a digit past the scatter."""
    shown = {fit.letter for fit in source.drawn}
    fitted = [one for one in source.fitted if one.fit is not None and one.wanted.letter in shown]
    y = source.state.column("y")
    assert y is not None
    for one in fitted[: MOST_FITS if len(fitted) <= MOST_FITS else 1]:
        yield from _of_fit(one, y, source, rows, len(source.shown) > 1)


def _of_fit(one: Fitted, y: ColumnState, source: Source, rows: int, several: bool) -> Iterator[_Column]:
    fit = one.fit
    assert fit is not None
    letter = f" {one.wanted.letter}" if several else ""
    scatter = np.full(len(fit.fitted), np.nan) if fit.statistics.exact else _scatter(fit)
    for name, values in (("fitted", fit.fitted), ("residual", fit.residuals)):
        exponent = y.exponent or _power(values)
        scale = 10.0**-exponent
        written = [
            _rounded(value * scale, wide * scale)
            for value, wide in zip(values[:rows].tolist(), scatter.tolist(), strict=False)
        ]
        yield quantity(f"{name}{letter}", "", over(source.table.naming.y_unit, exponent)), NUMBER, written


def _power(values: Array) -> int:
    """The power of ten in which very large or small values are told."""
    largest = float(np.nanmax(np.abs(values), initial=0.0))
    return 0 if largest == 0 or _LEAST <= largest < _MOST else place(largest)


def _scatter(fit: Fit) -> Array:
    """How far each row may lie from the curve: the typical miss, or, where readings weigh very differently, its own."""
    found = np.full(len(fit.fitted), typical_miss(fit) or np.nan)
    errors = fit.readings.y_error
    if errors is None or not fit.reading_deviation:
        return found
    own = fit.reading_deviation * errors / fit.readings.reference_error
    known = np.isfinite(own) & (own > 0)
    return np.where(known, own, found) if known.any() and own[known].max() > _UNLIKE * own[known].min() else found


def _rounded(value: float, scatter: float) -> str:
    """To a digit past the scatter."""
    if not np.isfinite(value):
        return ""
    if not (np.isfinite(scatter) and scatter > 0):
        return significant(value, 6, strip=True).text
    return write(value, uncertainty_decimals(scatter) + 1).text


def _said(source: Source, row: int) -> str:
    """What is to be said of a row that is not simply in use."""
    state, status = source.state, Status(int(source.table.status[row]))
    if row in state.aside:
        return f"set aside: {state.aside[row]}".removesuffix(": ")
    if row in state.assumed:
        return f"assumed: {state.assumed[row]}".removesuffix(": ")
    if status is Status.PROBLEM:
        return next((one.what for one in source.table.problems if one.row == row), "unusable")
    return "unknown" if status is Status.UNKNOWN else ""


def _caption(source: Source) -> str:
    said = f"Readings: {source.analysis.summary.replace(' · ', ', ')}."
    fitted = [fit.letter for fit in source.drawn if source.fit(fit.letter)]
    if not fitted:
        return said
    of = "the curve" if len(fitted) == 1 else "each curve" if len(fitted) <= MOST_FITS else f"{fitted[0]}"
    return f"{said} Fitted: the value of {of} there; residual: the reading less that."


def _parts(head: Sequence[Text], lines: Sequence[Sequence[Text]]) -> int:
    """In how many parts side by side a long table fits on a page."""
    if len(lines) <= LONG:
        return 1
    across = sum(
        max(max(len(plain_text(line[place])) for line in lines), len(plain_text(head[place])) / 2.5) + 2
        for place in range(len(head))
    )
    return 3 if across <= NARROWEST else 2 if across <= NARROW else 1


def _summary(source: Source) -> Grid:
    """Extremes, mean and standard deviation of the readings in use."""
    table = source.table
    naming = table.naming
    used = table.status == Status.USED
    rows = []
    for values, letters, unit in (
        (table.readings.x[used], naming.x, naming.x_unit),
        (table.readings.y[used], naming.y, naming.y_unit),
    ):
        numbers = (values.min(), values.max(), values.mean(), values.std(ddof=1)) if len(values) > 1 else ()
        said = [significant(float(number), 5, strip=True).text for number in numbers] or ["–"] * 4
        over_unit = f" / {over(unit)}" if unit else ""
        rows.append((joined(symbol(letters), over_unit), group(str(len(values))), *said))
    head = ("quantity", "readings", "minimum", "maximum", "mean", "standard deviation")
    return Grid("Summary of the readings in use.", head, tuple(rows), (TEXT, *[NUMBER] * (len(head) - 1)))
