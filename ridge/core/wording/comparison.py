"""Fits side by side in words: the criteria with their meaning, what an F-test says, and why R² is no judge."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ridge.core.judging.comparison import Nested, Row, Rung
from ridge.core.wording.naming import Naming
from ridge.core.wording.numbers import probability, share, significant


@dataclass(frozen=True)
class Criterion:
    """One column of the comparison. ``better``: 1 where more is better, −1 where less is, 0 where neither."""

    name: str
    label: str
    meaning: str
    better: int


CRITERIA = (
    Criterion("parameters", "free", "Numbers that least squares was free to choose.", 0),
    Criterion("r_squared", "R²", "Share of the variation accounted for. It never falls when a parameter is added, so it cannot choose between models.", 0),
    Criterion("adjusted_r_squared", "adjusted R²", "R² charged for the number of parameters: more is better.", 1),
    Criterion("residual_standard_deviation", "s", "Typical miss of a reading, with the parameters charged for: less is better.", -1),
    Criterion("aicc", "AICc", "Misfit plus a price for each parameter, for few readings: less is better. Differences below 2 say little.", -1),
    Criterion("bic", "BIC", "Like AICc with a higher price for each parameter: less is better.", -1),
    Criterion("leave_one_out", "left-out error", "How far each reading lies, typically, from the curve fitted without it: less is better. It rises when a curve follows the scatter.", -1),
)  # fmt: skip


def criterion_value(row: Row, name: str) -> float | None:
    """The number that a criterion goes by; None where the fit has none."""
    value = row.leave_one_out.error if name == "leave_one_out" else getattr(row, name)
    return None if value is None or not np.isfinite(value) else float(value)


def word_criterion(name: str, value: float | None, naming: Naming) -> str:
    """A criterion's value for a table."""
    if value is None:
        return "–"
    if name == "parameters":
        return str(int(value))
    if name in ("r_squared", "adjusted_r_squared"):
        return ("\u2212" if value < 0 else "") + share(abs(value))
    if name in ("residual_standard_deviation", "leave_one_out"):
        return naming.y_with_unit(significant(value, 3).text)
    return significant(value, 4).text


def word_nested(nested: Nested, smaller: str, larger: str) -> str:
    """What the F-test of a model against a simpler one says. ``smaller``, ``larger``: what the fits are called."""
    more = "one more parameter" if nested.added == 1 else f"{nested.added} more parameters"
    if nested.f is None or nested.p is None:
        return f"{larger} has {more} than {smaller}, and nothing is left to judge by whether they are needed."
    said = f"F = {significant(nested.f, 3).text} with {nested.added} and {nested.degrees_of_freedom} degrees of freedom, p {_p(nested.p)}"
    if nested.p < 0.05:
        return f"{larger} misses by clearly less than {smaller} for its {more}: {said}. The larger model is needed."
    return f"{larger} gains no more over {smaller} than {more} would by chance: {said}. The simpler one does."


def _p(p: float) -> str:
    text = probability(p)
    return text if text.startswith("<") else f"= {text}"


def word_ladder(rungs: Sequence[Rung], naming: Naming) -> str:
    """What the ladder of polynomials shows on these readings, in two sentences."""
    known = [rung for rung in rungs if np.isfinite(rung.leave_one_out_error)]
    if len(known) < 2:
        return "There are too few readings for polynomials of several degrees."
    best = min(known, key=lambda rung: rung.leave_one_out_error)
    first, last = rungs[0], rungs[-1]
    rises = ""
    if first.r_squared is not None and last.r_squared is not None:
        rises = (
            f"R² rises with every degree, from {share(first.r_squared)} to {share(last.r_squared)}, as it always must. "
        )
    least = naming.y_with_unit(significant(best.leave_one_out_error, 2).text)
    if best is known[-1]:
        return f"{rises}The left-out error still falls at degree {best.degree} ({least})."
    worse = naming.y_with_unit(significant(known[-1].leave_one_out_error, 2).text)
    return (
        f"{rises}The left-out error is least at degree {best.degree} ({least}); at degree {known[-1].degree} it is {worse}: "
        "the higher degrees follow the scatter, not the course."
    )


def word_without(row: int, moved: float, at: float, s: float | None, naming: Naming) -> str:
    """How far the curve moves, at most, when a reading is left out; ``at``: the x where."""
    text = f"Without row {row + 1} the curve moves by up to {naming.y_with_unit(significant(abs(moved), 2).text)}"
    text += f", at {naming.x} = {naming.x_with_unit(significant(at, 3, strip=True).text)}"
    return f"{text}, {significant(abs(moved) / s, 2).text} times its typical miss." if s else f"{text}."
