"""A sheet on which lengths are millimetres from its lower left corner."""

from __future__ import annotations

from typing import Any

from matplotlib.axes import Axes
from matplotlib.figure import Figure
from matplotlib.lines import Line2D
from matplotlib.patheffects import withStroke

from ridge.exchange.figure.texts import Line, width_of

PAD = 1.5  # mm of empty paper at the edge
INK, MUTE, RULE, LICHEN, SHEET = "#1C2A30", "#5A686C", "#CDD2CA", "#DDE9A6", "#FFFFFF"


class Paper:
    """A figure of this width and height in mm."""

    def __init__(self, width: float, height: float) -> None:
        self.width, self.height = width, height
        self.figure = Figure(figsize=(width / 25.4, height / 25.4), facecolor=SHEET)

    def axes(self, left: float, bottom: float, width: float, height: float, **more: Any) -> Axes:
        place = (left / self.width, bottom / self.height, width / self.width, height / self.height)
        return self.figure.add_axes(place, **more)

    def write(
        self, line: Line, x: float, y: float, *, color: str = INK, upwards: bool = False, halo: bool = False
    ) -> None:
        """A line of text that begins at (x, y), the point on which its first letter stands; ``upwards``: turned to the left."""
        for words in line:
            at = (x - words.rise, y) if upwards else (x, y + words.rise)
            text = self.figure.text(
                at[0] / self.width, at[1] / self.height, words.text, color=color, ha="left", va="baseline",
                rotation=90 if upwards else 0, rotation_mode="anchor", zorder=10, **words.settings,
            )  # fmt: skip
            if halo:
                text.set_path_effects([withStroke(linewidth=2.2, foreground=SHEET)])
            x, y = (x, y + words.width) if upwards else (x + words.width, y)

    def write_centred(self, line: Line, x: float, y: float, **more: Any) -> None:
        """The same about (x, y)."""
        half = width_of(line) / 2
        self.write(line, *((x, y - half) if more.get("upwards") else (x - half, y)), **more)

    def rule(self, left: float, right: float, y: float, **look: Any) -> None:
        """A line from left to right."""
        line = Line2D([left / self.width, right / self.width], [y / self.height] * 2, zorder=9, **look)
        line.set_transform(self.figure.transFigure)
        self.figure.add_artist(line)

    def mark(self, x: float, y: float, marker: str, size: float) -> None:
        mark = Line2D(
            [x / self.width], [y / self.height], marker=marker, color=INK, markeredgecolor="none", markersize=size
        )
        mark.set_transform(self.figure.transFigure)
        self.figure.add_artist(mark)
