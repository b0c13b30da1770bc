"""Derived quantities in words and numbers."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import TYPE_CHECKING

from ridge.core.judging.derived import carried_over
from ridge.core.judging.profile import Interval
from ridge.core.wording.limits import from_limits
from ridge.core.wording.naming import Naming, with_unit
from ridge.core.wording.numbers import full, significant
from ridge.core.wording.rounding import round_with_uncertainty

if TYPE_CHECKING:
    from ridge.core.fitting.result import Fit


@dataclass(frozen=True)
class DerivedText:
    """``text`` value, uncertainty and unit; ``full`` every digit."""

    name: str
    text: str
    full: str


def word_derived(fit: Fit, naming: Naming, limits: Mapping[str, Interval] | None = None) -> list[DerivedText]:
    """Every derived quantity of the fit; one that follows from a parameter whose ± would mislead (see ``limits``), with its
    own limits instead."""
    listed = []
    for quantity in fit.derived:
        error = None if fit.statistics.exact else quantity.standard_error
        unit = "°" if quantity.angle else naming.unit(*quantity.unit)
        text = with_unit(round_with_uncertainty(quantity.value, error).text, unit)
        interval = (limits or {}).get(quantity.of)
        if interval is not None and interval.method == "profile":
            low, high = carried_over(fit, quantity, interval.low, interval.high)
            value = with_unit(significant(quantity.value, 2).text, unit)
            text = f"{value}, {from_limits(low, high, unit)}"
        listed.append(DerivedText(naming.in_symbols(quantity.name), text, full(quantity.value)))
    return listed
