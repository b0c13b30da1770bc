"""The core's own exceptions. Each says what was found and what to do about it."""

from __future__ import annotations


class RidgeError(Exception):
    """Base of every exception the core raises on purpose."""


class LengthsDiffer(RidgeError, ValueError):
    """Two arrays that belong together have different lengths."""

    def __init__(self, name: str, length: int, expected: int) -> None:
        self.name, self.length, self.expected = name, length, expected
        super().__init__(f"{name} has {length} values where x has {expected}. Give one per reading.")


class OutsideSense(RidgeError, ValueError):
    """An argument is given a value that has no meaning there."""

    def __init__(self, name: str, reason: str) -> None:
        self.name = name
        super().__init__(f"{name}: {reason}")


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
    """The readings cannot tell some parameters apart.

    ``combination`` names what can still be known, ``remedy`` what to do.
    """

    def __init__(self, message: str, combination: str, remedy: str) -> None:
        self.combination, self.remedy = combination, remedy
        super().__init__(f"{message} {remedy}")


class NoSolution(RidgeError, ValueError):
    """The curve never takes the wanted value."""


class BeyondDoubles(RidgeError, ArithmeticError):
    """A result lies outside what a double can hold."""

    def __init__(self, what: str) -> None:
        super().__init__(
            f"The {what} is beyond what the computer's numbers hold (10⁻³⁰⁸ to 10³⁰⁸). Use a larger or a smaller unit."
        )
