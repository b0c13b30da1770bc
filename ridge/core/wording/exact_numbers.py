"""Exact numbers as a working writes them: as fractions as long as one can read them, else as decimals."""

from __future__ import annotations

from dataclasses import dataclass
from decimal import ROUND_HALF_UP, Context, Decimal
from fractions import Fraction
from math import isfinite
from typing import Literal

from ridge.core.decimal_sign import cached
from ridge.core.formula.tree import Node, Number, Operation, negative
from ridge.core.numerals import NumberText, decimal, group, write, write_rounded
from ridge.core.results.steps import Exact

READABLE = 12
"""Digits of numerator and denominator up to which a fraction is shown as one."""
MOST_DIGITS = 10
"""Significant digits of a decimal at most, whatever its places."""
_WIDE = Context(prec=400, rounding=ROUND_HALF_UP, Emax=10**6, Emin=-(10**6))


@dataclass(frozen=True)
class NumberForm:
    """``kind``: "fractions" or "decimals", these with so many ``places``: as many behind the point, and of a number below one as many
    significant digits."""

    kind: Literal["fractions", "decimals"] = "fractions"
    places: int = 4


@dataclass(frozen=True)
class Written:
    """A number as it is shown. ``exact``: its fraction where another number is shown; ``top`` and ``bottom``: of a fraction that is
    shown as one, with ``minus`` before it."""

    number: NumberText
    exact: str = ""
    rounded: bool = False
    minus: bool = False
    top: str = ""
    bottom: str = ""


@cached(8192)
def write_exact(value: Exact, form: NumberForm) -> Written:
    """The number in this form. A fraction that is too long to be read comes as a decimal, with the fraction kept behind it."""
    if isinstance(value, float) and not isfinite(value):
        return Written(write(value, 0))
    if isinstance(value, Fraction) and form.kind == "fractions" and _digits(value) <= READABLE:
        return _as_fraction(value)
    return _as_decimal(value, form.places)


def _digits(value: Fraction) -> int:
    return max(len(str(abs(value.numerator))), len(str(value.denominator)) if value.denominator > 1 else 0)


def _as_fraction(value: Fraction) -> Written:
    minus, size = value < 0, abs(value)
    top, bottom = group(str(size.numerator)), group(str(size.denominator))
    sign, latex_sign = ("\u2212", "-") if minus else ("", "")
    if size.denominator == 1:
        return Written(NumberText(sign + top, latex_sign + _latex(top), str(value)))
    latex = rf"{latex_sign}\frac{{{_latex(top)}}}{{{_latex(bottom)}}}"
    return Written(NumberText(f"{sign}{top}/{bottom}", latex, str(value)), "", False, minus, top, bottom)


def _latex(grouped: str) -> str:
    return grouped.replace("\u202f", r"\,")


def _as_decimal(value: Exact, places: int) -> Written:
    exactly = (
        _WIDE.divide(Decimal(value.numerator), Decimal(value.denominator))
        if isinstance(value, Fraction)
        else decimal(value)
    )
    exact = str(value) if isinstance(value, Fraction) and value.denominator != 1 and len(str(value)) <= 400 else ""
    if not exactly:
        return Written(write(0.0, 0))
    top = exactly.adjusted()
    decimals = min(places if top >= 0 else places - 1 - top, MOST_DIGITS - 1 - top)
    decimals = max(decimals, -top)
    rounded = exactly.quantize(Decimal(1).scaleb(-decimals), context=_WIDE)
    short = rounded.normalize(_WIDE)
    if short == exactly:
        # It ends by itself: nothing was rounded.
        own = max(-int(short.as_tuple().exponent), -short.adjusted() if short.adjusted() >= 6 else 0)
        return Written(write_rounded(short, own), exact if isinstance(value, Fraction) and _recurs(value) else "")
    return Written(write_rounded(rounded, decimals), exact, rounded=True)


def _recurs(value: Fraction) -> bool:
    """Whether its decimals never end."""
    rest = value.denominator
    for prime in (2, 5):
        while rest % prime == 0:
            rest //= prime
    return rest != 1


def number_node(value: Exact, form: NumberForm, texts: dict[str, NumberText], tidy: bool, mark: str = "") -> Node:
    """The number as a part of a formula. ``texts``: how each is written, by its text in the tree, added to. ``tidy``: a plain 0 or 1
    may vanish from sums and products, and signs join; otherwise a negative number stands in brackets. ``mark``: a sign behind it,
    by which it is told from another that is written the same."""

    def written_as(plain: str, text: str, latex: str, size: float = 2.0) -> Number:
        texts[plain + mark] = NumberText(text, latex + mark, plain)
        return Number(size, plain + mark)

    written = write_exact(value, form)
    if not tidy and value < 0:
        number = written.number
        return written_as(f"({number.plain})", f"({number.text})", rf"\left({number.latex}\right)")
    if written.top:
        parts = [written_as(part.replace("\u202f", ""), part, _latex(part)) for part in (written.top, written.bottom)]
        node: Node = Operation("/", *parts)
        return negative(node) if written.minus else node
    plain = written.number.plain.removeprefix("-")
    size = float(plain) if tidy and plain in ("0", "1") else 2.0
    shown = written_as(plain, written.number.text.removeprefix("\u2212"), written.number.latex.removeprefix("-"), size)
    return negative(shown) if written.number.plain.startswith("-") else shown
