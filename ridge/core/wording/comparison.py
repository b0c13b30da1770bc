"""Fits side by side in words: the criteria with their meaning, what an F-test says, and why R² is no judge."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ridge.core.carrying import SameCurve
from ridge.core.judging.comparison import Nested, Row, Rung
from ridge.core.judging.significance import SIGNIFICANT
from ridge.core.numerals import p_text, share, significant
from ridge.core.wording.naming import Naming


@dataclass(frozen=True)
class Criterion:
    """One column of the comparison. ``better``: 1 where more is better, −1 where less is, 0 where neither."""

    name: str
    label: str
    meaning: str
    better: int


CRITERIA = (
    Criterion("parameters", "parameters", "Fitted parameters.", 0),
    Criterion("r_squared", "R²", "Share of the variation about the mean of y that is accounted for. It never falls when a parameter is added, so it cannot choose between models.", 0),
    Criterion("adjusted_r_squared", "adjusted R²", "R² corrected for the number of parameters: higher is better.", 1),
    Criterion("residual_standard_deviation", "typical miss", "Typical miss of a reading in the unit of y, corrected for the number of parameters: lower is better.", -1),
    Criterion("aicc", "AICc", "Misfit plus a penalty for each parameter, corrected for few readings: lower is better. Differences below 2 say little.", -1),
    Criterion("bic", "BIC", "Like AICc with a larger penalty for each parameter: lower is better.", -1),
    Criterion("leave_one_out", "leave-one-out error", "How far each reading lies, typically, from the curve fitted without it: lower is better. It rises when a curve overfits the scatter.", -1),
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
        return share(value)
    if name in ("residual_standard_deviation", "leave_one_out"):
        return naming.y_with_unit(significant(value, 3).text)
    return significant(value, 4).text


def word_nested(nested: Nested, smaller: str, larger: str) -> str:
    """What the F-test of a model against a simpler one says. ``smaller``, ``larger``: what the fits are called."""
    more = "one more parameter" if nested.added == 1 else f"{nested.added} more parameters"
    if nested.f is None or nested.p is None:
        return (
            f"{larger} has {more} than {smaller}, and no degrees of freedom are left to test whether they are needed."
        )
    extra = (
        f"The {more.replace(' more', ' extra') if nested.added > 1 else 'extra parameter'} of {larger} over {smaller}"
    )
    said = f"F = {significant(nested.f, 3).text} with {nested.added} and {nested.degrees_of_freedom} degrees of freedom"
    verb = "improve" if nested.added > 1 else "improves"
    if nested.p < SIGNIFICANT:
        return f"{extra} {verb} the fit significantly ({p_text(nested.p)}; {said})."
    give = "give" if nested.added > 1 else "gives"
    return f"{extra} {give} no significant improvement ({p_text(nested.p)}; {said}); prefer the simpler model."


def word_same_curve(found: SameCurve, first: str, second: str) -> str:
    """Whether one curve would do for two fits of the same model to different readings, and by which test."""
    if found.p is None or found.f is None:
        return f"No degrees of freedom are left to test whether one curve would do for {first} and {second}."
    known = found.together.readings.absolute_errors
    said = (
        f"χ² = {significant(found.f * found.saved, 3).text} with {found.saved} degree{'' if found.saved == 1 else 's'} of freedom"
        if known
        else f"Chow's test, F = {significant(found.f, 3).text} with {found.saved} and {found.degrees_of_freedom} degrees of freedom"
    )
    if found.p < SIGNIFICANT:
        return f"Evidence that {first} and {second} differ: one curve for both fits significantly worse than two ({p_text(found.p)}; {said})."
    return (
        f"No significant difference between {first} and {second} ({p_text(found.p)}; {said}): one curve may serve both."
    )


def word_ladder(rungs: Sequence[Rung], naming: Naming) -> str:
    """What the ladder of polynomials shows on these readings, in two sentences."""
    known = [rung for rung in rungs if np.isfinite(rung.leave_one_out_error)]
    if len(known) < 2:
        return "There are too few readings for polynomials of several degrees."
    best = min(known, key=lambda rung: rung.leave_one_out_error)
    first, last = rungs[0], rungs[-1]
    rises = ""
    if first.r_squared is not None and last.r_squared is not None:
        rises = f"R² never falls as the degree rises: from {share(first.r_squared)} to {share(last.r_squared)} here. "
    least = naming.y_with_unit(significant(best.leave_one_out_error, 2).text)
    if best is known[-1]:
        return f"{rises}The leave-one-out error is still falling at degree {best.degree} ({least})."
    worse = naming.y_with_unit(significant(known[-1].leave_one_out_error, 2).text)
    return (
        f"{rises}The leave-one-out error is lowest at degree {best.degree} ({least}); at degree {known[-1].degree} it is {worse}: "
        "the higher degrees overfit the scatter."
    )


def word_without(row: int, moved: float, at: float, s: float | None, naming: Naming) -> str:
    """How far the curve moves, at most, when a reading is left out; ``at``: the x where."""
    text = f"Without row {row + 1} the curve moves by up to {naming.y_with_unit(significant(abs(moved), 2).text)}"
    text += f", at {naming.x} = {naming.x_with_unit(significant(at, 3, strip=True).text)}"
    return f"{text}, {significant(abs(moved) / s, 2).text} times its typical miss." if s else f"{text}."
