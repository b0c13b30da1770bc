"""The figure as a drawing or a picture: readings, curves, measured range, answers and the residual strip."""

from __future__ import annotations

import io
from collections.abc import Callable
from dataclasses import replace
from typing import Any

import matplotlib
import numpy as np
from matplotlib.figure import Figure

from ridge.exchange.figure.bare_picture import OnPicture, lay_picture
from ridge.exchange.figure.content import AxisLook, CannotDraw, DrawnCurve, DrawnSeries, FigureContent, Underlay
from ridge.exchange.figure.layout import Only, lay_out
from ridge.exchange.figure.paint import LOOKS, SHAPES
from ridge.exchange.figure.paper import MUTE
from ridge.exchange.typeset import drawing_lock

__all__ = [
    "FORMATS", "LOOKS", "SHAPES", "AxisLook", "CannotDraw", "DrawnCurve", "DrawnSeries", "FigureContent", "OnPicture", "Underlay", "draw", "draw_picture",
]  # fmt: skip

FORMATS = {
    "svg": "image/svg+xml",
    "pdf": "application/pdf",
    "png": "image/png",
    "jpg": "image/jpeg",
    "tiff": "image/tiff",
    "eps": "application/postscript",
}
"""Formats of the figure and their media types."""

_DOTS_WITHIN = {"svg": 220, "pdf": 220, "eps": 150}
"""Dots an inch of the picture within a drawing, at most: EPS writes each of them as six letters."""

SETTINGS: dict[Any, Any] = {
    "svg.fonttype": "path", "svg.hashsalt": "ridge", "axes.linewidth": 0.8, "hatch.linewidth": 0.4,
    "axes.edgecolor": MUTE, "text.parse_math": False, "text.hinting": "no_hinting", "pdf.fonttype": 42, "ps.fonttype": 42, "path.simplify": True,
}  # fmt: skip


def draw(
    content: FigureContent,
    kind: str = "svg",
    width_mm: float = 170,
    resolution: int = 300,
    grey: bool = False,
    only: Only = "",
) -> bytes:
    """The figure in one of ``FORMATS``; ``only`` its residuals.

    ``resolution`` in dots an inch, for the formats that are pictures. ``grey``: without colour, told apart by dash and mark
    alone. In SVG text is kept as outlines, so that it looks the same wherever it is opened; PDF and EPS carry their fonts.
    Raises CannotDraw.
    """
    content = replace(content, grey=grey)
    return _saved(content, lambda: lay_out(content, width_mm, only), kind, resolution)


def draw_picture(
    content: FigureContent, on: OnPicture, kind: str, width_mm: float = 170, resolution: int = 300, grey: bool = False
) -> bytes:
    """The picture under a plot by itself with what lies ``on`` it."""
    content = replace(content, grey=grey)
    return _saved(content, lambda: lay_picture(content, on, width_mm), kind, resolution)


def _saved(content: FigureContent, lay: Callable[[], Figure], kind: str, resolution: int) -> bytes:
    with drawing_lock, matplotlib.rc_context(SETTINGS), np.errstate(all="ignore"):
        figure = lay()
        buffer = io.BytesIO()
        dots = min(resolution, _DOTS_WITHIN.get(kind, resolution)) if content.picture else resolution
        figure.savefig(buffer, format=kind, dpi=dots, **_told(content, kind))
    return buffer.getvalue()


def _told(content: FigureContent, kind: str) -> dict[str, Any]:
    """What the file says of itself, as far as its format can."""
    title = (
        content.title
        or f"{content.y_axis.name or content.y_axis.symbol} against {content.x_axis.name or content.x_axis.symbol}"
    )
    if kind == "svg":
        return {"metadata": {"Date": None, "Title": title, "Description": content.equation}}
    if kind == "pdf":
        return {"metadata": {"Title": title, "Subject": content.equation, "CreationDate": None}}
    if kind == "png":
        # Pressed lightly: a tenth larger, and there in two thirds of the time.
        return {"metadata": {"Title": title, "Description": content.equation}, "pil_kwargs": {"compress_level": 3}}
    if kind == "tiff":
        return {"pil_kwargs": {"compression": "tiff_lzw"}}
    return {}
