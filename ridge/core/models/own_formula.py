"""A model written by its user as a formula."""

from __future__ import annotations

from functools import cached_property
from typing import Any

import numpy as np

from ridge.core.errors import FormulaError
from ridge.core.formula import differentiate, parse
from ridge.core.formula.linearity import linear_names
from ridge.core.formula.parse import Curve
from ridge.core.formula.tree import ONE, ZERO, Call, Node, contains, substitute, walk
from ridge.core.models.base import Model
from ridge.core.models.declared import Form, Option

MOST_PARAMETERS = 20
_ANGLED = {"sin", "cos", "tan", "asin", "acos", "atan"}


_TRIED = np.array([-7.3, -2.1, -0.37, 0.19, 0.83, 1.9, 4.7, 11.3])
"""Values of x at which the sign of a parameter is tried."""


class Formula(Model):
    """Any formula in x and parameters, such as ``Formula("p*exp(-q*x) + r")``.

    Parameters
    ----------
    text : str
        The right side; see ``ridge.core.formula.parse`` for the language. A left side such as ``y =`` is passed over;
        ``y(t) =`` says that t is the independent variable.
    variable : str
        Name of the independent variable; every other name is a parameter.
    degrees : bool
        Whether the trigonometric functions count angles in degrees.
    curves : pairs of a capital letter and a Curve
        Other curves that the formula may call: ``A(x)``.

    Raises FormulaError with the position of a mistake, or when the formula has more than 20 parameters. One without any is
    a known curve: it can be drawn and compared, not fitted.
    """

    family = "formula"
    title = "own formula"
    synonyms = ("equation", "function")
    place = 110
    options = (
        Option("text", "text", ""),
        Option("degrees", "flag", False, "Angles in", ((False, "angles in radians"), (True, "angles in degrees"))),
        Option("curves", "letters", (), high=6),
    )
    forms = (Form("formula", title, tried=False),)
    typed = True

    def __init__(
        self,
        text: str,
        variable: str = "x",
        degrees: bool = False,
        curves: tuple[tuple[str, Curve], ...] = (),
    ) -> None:
        self.parsed = parse(text, variable, degrees=degrees, named_on_the_left=True, curves=curves)
        self.called = tuple((letter, None) for letter, _ in curves)
        self.formula, self.variable, self.degrees = text, variable, degrees
        self.parameter_names = self.parsed.names
        if len(self.parameter_names) > MOST_PARAMETERS:
            raise FormulaError(
                f"The formula has {len(self.parameter_names)} parameters; {MOST_PARAMETERS} at most can be searched. "
                "Write numbers for those that are known.",
                0, len(text), text,
            )  # fmt: skip
        self.fixed = {}

    def __repr__(self) -> str:
        return f"Formula({self.formula!r})"

    @cached_property
    def expression(self) -> Node:
        return self.parsed.tree

    @cached_property
    def written_expression(self) -> Node:
        """With curves that it calls by their letters."""
        if not self.called:
            return self.parsed.tree
        return parse(self.formula, self.variable, degrees=self.degrees, named_on_the_left=True, curves=self.called).tree

    @property
    def settings(self) -> tuple[Option, ...]:
        """Angles only where there are any."""
        used = {node.function for node in walk(self.parsed.tree) if isinstance(node, Call)}
        return super().settings if self.degrees or used & _ANGLED else ()

    @cached_property
    def linear(self) -> tuple[str, ...]:  # type: ignore[override]
        return linear_names(self.parsed.tree, self.parameter_names)

    @cached_property
    def flattening(self) -> str | None:  # type: ignore[override]
        """A parameter whose zero takes x out of the formula and leaves a linear one in it."""
        for name in self.parameter_names:
            level = substitute(self.parsed.tree, {name: ZERO})
            if not contains(level, {self.variable}) and contains(level, set(self.linear) - {name}):
                return name
        return None

    def with_positive_signs(self, values: dict[str, Any]) -> dict[str, Any]:
        """A width enters by its square: its sign is tried at a few x, with the other parameters as they are."""
        found = dict(values)
        plain = {name: float(value) for name, value in values.items()}
        here = self.evaluate(_TRIED, plain)
        known = np.isfinite(here)
        for name in self.free_names:
            if not plain[name] < 0 or known.sum() < 3:
                continue
            there = self.evaluate(_TRIED, {**plain, name: -plain[name]})
            if np.array_equal(known, np.isfinite(there)) and np.allclose(here[known], there[known], rtol=1e-13, atol=0):
                found[name], plain[name] = -found[name], -plain[name]
        return found

    @cached_property
    def constant(self) -> str | None:  # type: ignore[override]
        """A parameter that is added on its own."""
        for name in self.linear:
            if differentiate(self.parsed.tree, name) == ONE:
                return name
        return None
