"""Cells as typed, read as numbers."""

from __future__ import annotations

import re
from collections.abc import Sequence

# Sums and differences of numbers in this range stay within what doubles hold.
LARGEST = 1e300
_PLAIN = re.compile(r"[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?")
_POWER = re.compile(r"\s*(?:×|·|\*|x)\s*10\s*(?:\^|\*\*)?\s*\(?([+-]?\d+)\)?$")
_HINTS = (
    (re.compile(r".*\d\s*[%‰]"), "is a percentage: write the number alone and % in the unit"),
    (re.compile(r"[$€£¥]\s*[-+]?\d.*|.*\d\s*[$€£¥]"), "carries a currency sign: write the number alone and the sign in the unit"),
    (re.compile(r"0[xX][0-9a-fA-F]+"), "is hexadecimal: write it as a decimal number"),
    (re.compile(r"(\d{4}[-/]\d{1,2}[-/]\d{1,2}|\d{1,2}[-./]\d{1,2}[-./]\d{2,4})(\D.*)?"), "is a date: take it in as a table, where dates become elapsed time"),
    (re.compile(r"\d{1,4}:\d\d(:\d\d.*)?"), "is a clock time: give the column the unit h:min or min:s"),
    (re.compile(r"=.*"), "is a formula: put it in the column's heading, under 'calculated as'"),
)  # fmt: skip
_RAISED = str.maketrans("⁻⁺⁰¹²³⁴⁵⁶⁷⁸⁹", "-+0123456789")
_PLAIN_LETTERS = frozenset("0123456789.+-eE")


class NotANumber(ValueError):
    """The cell is no number; the message says why, without naming the row."""


def read_number(text: str) -> float | None:
    """The number in a cell; None for an empty one.

    Takes a decimal point or comma, a Unicode minus, E notation, ×10ⁿ, and spaces between thousands.
    ``1,234`` is refused, since it may mean 1.234 or 1234, and so is what lies outside 10⁻³⁰⁰ to 10³⁰⁰ in size,
    where doubles leave no room to compute. Raises NotANumber.
    """
    if _PLAIN.fullmatch(text):
        return _in_range(text, text)
    stripped = text.strip()
    if not stripped:
        return None
    body = stripped.replace("\u2212", "-").replace("\u2013", "-").translate(_RAISED)
    body = _POWER.sub(r"e\1", body)
    if re.fullmatch(r"[+-]?\d{1,3}(?:[\u00a0\u2009\u202f ]\d{3})+(?:[.,]\d*)?", body):
        body = re.sub(r"[\u00a0\u2009\u202f ]", "", body)
    if "," in body:
        if re.fullmatch(r"[+-]?[1-9]\d{0,2},\d{3}", body):
            raise NotANumber(
                f"'{stripped}' may mean {body.replace(',', '.')} or {body.replace(',', '')}: write it without the comma"
            )
        if re.fullmatch(r"[+-]?\d*,\d+(?:[eE][+-]?\d+)?", body):
            body = body.replace(",", ".")
        elif re.fullmatch(r"[+-]?\d{1,3}(?:,\d{3}){2,}(?:\.\d*)?|[+-]?\d{1,3}(?:,\d{3})+\.\d*", body):
            body = body.replace(",", "")
    if _PLAIN.fullmatch(body):
        return _in_range(body, stripped)
    if body.lower().lstrip("+-") in ("inf", "infinity", "∞"):
        raise NotANumber(f"'{stripped}' is not finite")
    shown = stripped if len(stripped) <= 24 else stripped[:23] + "…"
    hint = next((hint for pattern, hint in _HINTS if pattern.fullmatch(stripped)), "")
    raise NotANumber(f"'{shown}' {hint or 'is not a number'}")


def read_plain(cells: Sequence[str]) -> list[float] | None:
    """All cells at once where every one is a plain number (``-1.5e3``) that can be computed with; None otherwise.

    For long columns: some hundred times as fast as one by one.
    """
    if not _PLAIN_LETTERS.issuperset("".join(cells)):
        return None
    try:
        values = list(map(float, cells))
    except ValueError:
        return None
    sizes = [abs(value) for value in values]
    if max(sizes, default=0.0) > LARGEST or 0 < min(filter(None, sizes), default=1.0) < 1 / LARGEST:
        return None
    zeros = (cell for cell, size in zip(cells, sizes, strict=True) if size == 0)
    # What is too small to compute with comes out as zero too: that is refused, one by one.
    return None if any(cell.lower().partition("e")[0].strip("+-0.") for cell in zeros) else values


def _in_range(digits: str, shown: str) -> float:
    value = float(digits)
    if abs(value) > LARGEST:
        raise NotANumber(f"'{shown}' is too large to compute with (10³⁰⁰ at most): use a larger unit")
    if abs(value) < 1 / LARGEST and digits.strip("+-").lower().partition("e")[0].strip("0."):
        raise NotANumber(f"'{shown}' is too small to compute with (10⁻³⁰⁰ at least): use a smaller unit")
    return value


def read_numbers(text: str, unit: str = "") -> list[float]:
    """Several numbers separated by semicolons or white space; of a clock unit they may be clock readings. Raises NotANumber."""
    numbers = []
    for part in re.split(r"[;\s]+", text.strip()):
        number = read_clock(part, unit) if unit else read_number(part)
        if number is not None:
            numbers.append(number)
    if not numbers:
        raise NotANumber("type a number")
    return numbers


CLOCK_UNITS = {"h:min": "h", "min:s": "min", "h:min:s": "h"}
"""Units whose cells are clock readings such as 13:30, and the unit that their numbers are counted in."""
_CLOCK = re.compile(r"([+\-\u2212]?)(\d{1,4}):([0-5]?\d(?:[.,]\d+)?)(?::([0-5]?\d(?:[.,]\d+)?))?")


def read_clock(text: str, unit: str) -> float | None:
    """The number of hours (``h:min``, ``h:min:s``) or minutes (``min:s``) in a cell; plain numbers stay as they are.

    Raises NotANumber.
    """
    match = _CLOCK.fullmatch(text.strip())
    if not match:
        if re.fullmatch(r"\s*[+\-\u2212]?\d+:[\d:.,]+\s*", text):
            raise NotANumber(f"'{text.strip()}' is not a time as {unit}: minutes and seconds go up to 59")
        return read_number(text)
    sign, first, second, third = match.groups()
    if third and unit == "min:s":
        raise NotANumber(f"'{text.strip()}' has hours, and this column is in minutes and seconds")
    if not second.isdigit() and (third or unit != "min:s"):
        raise NotANumber(f"'{text.strip()}' has a fraction of a minute: write seconds instead")
    value = (
        int(first) + float(second.replace(",", ".")) / 60 + (float(third.replace(",", ".")) / 3600 if third else 0.0)
    )
    return -value if sign in ("-", "\u2212") else value
