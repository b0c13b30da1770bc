"""Which models are fitted, to what, and what is held fixed."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Annotated, Any, Literal

from ninja import Schema
from pydantic import ConfigDict, Field, StringConstraints

from ridge.core.errors import RidgeError
from ridge.core.wording.families import model_name
from ridge.studies.changes.base import Change, ChangeRefused, Outcome
from ridge.studies.fits import IN_LOGARITHMS, OPTIONS, model_of
from ridge.studies.readings import read_naming
from ridge.studies.state import LIMITS, FitState, StudyState

Family = Literal[
    "line", "polynomial", "exponential", "logarithmic", "power", "reciprocal", "sinusoid", "logistic", "gaussian",
    "formula",
]  # fmt: skip
Letter = Annotated[str, StringConstraints(pattern="^[A-F]$")]
Label = Annotated[str, StringConstraints(max_length=200)]


class FitOptions(Schema):
    """What can be chosen within a family; see ``ridge.core.models`` for the meaning of each."""

    model_config = ConfigDict(extra="forbid")

    degree: Annotated[int, Field(ge=2, le=12)] | None = None
    level: bool | None = None
    shift: bool | None = None
    degrees: bool | None = None
    form: Literal["sin", "cos"] | None = None
    text: Annotated[str, StringConstraints(max_length=500)] | None = None

    def given(self) -> dict[str, Any]:
        return {name: value for name, value in self.model_dump().items() if value is not None}


class PutFits(Change):
    """All fits as they were."""

    kind: Literal["put_fits"] = "put_fits"
    fits: Annotated[list[dict[str, Any]], Field(max_length=LIMITS["fits"])]

    @classmethod
    def of(cls, state: StudyState) -> PutFits:
        return cls.like(
            fits=[{**vars(fit), "fixed": dict(fit.fixed), "options": dict(fit.options)} for fit in state.fits]
        )

    def apply(self, state: StudyState) -> Outcome:
        try:
            fits = tuple(_checked(FitState(**fit), state) for fit in self.fits)
        except TypeError:
            raise ChangeRefused("These fits do not belong to this study.") from None
        return Outcome(replace(state, fits=fits), PutFits.of(state), "put the fits back")


class AddFit(Change):
    """One more model over the readings."""

    kind: Literal["add_fit"] = "add_fit"
    family: Family
    options: FitOptions = FitOptions()
    series: Label = ""

    def apply(self, state: StudyState) -> Outcome:
        if len(state.fits) >= LIMITS["fits"]:
            raise ChangeRefused(f"A study holds {LIMITS['fits']} fits at most: remove one first.")
        taken = {fit.letter for fit in state.fits}
        letter = next(letter for letter in "ABCDEF" if letter not in taken)
        added = _checked(FitState(letter, self.family, options=self.options.given(), series=self.series), state)
        return Outcome(
            replace(state, fits=(*state.fits, added)), PutFits.of(state), f"add fit {letter}, {_called(added, state)}"
        )


class SetFit(Change):
    """Family, options, fixed parameters, series and method of a fit; what is left out stays.

    A new family begins with nothing fixed.
    """

    kind: Literal["set_fit"] = "set_fit"
    letter: Letter
    family: Family | None = None
    options: FitOptions | None = None
    fixed: dict[str, float] | None = None
    series: Label | None = None
    method: Literal["y", "logarithms", "orthogonal"] | None = None

    def apply(self, state: StudyState) -> Outcome:
        old = _find(state, self.letter)
        new = old
        if self.family is not None and self.family != old.family:
            new = FitState(old.letter, self.family, series=old.series)
        if self.options is not None:
            new = replace(new, options={**new.options, **self.options.given()})
            if new.fixed and set(new.fixed) - set(_names(new, state)):
                new = replace(
                    new, fixed={name: value for name, value in new.fixed.items() if name in _names(new, state)}
                )
        if self.fixed is not None:
            if not all(math.isfinite(value) for value in self.fixed.values()):
                raise ChangeRefused("A fixed value has to be a finite number.")
            new = replace(new, fixed=dict(self.fixed))
        if self.series is not None:
            new = replace(new, series=self.series)
        if self.method is not None:
            new = replace(new, method=self.method)
        new = _checked(new, state)
        fits = tuple(new if fit is old else fit for fit in state.fits)
        return Outcome(replace(state, fits=fits), PutFits.of(state), self._label(old, new, state))

    def _label(self, old: FitState, new: FitState, state: StudyState) -> str:
        if old.family != new.family or old.options != new.options:
            return f"make fit {self.letter} a {_called(new, state)}"
        if self.fixed is not None:
            names = ", ".join(self.fixed)
            return f"fix {names} of fit {self.letter}" if names else f"free the parameters of fit {self.letter}"
        if self.series is not None:
            return f"fit {self.letter} to {self.series or 'all readings'}"
        words = {"y": f"in {read_naming(state).y}", "logarithms": "in logarithms", "orthogonal": "in both directions"}
        return f"least squares {words[new.method]} for fit {self.letter}"


class RemoveFit(Change):
    """Take a fit off the plot and the page."""

    kind: Literal["remove_fit"] = "remove_fit"
    letter: Letter

    def apply(self, state: StudyState) -> Outcome:
        _find(state, self.letter)
        fits = tuple(fit for fit in state.fits if fit.letter != self.letter)
        return Outcome(replace(state, fits=fits), PutFits.of(state), f"remove fit {self.letter}")


class LeadWith(Change):
    """Let a fit lead: its residuals are shown and answers come from it."""

    kind: Literal["lead_with"] = "lead_with"
    letter: Letter

    def apply(self, state: StudyState) -> Outcome:
        leading = _find(state, self.letter)
        fits = (leading, *(fit for fit in state.fits if fit is not leading))
        return Outcome(replace(state, fits=fits), PutFits.of(state), f"let fit {self.letter} lead")


def _find(state: StudyState, letter: str) -> FitState:
    for fit in state.fits:
        if fit.letter == letter:
            return fit
    raise ChangeRefused("That fit is no longer there.")


def _called(fit: FitState, state: StudyState) -> str:
    try:
        return model_name(model_of(fit, read_naming(state)))
    except RidgeError:
        return "own formula"


def _names(fit: FitState, state: StudyState) -> tuple[str, ...]:
    try:
        return model_of(replace(fit, fixed={}), read_naming(state)).parameter_names
    except RidgeError:
        return ()


def _checked(fit: FitState, state: StudyState) -> FitState:
    """The fit, if its options belong to its family and what it fixes is a parameter. Raises ChangeRefused.

    A formula that cannot be read is taken as it is typed: the page says what is wrong with it.
    """
    allowed = OPTIONS.get(fit.family, {})
    if not set(fit.options) <= set(allowed):
        raise ChangeRefused("This model has no such option.")
    if fit.method == "logarithms" and (
        fit.family not in IN_LOGARITHMS or any(fit.options.get(n) for n in ("level", "shift"))
    ):
        raise ChangeRefused("This model is no straight line in logarithms.")
    if fit.family != "formula" and not set(fit.fixed) <= set(_names(fit, state)):
        raise ChangeRefused(f"This model has the parameters {', '.join(_names(fit, state))}.")
    return fit
