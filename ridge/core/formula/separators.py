"""Commas and semicolons in a typed formula: which are decimal signs, and which stand between the values of a function."""

from __future__ import annotations

import re

from ridge.core.errors import FormulaError

_SEVERAL = re.compile(r"(?<![^\W])(min|max|if)\s*$", re.IGNORECASE)
"""What stands before a bracket that holds several values."""
_SPACED = re.compile(r",\s")
_BETWEEN_DIGITS = re.compile(r"(?<=\d),(?=\d)")


def with_points(text: str) -> str:
    """Return the formula with decimal points, and commas between the values of functions; every character keeps its place.

    With a semicolon between values every comma is a decimal sign: ``max(0,5; x)``. Where no values can be separated a comma
    between digits is one too: ``0,5*x``, ``exp(-0,25*x)``. Otherwise commas stand between values. Raises FormulaError where a
    comma can be read either way: ``max(0,5, x)``.

    >>> from ridge.core.formula.separators import with_points
    >>> with_points("a*max(0,5; x) + 0,25")
    'a*max(0.5, x) + 0.25'
    """
    if ";" in text:
        left = _BETWEEN_DIGITS.sub(".", text)
        if "," in left:
            place = left.index(",")
            raise FormulaError(
                "Between the values of a function stands either a semicolon or a comma, not both.", place, 1, ",", ";"
            )
        return left.replace(";", ",")
    depth: list[bool] = []
    made = list(text)
    tight = [match.start() for match in _BETWEEN_DIGITS.finditer(text)]
    inside: list[int] = []
    for place, letter in enumerate(text):
        if letter == "(":
            depth.append(bool(_SEVERAL.search(text[:place])))
        elif letter == ")" and depth:
            depth.pop()
        elif place in tight:
            if depth and depth[-1]:
                inside.append(place)
            else:
                made[place] = "."
    if inside and _SPACED.search(text):
        place = inside[0]
        number = re.search(r"\d+$", text[:place])
        start = number.start() if number else place
        found = text[start : place + 2]
        raise FormulaError(
            f"'{found}' can be one number or two values. Write {found.replace(',', '.')}, or ';' between the values.",
            start, len(found), found,
        )  # fmt: skip
    return "".join(made)
