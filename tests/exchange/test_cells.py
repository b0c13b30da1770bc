"""Cells as typed, read as numbers."""

from __future__ import annotations

from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from ridge.exchange.cells import NotANumber, read_number, read_numbers
from tests.examples import examples


class ReadNumber(TestCase):
    def test_notations(self) -> None:
        for text, value in (
            ("3", 3.0),
            (" 3.50 ", 3.5),
            ("+.5", 0.5),
            ("2.", 2.0),
            ("1e-3", 1e-3),
            ("1.5E+6", 1.5e6),
            ("\u22124.2", -4.2),
            ("3,14", 3.14),
            ("0,125", 0.125),
            ("12 500", 12500.0),
            ("12\u202f500.5", 12500.5),
            ("1,234.5", 1234.5),
            ("1,234,567", 1234567.0),
            ("1.5×10^3", 1500.0),
            ("1.5·10⁻³", 0.0015),
            ("1e300", 1e300),
            ("1e-300", 1e-300),
            ("0e-999", 0.0),
        ):
            self.assertEqual(read_number(text), value, text)

    def test_empty_is_no_number_and_no_fault(self) -> None:
        for text in ("", "  ", "\u00a0"):
            self.assertIsNone(read_number(text))

    def test_what_is_no_number_says_why(self) -> None:
        for text, why in (
            ("n/a", "'n/a' is not a number"),
            ("1,234", "may mean 1.234 or 1234"),
            ("inf", "not finite"),
            ("-∞", "not finite"),
            ("1e999", "too large to compute with"),
            ("-1e308", "use a larger unit"),
            ("1e-320", "use a smaller unit"),
            ("0.1e-400", "too small"),
            ("nan", "is not a number"),
            ("0x1F", "is hexadecimal: write it as a decimal number"),
            ("1_000", "is not a number"),
            ("12 m", "is not a number"),
            ("1.2.3", "is not a number"),
            ("=1+1", "is a formula"),
            ("12 %", "is a percentage: write the number alone and % in the unit"),
            ("€ 5", "carries a currency sign"),
            ("3.50 £", "carries a currency sign"),
            ("2026-05-04", "is a date"),
            ("13:30", "is a clock time"),
            ("x" * 500, "…"),
        ):
            with self.assertRaises(NotANumber) as caught:
                read_number(text)
            self.assertIn(why, str(caught.exception))

    @examples(100)
    @given(st.floats(-1e300, 1e300, allow_subnormal=False).filter(lambda value: value == 0 or abs(value) >= 1e-300))
    def test_every_double_reads_back(self, value: float) -> None:
        self.assertEqual(read_number(repr(value)), value)

    @examples(100)
    @given(st.text(max_size=40))
    def test_any_text_is_a_number_or_a_reason(self, text: str) -> None:
        try:
            number = read_number(text)
        except NotANumber as problem:
            self.assertTrue(str(problem))
        else:
            self.assertTrue(number is None or abs(number) < float("inf"))

    def test_several(self) -> None:
        self.assertEqual(read_numbers("3.41; 3.39  3.40"), [3.41, 3.39, 3.40])
        for text in ("", " ; ", "3 four"):
            with self.assertRaises(NotANumber):
                read_numbers(text)
