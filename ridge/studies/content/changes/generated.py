"""Readings that are generated: from, to, by step or count, by a formula, with seeded noise."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, Literal

import numpy as np
from pydantic import Field, FiniteFloat, StringConstraints

from ridge.core.errors import FormulaError
from ridge.core.formula import Program, parse
from ridge.core.numerals import group, significant
from ridge.studies.content.allowed import FORMULA_TYPED, LIMITS
from ridge.studies.content.changes.base import Change, ChangeRefused, Outcome
from ridge.studies.content.changes.refusals import refuse_calculated, refuse_too_many_rows
from ridge.studies.content.changes.whole_table import PutTable
from ridge.studies.content.state import StudyState


class GenerateReadings(Change):
    """x from ``low`` to ``high``, either every ``step`` or ``count`` of them, y by ``formula`` plus normal noise.

    Without a formula only x is written. The same ``seed`` gives the same readings.
    """

    kind: Literal["generate_readings"] = "generate_readings"
    low: FiniteFloat
    high: FiniteFloat
    step: FiniteFloat | None = None
    count: Annotated[int, Field(ge=1, le=LIMITS["rows"])] | None = None
    formula: Annotated[str, StringConstraints(max_length=FORMULA_TYPED, strip_whitespace=True)] = ""
    noise: Annotated[FiniteFloat, Field(ge=0)] = 0.0
    seed: Annotated[int, Field(ge=0, le=2**32 - 1)] = 1
    where: Literal["replace", "below"] = "replace"

    def apply(self, state: StudyState) -> Outcome:
        x = self._x()
        x_column, y_column = state.column("x"), state.column("y")
        assert x_column is not None and y_column is not None
        for column in (x_column, y_column):
            refuse_calculated(column)
        texts = {x_column.key: [significant(float(value), 12, strip=True).plain for value in x]}
        if self.formula:
            texts[y_column.key] = self._y(x, x_column.symbol or "x")
        start = 0 if self.where == "replace" else state.filled_rows
        rows = start + len(x)
        refuse_too_many_rows(rows)
        blank = [""] * len(x)
        columns = tuple(
            replace(column, cells=column.cells[:start] + tuple(texts.get(column.key, blank)))
            for column in state.columns
        )
        aside, assumed = (
            {row: why for row, why in marks.items() if row < start} for marks in (state.aside, state.assumed)
        )
        label = f"generate {group(str(len(x)))} row{'' if len(x) == 1 else 's'}"
        return Outcome(replace(state, columns=columns, aside=aside, assumed=assumed), PutTable.of(state), label)

    def _x(self) -> np.ndarray:
        if (self.step is None) == (self.count is None):
            raise ChangeRefused("Say either the step or how many.")
        if self.count is not None:
            if self.count > 1 and self.low == self.high:
                raise ChangeRefused("From and to are equal, so all readings would stand at one place.")
            return np.linspace(self.low, self.high, self.count)
        assert self.step is not None
        if self.step == 0 or (self.high - self.low) / self.step < 0:
            raise ChangeRefused("With this step one never gets from the first value to the last. Turn its sign round.")
        steps = (self.high - self.low) / self.step
        if steps >= LIMITS["rows"]:
            refuse_too_many_rows(int(min(steps, 1e12)) + 1)
        return self.low + self.step * np.arange(int(np.floor(steps + 1e-9)) + 1)

    def _y(self, x: np.ndarray, symbol: str) -> list[str]:
        try:
            parsed = parse(self.formula, symbol)
        except FormulaError as problem:
            raise ChangeRefused(str(problem)) from None
        if parsed.names:
            raise ChangeRefused(f"'{parsed.names[0]}' has no value here: write numbers and {symbol} only.")
        with np.errstate(all="ignore"):
            y = np.broadcast_to(Program([parsed.tree], (symbol,))(x)[0], x.shape).astype(float)
        y = y + np.random.default_rng(self.seed).normal(0.0, self.noise, len(x)) if self.noise else y
        digits = 12
        if self.noise:  # no more decimals than the noise leaves meaning to
            digits = int(
                min(12, max(3, np.ceil(np.log10(max(float(np.nanmax(np.abs(y), initial=0.0)) / self.noise, 1))) + 3))
            )
        return [
            significant(float(value), digits, strip=not self.noise).plain if np.isfinite(value) else "" for value in y
        ]
