"""The Python script, run by an interpreter of its own: every number it prints is the core's."""

from __future__ import annotations

import atexit
import re
import subprocess
import sys
from dataclasses import replace
from functools import cache
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any
from unittest import TestCase

import numpy as np
from scipy import special

from ridge.core import Fit
from ridge.core.carrying import follow
from ridge.core.formula import Program, parse
from ridge.core.formula.python import to_python
from ridge.core.judging.misses import typical_miss
from ridge.core.wording.naming import parameter_called
from ridge.studies.analysis.fits import Fitted, fit_all
from ridge.studies.content.readings import read_table
from ridge.studies.content.samples import SAMPLES, build_sample
from ridge.studies.content.state import AnswerState, ColumnState, FitState, KnownValue, OwnQuantity, StudyState
from ridge.studies.out.scripts import script_of

LINE = re.compile(r"(\w)  (.+?) = (\S+?),?(?: ± (\S+))?(?: from (\S+) to (\S+))?(?: (\S+))?$")


INTERPRETER = """
import os, runpy, sys
import numpy, scipy.optimize, scipy.stats, scipy.interpolate, scipy.special
for line in sys.stdin:
    child = os.fork()
    if not child:
        with open("printed", "w") as out, open("failed", "w") as err:
            os.dup2(out.fileno(), 1), os.dup2(err.fileno(), 2)
            runpy.run_path(line.strip(), run_name="__main__")
        sys.stdout.flush()
        os._exit(0)
    print(os.waitstatus_to_exitcode(os.waitpid(child, 0)[1]), flush=True)
"""
"""An interpreter that holds NumPy and SciPy and runs each script in a process of its own, forked: loading both takes a second."""


@cache
def interpreter() -> tuple[Path, subprocess.Popen[str]]:
    """The folder that it works in, which is not Ridge's, so that nothing of Ridge can be imported; and itself."""
    folder = TemporaryDirectory()
    process = subprocess.Popen(
        [sys.executable, "-c", INTERPRETER], cwd=folder.name, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True
    )

    def end() -> None:
        process.terminate()
        process.communicate()
        folder.cleanup()

    atexit.register(end)
    return Path(folder.name), process


def run(script: str) -> dict[tuple[str, str], tuple[float | None, ...]]:
    """What a script prints: value, standard error, low and high by letter and name."""
    folder, process = interpreter()
    assert process.stdin is not None and process.stdout is not None
    (folder / "study.py").write_text(script)
    process.stdin.write("study.py\n")
    process.stdin.flush()
    if int(process.stdout.readline()):
        raise AssertionError((folder / "failed").read_text()[-2000:])
    found = {}
    for line in (folder / "printed").read_text().splitlines():
        match = LINE.fullmatch(line) or LINE.fullmatch(line.replace(", from", " from"))
        assert match is not None, line
        letter, what, value, error, low, high, _ = match.groups()
        found[letter, what] = tuple(None if text is None else float(text) for text in (value, error, low, high))
    return found


def measured(formula: str) -> StudyState:
    """Readings of a curve at 0, 1, … 18 with a scatter of their own that is always the same."""
    x = np.arange(19.0)
    y = Program([parse(formula).tree], ("x",))(x)[0] + 0.05 * np.sin(37 * x + 1)
    cells = [tuple(f"{value:.4f}" for value in values) for values in (x, y)]
    columns = (ColumnState("x", "", "x", "s", "x", cells=cells[0]), ColumnState("y", "", "y", "m", "y", cells=cells[1]))
    return StudyState("Measured", columns)


class Script(TestCase):
    def near(self, found: float | None, expected: float | None, scale: float, what: str) -> None:
        assert found is not None and expected is not None, what
        if np.isfinite(expected):
            self.assertLessEqual(abs(found - expected), 1e-5 * abs(expected) + 1e-6 * scale, what)
        else:
            self.assertEqual(found, expected, what)

    def check(self, state: StudyState) -> int:
        """Compare all that is printed with the core; the number of results."""
        table = read_table(state)
        printed = run(script_of(state))
        done = 0
        for one in fit_all(table, state.fits):
            if one.fit is not None and one.fit.least_squares_in in ("y", "logarithms", "given"):
                done += self.check_fit(one, Fit.of(one.fit), printed, state)
        self.assertGreater(done, 0)
        return len(printed)

    def check_fit(self, one: Fitted, fit: Fit, printed: dict[tuple[str, str], Any], state: StudyState) -> int:
        letter, naming, done = one.wanted.letter, read_table(state).naming, 0
        given = fit.least_squares_in == "given"
        for name, parameter in fit.parameters.items():
            if parameter.fixed or given:
                continue
            found = printed[letter, parameter_called(name, naming)]
            self.near(found[0], parameter.value, parameter.standard_error or 0, f"{letter} {name}")
            if parameter.standard_error and np.isfinite(parameter.standard_error) and not fit.statistics.exact:
                self.assertLess(abs(found[1] / parameter.standard_error - 1), 1e-3, f"{letter} {name}")
            done += 1
        statistics = fit.statistics
        if statistics.r_squared is not None and not given:
            self.assertAlmostEqual(printed[letter, "R²"][0], statistics.r_squared, places=8)
        if fit.log_line is None and statistics.degrees_of_freedom:
            miss = typical_miss(fit) or 0.0
            self.near(printed[letter, "typical miss"][0], miss, miss + float(np.nanmax(np.abs(fit.fitted))), letter)
        return done + self.check_answers(letter, fit, printed, state)

    def check_answers(self, letter: str, fit: Fit, printed: dict[tuple[str, str], Any], state: StudyState) -> int:
        done = 0
        naming = read_table(state).naming
        for (by, what), (value, _, low, high) in printed.items():
            if by != letter or " at " not in what or fit.statistics.exact:
                continue
            if what.startswith(f"{naming.y} at {naming.x} = "):
                expected = fit.predict(float(what.rpartition("= ")[2]), state.level)
                scale = float(expected.high - expected.low)
                for number, one in ((value, expected.value), (low, expected.low), (high, expected.high)):
                    self.near(number, float(one), scale, what)
            elif what.startswith(f"{naming.x} at {naming.y} = "):
                asked = float(what.rpartition("= ")[2])
                unknowns = read_table(state).unknowns
                same = [one for one in unknowns if abs(np.mean(one.values) - asked) < 1e-6]
                solution = fit.solve(
                    list(same[0].values) if same else asked, len(same[0].values) if same else 1, state.level
                )[0]
                scale = (
                    solution.high - solution.low if np.isfinite(solution.high - solution.low) else abs(solution.value)
                )
                for number, end in ((value, solution.value), (low, solution.low), (high, solution.high)):
                    self.near(number, end, scale, what)
            done += 1
        return done

    def test_every_sample(self) -> None:
        for sample in SAMPLES:
            with self.subTest(sample.name):
                self.assertGreaterEqual(self.check(build_sample(sample.name)), 4)

    def test_what_follows_is_worked_out_again(self) -> None:
        """Value and standard uncertainty of quantities of one's own, by the script's own arithmetic and by the core's."""
        state = build_sample("mooring-line")
        fits = (
            FitState(
                "A",
                "line",
                follows=(
                    OwnQuantity("k", "1/m"),
                    OwnQuantity("L_0", "F_1*m + c", known=(KnownValue("F_1", "100", "", "N"),)),
                    OwnQuantity("bad", "1/q"),
                ),
            ),
        )
        printed = run(script_of(replace(state, fits=fits)))
        fit = fit_all(read_table(state), state.linked_fits)[0].fit
        assert fit is not None
        for name, formula in (("k", "1/slope"), ("L_0", "100*slope + intercept")):
            found = follow(formula, fit)
            assert found.standard_error
            value, error, *_ = printed["A", name]
            assert value is not None and error is not None
            self.assertAlmostEqual(value / found.value, 1, 8)
            self.assertAlmostEqual(error / found.standard_error, 1, 4)
        self.assertNotIn(("A", "bad"), printed)

    def test_every_family(self) -> None:
        """Each on readings that it suits, leading and asked."""
        cases: list[tuple[str, str, dict[str, Any]]] = [
            ("mooring-line", "line", {}),
            ("draining-bucket", "polynomial", {"degree": 2}),
            ("sheer-line", "polynomial", {"degree": 5}),
            ("can-of-soup", "exponential", {}),
            ("can-of-soup", "exponential", {"level": True}),
            ("current", "logarithmic", {}),
            ("current", "logarithmic", {"shift": True}),
            ("current", "power", {}),
            ("current", "reciprocal", {}),
            ("tide", "sinusoid", {}),
            ("tide", "sinusoid", {"degrees": True}),
            ("tide", "sinusoid", {"form": "cos"}),
            ("12/(1 + exp(-0.8*(x - 9)))", "logistic", {}),
            ("2 + 10/(1 + exp(-0.8*(x - 9)))", "logistic", {"level": True}),
            ("3 + 8*exp(-(x - 9)^2/14)", "gaussian", {}),
            ("draining-bucket", "formula", {"text": "(lambda_1 - b*t)^2 + if(t > 500, 1, 0)"}),
        ]
        for name, family, options in cases:
            with self.subTest(f"{family} {options}"):
                sample = build_sample(name) if "(" not in name else measured(name)
                readings = read_table(sample).readings
                low, high = readings.measured_range
                x = low + 0.45 * (high - low)
                y = float(np.interp(low + 0.4 * (high - low), readings.x[readings.used], readings.y[readings.used]))
                answers = (AnswerState("a", "y_at_x", repr(round(x, 3))), AnswerState("b", "x_at_y", repr(round(y, 3))))
                state = replace(sample, fits=(FitState("A", family, options=options),), answers=answers)
                self.assertGreaterEqual(self.check(state), 4)

    def test_logarithms_weights_counts_and_fixed_parameters(self) -> None:
        for name, family in (("lantern", "power"), ("can-of-soup", "exponential"), ("current", "logarithmic")):
            with self.subTest(name):
                self.check(replace(build_sample(name), fits=(FitState("A", family, method="logarithms"),), answers=()))
        bucket = build_sample("draining-bucket")
        fits = (
            FitState("A", "polynomial", options={"degree": 2}, fixed={"c0": 31.4}),
            FitState("B", "line", by_hand=True),
        )
        self.check(replace(bucket, fits=fits))
        cells = tuple(str(1 + row % 3) for row in range(16))
        for role in ("weight", "count"):
            with self.subTest(role):
                state = replace(bucket, columns=(*bucket.columns, ColumnState("w", "", "w", "", role, cells=cells)))
                self.check(replace(state, fits=bucket.fits[:1]))

    def test_interpolations_are_scipys_own(self) -> None:
        kinds: tuple[dict[str, Any], ...] = (
            {"kind": "linear"}, {"kind": "polynomial"}, {"kind": "monotone"}, {"kind": "spline", "spline_degree": 5},
            *({"kind": "cubic-spline", "ends": ends} for ends in ("natural", "not-a-knot", "clamped")),
        )  # fmt: skip
        answers = (AnswerState("a", "y_at_x", "0.2, 1.3, 3.1"), AnswerState("b", "x_at_y", "0.5"))
        for options in kinds:
            with self.subTest(options):
                fits = (FitState("A", "interpolation", options=options),)
                state = replace(build_sample("sheer-line"), fits=fits, answers=answers)
                curve = fit_all(read_table(state), fits)[0].interpolation
                assert curve is not None
                printed = run(script_of(state))
                for x in (0.2, 1.3, 3.1):
                    expected = float(curve.evaluate(x))
                    self.near(printed["A", f"y at x = {x:g}"][0], expected, abs(expected), repr(options))
                self.near(printed["A", "x at y = 0.5"][0], curve.solve(0.5)[0].value, 1, repr(options))

    def test_it_tells_units_reasons_and_what_is_left_out(self) -> None:
        script = script_of(build_sample("mooring-line"))
        for said in (
            "# load F / N",
            "# stretch L / mm",
            "the line slipped on the cleat",
            "1 / u_A**2",
            "taken as absolute",
        ):
            self.assertIn(said, script)
        self.assertIn("4 % of the fitted E", script_of(build_sample("lantern")))
        sample = build_sample("mooring-line")
        errors = ColumnState("u", "", "u_F", "N", "x_error", cells=("5",) * 12)
        both = replace(sample, columns=(*sample.columns, errors), fits=(FitState("A", "line", method="orthogonal"),))
        self.assertIn("uncertainties of x as well", script_of(both))
        self.assertEqual(run(script_of(both)), {})

    def test_a_start_is_no_solution(self) -> None:
        for name in ("tide", "can-of-soup", "lantern"):
            state = build_sample(name)
            fit = fit_all(read_table(state), state.fits)[0].fit
            assert fit is not None
            start = re.search(r"start = np\.array\(\[(.*)\]\)", script_of(state))
            assert start is not None
            values = [float(word) for word in start[1].split(",")]
            self.assertFalse(np.allclose(values, list(fit.values.values()), rtol=1e-3), (name, values))

    def test_a_title_cannot_end_the_text_it_stands_in(self) -> None:
        nasty = '"""\nimport os\\'
        columns = tuple(replace(column, name=nasty, unit=nasty) for column in build_sample("mooring-line").columns)
        state = replace(build_sample("mooring-line"), title=nasty, question=nasty, columns=columns, aside={8: nasty})
        self.assertNotIn("\nimport os", script_of(state))
        # Symbols and letters of the course go into strings as well, of every kind of curve.
        breaking = 'v", exit(3), "'
        columns = tuple(replace(column, symbol=breaking) for column in build_sample("current").columns)
        answers = (AnswerState("a", "y_at_x", "1"), AnswerState("b", "x_at_y", "0.4"))
        for fit in (
            FitState("A", "line", name=breaking), FitState("A", "power", method="logarithms"),
            FitState("A", "interpolation", options={"kind": "linear"}),
        ):  # fmt: skip
            state_ = replace(build_sample("current"), columns=columns, fits=(fit,), answers=answers)
            run(script_of(replace(state_, letters={"a": breaking, "slope": breaking})))
        self.assertGreater(len(run(script_of(replace(state, columns=build_sample("mooring-line").columns)))), 3)
        compile(script_of(state), "study.py", "exec")

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
