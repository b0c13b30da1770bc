"""The picture behind a figure, drawn onto the ground of its axes: where it is turned there is paper, so that formats without transparency
show it too."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt
from matplotlib.axes import Axes
from PIL import Image

from ridge.exchange.figure.content import AxisLook, FigureContent, Underlay

_DOTS_PER_MM = 200 / 25.4
_MOST = 2400
"""Dots of the ground across, at most: what goes out stays of a sensible size."""
Pixels = npt.NDArray[np.uint8]


def paint_underlay(axes: Axes, content: FigureContent, width: float, height: float) -> None:
    """The picture over the whole of axes that are ``width`` by ``height`` mm."""
    if content.picture is None:
        return
    across = int(min(_MOST, max(64, width * _DOTS_PER_MM)))
    size = (across, max(16, round(across * height / width)))
    ground = onto_ground(content.picture, content.x_axis, content.y_axis, size, content.grey)
    axes.imshow(
        ground,
        extent=(0, 1, 0, 1),
        transform=axes.transAxes,
        aspect="auto",
        interpolation="bilinear",
        zorder=0.3,
        clip_on=True,
    )


def extent_of(picture: Underlay) -> tuple[tuple[float, float], tuple[float, float]]:
    """The stretches of x and y that a picture takes along its axes."""
    height, width = picture.rgb.shape[:2]
    a, b, c, d, e, f = picture.matrix
    corners = [(0, 0), (width, 0), (width, height), (0, height)]
    x, y = [a * px + c * py + e for px, py in corners], [b * px + d * py + f for px, py in corners]
    return (min(x), max(x)), (min(y), max(y))


def onto_ground(picture: Underlay, x: AxisLook, y: AxisLook, size: tuple[int, int], grey: bool = False) -> Pixels:
    """Pixels of the ground, shape (size[1], size[0], 3)."""
    to_picture = np.linalg.inv(_to_dots(picture, x, y, size))
    # Shrunk before it is turned: otherwise fine lines would be lost between the dots.
    many = int(max(1.0, np.floor(min(np.hypot(*to_picture[:2, 0]), np.hypot(*to_picture[:2, 1])))))
    image = Image.fromarray(picture.rgb, "RGB")
    if many > 1:
        image = image.reduce(many)
        to_picture = np.diag([1 / many, 1 / many, 1.0]) @ to_picture
    a, b, c, d, e, f = to_picture[:2].ravel().tolist()
    drawn = image.transform(
        size, Image.Transform.AFFINE, (a, b, c, d, e, f), Image.Resampling.BICUBIC, fillcolor="white"
    )
    return faded(np.asarray(drawn.convert("L").convert("RGB") if grey else drawn), picture.shine)


def faded(pixels: Pixels, shine: float) -> Pixels:
    """Thinned with white."""
    return np.asarray(np.rint(255 - (255 - pixels.astype(np.float32)) * shine), dtype=np.uint8)


def _to_dots(picture: Underlay, x: AxisLook, y: AxisLook, size: tuple[int, int]) -> npt.NDArray[np.float64]:
    """From pixels of the picture to dots of the ground, shape (3, 3)."""
    a, b, c, d, e, f = picture.matrix
    (x_low, x_high), (y_low, y_high) = (np.log10(one.view) if one.scale == "log" else one.view for one in (x, y))
    across, up = size[0] / (x_high - x_low), size[1] / (y_high - y_low)
    return np.array(
        [[a * across, c * across, (e - x_low) * across], [-b * up, -d * up, (y_high - f) * up], [0.0, 0.0, 1.0]]
    )
