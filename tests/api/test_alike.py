"""Two series fitted with the same model: their parameters beside one another, and whether one curve would do, in words."""

from __future__ import annotations

from django.test import SimpleTestCase

from ridge.studies.content.state import FitState, StudyState
from ridge.studies.words.comparison_words import comparison_of
from tests.api.test_columns import column, study


def pair(second: str, **more: object) -> StudyState:
    return study(
        column("t", "x", "1 2 3 4 5 1 2 3 4 5", unit="s"),
        column("h", "y", f"2.1 3.9 6.2 7.8 10.1 {second}", unit="cm"),
        column("run", "series", "u u u u u v v v v v"),
        fits=(FitState("A", "line", series="u"), FitState("B", "line", series="v"), FitState("C", "line")),
        **more,
    )


class Alike(SimpleTestCase):
    def test_the_same_slope_and_another_offset(self) -> None:
        found = comparison_of(pair("4.2 5.8 8.1 9.9 12.0")).alike
        self.assertEqual([(one.first, one.second) for one in found], [("A", "B")])
        slope, offset = found[0].rows
        self.assertEqual((slope.symbol, offset.symbol), ("m", "c"))
        self.assertIn("no disagreement", slope.says)
        self.assertIn("a disagreement", offset.says)
        self.assertIn("cm/s", slope.first)
        self.assertRegex(
            found[0].sentence,
            r"^Evidence that A and B differ: one curve for both fits significantly worse than two .*Chow's test, F = .* with 2 and 6 degrees",
        )

    def test_what_may_be_one(self) -> None:
        found = comparison_of(pair("2.0 4.1 6.0 8.0 10.0")).alike
        self.assertIn("No significant difference between A and B", found[0].sentence)

    def test_known_uncertainties_are_tested_by_chi_squared(self) -> None:
        state = pair("4.2 5.8 8.1 9.9 12.0", absolute_errors=True)
        y = state.columns[1]
        state = study(
            state.columns[0],
            column("h", "y", " ".join(y.cells), uncertainty="0.1"),
            state.columns[2],
            fits=state.fits,
            absolute_errors=True,
        )
        self.assertIn("χ² = ", comparison_of(state).alike[0].sentence)

    def test_fits_to_the_same_readings_are_not_compared_like_this(self) -> None:
        state = study(
            column("t", "x", "1 2 3"), column("h", "y", "1 2 4"), fits=(FitState("A", "line"), FitState("B", "line"))
        )
        self.assertEqual(comparison_of(state).alike, [])

    def test_too_few_to_test(self) -> None:
        state = study(
            column("t", "x", "1 2 1 2"), column("h", "y", "1 2 2 4"), column("r", "series", "u u v v"),
            fits=(FitState("A", "line", series="u"), FitState("B", "line", series="v")),
        )  # fmt: skip
        found = comparison_of(state).alike[0]
        self.assertIn("No degrees of freedom are left", found.sentence)
        self.assertIn("cannot be judged", found.rows[0].says)
