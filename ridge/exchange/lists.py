"""Lists of numbers as typed: ``0, 2.5, 5 to 20 step 2.5``."""

from __future__ import annotations

import re

import numpy as np

from ridge.exchange.cells import NotANumber, read_clock, read_number

MOST = 2000
STEPS = 10
"""Steps of a range for which none is given."""
_RANGE = re.compile(r"(.+?)\s+to\s+(.+?)(?:\s+(?:step|by)\s+(.+)|\s+in\s+(\d+)\s+steps?)?", re.IGNORECASE)


def read_list(text: str, unit: str = "") -> list[float]:
    """Numbers in the order in which they are asked for: single ones and ranges, with commas, semicolons or line ends
    between them, or spaces between single ones. A comma between digits without a space is a decimal comma.
    ``unit``: that of a column of clock readings, where they may be typed as such.

    Raises NotANumber.
    """
    numbers: list[float] = []
    for part in re.split(r";|\n|,(?=\s)|,\s*$", text.strip()):
        part = part.strip()
        if not part:
            continue
        numbers += _range(part, unit) if re.search(r"\sto\s", part, re.IGNORECASE) else _singles(part, unit)
        if len(numbers) > MOST:
            raise NotANumber(f"that is more than {MOST} numbers at once: take a larger step")
    if not numbers:
        raise NotANumber("type a number")
    return numbers


def _singles(part: str, unit: str) -> list[float]:
    try:
        return [_number(part, unit)]
    except NotANumber:
        words = part.split()
        if len(words) < 2:
            raise
        return [_number(word, unit) for word in words]


def _number(text: str, unit: str) -> float:
    number = read_clock(text, unit) if unit else read_number(text)
    if number is None:
        raise NotANumber("type a number")
    return number


def _range(part: str, unit: str) -> list[float]:
    match = _RANGE.fullmatch(part)
    if not match:
        raise NotANumber(f"'{part}' is not a range: write it as 5 to 20 step 2.5")
    first, last = _number(match[1], unit), _number(match[2], unit)
    if match[4] or not match[3]:
        count = int(match[4]) if match[4] else STEPS
        if not 1 <= count <= MOST:
            raise NotANumber(f"ranges have 1 to {MOST} steps")
        return _even(first, (last - first) / count, count)
    step = _number(match[3], unit)
    if step == 0 or (last - first) / step < 0:
        raise NotANumber(f"steps of {match[3]} do not lead from {match[1]} to {match[2]}")
    steps = (last - first) / step
    if steps > MOST:
        raise NotANumber(f"that is more than {MOST} numbers at once: take a larger step")
    return _even(first, step, int(np.floor(steps + 1e-9)))


def _even(first: float, step: float, count: int) -> list[float]:
    """``count`` steps from the first, without the digits that adding leaves behind."""
    size = max(abs(first), abs(first + count * step), 1e-290)
    decimals = 14 - int(np.ceil(np.log10(size)))
    values = first + np.arange(count + 1) * step
    return (np.round(values, decimals) if decimals < 290 else values).tolist()  # type: ignore[no-any-return]
