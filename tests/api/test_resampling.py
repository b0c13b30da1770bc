"""The resampling lens's answers: drawn by a seed, the same readings for every fit, and refusals in words."""

from __future__ import annotations

from typing import Any
from unittest import TestCase

import numpy as np

from ridge.studies.content.state import FitState, StudyState
from ridge.studies.words.lens_schemas import (
    ResamplingIn,
    ResamplingOut,
)
from ridge.studies.words.resampling_words import (
    MOST_IN_TURN,
    NOTHING_FITTED,
    OTHER_READINGS,
    TOO_FEW,
    TOO_MANY_IN_TURN,
    resampling_of,
)
from tests.api.test_api import ApiCase
from tests.api.test_columns import column, study

X = np.linspace(0, 9, 12)
Y = np.round(0.3 * X**2 - X + 2 + np.random.default_rng(6).normal(0, 0.4, 12), 3)
LINE, QUADRATIC = FitState("A", "line"), FitState("B", "polynomial")


def state(*fits: FitState, x: Any = X, y: Any = Y) -> StudyState:
    texts = " ".join(map(repr, x.tolist())), " ".join(map(repr, y.tolist()))
    return study(
        column("t", "x", texts[0], unit="s"), column("h", "y", texts[1], unit="m"), fits=fits or (LINE, QUADRATIC)
    )


def ask(of: StudyState, **wanted: Any) -> ResamplingOut:
    return resampling_of(of, ResamplingIn(**wanted))


class Draws(TestCase):
    def test_the_same_seed_the_same_draws_and_another_seed_others(self) -> None:
        one, again, other = (ask(state(), letters="AB", seed=seed) for seed in (7, 7, 8))
        self.assertEqual(one, again)
        self.assertNotEqual(one.left_out, other.left_out)

    def test_both_fits_on_the_same_halves_as_numpy_fits_them(self) -> None:
        found = ask(state(), letters="AB", share=50, times=4)
        self.assertEqual([(fit.letter, len(fit.draws)) for fit in found.fits], [("A", 4), ("B", 4)])
        for place, rows in enumerate(found.left_out):
            self.assertEqual(len(rows), 6)
            kept = np.setdiff1d(np.arange(12), rows)
            for fit, degree in zip(found.fits, (1, 2), strict=True):
                curve = np.polyval(np.polyfit(X[kept], Y[kept], degree), fit.x)
                np.testing.assert_allclose(np.array(fit.draws[place].y, dtype=float), curve, rtol=1e-8, atol=1e-8)

    def test_parts_are_each_left_out_once(self) -> None:
        found = ask(state(), kind="parts", parts=5, letters="B")
        self.assertEqual(sorted(row for rows in found.left_out for row in rows), list(range(12)))
        self.assertEqual(len(found.left_out), 5)

    def test_the_leading_fit_where_none_is_named(self) -> None:
        found = ask(state())
        self.assertEqual(([fit.letter for fit in found.fits], found.letters), (["A"], ["A", "B"]))

    def test_a_degree_too_many_is_told(self) -> None:
        many = FitState("C", "polynomial", options={"degree": 6})
        found = ask(state(QUADRATIC, many), letters="BC", share=70)
        self.assertLess(found.fits[0].error or np.inf, found.fits[1].error or 0)
        self.assertIn("overfitting", found.fits[1].sentence)


class Refusals(TestCase):
    def test_what_cannot_be_drawn_says_why(self) -> None:
        self.assertEqual(ask(state(FitState("A", "interpolation"))).remark, NOTHING_FITTED)
        two = np.array([0.0, 1.0])
        self.assertEqual(ask(state(LINE, x=two, y=two)).remark, TOO_FEW)
        long = np.arange(MOST_IN_TURN + 1.0)
        self.assertEqual(ask(state(LINE, x=long, y=long % 7), kind="in_turn").remark, TOO_MANY_IN_TURN)

    def test_fits_to_other_readings_are_named(self) -> None:
        part = FitState("B", "polynomial", x_range=(0.0, 6.0))
        found = ask(state(LINE, part), letters="AB")
        self.assertEqual([fit.letter for fit in found.fits], ["A"])
        self.assertEqual(found.remark, f"{OTHER_READINGS}: B.")

    def test_shares_too_small_for_the_model_are_counted(self) -> None:
        found = ask(state(FitState("A", "polynomial", options={"degree": 5})), share=30)
        self.assertTrue(all(draw.y == [] for draw in found.fits[0].draws))
        self.assertIn("9 of 9 could not be fitted.", found.fits[0].sentence)
        self.assertIsNone(found.fits[0].error)


class Asked(ApiCase):
    def test_through_the_api_with_limits(self) -> None:
        study_id = self.new()
        self.fill(study_id)
        found = self.read(f"/studies/{study_id}/resampling?kind=in_turn")
        self.assertEqual(len(found["left_out"]), len(found["fits"][0]["draws"]))
        self.assertEqual(self.client.get(f"/api/studies/{study_id}/resampling?times=1000").status_code, 422)
        self.assertEqual(self.client.get(f"/api/studies/{study_id}/resampling?letters=XYZ").status_code, 422)
