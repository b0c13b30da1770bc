"""Polynomials of degree 1 to 12, any term left out."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import replace

import numpy as np

from ridge.core.errors import OutsideSense
from ridge.core.models.base import Derived, LinearForm, Model
from ridge.core.models.declared import About, Axis, Form, Going, Option, StraightForm
from ridge.core.models.grips import Grip, Look

HIGHEST = 12
_NAMES = {2: "quadratic", 3: "cubic", 4: "quartic"}


class Polynomial(Model):
    """y = cₙxⁿ + … + c₁x + c₀.

    Parameters
    ----------
    degree : int
        1 to 12.
    terms : collection of int, optional
        The powers that are present: ``Polynomial(2, terms=[2])`` is c₂x² alone. All of them when left out.

    Raises OutsideSense for a degree or a power outside sense.
    """

    family = title = "polynomial"
    synonyms = ("parabola", "second degree", "third degree")
    place = 20
    options = (
        Option("degree", "whole", 2, "Degree", [(n, f"degree {n}") for n in range(4, HIGHEST + 1)], 2, HIGHEST),
        Option("terms", "powers", None, "Terms", low=0, high=HIGHEST),
    )
    forms = (
        Form("quadratic", "quadratic", {"degree": 2}),
        Form("cubic", "cubic", {"degree": 3}),
        Form("polynomial", "polynomial of higher degree", {"degree": 4}, varies=("degree",)),
    )

    def __init__(self, degree: int, terms: Collection[int] | None = None) -> None:
        if degree != int(degree) or not 1 <= degree <= HIGHEST:
            raise OutsideSense("degree", f"is a whole number from 1 to {HIGHEST}; use a spline for more bends.")
        powers = range(int(degree) + 1) if terms is None else sorted({int(power) for power in terms})
        if not powers or powers[0] < 0 or powers[-1] != degree:
            raise OutsideSense("terms", f"are whole powers from 0 to {degree}, with {degree} among them.")
        self.degree = int(degree)
        self.powers = tuple(powers)
        self.parameter_names = self.linear = tuple(f"c{power}" for power in powers)
        self.constant = "c0" if 0 in powers else None
        self.formula = _horner(self.powers)
        self.written = " + ".join(_term(power) for power in reversed(self.powers))
        self.linear_form = LinearForm(self.powers)
        self.fixed = {}

    def __repr__(self) -> str:
        left_out = len(self.powers) <= self.degree
        return f"Polynomial({self.degree}, terms={list(self.powers)})" if left_out else f"Polynomial({self.degree})"

    @property
    def name(self) -> str:
        return _NAMES.get(self.degree, f"polynomial of degree {self.degree}")

    @property
    def about(self) -> Mapping[str, About]:
        return {f"c{power}": self._of(power) for power in self.powers}

    def _of(self, power: int) -> About:
        if power == 0:
            return About("{y} where {x} is zero", "More moves the curve up.")
        if power == 1:
            meaning = "slope where {x} is zero" if self.degree > 1 else "coefficient of {x_to[1]}"
            return About(meaning, "More tilts the curve, about {x} = 0.")
        narrower = "Further from zero makes the parabola narrower; its sign says whether it opens upwards."
        return About(f"coefficient of {{x_to[{power}]}}", narrower if self.degree == 2 else "")

    @property
    def settings(self) -> tuple[Option, ...]:
        """Low degrees are forms of their own."""
        degree, terms = self.options
        words = [(0, "constant"), (1, "first power"), *((power, f"power {power}") for power in range(2, HIGHEST + 1))]
        terms = replace(terms, words=words[: self.degree + 1])
        return (terms,) if self.degree in (2, 3) else (degree, terms)

    def straight(self, values: Mapping[str, float]) -> StraightForm | str:
        """A polynomial of one power and a constant is straight against that power."""
        powers = [power for power in self.powers if power and values[f"c{power}"] != 0]
        if len(powers) != 1:
            return "A polynomial is only straight against a power when it has that power and a constant alone."
        return StraightForm(Axis("power", power=powers[0]), Axis(), values[f"c{powers[0]}"])

    def beyond(self, values: Mapping[str, float], x: float, right: bool) -> Going:
        highest = max((power for power in self.powers if values[f"c{power}"]), default=0)
        if not highest:
            return Going("It stays at {at_y}.", values.get("c0", 0.0))
        up = (values[f"c{highest}"] > 0) == (right or highest % 2 == 0)
        return Going(
            "Beyond the readings its highest power takes over and turns the curve steeply "
            f"{'up' if up else 'down'} on this side."
        )

    @property
    def derived(self) -> tuple[Derived, ...]:
        if self.powers != (0, 1, 2):
            return ()
        return (
            Derived("x of the vertex", "-c1/(2*c2)", (1, 0), "{x} where the curve turns", when="abs(c2)", zero_of=1),
            Derived("y of the vertex", "c0 - c1^2/(4*c2)", (0, 1), "{y} where the curve turns", when="abs(c2)"),
            Derived(
                "discriminant",
                "c1^2 - 4*c2*c0",
                (-2, 2),
                "positive where the curve crosses zero twice, negative where it never does",
            ),
        )

    @property
    def grips(self) -> tuple[Grip, ...]:
        if self.powers != (0, 1, 2):
            return super().grips
        beside = "(-c1/(2*c2) + (high - low)/4)"
        vertex_y, wide = "(c0 - c1^2/(4*c2))", "((high - low)/4)"
        bend = f"((to_y - {vertex_y})/{wide}^2)"
        return (
            Grip(
                "vertex",
                "-c1/(2*c2)",
                vertex_y,
                {"c1": "-2*c2*to_x", "c0": "to_y + c2*to_x^2"},
                "moves the vertex and the curve with it",
            ),
            Grip(
                "width",
                beside,
                f"{vertex_y} + c2*{wide}^2",
                {"c2": bend, "c1": f"{bend}*c1/c2", "c0": f"{vertex_y} + {bend}*(c1/(2*c2))^2"},
                "makes the parabola narrower or wider about its vertex",
            ),
        )

    def first_values(self, look: Look) -> dict[str, float]:
        """The parabola (or the line) through the first, the middle and the last reading."""
        points = list(dict.fromkeys([look.first, look.middle, look.last]))
        low = [power for power in self.powers if power < len(points)] or [self.powers[0]]
        x, y = np.array(points).T
        columns = x[:, None] ** low
        if not np.isfinite(columns).all():
            return {}  # so far out that powers overflow: nothing can be read off
        found = np.linalg.lstsq(columns, y, rcond=None)[0]
        return dict.fromkeys(self.parameter_names, 0.0) | {f"c{p}": float(v) for p, v in zip(low, found, strict=True)}


def _horner(powers: tuple[int, ...]) -> str:
    """Nested multiplication, with the powers that are left out bridged."""
    text, below = "", powers[-1]
    for power in reversed(powers):
        text = f"({text})*x^{below - power} + c{power}" if text else f"c{power}"
        below = power
    return f"({text})*x^{below}" if below else text


def _term(power: int) -> str:
    return f"c{power}*x^{power}" if power > 1 else f"c{power}*x" if power else "c0"
