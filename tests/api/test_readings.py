"""From cells to readings, and what is said about them."""

from __future__ import annotations

from unittest import TestCase, mock

from ridge.studies.content.changes import read_change
from ridge.studies.content.readings import Status, read_table
from ridge.studies.content.samples import build_sample
from ridge.studies.content.state import StudyState, empty_study
from ridge.studies.words.analyse import analyse
from tests.fits import refusal_of


def study(*lines: str, roles: tuple[str, ...] = ()) -> StudyState:
    """A study from lines of cells; ``roles`` of the columns after x and y."""
    state = empty_study("test")
    for role in roles:
        state = read_change({"kind": "add_column", "role": role}).apply(state).state
    block = [["" if cell == "." else cell for cell in line.split()] for line in lines]
    return read_change({"kind": "set_cells", "row": 0, "column": 0, "block": block}).apply(state).state


class Rows(TestCase):
    def test_what_each_row_is(self) -> None:
        table = read_table(study("1 2", ". .", "3 .", ". 4", "n/a 5", "6 inf", "7 8"))
        self.assertEqual(
            [Status(int(status)) for status in table.status],
            [Status.USED, Status.BLANK, Status.PROBLEM, Status.UNKNOWN, Status.PROBLEM, Status.PROBLEM, Status.USED],
        )
        self.assertEqual(
            [problem.message for problem in table.problems],
            ["Row 3: y missing.", "Row 5: 'n/a' is not a number.", "Row 6: 'inf' is not finite."],
        )

    def test_uncertainties_must_be_there_and_above_zero(self) -> None:
        table = read_table(study("1 2 0.1", "2 3 .", "3 4 0", "4 5 -1", "5 6 x", roles=("y_error",)))
        self.assertEqual(table.count(Status.USED), 1)
        self.assertEqual(len(table.problems), 4)
        self.assertIn("no uncertainty of y", table.problems[0].message)

    def test_an_empty_uncertainty_column_is_no_hindrance(self) -> None:
        state = study("1 2", "2 3", "3 5", roles=("y_error",))
        self.assertEqual(read_table(state).count(Status.USED), 3)

    def test_unknowns_of_one_label_are_repeats(self) -> None:
        analysis = analyse(build_sample("salinity-probe"))
        self.assertEqual([unknown.label.split(" ")[0] for unknown in analysis.unknowns], ["quay", "channel", "stream"])
        self.assertEqual([len(unknown.rows) for unknown in analysis.unknowns], [3, 3, 4])
        for unknown in analysis.unknowns:
            self.assertIn("(95\u00a0% CI ", unknown.answer.result)
            self.assertIn("g/kg", unknown.answer.result)

    def test_unknowns_without_labels_stand_alone(self) -> None:
        analysis = analyse(study("1 2", "2 4", "3 6.1", ". 3", ". 3.1"))
        self.assertEqual([unknown.rows for unknown in analysis.unknowns], [[3], [4]])


class Refusals(TestCase):
    def said(self, *lines: str) -> str:
        return refusal_of(analyse(study(*lines)).fits[0])

    def test_each_says_what_is_missing(self) -> None:
        self.assertIn("a line needs 2", refusal_of(analyse(empty_study("e")).fits[0]))
        self.assertIn("add 1 more", self.said("1 2"))
        equal = self.said("3 1", "3 2", "3 4")
        self.assertIn("All x are equal (3)", equal)
        self.assertIn("The mean of y there is 2.3 ± 0.9", equal)

    def test_huge_and_tiny_numbers(self) -> None:
        analysis = analyse(study("1e308 1", "2 3e-320", "3 2"))
        self.assertEqual(
            [problem.message for problem in analysis.problems],
            [
                "Row 1: '1e308' is too large to compute with (10³⁰⁰ at most): use a larger unit.",
                "Row 2: '3e-320' is too small to compute with (10⁻³⁰⁰ at least): use a smaller unit.",
            ],
        )
        for lines in (("1e300 1e300", "-1e300 1", "5 7e299"), ("1 1e-200", "2 3e-200", "3 2e-200")):
            analysis = analyse(study(*lines))
            self.assertIn("beyond what the computer's numbers hold", refusal_of(analysis.fits[0]))

    def test_a_failure_not_foreseen_still_opens_the_readings(self) -> None:
        with (
            mock.patch("ridge.studies.words.analyse.fit_all", side_effect=ZeroDivisionError),
            self.assertLogs(level="ERROR"),
        ):
            analysis = analyse(build_sample("mooring-line"))
        self.assertIn("it is our mistake", refusal_of(analysis.fits[0]))
        self.assertEqual(len(analysis.x), 12)

    def test_answers_wait_for_a_fit(self) -> None:
        state = read_change({"kind": "keep_answer", "direction": "y_at_x", "given": "4"}).apply(study("1 2")).state
        self.assertEqual(analyse(state).answers[0].problem, "There is no answer until there is a fit.")

    def test_answers_to_what_is_no_number(self) -> None:
        for given, said in (
            ("abc", "'abc' is not a number."),
            ("1, x", "'x' is not a number."),
            ("1e999", "too large to compute with"),
        ):
            state = study("1 2", "2 4", "3 7")
            state = read_change({"kind": "keep_answer", "direction": "y_at_x", "given": given}).apply(state).state
            self.assertIn(said, analyse(state).answers[0].problem)

    def test_a_level_line_answers_no_x(self) -> None:
        state = study("1 2", "2 2", "3 2")
        state = read_change({"kind": "keep_answer", "direction": "x_at_y", "given": "3"}).apply(state).state
        self.assertIn("The line is level", analyse(state).answers[0].problem)


class Views(TestCase):
    def test_the_view_holds_all_readings_and_the_answers_near_them(self) -> None:
        analysis = analyse(build_sample("mooring-line"))
        self.assertLess(analysis.view.x.low, 0)
        self.assertGreater(analysis.view.x.high, 620)
        self.assertGreater(analysis.view.y.high, 223)

    def test_a_far_answer_does_not_shrink_the_readings(self) -> None:
        state = study("1 2", "2 4", "3 6.1")
        state = read_change({"kind": "keep_answer", "direction": "y_at_x", "given": "9000"}).apply(state).state
        self.assertLess(analyse(state).view.x.high, 10)

    def test_one_reading_and_none_have_a_view(self) -> None:
        for state in (empty_study("e"), study("5 7")):
            view = analyse(state).view
            self.assertLess(view.x.low, view.x.high)
            self.assertLess(view.y.low, view.y.high)
