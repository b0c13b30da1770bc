"""Intervals in words: both limits, one alone, or none."""

from __future__ import annotations

import math

from ridge.core.numerals import NumberText, place, significant, write
from ridge.core.wording.naming import with_unit
from ridge.core.wording.rounding import interval_decimals, lower_limit, round_limits, upper_limit

ALONE = 3
"""Significant digits of a limit without an opposite one."""
CONFIDENCE, PREDICTION = "CI", "prediction interval"
"""Kinds of interval as they are named beside a value."""


def level_text(level: float) -> str:
    """Write a confidence level: ``95 %``."""
    return f"{significant(level * 100, 6, strip=True).text}\u00a0%"


def limits_text(low: float, high: float, unit: str = "", finer: int = 0, value: float | None = None) -> str:
    """Write the limits of an interval, rounded outwards: ``2.12 to 3.42 m``; ``above 2.12 m``; ``no limits``.

    ``finer``: additional decimals. ``value``: the value that is shown beside them, with the same decimals.
    """
    if math.isfinite(low) and math.isfinite(high):
        lower, upper = round_limits(low, high, _decimals(low, high, value) + finer)
        return with_unit(f"{lower.text} to {upper.text}", unit)
    if math.isfinite(low):
        return f"above {with_unit(lower_limit(low, ALONE - 1 - place(low) + finer).text, unit)}"
    if math.isfinite(high):
        return f"below {with_unit(upper_limit(high, ALONE - 1 - place(high) + finer).text, unit)}"
    return "no limits"


def value_in_limits(value: float, low: float, high: float, finer: int = 0) -> NumberText:
    """Write a value with the decimals of its limits; six significant digits where it has none."""
    if math.isfinite(low) and math.isfinite(high):
        return write(value, _decimals(low, high, value) + finer)
    ends = [abs(end - value) for end in (low, high) if math.isfinite(end) and end != value]
    if not ends:
        return significant(value, 6 + finer, strip=True)
    return write(value, interval_decimals(value - ends[0], value + ends[0], value) + finer)


def label_in_limits(value: float, low: float, high: float) -> str:
    """Write a value for a label on the plot: with the decimals of its limits, four significant digits where it has none."""
    bounded = any(math.isfinite(end) and end != value for end in (low, high))
    return (value_in_limits(value, low, high) if bounded else significant(value, 4)).text


def with_interval(
    value: float, low: float, high: float, level: float, unit: str = "", *, kind: str = CONFIDENCE, also: str = "", finer: int = 0
) -> str:  # fmt: skip
    """Write a value with its interval: ``27.08 g/kg (95 % CI 26.81 to 27.35)``.

    ``also``: what else stands in the brackets, such as the time on a clock. Without limits only the value is written.
    """
    said = with_unit(value_in_limits(value, low, high, finer).text, unit)
    notes = [also] if also else []
    if math.isfinite(low) or math.isfinite(high):
        notes.append(f"{level_text(level)} {kind} {limits_text(low, high, finer=finer, value=value)}")
    return f"{said} ({'; '.join(notes)})" if notes else said


def _decimals(low: float, high: float, value: float | None) -> int:
    return interval_decimals(low, high, value) if high > low else 5 - place(low)


def what_plus_minus_is(level: float, *, limits_too: bool) -> str:
    """Say what the ± beside parameters is, and what stands in its place where it would mislead."""
    said = "± is the standard error."
    if limits_too:
        said += f" Where ± would mislead, the {level_text(level)} confidence interval (CI) is given instead."
    return said
