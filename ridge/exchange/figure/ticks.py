"""Where an axis has its ticks and what they say: all of one axis in one form, as on the screen."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from ridge.core.numerals import MINUS, power_of_ten, significant, write
from ridge.exchange.figure.content import AxisLook

_CLOCK_STEPS = (1, 2, 5, 10, 15, 30, 60, 120, 180, 360, 720, 1440, 2880, 10080)  # minutes
_MOST = 120
_MINORS = 5
_LARGE, _SMALL = 1e5, 1e-3
"""From which size on, and below which, an axis counts in a power of ten."""


@dataclass(frozen=True)
class Ticks:
    """Places and texts; ``minors`` between them. The texts are multiples of ten to ``exponent``, which the title tells."""

    places: tuple[float, ...]
    texts: tuple[str, ...]
    minors: tuple[float, ...]
    exponent: int = 0


def ticks(look: AxisLook, count: int, *, signed: bool = False) -> Ticks:
    """About ``count`` ticks. ``signed``: with a plus before what is above zero."""
    low, high = look.view
    if look.scale == "log":
        return _logarithmic(low, high, count)
    if look.step and (high - low) / look.step <= _MOST:
        step = look.step
    elif look.clock:
        minutes = (high - low) * 60
        step = next((m for m in _CLOCK_STEPS if minutes / m <= count), math.ceil(minutes / count / 1440) * 1440) / 60
    else:
        step = _round_step((high - low) / count)
    first, last = math.ceil(low / step - 1e-9), math.floor(high / step + 1e-9)
    places = [place * step for place in range(first, last + 1)]
    parts = 4 if look.clock else _MINORS
    minors = [place * step / parts for place in range(first * parts - parts, last * parts + parts)]
    between = tuple(place for place in minors if low < place < high)
    if look.clock:
        return Ticks(tuple(places), tuple(_clock(place) for place in places), between)
    largest = max((abs(place) for place in places), default=0.0)
    exponent = math.floor(math.log10(largest) + 1e-9) if largest and not _SMALL <= largest < _LARGE else 0
    decimals = _decimals(step, exponent)
    texts = [write(float(f"{place / step:.0f}e0") * step / 10.0**exponent, decimals).text for place in places]
    if signed:
        texts = [f"+{text}" if place > 0 else text for text, place in zip(texts, places, strict=True)]
    return Ticks(
        tuple(places),
        tuple("0" if place == 0 else text for text, place in zip(texts, places, strict=True)),
        between,
        exponent,
    )


def _round_step(wanted: float) -> float:
    """The power of ten, or twice or five times it, that is nearest to what is wanted."""
    power = math.floor(math.log10(wanted))
    rest = wanted / 10.0**power
    factor = 10 if rest >= math.sqrt(50) else 5 if rest >= math.sqrt(10) else 2 if rest >= math.sqrt(2) else 1
    return float(f"{factor}e{power}")


def _decimals(step: float, exponent: int) -> int:
    """Decimals that tell multiples of a step from one another."""
    digits = significant(step, 6, strip=True).plain
    mantissa, _, power = digits.partition("e")
    return max(0, len(mantissa.partition(".")[2]) - int(power or 0) + exponent)


def _clock(value: float) -> str:
    minutes = round(abs(value) * 60)
    sign = MINUS if value < 0 and minutes else ""
    return f"{sign}{minutes // 60}:{minutes % 60:02}"


def _logarithmic(low: float, high: float, count: int) -> Ticks:
    decades = range(math.floor(math.log10(low)), math.ceil(math.log10(high)) + 1)
    if math.log10(high / low) < 1:
        return ticks(AxisLook((low, high)), count)
    digits = (1,) if math.log10(high / low) >= 3 else (1, 2, 5)
    every = max(1, math.ceil(len(decades) / max(count, 2)))
    places = [float(f"{digit}e{decade}") for decade in decades[::every] for digit in digits]
    places = [place for place in places if low <= place <= high]
    minors = tuple(
        place for decade in decades for digit in range(2, 10) if low < (place := float(f"{digit}e{decade}")) < high
    )
    plainly = all(_SMALL <= place < _LARGE for place in places)
    texts = (significant(place, 2, strip=True).text if plainly else _of_decade(place) for place in places)
    return Ticks(tuple(places), tuple(texts), minors)


def _of_decade(value: float) -> str:
    power = math.floor(math.log10(value) + 1e-9)
    digit = round(value / 10.0**power)
    return power_of_ten(power) if digit == 1 else f"{digit}×{power_of_ten(power)}"


def spread(places: tuple[float, ...], look: AxisLook, length: float) -> list[float]:
    """How far along an axis of this length each place stands."""
    low, high = look.view
    values = np.array(places, dtype=float)
    if look.scale == "log":
        return list((np.log(values) - math.log(low)) / (math.log(high) - math.log(low)) * length)
    return list((values - low) / (high - low) * length)
