"""Numbers as a person reads them off the screen or paper."""

from __future__ import annotations

import re

from ridge.core.numerals import THIN

_PLAIN = str.maketrans("⁰¹²³⁴⁵⁶⁷⁸⁹⁻−\u00a0", "0123456789-- ", THIN)


def read_back(text: str) -> float:
    """The number of ``−1.20 × 10⁻³``, or of that with a unit behind it."""
    plain = text.translate(_PLAIN).replace(" ×", "×").replace("× ", "×")
    found = re.match(r"\s*([±+-]?[0-9.]+)(?:×10(-?[0-9]+))?", plain)
    if found is None:
        raise ValueError(f"no number in {text!r}")
    return float(f"{found[1].lstrip('±')}e{found[2] or 0}")


def read_both(text: str) -> tuple[float, float]:
    """Value and uncertainty of ``(1.20 ± 0.03) × 10⁻³`` or ``1.20 ± 0.03``, units behind them or not."""
    shared = re.match(r"\((.*?) ± (.*?)\)(\s?×\s?10[⁰¹²³⁴⁵⁶⁷⁸⁹⁻]+)?", text)
    if shared:
        return read_back(shared[1] + (shared[3] or "")), read_back(shared[2] + (shared[3] or ""))
    value, error = text.split(" ± ")
    return read_back(value), read_back(error)


def read_interval(text: str) -> tuple[float, float, float]:
    """Value and limits of ``27.08 g/kg (95 % CI 26.81 to 27.35)``, of any kind of interval."""
    value, _, rest = text.partition(" (")
    found = re.search(r"(?:CI|interval) (.+?) to ([^);]+)", rest)
    if found is None:
        raise ValueError(f"no interval in {text!r}")
    return read_back(value), read_back(found[1]), read_back(found[2])


def as_formula(equation: str) -> str:
    """The right side of an equation as shown, in the formula language."""
    right = equation.partition(" = ")[2].replace("\u202f×\u202f10", "*10^").replace(THIN, "")
    right = re.sub(r"\^([⁰¹²³⁴⁵⁶⁷⁸⁹⁻]+)", lambda power: "^(" + power[1].translate(_PLAIN) + ")", right)
    return right.replace("e^", "exp").replace("·", "*").replace("\u2212", "-")
