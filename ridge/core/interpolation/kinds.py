"""The kinds of interpolation as they are offered, and what can be chosen within each."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from ridge.core.models.declared import Form, Option

FAMILY = "interpolation"
KINDS = ("linear", "monotone", "cubic-spline", "spline", "polynomial")
ENDS = (
    ("natural", "no curvature at its ends"),
    ("not-a-knot", "not-a-knot ends"),
    ("clamped", "given slopes at its ends"),
    ("periodic", "ends that repeat"),
)
HIGHEST = 5

OPTIONS = (
    Option("kind", "choice", "cubic-spline", words=tuple((kind, kind) for kind in KINDS)),
    Option("ends", "choice", "natural", "Ends", ENDS),
    Option(
        "spline_degree",
        "whole",
        3,
        "Degree of the spline",
        [(n, f"degree {n}") for n in range(1, HIGHEST + 1)],
        1,
        HIGHEST,
    ),
    Option("average", "flag", False, "Repeats", ((True, "repeats averaged"), (False, "repeats not averaged"))),
    Option("first_slope", "number", 0.0, "First slope"),
    Option("last_slope", "number", 0.0, "Last slope"),
)
FORMS = (
    Form("linear", "straight pieces", {"kind": "linear"}),
    Form("monotone", "monotone cubic", {"kind": "monotone"}),
    Form("cubic-spline", "cubic spline", {"kind": "cubic-spline"}),
    Form("spline", "spline of another degree", {"kind": "spline"}, tried=False),
    Form("through-all", "polynomial through all", {"kind": "polynomial"}),
)


def settings_of(options: Mapping[str, Any]) -> tuple[Option, ...]:
    """Those options that mean something beside the others."""
    shown = {
        "ends": options["kind"] == "cubic-spline",
        "spline_degree": options["kind"] == "spline",
        "average": options["average"],
        "first_slope": options["kind"] == "cubic-spline" and options["ends"] == "clamped",
        "last_slope": options["kind"] == "cubic-spline" and options["ends"] == "clamped",
    }
    return tuple(option for option in OPTIONS if shown.get(option.name))
