"""Rounded numbers hold what they should and read back as what they were, at every power of ten."""

from __future__ import annotations

from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from ridge.core.numerals import significant, write
from ridge.core.wording.limits import limits_text
from ridge.core.wording.rounding import round_with_half_width, round_with_uncertainty
from tests.examples import examples
from tests.reading_back import read_back, read_both

sizes = st.builds(
    lambda m, e: m * 10.0**e, st.floats(-9.99, 9.99).filter(lambda m: abs(m) > 0.01), st.integers(-30, 30)
)
positive = sizes.map(abs)
thorough = examples(400)


class ReadBack(TestCase):
    @thorough
    @given(sizes, positive)
    def test_value_and_standard_error(self, value: float, error: float) -> None:
        shown = round_with_uncertainty(value, error)
        if not shown.uncertainty:
            self.assertLess(error, abs(value) * 2e-14)
            return
        for one, other in (read_both(shown.text), (read_back(shown.value), read_back(shown.uncertainty))):
            self.assertLessEqual(abs(one - value), 0.5 * error + 1e-12 * abs(value))
            self.assertLessEqual(abs(one - value), 0.051 * abs(value) + 1e-12 * error)  # two significant digits
            self.assertLessEqual(abs(other - error), 0.34 * error)

    @thorough
    @given(sizes, positive)
    def test_half_widths_hold_the_limits_and_hardly_more(self, value: float, half: float) -> None:
        shown = round_with_half_width(value, half)
        if not shown.uncertainty:
            return
        middle, width = read_both(shown.text)
        dust = 1e-9 * (abs(value) + half)
        self.assertLessEqual(middle - width, value - half + dust)
        self.assertGreaterEqual(middle + width, value + half - dust)
        self.assertLessEqual(width - half + abs(middle - value), 0.0401 * half + dust)

    @thorough
    @given(sizes, sizes)
    def test_limits_are_rounded_outwards_by_a_fiftieth_of_their_distance_at_most(
        self, one: float, other: float
    ) -> None:
        low, high = sorted((one, other))
        if high - low < 1e-11 * max(abs(low), abs(high)):
            return
        lower, upper = (read_back(part) for part in limits_text(low, high).split(" to "))
        dust = 1e-9 * max(abs(low), abs(high))
        self.assertLessEqual(lower, low + dust)
        self.assertGreaterEqual(upper, high - dust)
        self.assertLessEqual(max(low - lower, upper - high), 0.0201 * (high - low) + dust)
        self.assertTrue(low <= 0 or lower > 0)  # what excludes zero goes on excluding it
        self.assertTrue(high >= 0 or upper < 0)

    @thorough
    @given(sizes)
    def test_limits_that_stand_alone(self, limit: float) -> None:
        self.assertLessEqual(
            read_back(limits_text(limit, float("inf")).removeprefix("above ")), limit + 1e-9 * abs(limit)
        )
        self.assertGreaterEqual(
            read_back(limits_text(-float("inf"), limit).removeprefix("below ")), limit - 1e-9 * abs(limit)
        )

    @thorough
    @given(sizes, st.integers(1, 12))
    def test_significant_digits(self, value: float, digits: int) -> None:
        self.assertLessEqual(abs(read_back(significant(value, digits).text) / value - 1), 0.51 * 10.0 ** (1 - digits))
        self.assertAlmostEqual(
            float(significant(value, digits).plain) / read_back(significant(value, digits).text), 1, places=12
        )


class Examples(TestCase):
    """Seen in the running application."""

    def test_what_was_lost(self) -> None:
        self.assertEqual(round_with_uncertainty(2.31e-7, 3e-9).value, "2.31\u202f×\u202f10⁻⁷")
        self.assertEqual(round_with_uncertainty(2.31e-7, 3e-9).uncertainty, "3\u202f×\u202f10⁻⁹")
        self.assertEqual(limits_text(0.05, 2.44), "0.050 to 2.440")
        self.assertEqual(limits_text(-1.13, 29.76), "−1.2 to 29.8")
        self.assertEqual(limits_text(30, 40_000), "30 to 4\u202f×\u202f10⁴")
        self.assertEqual(round_with_half_width(0.44, 12).text, "0.44 ± 12")

    def test_zero_has_no_power_of_ten(self) -> None:
        self.assertEqual(write(0.0, -5).text, "0")
        self.assertEqual(write(1e-9, -5).text, "0")
        self.assertEqual(round_with_uncertainty(0.0, 1e-9).text, "(0.0 ± 1.0)\u202f×\u202f10⁻⁹")
