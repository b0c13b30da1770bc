"""Whether the parts of a state belong together, whoever made it: a change, the history, a study file."""

from __future__ import annotations

from collections.abc import Iterable

from ridge.core.catalogue import defaults_of
from ridge.core.errors import RidgeError
from ridge.core.interpolation.kinds import FAMILY as INTERPOLATION
from ridge.core.models import FAMILIES, Formula
from ridge.core.numerals import number_as_given
from ridge.core.wording.naming import Naming
from ridge.studies.content.allowed import LIMITS
from ridge.studies.content.readings import read_naming
from ridge.studies.content.state import FitState, StudyState
from ridge.studies.content.wanted import model_of


class Unsound(Exception):
    """``where``: in which part of the study; the message is a sentence."""

    def __init__(self, where: str, message: str) -> None:
        super().__init__(message)
        self.where = where


def check_sound(state: StudyState) -> None:
    """Raises Unsound."""
    heights = {len(column.cells) for column in state.columns}
    if len(heights) > 1:
        raise Unsound("columns", "They have different numbers of rows.")
    if max(heights, default=0) > LIMITS["rows"] or len(state.columns) > LIMITS["columns"]:
        raise Unsound("columns", f"A study holds {LIMITS['columns']} columns of {LIMITS['rows']} rows at most.")
    roles = [column.role for column in state.columns]
    if roles.count("x") != 1 or roles.count("y") != 1:
        raise Unsound("columns", "One has to be x and one y.")
    if len(set(roles) - {"other"}) < len(roles) - roles.count("other"):
        raise Unsound("columns", "Two have the same role.")
    for where, names, most in (
        ("columns", [column.key for column in state.columns], LIMITS["columns"]),
        ("fits", [fit.letter for fit in state.fits], LIMITS["fits"]),
        ("answers", [answer.key for answer in state.answers], LIMITS["answers"]),
    ):
        if len(names) > most:
            raise Unsound(where, f"A study holds {most} of them at most.")
        if len(set(names)) < len(names):
            raise Unsound(where, "Two have the same key or letter.")
        if not all(names):
            raise Unsound(where, "One has no key.")
    for axis in ("x", "y"):
        low, high = state.plot.get(f"{axis}_low"), state.plot.get(f"{axis}_high")
        if low is not None and high is not None and not low < high:
            said = f"{number_as_given(low)} is not below {number_as_given(high)}"
            raise Unsound("plot", f"The {axis} axis must begin below its end: {said}.")
    marked = max((*state.aside, *state.assumed), default=-1)
    if marked >= state.row_count:
        raise Unsound("rows", f"Row {marked} is marked, but there are {state.row_count} rows, counted from 0.")


def check_fit(fit: FitState, state: StudyState) -> None:
    """Whether the options of a fit belong to its family and what it fixes is a parameter. Raises Unsound.

    A formula that cannot be read is taken as it is typed: the page says what is wrong with it.
    """
    check_options(fit)
    for low, high in fit.bounds.values():
        if low is not None and high is not None and not low < high:
            raise Unsound("fits", "A lower bound has to be smaller than the upper one.")
    if fit.x_range is not None and not fit.x_range[0] < fit.x_range[1]:
        raise Unsound("fits", "A range needs two numbers, the smaller one first.")
    if fit.family == INTERPOLATION and (fit.by_hand or fit.fixed or fit.bounds or fit.method != "y"):
        raise Unsound("fits", "An interpolation has no parameters to be set.")
    told = {*fit.fixed, *fit.bounds, *fit.values, *fit.decimals}
    if fit.family not in (Formula.family, INTERPOLATION) and not told <= set(names_of(fit, state)):
        raise Unsound("fits", f"This model has the parameters {letters_of(names_of(fit, state), state)}.")
    if fit.method == "logarithms" and not straight_in_logarithms(fit):
        raise Unsound("fits", "This model is not a straight line in logarithms.")


def check_options(fit: FitState) -> None:
    """Whether they belong to its family: before that nothing can be made of them. Raises Unsound."""
    if fit.family not in FAMILIES and fit.family != INTERPOLATION:
        raise Unsound("fits", f"There is no family of models called {fit.family}.")
    if not set(fit.options) <= set(defaults_of(fit.family)):
        raise Unsound("fits", "This model has no such option.")


def names_of(fit: FitState, state: StudyState) -> tuple[str, ...]:
    """The parameters of a fit, fixed ones among them; none where its model cannot be made."""
    if fit.family == INTERPOLATION:
        return ()
    try:
        return model_of(FitState(fit.letter, fit.family, options=fit.options), read_naming(state)).parameter_names
    except RidgeError:
        return ()


def letters_of(names: Iterable[str], state: StudyState) -> str:
    """Parameters by the letters that the page shows."""
    naming = read_naming(state)
    return ", ".join(naming.letter(name) for name in names)


def straight_in_logarithms(fit: FitState) -> bool:
    """Whether least squares may be done in logarithms instead of y."""
    try:
        return fit.family != INTERPOLATION and model_of(fit, Naming()).logarithms is not None
    except RidgeError:  # a formula that cannot be read
        return False
