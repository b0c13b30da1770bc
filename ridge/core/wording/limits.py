"""Limits in words: both of them, one alone, or none."""

from __future__ import annotations

import math

from ridge.core.numerals import place, significant
from ridge.core.wording.naming import with_unit
from ridge.core.wording.rounding import limit_decimals, lower_limit, round_limits, upper_limit

ALONE = 3
"""Significant digits of a limit that stands alone."""


def level_text(level: float) -> str:
    """``95 %``."""
    return f"{significant(level * 100, 6, strip=True).text}\u00a0%"


def limits_text(low: float, high: float, unit: str = "", finer: int = 0) -> str:
    """``2.12 to 3.42 m``, rounded outwards by no more than a fiftieth of their distance; ``above 2.12 m``; ``no limits``.

    ``finer``: decimals more than that takes.
    """
    if math.isfinite(low) and math.isfinite(high):
        decimals = (limit_decimals(low, high) if high > low else 5 - place(low)) + finer
        lower, upper = round_limits(low, high, decimals)
        return with_unit(f"{lower.text} to {upper.text}", unit)
    if math.isfinite(low):
        return f"above {with_unit(lower_limit(low, ALONE - 1 - place(low) + finer).text, unit)}"
    if math.isfinite(high):
        return f"below {with_unit(upper_limit(high, ALONE - 1 - place(high) + finer).text, unit)}"
    return "no limits"


def from_limits(low: float, high: float, unit: str = "", finer: int = 0) -> str:
    """The same after a value: ``from 2.12 to 3.42 m``, ``above 2.12 m``."""
    return f"{'from ' if math.isfinite(high - low) else ''}{limits_text(low, high, unit, finer)}"


def what_plus_minus_is(level: float, *, limits_too: bool) -> str:
    """What the ± beside parameters and what follows from them are, and the limits that stand instead where it would mislead."""
    said = "± is the standard error."
    if limits_too:
        said += (
            f" Limits that stand in its place are {level_text(level)} confidence limits: there ± would be misleading."
        )
    return said
