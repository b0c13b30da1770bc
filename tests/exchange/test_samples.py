"""Every sample teaches what ``docs/samples.md`` says: which caution fires when, and what the answer is."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from unittest import TestCase

from ridge.core.numerals import THIN
from ridge.core.predicting.at_y import solve
from ridge.core.wording.naming import NO_BREAK
from ridge.studies.analysis.fits import fit_all
from ridge.studies.content.fields import Role
from ridge.studies.content.readings import read_table
from ridge.studies.content.samples import SAMPLES, build_sample
from ridge.studies.content.state import FitState, StudyState
from ridge.studies.words.analyse import analyse
from tests.fits import computed, drawn

DOCUMENT = Path(__file__).parents[2] / "docs" / "samples.md"
Step = Callable[[StudyState], StudyState]


def fitted(*fits: FitState) -> Step:
    return lambda state: replace(state, fits=fits)


def with_root_as_y(state: StudyState) -> StudyState:
    roles: dict[str, Role] = {"level": "other", "root": "y"}
    columns = tuple(replace(column, role=roles.get(column.key, column.role)) for column in state.columns)
    return replace(state, columns=columns, fits=(FitState("A", "line"),), answers=())


STEPS: dict[str, dict[str, Step]] = {
    "tide": {"row 16 used again": lambda state: replace(state, aside={})},
    "can-of-soup": {"with a level": fitted(FitState("A", "exponential", options={"level": True}))},
    "mooring-line": {"row 9 used again": lambda state: replace(state, aside={})},
    "salinity-probe": {},
    "lantern": {"row 10 set aside": lambda state: replace(state, aside={9: "decimal point misplaced: 1.73 was meant"})},
    "current": {},
    "draining-bucket": {"the root of the level as y, a line": with_root_as_y},
    "sheer-line": {"a quartic alone": fitted(FitState("A", "polynomial", options={"degree": 4}))},
}


def lesson(state: StudyState) -> list[str]:
    """What is said of a state: parameters, cautions and answers."""
    analysis = analyse(state)
    said = []
    for fit in analysis.fits:
        parameters = "; ".join(f"{one.symbol} = {one.text} {one.unit}".strip() for one in computed(fit).parameters)
        said.append(f"{fit.letter}, {fit.label or fit.name}: {parameters}; typical miss {computed(fit).typical_miss}")
        said += [f"Caution on {fit.letter}: {caution.message}" for caution in drawn(fit).cautions]
    for answer in (*(unknown.answer for unknown in analysis.unknowns), *analysis.answers):
        results = [f"{row.letter}: {row.result}" for row in answer.rows if row.letter] or [answer.result]
        said.append(f"{answer.asked}: {'; '.join(results)}")
    return [line.replace(NO_BREAK, " ").replace(THIN, " ") for line in said]


def written() -> dict[tuple[str, str], list[str]]:
    """The lines of the document by sample and state."""
    found: dict[tuple[str, str], list[str]] = {}
    title = state = ""
    for line in DOCUMENT.read_text().splitlines():
        if line.startswith("## "):
            title = line.removeprefix("## ")
        elif line.startswith("**") and line.endswith(":**"):
            state = line.strip("*:")
        elif line.startswith("- ") and title:
            found.setdefault((title, state), []).append(line.removeprefix("- "))
    return found


class EverySample(TestCase):
    def test_says_what_the_document_says(self) -> None:
        document = written()
        expected = set()
        for sample in SAMPLES:
            steps: dict[str, Step] = {"As it comes": lambda state: state, **STEPS[sample.name]}
            for name, step in steps.items():
                key = (sample.title, name[0].upper() + name[1:])
                expected.add(key)
                with self.subTest(key):
                    self.assertEqual(document.get(key), lesson(step(build_sample(sample.name))))
        self.assertEqual(set(document), expected)

    def test_is_signed_and_dated(self) -> None:
        for sample in SAMPLES:
            state = build_sample(sample.name)
            self.assertRegex(state.author, r"^Field group \d: ")
            self.assertTrue(state.date)


class WhatTheyTeach(TestCase):
    """The physics of each, checked beside the words."""

    def values(self, name: str, step: Step = lambda state: state, letter: str = "A") -> dict[str, tuple[float, float]]:
        state = step(build_sample(name))
        fits = fit_all(read_table(state), state.fits)
        fit = next(one.fit for one in fits if one.wanted.letter == letter)
        assert fit is not None
        return {key: (one.value, one.standard_error or 0.0) for key, one in fit.parameters.items()}

    def test_light_falls_with_the_square_of_the_distance(self) -> None:
        exponent, error = self.values("lantern", STEPS["lantern"]["row 10 set aside"])["n"]
        self.assertLess(abs(exponent + 2), 2 * error)

    def test_the_tide_has_the_period_of_the_moon(self) -> None:
        # The principal lunar semidiurnal tide: 12.42 h (general knowledge, from memory).
        omega, error = self.values("tide")["angular_frequency"]
        self.assertLess(abs(omega - 2 * 3.14159265 / 12.42), 3 * error)

    def test_the_root_of_the_level_falls_along_a_line(self) -> None:
        step = STEPS["draining-bucket"]["the root of the level as y, a line"]
        line, law = self.values("draining-bucket", step), self.values("draining-bucket", letter="B")
        self.assertLess(abs(line["slope"][0] + law["k"][0]), 0.0005)
        # Torricelli: the bucket is empty where the root is zero, and after that its level stays there.
        state = build_sample("draining-bucket")
        fit = fit_all(read_table(state), state.fits)[1].fit
        assert fit is not None
        self.assertEqual(fit.evaluate([180.0, 1000.0]).tolist(), [0.0, 0.0])
        half = solve(fit, 31.4 / 2)
        self.assertEqual(len(half), 1)

    def test_the_cup_cools_to_a_level(self) -> None:
        level, error = self.values("can-of-soup", STEPS["can-of-soup"]["with a level"])["c"]
        self.assertGreater(level / error, 50)
