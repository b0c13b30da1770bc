"""The figure as SVG: well formed, and showing what it should."""

from __future__ import annotations

from dataclasses import replace
from unittest import TestCase
from xml.etree import ElementTree

import numpy as np

from ridge.exchange.figure import LOOKS, CannotDraw, FigureContent, draw
from ridge.studies.content.readings import read_table
from ridge.studies.content.samples import build_sample
from ridge.studies.content.state import ColumnState, FitState, StudyState, empty_study
from ridge.studies.out.figure import figure_content
from ridge.studies.words.analyse import analyse

SVG = "{http://www.w3.org/2000/svg}"


def content(state: StudyState, **view: float) -> FigureContent:
    return figure_content(state, analyse(state), **view)  # type: ignore[arg-type]  # limits alone


class Figure(TestCase):
    def test_samples_give_a_well_formed_drawing_with_title_and_equation(self) -> None:
        for name in ("mooring-line", "salinity-probe"):
            shown = content(build_sample(name))
            root = ElementTree.fromstring(draw(shown))
            self.assertEqual(root.tag, f"{SVG}svg")
            text = ElementTree.tostring(root, encoding="unicode")
            self.assertIn(shown.title, text)
            self.assertIn(shown.equation, text)
            self.assertNotIn("<image", text)

    def test_interpolations_and_known_curves_are_drawn_hidden_fits_are_not(self) -> None:
        fits = (
            FitState("A", "interpolation", options={"kind": "linear"}),
            FitState("B", "formula", options={"text": "30 - t/4"}),
            FitState("C", "line", hidden=True),
        )
        shown = content(replace(build_sample("draining-bucket"), fits=fits))
        self.assertEqual([curve.letter for curve in shown.curves], ["A", "B"])
        self.assertIsNone(shown.residuals)
        text = draw(shown).decode()
        self.assertIn("straight pieces", text)
        self.assertIn(LOOKS["B"][0].lower(), text.lower())

    def test_answers_are_drawn_as_marks(self) -> None:
        root = ElementTree.fromstring(draw(content(build_sample("salinity-probe"))))
        self.assertEqual(len(root.findall(f".//{SVG}g[@id='x_at_y']")), 3)

    def test_the_view_is_the_one_asked_for(self) -> None:
        shown = content(build_sample("mooring-line"), x_low=100, x_high=200, y_low=0, y_high=90)
        self.assertEqual((shown.x_axis.view, shown.y_axis.view), ((100, 200), (0, 90)))
        self.assertEqual(float(shown.curves[0].x[0]), 100)
        ElementTree.fromstring(draw(shown))

    def test_an_empty_study_has_a_figure_too(self) -> None:
        root = ElementTree.fromstring(draw(content(empty_study("<Nothing & $x^2$ yet>"))))
        self.assertIn("&lt;Nothing &amp; $x^2$ yet&gt;", ElementTree.tostring(root, encoding="unicode"))

    def test_what_cannot_be_drawn_is_refused_with_the_reason(self) -> None:
        for view in (
            {"x_low": -1e308, "x_high": 1e308},
            {"x_low": 5.0, "x_high": 5.0 + 1e-14},
            {"y_low": 0.0, "y_high": 1e-300},
        ):
            with self.assertRaises(CannotDraw):
                draw(content(build_sample("mooring-line"), **view))

    def test_same_content_same_bytes(self) -> None:
        shown = content(build_sample("mooring-line"))
        self.assertEqual(draw(shown), draw(shown))


class AsOnTheScreen(TestCase):
    """The figure follows the plot: every fit, series, scale and mark."""

    def drawn(self, name: str, plot: dict[str, object] | None = None, **more: object) -> tuple[FigureContent, str]:
        state = replace(build_sample(name), plot=plot or {}, **more)  # type: ignore[arg-type]
        shown = content(state)
        text = draw(shown).decode()
        ElementTree.fromstring(text)
        return shown, text

    def test_every_fit_has_its_colour(self) -> None:
        shown, text = self.drawn("draining-bucket")
        self.assertEqual([curve.letter for curve in shown.curves], ["A", "B"])
        for letter in "AB":
            self.assertIn(LOOKS[letter][0].lower(), text.lower())

    def test_logarithmic_axes_leave_out_what_has_no_place(self) -> None:
        shown, text = self.drawn("lantern", {"x_scale": "log", "y_scale": "log"})
        self.assertGreater(shown.x_axis.view[0], 0)
        self.assertLess(shown.x_axis.view[0], 0.5)
        self.assertGreater(shown.x_axis.view[1], 8)
        self.assertNotIn("mathdefault", text)
        # The curve is sampled evenly in the logarithm.
        steps = np.diff(np.log(shown.curves[0].x))
        np.testing.assert_allclose(steps, steps[0], rtol=1e-9)

    def test_straightened_the_curve_is_a_line(self) -> None:
        shown, _ = self.drawn("lantern", {"straighten": True})
        self.assertEqual((shown.x_axis.title, shown.y_axis.title), ("ln(d / m)", "ln(E / lx)"))
        curve = shown.curves[0]
        line = np.polynomial.Polynomial.fit(curve.x, curve.y, 1)
        np.testing.assert_allclose(line(curve.x), curve.y, atol=1e-9)
        np.testing.assert_allclose(shown.x, np.log(np.array(read_table(build_sample("lantern")).readings.x)))

    def test_a_reciprocal_axis_still_runs_to_the_right(self) -> None:
        shown, _ = self.drawn("lantern", {"straighten": True}, fits=(FitState("A", "reciprocal"),))
        self.assertTrue(np.all(np.diff(shown.curves[0].x) > 0))
        assert shown.measured is not None and shown.y_error is not None
        self.assertLess(*shown.measured)
        self.assertTrue(all(np.all(side[np.isfinite(side)] >= 0) for side in shown.y_error))

    def test_clock_times_steps_and_grid(self) -> None:
        shown, _ = self.drawn("tide", {"grid": "minor", "y_step": 0.5, "join": True})
        self.assertTrue(shown.x_axis.clock)
        self.assertEqual((shown.y_axis.step, shown.grid, shown.join), (0.5, "minor", True))

    def test_a_mark_for_each_series_and_for_what_is_assumed(self) -> None:
        sample = build_sample("mooring-line")
        labels = ColumnState("s", "", "", "", "series", cells=("day one",) * 6 + ("day two",) * 6)
        shown, _ = self.drawn("mooring-line", columns=(*sample.columns, labels), assumed={0: "no load"})
        self.assertEqual(
            [(one.name, one.shape) for one in shown.series[:2]], [("day one", "circle"), ("day two", "square")]
        )
        self.assertEqual(int(sum(one.used.sum() for one in shown.series)), 11)
        self.assertTrue(shown.series[0].assumed[0])
