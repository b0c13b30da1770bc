"""A column in another unit, and repeats made into one row each: as one step that can be undone, and with nothing lost."""

from __future__ import annotations

from typing import Any

import numpy as np
from django.test import SimpleTestCase

from ridge.core.readings import Array
from ridge.studies.content.changes import read_change
from ridge.studies.content.changes.base import ChangeRefused
from ridge.studies.content.readings import read_table
from ridge.studies.content.samples import SAMPLES, build_sample
from ridge.studies.content.state import AnswerState, ColumnState, FitState, StudyState
from ridge.studies.words.analyse import analyse
from tests.api.test_columns import calculated, column, study
from tests.fits import computed


def after(state: StudyState, kind: str, **more: Any) -> StudyState:
    """The state after a change, whose inverse puts everything back."""
    outcome = read_change({"kind": kind, **more}).apply(state)
    change = read_change(outcome.inverse.stored())
    back = change.apply(outcome.state)
    assert back.state == state
    assert read_change(back.inverse.stored()).apply(back.state).state == outcome.state
    return outcome.state


def refused(state: StudyState, kind: str, **more: Any) -> str:
    try:
        read_change({"kind": kind, **more}).apply(state)
    except ChangeRefused as reason:
        return str(reason)
    raise AssertionError("it was done")


class Converted(SimpleTestCase):
    t = column("t", "x", "0 90 1e3 abc", unit="s")
    h = column(
        "h", "y", "31.40 28,2 2.0 1 234.5".replace("1 234.5", "1\u202f234.5"), unit="cm", uncertainty="±0.5; 2 %"
    )

    def state(self, **more: Any) -> StudyState:
        h = ColumnState(
            "h", "", "h", "cm", "y", cells=("31.40", "28,2", "2.0", "1\u202f234.5"), uncertainty="±0.5; 2 %", lowest="0"
        )
        return study(self.t, h, **more)

    def test_digits_stay_as_they_were_typed(self) -> None:
        made = after(self.state(), "convert_column", key="h", unit="m").columns[1]
        self.assertEqual(made.cells, ("0.3140", "0,282", "0.020", "12.345"))
        self.assertEqual((made.unit, made.uncertainty, made.lowest), ("m", "±0.005; 2 %", "0"))
        back = after(after(self.state(), "convert_column", key="h", unit="m"), "convert_column", key="h", unit="cm")
        self.assertEqual(back.columns[1].cells, ("31.40", "28,2", "2.0", "1234.5"))

    def test_what_has_no_end_keeps_all_digits(self) -> None:
        made = after(self.state(), "convert_column", key="t", unit="min").columns[0]
        self.assertEqual(made.cells, ("0", "1.5", "16.6666666666667", "abc"))
        back = after(
            after(self.state(), "convert_column", key="t", unit="h"), "convert_column", key="t", unit="s"
        ).columns[0]
        self.assertEqual(back.cells, ("0", "90", "1000", "abc"))
        made = after(made_of("5"), "convert_column", key="w", unit="rpm").columns[2]
        self.assertEqual(made.cells[0], "47.7464829275686")  # 5·60/(2π), by hand

    def test_answers_stretch_and_axes_go_along(self) -> None:
        state = self.state(
            answers=(AnswerState("a", "y_at_x", "60; 120", was="31"), AnswerState("b", "x_at_y", "30"), AnswerState("c", "area", "0 to 90")),
            fits=(FitState("A", "line", x_range=(0.0, 90.0)),), plot={"x_low": -30.0, "y_high": 40.0, "grid": "none"},
        )  # fmt: skip
        made = after(state, "convert_column", key="t", unit="min")
        self.assertEqual([one.given for one in made.answers], ["1; 2", "30", "0 to 1.5"])
        self.assertEqual(made.fits[0].x_range, (0.0, 1.5))
        self.assertEqual(made.plot, {"x_low": -0.5, "y_high": 40.0, "grid": "none"})

    def test_columns_that_are_calculated_from_it_stay_as_they_are(self) -> None:
        state = study(self.t, column("h", "y", "4 9 16 25", unit="cm"), calculated("r", "sqrt(h) + h_0", 4), column("h_0", "other", "1 1 1 1"))  # fmt: skip
        made = after(state, "convert_column", key="h", unit="m")
        self.assertEqual(made.columns[2].formula, "sqrt((h*100)) + h_0")

    def test_the_fit_is_the_same_in_the_new_unit(self) -> None:
        """Of every sample whose x has a unit that is known: each fit's R² and its typical miss stay, to ten digits."""
        tried = 0
        for sample in SAMPLES:
            state = build_sample(sample.name)
            x = state.column("x")
            assert x is not None
            other = {"s": "min", "min": "s", "h": "min", "m": "cm", "cm": "mm", "N": "kN", "d": "h"}.get(x.unit)
            if other is None or "Release" in _try(state, x.key, other):
                continue
            made = after(state, "convert_column", key=x.key, unit=other)
            for old, new in zip(analyse(state).fits, analyse(made).fits, strict=True):
                if old.kind != "fit":
                    continue
                self.assertAlmostEqual(
                    float(computed(old).r_squared or 0), float(computed(new).r_squared or 0), 9, sample.name
                )
                tried += 1
        self.assertGreater(tried, 2)

    def test_every_uncertainty_is_the_same_in_the_new_unit(self) -> None:
        """However it was given, for the whole column or in single cells, by a power of ten and by sixty."""
        x = column("n", "x", "1 2 3 4")
        cells = "1.5 2.25 3 40"

        def errors(state: StudyState) -> Array:
            found = read_table(state).readings.y_error
            assert found is not None
            return found

        for unit, other, times in (("cm", "m", 0.01), ("min", "s", 60.0), ("m", "qm", 1e30), ("qm", "m", 1e-30)):
            for text in (
                "0.5",
                "2 %",
                "±0.5; 2 %",
                "0.5 (k = 2)",
                "0.5 (95 %)",
                "0.5, 95 %",
                "0.5 95 %",
                "half a digit",
                "2 digits + 0.1",
                "within 0.3",
            ):
                for exponent in (0, -3):
                    state = study(x, column("t", "y", cells, unit=unit, uncertainty=text, exponent=exponent))
                    made = after(state, "convert_column", key="t", unit=other)
                    with self.subTest(f"{text} {unit} 10^{exponent}"):
                        np.testing.assert_allclose(
                            read_table(made).readings.y, read_table(state).readings.y * times, rtol=1e-12
                        )
                        np.testing.assert_allclose(errors(made), errors(state) * times, rtol=1e-9)
            for own in (unit, ""):
                typed = ColumnState("u", "", "u", own, "y_error", cells=("0.5", "±0.3", "0.4 (k = 2)", "2 %"))
                state = study(x, column("t", "y", cells, unit=unit), typed)
                np.testing.assert_allclose(
                    errors(after(state, "convert_column", key="t", unit=other)), errors(state) * times, rtol=1e-9
                )
            for formula in ("0.02*t + 0.1", "0.3"):
                state = study(x, column("t", "y", cells, unit=unit), calculated("u", formula, 4, "y_error"))
                np.testing.assert_allclose(
                    errors(after(state, "convert_column", key="t", unit=other)), errors(state) * times, rtol=1e-9
                )
            per_cent = ColumnState("u", "", "u", "%", "y_error", cells=("1", "2", "3", "4"))
            state = study(x, column("t", "y", cells, unit=unit), per_cent)
            np.testing.assert_allclose(
                errors(after(state, "convert_column", key="t", unit=other)), errors(state) * times, rtol=1e-9
            )
            state = study(x, column("w", "other", cells), calculated("t", "2*w", 4, "y", unit=unit, uncertainty="±0.5"))
            np.testing.assert_allclose(
                errors(after(state, "convert_column", key="t", unit=other)), errors(state) * times, rtol=1e-9
            )

    def test_what_cannot_be_converted(self) -> None:
        state = self.state()
        for key, unit, why in (
            ("h", "s", "cannot be converted"), ("h", "cm", "already"), ("h", "", "cannot be converted"), ("h", "furlongish", "cannot be converted"),
            ("t", "h:min", "Clock readings"),
        ):  # fmt: skip
            self.assertIn(why, refused(state, "convert_column", key=key, unit=unit), unit)
        warm = study(column("T", "x", "20 30", unit="°C"), column("y", "y", "1 2"))
        self.assertIn("different zeros", refused(warm, "convert_column", key="T", unit="K"))
        fixed = self.state(fits=(FitState("A", "line", fixed={"intercept": 0.0}),))
        self.assertIn("Fit A holds numbers in cm", refused(fixed, "convert_column", key="h", unit="m"))
        self.assertIn(
            "no unit that is known", refused(study(column("n", "x", "1"), self.h), "convert_column", key="n", unit="m")
        )


def made_of(cell: str) -> StudyState:
    return study(column("n", "x", "1"), column("y", "y", "2"), column("w", "other", cell, unit="rad/s"))


def _try(state: StudyState, key: str, unit: str) -> str:
    try:
        read_change({"kind": "convert_column", "key": key, "unit": unit}).apply(state)
    except ChangeRefused as reason:
        return str(reason)
    return ""


class Averaged(SimpleTestCase):
    def test_means_with_their_uncertainty(self) -> None:
        """Five readings at two places; mean, s/√n (JCGM 100, 4.2) against numpy."""
        first, second = [2.1, 2.3, 2.2, 2.0, 2.4], [4.0, 4.2, 4.1, 3.9, 4.3]
        state = study(
            column("x", "x", "1 2 1 2 1 2 1 2 1 2"),
            column("y", "y", " ".join(f"{a} {b}" for a, b in zip(first, second, strict=True)), unit="V"),
        )
        made = after(state, "average_repeats")
        self.assertEqual(made.columns[0].cells, ("1", "2"))
        self.assertEqual(made.columns[1].cells, ("2.2", "4.1"))
        self.assertEqual([made.columns[2].role, made.columns[3].role], ["y_error", "other"])
        for cell, values in zip(made.columns[2].cells, (first, second), strict=True):
            self.assertAlmostEqual(float(cell), np.std(values, ddof=1) / np.sqrt(5), 3)
        self.assertEqual(made.columns[3].cells, ("5", "5"))
        self.assertEqual(made.columns[2].unit, "V")

    def test_of_few_repeats_only_their_number_weighs(self) -> None:
        """A line through the means, weighted by how many each stands for, is the line through all readings."""
        state = study(
            column("x", "x", "1 1 2 3 3 3"), column("y", "y", "1.0 1.4 2.1 2.7 3.3 3.1"), fits=(FitState("A", "line"),)
        )
        made = after(state, "average_repeats")
        self.assertEqual([one.role for one in made.columns], ["x", "y", "other", "weight"])
        old, new = (computed(analyse(one).fits[0]).parameters for one in (state, made))
        for one, other in zip(old, new, strict=True):
            self.assertAlmostEqual(float(one.full.replace("−", "-")), float(other.full.replace("−", "-")), 3)

    def test_nothing_is_dropped(self) -> None:
        state = study(
            column("x", "x", "1 1 1 2 2"), column("y", "y", "1.0 9.9 1.2 2.0 x"), column("who", "other", "p p p q q"),
            aside={1: "slipped"}, assumed={3: "supposed"},
        )  # fmt: skip
        made = after(state, "average_repeats")
        self.assertEqual(made.columns[1].cells, ("1.1", "2.0", "9.9", "x"))
        self.assertEqual(made.columns[2].cells, ("p", "q", "p", "q"))
        self.assertEqual((dict(made.aside), dict(made.assumed)), ({2: "slipped"}, {1: "supposed"}))
        self.assertEqual(read_table(made).readings.n, 2)
        outcome = read_change({"kind": "average_repeats"}).apply(state)
        self.assertEqual(outcome.label, "average repeats: 3 readings into 2, 2 other rows kept")

    def test_by_a_label_and_within_series(self) -> None:
        state = study(
            column("x", "x", "1.0 1.2 2.0 2.2"), column("y", "y", "1 3 5 7"), column("run", "other", "a a b b"), column("s", "series", "u v u u")
        )  # fmt: skip
        made = after(state, "average_repeats", by="run")
        self.assertEqual(made.columns[0].cells, ("1.0", "1.2", "2.1"))
        self.assertEqual(made.columns[1].cells, ("1", "3", "6"))

    def test_very_large_and_very_small(self) -> None:
        state = study(column("x", "x", "1e30 1e30 2e30 2e30"), column("y", "y", "1e-30 3e-30 5e-30 6e-30"))
        made = after(state, "average_repeats")
        self.assertEqual([float(cell) for cell in made.columns[1].cells], [2e-30, 5.5e-30])
        self.assertEqual(float(made.columns[2].cells[0]), 1e-30)
        made = after(
            study(column("x", "x", "1 1 2 2"), column("y", "y", "1e30 3e30 -4.5e295 4.7e295")), "average_repeats"
        )
        self.assertEqual([float(cell) for cell in made.columns[1].cells], [2e30, 1e294])
        made = after(
            study(column("x", "x", "1 2"), column("y", "y", "1e290 2.5e-290", unit="m")),
            "convert_column",
            key="y",
            unit="km",
        )
        self.assertEqual(made.columns[1].cells, ("1e+287", "2.5e-293"))

    def test_what_cannot_be_averaged(self) -> None:
        plain = study(column("t", "x", "1 2 3"), column("y", "y", "1 2 3"))
        self.assertIn("No two readings in use have the same t", refused(plain, "average_repeats"))
        weighed = study(column("t", "x", "1 1"), column("y", "y", "1 2"), column("w", "weight", "1 2"))
        self.assertIn("would lose", refused(weighed, "average_repeats"))
        made = study(column("t", "x", "1 1"), calculated("y", "t^2", 2, "y"))
        self.assertIn("calculated", refused(made, "average_repeats"))
