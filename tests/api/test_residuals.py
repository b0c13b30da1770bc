"""The Residuals lens: its numbers against statsmodels, its bins against NumPy, its sentences against made-up patterns."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import statsmodels.api as sm
from scipy.stats import norm

from ridge.studies.analysis.residuals import MOST_DRAWN
from ridge.studies.content.samples import build_sample
from ridge.studies.content.state import FitState, StudyState
from ridge.studies.words.residual_words import residuals_of
from tests.api.test_api import ApiCase
from tests.api.test_columns import column, study


def made(y: np.ndarray, **more: object) -> StudyState:
    x = np.arange(len(y))
    return study(column("t", "x", " ".join(map(str, x))), column("h", "y", " ".join(map(repr, y.tolist()))), **more)


class Residuals(ApiCase):
    def test_numbers_are_those_of_statsmodels(self) -> None:
        y = 3 + 0.5 * np.arange(20) + np.random.default_rng(3).normal(0, 1, 20)
        found = residuals_of(made(y), "A")
        assert found is not None
        expected = sm.OLS(y, sm.add_constant(np.arange(20.0))).fit()
        influence = expected.get_influence()
        np.testing.assert_allclose(found.residual, expected.resid, atol=1e-12)  # type: ignore[arg-type]
        np.testing.assert_allclose(found.standardised, influence.resid_studentized_internal, atol=1e-12)  # type: ignore[arg-type]
        self.assertEqual([line.leverage for line in found.table], [f"{h:.3f}" for h in influence.hat_matrix_diag])
        self.assertEqual([line.cook for line in found.table], [f"{d:.3f}" for d in influence.cooks_distance[0]])
        self.assertEqual(sum(one.count for one in found.bins), 20)
        # Blom's positions by SciPy's normal distribution
        ranks = np.argsort(np.argsort(np.array(found.standardised, dtype=float)))
        np.testing.assert_allclose(np.array(found.expected, dtype=float), norm.ppf((ranks + 0.625) / 20.25), atol=1e-12)

    def test_a_bend_is_said(self) -> None:
        y = 0.2 * np.arange(15) ** 2 + np.random.default_rng(1).normal(0, 0.5, 15)
        found = residuals_of(made(y), "A")
        assert found is not None
        said = " ".join(found.sentences)
        self.assertIn("They are curved: above at both ends and below in the middle", said)
        self.assertIn("neighbours are more alike than expected by chance (von Neumann ratio", said)
        straight = residuals_of(made(y, fits=(FitState("A", "polynomial", options={"degree": 2}),)), "A")
        assert straight is not None
        self.assertIn("No significant curvature", " ".join(straight.sentences))

    def test_a_growing_spread_is_said(self) -> None:
        t = np.arange(1.0, 61)
        found = residuals_of(made(t + np.random.default_rng(5).normal(0, 0.02 * t**1.2, 60)), "A")
        assert found is not None
        self.assertIn("Their size grows with h", " ".join(found.sentences))

    def test_a_reading_far_off_is_named(self) -> None:
        found = residuals_of(build_sample("lantern"), "A")
        assert found is not None
        self.assertIn("Row 10 lies farther from the curve than expected of 12 readings", " ".join(found.sentences))

    def test_what_shows_nothing(self) -> None:
        for y, said in (
            (np.array([1.0, 2.0]), "as many parameters as readings"),
            (np.array([1.0, 2, 3, 4]), "fit is exact"),
        ):
            found = residuals_of(made(y), "A")
            assert found is not None
            self.assertIn(said, found.sentences[0])

    def test_very_many(self) -> None:
        y = np.random.default_rng(2).normal(0, 1, 30_000)
        y[12_345] = 40.0
        found = residuals_of(made(y), "A")
        assert found is not None
        self.assertLessEqual(len(found.rows), MOST_DRAWN)
        self.assertIn(12_345, found.rows)
        self.assertFalse(found.all_drawn)

    def test_through_the_api(self) -> None:
        sample = self.new(sample="mooring-line")
        found = self.read(f"/studies/{sample}/residuals/A")
        self.assertNotIn(8, found["rows"])
        self.assertEqual(len(found["table"]), 11)
        self.read(f"/studies/{sample}/residuals/B", status=404)

    def test_no_fit_no_residuals(self) -> None:
        self.assertIsNone(residuals_of(replace(build_sample("mooring-line"), fits=()), "A"))
