"""How well a fit holds, in sentences; and every statistic with its name, value and meaning."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ridge.core.decimal_sign import in_sign
from ridge.core.judging.misses import through_every_reading, typical_miss
from ridge.core.judging.patterns import pattern_of
from ridge.core.numerals import NumberText, count_words, full, group, probability, share, significant
from ridge.core.results.fit import Fit
from ridge.core.wording.answers import new_reading
from ridge.core.wording.naming import Naming
from ridge.core.wording.units import raised


@dataclass(frozen=True)
class StatisticText:
    """One statistic for display. ``full`` has every digit; ``absent`` says why there is no value."""

    name: str
    label: str
    value: str
    unit: str
    full: str
    number: float | None
    meaning: str
    absent: str = ""


def how_well(fit: Fit, naming: Naming) -> str:
    """Share of the variation, typical miss, signs and order of the residuals, in two sentences."""
    statistics = fit.statistics
    if statistics.r_squared is None and fit.log_line is None:
        if statistics.n == 1:
            return f"There is only one {naming.y}, so there is no variation to account for."
        return f"All {group(str(statistics.n))} values of {naming.y} are equal, so there is nothing to account for."
    curve = fit.model.graph
    if fit.least_squares_in == "given":
        return _as_given(fit, naming)
    if statistics.degrees_of_freedom == 0 and not through_every_reading(fit):
        return f"With as many parameters as readings the {curve} still misses some of them; its fit cannot be judged."
    if statistics.degrees_of_freedom == 0:
        through = {1: "the reading", 2: "both readings"}.get(statistics.n, "every reading")
        return f"The {curve} goes through {through} by construction; its fit cannot be judged."
    if statistics.exact:
        return f"The fit is exact: every reading lies on the {curve}."
    if fit.log_line is not None:
        return f"{_in_logarithms(fit, naming)} {_signs(fit)}"
    missed = f"typically misses a reading by {_miss(fit, naming)} ({degrees_text(statistics.degrees_of_freedom)})."
    r_squared = statistics.r_squared
    if fit.model.flat:
        first = f"The constant is the mean of {naming.y} and {missed}"
    elif r_squared is None:
        first = f"The {curve} {missed}"
    elif r_squared < 0:
        first = f"{_negative(r_squared, naming)} The {curve} {missed}"
    else:
        first = f"The {curve} accounts for {percent(r_squared)} of the variation in {naming.y} and {missed}"
    return f"{first} {_signs(fit)}"


def degrees_text(degrees: int) -> str:
    """``4 degrees of freedom``."""
    return f"{group(str(degrees))} degree{'' if degrees == 1 else 's'} of freedom"


def _miss(fit: Fit, naming: Naming) -> str:
    return naming.y_with_unit(significant(typical_miss(fit) or 0.0, 2).text)


def _negative(r_squared: float, naming: Naming) -> str:
    return f"R² is negative ({share(r_squared)}): the mean of {naming.y} would miss by less."


def _in_logarithms(fit: Fit, naming: Naming) -> str:
    """The same where the statistics are those of a straight line through ln y: s there is a factor, not a number of units."""
    statistics = fit.statistics
    s = statistics.residual_standard_deviation or 0.0
    share_there = (
        "" if statistics.r_squared is None else f" accounts for {percent(statistics.r_squared)} of the variation and"
    )
    return (
        f"In ln {naming.y} the line{share_there} typically misses by {significant(s, 2).text}, a factor of "
        f"{significant(float(np.exp(s)), 3).text}; in {naming.y} itself the curve typically misses a reading by "
        f"{_miss(fit, naming)} ({degrees_text(statistics.degrees_of_freedom)})."
    )


def sides_text(above: int, below: int) -> str:
    """``Six readings lie above it and none below``."""
    first, second = count_words(above, below)
    said = "No reading lies" if above == 0 else f"{first.capitalize()} reading{' lies' if above == 1 else 's lie'}"
    return f"{said} above it and {second} below"


def _signs(fit: Fit) -> str:
    """How many readings lie on either side, and whether their order shows a pattern."""
    pattern = pattern_of(fit)
    said = sides_text(pattern.above, pattern.below)
    if pattern.visible:
        return f"{said}, in a pattern unlikely by chance: see the caution."
    if pattern.order_p is not None or pattern.bend_p is not None:
        return f"{said}, with no significant pattern."
    return f"{said}; too few to test for a pattern."


def _as_given(fit: Fit, naming: Naming) -> str:
    """The same for a curve whose numbers were given."""
    statistics, curve = fit.statistics, fit.model.graph
    if statistics.exact:
        return f"With these numbers every reading lies on the {curve}."
    text = f"With these numbers the {curve} typically misses a reading by {_miss(fit, naming)}."
    if statistics.r_squared is not None and statistics.r_squared < 0:
        return f"{text} {_negative(statistics.r_squared, naming)}"
    rest = fit.residuals[fit.readings.used]
    return f"{text} {sides_text(int((rest > 0).sum()), int((rest < 0).sum()))}."


def percent(value: float) -> str:
    """A share, not negative, in per cent that never rounds up to all."""
    digits = share(value)
    if digits.startswith(("above", "1")):
        return "100\u00a0%" if value >= 1 else f"more than {in_sign('99.9999')}\u00a0%"
    places = max(len(digits) - 4, 1)
    shown = f"{value * 100:.{places}f}"
    return f"{in_sign(shown if float(shown) < 100 else f'{value * 100:.{places + 2}f}')}\u00a0%"


def _why_absent(fit: Fit, name: str) -> str:
    if name == "f_p_value" and fit.statistics.searched is not None:
        return "The shape was searched, and the search cannot be repeated on simulated readings within reason."
    return "It has no meaning here."


def strength(correlation: float) -> str:
    """The size of r in words (common practice; limits differ between textbooks). It speaks of a straight line only."""
    size = abs(correlation)
    if size < 0.2:
        return "negligible linear correlation; a curve may still fit"
    words = ((0.4, "weak"), (0.6, "moderate"), (0.8, "strong"))
    word = next((word for limit, word in words if size < limit), "very strong")
    return f"{word}, {'positive' if correlation > 0 else 'negative'} linear correlation"


def list_statistics(fit: Fit, naming: Naming) -> list[StatisticText]:
    """Every statistic of the fit, labelled, in the order a report gives them; in logarithms those of the line there."""
    if fit.log_line is not None:
        x = f"ln {naming.x}" if fit.model.logarithms and fit.model.logarithms.of_x else naming.x
        return list_statistics(fit.log_line, replace(naming, x=x, y=f"ln {naming.y}", y_unit=""))
    statistics = fit.statistics
    squared = raised(naming.y_unit, 2) if naming.y_unit else ""
    y, curve = naming.y, fit.model.graph
    about = {"constant": "its mean", "zero": "zero"}.get(statistics.compared_with, "the fixed constant")
    weighted = not fit.readings.equally_weighted
    weighed, by_weight = ("Weighted sum", "weighted ") if weighted else ("Sum", "")
    of_one = f" for {new_reading(fit, naming)}" if weighted else ""
    over = (
        "the known variance of a reading"
        if fit.readings.absolute_errors
        else "the variation left per degree of freedom"
    )

    searched = ", by simulation: it allows for the search of the shape" if statistics.searched is not None else ""

    def plain(value: float) -> NumberText:
        return significant(value, 4)

    def as_probability(value: float) -> NumberText:
        return NumberText(probability(value, statistics.f_p_at_most), "", "")

    def as_signed(value: float) -> NumberText:
        return NumberText(share(value), "", "")

    def whole(value: float) -> NumberText:
        return NumberText(str(int(value)), "", "")

    # Of readings that weigh differently s is that of one of them, and no typical miss.
    missed = typical_miss(fit) if weighted else None
    typical = (
        [("typical_miss", "typical miss", lambda v: significant(v, 3), naming.y_unit, "√(sum of the plain squared residuals / degrees of freedom): how far a reading lies from the " + f"{curve}, typically.")]
        if weighted
        else []
    )  # fmt: skip
    rows = [
        ("n", "n", whole, "", "Readings in use."),
        ("degrees_of_freedom", "degrees of freedom", whole, "", "Readings in use minus fitted parameters: what is left to estimate the scatter from."),
        ("r_squared", "R²", as_signed, "", f"Share of the variation of {y} about its mean that the {curve} accounts for; negative where the mean would miss by less."),
        ("r_squared_about_zero", "R² about zero", as_signed, "", f"The same counted from {y} = 0, as usual for models without a constant; not comparable with R² about the mean."),
        ("adjusted_r_squared", "adjusted R²", as_signed, "", "R² corrected for the number of parameters; a useless one does not tend to raise it."),
        ("correlation", "correlation r", as_signed, "", f"How closely {naming.x} and {y} follow a straight line, from −1 (falling) to 1 (rising)."),
        *typical,
        ("residual_standard_deviation", f"{by_weight}s", lambda v: significant(v, 3), naming.y_unit, f"Residual standard deviation{of_one}: √({by_weight}RSS / degrees of freedom)."),
        ("residual_sum_of_squares", f"{by_weight}RSS", plain, squared, f"{weighed} of the squared residuals, which least squares makes as small as it can be."),
        ("regression_sum_of_squares", "regression sum of squares", plain, squared, f"The part of the variation of {y} about {about} that the {curve} accounts for."),
        ("total_sum_of_squares", "total sum of squares", plain, squared, f"{weighed} of the squared differences of {y} from {about}."),
        ("f_statistic", "F", plain, "", f"Variation about {about} accounted for per parameter, over {over}."),
        ("f_p_value", "p of F", as_probability, "", f"Probability of an F at least this large if {y} did not depend on {naming.x}{searched}."),
        ("chi_squared", "χ²", plain, "", "Sum of the squared residuals, each in units of its given uncertainty."),
        ("reduced_chi_squared", "reduced χ²", plain, "", "χ² per degree of freedom: about 1 when scatter and given uncertainties agree."),
        ("aic", "AIC", plain, "", "For comparing models on the same readings: lower is better."),
        ("aicc", "AICc", plain, "", "AIC corrected for few readings: lower is better."),
        ("bic", "BIC", plain, "", "Like AIC, with a larger penalty for each parameter: lower is better."),
    ]  # fmt: skip
    listed = []
    for name, label, word, unit, meaning in rows:
        value = missed if name == "typical_miss" else getattr(statistics, name)
        if value is None and name == "r_squared_about_zero":
            continue
        if value is None:
            listed.append(
                StatisticText(
                    name, label, "–", "", "", None, meaning, statistics.absent.get(name, _why_absent(fit, name))
                )
            )
        else:
            listed.append(StatisticText(name, label, word(value).text, unit, full(value), float(value), meaning))
    return listed
