"""Which models are fitted, to what, and what is held fixed."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Annotated, Any, Literal

from pydantic import Field, StringConstraints

from ridge.core.by_hand import move
from ridge.core.catalogue import defaults_of
from ridge.core.errors import RidgeError
from ridge.core.interpolation.kinds import FAMILY as INTERPOLATION
from ridge.core.models import FAMILIES
from ridge.core.wording.interpolation import interpolation_name
from ridge.studies.content.allowed import LIMITS
from ridge.studies.content.calls import calls_itself, curves_called
from ridge.studies.content.changes.base import Change, ChangeRefused, Outcome
from ridge.studies.content.fields import Bounds, Decimals, FitName, Label, Letter, Method, Number
from ridge.studies.content.options import Family, FitOptions
from ridge.studies.content.readings import read_naming, read_table
from ridge.studies.content.sound import Unsound, check_options, letters_of, names_of, straight_in_logarithms
from ridge.studies.content.state import FitState, OwnQuantity, StudyState
from ridge.studies.content.wanted import angles_in_degrees, hand_values, model_of, readings_for


class PutFits(Change):
    """All fits as they were."""

    kind: Literal["put_fits"] = "put_fits"
    fits: Annotated[list[FitState], Field(max_length=LIMITS["fits"])]

    @classmethod
    def of(cls, state: StudyState) -> PutFits:
        return cls.like(fits=list(state.fits))

    def apply(self, state: StudyState) -> Outcome:
        return Outcome(replace(state, fits=tuple(self.fits)), PutFits.of(state), "put the fits back")


class AddFit(Change):
    """One more model over the readings; ``by_hand``: with values read off them, to be set by hand."""

    kind: Literal["add_fit"] = "add_fit"
    family: Family
    options: FitOptions = FitOptions()
    series: Label = ""
    name: FitName = ""
    by_hand: bool = False

    def apply(self, state: StudyState) -> Outcome:
        letter = free_letter(state)
        of_course = _of_course(state, self.family)
        options = {**of_course, **_as_typed(self.options.given(), of_course, letter, state)}
        added = _with_options(
            FitState(letter, self.family, series=self.series, name=self.name, by_hand=self.by_hand), options
        )
        return Outcome(
            replace(state, fits=(*state.fits, added)), PutFits.of(state), f"add fit {letter}, {_called(added, state)}"
        )


class SetFit(Change):
    """What a fit is made of and how; what is left out stays.

    A new family begins with nothing fixed. ``by_hand`` without ``values`` begins with values read off the readings.
    ``x_range``: low and high, or empty for all readings. ``name``: what the user calls it, empty for the model's name.
    ``decimals``: of the parameters in the equation; those left out have as many as they need. ``follows``: all quantities of one's own.
    """

    kind: Literal["set_fit"] = "set_fit"
    letter: Letter
    family: Family | None = None
    options: FitOptions | None = None
    fixed: dict[str, Number] | None = None
    series: Label | None = None
    method: Method | None = None
    by_hand: bool | None = None
    values: dict[str, Number] | None = None
    bounds: dict[str, Bounds] | None = None
    x_range: Annotated[list[Number], Field(max_length=2)] | None = None
    name: FitName | None = None
    hidden: bool | None = None
    decimals: dict[str, Decimals] | None = None
    follows: Annotated[list[OwnQuantity], Field(max_length=LIMITS["quantities"])] | None = None

    def apply(self, state: StudyState) -> Outcome:
        old = _find(state, self.letter)
        new = old
        if self.family is not None and self.family != old.family:
            new = FitState(
                old.letter, self.family, options=_of_course(state, self.family), series=old.series, x_range=old.x_range, hidden=old.hidden
            )  # fmt: skip
        if self.options is not None:
            given = _as_typed(self.options.given(), new.options, self.letter, state)
            kept = {name: value for name, value in new.options.items() if name != "terms" or "degree" not in given}
            new = _with_options(new, {**kept, **given})
            known = set(names_of(new, state))
            new = replace(
                new,
                fixed={name: value for name, value in new.fixed.items() if name in known},
                bounds={name: pair for name, pair in new.bounds.items() if name in known},
                decimals={name: places for name, places in new.decimals.items() if name in known},
            )
            if new.method == "logarithms" and not straight_in_logarithms(new):
                new = replace(new, method="y")
        if self.fixed is not None:
            new = replace(new, fixed=dict(self.fixed))
        if self.series is not None:
            new = replace(new, series=self.series)
        if self.method is not None:
            new = replace(new, method=self.method)
        if self.by_hand is not None:
            new = replace(new, by_hand=self.by_hand, values={})
        if self.values is not None:
            new = replace(new, values=_within_spans(state, new, self.values))
        if self.bounds is not None:
            new = replace(new, bounds={name: pair for name, pair in self.bounds.items() if pair != (None, None)})
        if self.x_range is not None:
            new = replace(new, x_range=_stretch(self.x_range))
        if self.name is not None:
            new = replace(new, name=self.name)
        if self.hidden is not None:
            new = replace(new, hidden=self.hidden)
        if self.decimals is not None:
            new = replace(new, decimals=dict(self.decimals))
        if self.follows is not None:
            new = replace(new, follows=tuple(self.follows))
        fits = tuple(new if fit is old else fit for fit in state.fits)
        return Outcome(replace(state, fits=fits), PutFits.of(state), self._label(old, new, state))

    def _label(self, old: FitState, new: FitState, state: StudyState) -> str:
        if old.family != new.family or old.options != new.options:
            called = _called(new, state)
            return f"make fit {self.letter} {'an' if called[:1] in 'aeiou' else 'a'} {called}"
        if self.fixed is not None:
            names = letters_of(self.fixed, state)
            return f"fix {names} of fit {self.letter}" if names else f"fit all parameters of {self.letter} again"
        if self.series is not None:
            return f"fit {self.letter} to {self.series or 'all readings'}"
        if self.values is not None or self.by_hand is not None:
            if new.by_hand:
                return f"set {letters_of(self.values, state) if self.values else 'fit'} of {self.letter} by hand"
            return f"fit {self.letter} by least squares"
        if self.bounds is not None:
            return (
                f"bound {letters_of(new.bounds, state)} of fit {self.letter}"
                if new.bounds
                else f"remove bounds of fit {self.letter}"
            )
        if self.x_range is not None:
            return f"change the range of fit {self.letter}"
        if self.name is not None:
            return f"rename fit {self.letter} to {new.name or 'the name of its model'}"
        if self.follows is not None:
            return f"change what follows from fit {self.letter}"
        if self.decimals is not None:
            return f"{'set' if new.decimals else 'reset'} the decimals of fit {self.letter}"
        if self.hidden is not None:
            return f"{'hide' if new.hidden else 'show'} fit {self.letter}"
        words = {"y": f"in {read_naming(state).y}", "logarithms": "in logarithms", "orthogonal": "in both directions"}
        return f"least squares {words[new.method]} for fit {self.letter}"


def _with_options(fit: FitState, options: Mapping[str, Any]) -> FitState:
    made = replace(fit, options=options)
    try:
        check_options(made)
    except Unsound as unsound:
        raise ChangeRefused(str(unsound)) from None
    return made


def _of_course(state: StudyState, family: str) -> dict[str, Any]:
    return state.course.options_for(family) if state.course else {}


def _within_spans(state: StudyState, fit: FitState, values: Mapping[str, float]) -> dict[str, float]:
    """Values by hand, none beyond the ends between which the course lets its handle go."""
    held = dict(values)
    for name, value in values.items():
        if state.course and (span := state.course.span_of(fit.family, fit.options, name)):
            held[name] = min(max(value, span.low), span.high)
    return held


def _as_typed(given: dict[str, Any], before: Mapping[str, Any], letter: str, state: StudyState) -> dict[str, Any]:
    """Options with the letters of the fits that a newly typed formula calls, and with its angles in degrees where x is."""
    if "text" not in given:
        return given
    if "degrees" not in given and "degrees" not in before and angles_in_degrees(given["text"], read_naming(state)):
        given = {**given, "degrees": True}
    if "curves" in given:
        return given
    curves = curves_called(state, letter, given["text"])
    if back := calls_itself(state, letter, curves):
        raise ChangeRefused(f"Fit {back} calls {letter} itself: a formula cannot go round in a circle.")
    return {**given, "curves": curves}


class DuplicateFit(Change):
    """The same fit once more, under the next letter."""

    kind: Literal["duplicate_fit"] = "duplicate_fit"
    letter: Letter

    def apply(self, state: StudyState) -> Outcome:
        old = _find(state, self.letter)
        copy = replace(old, letter=free_letter(state), name=f"{old.name[:50]} (copy)" if old.name else "")
        return Outcome(
            replace(state, fits=(*state.fits, copy)), PutFits.of(state), f"duplicate fit {old.letter} as {copy.letter}"
        )


class RefineFit(Change):
    """Least squares from the values that were set by hand; ``keep``: leave the hand-made curve beside it."""

    kind: Literal["refine_fit"] = "refine_fit"
    letter: Letter
    keep: bool = False

    def apply(self, state: StudyState) -> Outcome:
        old = _find(state, self.letter)
        if not old.by_hand:
            raise ChangeRefused("That fit is not set by hand.")
        table = read_table(state)
        try:
            values = hand_values(readings_for(table, old), model_of(old, table.naming), old)
        except RidgeError as problem:
            raise ChangeRefused(str(problem)) from None
        refined = replace(old, by_hand=False, values=values)
        fits = tuple(refined if fit is old else fit for fit in state.fits)
        if self.keep:
            fits = (*fits, replace(old, letter=free_letter(state), values=values))
        return Outcome(
            replace(state, fits=fits), PutFits.of(state), f"refine fit {self.letter} from the values set by hand"
        )


class MoveGrip(Change):
    """Take hold of a place of a curve set by hand and move it to (x, y)."""

    kind: Literal["move_grip"] = "move_grip"
    letter: Letter
    grip: Annotated[str, StringConstraints(max_length=20)]
    x: Number
    y: Number

    def apply(self, state: StudyState) -> Outcome:
        old = _find(state, self.letter)
        if old.family == INTERPOLATION:
            raise ChangeRefused("An interpolation has no parameters to be set.")
        table = read_table(state)
        try:
            readings, model = readings_for(table, old), model_of(old, table.naming)
            values = move(readings, model, hand_values(readings, model, old), self.grip, self.x, self.y)
        except RidgeError as problem:
            raise ChangeRefused(str(problem)) from None
        fits = tuple(replace(old, by_hand=True, values=values) if fit is old else fit for fit in state.fits)
        return Outcome(replace(state, fits=fits), PutFits.of(state), f"move the {self.grip} of {self.letter} by hand")


class RemoveFit(Change):
    """Take a fit off the plot and the page."""

    kind: Literal["remove_fit"] = "remove_fit"
    letter: Letter

    def apply(self, state: StudyState) -> Outcome:
        _find(state, self.letter)
        fits = tuple(fit for fit in state.fits if fit.letter != self.letter)
        return Outcome(replace(state, fits=fits), PutFits.of(state), f"remove fit {self.letter}")


class MoveFit(Change):
    """Another place in the order of the fits, counted from 0; the first one leads."""

    kind: Literal["move_fit"] = "move_fit"
    letter: Letter
    to: Annotated[int, Field(ge=0, le=5)]

    def apply(self, state: StudyState) -> Outcome:
        moved = _find(state, self.letter)
        rest = [fit for fit in state.fits if fit is not moved]
        rest.insert(self.to, moved)
        return Outcome(replace(state, fits=tuple(rest)), PutFits.of(state), f"move fit {self.letter}")


class LeadWith(Change):
    """Make a fit the leading one: its residuals are shown and answers use it."""

    kind: Literal["lead_with"] = "lead_with"
    letter: Letter

    def apply(self, state: StudyState) -> Outcome:
        leading = _find(state, self.letter)
        fits = (leading, *(fit for fit in state.fits if fit is not leading))
        return Outcome(replace(state, fits=fits), PutFits.of(state), f"make {self.letter} the leading fit")


def free_letter(state: StudyState) -> str:
    """The next letter for a fit. Raises ChangeRefused where all are taken."""
    taken = {fit.letter for fit in state.fits}
    if len(taken) >= LIMITS["fits"]:
        raise ChangeRefused(f"A study holds {LIMITS['fits']} fits at most: remove one first.")
    return next(letter for letter in "ABCDEF" if letter not in taken)


def _stretch(given: list[float]) -> tuple[float, float] | None:
    if not given:
        return None
    if len(given) != 2 or not given[0] < given[1]:
        raise ChangeRefused("A range needs two numbers, the smaller one first.")
    return given[0], given[1]


def _find(state: StudyState, letter: str) -> FitState:
    for fit in state.fits:
        if fit.letter == letter:
            return fit
    raise ChangeRefused("That fit is no longer there.")


def _called(fit: FitState, state: StudyState) -> str:
    if fit.family == INTERPOLATION:
        options = defaults_of(INTERPOLATION) | dict(fit.options)
        return interpolation_name(options["kind"], options["ends"], options["spline_degree"])
    try:
        return model_of(fit, read_naming(state)).name
    except RidgeError:
        return FAMILIES[fit.family].title
