"""Numbers as text: true minus signs, thin spaces between thousands, ×10ⁿ for the very large and small, and the decimal sign of
``ridge.core.decimal_sign``."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from decimal import ROUND_CEILING, ROUND_HALF_UP, Context, Decimal

from ridge.core.decimal_sign import in_sign, latex_in_sign

MINUS = "\u2212"
THIN = "\u202f"  # narrow no-break space
_SUPERSCRIPT = str.maketrans("-0123456789", "⁻⁰¹²³⁴⁵⁶⁷⁸⁹")
MOST_ZEROS = 4
"""Decimals of a zero: with more it is no easier to read, and says no more."""
PRECISE = Context(prec=1000, rounding=ROUND_HALF_UP)


def decimal(value: float) -> Decimal:
    """The shortest decimal that reads back as this double: what a person would write."""
    return Decimal(repr(float(value)))


def place(value: float) -> int:
    """Power of ten of the first significant digit; 0 for zero."""
    return decimal(value).adjusted() if value else 0


def round_to(value: float, decimals: int) -> Decimal:
    """Rounded half up to so many decimals (negative: to tens, hundreds …)."""
    return decimal(value).quantize(Decimal(1).scaleb(-decimals), context=PRECISE)


def power_of_ten(exponent: int) -> str:
    """``10⁻⁷``."""
    return f"10{str(exponent).translate(_SUPERSCRIPT)}"


def group(digits: str) -> str:
    """Thin spaces between thousands, from five digits before the point on."""
    whole, point, rest = digits.partition(".")
    sign, whole = (whole[0], whole[1:]) if whole[:1] in "-−" else ("", whole)
    if len(whole) > 4:
        whole = f"{int(whole):,}".replace(",", THIN)
    return sign + whole + point + rest


@dataclass(frozen=True)
class NumberText:
    """One number in two notations."""

    text: str
    latex: str
    plain: str
    """Digits that any program reads back: ASCII minus, no spaces, E notation."""


def write(value: float, decimals: int) -> NumberText:
    """``value`` rounded to so many decimals."""
    if not math.isfinite(value):
        infinite = "∞" if value > 0 else f"{MINUS}∞"
        return (
            NumberText("undefined", r"\text{undefined}", "")
            if math.isnan(value)
            else NumberText(infinite, r"\infty", "")
        )
    return write_rounded(round_to(value, decimals), decimals)


def write_rounded(rounded: Decimal, decimals: int) -> NumberText:
    """A number that was already rounded to so many decimals, with a power of ten where it is very large or small."""
    top = rounded.adjusted() if rounded else 0
    if rounded and (top >= 6 or top <= -5 or decimals < -2):
        mantissa = rounded.scaleb(-top)
        digits = f"{mantissa:f}" if decimals + top >= 0 else f"{mantissa:.0f}"
        if decimals + top >= 0:
            digits = f"{mantissa:.{decimals + top}f}"
        text = f"{in_sign(digits.replace('-', MINUS))}{THIN}×{THIN}{power_of_ten(top)}"
        return NumberText(text, rf"{latex_in_sign(digits)} \times 10^{{{top}}}", f"{digits}e{top}")
    return plain_digits(rounded, decimals)


def plain_digits(rounded: Decimal, decimals: int, most_zeros: int = MOST_ZEROS) -> NumberText:
    """Write a number that is already rounded, without a power of ten. ``most_zeros``: decimals of a zero."""
    rounded, decimals = (abs(rounded), min(decimals, most_zeros)) if rounded == 0 else (rounded, decimals)
    digits = f"{rounded:.{max(decimals, 0)}f}"
    grouped = group(digits)
    return NumberText(in_sign(grouped.replace("-", MINUS)), latex_in_sign(grouped).replace(THIN, r"\,"), digits)


def significant(value: float, digits: int = 4, *, strip: bool = False) -> NumberText:
    """Write a value to so many significant digits; ``strip`` drops zeros at the end.

    >>> from ridge.core.numerals import significant
    >>> significant(1000, 4, strip=True).text, significant(1000, 2, strip=True).text, significant(0.5, 4, strip=True).text
    ('1000', '1 × 10³', '0.5')
    """
    if not math.isfinite(value) or value == 0:
        return write(value, 0)
    decimals = digits - 1 - place(value)
    rounded = round_to(value, decimals)
    decimals = digits - 1 - rounded.adjusted()
    if strip:
        exponent = rounded.normalize().as_tuple().exponent
        # Zeros before the point are digits, not padding, where so many digits are wanted: 1000, not 1 × 10³.
        least = 0 if decimals >= 0 else -place(float(rounded))
        decimals = min(decimals, max(-int(exponent), least))
    return write(float(rounded), decimals)


def full(value: float) -> str:
    """Every digit the double carries."""
    return in_sign(repr(float(value)).removesuffix(".0")) if math.isfinite(value) else str(value)


def share(value: float) -> str:
    """Write R² or r, of any sign and size: four decimals, or as many as tell it from ±1, which rounding never reaches.

    Below −1 (R² of a curve worse than the mean) it has four significant digits.

    >>> from ridge.core.numerals import share
    >>> share(0.99996), share(-30.8123), share(1.0)
    ('0.99996', '−30.81', '1')
    """
    if value < 0 and round_to(value, 4):
        return f"{MINUS}{share(-value)}" if value >= -1 else significant(value, 4).text
    if value >= 1:
        return "1"
    digits = 4
    while digits < 12 and round_to(value, digits) == 1:
        digits += 1
    return write(value, digits).text if round_to(value, digits) < 1 else in_sign("above 0.999999999999")


def probability(value: float, at_most: bool = False) -> str:
    """Write a p-value with two significant digits; ``< 0.0001`` below that; ``≤ 0.001`` where it is an upper bound."""
    if value < 1e-4:
        return in_sign("< 0.0001")
    if not at_most:
        return significant(value, 2).text
    up = decimal(value).quantize(Decimal(1).scaleb(place(value)), rounding=ROUND_CEILING)
    return in_sign(f"≤ {min(up, Decimal(1)).normalize():f}")


MOST_IN_WORDS = 12


def p_text(value: float, name: str = "p") -> str:
    """``p = 0.031``, ``p < 0.0001``."""
    text = probability(value)
    return f"{name} {text}" if text[0] in "<≤" else f"{name} = {text}"


def capital(text: str) -> str:
    """A sentence that begins with a word begins with a capital; one that begins with a symbol stays."""
    return text[0].upper() + text[1:] if re.match(r"[a-z]{2}", text) else text


def count_word(count: int, capital: bool = False) -> str:
    """Small counts as words, as in running text."""
    words = ["no", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve"]
    word = words[count] if count < len(words) else group(str(count))
    return word.capitalize() if capital else word


def count_words(*counts: int) -> list[str]:
    """Counts of one sentence alike: as words, or all as figures where one of them is no small one; ``none`` for zero."""
    if max(counts) > MOST_IN_WORDS:
        return ["none" if count == 0 else group(str(count)) for count in counts]
    return ["none" if count == 0 else count_word(count) for count in counts]


def join(parts: list[str]) -> str:
    """``a, b and c``."""
    return parts[0] if len(parts) == 1 else f"{', '.join(parts[:-1])} and {parts[-1]}"


def name_rows(rows: tuple[int, ...] | list[int], at_most: int = 6) -> str:
    """``row 7``, ``rows 3 and 9``, ``rows 2 to 5``, from 0-based rows in rising order."""
    stretches: list[tuple[int, int]] = []
    for row in rows:
        if stretches and row == stretches[-1][1] + 1:
            stretches[-1] = (stretches[-1][0], row)
        else:
            stretches.append((row, row))
    parts: list[str] = []
    for first, last in stretches:
        parts += (
            [f"{first + 1} to {last + 1}"] if last > first + 1 else [str(row + 1) for row in range(first, last + 1)]
        )
    if len(parts) > at_most:
        parts = [*parts[:at_most], f"{len(parts) - at_most} more"]
    return f"row{'' if len(rows) == 1 else 's'} {join(parts)}"


def number_as_given(value: float) -> str:
    """A number that the user typed: all its digits, in the house's notation."""
    return significant(value, 15, strip=True).text
