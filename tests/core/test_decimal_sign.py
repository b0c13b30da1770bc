"""The decimal comma in texts: every number turned, nothing else touched (ISO 80000-1:2009, section 7.3.2)."""

from __future__ import annotations

import re
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from ridge.core.formula import parse
from ridge.core.formula.writing import to_text
from ridge.core.numerals import full, significant, write
from ridge.core.wording.decimal_sign import as_typed, equation_in_comma, in_comma, latex_in_comma
from tests.examples import examples

FINITE = st.floats(allow_nan=False, allow_infinity=False)


class InComma(TestCase):
    def test_texts(self) -> None:
        for text, expected in (
            ("h = 1.855·sin(0.5068·t + 0.901) + 3.069", "h = 1,855·sin(0,5068·t + 0,901) + 3,069"),
            ("R² 0.9987 · typical miss 0.0529 m.", "R² 0,9987 · typical miss 0,0529 m."),
            ("−1.2\u202f×\u202f10⁻⁷ A", "−1,2\u202f×\u202f10⁻⁷ A"),
            ("12\u202f345.67 lx", "12\u202f345,67 lx"),
            ("(0.205; 0.545)", "(0,205; 0,545)"),
            ("It lies at 18.", "It lies at 18."),
            ("p < 0.0001; F = 9.27 with 1 and 22", "p < 0,0001; F = 9,27 with 1 and 22"),
            ("1.5e-07", "1,5e-07"),
            ("on 12.05.2026, version 1.4.12", "on 12.05.2026, version 1.4.12"),
            ("v1.5 and c_1.5", "v1.5 and c_1.5"),
            ("13:30 h, rows 3 and 9", "13:30 h, rows 3 and 9"),
            ("", ""),
        ):
            self.assertEqual(in_comma(text), expected)
            self.assertEqual(in_comma(expected), expected)

    def test_latex_keeps_its_spaces(self) -> None:
        self.assertEqual(latex_in_comma(r"a = 0.5\,x^{1.5} \times 10^{-3}"), r"a = 0{,}5\,x^{1{,}5} \times 10^{-3}")

    def test_a_formula_as_shown_reads_back_as_the_same_formula(self) -> None:
        for text in ("a*max(0.5, x)", "if(x < 1.5, 0.25, a)", "0.5*x + 2", "min(a, max(0.5, x))"):
            tree = parse(text).tree
            for shown in (to_text(tree), equation_in_comma(to_text(tree))):
                self.assertIs(parse(shown).tree, tree, shown)
        self.assertEqual(equation_in_comma("y = a·max(0.5, x)"), "y = a·max(0,5; x)")

    def test_what_was_typed_stays(self) -> None:
        typed = as_typed(["pump 1.5", "pump 1.5 b", "plain", "0.5*h"])
        self.assertEqual(in_comma("pump 1.5 b: 2.5 m; r = 0.5*h, 0.5 m", typed), "pump 1.5 b: 2,5 m; r = 0.5*h, 0,5 m")
        self.assertIsNone(as_typed(["plain", "3", "0.5"]))

    def test_a_label_that_is_a_number_hides_no_other(self) -> None:
        typed = as_typed(["0.5", "0.5 A", "1.5 V"])
        self.assertEqual(
            in_comma("0.5 A: 10.53 m, 0.5 m; 11.5 V; at 1.5 V.", typed), "0.5 A: 10,53 m, 0,5 m; 11,5 V; at 1.5 V."
        )

    @examples(100)
    @given(FINITE, st.integers(1, 12))
    def test_every_number_reads_back(self, value: float, digits: int) -> None:
        for text in (significant(value, digits).text, write(value, 3).text, full(value)):
            turned = in_comma(f"x = {text} m.")
            self.assertIsNone(re.search(r"\d\.\d", turned))
            self.assertEqual(turned.replace(",", "."), f"x = {text} m.")
