"""The drawing of the made-up rowing boat, heights drawn larger than lengths, with a staff along the ground and one upright."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

import numpy as np
from PIL import Image, ImageDraw, ImageFont
from scipy.interpolate import CubicSpline

from ridge.pictures import Picture
from ridge.studies.content.kept_pictures import WrittenPicture, as_written
from ridge.studies.content.state import PicturePlace, PictureScale, PictureState, ScaleMark

WIDTH, HEIGHT = 1200, 800
_PER_METRE, _PER_MILLIMETRE = 270.0, 0.76
_LEFT, _GROUND = 120.0, 716.0
_FINE = 2  # drawn twice as large and shrunk, so that edges are smooth
_PAPER, _INK, _WOOD, _PLANK, _WATER = "#F4F1E6", "#31434A", "#C9A66B", "#7C5B33", "#A9C3C7"

Line = Sequence[tuple[float, float]]


@lru_cache(maxsize=1)
def boat_picture(along: tuple[float, ...], sheer: tuple[float, ...]) -> WrittenPicture:
    """The drawing of a boat whose sheer runs through these places, in metres from the stern and millimetres above the ground."""
    return as_written(Picture(np.asarray(_drawn(along, sheer)), "PNG"))


def boat_laid(along: tuple[float, ...], sheer: tuple[float, ...]) -> PictureState:
    """That drawing under a plot, by marks on both staffs."""
    return PictureState(
        digest=boat_picture(along, sheer).digest, media_type="image/png", width=WIDTH, height=HEIGHT,
        place=PicturePlace((WIDTH / 2 - _LEFT) / _PER_METRE, (_GROUND - HEIGHT / 2) / _PER_MILLIMETRE, WIDTH / _PER_METRE, HEIGHT / _PER_MILLIMETRE),
        scale=PictureScale(
            x_marks=(ScaleMark(*_at(0, 0), "0"), ScaleMark(*_at(3.5, 0), "3.5")),
            y_marks=(ScaleMark(*_at(-0.25, 0), "0"), ScaleMark(*_at(-0.25, 800), "800")),
        ),
        locked=True, shine=0.7, credit="own work of Ridge, drawn for the field week", licence="free to use",
        description="Side view of a small open rowing boat with three planks, its stern to the left; the sheer falls to the middle and rises to the stem",
    )  # fmt: skip


def _at(x: float, y: float) -> tuple[float, float]:
    return _LEFT + _PER_METRE * x, _GROUND - _PER_MILLIMETRE * y


def _drawn(along: Sequence[float], sheer: Sequence[float]) -> Image.Image:
    image = Image.new("RGB", (WIDTH * _FINE, HEIGHT * _FINE), _PAPER)
    pen = ImageDraw.Draw(image)

    def path(line: Line) -> list[tuple[float, float]]:
        return [(px * _FINE, py * _FINE) for px, py in (_at(x, y) for x, y in line)]

    def stroke(line: Line, width: float, colour: str = _INK) -> None:
        pen.line(path(line), fill=colour, width=round(width * _FINE), joint="curve")

    height = CubicSpline(along, sheer, bc_type="natural")
    end = float(along[-1])
    top = [(x, float(height(x))) for x in np.linspace(0, end, 160)]
    stem = [(end - 0.42 * (1 - (1 - t) ** 2), float(height(end)) * (1 - t) + 95 * t) for t in np.linspace(0, 1, 40)]
    keel = [(x, 70 + 28 * ((x - 1.7) / 1.6) ** 2) for x in np.linspace(end - 0.42, 0.2, 80)]
    transom = [(0.2, keel[-1][1]), (0.0, float(height(0.0)))]
    stroke([(-0.44, 180), (4.0, 180)], 3, _WATER)
    pen.polygon(path([*top, *stem, *keel, *transom]), fill=_WOOD)
    stroke([(-0.44, 180), (4.0, 180)], 2, _WATER)
    for share in (0.3, 0.58):
        plank = [
            (x + (0.2 - 0.2 * x / end) * share, y * (1 - share) + (82 + 10 * abs(x - 1.7)) * share) for x, y in top
        ]
        ends = np.interp([y for _, y in plank], [y for _, y in stem[::-1]], [x for x, _ in stem[::-1]])
        stroke([at for at, stop in zip(plank, ends, strict=True) if at[0] < stop], 2, _PLANK)
    stroke([*stem, *keel, *transom], 4)
    stroke(top, 5)
    for place in (1.2, 2.15):  # thwarts, seen from their ends
        y = float(height(place)) - 78
        pen.rectangle(
            [*path([(place - 0.11, y + 16)])[0], *path([(place + 0.11, y - 16)])[0]],
            fill=_PLANK,
            outline=_INK,
            width=_FINE,
        )
    _staffs(pen)
    return image.resize((WIDTH, HEIGHT), Image.Resampling.LANCZOS)


def _staffs(pen: ImageDraw.ImageDraw) -> None:
    font = ImageFont.load_default(size=19 * _FINE)

    def place(x: float, y: float) -> tuple[float, float]:
        px, py = _at(x, y)
        return px * _FINE, py * _FINE

    pen.line([place(0, 0), place(3.75, 0)], fill=_INK, width=3 * _FINE)
    pen.line([place(-0.25, 0), place(-0.25, 850)], fill=_INK, width=3 * _FINE)
    for step in range(0, 16):
        x, y = place(step / 4, 0)
        pen.line([(x, y), (x, y + (14 if step % 2 == 0 else 8) * _FINE)], fill=_INK, width=2 * _FINE)
        if step % 2 == 0:
            pen.text(
                (x, y + 20 * _FINE),
                f"{step / 4:g} m" if step in (0, 14) else f"{step / 4:g}",
                fill=_INK,
                font=font,
                anchor="ma",
            )
    for step in range(0, 9):
        x, y = place(-0.25, 100 * step)
        pen.line([(x - (14 if step % 2 == 0 else 8) * _FINE, y), (x, y)], fill=_INK, width=2 * _FINE)
        if step and step % 2 == 0:
            pen.text(
                (x + 8 * _FINE, y),
                f"{step / 10:g} m" if step == 8 else f"{step / 10:g}",
                fill=_INK,
                font=font,
                anchor="lm",
            )
