"""Rounding a value together with its uncertainty."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ridge.core.wording.numbers import (
    THIN,
    NumberText,
    full,
    place,
    plain_digits,
    power_of_ten,
    round_to,
    significant,
)


def uncertainty_decimals(uncertainty: float) -> int:
    """Decimals an uncertainty justifies: two significant digits when it begins with 1, else one.

    Common practice in teaching laboratories. Negative: to tens, hundreds …
    """
    first = place(uncertainty)
    leading = int(round_to(uncertainty, 20 - first).scaleb(-first))
    if leading == 1:
        return 1 - first
    rounded = round_to(uncertainty, -first)
    return 1 - rounded.adjusted() if rounded.adjusted() > first else -first


@dataclass(frozen=True)
class Rounded:
    """A value and its uncertainty that share their decimals."""

    value: str
    uncertainty: str
    text: str
    latex: str
    full: str


def round_with_uncertainty(value: float, uncertainty: float | None) -> Rounded:
    """``1.607 ± 0.015``, both to the decimals that the uncertainty justifies.

    Without an uncertainty (None, zero or not finite): six significant digits.
    """
    if uncertainty is None or not math.isfinite(uncertainty) or uncertainty <= abs(value) * 1e-14:
        number = significant(value, 6, strip=True)
        return Rounded(number.text, "", number.text, number.latex, full(value))
    decimals = uncertainty_decimals(uncertainty)
    top = max(place(value), place(uncertainty)) if value else place(uncertainty)
    if top >= 6 or top <= -5 or decimals < -2:
        scaled, error = (write_scaled(number, decimals, top) for number in (value, uncertainty))
        return Rounded(
            scaled.text, error.text, f"({scaled.text} ± {error.text}){THIN}×{THIN}{power_of_ten(top)}",
            rf"({scaled.latex} \pm {error.latex}) \times 10^{{{top}}}", full(value),
        )  # fmt: skip
    number, error = (plain_digits(round_to(part, decimals), decimals) for part in (value, uncertainty))
    return Rounded(
        number.text, error.text, f"{number.text} ± {error.text}", rf"{number.latex} \pm {error.latex}", full(value)
    )


def write_scaled(value: float, decimals: int, top: int) -> NumberText:
    """The mantissa of ``value`` for a shared power of ten."""
    return plain_digits(round_to(value, decimals).scaleb(-top), decimals + top)
