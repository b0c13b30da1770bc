"""Numbers of hours or minutes as a clock shows them."""

from __future__ import annotations

from ridge.core.decimal_sign import in_sign
from ridge.core.numerals import MINUS


def clock_text(value: float, unit: str) -> str:
    """``13:30`` for 13.5 in a column of ``h:min`` or ``min:s``, ``13:30:00`` in one of ``h:min:s``; parts of the last unit
    with as many as three decimals."""
    sixtieths = round(abs(value) * (3600 if unit == "h:min:s" else 60), 3)
    sign = MINUS if value < 0 and sixtieths else ""
    whole, rest = divmod(sixtieths, 60)
    last = in_sign(f"{rest:06.3f}".rstrip("0").rstrip("."))
    if unit != "h:min:s":
        return f"{sign}{whole:.0f}:{last}"
    hours, minutes = divmod(whole, 60)
    return f"{sign}{hours:.0f}:{minutes:02.0f}:{last}"
