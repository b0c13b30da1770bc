"""The Python script, run by an interpreter of its own: every number it prints is the core's."""

from __future__ import annotations

import subprocess
import sys
from dataclasses import replace
from pathlib import Path
from tempfile import TemporaryDirectory
from unittest import TestCase

import numpy as np
from scipy import special

from ridge.core import Fit
from ridge.core.formula import Program, parse
from ridge.core.formula.python import to_python
from ridge.studies.fits import fit_all
from ridge.studies.readings import read_table
from ridge.studies.samples import SAMPLES, build_sample
from ridge.studies.scripts import script_of
from ridge.studies.state import AnswerState, FitState, StudyState


def run(script: str) -> list[list[str]]:
    """What a script prints, word by word."""
    with TemporaryDirectory() as folder:
        path = Path(folder) / "study.py"
        path.write_text(script)
        # Not Ridge's folder, so that nothing of Ridge can be imported.
        done = subprocess.run([sys.executable, str(path)], cwd=folder, capture_output=True, text=True, timeout=120)
    if done.returncode:
        raise AssertionError(done.stderr[-2000:])
    return [line.split() for line in done.stdout.splitlines()]


class Script(TestCase):
    def fits(self, state: StudyState) -> dict[str, Fit]:
        return {one.wanted.letter: one.fit for one in fit_all(read_table(state), state.fits) if one.fit is not None}

    def check(self, state: StudyState) -> int:
        """Compare all that is printed with the core; the number of lines."""
        fits = self.fits(state)
        lines = run(script_of(state))
        for letter, what, *numbers in lines:
            fit = fits[letter]
            if what == "r_squared":
                self.assertAlmostEqual(float(numbers[0]), fit.statistics.r_squared or 0, places=9)
            elif what == "s":
                np.testing.assert_allclose(
                    float(numbers[0]), fit.statistics.residual_standard_deviation or 0, rtol=1e-7
                )
            elif what == "at":
                prediction = fit.predict(float(numbers[0]), state.level)
                np.testing.assert_allclose(float(numbers[1]), float(prediction.value), rtol=1e-6)
                half = float(prediction.high) - float(prediction.value)
                np.testing.assert_allclose(float(numbers[2]), half, rtol=1e-4)
            else:
                error = fit.parameters[what].standard_error
                np.testing.assert_allclose(float(numbers[0]), fit.values[what], rtol=1e-5, atol=1e-7 * (error or 0))
                np.testing.assert_allclose(float(numbers[1]), error or 0, rtol=1e-4)
        return len(lines)

    def test_every_sample(self) -> None:
        for sample in SAMPLES:
            with self.subTest(sample.name):
                self.assertGreaterEqual(self.check(build_sample(sample.name)), 4)

    def test_fixed_parameters_own_formulas_and_lists_that_were_asked(self) -> None:
        state = replace(
            build_sample("draining-bucket"),
            fits=(
                FitState("A", "polynomial", options={"degree": 2}, fixed={"c0": 31.4}),
                FitState("B", "formula", options={"text": "(lambda_1 - b*t)^2 + if(t > 500, 1, 0)"}),
                FitState("C", "exponential", method="logarithms"),
            ),
            answers=(AnswerState("k", "y_at_x", "10, 20 to 40 step 10", fit="all"), AnswerState("m", "y_at_x", "soon")),
        )
        self.assertEqual(self.check(state), (2 + 2 + 4) + (2 + 2 + 4))
        self.assertIn("Fit C (exponential) is not plain least squares", script_of(state))

    def test_a_title_cannot_end_the_text_it_stands_in(self) -> None:
        state = replace(build_sample("mooring-line"), title='"""\nimport os\\')
        self.assertGreater(self.check(state), 3)

    def test_expressions_mean_the_same(self) -> None:
        x = np.linspace(0.1, 3, 7)
        for text in (
            "-x^2 + 2^3^2", "sinc(x) + erf(x)*gamma(x)", "if(x > 1, ln(x), min(x, 2))", "log10(x)/log2(x) + cbrt(-x)",
            "asin(x/4) + e^x*pi - sign(x - 1)*floor(x)", "abs(x - 2)^0.5 + max(x, 1) - ceil(x)",
        ):  # fmt: skip
            for degrees in (False, True):
                tree = parse(text, degrees=degrees).tree
                expected = Program([tree], ("x",))(x)[0]
                found = eval(to_python(tree), {"np": np, "special": special, "x": x})
                np.testing.assert_allclose(found, expected, rtol=1e-13, err_msg=text)
