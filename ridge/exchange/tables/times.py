"""Columns of dates and clock times, turned into elapsed time."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from itertools import pairwise

SECONDS = {"s": 1.0, "min": 60.0, "h": 3600.0, "d": 86400.0}
"""Units of elapsed time and their length in seconds."""
_DAY = 86400.0

_OF_DAY = r"(\d{1,2}:\d\d(?::\d\d(?:[.,]\d+)?)?\s*(?:[ap]\.?m\.?)?(?:\s*(?:Z|UTC|[+-]\d\d:?\d\d))?)"
_DATE = re.compile(rf"(\d{{1,4}})([-./])(\d{{1,2}})\2(\d{{1,4}})(?:[T ,]+{_OF_DAY})?\.?", re.I)
_CLOCK = re.compile(r"(\d{1,2}):(\d\d)(?::(\d\d(?:[.,]\d+)?))?\s*([ap]\.?m\.?)?(?:\s*(?:Z|UTC|[+-]\d\d:?\d\d))?", re.I)
_STOPWATCH = re.compile(r"\d{1,4}:\d\d(?::\d\d)?(?:[.,]\d+)?")
_MONTHS = ["jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec"]
MONTH_WORD = re.compile(r"(?:jan|feb|mar|apr|may|june?|july?|aug|sept?|oct|nov|dec)[a-z]{0,6}\.?", re.I)
_MONTH = r"(?P<month>jan|feb|mar|apr|may|jun|jul|aug|sept?|oct|nov|dec)[a-z]{0,6}\.?"
_NAMED = re.compile(
    rf"(?:(?P<day>\d{{1,2}})\.?[ \-]?{_MONTH}|{_MONTH.replace('month', 'before')}[ \-]?(?P<after>\d{{1,2}}),?)"
    rf"[ ,\-]*(?P<year>\d{{4}}|\d{{2}})(?:[T ,]+(?P<clock>{_OF_DAY}))?",
    re.I,
)


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
        """The largest unit that fits into the usual distance between two times: days for weekly dates."""
        known = sorted(value for value in self.seconds if value is not None)
        steps = sorted(after - before for before, after in pairwise(known) if after > before)
        usual = steps[len(steps) // 2] if steps else 1.0
        return next((unit for unit, length in reversed(SECONDS.items()) if usual >= length * (1 - 1e-9)), "s")


def looks_like_time(cell: str) -> bool:
    """Whether a cell is a date or a clock time."""
    if len(cell) < 4 or len(cell) > 40 or not any(letter in cell for letter in ":-./ "):
        return False
    return any(pattern.fullmatch(cell) for pattern in (_DATE, _CLOCK, _NAMED, _STOPWATCH))


def find_times(cells: Sequence[str], day_first: bool | None = None) -> Times | None:
    """Read a column as dates (with or without clock times) or as clock times; None where most cells are neither.

    Clock times that fall are taken to have passed midnight. ``day_first`` decides between 3.4. and 4.3. where both
    are possible; a point between the numbers says day first, a year in front year, month, day.
    """
    kind = time_kind(cells)
    if kind == "clock":
        return _read_clocks(cells)
    if kind == "date":
        named = sum(_NAMED.fullmatch(cell) is not None for cell in cells if cell)
        if 2 * named > sum(map(bool, cells)):
            return _since_first("date", cells, [_named_moment(cell) for cell in cells], False)
        return _read_dates(cells, day_first)
    return None


def time_kind(cells: Sequence[str]) -> str:
    """ "date" or "clock" where most cells are such, by the first ones; empty where they are neither."""
    sample = [cell for cell in cells if cell][:50]
    for kind, patterns in (("date", (_DATE, _NAMED)), ("clock", (_CLOCK, _STOPWATCH))):
        if sample and 2 * sum(any(pattern.fullmatch(cell) for pattern in patterns) for cell in sample) > len(sample):
            return kind
    return ""


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
    return _at(year, month, day, match[5])


def _at(year: int, month: int, day: int, clock: str | None) -> datetime | None:
    try:
        moment = datetime(year, month, day)
    except ValueError:
        return None
    if clock is None:
        return moment
    seconds = _seconds_of_day(clock.strip())
    return None if seconds is None else moment + timedelta(seconds=seconds)


def _named_moment(cell: str) -> datetime | None:
    """``12 May 2026``, ``12-May-26``, ``May 12, 2026``."""
    match = _NAMED.fullmatch(cell)
    if match is None:
        return None
    month = _MONTHS.index((match["month"] or match["before"])[:3].lower()) + 1
    year = int(match["year"]) + (2000 if len(match["year"]) == 2 else 0)
    return _at(year, month, int(match["day"] or match["after"]), match["clock"])


def _read_clocks(cells: Sequence[str]) -> Times | None:
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
    return _since_first("clock", cells, moments, False)


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
