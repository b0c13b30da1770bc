"""Round a value together with its standard error, or with the limits of its interval."""

from __future__ import annotations

import math
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

FEWEST = 1
"""Significant digits kept by a limit that must not become zero."""
TOLERANCES = {1: "0.15", 2: "0.05"}
"""Share by which rounding may change an uncertainty or the width of an interval, by its significant digits."""
MOST_DECIMALS = 400
"""More than any double needs."""


def uncertainty_decimals(uncertainty: float) -> int:
    """Return the decimals that an uncertainty justifies; negative for tens, hundreds …

    Rounding rule of the Particle Data Group (Review of Particle Physics, Introduction, section "Rounding"): of the three
    leading digits, 100 to 354 keep two digits, 355 to 949 keep one, 950 to 999 are rounded up to 1000 and keep two.

    >>> from ridge.core.wording.rounding import uncertainty_decimals
    >>> [uncertainty_decimals(error) for error in (0.0119, 0.0367, 0.0967)]
    [3, 2, 2]
    """
    first = place(uncertainty)
    rounded = round_to(uncertainty, 2 - first)
    leading = int(rounded.scaleb(2 - rounded.adjusted()))
    return (1 if leading < 355 else 0) - rounded.adjusted()


@dataclass(frozen=True)
class Rounded:
    """A value and its standard error for display.

    ``value`` and ``uncertainty`` can stand alone, each with its power of ten; ``text`` and ``latex`` show both together.
    """

    value: str
    uncertainty: str
    text: str
    latex: str
    full: str


def round_with_uncertainty(value: float, uncertainty: float | None) -> Rounded:
    """Round a value and its standard error to the same decimals (see ``uncertainty_decimals``).

    A value that would lose all its significant digits gets one more decimal, and so does its error (``0.4 ± 2.5``). Without
    an uncertainty (None, zero or not finite) the value keeps six significant digits.

    >>> from ridge.core.wording.rounding import round_with_uncertainty
    >>> round_with_uncertainty(1.60693, 0.01473).text
    '1.607 ± 0.015'
    """
    if uncertainty is None or not math.isfinite(uncertainty) or uncertainty <= abs(value) * 1e-14:
        number = significant(value, 6, strip=True)
        return Rounded(number.text, "", number.text, number.latex, full(value))
    decimals = _with_value(value, uncertainty_decimals(uncertainty))
    rounded, error = round_to(value, decimals), round_to(uncertainty, decimals)
    alone, alone_error = write(float(rounded), decimals), write(float(error), decimals)
    first = max(rounded.adjusted() if rounded else -999, error.adjusted())
    if first >= 6 or first <= -5 or decimals < -2:
        scaled, scaled_error = (
            plain_digits(number.scaleb(-first), decimals + first, MOST_DECIMALS) for number in (rounded, error)
        )
        text = f"({scaled.text} ± {scaled_error.text}){THIN}×{THIN}{power_of_ten(first)}"
        latex = rf"({scaled.latex} \pm {scaled_error.latex}) \times 10^{{{first}}}"
    else:
        alone, alone_error = (plain_digits(number, decimals, MOST_DECIMALS) for number in (rounded, error))
        text, latex = f"{alone.text} ± {alone_error.text}", rf"{alone.latex} \pm {alone_error.latex}"
    return Rounded(alone.text, alone_error.text, text, latex, full(value))


def _with_value(value: float, decimals: int) -> int:
    """One decimal more where the value would lose all its significant digits."""
    return decimals + 1 if value and not round_to(value, decimals) else decimals


def interval_decimals(low: float, high: float, value: float | None = None) -> int:
    """Return the decimals of the limits of an interval, and of the value inside it.

    The half-width, or the smaller distance from ``value`` to a limit, is rounded like a standard error. More decimals follow
    where rounding the limits outwards would widen the interval by more than ``TOLERANCES``, or where the value would lose all
    its digits.

    >>> from ridge.core.wording.rounding import interval_decimals
    >>> interval_decimals(26.807, 27.352, 27.08)
    2
    """
    half = min([side for side in (abs(high - (value or 0.0)), abs((value or 0.0) - low)) if side > 0], default=0.0)
    if value is None or not half:
        half = (high - low) / 2
    decimals = least = uncertainty_decimals(half)
    if value is not None:
        decimals = _with_value(value, decimals)
    width = decimal(high) - decimal(low)
    while decimals < least + 4:
        shown = _rounded(decimal(high), decimals, ROUND_CEILING) - _rounded(decimal(low), decimals, ROUND_FLOOR)
        digits = decimals + place(half) + 1
        if shown - width <= width * Decimal(TOLERANCES.get(digits, "0.05")):
            break
        decimals += 1
    return decimals


def _rounded(value: Decimal, decimals: int, how: str) -> Decimal:
    # Slack of 1e-12: a double that is a rounding error past a short number does not cost a whole unit.
    slack = abs(value) * Decimal("1e-12")
    nudged = value - slack if how == ROUND_CEILING else value + slack
    return nudged.quantize(Decimal(1).scaleb(-decimals), rounding=how, context=PRECISE)


def round_limits(low: float, high: float, decimals: int) -> tuple[NumberText, NumberText]:
    """Round both limits outwards. A limit near zero never becomes zero: an interval that excludes zero goes on doing so."""
    of_low = of_high = decimals
    if low > 0:
        of_low = _above_zero(low, decimals, ROUND_FLOOR)
    elif high < 0:
        of_high = _above_zero(high, decimals, ROUND_CEILING)
    if abs(of_low - of_high) == 1:
        of_low = of_high = max(of_low, of_high)
    return lower_limit(low, of_low), upper_limit(high, of_high)


def _above_zero(limit: float, decimals: int, how: str) -> int:
    """``decimals``, or those of ``FEWEST`` significant digits where the limit would become zero."""
    return decimals if _rounded(decimal(limit), decimals, how) else FEWEST - 1 - place(limit)


def lower_limit(value: float, decimals: int) -> NumberText:
    """Round a lower limit down."""
    return write(float(_rounded(decimal(value), decimals, ROUND_FLOOR)), decimals)


def upper_limit(value: float, decimals: int) -> NumberText:
    """Round an upper limit up."""
    return write(float(_rounded(decimal(value), decimals, ROUND_CEILING)), decimals)
