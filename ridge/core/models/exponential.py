"""Exponential growth and decay, with and without a level."""

from __future__ import annotations

from typing import Any

import numpy as np

from ridge.core.models.base import Array, Derived, InnerForm, Model

_SIZES = np.geomspace(1e-2, 2e4, 56)


def _rates(u: Array) -> Array:
    """Rates of both signs: from nearly straight over the range to gone within a tenth of the smallest step."""
    steps = np.diff(u)
    fastest = 10.0 / np.min(steps[steps > 0], initial=1.0)
    sizes = _SIZES[: max(20, int(np.searchsorted(_SIZES, fastest)) + 1)]
    return np.concatenate([-sizes[::-1], sizes])[:, None]


def _natural(inner: dict[str, Any], origin: Any, span: Any) -> dict[str, Any]:
    rate = inner["k"] / span
    return {**inner, "a": inner["a"] * np.exp(-rate * origin), "k": rate}


class Exponential(Model):
    """y = a·e^(k·x), or with ``level=True`` y = a·e^(k·x) + c."""

    family = "exponential"

    def __init__(self, level: bool = False) -> None:
        self.level = level
        self.parameter_names = ("a", "k", "c") if level else ("a", "k")
        self.linear = ("a", "c") if level else ("a",)
        self.constant = "c" if level else None
        self.formula = "a*exp(k*x) + c" if level else "a*exp(k*x)"
        self.inner_form = InnerForm(self.formula, self.linear, ("k",), _rates, _natural)
        self.fixed = {}

    def __repr__(self) -> str:
        return f"Exponential(level={self.level})" if self.level else "Exponential()"

    @property
    def derived(self) -> tuple[Derived, ...]:
        return (
            Derived("half-life", "-ln(2)/k", (1, 0), when="-k"),
            Derived("doubling time", "ln(2)/k", (1, 0), when="k"),
            Derived("time constant", "1/abs(k)", (1, 0), when="abs(k)"),
            Derived("growth factor", "exp(k)", (0, 0)),
            *((Derived("limit", "c", (0, 1)),) if self.level else ()),
        )
