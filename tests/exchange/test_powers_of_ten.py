"""Every number on page, report, workbook, clipboard and script is the core's, at powers of ten from −30 to +30."""

from __future__ import annotations

import io
from dataclasses import replace
from typing import Any

import numpy as np
from django.test import SimpleTestCase
from python_calamine import CalamineWorkbook

from ridge.core import Fit
from ridge.core.formula import evaluate, parse
from ridge.core.wording.naming import parameter_called
from ridge.exchange.data_files import write_xlsx
from ridge.exchange.report.html import write_html
from ridge.studies.analysis.fits import fit_all
from ridge.studies.content.fields import Direction
from ridge.studies.content.readings import read_table
from ridge.studies.content.state import AnswerState, ColumnState, FitState, StudyState
from ridge.studies.out.data import answers_sheet, parameters_sheet, readings_sheet
from ridge.studies.out.report import report_of
from ridge.studies.out.scripts import script_of
from ridge.studies.words.analyse import analyse
from ridge.studies.words.residual_words import residuals_of
from ridge.studies.words.schemas import AnalysisOut, AnswerOut
from tests.exchange.test_report import Reader, spaces
from tests.exchange.test_script import run
from tests.fits import computed
from tests.reading_back import as_formula, read_back, read_both, read_interval

POWERS = (-30, -20, -12, -9, -7, -6, -5, -4, -3, 0, 3, 4, 5, 6, 7, 9, 12, 20, 30)
X = (1.0, 2.0, 3.0, 4.0, 5.0)
Y = (2.31, 4.55, 7.02, 9.1, 11.6)
ASKED: tuple[tuple[Direction, str | None], ...] = (
    ("y_at_x", "2.5"), ("y_at_x", "60"), ("x_at_y", None), ("tangent", "3"), ("area", "1 to 4"), ("roots", ""), ("crossing", "B"),
)  # fmt: skip


def study(power: int, *fits: FitState, y: tuple[float, ...] = Y) -> StudyState:
    """The same readings with y times ten to the power; the questions go along."""
    answers = tuple(
        AnswerState(f"k{i}", direction, f"{6.3}e{power}" if given is None else given)
        for i, (direction, given) in enumerate(ASKED)
    )
    return StudyState(
        title="Powers",
        columns=(
            ColumnState("x", "voltage", "U", "V", "x", cells=tuple(map(str, X))),
            ColumnState("y", "current", "I", "A", "y", cells=tuple(f"{value}e{power}" for value in y)),
        ),
        fits=fits or (FitState("A", "line"), FitState("B", "polynomial")),
        answers=answers,
    )


class AtEveryPower(SimpleTestCase):
    def near(self, shown: float, true: float, slack: float, what: object) -> None:
        self.assertLessEqual(abs(shown - true), slack + 1e-12 * abs(true), f"{what}: {shown} for {true}")

    def computed(self, state: StudyState) -> tuple[AnalysisOut, dict[str, Fit]]:
        analysis = analyse(state)
        self.assertEqual(analysis.failures, [])
        fits = {
            one.wanted.letter: Fit.of(one.fit) for one in fit_all(read_table(state), state.fits) if one.fit is not None
        }
        self.assertEqual(set(fits), {fit.letter for fit in analysis.fits})
        return analysis, fits

    def check_page(self, analysis: AnalysisOut, fits: dict[str, Fit]) -> None:
        for out in analysis.fits:
            fit = fits[out.letter]
            for shown in computed(out).parameters:
                parameter = fit.parameters[shown.name]
                error = parameter.standard_error or 0.0
                self.near(read_back(shown.value), parameter.value, 0.5 * error, shown)
                if shown.uncertainty:
                    self.near(read_back(shown.uncertainty), error, 0.34 * error, shown)
                if " ± " in shown.text:
                    value, both = read_both(shown.text)
                    self.near(value, parameter.value, 0.5 * error, shown)
                    self.near(both, error, 0.34 * error, shown)
                self.near(float(shown.full), parameter.value, 0, shown)
            for derived, quantity in zip(computed(out).derived, fit.derived, strict=True):
                slack = 0.5 * (quantity.standard_error or 0) + 1e-5 * abs(quantity.value)
                self.near(read_back(derived.text.lstrip("(")) if " ± " not in derived.text else read_both(derived.text)[0], quantity.value, slack, derived)  # fmt: skip
            for row in computed(out).statistics:
                if row.value and row.full and row.value[0] not in "<≤":
                    self.near(read_back(row.value), float(row.full), 0.06 * abs(float(row.full)), row)
            s = fit.statistics.residual_standard_deviation or 0.0
            self.near(read_back(computed(out).typical_miss), s, 0.006 * s, computed(out).typical_miss)
            tree = parse(as_formula(computed(out).equation_text), "U").tree
            at = np.linspace(1, 5, 9)
            strays = np.abs(np.broadcast_to(evaluate(tree, {"U": at}), at.shape) - fit.evaluate(at)).max()
            self.assertLessEqual(strays, 0.1001 * s, computed(out).equation_text)

    def check_answers(self, answers: list[AnswerOut], fit: Fit, power: int) -> None:
        for answer in answers:
            self.assertEqual(answer.problem, "", answer.asked)
        inside, beyond, x = (answers[i] for i in range(3))
        for answer, at in ((inside, 2.5), (beyond, 60.0)):
            found = fit.predict(at)
            value, low, high = read_interval(answer.result.partition(" = ")[2])
            self.assertLessEqual(low, float(found.low) + 1e-9 * abs(value), answer.result)
            self.assertGreaterEqual(high, float(found.high) - 1e-9 * abs(value), answer.result)
            self.near(float(answer.full), float(found.value), 0, answer)
        found_x = fit.solve(float(f"6.3e{power}"))[0]
        _, low, high = read_interval(x.result.partition(" = ")[2])
        self.assertTrue(low <= found_x.low and high >= found_x.high, x.result)
        _, low, high = read_interval(answers[3].result.removeprefix("slope "))
        self.assertTrue(low < fit.values["slope"] < high, answers[3].result)
        _, low, high = read_interval(answers[4].result.removeprefix("area "))
        exact = fit.values["slope"] * 7.5 + fit.values["intercept"] * 3
        self.assertTrue(low < exact < high, answers[4].result)

    def check_residuals(self, state: StudyState, fits: dict[str, Fit]) -> None:
        for letter, fit in fits.items():
            found = residuals_of(state, letter)
            assert found is not None
            s = fit.statistics.residual_standard_deviation or 0.0
            for row in found.table:
                self.near(read_back(row.observed), float(fit.readings.y[row.row]), 0.06 * s, row)
                self.near(read_back(row.fitted), float(fit.fitted[row.row]), 0.06 * s, row)
                self.near(read_back(row.residual), float(fit.residuals[row.row]), 0.06 * s, row)
                self.near(read_back(row.squared), float(fit.residuals[row.row]) ** 2, 0.006 * s**2, row)

    def check_files(self, state: StudyState, analysis: AnalysisOut, fits: dict[str, Fit]) -> None:
        page = Reader(write_html(report_of(state, analysis)))
        # Equations are typeset; as text they are what a screen reader says.
        report = spaces(" ".join([page.text, *(tag.get("aria-label") or "" for _, tag in page.tags)]))
        for out in analysis.fits:
            for shown in [
                *(one.text for one in computed(out).parameters),
                *(one.value for one in computed(out).derived),
                computed(out).equation_text,
            ]:
                self.assertIn(spaces(shown), report)
        for answer in analysis.answers:
            for text in [row.result for row in answer.rows] if len(answer.rows) > 1 else [answer.result]:
                self.assertIn(spaces(text), report)
        sheets = [readings_sheet(state), parameters_sheet(analysis), answers_sheet(state, analysis)]
        book = CalamineWorkbook.from_filelike(io.BytesIO(write_xlsx(sheets)))
        rows: dict[Any, Any] = {(row[0], row[2]): row for row in book.get_sheet_by_name("Fits").to_python()[1:]}
        for letter, fit in fits.items():
            for name, parameter in fit.parameters.items():
                self.near(float(rows[letter, name][3]), parameter.value, 1e-14 * abs(parameter.value), name)
                self.near(
                    float(rows[letter, name][4]), parameter.standard_error or 0, 1e-14 * abs(parameter.value), name
                )
            self.near(float(rows[letter, "RSS"][3]), fit.statistics.residual_sum_of_squares, 0, "RSS")
        head, *lines = book.get_sheet_by_name("Readings").to_python()
        for letter, fit in fits.items():
            for what, values in (("fitted", fit.fitted), ("residual", fit.residuals)):
                place = head.index(f"{what} {letter} / A")
                np.testing.assert_allclose([float(str(line[place])) for line in lines], values, rtol=1e-14)

    def test_a_line_and_a_parabola(self) -> None:
        for power in POWERS:
            with self.subTest(power):
                state = study(power)
                analysis, fits = self.computed(state)
                self.check_page(analysis, fits)
                self.check_answers(analysis.answers, fits["A"], power)
                self.check_residuals(state, fits)
                self.check_files(state, analysis, fits)

    def test_curves_of_other_families(self) -> None:
        decay = (9.2, 6.1, 4.2, 3.0, 2.1)
        for power in POWERS[::2]:
            with self.subTest(power):
                state = replace(study(power, FitState("A", "exponential"), FitState("B", "power"), y=decay), answers=())
                self.check_page(*self.computed(state))

    def test_the_script(self) -> None:
        for power in (-30, -9, 9, 30):
            state = study(power)
            _, fits = self.computed(state)
            found, naming = run(script_of(state)), read_table(state).naming
            for letter, fit in fits.items():
                for name, parameter in fit.parameters.items():
                    value, error, _, _ = found[letter, parameter_called(name, naming)]
                    assert value is not None and error is not None
                    np.testing.assert_allclose(value, parameter.value, rtol=1e-6, err_msg=str(power))
                    np.testing.assert_allclose(error, parameter.standard_error or 0, rtol=1e-4)

    def test_an_uncertainty_far_larger_than_the_value(self) -> None:
        state = study(6, FitState("A", "line"), y=(5.0, -3.0, 4.0, -6.0, 5.5))
        analysis, fits = self.computed(replace(state, answers=()))
        self.check_page(analysis, fits)
