"""How well a fit holds, in sentences; and every statistic with its name, value and meaning."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

import numpy as np

from ridge.core.judging.misses import typical_miss
from ridge.core.wording.families import curve_word
from ridge.core.wording.naming import Naming
from ridge.core.wording.numbers import NumberText, count_word, full, group, probability, share, significant

if TYPE_CHECKING:
    from ridge.core.fitting.result import Fit


@dataclass(frozen=True)
class StatisticText:
    """One statistic for display. ``full`` has every digit; ``absent`` says why there is no value."""

    name: str
    label: str
    value: str
    unit: str
    full: str
    meaning: str
    absent: str = ""


def how_well(fit: Fit, naming: Naming) -> str:
    """Share of the variation, typical miss, signs and order of the residuals, in two sentences."""
    statistics = fit.statistics
    if statistics.total_sum_of_squares == 0:
        return f"All {statistics.n} values of {naming.y} are equal, so there is nothing to account for."
    curve = curve_word(fit.model)
    if fit.least_squares_in == "given":
        return _as_given(fit, naming)
    if statistics.degrees_of_freedom == 0:
        through = {1: "the reading", 2: "both readings"}.get(statistics.n, "every reading")
        return f"The {curve} goes through {through} by construction; its fit cannot be judged."
    if statistics.exact:
        return f"The fit is exact: no reading is off the {curve}."
    s, r_squared = statistics.residual_standard_deviation, statistics.r_squared
    assert s is not None
    if fit.log_line is not None:
        return f"{_in_logarithms(fit, naming)} {_signs(fit)}"
    if r_squared is None:
        first = f"The {curve}"
    elif fit.model.has_constant:
        first = f"The {curve} accounts for {percent(r_squared)} of the variation in {naming.y} and"
    else:
        first = f"R², counted from {_zero_of(fit)}, is {share(r_squared)}; the {curve}"
    degrees = statistics.degrees_of_freedom
    first += (
        f" typically misses a reading by {naming.y_with_unit(significant(s, 2).text)} "
        f"({group(str(degrees))} degree{'' if degrees == 1 else 's'} of freedom)."
    )
    return f"{first} {_signs(fit)}"


def _in_logarithms(fit: Fit, naming: Naming) -> str:
    """The same where the statistics are those of a straight line through ln y: s there is a factor, not a number of units."""
    statistics, miss = fit.statistics, typical_miss(fit)
    s = statistics.residual_standard_deviation or 0.0
    share_there = (
        "" if statistics.r_squared is None else f" accounts for {percent(statistics.r_squared)} of the variation and"
    )
    text = f"In ln {naming.y} the line{share_there} typically misses by {significant(s, 2).text}, a factor of {significant(float(np.exp(s)), 3).text}"
    if miss is not None:
        text += f"; in {naming.y} itself the curve typically misses a reading by {naming.y_with_unit(significant(miss, 2).text)}"
    degrees = statistics.degrees_of_freedom
    return f"{text} ({group(str(degrees))} degree{'' if degrees == 1 else 's'} of freedom)."


def _signs(fit: Fit) -> str:
    """How many readings lie on either side, and whether their order shows a pattern."""
    pattern = fit.pattern
    above, below = pattern.above, pattern.below
    second = f"{count_word(above, capital=True)} reading{'' if above == 1 else 's'} lie{'s' if above == 1 else ''} above it and {count_word(below)} below"
    if pattern.visible:
        second += ", and their order is not random: see the caution."
    elif pattern.runs_p is not None:
        second += ", in no visible order."
    else:
        second += "; too few to see an order."
    return second


def _as_given(fit: Fit, naming: Naming) -> str:
    """The same for a curve whose numbers were given."""
    statistics, curve = fit.statistics, curve_word(fit.model)
    if statistics.exact:
        return f"With these numbers no reading is off the {curve}."
    s, r_squared = statistics.residual_standard_deviation, statistics.r_squared
    miss = naming.y_with_unit(significant(s or 0.0, 2).text)
    text = f"With these numbers the {curve} typically misses a reading by {miss}."
    if r_squared is not None and r_squared < 0:
        return f"{text} R² is negative: the mean of {naming.y} would miss by less."
    rest = fit.residuals[fit.readings.used]
    above, below = int((rest > 0).sum()), int((rest < 0).sum())
    return f"{text} {count_word(above, capital=True)} reading{'' if above == 1 else 's'} lie{'s' if above == 1 else ''} above it and {count_word(below)} below."


def _zero_of(fit: Fit) -> str:
    """What R² is counted from where no constant is fitted."""
    return "the fixed intercept" if fit.model.constant in fit.model.fixed else "zero"


def percent(value: float) -> str:
    """A share in per cent that never rounds up to all."""
    digits = share(value)
    if digits.startswith(("above", "1")):
        return "100\u00a0%" if value >= 1 else "more than 99.9999\u00a0%"
    places = max(len(digits) - 4, 1)
    shown = f"{value * 100:.{places}f}"
    return f"{shown if float(shown) < 100 else f'{value * 100:.{places + 2}f}'}\u00a0%"


def strength(correlation: float) -> str:
    """The size of r in a word (common practice; limits differ between textbooks)."""
    size = abs(correlation)
    words = ((0.2, "hardly any"), (0.4, "weak"), (0.6, "moderate"), (0.8, "strong"))
    word = next((word for limit, word in words if size < limit), "very strong")
    return f"{word}, {'rising' if correlation > 0 else 'falling'}" if size >= 0.2 else word


def list_statistics(fit: Fit, naming: Naming) -> list[StatisticText]:
    """Every statistic of the fit, labelled, in the order a report gives them; in logarithms those of the line there."""
    if fit.log_line is not None:
        x = f"ln {naming.x}" if fit.model.family == "power" else naming.x
        return list_statistics(fit.log_line, replace(naming, x=x, y=f"ln {naming.y}", y_unit=""))
    statistics = fit.statistics
    squared = (
        f"({naming.y_unit})²"
        if "/" in naming.y_unit or "·" in naming.y_unit
        else f"{naming.y_unit}²"
        if naming.y_unit
        else ""
    )
    about = "its mean" if fit.model.has_constant else _zero_of(fit)
    y, curve = naming.y, curve_word(fit.model)

    def plain(value: float) -> NumberText:
        return significant(value, 4)

    def as_probability(value: float) -> NumberText:
        return NumberText(probability(value), "", "")

    def as_share(value: float) -> NumberText:
        return NumberText(share(value), "", "")

    def signed_share(value: float) -> NumberText:
        return NumberText(("\u2212" if value < 0 else "") + share(abs(value)), "", "")

    def whole(value: float) -> NumberText:
        return NumberText(str(int(value)), "", "")

    rows = [
        ("n", "n", whole, "", "Readings in use."),
        ("degrees_of_freedom", "degrees of freedom", whole, "", "Readings in use minus fitted parameters: what is left to estimate the scatter from."),
        ("r_squared", "R²", as_share, "", f"Share of the variation of {y} about {about} that the {curve} accounts for."),
        ("adjusted_r_squared", "adjusted R²", signed_share, "", "R² charged for the number of parameters, so that more of them do not raise it by themselves."),
        ("correlation", "correlation r", signed_share, "", f"How closely {naming.x} and {y} follow a straight line, from −1 (falling) to 1 (rising)."),
        ("residual_standard_deviation", "s", lambda v: significant(v, 3), naming.y_unit, f"Residual standard deviation: by how much the {curve} typically misses a reading."),
        ("residual_sum_of_squares", "RSS", plain, squared, "Sum of the squared residuals, which the fit makes as small as it can be."),
        ("regression_sum_of_squares", "regression sum of squares", plain, squared, f"The part of the variation of {y} that the {curve} accounts for."),
        ("total_sum_of_squares", "total sum of squares", plain, squared, f"Sum of the squared differences of {y} from {about}."),
        ("f_statistic", "F", plain, "", "Variation accounted for per parameter, over the variation left per degree of freedom."),
        ("f_p_value", "p of F", as_probability, "", f"Chance of so large an F if the {curve} explained nothing."),
        ("chi_squared", "χ²", plain, "", "Sum of the squared residuals, each in units of its given uncertainty."),
        ("reduced_chi_squared", "reduced χ²", plain, "", "χ² per degree of freedom: about 1 when scatter and given uncertainties agree."),
        ("aic", "AIC", plain, "", "For comparing models on the same readings: smaller is better."),
        ("aicc", "AICc", plain, "", "AIC corrected for few readings: smaller is better."),
        ("bic", "BIC", plain, "", "Like AIC, harder on extra parameters: smaller is better."),
    ]  # fmt: skip
    listed = []
    for name, label, word, unit, meaning in rows:
        value = getattr(statistics, name)
        if value is None:
            listed.append(
                StatisticText(name, label, "–", "", "", meaning, statistics.absent.get(name, "It has no meaning here."))
            )
        else:
            listed.append(StatisticText(name, label, word(value).text, unit, full(value), meaning))
    return listed
