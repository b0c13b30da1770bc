"""The pieces of an interpolation as equations."""

from __future__ import annotations

from dataclasses import dataclass

from ridge.core.interpolation.base import Piece
from ridge.core.numerals import MINUS, NumberText, significant
from ridge.core.wording.naming import Naming, symbol_latex

DIGITS = 6
NOTHING = 1e-14
_RAISED = str.maketrans("0123456789", "⁰¹²³⁴⁵⁶⁷⁸⁹")


@dataclass(frozen=True)
class PieceText:
    """One piece as text and as LaTeX, with the stretch on which it holds in both."""

    text: str
    latex: str


def word_piece(piece: Piece, naming: Naming) -> PieceText:
    """``y = 1 + 1.5·(x − 2) − 0.5·(x − 2)³ for 2 ≤ x ≤ 4``, to six significant digits; terms of zero are left out."""
    low, high = (significant(end, DIGITS, strip=True) for end in (piece.low, piece.high))
    base, base_latex = _base(low, naming)
    text, latex = "", ""
    sizes = [_size(c, piece.high - piece.low, power) for power, c in enumerate(piece.coefficients)]
    for power, coefficient in enumerate(piece.coefficients):
        if sizes[power] < NOTHING * max(sizes):
            coefficient = 0.0  # what rounding left of a zero
        number = significant(abs(coefficient), DIGITS, strip=True)
        if number.plain == "0" and (power or len(piece.coefficients) > 1):
            continue
        minus = coefficient < 0
        text += _join(text, minus, MINUS) + number.text + _factor(base, power)
        latex += _join(latex, minus, "-") + number.latex + _factor_latex(base_latex, power)
    return PieceText(
        f"{naming.y} = {text or '0'} for {low.text} ≤ {naming.x} ≤ {high.text}",
        rf"{symbol_latex(naming.y)} = {latex or '0'} \quad {low.latex} \le {symbol_latex(naming.x)} \le {high.latex}",
    )


def _size(coefficient: float, width: float, power: int) -> float:
    """The most that a term comes to on its piece; multiplied step by step, since a power raises where it overflows."""
    size = abs(coefficient)
    for _ in range(power if size else 0):
        size *= abs(width)
    return size


def _base(low: NumberText, naming: Naming) -> tuple[str, str]:
    """x counted from the start of the piece."""
    if low.plain == "0":
        return naming.x, symbol_latex(naming.x)
    sign, latex_sign = ("+", "+") if low.plain.startswith("-") else (MINUS, "-")
    return (
        f"({naming.x} {sign} {low.text.removeprefix(MINUS)})",
        rf"\left({symbol_latex(naming.x)} {latex_sign} {low.latex.removeprefix('-')}\right)",
    )


def _join(before: str, minus: bool, sign: str) -> str:
    if not before:
        return sign if minus else ""
    return f" {sign} " if minus else " + "


def _factor(base: str, power: int) -> str:
    return "" if not power else f"·{base}" + (str(power).translate(_RAISED) if power > 1 else "")


def _factor_latex(base: str, power: int) -> str:
    return "" if not power else rf"\,{base}" + (f"^{{{power}}}" if power > 1 else "")
