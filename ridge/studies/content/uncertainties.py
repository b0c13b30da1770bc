"""Uncertainties as they are typed for a column or in a cell, and the standard uncertainty that each comes to.

``0.5`` is a standard uncertainty, ``2 %`` one in per cent of the value. ``±0.5`` are limits of a scale or a display, between which
every value is equally likely (JCGM 100:2008, 4.3.7: divided by √3); ``half a digit`` are those of the last digit that is shown (F.2.2.1).
``0.5 (k = 2)`` and ``0.5 (95 %)`` are expanded ones (4.3.3, 4.3.4). Several parts, ``0.5; ±0.2``, count in quadrature (5.1.2). A part that all
readings share, ``0.2 shared`` for a zero that is off or ``1 % shared`` for a scale factor, weighs none of them and moves them together (5.2).
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
from scipy.special import ndtri

from ridge.core.carrying import expanded, rectangular
from ridge.core.decimal_sign import cached
from ridge.core.numerals import capital, significant
from ridge.core.readings import Array
from ridge.exchange.cells import NotANumber, read_number

CARRIED = "carried"
"""What is typed for a calculated column whose uncertainty comes from that of its sources."""
MOST_PARTS = 6
_LOOKED_AT = 1000
_WHAT = "write a number above zero, or a percentage of each value such as 2 %"
_SHARED = re.compile(
    r"(?:shared|common)\s+(?P<one>.+)|(?P<other>.+?)\s*\(?\s*(?:shared(?:\s+by\s+all)?|in\s+common)\s*\)?", re.I
)
PARTED = re.compile(r"(\s*;\s*|\s+\+\s+|\s+and\s+)")
"""What stands between parts; split by it, every second piece is a part."""
_EXPANDED = re.compile(
    r"(?P<size>.+?)\s*(?:\(\s*|,\s+|\s)(?:k\s*=\s*(?P<k>[^()\s]+)|(?P<level>[^()\s%]+)\s*%)\s*\)?", re.I
)
_LIMITS = re.compile(r"(?:±|\+\s?/?\s?[-−]|within(?:\s+±)?)\s*(?P<size>.+)", re.I)
_DIGIT = re.compile(r"(?:(?P<half>half\s+(?:a|the\s+last)|½)|(?P<size>[^\s%]+))\s*digits?", re.I)
_PLAIN = re.compile(r"\s*[+\-−]?\d*(?:[.,](?P<decimals>\d*))?\s*")
_PER_CENT = re.compile(r"(?P<size>[^%]*?)\s*(?:%|per ?cent)(?:\s+of\s+(?:the\s+|each\s+)?(?:value|reading)s?)?", re.I)


@dataclass(frozen=True)
class Part:
    """``size`` in units of the column, per cent of each value or last digits, of the kind given. ``shared``: whether it is the same for
    every reading."""

    size: float
    of: Literal["unit", "value", "digit"] = "unit"
    kind: Literal["standard", "limits", "expanded"] = "standard"
    factor: float = 1.0
    shared: bool = False

    @property
    def standard(self) -> float:
        if self.kind == "limits":
            return rectangular(self.size)
        return expanded(self.size, self.factor)

    def shared_as(self, unit: str) -> str:
        """What it is where all readings share it, with how it was given: ``scale factor ±1 %``."""
        size = self.text.removeprefix("standard uncertainty ")
        what = "scale factor" if self.of == "value" else "zero"
        return f"{what} {size}" if self.of != "unit" or not unit else f"{what} {size}\u00a0{unit}"

    @property
    def text(self) -> str:
        """How it was given: ``limits ±0.5``."""
        unit = {"unit": "", "value": "\u00a0%", "digit": " last digit" if self.size <= 1 else " last digits"}[self.of]
        size = f"{significant(self.size, 6, strip=True).text}{unit}"
        if self.kind == "limits":
            return f"limits ±{size}, divided by √3"
        if self.kind == "expanded":
            return f"{size} expanded with k = {significant(self.factor, 3, strip=True).text}"
        return f"standard uncertainty {size}"


@dataclass(frozen=True)
class TypedUncertainty:
    """An uncertainty as it was typed: the parts that each value has for itself, none where nothing was, and those that all ``share``."""

    parts: tuple[Part, ...] = ()
    shared: tuple[Part, ...] = ()

    @property
    def needs_digits(self) -> bool:
        return any(part.of == "digit" for part in (*self.parts, *self.shared))

    @property
    def plain(self) -> bool:
        """Whether it is given as the standard uncertainty that it is used as."""
        return len(self.parts) < 2 and all(part.kind == "standard" for part in self.parts)

    @property
    def share(self) -> float | None:
        """The share of each value that it is, where it is nothing else: 0.02 for ``2 %``."""
        if not self.parts or any(part.of != "value" for part in self.parts):
            return None
        return float(np.sqrt(sum(part.standard**2 for part in self.parts))) / 100

    @property
    def relative(self) -> float:
        """The part of it that is a share of each value, as that share: 0.02 for ``0.5; 2 %``."""
        return float(np.sqrt(sum(part.standard**2 for part in self.parts if part.of == "value"))) / 100

    @property
    def text(self) -> str:
        """How it was given, what each value has for itself."""
        return " and ".join(part.text for part in self.parts)

    def standard(self, values: Array, digit: float = np.nan) -> Array:
        """The standard uncertainty that each value has for itself; ``digit``: what one step of the last digit is."""
        if len(self.parts) == 1:
            return self._one(self.parts[0], values, digit)
        with np.errstate(over="ignore", under="ignore"):
            squares = sum((self._one(part, values, digit) ** 2 for part in self.parts), np.zeros_like(values))
            return np.sqrt(squares)

    def shifts(self, values: Array, digit: float = np.nan) -> list[Array]:
        """By how much one standard uncertainty of each shared part moves each value: a share of the value with its sign."""
        return [
            part.standard / 100 * values if part.of == "value" else self._one(part, values, digit)
            for part in self.shared
        ]

    def _one(self, part: Part, values: Array, digit: float) -> Array:
        if part.of == "value":
            return in_percent(np.full(len(values), part.standard), values)
        return np.full(len(values), part.standard * (digit if part.of == "digit" else 1.0))


@cached(512)
def read_uncertainty(text: str) -> TypedUncertainty:
    """What was typed as an uncertainty. Raises NotANumber with what is wrong, and with what."""
    body = text.strip()
    if not body:
        return TypedUncertainty()
    pieces = PARTED.split(body)[::2]
    if len(pieces) > MOST_PARTS:
        raise NotANumber(f"'{body}' has {len(pieces)} parts; {MOST_PARTS} at most")
    parts = [_shared_or_own(piece, body) for piece in pieces]
    return TypedUncertainty(tuple(one for one in parts if not one.shared), tuple(one for one in parts if one.shared))


def _shared_or_own(text: str, whole: str) -> Part:
    match = _SHARED.fullmatch(text)
    return _part(text, whole) if match is None else replace(_part(match["one"] or match["other"], whole), shared=True)


def _part(text: str, whole: str) -> Part:
    if match := _LIMITS.fullmatch(text):
        inside = match["size"].strip()
        if wide := _EXPANDED.fullmatch(inside):  # as certificates write it: ±0.5 (k = 2)
            return _expanded(wide, whole)
        size, of = _size(inside, whole)
        return Part(size, of, "limits")
    if wide := _EXPANDED.fullmatch(text):
        return _expanded(wide, whole)
    size, of = _size(text, whole)
    # What a digit leaves open lies anywhere within it.
    return Part(size, of, "limits" if of == "digit" else "standard")


def _expanded(match: re.Match[str], whole: str) -> Part:
    size, of = _size(match["size"], whole)
    if match["k"]:
        return Part(size, of, "expanded", _above_zero(match["k"], whole))
    level = _above_zero(match["level"], whole)
    if not 50 <= level < 100:
        raise NotANumber(f"'{whole}' has a level of {match['level']} %: it lies between 50 % and 100 %")
    return Part(size, of, "expanded", float(ndtri((1 + level / 100) / 2)))


def _size(text: str, whole: str) -> tuple[float, Literal["unit", "value", "digit"]]:
    if match := _DIGIT.fullmatch(text):
        return (0.5 if match["half"] else _above_zero(match["size"], whole)), "digit"
    if match := _PER_CENT.fullmatch(text):
        return _above_zero(match["size"], whole), "value"
    return _above_zero(text, whole), "unit"


def _above_zero(text: str, whole: str) -> float:
    try:
        size = read_number(text)
    except NotANumber as reason:
        why = str(reason).partition("' ")[2].partition(":")[0] or "is not a number"
        why = "has more than one % sign" if whole.count("%") > 1 else "is not a number" if "percentage" in why else why
        raise NotANumber(f"'{whole}' {why}: {_WHAT}") from None
    if size is None or not size > 0:
        raise NotANumber(f"'{whole}' is not above zero: {_WHAT}")
    return size


def uncertainty_problem(text: str, *, calculated: bool) -> str:
    """What is wrong with an uncertainty as typed for a column; empty if nothing."""
    if text.strip().lower() == CARRIED:
        return "" if calculated else "Only a calculated column has an uncertainty that is carried from its sources."
    try:
        found = read_uncertainty(text)
    except NotANumber as reason:
        return f"{capital(str(reason))}."
    if calculated and found.needs_digits:
        return "A calculated column has no last digit of its own."
    return ""


def last_digit(cells: Sequence[str], exponent: int = 0) -> float:
    """What one step of the last digit is in cells as typed: of the finest of the first thousand, since a zero at the end is often
    left out. NaN where none is a plain number."""
    most: int | None = None
    for cell in cells[:_LOOKED_AT]:
        if cell.strip() and (match := _PLAIN.fullmatch(cell)):
            most = max(most or 0, len(match["decimals"] or ""))
    return float("nan") if most is None else float(10.0 ** (exponent - most))


def in_percent(share: Array, values: Array) -> Array:
    """Uncertainties given as percentages of the values."""
    with np.errstate(invalid="ignore", over="ignore"):
        return share / 100 * np.abs(values)
