"""What stands over a column of numbers or beside an axis: a quantity over its unit, as the SI Brochure (9th ed., section
5.4.1) has it: ``v / (m/s)``. One form for screen, paper, figure and files."""

from __future__ import annotations

from ridge.core.numerals import power_of_ten
from ridge.core.wording.units import held_together


def over(unit: str, exponent: int = 0) -> str:
    """What a quantity is divided by to give the numbers shown: ``(m/s)``; ``(10⁻³ m)`` for numbers of thousandths."""
    return held_together(" ".join(part for part in (power_of_ten(exponent) if exponent else "", unit) if part))


def heading(name: str, symbol: str, unit: str, exponent: int = 0) -> str:
    """``speed v / (m/s)``; ``column`` where nothing is said."""
    said = f"{name} {symbol}".strip() or "column"
    divided = over(unit, exponent)
    return f"{said} / {divided}" if divided else said
