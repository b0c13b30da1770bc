"""Rounding a value together with its uncertainty, and limits so that they hold what they should."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from decimal import ROUND_CEILING, ROUND_FLOOR, Decimal

from ridge.core.numerals import (
    PRECISE,
    THIN,
    NumberText,
    decimal,
    full,
    place,
    plain_digits,
    power_of_ten,
    round_to,
    significant,
    write,
)

FEWEST = 2
"""Significant digits that a value keeps, however large its uncertainty."""
FINEST = "0.02"
"""Share of their width by which limits may be widened when they are rounded."""


def uncertainty_decimals(uncertainty: float) -> int:
    """Decimals an uncertainty justifies: two significant digits when it begins with 1, else one.

    Common practice in teaching laboratories. Negative: to tens, hundreds …
    """
    first = place(uncertainty)
    leading = int(round_to(uncertainty, 20 - first).scaleb(-first))
    if leading == 1:
        return 1 - first
    rounded = round_to(uncertainty, -first)
    return 1 - rounded.adjusted() if rounded.adjusted() > first else -first


def value_decimals(value: float, decimals: int) -> int:
    """So many decimals, or those of ``FEWEST`` significant digits of the value where these are more."""
    return max(decimals, FEWEST - 1 - place(value)) if value else decimals


@dataclass(frozen=True)
class Rounded:
    """A value and its uncertainty as they are shown. ``value`` and ``uncertainty`` stand on their own, each with its power of
    ten; ``text`` and ``latex`` are both together."""

    value: str
    uncertainty: str
    text: str
    latex: str
    full: str


def round_with_uncertainty(value: float, uncertainty: float | None) -> Rounded:
    """``1.607 ± 0.015``: both to the decimals that the standard error justifies.

    A value that drowns in its uncertainty keeps two significant digits (``0.44 ± 12``). Without an uncertainty (None, zero or
    not finite): six significant digits.

    >>> from ridge.core.wording.rounding import round_with_uncertainty
    >>> round_with_uncertainty(1.60693, 0.01473).text
    '1.607 ± 0.015'
    """
    if _certain(value, uncertainty):
        return _alone(value)
    assert uncertainty is not None
    decimals = uncertainty_decimals(uncertainty)
    return _both(value, value_decimals(value, decimals), round_to(uncertainty, decimals), decimals)


def round_with_half_width(value: float, half: float | None, finer: int = 0) -> Rounded:
    """``12.40 ± 2.31``: a value with half the width of its limits, so rounded that they hold all that they should.

    The limits grow by no more than ``FINEST`` of their width. ``finer``: decimals more than that takes.
    """
    if _certain(value, half):
        return _alone(value)
    assert half is not None

    def widened(decimals: int) -> tuple[Decimal, Decimal]:
        """The half-width that holds the limits about the rounded value, and how far that moves one of them at most."""
        # What the rounding of the value moves, its limits have to make up for.
        moved = abs(round_to(value, value_decimals(value, decimals)) - decimal(value))
        found = _rounded(decimal(half) + moved, decimals, ROUND_CEILING)
        return found, found - decimal(half) + moved

    decimals = _fewest(lambda d: widened(d)[1], 2 * half) + finer
    return _both(value, value_decimals(value, decimals), widened(decimals)[0], decimals)


def half_width_text(half: float, beside: str = "") -> str:
    """Half the width of limits, rounded up by no more than ``FINEST`` of the width.

    ``beside``: another one as it is shown in the same sentence; the decimals are no fewer than there.
    """

    def moved(decimals: int) -> Decimal:
        return _rounded(decimal(half), decimals, ROUND_CEILING) - decimal(half)

    fewest = _fewest(moved, 2 * half)
    shown = fewest if "×" in beside else len(beside.partition(".")[2])
    return upper_limit(half, max(fewest, shown)).text


def limit_decimals(low: float, high: float) -> int:
    """The fewest decimals with which two limits, rounded outwards, move by no more than ``FINEST`` of their distance."""

    def moved(decimals: int) -> Decimal:
        ends = _rounded(decimal(low), decimals, ROUND_FLOOR), _rounded(decimal(high), decimals, ROUND_CEILING)
        return max(decimal(low) - ends[0], ends[1] - decimal(high))

    return _fewest(moved, high - low)


def _fewest(moved: Callable[[int], Decimal], width: float) -> int:
    allowed = decimal(width) * Decimal(FINEST) * Decimal("1.000001")
    decimals = -place(width)
    while moved(decimals) > allowed:
        decimals += 1
    return decimals


def _certain(value: float, uncertainty: float | None) -> bool:
    return uncertainty is None or not math.isfinite(uncertainty) or uncertainty <= abs(value) * 1e-14


def _alone(value: float) -> Rounded:
    number = significant(value, 6, strip=True)
    return Rounded(number.text, "", number.text, number.latex, full(value))


def _both(value: float, of_value: int, uncertainty: Decimal, decimals: int) -> Rounded:
    if of_value == decimals + 1:
        decimals = of_value  # side by side they read more easily with even decimals
    rounded = round_to(value, of_value)
    alone, error = write(float(rounded), of_value), write(float(uncertainty), decimals)
    first = max(rounded.adjusted() if rounded else -999, uncertainty.adjusted())
    powered = first >= 6 or first <= -5 or decimals < -2
    if not powered and of_value <= decimals + 3:
        alone, error = plain_digits(rounded, of_value), plain_digits(uncertainty, decimals)
    if not powered or of_value > decimals + 3:
        return Rounded(
            alone.text, error.text, f"{alone.text} ± {error.text}", rf"{alone.latex} \pm {error.latex}", full(value)
        )
    scaled, scaled_error = (
        plain_digits(number.scaleb(-first), max(places, decimals) + first)
        for number, places in ((rounded, of_value), (uncertainty, decimals))
    )
    return Rounded(
        alone.text, error.text, f"({scaled.text} ± {scaled_error.text}){THIN}×{THIN}{power_of_ten(first)}",
        rf"({scaled.latex} \pm {scaled_error.latex}) \times 10^{{{first}}}", full(value),
    )  # fmt: skip


def _rounded(value: Decimal, decimals: int, how: str) -> Decimal:
    # Eight digits of slack: a double that is a rounding error past a plain number does not cost a whole unit.
    slack = abs(value) * Decimal("1e-12")
    nudged = value - slack if how == ROUND_CEILING else value + slack
    return nudged.quantize(Decimal(1).scaleb(-decimals), rounding=how, context=PRECISE)


def round_limits(low: float, high: float, decimals: int) -> tuple[NumberText, NumberText]:
    """Both limits, rounded outwards. Of limits on one side of zero the nearer one keeps two significant digits, however far
    the other one is."""
    of_low = of_high = decimals
    if low > 0:
        of_low = value_decimals(low, decimals)
    elif high < 0:
        of_high = value_decimals(high, decimals)
    if abs(of_low - of_high) == 1:
        of_low = of_high = max(of_low, of_high)
    return lower_limit(low, of_low), upper_limit(high, of_high)


def lower_limit(value: float, decimals: int) -> NumberText:
    """A lower limit rounded down."""
    return write(float(_rounded(decimal(value), decimals, ROUND_FLOOR)), decimals)


def upper_limit(value: float, decimals: int) -> NumberText:
    """An upper limit rounded up."""
    return write(float(_rounded(decimal(value), decimals, ROUND_CEILING)), decimals)
