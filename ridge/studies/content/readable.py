"""Before a change is stored: whether it can be read back, and whether what it leaves behind can be computed with."""

from __future__ import annotations

import json
import logging

from pydantic import ValidationError

from ridge.core.errors import RidgeError
from ridge.studies.apart import FAILED
from ridge.studies.content.changes import Change, ChangeRefused, Outcome, read_change
from ridge.studies.content.columns import column_values
from ridge.studies.content.readings import read_naming
from ridge.studies.content.state import FitState, StudyState
from ridge.studies.content.wanted import model_of

log = logging.getLogger(__name__)

NOT_STORED = "Ridge cannot store this change, and has left the study as it was. It is our mistake, not yours; the failure is noted."


def apply_checked(change: Change, before: StudyState) -> Outcome:
    """What becomes of a state. Raises ChangeRefused also for a change that the history could not read back, and for models and
    formulas that fail unforeseen.

    What is merely wrong, such as a formula with a slip, is taken as it is typed: the page says what is wrong with it.
    """
    try:
        outcome = change.apply(before)
        after = outcome.state
        for stored in (change.stored(), outcome.inverse.stored()):
            read_change(json.loads(json.dumps(stored, allow_nan=False)))
        for fit in after.fits:
            if fit not in before.fits and fit.family != "interpolation":
                _try_model(after, fit)
        if before.columns is not after.columns and FAILED in (one.problem for one in column_values(after).values()):
            raise ValueError("a column's formula")
    except (ValidationError, ValueError, TypeError, ArithmeticError, LookupError) as error:
        log.error("a change that cannot be read back was refused", exc_info=error)
        raise ChangeRefused(NOT_STORED) from None
    return outcome


def _try_model(state: StudyState, fit: FitState) -> None:
    try:
        model = model_of(fit, read_naming(state))
        values = dict.fromkeys(model.parameter_names, 1.0)
        model.evaluate([1.0], values)
        model.derivatives([1.0], values)
    except RidgeError:
        pass
