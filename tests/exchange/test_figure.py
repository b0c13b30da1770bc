"""The figure as SVG: well formed, and showing what it should."""

from __future__ import annotations

from unittest import TestCase
from xml.etree import ElementTree

from ridge.exchange.figure import CannotDraw, FigureContent, draw_svg
from ridge.studies.analysis import analyse
from ridge.studies.figure import figure_content
from ridge.studies.samples import build_sample
from ridge.studies.state import StudyState, empty_study

SVG = "{http://www.w3.org/2000/svg}"


def content(state: StudyState, **view: float) -> FigureContent:
    return figure_content(state, analyse(state), **view)


class Figure(TestCase):
    def test_samples_give_a_well_formed_drawing_with_title_and_equation(self) -> None:
        for name in ("mooring-line", "salinity-probe"):
            shown = content(build_sample(name))
            root = ElementTree.fromstring(draw_svg(shown))
            self.assertEqual(root.tag, f"{SVG}svg")
            text = ElementTree.tostring(root, encoding="unicode")
            self.assertIn(shown.title, text)
            self.assertIn(shown.equation, text)
            self.assertNotIn("<image", text)

    def test_answers_are_drawn_as_marks(self) -> None:
        root = ElementTree.fromstring(draw_svg(content(build_sample("salinity-probe"))))
        self.assertEqual(len(root.findall(f".//{SVG}g[@id='x_at_y']")), 3)

    def test_the_view_is_the_one_asked_for(self) -> None:
        shown = content(build_sample("mooring-line"), x_low=100, x_high=200, y_low=0, y_high=90)
        self.assertEqual((shown.x_axis.view, shown.y_axis.view), ((100, 200), (0, 90)))
        self.assertEqual(float(shown.curves[0].x[0]), 100)
        ElementTree.fromstring(draw_svg(shown))

    def test_an_empty_study_has_a_figure_too(self) -> None:
        root = ElementTree.fromstring(draw_svg(content(empty_study("<Nothing & $x^2$ yet>"))))
        self.assertIn("&lt;Nothing &amp; $x^2$ yet&gt;", ElementTree.tostring(root, encoding="unicode"))

    def test_what_cannot_be_drawn_is_refused_with_the_reason(self) -> None:
        for view in (
            {"x_low": -1e308, "x_high": 1e308},
            {"x_low": 5.0, "x_high": 5.0 + 1e-14},
            {"y_low": 0.0, "y_high": 1e-300},
        ):
            with self.assertRaises(CannotDraw):
                draw_svg(content(build_sample("mooring-line"), **view))

    def test_same_content_same_bytes(self) -> None:
        shown = content(build_sample("mooring-line"))
        self.assertEqual(draw_svg(shown), draw_svg(shown))
