"""What the marks and curves of a figure mean, in rows below its axes, where they cover nothing."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from ridge.exchange.figure.content import FigureContent
from ridge.exchange.figure.texts import POINT, Line, Words, height_of, shortened, width_of
from ridge.exchange.typeset import to_mathtext

_SAMPLE = 10.0  # mm of a line
_MARK = 3.0
_GAP = 1.2
_APART = 5.0


@dataclass(frozen=True)
class Entry:
    """``letter`` of a curve or ``shape`` of a mark, and what is said of it."""

    kind: Literal["curve", "mark"]
    key: str
    line: Line

    @property
    def sample(self) -> float:
        return _SAMPLE if self.kind == "curve" else _MARK

    @property
    def width(self) -> float:
        return self.sample + _GAP + width_of(self.line)


@dataclass(frozen=True)
class Placed:
    """An entry with its left end and the line that its letters stand on, from the upper left of the legend, in mm."""

    entry: Entry
    left: float
    down: float


def legend(content: FigureContent, size: float, room: float, without: frozenset[str]) -> tuple[list[Placed], float]:
    """Entries in rows no wider than ``room``, and how high they are. ``without``: letters of curves whose equations stand in
    the plot already."""
    entries = [
        Entry("mark", series.shape, (shortened(series.name, size, room - _MARK - _GAP),))
        for series in content.series
        if series.name
    ]
    entries += [
        Entry("curve", curve.letter, _said(content, curve.letter, size, room - _SAMPLE - _GAP))
        for curve in content.curves
        if curve.letter not in without
    ]
    placed: list[Placed] = []
    row: list[Entry] = []
    down = 0.0
    for entry in [*entries, None]:
        if row and (entry is None or sum(one.width + _APART for one in row) + entry.width > room):
            high = max(height_of(one.line) for one in row)
            left = 0.0
            for one in row:
                placed.append(Placed(one, left, down + high - 0.3 * size * POINT))
                left += one.width + _APART
            down += high
            row = []
        if entry is not None:
            row.append(entry)
    return placed, down


def _said(content: FigureContent, letter: str, size: float, room: float) -> Line:
    """Letter and equation of a curve, typeset where that fits; its name where it does not."""
    curve = next(one for one in content.curves if one.letter == letter)
    start = (Words(f"{letter}  ", size, "bold"),) if len(content.curves) > 1 or content.label == "letter" else ()
    left = room - width_of(start)
    text = to_mathtext(curve.latex) if curve.latex else None
    if text is not None:
        equation = Words(text, size * 1.08, "equation")
        if equation.width <= left:
            return (*start, equation)
    # What mathematical text lacks letters for stands as it is; cases say little on one line.
    if curve.equation and text is None and "cases" not in curve.latex and Words(curve.equation, size).width <= left:
        return (*start, shortened(curve.equation, size, left))
    return (*start, shortened(curve.name, size, left))
