"""Questions put to the fits of a study: y at one x or at many, x at a y, and features of a curve. Computes; words nothing."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import replace
from typing import Literal

import numpy as np

from ridge.core.carrying import (
    Moved,
    place_with_shared,
    prediction_with_shared,
    quantity_with_shared,
    solution_with_shared,
)
from ridge.core.errors import RidgeError
from ridge.core.fitting.effort import QUESTION, UNCHECKED
from ridge.core.interpolation import Interpolation
from ridge.core.predicting.at_x import predict
from ridge.core.predicting.at_y import solve
from ridge.core.predicting.features import Place, Tangent, area, crossings, inflexions, roots, tangent, turning_points
from ridge.core.predicting.sense import prediction_within, solutions_within
from ridge.core.results.fit import Fit
from ridge.core.wording.naming import Naming
from ridge.core.wording.sense import sense_of
from ridge.exchange.cells import NotANumber, read_numbers
from ridge.exchange.lists import read_list
from ridge.studies.analysis.answered import (
    Answered,
    AreaBetween,
    Entry,
    NoAnswer,
    One,
    OnInterpolation,
    PlacesFound,
    Several,
    SlopeAtX,
    SolutionsAtY,
    ValueAtX,
)
from ridge.studies.analysis.fits import Fitted, Kind
from ridge.studies.content.state import AnswerState, Question

MOST_CHECKED = 12
"""Values of one question up to which each one's limits are held against refits."""
FEATURES = ("tangent", "area", "roots", "turning", "inflexions", "crossing")
_PLACES: dict[str, tuple[Callable[..., list[Place]], str]] = {
    "roots": (roots, "zeros"),
    "turning": (turning_points, "turning points"),
    "inflexions": (inflexions, "inflexion points"),
}


def answered(
    fitted: Sequence[Fitted],
    question: Question | AnswerState,
    level: float,
    naming: Naming,
    numbers: Sequence[float] | None = None,
    *,
    refits: float = QUESTION,
) -> Answered:
    """One question answered, or the reason why it cannot be; it never fails for what was asked. ``fitted``: every fit, the
    leading one first; ``numbers`` spares reading what was typed; ``naming``: clocks and limits of sense of x and y;
    ``refits``: what those may cost that the limits are held against where they might mislead. Several y are the repeats of one
    sample, and averaged, only where ``question.repeats`` is above 1."""
    try:
        asked = _asked_fits(fitted, question)
        if question.direction in FEATURES:
            return _feature(asked, fitted, question, level, naming)
        values = tuple(numbers or read_asked(question, naming))
        if not asked:
            return NoAnswer("no fit")
        looking = question.direction == "x_at_y"
        together = looking and (len(values) == 1 or question.repeats > 1)
        if len(asked) == 1 and (together or len(values) == 1):
            return _one(asked[0], looking, values, question.repeats, level, naming, refits)
        few = refits if len(values) <= MOST_CHECKED else UNCHECKED
        groups = [values] if together else [(value,) for value in values]
        return Several(
            letters=tuple(one.wanted.letter for one in asked),
            values=values,
            entries=tuple(
                Entry(one.wanted.letter, group[0], _entry(one, looking, group, question.repeats, level, naming, few))
                for one in asked
                for group in groups
            ),
        )
    except (NotANumber, RidgeError) as problem:
        return NoAnswer("error", problem)


def read_asked(question: Question | AnswerState, naming: Naming) -> list[float]:
    """The values that a question gives, of x or of y, as numbers or as the clock shows them. Raises NotANumber."""
    if question.direction == "x_at_y":
        return read_numbers(question.given, naming.y_clock)
    return read_list(question.given, naming.x_clock)


def _asked_fits(fitted: Sequence[Fitted], question: Question | AnswerState) -> list[Fitted]:
    """The fits that are asked, of those that have a curve."""
    there = [one for one in fitted if one.curve is not None]
    if question.fit == "all":
        return there
    if question.fit:
        return [one for one in there if one.wanted.letter == question.fit]
    return there[:1] if fitted and fitted[0].curve is not None else []


def _entry(
    one: Fitted, looking: bool, values: Sequence[float], repeats: int, level: float, naming: Naming, refits: float
) -> One:
    """The same for one of many, whose failure is its own."""
    try:
        return _one(one, looking, values, repeats, level, naming, refits)
    except RidgeError as problem:
        return NoAnswer("error", problem)


def _one(
    one: Fitted, looking: bool, values: Sequence[float], repeats: int, level: float, naming: Naming, refits: float
) -> One:
    curve = one.curve
    if isinstance(curve, Interpolation):
        return _on_interpolation(curve, values, naming, looking)
    assert curve is not None
    if looking:
        return _of_kind(_at_y(curve, one.moved, values, repeats, level, naming, refits), one.kind)
    return _of_kind(_at_x(curve, one.moved, values[0], level, naming, refits), one.kind)


def _of_kind(found: One, kind: Kind) -> One:
    """Note from what kind of curve it comes: only a fit has an uncertainty."""
    return replace(found, kind=kind) if isinstance(found, ValueAtX | SolutionsAtY) else found


def _at_x(fit: Fit, moved: Sequence[Moved], x: float, level: float, naming: Naming, refits: float) -> One:
    if not sense_of(naming, "x").holds(x):
        return NoAnswer("no sense of x")
    prediction = prediction_with_shared(predict(fit, x, level, refits > 0, refits), moved)
    value = float(prediction.value)
    if not math.isfinite(value):
        return NoAnswer("no value" if _has_no_value(fit, x, value) else "too large", value=x)
    if not sense_of(naming, "y").holds(value):
        return NoAnswer("against sense", value=value)
    return ValueAtX(fit, prediction_within(prediction, sense_of(naming, "y")), refits >= QUESTION)


def _has_no_value(fit: Fit, x: float, value: float) -> bool:
    """Whether the curve has a gap there, rather than numbers beyond doubles all around."""
    beside = fit.evaluate(np.array([x - 1e-6 * (abs(x) or 1), x + 1e-6 * (abs(x) or 1)]))
    return math.isnan(value) or bool(np.isfinite(beside).any())


def _at_y(
    fit: Fit,
    moved: Sequence[Moved],
    values: Sequence[float],
    repeats: int,
    level: float,
    naming: Naming,
    refits: float,
) -> SolutionsAtY | NoAnswer:
    repeats = len(values) if len(values) > 1 else repeats
    y = float(np.mean(values))
    if not sense_of(naming, "y").holds(y):
        return NoAnswer("no sense of y")
    every = [
        solution_with_shared(one, fit, y, moved)
        for one in solve(fit, list(values), repeats, level, checked=refits > 0, refits=refits)
    ]
    solutions = solutions_within(every, sense_of(naming, "x"))
    if not solutions:
        return NoAnswer("only without sense")
    return SolutionsAtY(fit, y, repeats, tuple(solutions), len(every) - len(solutions), refits >= QUESTION)


def _on_interpolation(curve: Interpolation, values: Sequence[float], naming: Naming, looking: bool) -> One:
    given = float(np.mean(values)) if looking else values[0]
    x = curve.solve(given)[0].value if looking else given
    y = given if looking else float(curve.predict(x).value)
    axes: tuple[tuple[Literal["x", "y"], float], ...] = (("x", x), ("y", y))
    for axis, value in axes:
        if not sense_of(naming, axis).holds(value):
            return NoAnswer("no sense of x" if axis == "x" else "no sense of y")
    return OnInterpolation(curve, x, y, looking)


def _feature(
    asked: Sequence[Fitted], fitted: Sequence[Fitted], question: Question | AnswerState, level: float, naming: Naming
) -> Answered:
    """A feature of the first of the fits asked. Raises NotANumber, RidgeError."""
    one = next((one for one in asked if one.fit is not None), None)
    if one is None or one.fit is None:
        return NoAnswer("no fitted curve")
    fit, letter, moved = one.fit, one.wanted.letter, one.moved
    if question.direction == "tangent":
        return SlopeAtX(letter, _tangent(fit, moved, _single(question, naming), level), kind=one.kind)
    if question.direction == "area":
        low, high = _ends(question, naming)

        def size(of: Fit) -> float:
            return area(of, low, high, level).value

        found = quantity_with_shared(area(fit, low, high, level), moved, size, level)
        return AreaBetween(letter, (low, high), found, float(fit.evaluate([low])[0]), kind=one.kind)
    if question.direction == "crossing":
        other = next((f for f in fitted if f.wanted.letter == question.given.strip()), None)
        if other is None or other.fit is None or other is one:
            raise NotANumber("choose another fit for the curves to intersect")
        of = f"intersections of {letter} and {other.wanted.letter}"
        return _places(_crossings(fit, moved, other, level), of, naming, one.kind)
    find, name = _PLACES[question.direction]
    places = [
        place_with_shared(place, moved, [(find(a.up, level=level), find(a.down, level=level)) for a in moved], level)
        for place in find(fit, level=level)
    ]
    return _places(places, f"{name} of {letter}", naming, one.kind)


def _tangent(fit: Fit, moved: Sequence[Moved], x: float, level: float) -> Tangent:
    """With what all readings share in its limits."""
    found = tangent(fit, x, level)
    slope = quantity_with_shared(found.slope, moved, lambda of: tangent(of, x, level).slope.value, level)
    return replace(found, slope=slope)


def _crossings(fit: Fit, moved: Sequence[Moved], other: Fitted, level: float) -> list[Place]:
    """An error that both fits share moves both."""
    assert other.fit is not None
    beside = {one.error.name: one for one in other.moved}
    alike = [(one, beside[one.error.name]) for one in moved if one.error.name in beside]
    again = [(crossings(a.up, b.up, level=level), crossings(a.down, b.down, level=level)) for a, b in alike]
    return [
        place_with_shared(place, [one for one, _ in alike], again, level)
        for place in crossings(fit, other.fit, level=level)
    ]


def _single(question: Question | AnswerState, naming: Naming) -> float:
    x = read_list(question.given, naming.x_clock)
    if len(x) != 1:
        raise NotANumber(f"one {naming.x} at a time")
    return x[0]


def _ends(question: Question | AnswerState, naming: Naming) -> tuple[float, float]:
    ends = read_list(question.given.replace(" to ", "; "), naming.x_clock)
    if len(ends) != 2:
        raise NotANumber(f"an area needs two {naming.x}: 0 to 10, say")
    return ends[0], ends[1]


def _places(places: Sequence[Place], of: str, naming: Naming, kind: Kind) -> PlacesFound | NoAnswer:
    """Those in view and three ranges beyond at which x and y make sense."""
    x_sense, y_sense = sense_of(naming, "x"), sense_of(naming, "y")
    left = tuple(
        place for place in places if x_sense.holds(place.x) and (place.kind == "root" or y_sense.holds(place.y))
    )
    if not left:
        return NoAnswer("places without sense" if places else "no places", of=of)
    return PlacesFound(of, left, kind)
