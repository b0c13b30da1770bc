"""Which workings suit a model, a fit or an interpolation."""

from __future__ import annotations

from ridge.core.models import Model
from ridge.core.workings.linear_problem import headings_of, is_constant, is_linear

AFTER = ("goodness-of-fit", "interval-at", "solve-for-x")
"""What a fit has once it is made."""
_BY_KIND = {
    "linear": ("straight-pieces",),
    "polynomial": ("divided-differences", "lagrange", "through-points"),
}


def offered_for(model: Model, least_squares_in: str = "y", by_hand: bool = False) -> tuple[str, ...]:
    """The workings of a model; ``by_hand``: of one whose numbers were set."""
    if by_hand:
        return ("by-hand", "least-squares-path", "goodness-of-fit", "solve-for-x")
    if not model.free_names:
        return ("by-hand", "goodness-of-fit", "solve-for-x")
    if not is_linear(model, least_squares_in):
        return ("by-hand", "least-squares-path", *AFTER) if least_squares_in == "y" else ("by-hand", "solve-for-x")
    line = least_squares_in == "logarithms" or is_line(model)
    return (*(("line-by-sums",) if line else ()), "least-squares", *AFTER)


def is_line(model: Model) -> bool:
    """Whether it is a straight line in one quantity."""
    return sum(not is_constant(heading) for heading in headings_of(model)) <= 1


def offered_for_interpolation(kind: str, ends: str) -> tuple[str, ...]:
    """Empty for kinds that have none."""
    return (f"{ends}-spline",) if kind == "cubic-spline" else _BY_KIND.get(kind, ())
