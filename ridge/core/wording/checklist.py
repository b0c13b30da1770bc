"""What an expert checks when an own formula does not fit, in the order in which it pays: the readings, the formula, a
term that is missing, where the search began, a parameter too many. Each is ticked as far as it can be told."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from ridge.core.errors import FormulaError, NoFit, NotIdentifiable, RidgeError, TooFewReadings, UndefinedAt
from ridge.core.formula.checks import check_text
from ridge.core.models import Formula, Model
from ridge.core.numerals import join
from ridge.core.readings import Readings
from ridge.core.results.fit import Fit
from ridge.core.wording.naming import Naming


@dataclass(frozen=True)
class Check:
    """One question of the list. ``state``: "fine", "cause" or "open" (only the user can tell)."""

    question: str
    state: Literal["fine", "cause", "open"]
    said: str


def failing_checks(
    readings: Readings, model: Model | None, error: RidgeError | None, fit: Fit | None, naming: Naming
) -> list[Check]:
    """The expert's checklist for a formula that has no fit, or one that cannot tell all its parameters."""
    redundant = [h for h in fit.held if h.why == "redundant"] if fit is not None else []
    checks = [_readings(readings, model, error)]
    checks.append(_formula(model, error))
    if not isinstance(model, Formula):
        return checks
    constant = model.constant
    checks.append(
        Check(
            "Does the formula lack something?",
            "fine" if constant else "open",
            f"{constant} is added as a constant."
            if constant
            else f"It has no constant term: if {naming.y} does not go to zero, add one. Does {naming.x} need an offset, as in ({naming.x} − b)?",
        )
    )
    stopped = isinstance(error, NoFit) or (fit is not None and fit.cut_short)
    checks.append(
        Check(
            "Did the search begin too far away?",
            "cause" if stopped else "fine",
            "No parameters were found that give a curve. Set it by hand until it nearly fits, then refine it by least squares."
            if stopped
            else "Ridge begins from many values on the scale of the readings.",
        )
    )
    if redundant or isinstance(error, NotIdentifiable):
        names = join([naming.letter(h.name) for h in redundant]) if redundant else "One of the parameters"
        does = "do" if len(redundant) > 1 else "does"
        checks.append(
            Check(
                "Is there a parameter too many?", "cause", f"{names} {does} the job of another one: fix or remove it."
            )
        )
    else:
        said = "None found." if fit is not None else "This shows once the formula has values at the readings."
        checks.append(Check("Is there a parameter too many?", "fine" if fit is not None else "open", said))
    return checks


def _readings(readings: Readings, model: Model | None, error: RidgeError | None) -> Check:
    question = "Are the readings what they should be?"
    n = readings.n
    if isinstance(error, TooFewReadings):
        return Check(question, "cause", f"There are {n}, and {error.needed} are needed.")
    if isinstance(error, UndefinedAt):
        return Check(question, "cause", f"{error.why} at {len(error.rows)} of them.")
    if model is not None and n < 2 * len(model.free_names):
        return Check(question, "open", f"There are only {n} for {len(model.free_names)} parameters.")
    return Check(question, "fine", f"{n} are usable.")


def _formula(model: Model | None, error: RidgeError | None) -> Check:
    question = "Is the formula what was meant?"
    if isinstance(error, FormulaError):
        return Check(question, "cause", str(error))
    if not isinstance(model, Formula):
        return Check(question, "open", "Look at it as it is typeset.")
    notes = check_text(model.formula, model.parsed)
    if notes:
        return Check(question, "cause" if error is not None else "open", " ".join(note.message for note in notes[:3]))
    return Check(
        question, "open", "Every name is used. Compare the typeset form with what you mean: is a bracket lost?"
    )
