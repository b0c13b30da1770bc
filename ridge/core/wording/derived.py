"""Derived quantities in words and numbers."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from ridge.core.numerals import full
from ridge.core.predicting.derived import derived_of, limits_of
from ridge.core.predicting.parameter_limits import Interval
from ridge.core.results.fit import Fit
from ridge.core.wording.families import in_names
from ridge.core.wording.limits import level_text, limits_text, value_in_limits, with_interval
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


UNEQUAL = 1.25
"""Ratio of the two sides of an interval beyond which ± is not shown."""


def _one_sided(value: float, low: float, high: float) -> bool:
    below, above = value - low, high - value
    return not math.isfinite(high - low) or max(below, above) > UNEQUAL * min(below, above)


def word_derived(
    fit: Fit, naming: Naming, limits: Mapping[str, Interval] | None = None, level: float = 0.95
) -> list[DerivedText]:
    """Every derived quantity of the fit with its limits at ``level``; where ± would mislead (see ``limits``), with its interval
    instead."""
    width = fit.critical_value(level)
    listed = []
    for quantity in derived_of(fit):
        error = None if fit.statistics.exact else quantity.standard_error
        unit = "°" if quantity.angle else naming.unit(*quantity.unit)
        value = round_with_uncertainty(quantity.value, error).text
        text, said = with_unit(value, unit), ""
        if error and width is not None and math.isfinite(error):
            low, high = limits_of(fit, quantity, limits or {}, level)
            said = limits_text(low, high, value=quantity.value)
            of = (limits or {}).get(quantity.of)
            if _one_sided(quantity.value, low, high) or (of is not None and of.method == "profile"):
                # A ± would hide how unequal the limits are.
                value = value_in_limits(quantity.value, low, high).text
                text = with_interval(quantity.value, low, high, level, unit)
                if not (math.isfinite(low) or math.isfinite(high)):
                    text = f"{text} (no finite {level_text(level)} limits)"
        name = naming.in_symbols(quantity.name)
        listed.append(
            DerivedText(name, text, full(quantity.value), value, unit, said, in_names(quantity.meaning, naming))
        )
    return listed
