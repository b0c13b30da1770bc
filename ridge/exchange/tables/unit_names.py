"""Which texts are units. Symbols of the SI Brochure (9th ed., tables 2 to 8) and units in common use beside them; that
list is from memory."""

from __future__ import annotations

import re
from functools import lru_cache

_PREFIXES = ("", "da", "Y", "Z", "E", "P", "T", "G", "M", "k", "h", "d", "c", "m", "µ", "μ", "u", "n", "p", "f", "a")
_WITH_PREFIX = frozenset(
    [
        "m",
        "g",
        "s",
        "A",
        "K",
        "mol",
        "cd",
        "Hz",
        "N",
        "Pa",
        "J",
        "W",
        "C",
        "V",
        "F",
        "Ω",
        "Ω",
        "ohm",
        "S",
        "Wb",
        "T",
        "H",
        "lm",
        "lx",
        "Bq",
        "Gy",
        "Sv",
        "kat",
        "rad",
        "sr",
        "L",
        "l",
        "eV",
        "bar",
        "t",
        "cal",
        "Wh",
        "Ah",
        "M",
        "B",
        "VA",
        "Da",
    ]
)
_ALONE = frozenset(
    [
        "min",
        "h",
        "d",
        "a",
        "yr",
        "wk",
        "°C",
        "℃",
        "°F",
        "°K",
        "°",
        "deg",
        "′",
        "″",
        "%",
        "‰",
        "ppm",
        "ppb",
        "rpm",
        "atm",
        "mmHg",
        "torr",
        "Torr",
        "psi",
        "u",
        "px",
        "pt",
        "in",
        "ft",
        "yd",
        "mi",
        "lb",
        "oz",
        "mph",
        "kt",
        "kn",
        "Å",
        "ha",
        "dB",
        "pH",
        "counts",
        "count",
        "cts",
        "arb.",
        "a.u.",
        "arb.u.",
        "h:min",
        "min:s",
        "h:min:s",
    ]
)
_WORDS = frozenset(
    [
        "second",
        "minute",
        "hour",
        "day",
        "week",
        "month",
        "year",
        "metre",
        "meter",
        "centimetre",
        "centimeter",
        "millimetre",
        "millimeter",
        "kilometre",
        "kilometer",
        "micrometre",
        "gram",
        "kilogram",
        "milligram",
        "litre",
        "liter",
        "millilitre",
        "milliliter",
        "newton",
        "kilonewton",
        "joule",
        "kilojoule",
        "watt",
        "kilowatt",
        "volt",
        "millivolt",
        "amp",
        "ampere",
        "milliampere",
        "ohm",
        "hertz",
        "kilohertz",
        "kelvin",
        "celsius",
        "degree",
        "radian",
        "pascal",
        "kilopascal",
        "tesla",
        "millitesla",
        "farad",
        "coulomb",
        "mole",
        "percent",
        "pixel",
        "inch",
        "foot",
        "lumen",
        "lux",
    ]
)
_FACTOR = re.compile(
    r"\(?(?P<name>[^\W\d_⁰¹²³⁴-⁹]+[.]?|[°′″%‰℃Ω][^\W\d_]*)\)?(?:\^?\(?(?P<power>[-−+]?\d{1,2})\)?|[⁻⁺]?[⁰¹²³⁴-⁹]{1,2})?\)?"
)
_BETWEEN = re.compile(r"\s*(?:[/·*×⋅.]|\s)\s*")


@lru_cache(maxsize=2048)
def is_unit(text: str) -> bool:
    """Whether a text is a unit: ``m/s²``, ``kg·m^-3``, ``°C``, ``mol / L``, ``1/K``, ``seconds``, ``10⁻⁷ A``."""
    body = re.sub(r"^10(?:\^?[-−+]?\d+|[⁻⁺⁰¹²³⁴-⁹]+)\s*[·*×]?\s*(?=\S)", "", text.strip())
    if not body or len(body) > 30:
        return False
    if body in _ALONE:
        return True
    factors = [part for part in _BETWEEN.split(body) if part]
    if factors[:1] == ["1"]:
        factors = factors[1:]
    return bool(factors) and all(_is_factor(part) for part in factors)


def _is_factor(text: str) -> bool:
    match = _FACTOR.fullmatch(text)
    return text in _ALONE or (match is not None and _is_name(match["name"]))


def _is_name(name: str) -> bool:
    if name in _ALONE or name in _WITH_PREFIX:
        return True
    lower = name.lower()
    if lower in _WORDS or (lower.endswith("s") and lower[:-1] in _WORDS):
        return True
    return any(prefix and name.startswith(prefix) and name[len(prefix) :] in _WITH_PREFIX for prefix in _PREFIXES)
