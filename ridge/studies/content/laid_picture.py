"""Where the picture of a study lies under its plot: from marks as typed, or as it was placed."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ridge.core.readings import Array
from ridge.exchange.cells import CLOCK_UNITS, NotANumber, read_clock, read_number
from ridge.exchange.tables.times import SECONDS, find_times, looks_like_time
from ridge.pictures import Matrix, Placing, Scale, pixels_at, places, steps
from ridge.studies.content.state import ColumnState, PicturePlace, PictureScale, PictureState, ScaleMark, StudyState


@dataclass(frozen=True)
class Laid:
    """``matrix`` from pixels to the numbers of the table, of a logarithmic axis to their decimal logarithms. ``remark``: what is odd about
    the marks. ``since``: for an axis whose marks are dates, what its numbers count from."""

    matrix: Matrix
    log: tuple[bool, bool]
    remark: str = ""
    since: tuple[str, str] = ("", "")

    def to_values(self, pixels: object) -> Array:
        """Numbers of the table at pixels, shape (n, 2)."""
        even = places(self.matrix, pixels)  # type: ignore[arg-type]
        with np.errstate(over="ignore"):
            return np.column_stack([10.0 ** even[:, i] if self.log[i] else even[:, i] for i in (0, 1)])

    def to_pixels(self, values: object) -> Array:
        """Pixels of numbers of the table, shape (n, 2); NaN for what has no place there."""
        found = np.asarray(values, dtype=np.float64).reshape(-1, 2)
        with np.errstate(invalid="ignore", divide="ignore"):
            even = [
                np.log10(np.where(found[:, i] > 0, found[:, i], np.nan)) if self.log[i] else found[:, i] for i in (0, 1)
            ]
        return pixels_at(self.matrix, np.column_stack(even))

    @property
    def steps(self) -> tuple[float, float]:
        """By how much x and y change along one pixel at most; of a logarithmic axis as a share of the value."""
        across, up = steps(self.matrix)
        tenfold = float(np.log(10))
        return across * (tenfold if self.log[0] else 1.0), up * (tenfold if self.log[1] else 1.0)


def laid(picture: PictureState, state: StudyState) -> Laid:
    """Where a picture lies under the plot of a study. Raises NotANumber or OutsideSense, saying which mark is wrong."""
    log = (picture.log_x, picture.log_y)
    if picture.scale is None or picture.scale.y_marks is None:
        return Laid(_placing(picture.place).matrix(picture.width, picture.height), log)
    x, x_since = _values("x", picture.scale.x_marks, _column(state, "x"))
    y, y_since = _values("y", picture.scale.y_marks, _column(state, "y"))
    scale = Scale(
        [((mark.px, mark.py), value) for mark, value in zip(picture.scale.x_marks, x, strict=True)],
        [((mark.px, mark.py), value) for mark, value in zip(picture.scale.y_marks, y, strict=True)],
        *log,
    )
    return Laid(scale.matrix, log, scale.remark, (x_since, y_since))


def of_length(picture: PictureState, scale: PictureScale) -> PicturePlace:
    """Where a picture lies with a known length, the first end of it at zero, turned as it was. Raises NotANumber, OutsideSense."""
    first, second = scale.x_marks
    length = read_number(second.value)
    if length is None:
        raise NotANumber("type the length")
    unit = Scale.of_length(((first.px, first.py), (second.px, second.py)), length).standard_error(1.0)[0]
    middle = PicturePlace(0.0, 0.0, picture.width * unit, picture.height * unit, picture.place.turn)
    at = places(_placing(middle).matrix(picture.width, picture.height), [(first.px, first.py)])[0]
    return replace(middle, x=float(-at[0]), y=float(-at[1]))


def without_marks(picture: PictureState, matrix: Matrix) -> PicturePlace:
    """Where a picture lies that loses its marks: as before, upright."""
    x, y = places(matrix, [(picture.width / 2, picture.height / 2)])[0].tolist()
    across, up = steps(matrix)
    return PicturePlace(x, y, across * picture.width, up * picture.height)


def in_values(exponent: int, matrix_row: tuple[float, float, float], log: bool) -> tuple[float, float, float]:
    """One row of a matrix for an axis in the unit of the plot: the numbers of the table times ten to an exponent."""
    along_x, along_y, at = matrix_row
    if log:
        return along_x, along_y, at + exponent
    times = 10.0**exponent
    return along_x * times, along_y * times, at * times


def _placing(place: PicturePlace) -> Placing:
    return Placing(place.x, place.y, place.width, place.height, place.turn)


def _column(state: StudyState, role: str) -> ColumnState:
    column = state.column(role)
    assert column is not None
    return column


def _values(axis: str, marks: tuple[ScaleMark, ...], column: ColumnState) -> tuple[list[float], str]:
    """The numbers of two marks, and for dates what they count from. Raises NotANumber."""
    texts = [mark.value.strip() for mark in marks]
    if not all(texts):
        raise NotANumber(f"type the value of both marks of {axis}")
    try:
        clock = column.unit in CLOCK_UNITS
        found = [read_clock(text, column.unit) if clock else read_number(text) for text in texts]
    except NotANumber:
        if not all(map(looks_like_time, texts)):
            raise
        times = find_times(texts)
        if times is None or None in times.seconds:
            raise
        unit = CLOCK_UNITS.get(column.unit, column.unit)
        length = SECONDS.get(unit) or SECONDS[times.fitting_unit]
        return [
            seconds / length for seconds in times.seconds if seconds is not None
        ], f"{texts[0]}, in {unit or times.fitting_unit}"
    return [number for number in found if number is not None], ""
