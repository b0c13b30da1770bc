"""What is computed depends on values alone: not on what was computed before, on names, order, process or load."""

from __future__ import annotations

import os
import subprocess
import sys
from dataclasses import replace
from pathlib import Path
from threading import Thread
from unittest.mock import patch

from django.test import SimpleTestCase, TestCase

from ridge.core import Readings, fit
from ridge.core.fitting.effort import QUICK, UNCHECKED
from ridge.core.models import Sinusoid
from ridge.studies.content.fields import Direction
from ridge.studies.content.samples import SAMPLES, build_sample
from ridge.studies.content.state import AnswerState, FitState, StudyState
from ridge.studies.words.analyse import analyse
from ridge.studies.words.schemas import AnalysisOut
from tests.cold import forget_recent
from tests.fits import computed

ROOT = Path(__file__).parent.parent.parent

_IN_ANOTHER = """
import sys, django
django.setup()
from tests.api.test_same_everywhere import two_fits
from ridge.studies.words.analyse import analyse
sys.stdout.write(analyse(two_fits()).model_dump_json())
"""


def two_fits() -> StudyState:
    """A curve that is bent in its parameters, another model beside it, and every question of both."""
    asked: tuple[tuple[Direction, str], ...] = (
        ("crossing", "B"), ("x_at_y", "40"), ("y_at_x", "70"), ("y_at_x", "20"), ("tangent", "10"), ("area", "0 to 30"), ("turning", ""),
    )  # fmt: skip
    answers = tuple(AnswerState(f"k{i}", direction, given) for i, (direction, given) in enumerate(asked))
    fits = (FitState("A", "exponential", options={"level": True}), FitState("B", "logistic"), FitState("C", "formula", options={"text": "p*exp(-q*t)+r"}))  # fmt: skip
    return replace(build_sample("can-of-soup"), fits=fits, answers=answers)


def said(analysis: AnalysisOut) -> list[str]:
    return [answer.model_dump_json() for answer in analysis.answers]


class ValuesAlone(SimpleTestCase):
    def test_cold_and_warm(self) -> None:
        forget_recent()
        state = two_fits()
        cold = analyse(state)
        warm = analyse(state)
        self.assertEqual(cold, warm)
        # Computed piece by piece before: first the other model alone, then in another order.
        forget_recent()
        analyse(replace(state, fits=state.fits[1:2], answers=()))
        analyse(replace(state, fits=state.fits[::-1], answers=()))
        self.assertEqual(analyse(state), cold)

    def test_names_and_more_fits_change_no_answer(self) -> None:
        state = two_fits()
        plain = said(analyse(state))
        self.assertIn("intersection", plain[0])
        renamed = replace(
            state, title="Another", fits=tuple(replace(one, name=f"my {one.letter}") for one in state.fits)
        )
        self.assertEqual(said(analyse(renamed)), plain)
        more = replace(state, fits=(*state.fits, FitState("D", "line"), FitState("E", "power")))
        self.assertEqual(said(analyse(more)), plain)
        hidden = replace(state, fits=(state.fits[0], replace(state.fits[1], hidden=True), state.fits[2]))
        self.assertEqual(said(analyse(hidden)), plain)

    def test_in_another_process(self) -> None:
        here = analyse(two_fits()).model_dump_json()
        for seed in ("1", "77"):
            environment = {
                **os.environ,
                "RIDGE_MODE": "test",
                "PYTHONHASHSEED": seed,
                "DJANGO_SETTINGS_MODULE": "ridge.site.settings",
            }
            done = subprocess.run(
                [sys.executable, "-c", _IN_ANOTHER],
                cwd=ROOT,
                env=environment,
                capture_output=True,
                text=True,
                check=True,
            )
            self.assertEqual(done.stdout, here)

    def test_on_a_busy_machine(self) -> None:
        """Under four threads of other work nothing is cut short that is not cut short alone."""
        forget_recent()
        calm = [analyse(build_sample(sample.name)) for sample in SAMPLES]
        forget_recent()
        stop: list[bool] = []

        def busy() -> None:
            x = [float(i) for i in range(60)]
            readings = Readings(x, [(i * 7919) % 101 for i in range(60)])
            while not stop:
                fit(readings, Sinusoid())

        threads = [Thread(target=busy) for _ in range(4)]
        for thread in threads:
            thread.start()
        try:
            self.assertEqual([analyse(build_sample(sample.name)) for sample in SAMPLES[:4]], calm[:4])
        finally:
            stop.append(True)
            for thread in threads:
                thread.join()

    def test_what_is_refined_a_moment_later_is_what_would_have_come_at_once(self) -> None:
        decay = FitState("A", "exponential", options={"level": True})
        state = replace(two_fits(), fits=(decay,), answers=(AnswerState("k", "y_at_x", "70"),))
        quick, full = analyse(state, refits=1.0), analyse(state)
        self.assertTrue(quick.refining)
        self.assertIn("refining", quick.answers[0].sentence)
        self.assertFalse(analyse(state, refits=QUICK).refining)
        self.assertEqual(analyse(state, refits=QUICK), full)

    def test_previews_say_what_is_still_to_be_refined_and_differ_in_nothing_else(self) -> None:
        state = replace(two_fits(), answers=(AnswerState("k", "y_at_x", "70"),))
        preview, full = analyse(state, refits=UNCHECKED), analyse(state)
        marked = [p for p in computed(preview.fits[0]).parameters if "refining" in p.interval]
        self.assertTrue(marked)
        self.assertIn("refining", preview.answers[0].sentence)
        self.assertTrue(preview.refining)
        self.assertFalse(full.refining)
        self.assertNotRegex(full.model_dump_json(), r"\(refining\)|; refining")
        for before, after in zip(computed(preview.fits[0]).parameters, computed(full.fits[0]).parameters, strict=True):
            self.assertEqual(before.full, after.full)


class RefinedLater(TestCase):
    def test_the_second_step_is_what_would_have_come_at_once(self) -> None:
        made = self.client.post("/api/studies", {"sample": "can-of-soup"}, content_type="application/json").json()["id"]
        with patch("ridge.studies.api.studies.QUICK", 1.0):
            study = self.client.get(f"/api/studies/{made}").json()
        self.assertTrue(study["analysis"]["refining"])
        found = self.client.get(f"/api/studies/{made}/refined?version={study['version']}").json()
        self.assertEqual((found["refining"], found["same_readings"], found["x"]), (False, True, []))
        whole = self.client.get(f"/api/studies/{made}").json()["analysis"]
        self.assertEqual(found["fits"], whole["fits"])
        self.assertEqual(found["answers"], whole["answers"])
        overtaken = self.client.get(f"/api/studies/{made}/refined?version={study['version'] + 1}")
        self.assertEqual(overtaken.status_code, 409)
