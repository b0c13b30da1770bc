"""Before a change is stored: whether it can be read back, and whether what it leaves behind can be computed with."""

from __future__ import annotations

import json
import logging
from dataclasses import dataclass

from pydantic import ValidationError

from ridge.core.errors import RidgeError
from ridge.studies.apart import FAILED
from ridge.studies.content.changes import Change, ChangeRefused, Outcome, read_change
from ridge.studies.content.columns import column_values
from ridge.studies.content.course_rules import check_course
from ridge.studies.content.readings import read_naming
from ridge.studies.content.sound import Unsound, check_fit, check_sound
from ridge.studies.content.state import FitState, StudyState
from ridge.studies.content.wanted import model_of

log = logging.getLogger(__name__)

NOT_STORED = "Ridge cannot store this change, and has left the study as it was. It is our mistake, not yours; the failure is noted."


@dataclass(frozen=True)
class Checked:
    """A change that may be stored: what becomes of the state, the change and its inverse as they go into the history, and how many
    bytes these are."""

    outcome: Outcome
    change: dict[str, object]
    inverse: dict[str, object]
    size: int


def apply_checked(change: Change, before: StudyState) -> Checked:
    """Raises ChangeRefused also for a change that the history could not read back, and for models and formulas that fail unforeseen.

    What is merely wrong, such as a formula with a slip, is taken as it is typed: the page says what is wrong with it.
    """
    try:
        outcome = apply_sound(change, before)
        after = outcome.state
        stored = (change.stored(), outcome.inverse.stored())
        texts = [json.dumps(one, allow_nan=False) for one in stored]
        for text in texts:
            read_change(json.loads(text))
        for fit in after.fits:
            if fit not in before.fits and fit.family != "interpolation":
                _try_model(after, fit)
        if before.columns is not after.columns and FAILED in (one.problem for one in column_values(after).values()):
            raise ValueError("a column's formula")
    except (ValidationError, ValueError, TypeError, ArithmeticError, LookupError) as error:
        log.error("a change that cannot be read back was refused", exc_info=error)
        raise ChangeRefused(NOT_STORED) from None
    return Checked(outcome, *stored, sum(map(len, texts)))


def apply_sound(change: Change, before: StudyState) -> Outcome:
    """What becomes of a state, its parts belonging together. Raises ChangeRefused."""
    outcome = change.apply(before)
    after = outcome.state
    try:
        check_sound(after)  # first of all: a fit is named after x and y
        for fit in after.fits:
            if fit not in before.fits:
                check_fit(fit, after)
    except Unsound as unsound:
        if _is_sound(before):
            raise ChangeRefused(str(unsound)) from None
        # What was wrong before, whoever made it so, does not lock the study.
    check_course(before, after)
    return outcome


def _is_sound(state: StudyState) -> bool:
    try:
        check_sound(state)
    except Unsound:
        return False
    return True


def _try_model(state: StudyState, fit: FitState) -> None:
    try:
        model = model_of(fit, read_naming(state))
        values = dict.fromkeys(model.parameter_names, 1.0)
        model.evaluate([1.0], values)
        model.derivatives([1.0], values)
    except RidgeError:
        pass
