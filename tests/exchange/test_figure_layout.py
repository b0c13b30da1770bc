"""Texts of the figure: at every width each lies inside the canvas and on nothing, whatever the study."""

from __future__ import annotations

import io
from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import ClassVar
from unittest import TestCase

import matplotlib
import numpy as np
import pypdfium2
from matplotlib.figure import Figure
from matplotlib.textpath import TextPath
from PIL import Image

from ridge.exchange.figure import SETTINGS, FigureContent, draw
from ridge.exchange.figure.layout import lay_out
from ridge.studies.content.samples import SAMPLES, build_sample
from ridge.studies.content.state import ColumnState, FitState, StudyState
from ridge.studies.out.figure import figure_content
from ridge.studies.words.analyse import analyse

WIDTHS = (85, 120, 170)  # mm: one column, one and a half, two (common practice of journals)
LONG = "a name of a fit thought out with many words, never shortened"  # as long as one may be
SIX = (
    FitState("A", "line", name=LONG),
    FitState("B", "polynomial", options={"degree": 3}, name=LONG),
    FitState("C", "exponential", name=LONG),
    FitState("D", "sinusoid", options={"degrees": True}, name=LONG),
    FitState("E", "polynomial", options={"degree": 2}, name=LONG),
    FitState("F", "formula", options={"text": "if(x<20, a*x+b, c)"}, name=LONG),
)
SLACK = 0.1  # mm by which ink may differ from what was measured


@dataclass(frozen=True)
class Box:
    text: str
    left: float
    bottom: float
    right: float
    top: float

    def meets(self, other: Box) -> bool:
        return (
            min(self.right, other.right) - max(self.left, other.left) > SLACK
            and min(self.top, other.top) - max(self.bottom, other.bottom) > SLACK
        )


def boxes(figure: Figure) -> list[Box]:
    """The ink of every text, in mm from the lower left."""
    size = figure.get_size_inches() * 25.4
    found = []
    for text in figure.texts:
        if not text.get_text().strip():
            continue
        with matplotlib.rc_context({"text.parse_math": text.get_parse_math()}):
            path = TextPath((0, 0), text.get_text(), prop=text.get_fontproperties())
        corners = np.asarray(path.vertices)
        ink = np.array([*corners.min(axis=0), *corners.max(axis=0)]) * 25.4 / 72
        x, y = np.array(text.get_position()) * size
        left, bottom, right, top = ink if text.get_rotation() == 0 else (-ink[3], ink[0], -ink[1], ink[2])
        found.append(Box(text.get_text(), x + left, y + bottom, x + right, y + top))
    return found


def shown(state: StudyState, **more: object) -> FigureContent:
    return replace(figure_content(state, analyse(state)), **more)  # type: ignore[arg-type]


def cases() -> Iterator[tuple[str, FigureContent]]:
    for sample in SAMPLES:
        state = build_sample(sample.name)
        yield sample.name, shown(state)
        yield f"{sample.name}, equations beside the curves", shown(replace(state, plot={"label": "equation"}))
    for name in ("current", "sheer-line", "salinity-probe"):
        yield f"{name}, six fits", shown(replace(build_sample(name), fits=SIX, title=f"{LONG} {LONG}"))
    current = build_sample("current")
    for name in ("x" * 100, "ύψος πάνω από τον βυθό", "גובה מעל הקרקעית", "高さ"):
        columns = tuple(replace(column, name=name, unit="x" * 30, symbol="v_max") for column in current.columns)
        labels = ColumnState("s", "", "", "", "series", cells=tuple(f"{name} {row % 4}" for row in range(13)))
        yield f"named {name[:10]}", shown(replace(current, title=name, columns=(*columns, labels)))
    for size in (1e-30, 1e30):
        yield f"numbers of {size:g}", shown(scaled(size))


def scaled(size: float) -> StudyState:
    """A study of very small or very large numbers, with long names."""
    state = build_sample("current")
    columns = [
        replace(
            column,
            name=f"{column.name}, {LONG[:30]}",
            cells=tuple(f"{float(cell) * size!r}" for cell in column.cells),
            uncertainty="",
        )
        for column in state.columns
    ]
    return replace(state, columns=tuple(columns), answers=())


class EveryText(TestCase):
    laid_out: ClassVar[list[tuple[str, FigureContent, int, Figure, list[Box]]]]

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.laid_out = []
        for name, content in cases():
            for width in WIDTHS:
                with matplotlib.rc_context(SETTINGS):
                    figure = lay_out(content, width)
                    cls.laid_out.append((name, content, width, figure, boxes(figure)))

    @classmethod
    def tearDownClass(cls) -> None:
        cls.laid_out.clear()
        super().tearDownClass()

    def test_lies_inside_the_canvas_and_on_no_other(self) -> None:
        for name, _, width, figure, found in self.laid_out:
            with self.subTest(name, width=width):
                height = figure.get_size_inches()[1] * 25.4
                self.assertGreater(len(found), 6)
                for box in found:
                    self.assertGreaterEqual(box.left, 0, box)
                    self.assertGreaterEqual(box.bottom, 0, box)
                    self.assertLessEqual(box.right, width, box)
                    self.assertLessEqual(box.top, height, box)
                for place, box in enumerate(found):
                    for other in found[place + 1 :]:
                        self.assertFalse(box.meets(other), (box, other))

    def test_covers_no_reading(self) -> None:
        for name, content, width, figure, found in self.laid_out:
            with self.subTest(name, width=width):
                plot = figure.axes[-1]
                used = np.logical_or.reduce([series.used | series.aside for series in content.series])
                known = used & np.isfinite(content.x) & np.isfinite(content.y)
                mm = 25.4 / figure.dpi
                points = plot.transData.transform(np.column_stack((content.x[known], content.y[known]))) * mm
                frame = np.array(plot.get_window_extent().extents) * mm
                inside = (points >= frame[:2]).all(axis=1) & (points <= frame[2:]).all(axis=1)
                for x, y in points[inside]:
                    for box in found:
                        hit = box.left < x < box.right and box.bottom < y < box.top
                        self.assertFalse(hit, (box, x, y))

    def test_nothing_is_cut_at_the_edge_in_any_format(self) -> None:
        content = shown(build_sample("sheer-line"))
        for width in WIDTHS:
            for grey in (False, True):
                for kind in ("png", "pdf", "tiff", "jpg"):
                    with self.subTest(width=width, kind=kind, grey=grey):
                        self.assertGreater(edge(draw(content, kind, width, 150, grey), kind), 240)

    def test_letters_are_of_a_size_to_be_read(self) -> None:
        for width in WIDTHS:
            with matplotlib.rc_context(SETTINGS):
                sizes = {float(text.get_fontsize()) for text in lay_out(shown(build_sample("tide")), width).texts}
            low, high = (7, 9) if width < 120 else (8, 10.5)
            self.assertTrue(all(low <= size <= high for size in sizes), (width, sizes))


def edge(body: bytes, kind: str) -> int:
    """The darkest pixel at the edge."""
    image = pypdfium2.PdfDocument(body)[0].render(scale=2).to_pil() if kind == "pdf" else Image.open(io.BytesIO(body))
    pixels = np.asarray(image.convert("L"))
    return int(min(pixels[0].min(), pixels[-1].min(), pixels[:, 0].min(), pixels[:, -1].min()))
