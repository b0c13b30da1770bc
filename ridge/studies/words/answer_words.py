"""An answer in words, with its mark on the plot and its numbers for tables: the last step, nothing is computed here."""

from __future__ import annotations

import math
from typing import Any

from ridge.core.decimal_sign import in_sign
from ridge.core.numerals import capital, count_word, significant
from ridge.core.predicting.features import Place, Quantity
from ridge.core.predicting.solution import MOST, Solution
from ridge.core.wording.answers import NO_UNCERTAINTY, AnswerText, word_prediction, word_solutions
from ridge.core.wording.families import beyond_sentence
from ridge.core.wording.features import OF_THE_CURVE, word_places, word_quantity
from ridge.core.wording.interpolation import word_between, word_beyond, word_place_between
from ridge.core.wording.limits import label_in_limits, limits_text, value_in_limits
from ridge.core.wording.naming import Naming
from ridge.core.wording.sense import sense_of, word_sense
from ridge.exchange.cells import NotANumber
from ridge.studies.analysis.answered import (
    Answered,
    AreaBetween,
    Entry,
    NoAnswer,
    OnInterpolation,
    PlacesFound,
    Several,
    SlopeAtX,
    SolutionsAtY,
    ValueAtX,
)
from ridge.studies.analysis.converted import converted, factor_into, unit_of_answer
from ridge.studies.analysis.fits import Kind
from ridge.studies.content.state import AnswerState, Question
from ridge.studies.words.answer_marks import CURVE, NEW, OF_X, mark_at, numbers_of
from ridge.studies.words.schemas import AnswerOut, AnswerRowOut, NumberOut

MOST_SOLUTIONS = 24
"""Solutions of one question up to which all are listed, the nearest first."""
MOST_MARKED = 60
"""Results of one question up to which each is marked on the plot."""
LONGEST_SAID = 400


def word_answer(question: Question | AnswerState, found: Answered, level: float, naming: Naming) -> AnswerOut:
    """Everything that page, report, workbook and plot say of an answer."""
    out = unanswered(question, naming).model_copy(update=_said(question, found, level, naming))
    unit = question.unit if isinstance(question, AnswerState) else ""
    if not unit or out.problem or unit == unit_of_answer(found, naming):
        return out.model_copy(update={"own_unit": unit_of_answer(found, naming)})
    factor = factor_into(found, unit, naming)
    if factor is None:
        own = unit_of_answer(found, naming) or "This"
        return out.model_copy(update={"sentence": f"{out.sentence} {own} cannot be converted into {unit}.".strip()})
    return _in_unit(out, question, found, factor, unit, level, naming)


CONVERTED = ("result", "sentence", "full", "numbers")


def _in_unit(
    out: AnswerOut,
    question: Question | AnswerState,
    found: Answered,
    factor: float,
    unit: str,
    level: float,
    naming: Naming,
) -> AnswerOut:
    """The result in another unit; where it stands, on the plot and to the readings, is told in that of the column."""
    again, named = converted(found, factor, unit, naming)
    said = _said(question, again, level, named)
    rows = [
        row.model_copy(update={"result": other.result, "new": other.new, "numbers": other.numbers})
        for row, other in zip(out.rows, said.get("rows", []), strict=False)
    ]
    own = unit_of_answer(found, naming)
    return out.model_copy(
        update={**{name: said[name] for name in CONVERTED if name in said}, "rows": rows, "own_unit": own}
    )


def unanswered(question: Question | AnswerState, naming: Naming, problem: str = "") -> AnswerOut:
    """A question without its answer yet, or with what is in its way."""
    return AnswerOut(
        key=question.key, direction=question.direction, given=question.given, repeats=question.repeats,
        fit=question.fit, name=question.name, asked=_asked(question, naming), problem=problem,
        unit=question.unit if isinstance(question, AnswerState) else "",
    )  # fmt: skip


def said(out: AnswerOut) -> str:
    """An answer in one line, as it is remembered."""
    return (out.problem or out.result)[:LONGEST_SAID]


def _asked(question: Question | AnswerState, naming: Naming) -> str:
    return f"{naming.x if question.direction == 'y_at_x' else naming.y} = {question.given}"


def _said(question: Question | AnswerState, found: Answered, level: float, naming: Naming) -> dict[str, Any]:
    match found:
        case NoAnswer():
            asked = {"no fitted curve": ""} | dict.fromkeys(("places without sense", "no places"), capital(found.of))
            renamed = {"asked": asked[found.why]} if found.why in asked else {}
            return {"problem": _problem(found, naming), **renamed}
        case ValueAtX():
            return _marked(_value(found, naming), found.kind)
        case SolutionsAtY():
            return _marked(_solutions(found, naming), found.kind)
        case OnInterpolation():
            return _between(found, naming)
        case SlopeAtX():
            return _marked(_slope(found, level, naming), found.kind)
        case AreaBetween():
            return _marked(_area(found, level, naming), found.kind)
        case PlacesFound():
            return _marked(_places(found, level, naming), found.kind)
        case Several():
            return _several(question, found, level, naming)


NO_FIT: dict[Kind, str] = {"hand": "adjusted by hand", "known": "reference curve"}
"""What a result is marked with that comes from a curve without uncertainty."""


def _marked(said: dict[str, Any], kind: Kind) -> dict[str, Any]:
    """The same with the mark of a curve that was not fitted: its results are values without intervals."""
    mark = NO_FIT.get(kind)
    if mark is None:
        return said
    numbers = [one.model_copy(update={"limits": mark}) for one in said["numbers"]] if "numbers" in said else []
    rows = [
        row.model_copy(
            update={
                "result": f"{row.result} ({mark})",
                "new": "",
                "numbers": [one.model_copy(update={"limits": mark}) for one in row.numbers],
            }
        )
        for row in said.get("rows", [])
    ]
    return {**said, "result": f"{said['result']} ({mark})", "rows": rows, "numbers": numbers}


def _problem(found: NoAnswer, naming: Naming) -> str:
    match found.why:
        case "error":
            return f"{capital(str(found.error))}." if isinstance(found.error, NotANumber) else str(found.error)
        case "no fit":
            return "There is no answer until there is a fit."
        case "no fitted curve":
            return "Only a fitted curve has these: choose a fit."
        case "no sense of x":
            return f"{capital(word_sense(naming, 'x'))}."
        case "no sense of y":
            return f"{capital(word_sense(naming, 'y'))}."
        case "against sense":
            y = naming.y_with_unit(significant(found.value, 3).text)
            return f"The curve says {y} there, but {word_sense(naming, 'y')}: the model does not hold there."
        case "no value":
            return f"The model has no value at {naming.x} = {naming.x_given(found.value)}. Ask for another {naming.x}."
        case "too large":
            return f"{naming.y} there is beyond what the computer's numbers hold."
        case "only without sense":
            return f"The curve takes that value only where {naming.x} makes no sense: {word_sense(naming, 'x')}."
        case "places without sense":
            senses = " and ".join(text for text in (word_sense(naming, "x"), word_sense(naming, "y")) if text)
            return f"There are none where values make sense: {senses}."
        case "no places":
            return "There are none within three measured ranges of the readings."


def _texts(words: AnswerText) -> dict[str, Any]:
    return {name: text for name, text in vars(words).items() if name != "limits"}


def _value(found: ValueAtX, naming: Naming) -> dict[str, Any]:
    prediction = found.prediction
    beyond = bool(prediction.beyond > 0)
    return {
        **_texts(word_prediction(found.fit, prediction, naming, refining=not found.checked)),
        "short": naming.y_with_unit(label_in_limits(found.y, float(prediction.low), float(prediction.high))),
        "mark": mark_at(found.x, found.y, y_low=float(prediction.low), y_high=float(prediction.high)),
        "beyond": beyond,
        "beyond_says": beyond_sentence(found.fit, naming, found.x) if beyond else "",
        "numbers": _numbers_of_y(found, naming),
    }


def _numbers_of_y(found: ValueAtX, naming: Naming) -> list[NumberOut]:
    prediction = found.prediction
    uncertain = found.fit.critical_value(prediction.level) is not None and not found.fit.statistics.exact
    limits = (
        (NEW, float(prediction.low), float(prediction.high)),
        (CURVE, float(prediction.mean_low), float(prediction.mean_high)),
    )
    return numbers_of(naming.y, found.y, naming.y_unit, *(limits if uncertain else ()))


def _numbers_of_x(found: SolutionsAtY, solution: Solution, naming: Naming) -> list[NumberOut]:
    uncertain = solution.standard_error is not None and not found.fit.statistics.exact
    limits = ((OF_X, solution.low, solution.high),)
    return numbers_of(naming.x, solution.value, naming.x_unit, *(limits if uncertain else ()))


def _solutions(found: SolutionsAtY, naming: Naming) -> dict[str, Any]:
    """Every x at that y; the nearest to the readings is the answer."""
    fit, y, first, shown = found.fit, found.y, found.solutions[0], found.solutions[:MOST_SOLUTIONS]
    texts = word_solutions(fit, shown, y, found.repeats, naming, refining=not found.checked)
    sentences = (texts[0].sentence, _how_many_more(found, naming), _left_out(found, naming))
    beyond = first.beyond > 0
    rows = [
        AnswerRowOut(
            letter="", asked=text.asked, result=text.result, new=text.limits or text.sentence, place=text.place,
            extrapolation=text.extrapolation, short=_short_x(solution, naming),
            mark=mark_at(solution.value, y, x_low=solution.low, x_high=solution.high),
            numbers=_numbers_of_x(found, solution, naming),
        )
        for solution, text in zip(shown, texts, strict=True)
    ]  # fmt: skip
    return {
        **_texts(texts[0]),
        "short": _short_x(first, naming),
        "sentence": " ".join(part for part in sentences if part),
        "mark": mark_at(first.value, y, x_low=first.low, x_high=first.high),
        "beyond": beyond,
        "beyond_says": beyond_sentence(fit, naming, first.value) if beyond else "",
        "rows": rows if len(rows) > 1 else [],
        "numbers": _numbers_of_x(found, first, naming),
    }


def _short_x(solution: Solution, naming: Naming) -> str:
    said = label_in_limits(solution.value, solution.low, solution.high)
    return f"{naming.x_with_unit(said)}{naming.x_on_clock(solution.value)}"


def _left_out(found: SolutionsAtY, naming: Naming) -> str:
    """What the limits of sense of x took away."""
    sense, first, count = sense_of(naming, "x"), found.solutions[0], found.left_out
    ends_there = (math.isfinite(sense.low) and first.low == sense.low) or (
        math.isfinite(sense.high) and first.high == sense.high
    )
    if not count and not ends_there:
        return ""
    left = f"{count_word(count, capital=True)} more {'is' if count == 1 else 'are'} left out: "
    return f"{left if count else 'The limits end there: '}{word_sense(naming, 'x')}."


def _how_many_more(found: SolutionsAtY, naming: Naming) -> str:
    """How often the curve takes the value besides the answer that is given first."""
    count = len(found.solutions)
    if count <= 1:
        return ""
    others = f"{count_word(count - 1, capital=True)}{' or more' if count == MOST else ''} more {naming.x}"
    listed = f"; the nearest {MOST_SOLUTIONS} are listed" if count > MOST_SOLUTIONS else ""
    if found.fit.model.periodic:
        return f"{others} within three measured ranges{listed}; the same value comes back with every period."
    return f"{others} with that {naming.y}{listed}."


def _between(found: OnInterpolation, naming: Naming) -> dict[str, Any]:
    """From an interpolation, which knows no uncertainty."""
    x, y, looking = found.x, found.y, found.looking
    result, sentence = word_between(found.curve, x, y, naming, asked_y=looking)
    place = word_place_between(found.curve, x, naming)
    numbers = numbers_of(naming.x, x, naming.x_unit) if looking else numbers_of(naming.y, y, naming.y_unit)
    asked = f"{naming.y} = {naming.y_given(y)}" if looking else f"{naming.x} = {naming.x_given(x)}"
    return {
        "asked": asked, "result": result, "sentence": sentence, "place": place, "full": in_sign(repr(x if looking else y)),
        "extrapolation": word_beyond(found.curve, x, naming),
        "short": naming.x_with_unit(significant(x, 4).text) if looking else naming.y_with_unit(significant(y, 4).text),
        "mark": mark_at(x, y), "beyond": bool(place), "numbers": numbers,
    }  # fmt: skip


def _slope(found: SlopeAtX, level: float, naming: Naming) -> dict[str, Any]:
    x, value, slope = found.tangent.x, found.tangent.value, found.tangent.slope
    unit = found.unit or naming.unit(-1, 1)
    at = naming.y_with_unit(significant(value.value, 4, strip=True).text)
    mark = mark_at(x, value.value)
    if mark:
        mark.slope = slope.value
    return {
        "asked": f"Slope of {found.letter} at {naming.x} = {naming.x_given(x)}",
        "result": f"slope {word_quantity(slope, unit, level)}",
        "sentence": f"The tangent touches the curve at {naming.y} = {at}. {_limits(slope, found.kind)}".strip(),
        "mark": mark,
        "full": in_sign(repr(slope.value)),
        "numbers": _of_quantity("slope", slope, unit),
    }


def _area(found: AreaBetween, level: float, naming: Naming) -> dict[str, Any]:
    area, ends, unit = found.area, found.ends, found.unit or naming.unit(1, 1)
    mark = mark_at(ends[0], found.height)
    if mark:
        mark.to_x = ends[1]
    return {
        "asked": f"Area under {found.letter} from {naming.x} = {naming.x_span(*ends)}",
        "result": f"area {word_quantity(area, unit, level)}",
        "sentence": f"What lies below {naming.y} = 0 counts as negative. {_limits(area, found.kind)}".strip(),
        "mark": mark,
        "full": in_sign(repr(area.value)),
        "numbers": _of_quantity("area", area, unit),
    }


def _limits(of: Quantity | Place, kind: Kind) -> str:
    error = of.standard_error if isinstance(of, Quantity) else of.x_error
    if error is None:
        return NO_UNCERTAINTY if kind == "fit" else ""
    return OF_THE_CURVE


def _places(found: PlacesFound, level: float, naming: Naming) -> dict[str, Any]:
    """Where the curve does something, in view and three ranges beyond, as far as x and y make sense."""
    places = found.places
    rows = [
        AnswerRowOut(
            letter="", asked="", result=text, mark=mark_at(place.x, place.y, **_spread(place)),
            numbers=_of_place(place, naming),
        )
        for place, text in zip(places, word_places(places, naming, level), strict=True)
    ]  # fmt: skip
    words = {"asked": capital(found.of), "sentence": _limits(places[0], found.kind)}
    if len(rows) > 1:
        return {**words, "result": f"{len(rows)} {found.of}", "rows": rows}
    only = rows[0]
    full = in_sign(repr(places[0].x))
    return {**words, "result": only.result, "mark": only.mark, "full": full, "numbers": only.numbers}


def _of_place(place: Place, naming: Naming) -> list[NumberOut]:
    """x and y of a place; of a zero x alone."""
    found = []
    for letter, value, low, high, unit in (
        (naming.x, place.x, place.x_low, place.x_high, naming.x_unit),
        (naming.y, place.y, place.y_low, place.y_high, naming.y_unit),
    ):
        found += numbers_of(letter, value, unit, (CURVE, low, high))
    return found[:1] if place.kind == "root" else found


def _of_quantity(name: str, quantity: Quantity, unit: str) -> list[NumberOut]:
    limits = () if quantity.standard_error is None else ((CURVE, quantity.low, quantity.high),)
    return numbers_of(name, quantity.value, unit, *limits)


def _spread(place: Place) -> dict[str, float]:
    return {"x_low": place.x_low, "x_high": place.x_high}


def _several(question: Question | AnswerState, found: Several, level: float, naming: Naming) -> dict[str, Any]:
    """A row for each, and no single result."""
    looking = question.direction == "x_at_y"
    rows = [_row(question, entry, level, naming) for entry in found.entries]
    if len(rows) > MOST_MARKED:
        rows = [row.model_copy(update={"mark": None}) for row in rows]
    count = len(found.values)
    if looking and (count == 1 or question.repeats > 1):
        what = f"{naming.x} at {_asked(question, naming)}"
    else:
        what = f"{count} value{'' if count == 1 else 's'} of {naming.x if looking else naming.y}"
    of = "from every fit" if len(found.letters) > 1 else f"from {found.letters[0]}"
    return {"rows": rows, "result": f"{what}, {of}", "sentence": ""}


def _row(question: Question | AnswerState, entry: Entry, level: float, naming: Naming) -> AnswerRowOut:
    one = word_answer(question, entry.answered, level, naming)
    row = AnswerRowOut(
        letter=entry.letter, asked=one.asked, result=one.result, place=one.place, extrapolation=one.extrapolation, short=one.short, problem=one.problem, mark=one.mark,
        numbers=one.numbers,
    )  # fmt: skip
    if question.direction == "x_at_y":
        row.new = one.rows[0].new if one.rows else one.sentence
        return row
    row.asked = f"{naming.x} = {naming.x_given(entry.given)}"
    if isinstance(entry.answered, ValueAtX) and entry.answered.kind == "fit":
        _put_intervals(row, entry.answered, naming)
    return row


def _put_intervals(row: AnswerRowOut, found: ValueAtX, naming: Naming) -> None:
    """The value alone, with the intervals of the curve and of a new reading in cells of their own."""
    prediction, value = found.prediction, found.y
    low, high = float(prediction.low), float(prediction.high)
    row.result = f"{naming.y} = {naming.y_with_unit(value_in_limits(value, low, high).text)}"
    row.new = _interval(value, low, high, naming)
    row.curve = _interval(value, float(prediction.mean_low), float(prediction.mean_high), naming)


def _interval(value: float, low: float, high: float, naming: Naming) -> str:
    """Both limits in the unit of y; empty where there are none or where nothing scatters."""
    if not math.isfinite(high - low) or low == high:
        return ""
    return limits_text(low, high, naming.y_unit, value=value)
