"""The core's own exceptions. Each says what was found and what to do about it."""

from __future__ import annotations

from typing import Any


class RidgeError(Exception):
    """Base of every exception the core raises on purpose."""

    def __reduce__(self) -> tuple[Any, ...]:
        return _again, (type(self), self.args, vars(self))


def _again(kind: type[RidgeError], args: tuple[Any, ...], told: dict[str, Any]) -> RidgeError:
    """The same error in another process."""
    error = kind.__new__(kind, *args)
    error.args = args
    vars(error).update(told)
    return error


class LengthsDiffer(RidgeError, ValueError):
    """Two arrays that belong together have different lengths."""

    def __init__(self, name: str, length: int, expected: int) -> None:
        self.name, self.length, self.expected = name, length, expected
        super().__init__(f"{name} has {length} values where x has {expected}. Give one per reading.")


class OutsideSense(RidgeError, ValueError):
    """An argument is given a value that has no meaning there."""

    def __init__(self, name: str, reason: str) -> None:
        self.name, self.reason = name, reason
        super().__init__(f"{name}: {reason}")


class UnitsDiffer(RidgeError, ValueError):
    """A formula combines quantities whose units do not fit, at the place that the message names."""


class TooFewReadings(RidgeError, ValueError):
    """The model has more free parameters than there are readings."""

    def __init__(self, needed: int, found: int) -> None:
        self.needed, self.found = needed, found
        more = needed - found
        super().__init__(
            f"{found} usable reading{'' if found == 1 else 's'}, {needed} needed: "
            f"add {more} more reading{'' if more == 1 else 's'}."
        )


class NotIdentifiable(RidgeError, ValueError):
    """The readings do not determine all parameters.

    ``combination`` names what can still be known, ``remedy`` what to do.
    """

    def __init__(self, message: str, combination: str, remedy: str) -> None:
        self.combination, self.remedy = combination, remedy
        super().__init__(f"{message} {remedy}")


class RepeatedX(RidgeError, ValueError):
    """An interpolation cannot take several y at one x unless told to average them.

    ``rows``: 0-based rows of the readings that share their x with another one.
    """

    def __init__(self, rows: tuple[int, ...]) -> None:
        self.rows = rows
        shown = ", ".join(str(row + 1) for row in rows[:6]) + (f" and {len(rows) - 6} more" if len(rows) > 6 else "")
        super().__init__(
            f"Some x occur more than once (rows {shown}), and a curve through every reading can only take one y at each. "
            "Average them, or set some aside."
        )


class UndefinedAt(RidgeError, ValueError):
    """A model has no value at some readings: ln of 0, a power of a negative number, a division by zero.

    ``rows``: 0-based rows of the readings.
    """

    def __init__(self, rows: tuple[int, ...], why: str, remedy: str) -> None:
        self.rows, self.why, self.remedy = rows, why, remedy
        shown = ", ".join(str(row + 1) for row in rows[:5]) + (f" and {len(rows) - 5} more" if len(rows) > 5 else "")
        super().__init__(f"{why} (row {shown}). {remedy}")


class FormulaError(RidgeError, ValueError):
    """A formula cannot be read.

    ``position`` and ``length``: the place in the text as typed, 0-based. ``found``: what stands there, empty at
    the end. ``possible``: what could stand there instead, in words. ``suggestion``: the whole formula as it may be meant.
    """

    def __init__(
        self,
        message: str,
        position: int,
        length: int = 1,
        found: str = "",
        possible: str = "",
        suggestion: str = "",
    ) -> None:
        self.position, self.length, self.found, self.possible = position, length, found, possible
        self.suggestion = suggestion
        super().__init__(message)


class NoFit(RidgeError, ArithmeticError):
    """No parameters were found at which the model has values at all readings."""


class NoSolution(RidgeError, ValueError):
    """The curve never takes the wanted value."""


class BeyondDoubles(RidgeError, ArithmeticError):
    """A result lies outside what a double can hold."""

    def __init__(self, what: str) -> None:
        self.what = what
        super().__init__(
            f"The {what} is beyond what the computer's numbers hold (10⁻³⁰⁸ to 10³⁰⁸). Use a larger or a smaller unit."
        )
