"""Rounded numbers keep what they must, and read back as what they were, at every power of ten."""

from __future__ import annotations

import re
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from ridge.core.numerals import share, significant, write
from ridge.core.wording.limits import limits_text, with_interval
from ridge.core.wording.rounding import round_with_uncertainty, uncertainty_decimals
from tests.examples import examples
from tests.reading_back import read_back, read_both

sizes = st.builds(
    lambda m, e: m * 10.0**e, st.floats(-9.99, 9.99).filter(lambda m: abs(m) > 0.01), st.integers(-30, 30)
)
positive = sizes.map(abs)
thorough = examples(400)


def decimals_of(number: str) -> int:
    return len(re.sub(r"[^\d.]", "", number.partition("×")[0]).partition(".")[2])


class ReadBack(TestCase):
    @thorough
    @given(sizes, positive)
    def test_value_and_standard_error(self, value: float, error: float) -> None:
        shown = round_with_uncertainty(value, error)
        if not shown.uncertainty:
            self.assertLess(error, abs(value) * 2e-14)
            return
        one, other = read_both(shown.text)
        of_value, of_error = (part.strip("( ") for part in shown.text.partition(")")[0].split(" ± "))
        self.assertEqual(decimals_of(of_value), decimals_of(of_error), shown.text)
        # Two digits of an error are within 5 % of it, one digit within 15 %; no zero is added.
        digits = len(of_error.replace(".", "").replace("\u202f", "").lstrip("0"))
        if "." not in of_error:
            digits = len(of_error.rstrip("0"))  # zeros of tens and hundreds only hold the place
        self.assertLessEqual(abs(other - error), (0.15 if digits == 1 else 0.0501) * error, shown.text)
        self.assertLessEqual(abs(one - value), 0.5001 * error + 1e-12 * abs(value), shown.text)
        for part, true in ((shown.value, value), (shown.uncertainty, error)):
            self.assertLessEqual(abs(read_back(part) - true), 0.5001 * error + 1e-12 * abs(value))

    @thorough
    @given(sizes, sizes, st.floats(0, 1))
    def test_limits_are_rounded_outwards_and_hardly_wider(self, one: float, other: float, part: float) -> None:
        low, high = sorted((one, other))
        if high - low < 1e-11 * max(abs(low), abs(high)):
            return
        value = low + part * (high - low)
        for given_value in (None, value):
            lower, upper = (read_back(text) for text in limits_text(low, high, value=given_value).split(" to "))
            dust = 1e-9 * max(abs(low), abs(high))
            self.assertLessEqual(lower, low + dust)
            self.assertGreaterEqual(upper, high - dust)
            self.assertLessEqual(max(low - lower, upper - high), 0.1501 * (high - low) + dust)
            self.assertTrue(low <= 0 or lower > 0)  # an interval that excludes zero goes on excluding it
            self.assertTrue(high >= 0 or upper < 0)

    @thorough
    @given(sizes, positive, positive)
    def test_a_value_is_inside_its_interval(self, value: float, below: float, above: float) -> None:
        low, high = value - below, value + above
        if min(below, above) < 1e-11 * abs(value):
            return
        shown, _, rest = with_interval(value, low, high, 0.95).partition(" (95\u00a0% CI ")
        lower, upper = (read_back(text) for text in rest.rstrip(")").split(" to "))
        dust = 1e-9 * max(abs(low), abs(high))
        self.assertLessEqual(lower, read_back(shown) + dust, shown + rest)
        self.assertGreaterEqual(upper, read_back(shown) - dust, shown + rest)

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

    @thorough
    @given(sizes)
    def test_a_share_of_any_size_and_sign(self, value: float) -> None:
        value = min(value, 1.0)
        shown = share(value)
        self.assertEqual(value == 1, shown == "1")
        if not shown.startswith("above"):
            self.assertLessEqual(abs(read_back(shown) - value), 5.1e-5 * max(1.0, 10 * abs(value)), shown)
        self.assertFalse(shown.startswith("−0.0000"), shown)


class ParticleDataGroup(TestCase):
    """Rounding rule and examples of the Particle Data Group, Review of Particle Physics, Introduction, "Rounding" (the
    examples 0.827 ± 0.119 and 0.827 ± 0.367 are quoted from memory)."""

    def test_examples(self) -> None:
        self.assertEqual(round_with_uncertainty(0.827, 0.119).text, "0.83 ± 0.12")
        self.assertEqual(round_with_uncertainty(0.827, 0.367).text, "0.8 ± 0.4")

    def test_ends_of_the_rule(self) -> None:
        shown = {100: "0.100", 354: "0.354", 355: "0.36", 949: "0.95", 950: "0.95", 999: "1.00"}
        for leading in shown:
            digits = 2 if leading < 355 or leading >= 950 else 1
            error = round_with_uncertainty(50.0, leading / 1000).uncertainty
            self.assertEqual(len(error.replace(".", "").lstrip("0")), digits, (leading, error))
        self.assertEqual(uncertainty_decimals(0.0995), 2)
        self.assertEqual(round_with_uncertainty(12.3456, 0.0997).text, "12.35 ± 0.10")


class Examples(TestCase):
    """Seen in the running application."""

    def test_no_digit_is_invented(self) -> None:
        for value, error, shown in [
            (4.1, 2.51, "4.1 ± 2.5"), (0.037, 0.0269, "0.037 ± 0.027"), (-0.033, 0.306, "−0.03 ± 0.31"),
            (0.44, 2.0, "0.4 ± 2.0"), (-1e-17, 4.2e-17, "(−1 ± 4)\u202f×\u202f10⁻¹⁷"), (0.44, 12.0, "0.4 ± 12.0"),
            (0.0, 1.2e-4, "0.00000 ± 0.00012"), (0.0, 1e-9, "(0.0 ± 1.0)\u202f×\u202f10⁻⁹"),
        ]:  # fmt: skip
            self.assertEqual(round_with_uncertainty(value, error).text, shown)
        self.assertEqual(round_with_uncertainty(2.31e-7, 3e-9).value, "2.310\u202f×\u202f10⁻⁷")
        self.assertEqual(round_with_uncertainty(2.31e-7, 3e-9).uncertainty, "3.0\u202f×\u202f10⁻⁹")

    def test_limits(self) -> None:
        self.assertEqual(limits_text(0.05, 2.44), "0.05 to 2.44")
        self.assertEqual(limits_text(-1.13, 29.76), "−2 to 30")
        self.assertEqual(limits_text(30, 40_000, value=1000.0), "30 to 40\u202f000")

    def test_a_value_and_its_interval_share_their_decimals(self) -> None:
        self.assertEqual(
            with_interval(27.0801, 26.8071, 27.3519, 0.95, "g/kg"), "27.08\u00a0g/kg (95\u00a0% CI 26.80 to 27.36)"
        )
        self.assertEqual(with_interval(1.0603, 1.0263, 1.0951, 0.95), "1.060 (95\u00a0% CI 1.026 to 1.096)")

    def test_r_squared_below_minus_one(self) -> None:
        self.assertEqual(share(-30.8123), "−30.81")
        self.assertEqual(share(-1.0), "−1")
        self.assertEqual(share(-0.99999), "−0.99999")
        self.assertEqual(share(-1e-9), "0.0000")

    def test_zero_has_no_power_of_ten(self) -> None:
        self.assertEqual(write(0.0, -5).text, "0")
        self.assertEqual(write(1e-9, -5).text, "0")
