"""Derived quantities in words and numbers."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from ridge.core.numerals import full, significant
from ridge.core.predicting.derived import derived_of, limits_of
from ridge.core.predicting.parameter_limits import Interval
from ridge.core.results.fit import Fit
from ridge.core.wording.families import in_names
from ridge.core.wording.limits import from_limits, limits_text
from ridge.core.wording.naming import Naming, with_unit
from ridge.core.wording.rounding import round_with_uncertainty


@dataclass(frozen=True)
class DerivedText:
    """``text`` value, uncertainty and unit; ``value`` the same without unit; ``full`` every digit. ``interval``: its limits,
    empty where there are none."""

    name: str
    text: str
    full: str
    value: str = ""
    unit: str = ""
    interval: str = ""
    meaning: str = ""


def word_derived(
    fit: Fit, naming: Naming, limits: Mapping[str, Interval] | None = None, level: float = 0.95
) -> list[DerivedText]:
    """Every derived quantity of the fit with its limits at ``level``; one that follows from a parameter whose ± would mislead (see ``limits``), with its
    own limits instead."""
    width = fit.critical_value(level)
    listed = []
    for quantity in derived_of(fit):
        error = None if fit.statistics.exact else quantity.standard_error
        unit = "°" if quantity.angle else naming.unit(*quantity.unit)
        value = round_with_uncertainty(quantity.value, error).text
        text = with_unit(value, unit)
        interval, said = (limits or {}).get(quantity.of), ""
        if interval is not None and interval.method == "profile":
            low, high = limits_of(fit, quantity, limits or {}, level)
            value = significant(quantity.value, 2).text
            text = f"{with_unit(value, unit)}, {from_limits(low, high, unit)}"
            said = limits_text(low, high)
        elif error and width is not None and math.isfinite(error):
            said = limits_text(*limits_of(fit, quantity, limits or {}, level))
        name = naming.in_symbols(quantity.name)
        listed.append(
            DerivedText(name, text, full(quantity.value), value, unit, said, in_names(quantity.meaning, naming))
        )
    return listed
