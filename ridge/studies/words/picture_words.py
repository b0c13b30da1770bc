"""What is said of the picture under a plot: where it lies, what its marks leave open, what the picks show, and what was measured on it."""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot, sqrt

import numpy as np
from pydantic import BaseModel as Schema

from ridge.core.errors import OutsideSense
from ridge.core.numerals import count_word, significant
from ridge.core.wording.naming import with_unit
from ridge.core.wording.rounding import round_with_uncertainty
from ridge.pictures import Followed, angle, count_bends, length
from ridge.studies.content.changes.picturing import ChangeRefused, read_laid
from ridge.studies.content.laid_picture import Laid, in_values
from ridge.studies.content.readings import Status, Table, read_table
from ridge.studies.content.state import MeasuredOnPicture, PictureState, StudyState

NO_CREDIT = "no credit is given"
DIGITS = 8
"""Significant digits of a length that is typed on."""


class MeasuredOut(Schema):
    """A length or an angle: ``text`` with its standard uncertainty, or why there is none. Of a length, ``asked``: as an x is asked at, and
    ``typed``: as it is typed for y; empty for anything else."""

    text: str
    problem: str = ""
    asked: str = ""
    typed: str = ""


class PictureOut(Schema):
    """``laid``: everything that is kept of the picture. ``matrix``: from its pixels to the axes of the plot, of a logarithmic axis to decimal
    logarithms, null with a ``problem``. ``x_error``, ``y_error``: uncertainty of a pick as it is typed for a column. ``advice``: what the
    picks show. ``since``: what an axis of dates counts from."""

    laid: PictureState
    matrix: list[float] | None
    problem: str
    remark: str
    since: list[str]
    x_error: str
    y_error: str
    advice: str
    credit_line: str
    measured: list[MeasuredOut]


class FollowedOut(Schema):
    """A line that was followed: places in pixels, their cells for x and y, and why it ends where it does."""

    pixels: list[list[float]]
    cells: list[list[str]]
    ends: list[str]
    kind: str


def picture_of(state: StudyState) -> PictureOut | None:
    """The picture of a study; None without one."""
    picture = state.picture
    if picture is None:
        return None
    table = read_table(state)
    try:
        found = read_laid(picture, state)
    except ChangeRefused as refused:
        return _out(picture, None, str(refused), table, state)
    return _out(picture, found, "", table, state)


def measured(state: StudyState, points: MeasuredOnPicture) -> MeasuredOut:
    """A length or an angle that is not kept. Raises ChangeRefused where there is no picture, or its marks are wrong."""
    if state.picture is None:
        raise ChangeRefused("There is no picture.")
    return _measured(points, read_laid(state.picture, state), state.picture, state)


def _out(picture: PictureState, found: Laid | None, problem: str, table: Table, state: StudyState) -> PictureOut:
    errors = ["" if found is None else _error(found, axis, picture.pick_error) for axis in (0, 1)]
    return PictureOut(
        laid=picture, matrix=None if found is None else list(plot_matrix(found, state)), problem=problem,
        remark="" if found is None else found.remark, since=["", ""] if found is None else list(found.since),
        x_error=errors[0], y_error=errors[1], advice="" if found is None else _advice(found, table, state, picture.pick_error),
        credit_line=credit_line(picture),
        measured=[_measured(one, found, picture, state) for one in picture.measured],
    )  # fmt: skip


def plot_matrix(found: Laid, state: StudyState) -> tuple[float, float, float, float, float, float]:
    """From pixels to places along the axes of the plot."""
    a, b, c, d, e, f = found.matrix
    (x, y) = (state.column(role) for role in ("x", "y"))
    assert x is not None and y is not None
    a, c, e = in_values(x.exponent, (a, c, e), found.log[0])
    b, d, f = in_values(y.exponent, (b, d, f), found.log[1])
    return a, b, c, d, e, f


def credit_line(picture: PictureState) -> str:
    """What is printed under the figure."""
    parts = [part for part in (picture.credit, picture.licence) if part]
    return f"Picture: {', '.join(parts) or NO_CREDIT}."


def _error(found: Laid, axis: int, pixels: float) -> str:
    size = found.steps[axis] * pixels
    if not size:
        return ""
    return f"{significant(100 * size, 2).plain} %" if found.log[axis] else significant(size, 2).plain


def _advice(found: Laid, table: Table, state: StudyState, pixels: float) -> str:
    """How many bends the picks show, and what a polynomial through them needs."""
    used = table.status == Status.USED
    count = int(used.sum())
    if count < 3:
        return ""
    x, y = (state.column(role) for role in ("x", "y"))
    assert x is not None and y is not None
    values = np.column_stack([table.readings.x[used] / 10.0**x.exponent, table.readings.y[used] / 10.0**y.exponent])
    bends = count_bends(found.to_pixels(values), 2 * max(pixels, 1.0))
    said = f"{count_word(bends.count, capital=True) if bends.count else 'No'} bend{'' if bends.count == 1 else 's'}"
    needs = f"a polynomial needs degree {bends.degree} and {count_word(bends.points)} points at least"
    return f"{said}: {needs}; more points show how well it fits."


@dataclass(frozen=True)
class _Units:
    """Of both axes."""

    x: str
    y: str

    @property
    def same(self) -> bool:
        return self.x == self.y


def _measured(one: MeasuredOnPicture, found: Laid | None, picture: PictureState, state: StudyState) -> MeasuredOut:
    if found is None:
        return MeasuredOut(text="", problem="The marks of the picture are to be mended first.")
    if any(found.log):
        return MeasuredOut(text="", problem="On a logarithmic axis there are no lengths and angles.")
    naming = read_table(state).naming
    powers = np.array([10.0**column.exponent if (column := state.column(role)) else 1.0 for role in ("x", "y")])
    values, steps = found.to_values(one.points) * powers, np.array(found.steps) * powers * picture.pick_error
    units = _Units(naming.x_unit, naming.y_unit)
    if len(one.points) == 3:
        return _angle(values, units)
    if not units.same:
        across, up = (values[1] - values[0]).tolist()
        parts = [
            f"Δ{letter} = {with_unit(round_with_uncertainty(value, sqrt(2) * step).text, unit)}"
            for letter, value, step, unit in (
                (naming.x, across, steps[0], units.x),
                (naming.y, up, steps[1], units.y),
            )
        ]
        return MeasuredOut(text=", ".join(parts))
    size = length(values)
    # Both ends may be off by a pick, each along the line: JCGM 100:2008, 5.1.2.
    way = (values[1] - values[0]) / (size or 1.0)
    error = sqrt(2) * hypot(*(way * steps))
    asked, typed = (significant(number, DIGITS, strip=True).plain for number in (size, size / powers[1]))
    text = with_unit(round_with_uncertainty(size, error).text, units.x)
    return MeasuredOut(text=text, asked=asked, typed=typed)


def _angle(values: np.ndarray, units: _Units) -> MeasuredOut:
    if not units.same:
        return MeasuredOut(text="", problem="An angle needs the same unit on both axes.")
    try:
        size = angle(values)
    except OutsideSense:
        return MeasuredOut(text="", problem="Two of its places are one.")
    return MeasuredOut(text=f"{significant(size, 4, strip=True).text}°", problem="")


def followed_out(line: Followed, cells: list[list[str]]) -> FollowedOut:
    return FollowedOut(pixels=[list(point) for point in line], cells=cells, ends=list(line.ends), kind=line.kind)
