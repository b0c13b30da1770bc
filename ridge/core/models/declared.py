"""What a family says about itself beside its numbers: plain values that screens, files and sentences are made of.

Texts are templates. ``{x}`` and ``{y}`` stand for the study's own names, ``{x_step}`` for one step of x (its unit),
``{x_one}`` for x = 1 with its unit, ``{x_to[3]}`` for a power of the symbol of x.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, Literal


@dataclass(frozen=True)
class About:
    """One parameter: its usual ``letter`` (common practice; its own name where empty), what it means, and what more of it does to
    the curve. ``unit``: powers of the units of x and y, where the equation does not tell; ``angle``: counted in angles.
    """

    meaning: str = ""
    by_hand: str = ""
    letter: str = ""
    unit: tuple[int, int] | None = None
    angle: bool = False


@dataclass(frozen=True)
class Option:
    """Something that can be chosen within a family, an argument of its constructor.

    ``kind``: "flag" (yes or no), "whole" (from ``low`` to ``high``), "number", "choice" (one of ``words``), "powers" (whole numbers
    from ``low`` to ``high``, several), "text" (at most ``high`` characters) or "letters" (of fits, at most ``high``).
    ``label`` names it on screen; empty where it is not set there by itself. ``words``: each value that is offered, with what it
    is called.
    """

    name: str
    kind: Literal["flag", "whole", "number", "choice", "powers", "text", "letters"]
    default: Any = None
    label: str = ""
    words: Sequence[tuple[Any, str]] = ()
    low: int = 0
    high: int = 0


@dataclass(frozen=True)
class Form:
    """A form of a family under a name of its own, as the catalogue offers it.

    ``options``: what makes the form; those named in ``varies`` are only where it begins. ``tried``: whether it is among the models
    that are ranked on readings.
    """

    key: str
    name: str
    options: Mapping[str, Any] = field(default_factory=dict)
    varies: tuple[str, ...] = ()
    tried: bool = True

    def holds(self, options: Mapping[str, Any]) -> bool:
        """Whether a model of the family with these options is of this form."""
        return all(options.get(name) == value for name, value in self.options.items() if name not in self.varies)


@dataclass(frozen=True)
class Axis:
    """What is done to the values of an axis: nothing, "ln", "reciprocal" or "power", after ``shift`` is taken off."""

    how: Literal["none", "ln", "reciprocal", "power"] = "none"
    shift: float = 0.0
    power: float = 1.0


@dataclass(frozen=True)
class StraightForm:
    """The coordinates in which a curve is a straight line, with its slope there, and its intercept where that is told."""

    x: Axis
    y: Axis
    slope: float
    intercept: float | None = None


@dataclass(frozen=True)
class LogarithmicLine:
    """How a family is a straight line in logarithms: ln y (else y) against ln x (else x) with parameter ``slope`` for its slope; the
    intercept is the logarithm of ``factor`` where y is taken as one."""

    of_x: bool
    of_y: bool
    slope: str
    factor: str


@dataclass(frozen=True)
class Going:
    """How a curve goes on beyond the readings: a sentence in which ``{at_y}`` and ``{at_x}`` stand for places with their symbol."""

    sentence: str
    at_y: float | None = None
    at_x: float | None = None
