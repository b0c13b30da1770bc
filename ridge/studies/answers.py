"""Questions put to a fit: y at an x, x at a y, and the unknowns among the rows."""

from __future__ import annotations

import math

import numpy as np

from ridge.core import Fit, Interpolation
from ridge.core.errors import RidgeError
from ridge.core.wording.answers import number_as_given, word_prediction, word_solution
from ridge.core.wording.interpolation import word_between, word_place_between
from ridge.core.wording.naming import Naming
from ridge.core.wording.numbers import name_rows, significant
from ridge.core.wording.rounding import round_with_uncertainty
from ridge.exchange.cells import NotANumber, read_numbers
from ridge.studies.readings import Unknown
from ridge.studies.schemas import AnswerOut, MarkOut, UnknownOut
from ridge.studies.state import AnswerState


def _or_none(value: float) -> float | None:
    return value if math.isfinite(value) else None


def _mark(x: float, y: float, **limits: float) -> MarkOut | None:
    if not (math.isfinite(x) and math.isfinite(y)):
        return None
    edges = {name: _or_none(limits.get(name, math.nan)) for name in ("x_low", "x_high", "y_low", "y_high")}
    return MarkOut(x=x, y=y, **edges)


def answer(
    fit: Fit | Interpolation | None,
    question: AnswerState,
    level: float,
    naming: Naming,
    numbers: list[float] | None = None,
) -> AnswerOut:
    """One question answered, or the reason why it cannot be. ``numbers`` spares reading what was typed."""
    out = AnswerOut(
        key=question.key, direction=question.direction, given=question.given, repeats=question.repeats,
        asked=f"{naming.x if question.direction == 'y_at_x' else naming.y} = {question.given}",
    )  # fmt: skip
    try:
        numbers = numbers or read_numbers(question.given)
        if question.direction == "y_at_x" and len(numbers) > 1:
            raise NotANumber(f"one {naming.x} at a time")
        if fit is None:
            return out.model_copy(update={"problem": "No answer until there is a fit."})
        if isinstance(fit, Interpolation):
            return _between(fit, out, numbers, naming)
        if question.direction == "y_at_x":
            return _at_x(fit, out, numbers[0], level, naming)
        return _at_y(fit, out, numbers, question.repeats, level, naming)
    except NotANumber as problem:
        return out.model_copy(update={"problem": f"{str(problem)[:1].upper()}{str(problem)[1:]}."})
    except RidgeError as problem:
        return out.model_copy(update={"problem": str(problem)})


def _at_x(fit: Fit, out: AnswerOut, x: float, level: float, naming: Naming) -> AnswerOut:
    prediction = fit.predict(x, level)
    if not math.isfinite(float(prediction.value)):
        return out.model_copy(update={"problem": f"{naming.y} there is beyond what the computer's numbers hold."})
    words = word_prediction(fit, prediction, naming)
    mark = _mark(x, float(prediction.value), y_low=float(prediction.low), y_high=float(prediction.high))
    return out.model_copy(update={**vars(words), "mark": mark, "beyond": bool(prediction.beyond > 0)})


def _at_y(fit: Fit, out: AnswerOut, numbers: list[float], repeats: int, level: float, naming: Naming) -> AnswerOut:
    repeats = len(numbers) if len(numbers) > 1 else repeats
    solution = fit.solve(numbers, repeats, level)[0]
    y = float(np.mean(numbers))
    words = word_solution(fit, solution, y, repeats, naming)
    mark = _mark(solution.value, y, x_low=solution.low, x_high=solution.high)
    return out.model_copy(update={**vars(words), "mark": mark, "beyond": solution.beyond > 0})


def _between(curve: Interpolation, out: AnswerOut, numbers: list[float], naming: Naming) -> AnswerOut:
    """The same from an interpolation, which knows no uncertainty."""
    looking = out.direction == "x_at_y"
    y = float(np.mean(numbers))
    x = curve.solve(y)[0].value if looking else numbers[0]
    value = y if looking else float(curve.predict(x).value)
    result, sentence = word_between(curve, x, value, naming, asked_y=looking)
    place = word_place_between(curve, x, naming)
    given = naming.y_with_unit(number_as_given(y)) if looking else naming.x_with_unit(number_as_given(x))
    asked = f"{naming.y if looking else naming.x} = {given}"
    words = {
        "asked": asked,
        "result": result,
        "sentence": sentence,
        "place": place,
        "full": repr(x if looking else value),
    }
    return out.model_copy(update={**words, "mark": _mark(x, value), "beyond": bool(place)})


def answer_unknown(fit: Fit | Interpolation | None, unknown: Unknown, level: float, naming: Naming) -> UnknownOut:
    """x of an unknown from its row, or from the rows of its repeated readings."""
    given = "; ".join(number_as_given(value) for value in unknown.values)
    question = AnswerState(f"rows-{unknown.rows[0]}", "x_at_y", given, 1)
    out = answer(fit, question, level, naming, list(unknown.values))
    label = f"{unknown.label} ({name_rows(unknown.rows)})" if unknown.label else name_rows(unknown.rows).capitalize()
    short = ""
    if out.mark:
        low, high = out.mark.x_low, out.mark.x_high
        half = None if low is None or high is None else (high - low) / 2
        short = round_with_uncertainty(out.mark.x, half).value if half else significant(out.mark.x, 4).text
    return UnknownOut(rows=list(unknown.rows), label=label, short=short, answer=out)
