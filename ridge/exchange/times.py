"""Columns of dates and clock times, turned into elapsed time."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

SECONDS = {"s": 1.0, "min": 60.0, "h": 3600.0, "d": 86400.0}
"""Units of elapsed time and their length in seconds."""
_DAY = 86400.0
_SPAN = 500  # a unit in which the whole span has at most so many steps is preferred

_DATE = re.compile(r"(\d{1,4})([-./])(\d{1,2})\2(\d{1,4})(?:[T ,]+(\d{1,2}:\d\d.*))?\.?")
_CLOCK = re.compile(r"(\d{1,2}):(\d\d)(?::(\d\d(?:[.,]\d+)?))?\s*([ap]\.?m\.?)?(?:\s*(?:Z|UTC|[+-]\d\d:?\d\d))?", re.I)


@dataclass(frozen=True)
class Times:
    """``seconds`` since the first one, None where a cell is empty or holds something else (``wrong`` rows, from 0).

    ``kind``: "date" or "clock". ``ambiguous``: whether day and month could be told apart either way.
    """

    kind: str
    seconds: tuple[float | None, ...]
    wrong: tuple[int, ...]
    ambiguous: bool
    first: str

    def elapsed(self, unit: str) -> list[str | None]:
        """The elapsed times in a unit of ``SECONDS``, written with as many digits as milliseconds need."""
        return [None if value is None else _write(value / SECONDS[unit]) for value in self.seconds]

    @property
    def fitting_unit(self) -> str:
        """The smallest unit in which the span is a handy number."""
        span = max((abs(value) for value in self.seconds if value is not None), default=0.0)
        return next((unit for unit, length in SECONDS.items() if span / length <= _SPAN), "d")


def find_times(cells: Sequence[str], day_first: bool | None = None) -> Times | None:
    """Read a column as dates (with or without clock times) or as clock times; None where most cells are neither.

    Clock times that fall are taken to have passed midnight. ``day_first`` decides between 3.4. and 4.3. where both
    are possible; a point between the numbers says day first, a year in front year, month, day.
    """
    filled = [cell for cell in cells if cell]
    sample = filled[:50]
    if not sample:
        return None
    dates = sum(_DATE.fullmatch(cell) is not None for cell in sample)
    clocks = sum(_CLOCK.fullmatch(cell) is not None for cell in sample)
    if 2 * dates > len(sample):
        return _read_dates(cells, day_first)
    if 2 * clocks > len(sample):
        return _read_clocks(cells)
    return None


def _read_dates(cells: Sequence[str], day_first: bool | None) -> Times | None:
    matches = [_DATE.fullmatch(cell) for cell in cells]
    parts = [match for match in matches if match and len(match[1]) < 4]
    possible = {order: all(1 <= int(match[3 if order else 1]) <= 12 for match in parts) for order in (True, False)}
    # Where the numbers leave both open, a point means day first (common practice); a stroke leaves it to the user.
    usual = not parts or parts[0][2] == "."
    ambiguous = bool(parts) and all(possible.values()) and not usual
    order = possible[True] if day_first is None else day_first
    moments = [_moment(match, order) if match else None for match in matches]
    return _since_first("date", cells, moments, ambiguous)


def _moment(match: re.Match[str], day_first: bool) -> datetime | None:
    first, second, third = int(match[1]), int(match[3]), int(match[4])
    if len(match[1]) == 4:
        year, month, day = first, second, third
    else:
        day, month = (first, second) if day_first else (second, first)
        year = third if len(match[4]) > 2 else 2000 + third
    try:
        moment = datetime(year, month, day)
    except ValueError:
        return None
    if match[5] is None:
        return moment
    seconds = _seconds_of_day(match[5].strip())
    return None if seconds is None else moment + timedelta(seconds=seconds)


def _read_clocks(cells: Sequence[str]) -> Times:
    start = datetime(2000, 1, 1)
    moments: list[datetime | None] = []
    days, last = 0, -1.0
    for cell in cells:
        seconds = _seconds_of_day(cell) if cell else None
        if seconds is not None:
            if last - seconds > _DAY / 2:
                days += 1
            last = seconds
        moments.append(None if seconds is None else start + timedelta(days=days, seconds=seconds))
    times = _since_first("clock", cells, moments, False)
    assert times is not None
    return times


def _seconds_of_day(text: str) -> float | None:
    match = _CLOCK.fullmatch(text)
    if not match:
        return None
    hours, minutes, seconds = int(match[1]), int(match[2]), float((match[3] or "0").replace(",", "."))
    half = (match[4] or "").lower().replace(".", "")
    if half:
        if not 1 <= hours <= 12:
            return None
        hours = hours % 12 + (12 if half == "pm" else 0)
    if hours > 24 or minutes > 59 or seconds >= 60:
        return None
    return hours * 3600 + minutes * 60 + seconds


def _since_first(kind: str, cells: Sequence[str], moments: list[datetime | None], ambiguous: bool) -> Times | None:
    known = [place for place, moment in enumerate(moments) if moment is not None]
    if not known:
        return None
    origin = moments[known[0]]
    assert origin is not None
    seconds = tuple(None if moment is None else (moment - origin).total_seconds() for moment in moments)
    wrong = tuple(row for row, cell in enumerate(cells) if cell and moments[row] is None)
    return Times(kind, seconds, wrong, ambiguous, cells[known[0]])


def _write(value: float) -> str:
    text = f"{value:.9f}".rstrip("0").rstrip(".")
    return "0" if text in ("", "-0") else text
