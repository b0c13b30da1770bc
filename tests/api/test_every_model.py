"""Every model over every sample, with x and y as they are and swapped; every third as leading fit and behind another."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from django.test import SimpleTestCase

from ridge.studies.analysis.catalogue import CANDIDATES
from ridge.studies.content.changes.columns import SwapAxes
from ridge.studies.content.samples import SAMPLES, build_sample
from ridge.studies.content.state import FitState, StudyState
from ridge.studies.words.analyse import analyse
from ridge.studies.words.fit_schemas import FitOut
from ridge.studies.words.schemas import AnalysisOut
from tests.fits import computed, refusal_of


def cases() -> Iterator[tuple[str, StudyState, FitState]]:
    for sample in SAMPLES:
        plain = build_sample(sample.name)
        for name, state in ((sample.name, plain), (f"{sample.name}, swapped", SwapAxes().apply(plain).state)):
            # Swapped, every third does: what is new then is the data, not the model.
            for one in CANDIDATES if state is plain else CANDIDATES[len(sample.name) % 3 :: 3]:
                yield f"{name}: {one.family} {one.options}", state, FitState("B", one.family, options=one.options)


class EveryModel(SimpleTestCase):
    def sound(self, out: AnalysisOut, letter: str) -> FitOut:
        self.assertEqual(out.failures, [])
        found = next(fit for fit in out.fits if fit.letter == letter)
        self.assertNotIn("Ridge failed", refusal_of(found))
        self.assertTrue(
            refusal_of(found)
            or (computed(found).equation_text and computed(found).how_well and computed(found).statistics)
        )
        return found

    def test_a_fit_or_a_reason_for_each(self) -> None:
        refused = 0
        other = FitState("A", "line")
        for place, (name, state, wanted) in enumerate(cases()):
            with self.subTest(name):
                leading = self.sound(analyse(replace(state, fits=(wanted, other))), "B")
                if place % 3:
                    refused += bool(refusal_of(leading))
                    continue
                following = self.sound(analyse(replace(state, fits=(other, wanted))), "B")
                # Its place among the fits changes nothing about it.
                self.assertEqual(refusal_of(leading), refusal_of(following))
                if refusal_of(leading):
                    refused += 1
                    continue
                self.assertEqual(computed(leading).parameters, computed(following).parameters)
                self.assertEqual(computed(leading).cautions, computed(following).cautions)
                self.assertEqual(computed(leading).statistics, computed(following).statistics)
        self.assertLess(refused, 40)
