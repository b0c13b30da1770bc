"""The decimal sign: numbers are written with it from the start, and read back (ISO 80000-1:2022, section 7.2.2)."""

from __future__ import annotations

import re
from concurrent.futures import ThreadPoolExecutor
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from ridge.core import Readings, fit
from ridge.core.decimal_sign import cached, decimal_sign, written_with
from ridge.core.errors import FormulaError
from ridge.core.formula import parse
from ridge.core.formula.checks import check_text
from ridge.core.formula.parse import tokens_of
from ridge.core.formula.writing import to_latex, to_text
from ridge.core.models import Formula, Line
from ridge.core.numerals import full, p_text, share, significant, write
from ridge.core.wording.clock import clock_text
from ridge.core.wording.equation import write_symbols
from ridge.core.wording.limits import with_interval
from ridge.core.wording.naming import Naming
from ridge.core.wording.rounding import round_with_uncertainty
from tests.examples import examples

FINITE = st.floats(allow_nan=False, allow_infinity=False)


class WithComma(TestCase):
    def test_every_way_of_writing_a_number(self) -> None:
        with written_with("comma"):
            for found, expected in (
                (significant(-3.61, 3).text, "−3,61"), (significant(1.5e-7, 2).text, "1,5\u202f×\u202f10⁻⁷"),
                (write(12345.67, 2).text, "12\u202f345,67"), (write(12345.67, 2).latex, r"12\,345{,}67"), (share(0.99996), "0,99996"),
                (p_text(0.031), "p = 0,031"), (p_text(1e-9), "p < 0,0001"), (clock_text(13.5042, "h:min"), "13:30,252"),
                (round_with_uncertainty(1.60693, 0.01473).text, "1,607 ± 0,015"), (full(0.1), "0,1"), (significant(18, 2).text, "18"),
                (with_interval(27.08, 26.807, 27.352, 0.95, "g/kg"), "27,08\u00a0g/kg (95\u00a0% CI 26,80 to 27,36)"),
            ):  # fmt: skip
                self.assertEqual(found, expected)
            self.assertEqual(significant(2.5, 2).plain, "2.5")  # for programs

    def test_names_and_units_stay(self) -> None:
        naming = Naming(x="c_1.5", y="h", x_unit="0.5 km", y_name="pump 1.5")
        with written_with("comma"):
            self.assertEqual(naming.x_given(2.5), "2,5\u00a00.5 km")

    def test_equations(self) -> None:
        readings = Readings([1, 2, 3, 4, 5], [2.1, 3.9, 6.2, 7.8, 10.1])
        with written_with("comma"):
            line = fit(readings, Line())
            self.assertEqual(line.equation.text, "y = 1,99·x + 0,05")
            self.assertIn("1{,}99", line.equation.latex)
            text, latex = write_symbols(Formula("a*max(0.5, x)"), Naming())
        self.assertEqual((text, latex), ("y = a·max(0,5; x)", r"y = a\,\max\left(0{,}5; x\right)"))

    @examples(100)
    @given(FINITE, st.integers(1, 12))
    def test_texts_differ_in_the_sign_only(self, value: float, digits: int) -> None:
        def all_of() -> list[str]:
            return [significant(value, digits).text, write(value, 3).text, full(value)]

        plain = all_of()
        with written_with("comma"):
            turned = all_of()
        self.assertEqual([text.replace(",", ".") for text in turned], plain)
        self.assertFalse(any(re.search(r"\d\.\d", text) for text in turned))


class InFormulas(TestCase):
    def test_a_formula_as_shown_reads_back_as_the_same_formula(self) -> None:
        for text in (
            "a*max(0.5, x)",
            "if(x < 1.5, 0.25, a)",
            "0.5*x + 2",
            "min(a, max(0.5, x))",
            "a*exp(-0.25*x)",
            "sin(0.5*(x + 1.5))",
        ):
            tree = parse(text).tree
            with written_with("comma"):
                shown = to_text(tree)
            self.assertNotIn(".", shown)
            self.assertIs(parse(shown).tree, tree, shown)
            self.assertIs(parse(to_text(tree)).tree, tree)
        with written_with("comma"):
            self.assertEqual(to_latex(parse("1.5e-3*x").tree), r"1{,}5 \times 10^{-3}\,x")

    def test_a_comma_where_no_values_can_be_separated_is_a_decimal_sign(self) -> None:
        for typed, meant in (
            ("sin(0,5*x)", "sin(0.5*x)"), ("a*exp(-0,25*x)", "a*exp(-0.25*x)"), ("max((0,5 + x), 2)", "max((0.5 + x), 2)"),
            ("max(ln(0,5*x), 2)", "max(ln(0.5*x), 2)"), ("max(0,5; x)", "max(0.5, x)"), ("max(1,2)", "max(1, 2)"),
        ):  # fmt: skip
            self.assertIs(parse(typed).tree, parse(meant).tree, typed)
            self.assertEqual(
                [str(one) for one in tokens_of(typed)], [str(one) for one in tokens_of(meant.replace(", ", ","))]
            )
            check_text(typed, parse(typed))
        with self.assertRaises(FormulaError):
            parse("max(0,5, x)")


class Context(TestCase):
    def test_it_ends_with_its_block_and_stays_in_its_thread(self) -> None:
        with written_with("comma"):
            with written_with("point"):
                self.assertEqual(significant(2.5, 2).text, "2.5")
            self.assertEqual(significant(2.5, 2).text, "2,5")
            with ThreadPoolExecutor(1) as pool:
                self.assertEqual(pool.submit(decimal_sign).result(), "point")
        self.assertEqual(decimal_sign(), "point")

    def test_what_is_remembered_is_remembered_for_each_sign(self) -> None:
        made = []

        @cached(8)
        def half(value: float) -> str:
            made.append(value)
            return significant(value / 2, 3).text

        for _ in range(2):
            self.assertEqual(half(3), "1.50")
            with written_with("comma"):
                self.assertEqual(half(3), "1,50")
        self.assertEqual(len(made), 2)
