"""Where the label of each curve stands: beside it, clear of readings, curves and one another."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
import numpy.typing as npt

from ridge.exchange.figure.axes import Frame
from ridge.exchange.figure.content import DrawnCurve, FigureContent
from ridge.exchange.figure.texts import Line, Words, height_of, width_of
from ridge.exchange.figure.ticks import spread
from ridge.exchange.typeset import to_mathtext

Points = npt.NDArray[np.float64]  # shape (n, 2), in mm from the lower left of the axes

_ALONG = (0.78, 0.6, 0.4, 0.22, 0.9, 0.1, 0.5, 0.3, 0.7)
_AWAY = (1.4, 2.6, 4.0)
_PIXEL = 0.254  # mm of paper to a pixel of the screen
_CLEAR = 0.5
_MARK_RADIUS = 1.0


@dataclass(frozen=True)
class Box:
    """A text's place: its lower left and its size, in mm."""

    left: float
    bottom: float
    width: float
    height: float

    def holds(self, points: Points) -> bool:
        """Whether any of the points lies in it or at its edge."""
        x, y = points[:, 0], points[:, 1]
        across = (x > self.left - _CLEAR) & (x < self.left + self.width + _CLEAR)
        return bool((across & (y > self.bottom - _CLEAR) & (y < self.bottom + self.height + _CLEAR)).any())

    def meets(self, other: Box) -> bool:
        apart = self.left > other.left + other.width or other.left > self.left + self.width
        return not (apart or self.bottom > other.bottom + other.height or other.bottom > self.bottom + self.height)


def _free_spot(
    line: Points, size: tuple[float, float], axes: tuple[float, float], taken: Sequence[Box], points: Points
) -> Box | None:
    """A place for a text of this size beside a curve; None where there is none that covers nothing. ``points``: all that is
    drawn, curves as their samples."""
    width, height = size
    for away in _AWAY:
        for share in _ALONG:
            if not len(line):
                return None
            x, y = line[round(share * (len(line) - 1))]
            for sideways, up in ((-1, 1), (1, -1), (1, 1), (-1, -1)):
                left = x - width / 2 + sideways * away
                bottom = y + away if up > 0 else y - away - height
                box = Box(min(max(left, 0.5), axes[0] - width - 0.5), bottom, width, height)
                within = box.bottom >= 0.5 and box.bottom + height <= axes[1] - 0.5 and box.left >= 0.5
                if within and not box.holds(points) and not any(box.meets(other) for other in taken):
                    return box
    return None


def _moved(box: Box, by: tuple[float, float], axes: tuple[float, float]) -> Box:
    """Where the user moved it, still inside the axes; ``by`` in pixels of the screen, down counted positive."""
    left = min(max(box.left + by[0] * _PIXEL, 0.0), max(axes[0] - box.width, 0.0))
    bottom = min(max(box.bottom - by[1] * _PIXEL, 0.0), max(axes[1] - box.height, 0.0))
    return Box(left, bottom, box.width, box.height)


def _dense(points: Points, step: float = 0.8) -> Points:
    """The same with places between them, so that nothing slips through a gap."""
    if len(points) < 2:
        return points
    found = [points[:1]]
    for start, end in pairwise(points):
        far = float(np.hypot(*(end - start)))
        if not np.isfinite(far):
            continue
        count = min(int(far / step) + 1, 400)
        found.append(start + (end - start) * (np.arange(1, count + 1) / count)[:, None])
    return np.concatenate(found)


def labelled(content: FigureContent) -> frozenset[str]:
    """Curves that have a label in the plot, as on the screen."""
    return frozenset() if content.label == "none" else frozenset(curve.letter for curve in content.curves)


def spots_of(content: FigureContent, frame: Frame, wanted: frozenset[str], size: float) -> dict[str, tuple[Line, Box]]:
    """The label of each curve and where it finds room; one that finds none stays away."""
    axes = (frame.width, frame.height)
    lines = {curve.letter: _trace(content, curve, frame) for curve in content.curves}
    drawn: Points = np.concatenate(
        [*(_dense(line) for line in lines.values()), _readings(content, frame), *_drop_lines(content, frame)]
    )
    found: dict[str, tuple[Line, Box]] = {}
    for curve in content.curves:
        label = _label(content, curve, size)
        if curve.letter not in wanted or label is None:
            continue
        extent = (width_of(label), height_of(label))
        box = _free_spot(lines[curve.letter], extent, axes, [box for _, box in found.values()], drawn)
        if box is not None:
            found[curve.letter] = (label, _moved(box, curve.moved, axes) if curve.moved else box)
    return found


def _label(content: FigureContent, curve: DrawnCurve, size: float) -> Line | None:
    letter = Words(curve.letter, size, "bold")
    if content.label == "letter":
        return (letter,)
    text = to_mathtext(curve.latex) if curve.latex else None
    if text is None:
        return None
    start = (Words(f"{curve.letter}  ", size, "bold"),) if len(content.curves) > 1 else ()
    return (*start, Words(text, size * 1.08, "equation"))


def _trace(content: FigureContent, curve: DrawnCurve, frame: Frame) -> Points:
    """The curve in mm from the lower left of the plot, as far as it is seen."""
    return _placed(content, curve.x, curve.y, frame)


def _readings(content: FigureContent, frame: Frame) -> Points:
    """Every mark of a reading as the corners of the square about it, and the ends of its error bars."""
    used = np.logical_or.reduce([series.used | series.aside for series in content.series])
    x, y = content.x[used], content.y[used]
    ends = [_placed(content, x, y, frame)]
    if content.y_error is not None:
        for sign, error in zip((-1, 1), content.y_error, strict=True):
            ends += [_placed(content, x, y + sign * share * error[used], frame) for share in (0.25, 0.5, 0.75, 1.0)]
    if content.marks:
        marks = np.array([mark[:2] for mark in content.marks])
        ends.append(_placed(content, marks[:, 0], marks[:, 1], frame))
    centres = np.concatenate(ends)
    around = np.array([(0, 0), (-1, -1), (-1, 1), (1, -1), (1, 1)]) * _MARK_RADIUS
    return (centres[:, None, :] + around[None, :, :]).reshape(-1, 2)


def _drop_lines(content: FigureContent, frame: Frame) -> list[Points]:
    """The dashed lines from each answer to both axes."""
    left, low = content.x_axis.view[0], content.y_axis.view[0]
    corners = [(np.array([x, x, left]), np.array([low, y, y])) for x, y, _ in content.marks]
    return [_dense(_placed(content, x, y, frame)) for x, y in corners]


def _placed(content: FigureContent, x: np.ndarray, y: np.ndarray, frame: Frame) -> Points:
    with np.errstate(all="ignore"):
        found = np.column_stack(
            (
                spread(tuple(x.tolist()), content.x_axis, frame.width),
                spread(tuple(y.tolist()), content.y_axis, frame.height),
            )
        )
    inside = np.isfinite(found).all(axis=1) & (found >= 0).all(axis=1)
    inside &= (found[:, 0] <= frame.width) & (found[:, 1] <= frame.height)
    return np.asarray(found[inside])
