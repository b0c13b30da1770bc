"""Symbols of columns: short names that formulas can be written with, each its own."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Iterable

from ridge.core.formula.functions import ALIASES, FUNCTIONS
from ridge.core.formula.grammar import NAME
from ridge.core.formula.parse import same_name

_RESERVED = {
    "e": "Euler's number",
    "pi": "π",
    "π": "the number π",
    "row": "the number of the row",
    "if": "a condition",
    "log": "a logarithm",
}
_LONGEST = 20


def symbol_problem(symbol: str, others: Iterable[str], name: str = "") -> tuple[str, str]:
    """What is wrong with a symbol and what could be used instead; two empty texts where nothing is.

    ``others``: symbols of the other columns; ``name``: what the column is called, for the proposal.
    """
    taken = {same_name(other): other for other in others if other}
    if not symbol:
        return "", ""
    if not re.fullmatch(NAME, symbol):
        why = f"Formulas cannot be written with '{symbol}': a symbol is a Latin or Greek letter, and letters, digits or _ behind it."
    elif symbol in FUNCTIONS or symbol in ALIASES:
        why = f"{symbol} is a function of formulas."
    elif symbol in _RESERVED:
        why = f"{symbol} means {_RESERVED[symbol]} in formulas."
    elif same_name(symbol) in taken:
        why = f"Another column has the symbol {taken[same_name(symbol)]}."
    else:
        return "", ""
    return why, _proposal(symbol, name, set(taken))


def _proposal(symbol: str, name: str, taken: set[str]) -> str:
    """A symbol like the one that was wanted, else the first letter of the name, with a number where that is taken."""
    plain = unicodedata.normalize("NFKC", symbol)
    cleaned = re.sub(r"_{2,}", "_", re.sub(r"[^A-Za-z0-9_\u0391-\u03a9\u03b1-\u03c9]+", "_", plain)).strip(
        "_0123456789"
    )
    first = next((letter for letter in name if re.fullmatch(NAME, letter)), "q")
    word = symbol in FUNCTIONS or symbol in ALIASES or symbol in _RESERVED
    for stem in (first, cleaned, "q") if word else (cleaned, first, "q"):
        for place in range(1, 100):
            said = stem if place == 1 else f"{stem}_{place}"
            fits = len(said) <= _LONGEST and re.fullmatch(NAME, said) and said not in FUNCTIONS and said not in ALIASES
            if fits and said not in _RESERVED and same_name(said) not in taken:
                return said
    return ""
