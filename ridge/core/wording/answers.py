"""Predictions in words: the value, how sure it is, and where it stands to the readings."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

from ridge.core.decimal_sign import in_sign
from ridge.core.models import Line
from ridge.core.numerals import place, significant, write
from ridge.core.predicting.at_x import Prediction
from ridge.core.predicting.solution import Solution
from ridge.core.results.fit import Fit
from ridge.core.wording.limits import PREDICTION, level_text, limits_text, with_interval
from ridge.core.wording.naming import Naming
from ridge.core.wording.rounding import uncertainty_decimals
from ridge.core.wording.sense import word_sense

PROFILE = "They are profile limits: ± standard errors would be misleading here."
REFINING = "Limits by standard errors; refining."
BY_STANDARD_ERRORS = "Limits by standard errors, which may be off here: the refits for profile limits come to no end within the work allowed."
NO_UNCERTAINTY = "No uncertainty can be given: there are as many parameters as readings."
UNBOUNDED = "No finite limits can be given there: the curve is infinitely sensitive to one of its parameters."
MOST_DIGITS = 12


@dataclass(frozen=True)
class AnswerText:
    """An answer for display; every text carries its unit.

    ``asked`` the given side (``F = 12 N``), ``asked_at`` the same without the number of repeats, ``result`` the other side
    with its interval, ``sentence`` what else there is to say of its intervals, ``place`` where it stands to the readings (empty inside the range), ``extrapolation`` that without
    what it rests on, ``full`` every digit, ``limits`` the limits alone, where there are any.
    """

    asked: str
    result: str
    sentence: str
    place: str
    extrapolation: str
    full: str
    limits: str = ""
    asked_at: str = ""


def word_prediction(fit: Fit, prediction: Prediction, naming: Naming, *, refining: bool = False) -> AnswerText:
    """y at one x (scalar fields), with the prediction interval of a new reading and the confidence interval of the curve.

    ``refining``: whether limits that need refits are still to come.
    """
    x, value = float(prediction.x), float(prediction.value)
    low, high = float(prediction.low), float(prediction.high)
    asked = f"{naming.x} = {naming.x_given(x)}"
    beyond = float(prediction.beyond), float(prediction.beyond_ranges)
    where = word_place(fit, x, *beyond, naming), _extrapolation(fit, x, *beyond, naming)
    plain = f"{naming.y} = {naming.y_with_unit(significant(value, 6, strip=True).text)}"
    if fit.critical_value(prediction.level) is None:
        result, sentence = plain, no_uncertainty(fit)
    elif fit.statistics.exact:
        result, sentence = plain, "The fit is exact, so the scatter of a new reading is unknown."
    elif not (math.isfinite(low) or math.isfinite(high)):
        result, sentence = plain, UNBOUNDED
    else:
        said = with_interval(value, low, high, prediction.level, naming.y_unit, kind=PREDICTION)
        result, sentence = f"{naming.y} = {said}", _intervals(fit, prediction, naming)
    if prediction.unchecked:
        sentence = f"{sentence} {REFINING if refining else BY_STANDARD_ERRORS}"
    return AnswerText(asked, result, sentence, *where, in_sign(repr(value)), asked_at=asked)


def no_uncertainty(fit: Fit) -> str:
    """Why a value has no interval; empty for a curve whose numbers were given, where nothing else was to be expected."""
    return "" if fit.least_squares_in == "given" else NO_UNCERTAINTY


def new_reading(fit: Fit, naming: Naming) -> str:
    """For what new reading a prediction interval holds: where readings weigh differently, its uncertainty is named."""
    readings = fit.readings
    if readings.error_share is not None:
        return (
            f"a new reading with an uncertainty of {significant(readings.error_share * 100, 3, strip=True).text}\u00a0%"
        )
    if readings.equally_weighted:
        return "a new reading"
    if readings.weight is not None:
        return "a new reading of weight 1"
    deviation = naming.y_with_unit(significant(fit.reading_deviation or 0.0, 2).text)
    return f"a new reading whose standard uncertainty is {deviation}"


def ends_at_sense(prediction: Prediction, naming: Naming) -> bool:
    """Whether a limit lies where y makes no sense any more."""
    return float(prediction.low) == naming.y_limits[0] or float(prediction.high) == naming.y_limits[1]


def _intervals(fit: Fit, prediction: Prediction, naming: Naming) -> str:
    """The interval of the curve, and what is special about that of a new reading."""
    value, low, high = float(prediction.value), float(prediction.mean_low), float(prediction.mean_high)
    mean = limits_text(low, high, naming.y_unit, value=value)
    said = [f"{level_text(prediction.level)} CI of the {fit.model.graph}: {mean}."]
    if not fit.readings.equally_weighted:
        said.append(f"The prediction interval is for {new_reading(fit, naming)}.")
    if ends_at_sense(prediction, naming):
        said.append(f"They end where {naming.y} makes sense: {word_sense(naming, 'y')}.")
    elif prediction.profiled:
        said.append(PROFILE)
    elif fit.log_line is not None:
        said.append("They are equally far in logarithms.")
    return " ".join(said)


def word_solutions(
    fit: Fit, solutions: Sequence[Solution], y: float, repeats: int, naming: Naming, *, refining: bool = False
) -> list[AnswerText]:
    """Every x of one y, with as many digits that no two of them look alike."""
    return apart(lambda finer: [_solution(fit, one, y, repeats, naming, refining, finer) for one in solutions])


def apart(word: Callable[[int], list[AnswerText]]) -> list[AnswerText]:
    """Answers to one question with the fewest more digits that tell them all from each other."""
    for finer in range(MOST_DIGITS):
        found = word(finer)
        if len({one.result for one in found}) == len(found):
            break
    return found


def word_solution(
    fit: Fit, solution: Solution, y: float, repeats: int, naming: Naming, *, refining: bool = False
) -> AnswerText:
    """x at one y, with its confidence limits."""
    return _solution(fit, solution, y, repeats, naming, refining, 0)


def _solution(
    fit: Fit, solution: Solution, y: float, repeats: int, naming: Naming, refining: bool, finer: int
) -> AnswerText:
    given = naming.y_with_unit(_mean_given(fit, y, repeats)) if repeats > 1 else naming.y_given(y)
    mean = f", the mean of {repeats} readings" if repeats > 1 else ""
    asked_at = f"{naming.y} = {given}"
    beyond = solution.value, solution.beyond, solution.beyond_ranges
    where = word_place(fit, *beyond, naming), _extrapolation(fit, *beyond, naming)
    result, sentence = _limits_of_x(fit, solution, naming, finer)
    if solution.touches:
        nearest = naming.y_with_unit(significant(float(fit.evaluate(solution.value)), 4).text)
        sentence = (
            f"The curve does not reach it, but turns there at {nearest}: within its scatter a reading may. {sentence}"
        ).strip()
    elif solution.profiled:
        sentence = f"{sentence} {PROFILE}".strip()
    elif solution.unchecked:
        sentence = f"{sentence} {REFINING if refining else BY_STANDARD_ERRORS}".strip()
    finite = math.isfinite(solution.low) or math.isfinite(solution.high)
    limits = limits_text(solution.low, solution.high, naming.x_unit, finer, solution.value) if finite else ""
    return AnswerText(
        f"{asked_at}{mean}", result, sentence, *where, in_sign(repr(solution.value)), limits,
        asked_at,
    )  # fmt: skip


def _mean_given(fit: Fit, y: float, repeats: int) -> str:
    """The mean of readings with one digit more than its own scatter justifies, so that rounding costs nothing."""
    scatter = fit.reading_deviation
    if not scatter or fit.statistics.exact or not math.isfinite(scatter):
        return significant(y, 6, strip=True).text
    return write(y, uncertainty_decimals(scatter / math.sqrt(repeats)) + 1).text


def _limits_of_x(fit: Fit, solution: Solution, naming: Naming, finer: int) -> tuple[str, str]:
    """A solution with its limits as far as it has any, and what they are."""
    x, level, value = naming.x, level_text(solution.level), solution.value
    plain = f"{x} = {naming.x_with_unit(significant(value, 6 + finer, strip=True).text)}{naming.x_on_clock(value)}"
    if solution.standard_error is None:
        return plain, no_uncertainty(fit)
    if fit.statistics.exact:
        return plain, "The fit is exact, so the scatter of a reading is unknown."
    low, high = solution.low, solution.high
    if not math.isfinite(low) and not math.isfinite(high):
        if isinstance(fit.model, Line):
            return plain, f"No finite {level} limits: the slope is not significantly different from zero."
        return plain, f"No finite {level} limits: within its uncertainty the curve takes that value at any {x}."
    clock = naming.x_on_clock(value).strip(" ()")
    said = with_interval(value, low, high, solution.level, naming.x_unit, also=clock, finer=finer)
    error = solution.standard_error
    sentences = []
    if not math.isfinite(high - low):
        sentences.append(f"No {'upper' if math.isfinite(low) else 'lower'} limit.")
    if math.isfinite(error):
        sentences.append(f"Standard error {naming.x_with_unit(significant(error, 2).text)}.")
    return f"{x} = {said}", " ".join(sentences)


def word_place(fit: Fit, x: float, beyond: float, ranges: float, naming: Naming) -> str:
    """Where x stands to the measured range; empty inside it."""
    low, high = fit.readings.measured_range
    if beyond == 0:
        return "At the edge of the readings." if x in (low, high) and low != high else ""
    return f"{_extrapolation(fit, x, beyond, ranges, naming)}. Valid only if the same model still holds there."


def _extrapolation(fit: Fit, x: float, beyond: float, ranges: float, naming: Naming) -> str:
    return extrapolation(x, beyond, ranges, *fit.readings.measured_range, naming) if beyond else ""


def extrapolation(x: float, beyond: float, ranges: float, low: float, high: float, naming: Naming) -> str:
    """``Extrapolation: 14 N past the last reading, 1.4 times the measured range, 2.4 times the largest F``."""
    side = "past the last reading" if x > high else "before the first reading"
    text = f"Extrapolation: {naming.x_with_unit(significant(beyond, 3, strip=True).text)} {side}"
    if math.isfinite(ranges):
        text += f", {times(ranges)} times the measured range"
    return text


def times(ratio: float) -> str:
    """A multiple to two digits, without a power of ten while it can be read."""
    return significant(ratio, max(2, min(place(ratio) + 1, 4))).text
