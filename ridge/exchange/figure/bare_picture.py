"""The picture under a plot by itself, as it was opened, with the readings, the curves and the marks of its scale on it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from matplotlib.figure import Figure
from matplotlib.patheffects import withStroke
from PIL import Image

from ridge.core.readings import Array
from ridge.exchange.figure.content import FigureContent
from ridge.exchange.figure.paint import SHAPES, ink_of_marks, line_look
from ridge.exchange.figure.paper import INK, SHEET, Paper
from ridge.exchange.figure.texts import Words
from ridge.exchange.figure.underlay import Pixels

_MOST = 1600
"""Pixels along the longer side, at most: what goes out stays of a sensible size."""
_SIZE = 9.0


@dataclass(frozen=True)
class OnPicture:
    """A picture and what lies on it, in its pixels: readings and curves as places of shape (n, 2), marks with their values."""

    rgb: Pixels
    readings: Array
    curves: tuple[tuple[str, Array], ...]
    marks: tuple[tuple[float, float, str], ...]


def lay_picture(content: FigureContent, on: OnPicture, width: float) -> Figure:
    """The picture ``width`` mm wide."""
    across, down = on.rgb.shape[1], on.rgb.shape[0]
    paper = Paper(width, width * down / across)
    axes = paper.axes(0, 0, paper.width, paper.height)
    axes.set_axis_off()
    image = Image.fromarray(on.rgb, "RGB")
    image = image.reduce(many) if (many := -(-max(across, down) // _MOST)) > 1 else image
    shown = np.asarray(image.convert("L").convert("RGB") if content.grey else image)
    axes.imshow(shown, extent=(0, across, down, 0), aspect="auto", interpolation="bilinear")
    rim = [withStroke(linewidth=content.line_width + 1.6, foreground=SHEET)]
    for letter, places in on.curves:
        axes.plot(places[:, 0], places[:, 1], **line_look(content, letter), path_effects=rim)
    mark = SHAPES[content.series[0].shape] if content.series else "o"
    axes.plot(
        on.readings[:, 0],
        on.readings[:, 1],
        mark,
        color=ink_of_marks(content),
        markeredgecolor=SHEET,
        markeredgewidth=0.8,
        markersize=content.mark_size * 1.4,
    )
    for x, y, value in on.marks:
        axes.plot([x], [y], "+", color=INK, markersize=9, path_effects=rim)
        at = x / across * paper.width + 1.2, (1 - y / down) * paper.height + 1.2
        paper.write((Words(value, _SIZE),), *at, halo=True)
    axes.set_xlim(0, across)
    axes.set_ylim(down, 0)
    return paper.figure
