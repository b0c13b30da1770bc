"""From what a study asks to be fitted to the core's models, readings and starting values."""

from __future__ import annotations

from collections.abc import Mapping

from ridge.core.by_hand import first_values
from ridge.core.catalogue import defaults_of
from ridge.core.errors import FormulaError, OutsideSense
from ridge.core.formula.checks import meant_variable
from ridge.core.formula.parse import Curve, parse, rename
from ridge.core.formula.tree import Call, Constant, Name, number, walk
from ridge.core.models import FAMILIES, Formula, Model
from ridge.core.readings import Readings
from ridge.core.wording.naming import Naming
from ridge.studies.content.readings import Table
from ridge.studies.content.state import FitState

NOTHING = Curve(number(0), "x")
"""In place of a curve of which nothing is known yet."""


def model_of(wanted: FitState, naming: Naming, curves: Mapping[str, Curve] | None = None) -> Model:
    """The model that a state asks for. ``curves``: those that its formula calls, by letter; without them the calls are
    read, but stand for nothing. Raises OutsideSense, FormulaError."""
    family = FAMILIES[wanted.family]
    options = defaults_of(wanted.family) | dict(wanted.options)
    if issubclass(family, Formula):
        options["variable"] = variable_of(naming)
        called = options["curves"] or ()
        options["curves"] = tuple((letter, (curves or {}).get(letter, NOTHING)) for letter in called)
        if curves is not None and (gone := [letter for letter in called if letter not in curves]):
            said = f"There is no fit {gone[0]} to call any more. Write the formula without {gone[0]}(…)."
            raise FormulaError(said, options["text"].find(gone[0]), 1, gone[0])
    model = family(**options)
    if isinstance(model, Formula):
        _check_variable(model, naming)
    return model.with_fixed(wanted.fixed)


def angles_in_degrees(text: str, naming: Naming) -> bool:
    """Whether x, in degrees, stands inside a trigonometric function of a newly typed formula that does not convert it itself."""
    if naming.x_unit not in ("°", "deg", "degree", "degrees"):
        return False
    try:
        parsed = parse(text, variable_of(naming), named_on_the_left=True)
    except FormulaError:
        return False
    parts = list(walk(parsed.tree))
    of_x = any(
        isinstance(part, Call) and part.function in ("sin", "cos", "tan") and Name(parsed.variable) in walk(part)
        for part in parts
    )
    return of_x and not any(part == Constant("pi") or part == number(180) for part in parts)


def variable_of(naming: Naming) -> str:
    """What stands for x in formulas. A symbol that is no name there (such as one with a space) leaves x."""
    return naming.x if naming.x.replace("_", "").isalnum() and not naming.x[0].isdigit() else "x"


def _check_variable(model: Formula, naming: Naming) -> None:
    """Raise FormulaError where another name stands for the variable, with the formula as it is probably meant."""
    meant = meant_variable(model.parsed, [naming.x_name])
    if meant:
        raise FormulaError(
            f"{model.variable} does not occur in the formula. Does {meant} stand for {model.variable}"
            f"{f', {naming.x_name}' if naming.x_name else ''}?",
            model.formula.find(meant), len(meant), meant, model.variable, rename(model.formula, meant, model.variable),
        )  # fmt: skip


def hand_values(readings: Readings, model: Model, wanted: FitState) -> dict[str, float]:
    """The parameters of a curve set by hand; those never touched are read off the readings."""
    given = known_values(wanted.values, model)
    missing = [name for name in model.free_names if name not in given]
    return {**(first_values(readings, model) if missing else {}), **given}


def known_values(values: Mapping[str, float], model: Model) -> dict[str, float]:
    """Those values whose parameter the model has and does not keep fixed."""
    return {name: value for name, value in values.items() if name in model.free_names}


def readings_for(table: Table, wanted: FitState) -> Readings:
    """The readings that a fit is made on: all, or those of one series, and of these the ones in its stretch of x.

    Raises OutsideSense for a series that is gone.
    """
    readings = table.readings
    if wanted.series:
        if table.series is None or wanted.series not in table.series.names:
            raise OutsideSense("series", f"There are no readings of {wanted.series} any more. Choose another series.")
        readings = readings.choosing(readings.included & table.series.rows_of(wanted.series))
    return readings.within(*wanted.x_range) if wanted.x_range else readings
