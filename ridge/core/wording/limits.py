"""Limits in words: both of them, one alone, or none."""

from __future__ import annotations

import math

from ridge.core.wording.numbers import place, significant, write
from ridge.core.wording.rounding import uncertainty_decimals


def level_text(level: float) -> str:
    """``95 %``."""
    return f"{significant(level * 100, 6, strip=True).text}\u00a0%"


def limits_text(low: float, high: float, unit: str = "") -> str:
    """``2.12 to 3.41 m``, one digit finer than their distance justifies; ``above 2.12 m``; ``no limits``.

    A limit near zero keeps a digit, since its sign may matter.
    """
    after = f"\u00a0{unit}" if unit else ""
    if math.isfinite(low) and math.isfinite(high):
        decimals = uncertainty_decimals(high - low) + 1 if high > low else 6
        nearest = min(abs(low), abs(high))
        if nearest:
            decimals = max(decimals, min(-place(nearest), decimals + 3))
        return f"{write(low, decimals).text} to {write(high, decimals).text}{after}"
    if math.isfinite(low):
        return f"above {significant(low, 3).text}{after}"
    return f"below {significant(high, 3).text}{after}" if math.isfinite(high) else "no limits"
