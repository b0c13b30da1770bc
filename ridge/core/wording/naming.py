"""The study's own names, symbols and units."""

from __future__ import annotations

import re
from collections.abc import Container, Iterable, Iterator
from dataclasses import dataclass
from functools import lru_cache
from itertools import chain, count
from math import inf, isfinite

from ridge.core.catalogue import MODELS
from ridge.core.formula.dimensions import unit_powers
from ridge.core.models import Model, Polynomial
from ridge.core.models.polynomial import HIGHEST
from ridge.core.numerals import number_as_given
from ridge.core.wording.clock import clock_text
from ridge.core.wording.units import held_together, product

NO_BREAK = "\u00a0"
_LATEX_SPECIAL = {
    "\\": r"\backslash ", "{": r"\{", "}": r"\}", "$": r"\$", "&": r"\&", "#": r"\#",
    "%": r"\%", "~": r"\sim ", "^": r"\hat{}",
}  # fmt: skip


USUAL_LETTERS = {
    name: about.letter
    for entry in MODELS
    if entry.form.tried
    for name, about in entry.model().about.items()
    if about.letter
}
"""Letters that textbooks give to parameters, as each family declares them; others are their own letter."""


def _escape(text: str) -> str:
    return "".join(_LATEX_SPECIAL.get(letter, letter) for letter in text)


def symbol_latex(symbol: str) -> str:
    """A symbol as LaTeX: one letter slanted, several kept together, what follows ``_`` lowered."""
    head, _, tail = symbol.partition("_")
    base = _escape(head) if len(head) == 1 else rf"\mathit{{{_escape(head)}}}"
    return base + (rf"_{{\mathrm{{{_escape(tail)}}}}}" if tail else "")


@dataclass(frozen=True)
class Naming:
    """Name, symbol, unit and limits of sense of x and of y, as the study's columns give them."""

    x: str = "x"
    y: str = "y"
    x_unit: str = ""
    y_unit: str = ""
    x_name: str = ""
    y_name: str = ""
    letters: tuple[tuple[str, str], ...] = ()
    """Letters of the course by parameter name, where they differ from the usual ones."""
    rising: bool = False
    """Whether the terms of a sum are written from the lowest power up: a + b·x."""
    x_limits: tuple[float, float, str] = (-inf, inf, "")
    """Least and greatest x that makes sense, and why."""
    y_limits: tuple[float, float, str] = (-inf, inf, "")
    x_clock: str = ""
    """How a clock shows x (``h:min``, ``min:s``, ``h:min:s``), whose numbers count in ``x_unit``; empty where none does."""
    y_clock: str = ""

    def x_with_unit(self, number: str) -> str:
        return with_unit(number, self.x_unit)

    def y_with_unit(self, number: str) -> str:
        return with_unit(number, self.y_unit)

    def x_given(self, value: float) -> str:
        """A value of x as typed: every digit with its unit, or as the clock shows it."""
        return clock_text(value, self.x_clock) if self.x_clock else self.x_with_unit(number_as_given(value))

    def y_given(self, value: float) -> str:
        return clock_text(value, self.y_clock) if self.y_clock else self.y_with_unit(number_as_given(value))

    def x_span(self, low: float, high: float) -> str:
        """``0 to 60 s``, or ``1:30 to 8:15`` on a clock."""
        return f"{self.x_given(low) if self.x_clock else number_as_given(low)} to {self.x_given(high)}"

    def x_on_clock(self, value: float) -> str:
        """`` (13:30)`` behind a result in hours; empty where x is read off no clock."""
        return f" ({clock_text(value, self.x_clock)})" if self.x_clock and isfinite(value) else ""

    def in_symbols(self, text: str) -> str:
        """A text about x and y in the study's own symbols: ``shift along t`` for ``shift along x``."""
        return re.sub(r"\b[xy]\b", lambda match: self.x if match[0] == "x" else self.y, text)

    def unit(self, in_x: float, in_y: float) -> str:
        """Unit of a quantity with these powers of the units of x and y: whole ones, and a half as a root; empty for others."""
        factors = [_power_of(unit, power) for unit, power in ((self.y_unit, in_y), (self.x_unit, in_x))]
        return "" if None in factors else product([factor for factor in factors if factor])

    def parameter_units(self, model: Model) -> dict[str, str]:
        """Unit of each parameter, as the family declares it, or as far as the equation tells it; angles in ° or rad."""
        powers = unit_powers(model.expression, model.variable, model.parameter_names)
        units = {name: self.unit(*powers[name]) for name in model.parameter_names}
        for name, about in model.about.items():
            if about.unit is not None and name in units:
                in_x, in_y = about.unit
                known = [(model.angle_unit, 1)] if about.angle else []
                units[name] = product([*known, (self.y_unit, in_y), (self.x_unit, in_x)])
        return units

    def letter(self, parameter: str) -> str:
        """The letter for a parameter: the course's own, the usual one, or its name; another where that stands for something else in
        the equation."""
        return _letters(self.x, self.y, self.letters).get(parameter) or self._wished(parameter)

    def by_letter(self, parameters: Iterable[str], taken: Container[str] = ()) -> dict[str, str]:
        """What may be typed for parameters, with their names: their letters, and those that they would have if these did not stand for
        something else in the equation, unless ``taken``."""
        named = {self.letter(name): name for name in parameters}
        return {self._wished(name): name for name in parameters if self._wished(name) not in taken} | named

    def _wished(self, parameter: str) -> str:
        return dict(self.letters).get(parameter, _usual(parameter))


_TOGETHER = [
    set(model.parameter_names)
    for model in (*(entry.model() for entry in MODELS if entry.form.tried), Polynomial(HIGHEST))
]
"""Parameters that stand in one equation."""
_OTHERS = {"m": ("k", "a")}
"""Other letters that textbooks give to a parameter, where an index 0 would mean its beginning."""
_HEADS = "abcdpq"


@lru_cache(256)
def _letters(x: str, y: str, course: tuple[tuple[str, str], ...]) -> dict[str, str]:
    """Letters of the parameters of all families, each for one thing: those of the course have the first choice."""
    settled = dict(course)
    found: dict[str, str] = {}
    for name in sorted(set().union(*_TOGETHER), key=lambda name: (name not in settled, name)):
        beside = {found[other] for names in _TOGETHER if name in names for other in names if other in found}
        wished = [settled[name]] if name in settled else []
        found[name] = next(one for one in chain(wished, _choices(_usual(name))) if one not in {x, y, *beside})
    return found


def _usual(parameter: str) -> str:
    return USUAL_LETTERS.get(parameter) or re.sub(r"^c(\d+)$", r"c_\1", parameter)


def _choices(usual: str) -> Iterator[str]:
    """Letters for a parameter, the best first, without end."""
    yield usual
    yield from _OTHERS.get(usual, ())
    head, _, index = usual.partition("_")
    if index:
        yield from (f"{other}_{index}" for other in _HEADS if other != head)
    yield from (f"{head}_{'0' * times}{index}" for times in count(1))


def _power_of(unit: str, power: float) -> tuple[str, int] | None:
    """A unit and its whole power: ``(s, 2)``, or ``(√s, 1)`` for a half; None for any other."""
    if power == int(power) or not unit:
        return unit, int(power)
    return (f"√{unit}", int(2 * power)) if abs(power) == 0.5 and held_together(unit) == unit else None


def parameter_called(parameter: str, naming: Naming) -> str:
    """``intercept c``, or the letter alone where the name is no more than that."""
    letter = naming.letter(parameter)
    words = parameter.replace("_", " ")
    return letter if re.fullmatch(r".\d*", parameter) or words == letter else f"{words} {letter}"


def with_unit(number: str, unit: str) -> str:
    """Number and unit, kept on one line; the degree sign follows without a gap."""
    if not unit:
        return number
    gap = "" if unit in ("°", "′", "″") else NO_BREAK
    if "±" in number and not number.startswith("("):
        number = f"({number})" if unit in ("°", "%") else number
    return f"{number}{gap}{unit}"
