"""Features of a curve as answers: slope and tangent, area, zeros, turning points, inflexions, crossings."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from ridge.core.numerals import capital, significant
from ridge.core.predicting.features import (
    Place,
    Quantity,
    area,
    crossings,
    inflexions,
    roots,
    tangent,
    turning_points,
)
from ridge.core.results.fit import Fit
from ridge.core.wording.answers import NO_UNCERTAINTY
from ridge.core.wording.features import word_limits, word_places, word_quantity
from ridge.core.wording.naming import Naming
from ridge.core.wording.sense import sense_of, word_sense
from ridge.exchange.cells import NotANumber
from ridge.exchange.lists import read_list
from ridge.studies.analysis.answer_marks import CURVE, mark_at, numbers_of
from ridge.studies.analysis.fits import Fitted
from ridge.studies.analysis.schemas import AnswerOut, AnswerRowOut, MarkOut, NumberOut
from ridge.studies.content.state import AnswerState, Question

FEATURES = ("tangent", "area", "roots", "turning", "inflexions", "crossing")
_PLACES: dict[str, tuple[Callable[..., list[Place]], str]] = {
    "roots": (roots, "zeros"),
    "turning": (turning_points, "turning points"),
    "inflexions": (inflexions, "inflexion points"),
}
NO_FIT = "Only a fitted curve has these: choose a fit."


def answer_feature(
    asked: Sequence[Fitted],
    fitted: Sequence[Fitted],
    question: Question | AnswerState,
    out: AnswerOut,
    level: float,
    naming: Naming,
) -> AnswerOut:
    """A feature of the first of the fits asked. Raises NotANumber, RidgeError."""
    one = next((one for one in asked if one.fit is not None), None)
    if one is None or one.fit is None:
        return out.model_copy(update={"asked": "", "problem": NO_FIT})
    fit, letter = one.fit, one.wanted.letter
    if question.direction == "tangent":
        return _tangent(fit, letter, question, out, level, naming)
    if question.direction == "area":
        return _area(fit, letter, question, out, level, naming)
    if question.direction == "crossing":
        other = next((f for f in fitted if f.wanted.letter == question.given.strip()), None)
        if other is None or other.fit is None or other is one:
            raise NotANumber("choose another fit for the curves to intersect")
        name = f"intersections of {letter} and {other.wanted.letter}"
        return _places(crossings(fit, other.fit, level=level), name, out, naming, level)
    find, name = _PLACES[question.direction]
    return _places(find(fit, level=level), f"{name} of {letter}", out, naming, level)


def _places(places: list[Place], name: str, out: AnswerOut, naming: Naming, level: float) -> AnswerOut:
    """Where the curve does something, in view and three ranges beyond, as far as x and y make sense."""
    asked = capital(name)
    x_sense, y_sense = sense_of(naming, "x"), sense_of(naming, "y")
    left = [place for place in places if x_sense.holds(place.x) and (place.kind == "root" or y_sense.holds(place.y))]
    if places and not left:
        said = " and ".join(text for text in (word_sense(naming, "x"), word_sense(naming, "y")) if text)
        return out.model_copy(update={"asked": asked, "problem": f"There are none where values make sense: {said}."})
    places = left
    if not places:
        return out.model_copy(
            update={"asked": asked, "problem": "There are none within three measured ranges of the readings."}
        )
    rows = [
        AnswerRowOut(
            letter="",
            asked="",
            result=text,
            mark=mark_at(place.x, place.y, **_spread(place)),
            numbers=_numbers(place, naming),
        )
        for place, text in zip(places, word_places(places, naming), strict=True)
    ]
    sentence = word_limits(level) if any("±" in row.result for row in rows) else NO_UNCERTAINTY
    if len(rows) == 1:
        only = rows[0]
        return out.model_copy(
            update={
                "asked": asked,
                "result": only.result,
                "sentence": sentence,
                "mark": only.mark,
                "full": repr(places[0].x),
                "numbers": only.numbers,
            }
        )
    return out.model_copy(update={"asked": asked, "result": f"{len(rows)} {name}", "sentence": sentence, "rows": rows})


def _numbers(place: Place, naming: Naming) -> list[NumberOut]:
    """x and y of a place; of a zero x alone."""
    found = []
    for letter, value, half, unit in (
        (naming.x, place.x, place.x_half, naming.x_unit),
        (naming.y, place.y, place.y_half, naming.y_unit),
    ):
        limits = () if half is None else ((CURVE, value - half, value + half),)
        found += numbers_of(letter, value, unit, *limits)
    return found[:1] if place.kind == "root" else found


def _of_quantity(name: str, quantity: Quantity, unit: str) -> list[NumberOut]:
    limits = () if quantity.standard_error is None else ((CURVE, quantity.low, quantity.high),)
    return numbers_of(name, quantity.value, unit, *limits)


def _spread(place: Place) -> dict[str, float]:
    return {} if place.x_half is None else {"x_low": place.x - place.x_half, "x_high": place.x + place.x_half}


def _tangent(
    fit: Fit, letter: str, question: Question | AnswerState, out: AnswerOut, level: float, naming: Naming
) -> AnswerOut:
    x = read_list(question.given, naming.x_clock)
    if len(x) != 1:
        raise NotANumber(f"one {naming.x} at a time")
    found = tangent(fit, x[0], level)
    result = f"slope {word_quantity(found.slope, naming.unit(-1, 1))}"
    at = naming.y_with_unit(significant(found.value.value, 4, strip=True).text)
    limits = word_limits(level) if "±" in result else NO_UNCERTAINTY
    sentence = f"The tangent touches the curve at {naming.y} = {at}. {limits}"
    mark = mark_at(found.x, found.value.value)
    if mark:
        mark.slope = found.slope.value
    asked = f"Slope of {letter} at {naming.x} = {naming.x_given(x[0])}"
    return out.model_copy(
        update={
            "asked": asked, "result": result, "sentence": sentence, "mark": mark, "full": repr(found.slope.value),
            "numbers": _of_quantity("slope", found.slope, naming.unit(-1, 1)),
        }
    )  # fmt: skip


def _area(
    fit: Fit, letter: str, question: Question | AnswerState, out: AnswerOut, level: float, naming: Naming
) -> AnswerOut:
    text = question.given.replace(" to ", "; ")
    ends = read_list(text, naming.x_clock)
    if len(ends) != 2:
        raise NotANumber(f"an area needs two {naming.x}: 0 to 10, say")
    found: Quantity = area(fit, ends[0], ends[1], level)
    result = f"area {word_quantity(found, naming.unit(1, 1))}"
    limits = word_limits(level) if "±" in result else NO_UNCERTAINTY
    sentence = f"What lies below {naming.y} = 0 counts as negative. {limits}"
    mark: MarkOut | None = mark_at(ends[0], float(fit.evaluate([ends[0]])[0]))
    if mark:
        mark.to_x = ends[1]
    asked = f"Area under {letter} from {naming.x} = {naming.x_span(*ends)}"
    numbers = _of_quantity("area", found, naming.unit(1, 1))
    update = {"asked": asked, "result": result, "sentence": sentence, "mark": mark, "full": repr(found.value)}
    return out.model_copy(update={**update, "numbers": numbers})
