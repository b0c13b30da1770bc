"""Where to measure next: for every kind of result, against adding the reading and fitting again, and what stands in the way."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np

from ridge.core import Readings, fit
from ridge.core.carrying import tell_apart
from ridge.core.models import Line, Polynomial
from ridge.studies.content.samples import SAMPLES, build_sample
from ridge.studies.content.state import AnswerState, FitState, OwnQuantity, StudyState
from ridge.studies.words.lens_schemas import NextPlaceIn, NextPlaceOut
from ridge.studies.words.next_place_words import next_place
from tests.api.test_api import ApiCase
from tests.api.test_columns import column, study

X, Y = "1 2 3 4 5 6", "2.1 3.9 6.2 7.8 10.1 11.9"


def line(**more: Any) -> StudyState:
    fits = more.pop("fits", (FitState("A", "line", follows=(OwnQuantity("g", "4*pi^2/m"),)),))
    return study(column("t", "x", X, unit="s"), column("h", "y", Y, unit="cm"), fits=fits, **more)


def ask(state: StudyState, of: str, **more: Any) -> NextPlaceOut:
    return next_place(state, NextPlaceIn(of=of, **more))


class Said(ApiCase):
    def test_of_a_slope_the_far_end_is_best(self) -> None:
        found = ask(line(), "parameter:A:slope", low="0", high="10")
        self.assertEqual((found.problem, found.best, found.called), ("", 10.0, "m"))
        self.assertEqual(len(found.x), len(found.worth))
        self.assertEqual(max(found.worth), 1)
        self.assertIn("narrows m most at t = 10\u00a0s", found.sentences[0])
        self.assertIn("beyond the readings", found.sentences[2])
        within = ask(line(), "parameter:A:slope")
        self.assertNotIn("beyond", within.sentences[2])

    def test_a_quantity_in_letters_is_as_good_as_its_slope(self) -> None:
        """4π²/m has the relative uncertainty of m: the same share falls."""
        one, other = ask(line(), "own:A:0", low="0", high="9"), ask(line(), "parameter:A:slope", low="0", high="9")
        np.testing.assert_allclose(one.worth, other.worth, atol=1e-9)
        self.assertEqual(one.called, "g")

    def test_of_answers(self) -> None:
        """A value asked at 3.5, and a time asked for the value that the line takes there, are narrowed by the same reading."""
        y = float(np.polyval(np.polyfit([1, 2, 3, 4, 5, 6], [float(v) for v in Y.split()], 1), 5.5))
        state = line(
            answers=(
                AnswerState("one", "y_at_x", "5.5"),
                AnswerState("two", "x_at_y", repr(y)),
                AnswerState("three", "area", "0 to 1"),
            )
        )
        first, second = ask(state, "answer:one", low="0", high="8"), ask(state, "answer:two", low="0", high="8")
        np.testing.assert_allclose(first.worth, second.worth, atol=1e-6)
        self.assertIn("answer to one x or one y", ask(state, "answer:three").problem)

    def test_how_many_are_needed_is_enough(self) -> None:
        """The readings that are named, added without any scatter, bring the standard uncertainty of the slope to the share."""
        found = ask(line(), "parameter:A:slope", low="0", high="12", share=20)
        self.assertRegex(found.sentences[1], r"^To 20\u00a0% of what it is now: \d+ more readings, ")
        whole, said = found.sentences[1].split(": ")[1].split(" more readings, ")
        count = int(whole)
        x = np.array([1, 2, 3, 4, 5, 6.0])

        def spread(places: list[float]) -> float:
            rows = np.column_stack([np.r_[x, places], np.ones(len(x) + len(places))])
            return float(np.sqrt(np.linalg.inv(rows.T @ rows)[0, 0]))

        named = [
            part.split(" at t = ") for part in said.split(". All")[0].rstrip(".").replace(" and ", ", ").split(", ")
        ]
        places = [float(place.split("\u00a0")[0]) for number, place in named for _ in range(int(number))]
        self.assertEqual(len(places), count)
        self.assertLessEqual(spread(places), 0.2 * spread([]) * 1.001)
        self.assertGreater(spread(places[1:]), 0.2 * spread([]) * 0.999)

    def test_telling_two_models_apart(self) -> None:
        state = line(fits=(FitState("A", "line"), FitState("B", "polynomial", options={"degree": 2})))
        found = ask(state, "apart:A:B", low="0", high="20")
        readings = Readings([1, 2, 3, 4, 5, 6], [float(v) for v in Y.split()])
        expected = tell_apart(fit(readings, Line()), fit(readings, Polynomial(2)), between=(0, 20))
        self.assertEqual(found.best, expected.best)
        self.assertIn("A and B differ most at t = ", found.sentences[0])

    def test_what_stands_in_the_way(self) -> None:
        state = line()
        for of, more, why in (
            ("own:A:7", {}, "no longer"), ("own:F:0", {}, "no longer"), ("answer:gone", {}, "no longer"), ("apart:A:C", {}, "no longer"), ("what", {}, "no longer"),
            ("own:A:0", {"low": "5"}, "both ends"), ("own:A:0", {"low": "5", "high": "2"}, "begin before"), ("own:A:0", {"low": "x", "high": "2"}, "not a number"),
        ):  # fmt: skip
            self.assertIn(why, ask(state, of, **more).problem, of)
        for fits in (
            (FitState("A", "line", by_hand=True),),
            (FitState("A", "interpolation"),),
            (FitState("A", "line", method="logarithms"),),
        ):
            self.assertIn("uncertainty is unknown", ask(line(fits=fits), "parameter:A:slope").problem)
        exact = study(column("x", "x", "1 2"), column("y", "y", "1 2"), fits=(FitState("A", "line"),))
        self.assertIn("uncertainty is unknown", ask(exact, "parameter:A:slope").problem)

    def test_every_parameter_of_every_sample(self) -> None:
        said = 0
        for sample in SAMPLES:
            state = build_sample(sample.name)
            state = replace(state, fits=tuple(replace(one, fixed={}) for one in state.fits))
            for one in state.fits:
                for name in ("slope", "rate", "intercept", "c1", "amplitude", "exponent"):
                    found = ask(state, f"parameter:{one.letter}:{name}")
                    self.assertTrue(found.problem or (found.sentences and np.isfinite(found.worth).all()), sample.name)
                    said += not found.problem
        self.assertGreater(said, 5)

    def test_at_the_ends_of_the_numbers(self) -> None:
        for power in ("e-30", "e30"):
            state = study(
                column("x", "x", " ".join(f"{v}{power}" for v in (1, 2, 3, 4))), column("y", "y", f"1{power} 2.1{power} 2.9{power} 4.2{power}"),
                fits=(FitState("A", "line"),),
            )  # fmt: skip
            found = ask(state, "parameter:A:slope")
            self.assertEqual((found.problem, max(found.worth)), ("", 1))

    def test_the_route(self) -> None:
        made = self.new(sample="mooring-line")
        found = self.read(f"/studies/{made}/next_place?of=parameter:A:slope&low=0&high=800")
        self.assertEqual(found["problem"], "")
        self.assertEqual(self.client.get(f"/api/studies/{made}/next_place?of=x&share=0").status_code, 422)
