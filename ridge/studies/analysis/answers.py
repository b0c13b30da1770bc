"""Questions put to the fits of a study: y at one x or at many, x at a y, and the unknowns among the rows."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from ridge.core.errors import RidgeError
from ridge.core.interpolation import Interpolation
from ridge.core.numerals import capital, count_word, name_rows, number_as_given, significant
from ridge.core.predicting.at_x import Prediction, predict
from ridge.core.predicting.at_y import solve
from ridge.core.predicting.sense import prediction_within, solutions_within
from ridge.core.predicting.solution import MOST, Solution
from ridge.core.results.fit import Fit
from ridge.core.wording.answers import AnswerText, word_prediction, word_solutions
from ridge.core.wording.families import beyond_sentence
from ridge.core.wording.interpolation import word_between, word_place_between
from ridge.core.wording.limits import level_text, limits_text
from ridge.core.wording.naming import Naming
from ridge.core.wording.rounding import half_width_text, round_with_half_width
from ridge.core.wording.sense import sense_of, word_sense
from ridge.exchange.cells import NotANumber, read_numbers
from ridge.exchange.lists import read_list
from ridge.studies.analysis.answer_features import FEATURES, answer_feature
from ridge.studies.analysis.answer_marks import CURVE, NEW, OF_X, mark_at, numbers_of
from ridge.studies.analysis.fits import Fitted
from ridge.studies.analysis.schemas import AnswerOut, AnswerRowOut, NumberOut, UnknownOut
from ridge.studies.content.readings import Unknown
from ridge.studies.content.state import AnswerState, Question

MOST_CHECKED = 12
"""Values of one question up to which each one's limits are held against refits."""
MOST_SOLUTIONS = 24
"""Solutions of one question up to which all are listed, the nearest first."""
MOST_MARKED = 60
"""Results of one question up to which each is marked on the plot."""


def answer(
    fitted: Sequence[Fitted],
    question: Question | AnswerState,
    level: float,
    naming: Naming,
    numbers: list[float] | None = None,
    *,
    checked: bool = True,
) -> AnswerOut:
    """One question answered, or the reason why it cannot be. ``fitted``: every fit, the leading one first; ``numbers``
    spares reading what was typed; ``checked``: whether the limits are held against refits where they might mislead."""
    out = unanswered(question, naming)
    try:
        asked = _asked_fits(fitted, question)
        if question.direction in FEATURES:
            return answer_feature(asked, fitted, question, out, level, naming)
        looking = question.direction == "x_at_y"
        values = numbers or read_asked(question, naming)
        if not asked:
            return out.model_copy(update={"problem": "There is no answer until there is a fit."})
        if len(asked) == 1 and (looking or len(values) == 1):
            return _single(asked[0], out, values, question.repeats, level, naming, checked)
        return _table(asked, out, values, question.repeats, level, naming, checked and len(values) <= MOST_CHECKED)
    except NotANumber as problem:
        return out.model_copy(update={"problem": f"{capital(str(problem))}."})
    except RidgeError as problem:
        return out.model_copy(update={"problem": str(problem)})


def read_asked(question: Question | AnswerState, naming: Naming) -> list[float]:
    """The values that a question gives, of x or of y, as numbers or as the clock shows them. Raises NotANumber."""
    if question.direction == "x_at_y":
        return read_numbers(question.given, naming.y_clock)
    return read_list(question.given, naming.x_clock)


def unanswered(question: Question | AnswerState, naming: Naming, problem: str = "") -> AnswerOut:
    """A question without its answer yet, or with what is in its way."""
    return AnswerOut(
        key=question.key, direction=question.direction, given=question.given, repeats=question.repeats,
        fit=question.fit, name=question.name, asked=_asked(question, naming), problem=problem,
    )  # fmt: skip


def _asked(question: Question | AnswerState, naming: Naming) -> str:
    return f"{naming.x if question.direction == 'y_at_x' else naming.y} = {question.given}"


def _asked_fits(fitted: Sequence[Fitted], question: Question | AnswerState) -> list[Fitted]:
    """The fits that are asked, of those that have a curve."""
    there = [one for one in fitted if one.curve is not None]
    if question.fit == "all":
        return there
    if question.fit:
        return [one for one in there if one.wanted.letter == question.fit]
    return there[:1] if fitted and fitted[0].curve is not None else []


def _single(
    one: Fitted, out: AnswerOut, values: list[float], repeats: int, level: float, naming: Naming, checked: bool
) -> AnswerOut:
    curve = one.curve
    if isinstance(curve, Interpolation):
        return _between(curve, out, values, naming)
    assert curve is not None
    if out.direction == "x_at_y":
        return _at_y(curve, out, values, repeats, level, naming, checked)
    return _at_x(curve, out, values[0], level, naming, checked)


def _at_x(fit: Fit, out: AnswerOut, x: float, level: float, naming: Naming, checked: bool) -> AnswerOut:
    if not sense_of(naming, "x").holds(x):
        return out.model_copy(update={"problem": f"{capital(word_sense(naming, 'x'))}."})
    prediction = predict(fit, x, level, checked)
    value = float(prediction.value)
    if not math.isfinite(value):
        return out.model_copy(update={"problem": _no_value(fit, x, value, naming)})
    if not sense_of(naming, "y").holds(value):
        return out.model_copy(update={"problem": _against_sense(value, naming)})
    prediction = prediction_within(prediction, sense_of(naming, "y"))
    words = word_prediction(fit, prediction, naming, refining=not checked)
    mark = mark_at(x, value, y_low=float(prediction.low), y_high=float(prediction.high))
    beyond = bool(prediction.beyond > 0)
    said = beyond_sentence(fit, naming, x) if beyond else ""
    update = {**said_of(words), "mark": mark, "beyond": beyond, "beyond_says": said}
    return out.model_copy(update={**update, "numbers": _numbers_of_y(fit, prediction, naming)})


def _against_sense(value: float, naming: Naming) -> str:
    said = naming.y_with_unit(significant(value, 3).text)
    return f"The curve says {said} there, but {word_sense(naming, 'y')}: the model does not hold there."


def _numbers_of_y(fit: Fit, prediction: Prediction, naming: Naming) -> list[NumberOut]:
    uncertain = fit.critical_value(prediction.level) is not None and not fit.statistics.exact
    limits = (
        (NEW, float(prediction.low), float(prediction.high)),
        (CURVE, float(prediction.mean_low), float(prediction.mean_high)),
    )
    return numbers_of(naming.y, float(prediction.value), naming.y_unit, *(limits if uncertain else ()))


def _numbers_of_x(fit: Fit, solution: Solution, naming: Naming) -> list[NumberOut]:
    uncertain = solution.standard_error is not None and not fit.statistics.exact
    limits = ((OF_X, solution.low, solution.high),)
    return numbers_of(naming.x, solution.value, naming.x_unit, *(limits if uncertain else ()))


def said_of(words: AnswerText) -> dict[str, str]:
    """What an answer takes over from its words."""
    return {name: text for name, text in vars(words).items() if name != "limits"}


def _no_value(fit: Fit, x: float, value: float, naming: Naming) -> str:
    beside = fit.evaluate(np.array([x - 1e-6 * (abs(x) or 1), x + 1e-6 * (abs(x) or 1)]))
    if math.isnan(value) or np.isfinite(beside).any():
        return f"The model has no value at {naming.x} = {naming.x_given(x)}. Ask for another {naming.x}."
    return f"{naming.y} there is beyond what the computer's numbers hold."


def _at_y(
    fit: Fit, out: AnswerOut, numbers: list[float], repeats: int, level: float, naming: Naming, checked: bool
) -> AnswerOut:
    """Every x at that y; the nearest to the readings is the answer."""
    repeats = len(numbers) if len(numbers) > 1 else repeats
    y = float(np.mean(numbers))
    if not sense_of(naming, "y").holds(y):
        return out.model_copy(update={"problem": f"{capital(word_sense(naming, 'y'))}."})
    every = solve(fit, numbers, repeats, level, checked=checked)
    solutions = solutions_within(every, sense_of(naming, "x"))
    if not solutions:
        problem = f"The curve takes that value only where {naming.x} makes no sense: {word_sense(naming, 'x')}."
        return out.model_copy(update={"problem": problem})
    first, shown = solutions[0], solutions[:MOST_SOLUTIONS]
    texts = word_solutions(fit, shown, y, repeats, naming, refining=not checked)
    words = {
        **said_of(texts[0]),
        "sentence": " ".join(
            part
            for part in (
                texts[0].sentence,
                _how_many_more(fit, len(solutions), naming),
                _left_out(len(every) - len(solutions), first, naming),
            )
            if part
        ),
    }
    mark = mark_at(first.value, y, x_low=first.low, x_high=first.high)
    rows = []
    if len(shown) > 1:
        for solution, text in zip(shown, texts, strict=True):
            rows.append(
                AnswerRowOut(
                    letter="", asked=text.asked, result=text.result, new=text.limits or text.sentence, place=text.place,
                    mark=mark_at(solution.value, y, x_low=solution.low, x_high=solution.high),
                    numbers=_numbers_of_x(fit, solution, naming),
                )
            )  # fmt: skip
    said = beyond_sentence(fit, naming, first.value) if first.beyond > 0 else ""
    update = {**words, "mark": mark, "beyond": first.beyond > 0, "beyond_says": said, "rows": rows}
    return out.model_copy(update={**update, "numbers": _numbers_of_x(fit, first, naming)})


def _left_out(count: int, first: Solution, naming: Naming) -> str:
    """What the limits of sense of x took away."""
    sense = sense_of(naming, "x")
    if not count and first.low != sense.low and first.high != sense.high:
        return ""
    gone = (
        f"{count_word(count, capital=True)} more {'is' if count == 1 else 'are'} left out: "
        if count
        else "The limits end there: "
    )
    return f"{gone}{word_sense(naming, 'x')}."


def _how_many_more(fit: Fit, count: int, naming: Naming) -> str:
    """How often the curve takes the value besides the answer that is given first."""
    if count <= 1:
        return ""
    others = f"{count_word(count - 1, capital=True)}{' or more' if count == MOST else ''} more {naming.x}"
    listed = f"; the nearest {MOST_SOLUTIONS} are listed" if count > MOST_SOLUTIONS else ""
    if fit.model.periodic:
        return f"{others} within three measured ranges{listed}; the same value comes back with every period."
    return f"{others} with that {naming.y}{listed}."


def _between(curve: Interpolation, out: AnswerOut, numbers: list[float], naming: Naming) -> AnswerOut:
    """The same from an interpolation, which knows no uncertainty."""
    looking = out.direction == "x_at_y"
    y = float(np.mean(numbers))
    x = curve.solve(y)[0].value if looking else numbers[0]
    value = y if looking else float(curve.predict(x).value)
    for axis, one in (("x", x), ("y", value)):
        if not sense_of(naming, axis).holds(one):  # type: ignore[arg-type]
            return out.model_copy(update={"problem": f"{capital(word_sense(naming, axis))}."})  # type: ignore[arg-type]
    result, sentence = word_between(curve, x, value, naming, asked_y=looking)
    place = word_place_between(curve, x, naming)
    given = naming.y_given(y) if looking else naming.x_given(x)
    asked = f"{naming.y if looking else naming.x} = {given}"
    words = {
        "asked": asked,
        "result": result,
        "sentence": sentence,
        "place": place,
        "full": repr(x if looking else value),
    }
    number = numbers_of(naming.x, x, naming.x_unit) if looking else numbers_of(naming.y, value, naming.y_unit)
    return out.model_copy(update={**words, "mark": mark_at(x, value), "beyond": bool(place), "numbers": number})


def _table(
    asked: Sequence[Fitted],
    out: AnswerOut,
    values: list[float],
    repeats: int,
    level: float,
    naming: Naming,
    checked: bool,
) -> AnswerOut:
    """Several values, several fits, or both: a row for each, and no single result."""
    single = out.direction == "x_at_y"
    rows: list[AnswerRowOut] = []
    for one in asked:
        for group in [values] if single else [[value] for value in values]:
            try:
                found = _single(one, out, group, repeats, level, naming, checked)
            except RidgeError as problem:
                found = out.model_copy(update={"problem": str(problem)})
            rows.append(_row(one, found, group, level, naming, checked))
    if len(rows) > MOST_MARKED:
        rows = [row.model_copy(update={"mark": None}) for row in rows]
    count = f"{len(values)} values of {naming.y}" if not single else f"{naming.x} at {out.asked}"
    of = "from every fit" if len(asked) > 1 else f"from {asked[0].wanted.letter}"
    sentence = ""
    if not single and any("±" in row.new for row in rows):
        sentence = f"± are half-widths of the {level_text(level)} intervals."
    return out.model_copy(update={"rows": rows, "result": f"{count}, {of}", "sentence": sentence, "full": ""})


def _row(
    one: Fitted, found: AnswerOut, given: list[float], level: float, naming: Naming, checked: bool
) -> AnswerRowOut:
    row = AnswerRowOut(
        letter=one.wanted.letter, asked=found.asked, result=found.result, place=found.place, problem=found.problem,
        mark=found.mark, numbers=found.numbers,
    )  # fmt: skip
    if found.direction == "y_at_x":
        row.asked = f"{naming.x} = {naming.x_given(given[0])}"
        if one.fit is not None and not found.problem:
            prediction = predict(one.fit, given[0], level, checked)
            value = float(prediction.value)
            half = float(prediction.high) - value
            row.result = f"{naming.y} = {naming.y_with_unit(round_with_half_width(value, half).value)}"
            if prediction.profiled or one.fit.log_line is not None:
                row.curve = limits_text(float(prediction.mean_low), float(prediction.mean_high), naming.y_unit)
                row.new = limits_text(float(prediction.low), float(prediction.high), naming.y_unit)
            else:
                row.curve = _half(float(prediction.mean_high) - value, naming)
                row.new = _half(half, naming)
    else:
        row.new = found.sentence if not found.rows else found.rows[0].new
    return row


def _half(width: float, naming: Naming) -> str:
    """Half the width of an interval, with ±; empty where it has none."""
    return f"±{naming.y_with_unit(half_width_text(width))}" if math.isfinite(width) and width > 0 else ""


def follow(out: AnswerOut, kept: AnswerState) -> AnswerOut:
    """A kept answer with what it was when it was kept, where that is no longer what it says."""
    now = said(out)
    return out.model_copy(update={"was": kept.was}) if kept.was and kept.was != now else out


def said(out: AnswerOut) -> str:
    """An answer in one line, as it is remembered."""
    return (out.problem or out.result)[:400]


def _question(unknown: Unknown) -> Question:
    given = "; ".join(number_as_given(value) for value in unknown.values)
    return Question("x_at_y", given, key=f"rows-{unknown.rows[0]}")


def _label(unknown: Unknown) -> str:
    rows = name_rows(unknown.rows)
    return f"{unknown.label} ({rows})" if unknown.label else rows.capitalize()


def unknown_unanswered(unknown: Unknown, naming: Naming, problem: str) -> UnknownOut:
    """An unknown with what is in the way of its x."""
    return UnknownOut(
        rows=list(unknown.rows), label=_label(unknown), short="", answer=unanswered(_question(unknown), naming, problem)
    )


def answer_unknown(
    fitted: Sequence[Fitted], unknown: Unknown, level: float, naming: Naming, *, checked: bool = True
) -> UnknownOut:
    """x of an unknown from its row, or from the rows of its repeated readings."""
    out = answer(fitted, _question(unknown), level, naming, list(unknown.values), checked=checked)
    short = ""
    if out.mark:
        low, high = out.mark.x_low, out.mark.x_high
        half = None if low is None or high is None else (high - low) / 2
        short = round_with_half_width(out.mark.x, half).value if half else significant(out.mark.x, 4).text
    return UnknownOut(rows=list(unknown.rows), label=_label(unknown), short=short, answer=out)
