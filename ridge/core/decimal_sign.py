"""The decimal sign: a point or a comma (ISO 80000-1:2022, section 7.2.2, allows either on the line).

It is chosen once for all that is written in a context, as a locale is, and numbers are formatted with it from the start. Texts that a
user typed never pass through here.
"""

from __future__ import annotations

from collections.abc import Callable, Hashable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from functools import lru_cache, wraps
from typing import Literal, ParamSpec, TypeVar

Sign = Literal["point", "comma"]
P = ParamSpec("P")
Made = TypeVar("Made")

_sign: ContextVar[Sign] = ContextVar("decimal_sign", default="point")


def decimal_sign() -> Sign:
    """Return the sign that numbers are written with here."""
    return _sign.get()


@contextmanager
def written_with(sign: Sign) -> Iterator[None]:
    """Write numbers with this sign inside the block.

    >>> from ridge.core.numerals import significant
    >>> with written_with("comma"):
    ...     significant(2.5, 2).text
    '2,5'
    """
    before = _sign.set(sign)
    try:
        yield
    finally:
        _sign.reset(before)


def in_sign(digits: str) -> str:
    """Return one number, written with a point, in the sign that holds here."""
    return digits.replace(".", ",", 1) if _sign.get() == "comma" else digits


def latex_in_sign(digits: str) -> str:
    """Return one number for LaTeX in the sign that holds here, where a bare comma would be followed by a space."""
    return digits.replace(".", "{,}", 1) if _sign.get() == "comma" else digits


def between_values() -> str:
    """Return what stands between the values of a function: a comma, or a semicolon where the comma is the decimal sign."""
    return "; " if _sign.get() == "comma" else ", "


def cached(most: int) -> Callable[[Callable[P, Made]], Callable[P, Made]]:
    """Cache what holds written numbers, like ``functools.lru_cache``, once for each sign."""

    def remembering(make: Callable[P, Made]) -> Callable[P, Made]:
        @lru_cache(most)
        def made(_: Sign, *given: Hashable, **named: Hashable) -> Made:
            return make(*given, **named)  # type: ignore[arg-type]

        @wraps(make)
        def found(*given: P.args, **named: P.kwargs) -> Made:
            return made(_sign.get(), *given, **named)  # type: ignore[arg-type]

        return found

    return remembering
