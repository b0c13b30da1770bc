"""Derived quantities in words and numbers."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from ridge.core.wording.naming import Naming, with_unit
from ridge.core.wording.numbers import full
from ridge.core.wording.rounding import round_with_uncertainty

if TYPE_CHECKING:
    from ridge.core.fitting.result import Fit


@dataclass(frozen=True)
class DerivedText:
    """``text`` value, uncertainty and unit; ``full`` every digit."""

    name: str
    text: str
    full: str


def word_derived(fit: Fit, naming: Naming) -> list[DerivedText]:
    """Every derived quantity of the fit."""
    listed = []
    for quantity in fit.derived:
        error = None if fit.statistics.exact else quantity.standard_error
        unit = "°" if quantity.angle else naming.unit(*quantity.unit)
        text = with_unit(round_with_uncertainty(quantity.value, error).text, unit)
        listed.append(DerivedText(naming.in_symbols(quantity.name), text, full(quantity.value)))
    return listed
