"""What a figure shows, already in the coordinates of its axes."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
import numpy.typing as npt

from ridge.core.readings import Array, Mask


@dataclass(frozen=True)
class AxisLook:
    """An axis over ``view``: "linear" or "log"; ``step`` between ticks as typed; ``clock`` for hours and minutes.

    It is named by ``name``, ``symbol`` and ``unit``, or by ``title`` alone where its values are made from others.
    """

    view: tuple[float, float]
    name: str = ""
    symbol: str = ""
    unit: str = ""
    title: str = ""
    scale: str = "linear"
    step: float | None = None
    clock: bool = False


@dataclass(frozen=True)
class DrawnCurve:
    """A fit's curve sampled over the view, its band (None for none), and the range of its own readings. ``moved``: by how many
    pixels of the screen its label was moved, None where it stands where it likes."""

    letter: str
    name: str
    equation: str
    latex: str
    x: Array
    y: Array
    low: Array | None
    high: Array | None
    measured: tuple[float, float]
    moved: tuple[float, float] | None = None


@dataclass(frozen=True)
class DrawnSeries:
    """Readings that share a mark: rows in use, set aside and assumed, each a mask over all rows."""

    name: str
    shape: str
    used: Mask
    aside: Mask
    assumed: Mask


@dataclass(frozen=True)
class Underlay:
    """A picture that lies behind everything: pixels of shape (height, width, 3), a matrix from them to places along the axes (of a
    logarithmic one to decimal logarithms) in the order (a, b, c, d, e, f) of SVG, and how much of it is seen, 0 to 1."""

    rgb: npt.NDArray[np.uint8]
    matrix: tuple[float, float, float, float, float, float]
    shine: float = 1.0


@dataclass(frozen=True)
class FigureContent:
    """What is seen. x, y and errors have one entry a row and may hold NaN; marks are (x, y, direction). The first curve leads;
    ``residuals`` are its, None where there is no fit. ``aspect``: height over width. ``label`` of curves as in the settings
    of the plot."""

    title: str
    x_axis: AxisLook
    y_axis: AxisLook
    residual_axis: AxisLook
    x: Array
    y: Array
    x_error: tuple[Array, Array] | None
    y_error: tuple[Array, Array] | None
    series: tuple[DrawnSeries, ...]
    measured: tuple[float, float] | None
    curves: tuple[DrawnCurve, ...]
    residuals: Array | None
    deviation: float | None
    marks: tuple[tuple[float, float, str], ...]
    grid: str = "major"
    join: bool = False
    mark_size: float = 4.5
    mark_colour: str = "ink"
    line_width: float = 2.2
    label: Literal["letter", "equation", "none"] = "letter"
    grey: bool = False
    aspect: float = 0.735
    picture: Underlay | None = None
    note: str = ""
    """What is printed below all the rest, such as whose the picture is."""

    @property
    def equation(self) -> str:
        """That of the leading curve, as text."""
        return self.curves[0].equation or self.curves[0].name if self.curves else ""


class CannotDraw(ValueError):
    """The numbers leave no room for the sums and differences that drawing needs."""


def check_drawable(content: FigureContent) -> None:
    """Raises CannotDraw."""
    for low, high in (content.x_axis.view, content.y_axis.view, content.residual_axis.view):
        span = high - low
        if not (1e-290 < span < 1e290 and low + span * 1e-9 > low):
            raise CannotDraw(
                "These numbers are too large, too small or too close together to be drawn. Choose another unit."
            )
