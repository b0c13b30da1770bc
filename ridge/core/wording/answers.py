"""Predictions in words: the value, how sure it is, and where it stands to the readings."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import TYPE_CHECKING

from ridge.core.predicting.at_x import Prediction
from ridge.core.predicting.at_y import Solution
from ridge.core.wording.families import curve_word
from ridge.core.wording.limits import level_text, limits_text
from ridge.core.wording.naming import Naming
from ridge.core.wording.numbers import significant, write
from ridge.core.wording.rounding import round_with_uncertainty, uncertainty_decimals

if TYPE_CHECKING:
    from ridge.core.fitting.result import Fit


WHY_NO_STANDARD_ERRORS = "They follow the sum of squares: ± standard errors would mislead here."


@dataclass(frozen=True)
class AnswerText:
    """An answer for display; every text carries its unit.

    ``asked`` the given side (``F = 12 N``), ``result`` the other with its half-width, ``sentence`` the account
    of its limits, ``place`` where it stands to the readings (empty inside the range), ``full`` every digit.
    """

    asked: str
    result: str
    sentence: str
    place: str
    full: str


def number_as_given(value: float) -> str:
    """A number that the user typed: all its digits, in the house's notation."""
    return significant(value, 15, strip=True).text


def word_prediction(fit: Fit, prediction: Prediction, naming: Naming) -> AnswerText:
    """y at one x (scalar fields), with the interval of a new reading and that of the line."""
    x, value = float(prediction.x), float(prediction.value)
    half = float(prediction.high) - value
    mean_half = float(prediction.mean_high) - value
    asked = f"{naming.x} = {naming.x_with_unit(number_as_given(x))}"
    place = word_place(fit, x, float(prediction.beyond), float(prediction.beyond_ranges), naming)
    if not math.isfinite(half) and not prediction.profiled:
        result = f"{naming.y} = {naming.y_with_unit(significant(value, 6, strip=True).text)}"
        sentence = "How sure this is cannot be said: there are as many parameters as readings."
    elif fit.statistics.exact:
        result = f"{naming.y} = {naming.y_with_unit(significant(value, 6, strip=True).text)}"
        sentence = "The fit is exact, so the scatter of a new reading is unknown."
    elif prediction.profiled:
        result, sentence = _profiled(fit, prediction, naming)
    else:
        result = f"{naming.y} = {naming.y_with_unit(round_with_uncertainty(value, half).text)}"
        line = naming.y_with_unit(significant(mean_half, 2).text)
        curve = curve_word(fit.model)
        sentence = f"A new reading there falls within these limits with {level_text(prediction.level)} confidence; the {curve} itself is known to ±{line}."
    return AnswerText(asked, result, sentence, place, repr(value))


def _profiled(fit: Fit, prediction: Prediction, naming: Naming) -> tuple[str, str]:
    """A result whose limits are no ±, and how they came about."""
    value, low, high = (float(part) for part in (prediction.value, prediction.low, prediction.high))
    distance = min(value - low, high - value)
    finer = math.isfinite(distance) and distance > 0
    number = write(value, uncertainty_decimals(distance) + 1) if finer else significant(value, 3)
    said = naming.y_with_unit(number.text)
    new = limits_text(low, high, naming.y_unit)
    curve = limits_text(float(prediction.mean_low), float(prediction.mean_high), naming.y_unit)
    return (
        f"{naming.y} = {said}, {'from ' if math.isfinite(high - low) else ''}{new}",
        f"{level_text(prediction.level)} limits of a new reading there; the {curve_word(fit.model)} itself: {curve}. "
        f"{WHY_NO_STANDARD_ERRORS}",
    )


def word_solution(fit: Fit, solution: Solution, y: float, repeats: int, naming: Naming) -> AnswerText:
    """x at one y, with its limits."""
    given = significant(y, 6, strip=True).text if repeats > 1 else number_as_given(y)
    mean = f", the mean of {repeats} readings" if repeats > 1 else ""
    asked = f"{naming.y} = {naming.y_with_unit(given)}{mean}"
    place = word_place(fit, solution.value, solution.beyond, solution.beyond_ranges, naming)
    error = solution.standard_error
    plain = f"{naming.x} = {naming.x_with_unit(significant(solution.value, 6, strip=True).text)}"
    if error is None:
        return AnswerText(
            asked,
            plain,
            "How sure this is cannot be said: there are as many parameters as readings.",
            place,
            repr(solution.value),
        )
    if fit.statistics.exact:
        return AnswerText(
            asked, plain, "The fit is exact, so the scatter of a reading is unknown.", place, repr(solution.value)
        )
    if not solution.bounded or not math.isfinite(solution.high - solution.low):
        sentence = (
            f"At {level_text(solution.level)} the slope is not told apart from zero, so this has no limits: "
            f"any {naming.x} could have given that {naming.y}."
        )
        return AnswerText(asked, plain, sentence, place, repr(solution.value))
    above, below = solution.high - solution.value, solution.value - solution.low
    low, high = (write(limit, uncertainty_decimals(above + below)).text for limit in (solution.low, solution.high))
    limits = f"{low} to {naming.x_with_unit(high)}"
    standard = naming.x_with_unit(significant(error, 2).text)
    if max(above, below) > 1.25 * min(above, below):  # one ± would hide how lopsided the limits are
        number = write(solution.value, uncertainty_decimals(min(above, below))).text
        result = f"{naming.x} = {naming.x_with_unit(number)}, from {limits}"
        why = "" if solution.profiled else ", unequal because the slope is uncertain"
        sentence = f"{level_text(solution.level)} limits{why}; standard error {standard}."
    else:
        rounded = round_with_uncertainty(solution.value, max(above, below))
        result = f"{naming.x} = {naming.x_with_unit(rounded.text)}"
        sentence = f"{level_text(solution.level)} limits {limits}; standard error {standard}."
    if solution.profiled:
        sentence = f"{sentence} {WHY_NO_STANDARD_ERRORS}"
    return AnswerText(asked, result, sentence, place, repr(solution.value))


def word_place(fit: Fit, x: float, beyond: float, ranges: float, naming: Naming) -> str:
    """Where x stands to the measured range; empty inside it."""
    low, high = fit.readings.measured_range
    if beyond == 0:
        if x in (low, high) and low != high:
            return "At the edge of the readings."
        return ""
    side = "past the last reading" if x > high else "before the first reading"
    distance = naming.x_with_unit(significant(beyond, 3, strip=True).text)
    if not math.isfinite(ranges):
        return f"{distance} {side}."
    return f"{distance} {side}, {significant(ranges, 2).text} measured ranges beyond. It holds only if the {curve_word(fit.model)} goes on there."
