"""A picture under the plot: opened, placed, scaled, shown and described."""

from __future__ import annotations

from dataclasses import replace
from math import floor, isfinite, log10
from typing import Literal

import numpy as np
from pydantic import Field

from ridge.core.errors import OutsideSense
from ridge.core.numerals import capital, significant
from ridge.core.wording.clock import clock_text
from ridge.exchange.cells import CLOCK_UNITS, NotANumber
from ridge.studies.content.changes.base import Change, ChangeRefused, Outcome
from ridge.studies.content.changes.columns import called
from ridge.studies.content.changes.whole_table import PutTable
from ridge.studies.content.columns import column_values
from ridge.studies.content.laid_picture import Laid, laid, of_length, without_marks
from ridge.studies.content.state import ColumnState, PictureScale, PictureState, StudyState

FINER = 10
"""Parts of a pixel that a reading is written to that follows its picture."""
MOST_DIGITS = 15
_WORDS = {
    "place": "place", "shine": "brightness", "credit": "credit", "licence": "licence", "description": "description",
    "pick_error": "uncertainty of a pick", "measured": "measured lengths",
}  # fmt: skip


class PutPicture(Change):
    """The picture with all its settings; null takes it away. ``equal``: whether both axes are drawn in the same scale from now on."""

    kind: Literal["put_picture"] = "put_picture"
    picture: PictureState | None = None
    equal: bool | None = None

    def apply(self, state: StudyState) -> Outcome:
        before, after = state.picture, self.picture
        if before is None and after is None:
            raise ChangeRefused("There is no picture.")
        if after is not None and (before is None or after.scale != before.scale or after.place != before.place):
            read_laid(after, state)
        made, equal = replace(state, picture=after), None
        if self.equal is not None:
            equal = bool(state.plot.get("equal", False))
            rest = {name: value for name, value in state.plot.items() if name != "equal"}
            made = replace(made, plot={**rest, "equal": True} if self.equal else rest)
        return Outcome(made, PutPicture(picture=before, equal=equal), _label(before, after))


class ScalePicture(Change):
    """What the pixels of the picture mean: two marks on each axis, a known length, or nothing; the axes are drawn as the marks want it.
    ``follow``: readings stay where they are on the picture, and get new values."""

    kind: Literal["scale_picture"] = "scale_picture"
    scale: PictureScale | None = None
    log_x: bool = False
    log_y: bool = False
    follow: bool = Field(default=True)

    def apply(self, state: StudyState) -> Outcome:
        before = state.picture
        if before is None:
            raise ChangeRefused("There is no picture to be scaled.")
        old = read_laid(before, state)
        try:
            after = self._scaled(before, old)
        except (NotANumber, OutsideSense) as problem:
            raise ChangeRefused(sentence(problem)) from None
        new = read_laid(after, state)
        plot = {**state.plot, "x_scale": _kind(after.log_x), "y_scale": _kind(after.log_y), "straighten": False}
        usual = {"x_scale": "linear", "y_scale": "linear", "straighten": False}
        plot = {name: value for name, value in plot.items() if usual.get(name) != value}
        if new.matrix != old.matrix or new.log != old.log:  # limits in the old numbers say nothing in the new ones
            plot = {name: value for name, value in plot.items() if not name.endswith(("_low", "_high", "_step"))}
        made = replace(state, picture=after, plot=plot)
        if self.follow:
            made = replace(made, columns=followed(state, old, new))
        what = "take the scale off the picture" if self.scale is None else "scale the picture"
        return Outcome(made, PutTable.of(state, whole=True), what)

    def _scaled(self, before: PictureState, old: Laid) -> PictureState:
        if self.scale is None:
            place = without_marks(before, old.matrix) if before.of_axes else before.place
            return replace(before, scale=None, place=place)
        if self.scale.y_marks is None:
            return replace(before, scale=self.scale, place=of_length(before, self.scale), log_x=False, log_y=False)
        return replace(before, scale=self.scale, log_x=self.log_x, log_y=self.log_y)


def read_laid(picture: PictureState, state: StudyState) -> Laid:
    """Where a picture lies. Raises ChangeRefused, saying what is wrong with its marks."""
    try:
        found = laid(picture, state)
    except (NotANumber, OutsideSense) as problem:
        raise ChangeRefused(sentence(problem)) from None
    if not np.isfinite([*found.matrix, *found.steps]).all() or not all(found.steps):
        raise ChangeRefused("These values are too large, too small or too close together for a picture.")
    return found


def sentence(problem: NotANumber | OutsideSense) -> str:
    """What is wrong with a mark, in words."""
    if isinstance(problem, OutsideSense):
        names = {
            "x_marks": "The marks of x",
            "y_marks": "The marks of y",
            "ends": "The two ends",
            "length": "The length",
            "place": "The place",
        }
        return f"{names.get(problem.name, problem.name)} {problem.reason}"
    return f"{capital(str(problem))}."


def followed(state: StudyState, old: Laid, new: Laid) -> tuple[ColumnState, ...]:
    """The columns, every reading with the values that its place on the picture has now. Raises ChangeRefused where one is calculated."""
    held = {role: column for role in ("x", "y") if (column := state.column(role))}
    numbers = column_values(state)
    with np.errstate(over="ignore"):  # beyond all numbers it is on no picture
        values = np.column_stack([numbers[held[role].key].numbers / 10.0 ** held[role].exponent for role in ("x", "y")])
    rows = np.flatnonzero(np.isfinite(values).all(axis=1))
    if not len(rows):
        return state.columns
    for column in held.values():
        if column.formula:
            raise ChangeRefused(
                f"{capital(called(column))} is calculated and cannot follow the picture: let the readings keep their values."
            )
    moved = new.to_values(old.to_pixels(values[rows]))
    changed: dict[str, list[str]] = {column.key: list(column.cells) for column in held.values()}
    for axis, role in enumerate(("x", "y")):
        column, step = held[role], new.steps[axis]
        for row, value in zip(rows.tolist(), moved[:, axis].tolist(), strict=True):
            own = (step * abs(value) if new.log[axis] else step) / FINER
            # What stays where it was stays as it was typed.
            if isfinite(value) and abs(value - values[row, axis]) > own / 2:
                changed[column.key][row] = written(value, own, column.unit)
    return tuple(replace(c, cells=tuple(changed[c.key])) if c.key in changed else c for c in state.columns)


def written(value: float, step: float, unit: str) -> str:
    """A value with as many digits as steps of this size need; of a clock unit as that shows it."""
    if unit in CLOCK_UNITS:
        # Parts of a minute are seconds: a clock of hours shows them too.
        return clock_text(value, "min:s" if unit == "min:s" else "h:min:s").replace("\u2212", "-")
    if value == 0 or abs(value) < step / 2:
        return "0"
    digits = floor(log10(abs(value))) - floor(log10(step)) + 1
    return significant(value, max(1, min(MOST_DIGITS, digits)), strip=True).plain


def _kind(log: bool) -> str:
    return "log" if log else "linear"


def _label(before: PictureState | None, after: PictureState | None) -> str:
    if after is None:
        return "take the picture away"
    if before is None or before.digest != after.digest:
        return "open a picture" if before is None else "open another picture"
    for name, on, off in (("hidden", "hide", "show"), ("locked", "lock", "unlock")):
        if getattr(before, name) != getattr(after, name):
            return f"{on if getattr(after, name) else off} the picture"
    changed = [word for name, word in _WORDS.items() if getattr(before, name) != getattr(after, name)]
    return f"change the {' and '.join(changed) or 'settings'} of the picture"
