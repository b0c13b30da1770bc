"""A column written in another unit: its cells, and whatever else holds numbers in the old one."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import replace
from decimal import Context, Decimal
from fractions import Fraction
from math import isfinite, log10
from typing import Any, Literal

from ridge.core.carrying.unit_algebra import factor_between, has_zero_of_its_own
from ridge.core.errors import FormulaError
from ridge.core.formula.parse import rename, same_name, tokens_of
from ridge.core.numerals import significant
from ridge.exchange.cells import CLOCK_UNITS, NotANumber, read_number
from ridge.studies.content.changes.base import Change, ChangeRefused, Outcome
from ridge.studies.content.changes.columns import called, find_column
from ridge.studies.content.changes.whole_table import PutTable
from ridge.studies.content.fields import Key, Unit
from ridge.studies.content.state import AnswerState, ColumnState, FitState, PictureState, ScaleMark, StudyState
from ridge.studies.content.uncertainties import PARTED, last_digit, read_uncertainty

_NUMBER = re.compile(r"[-+\u2212]?(?:\d+(?:[.,]\d*)?|[.,]\d+)(?:[eE][-+]?\d+)?")
_ASKED_IN = {"x": ("y_at_x", "tangent", "area"), "y": ("x_at_y",)}
_SHORT = 12
"""Digits up to which a factor is meant as it is written: 0.3048."""
DIGITS = 15
"""Significant digits of a cell whose new value has no end: what a double holds."""


class ConvertColumn(Change):
    """The values of a column in ``unit`` instead of its own: nothing is measured anew, and every result is the same in the new unit."""

    kind: Literal["convert_column"] = "convert_column"
    key: Key
    unit: Unit

    def apply(self, state: StudyState) -> Outcome:
        column = state.columns[find_column(state, self.key)]
        times = factor_of(column, self.unit)
        if column.role in ("x", "y"):
            _refuse_numbers_in_fits(state, column)
        beside = f"{column.role}_error"
        columns = tuple(
            _converted(one, times, self.unit)
            if one.key == self.key
            else _beside(one, column, times, self.unit)
            if column.role in ("x", "y") and one.role == beside
            else _using(one, column.symbol or column.role, times)
            for one in state.columns
        )
        made = replace(state, columns=columns)
        if column.role in ("x", "y"):
            made = replace(
                made,
                answers=tuple(_answer(one, column.role, times) for one in state.answers),
                fits=tuple(_fit(one, times) for one in state.fits) if column.role == "x" else state.fits,
                plot=_plot(state.plot, column.role, times),
                picture=_picture(state.picture, column.role, times),
            )
        return Outcome(made, PutTable.of(state, whole=True), f"convert {called(column)} to {self.unit}")


def factor_of(column: ColumnState, unit: str) -> Fraction:
    """By what a number of the column is multiplied. Raises ChangeRefused."""
    name = called(column)
    if column.unit in CLOCK_UNITS or unit in CLOCK_UNITS:
        raise ChangeRefused("Clock readings are converted by a calculated column.")
    if has_zero_of_its_own(column.unit) or has_zero_of_its_own(unit):
        raise ChangeRefused(
            f"{column.unit} and {unit} have different zeros. Use a calculated column, such as T + 273.15."
        )
    found = factor_between(column.unit, unit) if column.unit and unit else None
    if found is None:
        raise ChangeRefused(
            f"{name} has no unit that is known."
            if not column.unit
            else f"{column.unit} cannot be converted into {unit or 'a plain number'}."
        )
    if found == 1:
        raise ChangeRefused(
            f"{name} is in {unit} already." if column.unit == unit else f"{column.unit} and {unit} are the same."
        )
    return _exact(found)


def _exact(factor: float) -> Fraction:
    """The factor as it is meant: 1/60, not the double beside it."""
    written = Decimal(repr(factor))
    if len(written.normalize().as_tuple().digits) > _SHORT:
        for candidate in (Fraction(factor).limit_denominator(10**6), Fraction(1 / factor).limit_denominator(10**6)):
            for one in (candidate, 1 / candidate if candidate else candidate):
                if one and abs(float(one) / factor - 1) < 4e-16:
                    return one
    return Fraction(written)


def _refuse_numbers_in_fits(state: StudyState, column: ColumnState) -> None:
    for fit in state.fits:
        accepted = any(one.accepted for one in fit.follows)
        if fit.fixed or fit.by_hand or fit.bounds or fit.values or fit.decimals or accepted:
            raise ChangeRefused(
                f"Fit {fit.letter} holds numbers in {column.unit} (set by hand, fixed, bounds, decimals or an accepted value). "
                "Release these first."
            )


def _converted(column: ColumnState, times: Fraction, unit: str) -> ColumnState:
    if column.formula:
        return replace(
            column,
            formula=f"({column.formula})*{_written(times)}",
            unit=unit,
            uncertainty=_uncertainty(column.uncertainty, times),
            **_limits(column, times),
        )
    # Its multiplier goes with the numbers: in the new unit it would only confuse.
    shift = times * Fraction(10) ** column.exponent
    cells = tuple(map(_Converter(shift), column.cells))
    return replace(
        column,
        cells=cells,
        unit=unit,
        exponent=0,
        uncertainty=_uncertainty(column.uncertainty, times, last_digit(column.cells, column.exponent)),
        **_limits(column, shift),
    )


def _beside(column: ColumnState, of: ColumnState, times: Fraction, unit: str) -> ColumnState:
    """The column of uncertainties of the converted one, each as it may be typed; those in per cent stay."""
    if column.formula:
        column = _using(column, of.symbol or of.role, times)
    if column.unit == "%":
        return column
    named = unit if column.unit == of.unit else column.unit
    if column.formula:
        return replace(column, formula=f"({column.formula})*{_written(times)}", unit=named)
    shift = times * Fraction(10) ** column.exponent
    cells = tuple(_uncertainty(cell, shift) for cell in column.cells)
    return replace(column, cells=cells, unit=named, exponent=0)


def _using(column: ColumnState, symbol: str, times: Fraction) -> ColumnState:
    """A column that is calculated from the converted one: what it gives stays as it is."""
    if not column.formula or same_name(symbol) not in {same_name(str(token)) for token in _tokens(column.formula)}:
        return column
    back = f"({symbol}*{_written(1 / times)})"
    return replace(column, formula=rename(column.formula, symbol, back))


def _tokens(formula: str) -> list[str]:
    try:
        return [str(token) for token in tokens_of(formula) if token.type == "NAME"]
    except FormulaError:
        return []


def _written(times: Fraction) -> str:
    return str(times.numerator) if times.denominator == 1 else f"({times.numerator}/{times.denominator})"


def _limits(column: ColumnState, times: Fraction) -> dict[str, Any]:
    converted = _Converter(times)
    return {"lowest": converted(column.lowest), "highest": converted(column.highest)}


def _uncertainty(text: str, times: Fraction, digit: float = float("nan")) -> str:
    """An uncertainty as typed, its absolute parts multiplied; ``digit``: one step of the last digit, which is another one afterwards."""
    converted = _Converter(times)
    try:
        read_uncertainty(text)
    except NotANumber:
        return text
    pieces = PARTED.split(text)
    for place, piece in enumerate(pieces[::2]):
        one = read_uncertainty(piece)
        part = next(iter((*one.parts, *one.shared)), None)
        if part is not None and part.of == "unit":
            pieces[2 * place] = _NUMBER.sub(lambda match: converted(match[0]), piece, count=1)
        elif part is not None and part.of == "digit" and isfinite(digit):
            half = significant(part.size * digit, DIGITS, strip=True).plain
            pieces[2 * place] = f"±{converted(half)}{' shared' if part.shared else ''}"
    return "".join(pieces)


class _Converter:
    """Numbers as typed, multiplied by one factor."""

    def __init__(self, times: Fraction) -> None:
        self._power = next((power for power in range(-330, 331) if times == Fraction(10) ** power), None)
        self._times = (Decimal(times.numerator), Decimal(times.denominator))

    def __call__(self, text: str) -> str:
        """With the digits that it had where the new one ends; anything that is no number as it is."""
        try:
            number = read_number(text)
        except NotANumber:
            return text
        if not number:
            return text
        try:
            typed = Decimal(text.strip().replace("\u2212", "-").replace(",", "."))
        except ArithmeticError:  # thousands apart, a power of ten
            typed = Decimal(repr(number))
        if self._power is not None:
            made = typed.scaleb(self._power, context=_LONG)
        else:
            made = _DOUBLE.divide(_LONG.multiply(typed, self._times[0]), self._times[1]).normalize()
        # With more zeros than that the power of ten is easier to read.
        plain = f"{made:f}" if -8 < made.adjusted() < 15 else f"{made:e}"
        return plain.replace(".", ",") if "," in text and "." not in text else plain


_LONG, _DOUBLE = Context(prec=60), Context(prec=DIGITS)


def _answer(one: AnswerState, role: str, times: Fraction) -> AnswerState:
    converted = _Converter(times)
    asked = one.direction in _ASKED_IN[role]
    given = _NUMBER.sub(lambda match: converted(match[0]), one.given) if asked else one.given
    return replace(one, given=given, was="")


def _fit(fit: FitState, times: Fraction) -> FitState:
    if fit.x_range is None:
        return fit
    low, high = (float(Fraction(end) * times) for end in fit.x_range)
    return replace(fit, x_range=(low, high))


def _picture(picture: PictureState | None, role: str, times: Fraction) -> PictureState | None:
    """The same picture under the same readings: its place, and the values of its marks. A known length holds for both axes, and no longer
    when one has another unit; what it said is in the place."""
    if picture is None:
        return None
    place, factor = picture.place, float(times)
    if role == "x":
        place = (
            replace(place, x=place.x + log10(factor))
            if picture.log_x
            else replace(place, x=place.x * factor, width=place.width * factor)
        )
    else:
        place = (
            replace(place, y=place.y + log10(factor))
            if picture.log_y
            else replace(place, y=place.y * factor, height=place.height * factor)
        )
    scale = picture.scale
    if scale is not None:
        converted = _Converter(times)

        def marks(held: tuple[ScaleMark, ...]) -> tuple[ScaleMark, ...]:
            return tuple(replace(mark, value=converted(mark.value)) for mark in held)

        if scale.y_marks is None:
            scale = None
        else:
            scale = (
                replace(scale, x_marks=marks(scale.x_marks))
                if role == "x"
                else replace(scale, y_marks=marks(scale.y_marks))
            )
    return replace(picture, place=place, scale=scale)


def _plot(plot: Mapping[str, Any], role: str, times: Fraction) -> dict[str, Any]:
    held = (f"{role}_low", f"{role}_high", f"{role}_step")
    return {name: float(value * times) if name in held and value is not None else value for name, value in plot.items()}
