"""Units as texts: products, quotients and powers of what the columns say."""

from __future__ import annotations

import re

_RAISED = str.maketrans("⁻⁰¹²³⁴⁵⁶⁷⁸⁹", "-0123456789")
_LIFTED = str.maketrans("-0123456789", "⁻⁰¹²³⁴⁵⁶⁷⁸⁹")
_FACTOR = re.compile(r"([^\W\d_⁰¹²³⁴⁵⁶⁷⁸⁹]+|[°%µΩ√]+[^\W\d_]*)([⁻⁰¹²³⁴⁵⁶⁷⁸⁹]*)")
_ONE = re.compile(r"[^/·* ]+")


def held_together(unit: str) -> str:
    """In brackets where it is a product or a quotient, so that something can stand before or behind it: ``(m/s)``."""
    return unit if not unit or _ONE.fullmatch(unit) else f"({unit})"


def raised(unit: str, power: int) -> str:
    """``mm²``; brackets round a unit that is a product or quotient."""
    return unit if power == 1 else held_together(unit) + str(power).translate(_LIFTED)


def quotient(upper: str, lower: str) -> str:
    """Unit of a quotient: ``mm/N``, ``1/h``, ``N/(m·s)``; empty for two alike."""
    if upper == lower:
        return ""
    if not lower:
        return upper
    return f"{held_together(upper) if '/' in upper else upper or '1'}/{held_together(lower)}"


def product(factors: list[tuple[str, int]]) -> str:
    """The unit of a product of powers of units: ``m/s²`` for m/s and 1/s, ``1/m`` for m and m⁻².

    Units that share a base are taken apart and put together anew; others stay as they were written.
    """
    given = [(unit, power) for unit, power in factors if unit and power]
    taken = [_taken_apart(unit) for unit, _ in given]
    shared = len(given) > 1 and None not in taken and set(taken[0] or {}) & set(taken[1] or {})
    if not shared:
        upper = "·".join(raised(unit, power) for unit, power in given if power > 0)
        lower = "·".join(raised(unit, -power) for unit, power in given if power < 0)
        return quotient(upper, lower) if lower else upper
    bases: dict[str, int] = {}
    for (_, power), parts in zip(given, taken, strict=True):
        for base, own in (parts or {}).items():
            bases[base] = bases.get(base, 0) + own * power
    upper = "·".join(raised(base, power) for base, power in bases.items() if power > 0)
    lower = "·".join(raised(base, -power) for base, power in bases.items() if power < 0)
    return quotient(upper, lower) if upper or lower else ""


def _taken_apart(unit: str) -> dict[str, int] | None:
    """Powers of the bases of ``m·s⁻²`` or ``g/kg``; None where it is written in another way."""
    upper, *lower = unit.split("/")
    if len(lower) > 1:
        return None
    bases: dict[str, int] = {}
    for text, sign in ((upper, 1), *((part.strip("()"), -1) for part in lower)):
        for factor in text.split("·"):
            if factor == "1" and text == upper:
                continue
            match = _FACTOR.fullmatch(factor)
            if match is None or match[1].startswith(("√", "°", "%")):
                return None
            power = int(match[2].translate(_RAISED) or 1) * sign
            bases[match[1]] = bases.get(match[1], 0) + power
    return bases
