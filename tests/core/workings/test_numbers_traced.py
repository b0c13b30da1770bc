"""Each number of an equation is traced to the step that made it, and stands there with the same value."""

import re
from fractions import Fraction
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from ridge.core import Readings, fit
from ridge.core.errors import RidgeError
from ridge.core.models import Exponential, Line, Polynomial, Power
from ridge.core.results.numbers_traced import MadeAt, numbers_traced
from ridge.core.results.steps import Coefficients, Equation, Table, Values
from ridge.core.wording.working_steps import NumbersLine
from ridge.core.workings import WORKINGS, Working, work
from tests.examples import examples

X = [1, 2, 3, 4, 5, 7]
Y = [2.1, 3.9, 6.2, 7.8, 10.1, 14.2]


def workings() -> list[Working]:
    """All that these readings have."""
    readings, weighted = Readings(X, Y), Readings(X, Y, y_error=[1, 2, 1, 1, 3, 1])
    found = []
    for what in WORKINGS:
        for model in (Line(), Line().with_fixed({"intercept": 0}), Polynomial(2), Exponential(), Power()):
            for some in (readings, weighted):
                asked = {"x": 3.5} if what == "interval-at" else {"y": 5.0} if what == "solve-for-x" else {}
                try:
                    found.append(work(what, some, fit(some, model), **asked))  # type: ignore[arg-type]
                except RidgeError:
                    continue
    return found


def value_at(working: Working, at: MadeAt) -> object:
    match working.steps[at.step]:
        case Equation() as step:
            assert (at.row, at.column) == (0, 0)
            return step.result
        case Values() | Coefficients() as step:
            return step.values[at.row]
        case Table() as step:
            assert at.row == len(step.rows)
            return step.sums[at.column]
    raise AssertionError(working.steps[at.step])


class NumbersTraced(TestCase):
    def test_what_is_put_in_was_made_there(self) -> None:
        traced = 0
        for working in workings():
            for place, (step, numbers) in enumerate(zip(working.steps, numbers_traced(working.steps), strict=True)):
                for name, number in numbers.items():
                    if number.made_at is None:
                        continue
                    self.assertLess(number.made_at.step, place)
                    if isinstance(step, Equation):
                        traced += 1
                        put_in = step.given[name]
                        made = value_at(working, number.made_at)
                        self.assertIsNotNone(made, (working.what, step.name, name))
                        self.assertAlmostEqual(float(put_in), float(made), delta=1e-9 * abs(float(put_in)))  # type: ignore[arg-type]
        self.assertGreater(traced, 150)

    def test_marked_lines_are_the_lines_with_groups(self) -> None:
        grouped = 0
        for working in workings():
            for form in ("fractions", "decimals"):
                again = (
                    work(working.what, Readings(X, Y), Line(), form=form) if working.what == "line-by-sums" else working
                )
                for step in again.worded:
                    for line in step.lines:
                        if isinstance(line, NumbersLine):
                            grouped += line.marked.count("htmlData")
                            self.assertEqual(without_groups(line.marked), line.latex)
                            for found in re.findall(r"number=(\d+)", line.marked):
                                self.assertLess(int(found), len(step.numbers))
        self.assertGreater(grouped, 200)

    @examples(50)
    @given(st.lists(st.fractions(-99, 99, max_denominator=20), min_size=3, max_size=6, unique=True))
    def test_equal_numbers_are_told_by_their_names(self, xs: list[Fraction]) -> None:
        # The sums of x and of y are the same number, written the same: each still goes back to its own.
        working = work("line-by-sums", Readings([float(x) for x in xs], [float(x) for x in xs]), Line())
        place = next(place for place, step in enumerate(working.steps) if step.name == "slope")
        slope = working.steps[place]
        assert isinstance(slope, Equation)
        numbers = numbers_traced(working.steps)[place]
        made = [numbers[name].made_at for name in slope.given]
        self.assertEqual(len(set(made)), len(made))
        line = working.worded[place].lines[0]
        assert isinstance(line, NumbersLine)
        self.assertEqual(set(re.findall(r"number=(\d+)", line.marked)), {str(k) for k in range(len(slope.given))})


def without_groups(latex: str) -> str:
    r"""``\htmlData{…}{…}`` taken out, what is in it left."""
    while (found := re.search(r"\\htmlData\{number=\d+\}\{", latex)) is not None:
        depth, end = 1, found.end()
        while depth:
            depth += {"{": 1, "}": -1}.get(latex[end], 0)
            end += 1
        latex = latex[: found.start()] + latex[found.end() : end - 1] + latex[end:]
    return latex
