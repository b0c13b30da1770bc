"""Pictures made for tests, whose every place is known: a plot with two axes and a curve on it, turned or not."""

from __future__ import annotations

import math
from collections.abc import Callable
from io import BytesIO
from typing import Any

from PIL import Image, ImageDraw

WIDTH, HEIGHT = 640, 480
LEFT, FLOOR = 80.0, 420.0
ACROSS, UP = 48.0, 36.0
"""Pixels for one step of x, and of y (on a logarithmic axis: for a tenth of a power of ten)."""


def turned_by(degrees: float, px: float, py: float) -> tuple[float, float]:
    """A place turned about the middle of the picture, with the clock."""
    c, s = math.cos(math.radians(degrees)), math.sin(math.radians(degrees))
    dx, dy = px - WIDTH / 2, py - HEIGHT / 2
    return WIDTH / 2 + c * dx - s * dy, HEIGHT / 2 + s * dx + c * dy


def place(x: float, y: float, *, degrees: float = 0.0, log_y: bool = False) -> tuple[float, float]:
    """Where a value is drawn; a logarithmic y begins at 1."""
    up = 10 * math.log10(y) * UP / 2 if log_y else y * UP
    return turned_by(degrees, LEFT + ACROSS * x, FLOOR - up)


def plot_of(curve: Callable[[float], float], *, degrees: float = 0.0, log_y: bool = False) -> bytes:
    """A PNG of axes from 0 to 10 and a curve over them."""
    fine = 4
    image = Image.new("RGB", (WIDTH * fine, HEIGHT * fine), "white")
    pen = ImageDraw.Draw(image)

    def line(points: list[tuple[float, float]], width: float, colour: str) -> None:
        # The middle of the upper left pixel is (0, 0), as in what is read off.
        pen.line(
            [((px + 0.5) * fine, (py + 0.5) * fine) for px, py in points],
            fill=colour,
            width=round(width * fine),
            joint="curve",
        )

    low = 1.0 if log_y else 0.0
    for ends in (((0, low), (10, low)), ((0, low), (0, 100 if log_y else 10))):
        line([place(*end, degrees=degrees, log_y=log_y) for end in ends], 1.5, "#777777")
    line([place(x / 40, curve(x / 40), degrees=degrees, log_y=log_y) for x in range(401)], 3, "#0b3a6b")
    out = BytesIO()
    image.resize((WIDTH, HEIGHT), Image.Resampling.BOX).save(out, "PNG")
    return out.getvalue()


def marks(*, degrees: float = 0.0, log_y: bool = False) -> dict[str, Any]:
    """The scale of such a picture as the API takes it."""
    low, high = (1.0, 100.0) if log_y else (0.0, 10.0)

    def mark(x: float, y: float, value: float) -> dict[str, Any]:
        px, py = place(x, y, degrees=degrees, log_y=log_y)
        return {"px": px, "py": py, "value": f"{value:g}"}

    return {"x_marks": [mark(0, low, 0), mark(10, low, 10)], "y_marks": [mark(0, low, low), mark(0, high, high)]}
