"""Patterns of the formula language take time in proportion to the text, however often a piece is repeated."""

from __future__ import annotations

import subprocess
import sys

from django.test import SimpleTestCase

from ridge.core.errors import FormulaError
from ridge.core.formula import parse

PIECES = (
    "x_0", "x₀", "_0", "x_", "1e3F", "1e", "2e2L", "a.", ".5", "12", "sin", "sin²", "sin(", "if(", "(", ")", ",", "x,",
    "/ 2b ", "/(", "^", "**", "²", "⁻¹", "<=", "≤", "=", "y(x)=", "y =", " ", "µ", "−", "log", "gamma(", "αβ", "π", "+-",
)  # fmt: skip

_READ_ALL = """
import sys
from ridge.core.errors import FormulaError
from ridge.core.formula import parse
from ridge.core.formula.checks import check_text
for piece in sys.stdin.read().split("\\0"):
    for text in (piece * (500 // len(piece)), piece * 60 + "!", "a*x+" + piece * 60 + "="):
        try:
            check_text(text, parse(text))
        except FormulaError as error:
            assert 0 <= error.position <= len(text), (text, error.position)
"""


class RepeatedPieces(SimpleTestCase):
    def test_every_token_many_times_over(self) -> None:
        # In a process of its own, so that a pattern that runs away fails the test instead of holding all others up.
        done = subprocess.run(
            [sys.executable, "-c", _READ_ALL], input="\0".join(PIECES), text=True, capture_output=True, timeout=120
        )
        self.assertEqual(done.returncode, 0, done.stderr[-2000:])

    def test_names_and_numbers_side_by_side(self) -> None:
        for text, names in (
            ("1e3F", ("F",)), ("1e5x", ()), ("2e2L*x", ("L",)), ("1e3a*x", ("a",)), ("2.5e-3q+1e3p", ("q", "p")),
            ("1e3e*x", ()), ("x_0x_0", ("x_0x_0",)), ("x_1+x₁", ("x_1",)), ("3a b", ("a", "b")), ("1e3(a+b)", ("a", "b")),
        ):  # fmt: skip
            self.assertEqual(parse(text).names, names, text)

    def test_a_call_behind_a_number_is_understood(self) -> None:
        self.assertEqual(parse("1e3F(x)").names, ("F",))
        with self.assertRaisesRegex(FormulaError, "foo"):
            parse("1e3foo(x)")
