"""Units as texts and as pint reads them; see ``coherent`` for formulas with units."""

from __future__ import annotations

import re
from fractions import Fraction
from functools import lru_cache
from typing import Any

import pint

_RAISED = str.maketrans("0123456789-", "⁰¹²³⁴⁵⁶⁷⁸⁹⁻")
_LOWERED = str.maketrans("⁰¹²³⁴⁵⁶⁷⁸⁹⁻", "0123456789-")
_MISREAD = re.compile(r"√(?![A-Za-zµμ°Ω]+(?:$|[·*/⁻² ]))|:|\ba\.\s?u\.|\bM\b")
"""What pint reads as something else than students mean, without a word."""


PintUnit = Any
"""A unit of pint's registry: its classes are made anew for each."""


@lru_cache(maxsize=1)
def _registry() -> Any:
    return pint.UnitRegistry(cache_folder=None, autoconvert_offset_to_baseunit=False)


_SPELLINGS = {
    "Δ°C": "delta_degC",
    "Δ°F": "delta_degF",
    "°C": "degC",
    "°F": "degF",
    "°": "degree",
    "%": "percent",
    "·": "*",
    "−": "-",
    "µ": "u",
    "μ": "u",
}
_OFFSET = re.compile(r"(?<!delta_)\b(degree_Celsius|degree_Fahrenheit)\b")
"""Units with a zero of their own: what is computed with them are differences."""


@lru_cache(maxsize=512)
def read_unit(text: str) -> PintUnit | None:
    """The unit that a text stands for; a plain number for an empty one, None for one that is not known: it stays a text."""
    if not text.strip():
        return _registry().Unit("")
    if _MISREAD.search(text):
        return None
    spelled = re.sub(r"√([A-Za-zµμ°Ω]+)", r"\1**0.5", text.strip())
    spelled = re.sub(r"([⁰¹²³⁴⁵⁶⁷⁸⁹⁻]+)", lambda match: "**" + match[1].translate(_LOWERED), spelled)
    for written, plain in _SPELLINGS.items():
        spelled = spelled.replace(written, plain)
    try:
        unit = _registry().parse_units(spelled)
        return _registry().Unit(_OFFSET.sub(r"delta_\1", str(unit)))
    except Exception:  # pint has no one kind of error for what it cannot read
        return None


def write_unit(unit: PintUnit) -> str:
    """As a page writes it: ``m/s²``."""
    if unit.dimensionless and not dict(unit._units):
        return ""
    above: list[str] = []
    below: list[str] = []
    # A radian beside other units is a plain number (SI Brochure, 9th ed., 2.3.3) and is left out: rad/s of an angle keeps it above.
    parts = {
        name: power
        for name, power in unit._units.items()
        if not (name == "radian" and power < 0 and len(unit._units) > 1)
    }
    for name, power in sorted(parts.items(), key=lambda pair: (pair[1] < 0, pair[0])):
        symbol = _registry().get_symbol(str(name)).replace("Δ", "").replace("delta_", "")
        size = Fraction(str(abs(power))).limit_denominator(12)
        if size == Fraction(1, 2):
            symbol, size = f"√{symbol}", Fraction(1)
        raised = "" if size == 1 else str(size.numerator).translate(_RAISED) if size.denominator == 1 else f"^({size})"
        (above if power > 0 else below).append(symbol + raised)
    top = "·".join(above) or "1"
    if not below:
        return top
    return f"{top}/{below[0]}" if len(below) == 1 else f"{top}/({'·'.join(below)})"


def plain_unit() -> PintUnit:
    """The unit of a plain number."""
    return _registry().Unit("")


def factors_of(unit: PintUnit) -> int:
    """Count the units that a unit is made of."""
    return len((1 * unit).unit_items())


def plain_if_it_is(text: str) -> str:
    """The unit, or nothing where it is a plain 1: N/(kg·m/s²). Unknown ones stay, and so do g/kg and rad."""
    unit = read_unit(text)
    if unit is None or not unit.dimensionless or factors_of(unit) < 2:
        return text
    return "" if abs((1 * unit).to_base_units().magnitude - 1) < 1e-12 else text


def simplified(text: str) -> str:
    """The unit with those that are of one kind drawn together: m·N/mm is N, g/kg a plain number. Others, and unknown ones, stay; numbers
    change by ``factor_between``."""
    unit = read_unit(text)
    if unit is None or factors_of(unit) < 2:
        return text
    if unit.dimensionless:
        return ""
    reduced = (1 * unit).to_reduced_units().units
    return write_unit(reduced) if factors_of(reduced) < factors_of(unit) else text


def has_zero_of_its_own(text: str) -> bool:
    """Whether values in this unit are counted from another zero than those in its base unit: °C, °F."""
    return bool(re.search(r"°C|°F|deg_?[CF]\b|[cC]elsius|[fF]ahrenheit", text)) and not re.search(r"[/·*²⁻Δ]", text)


def factor_between(old: str, new: str) -> float | None:
    """By what numbers in the unit ``old`` are multiplied to be in ``new``; None where there is no such factor."""
    one, other = read_unit(old), read_unit(new)
    if one is None or other is None or one.dimensionality != other.dimensionality:
        return None
    return float((1 * one).to(other).magnitude)
