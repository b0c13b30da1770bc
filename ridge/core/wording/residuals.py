"""What the residuals of a fit show, in sentences; each with what it was judged by."""

from __future__ import annotations

import numpy as np

from ridge.core.judging.influence import readings_far_off
from ridge.core.judging.misses import through_every_reading
from ridge.core.judging.patterns import pattern_of
from ridge.core.judging.quantiles import normal_quantiles
from ridge.core.judging.significance import CHECK, SIGNIFICANT
from ridge.core.numerals import count_word, count_words, group, name_rows, p_text, significant
from ridge.core.results.fit import Fit
from ridge.core.wording.naming import Naming

HOW_JUDGED = (
    f"Seven properties are tested, so each counts as evidence below p = {significant(CHECK, 2, strip=True).text}: together they raise a "
    f"false alarm in at most one of {round(1 / SIGNIFICANT)} fits."
)


def word_residuals(fit: Fit, naming: Naming) -> list[str]:
    """Signs, order, curvature, spread, shape and single large residuals, each with its p, and how they are judged; a single
    sentence where nothing can be judged."""
    statistics = fit.statistics
    if statistics.degrees_of_freedom == 0 and not through_every_reading(fit):
        return ["There are as many parameters as readings, so nothing tells whether the residuals are large."]
    if statistics.degrees_of_freedom == 0:
        return ["There are as many parameters as readings, so the residuals are zero by construction and show nothing."]
    if statistics.exact:
        return ["The fit is exact: there are no residuals to look at."]
    pattern = pattern_of(fit)
    said = [_signs(pattern.above, pattern.below, pattern.signs_p, fit.model.graph)]
    if pattern.order_p is not None:
        changes = pattern.changes
        expected = 2 * pattern.above * pattern.below / (pattern.above + pattern.below)
        many = "more often" if changes > expected else "fewer times"
        order = f"significantly {many} than expected by chance" if pattern.order_p < CHECK else "as expected by chance"
        said.append(
            f"In order of {naming.x} the sign changes {count_word(changes)} time{'' if changes == 1 else 's'}, {order} "
            f"({p_text(pattern.order_p)})."
        )
    if pattern.pairs_p is not None and pattern.pairs_p < CHECK:
        said.append(
            f"It changes at every second reading, more regularly than expected by chance ({p_text(pattern.pairs_p)})."
        )
    elif pattern.pairs_p is not None:
        said.append(f"No significant alternation in pairs ({p_text(pattern.pairs_p)}).")
    if pattern.bend_p is not None and pattern.bend_p < CHECK:
        side = (
            "above at both ends and below in the middle"
            if pattern.bend > 0
            else "below at both ends and above in the middle"
        )
        curved = f"They are curved: {side}" if pattern.bend else "They are curved"
        said.append(f"{curved} ({p_text(pattern.bend_p)}). Try a model with more curvature.")
    elif pattern.bend_p is not None:
        said.append(f"No significant curvature ({p_text(pattern.bend_p)}).")
    if pattern.wave_p is not None:
        period = naming.x_with_unit(significant(pattern.period, 2, strip=True).text)
        if pattern.wave_p < CHECK:
            said.append(
                f"They follow a wave with a period of about {period} ({p_text(pattern.wave_p)}). Try a periodic model."
            )
        else:
            said.append(f"No significant wave ({p_text(pattern.wave_p)}).")
    if pattern.spread_p is not None:
        if pattern.spread_changes:
            trend = "grows" if pattern.spread > 0 else "shrinks"
            said.append(
                f"Their size {trend} with {naming.y} ({p_text(pattern.spread_p)}): uncertainties or weights would help."
            )
        else:
            said.append(f"No significant change of spread with {naming.y} ({p_text(pattern.spread_p)}).")
    said += _shape(fit)
    return [*said, HOW_JUDGED]


def _signs(above: int, below: int, p: float | None, curve: str) -> str:
    first, second = count_words(above, below)
    sides = f"{first.capitalize()} above the {curve}, {second} below"
    if p is None:
        return f"{sides}."
    return f"{sides}: {'more on one side than expected by chance' if p < CHECK else 'as expected by chance'} ({p_text(p)})."


def _shape(fit: Fit) -> list[str]:
    quantiles = normal_quantiles(fit)
    said = []
    if quantiles.p is not None:
        verdict = "Not normally distributed" if quantiles.p < CHECK else "Consistent with a normal distribution"
        said.append(f"{verdict} (Shapiro–Wilk test, {p_text(quantiles.p)}).")
    far = readings_far_off(fit)
    if far:
        largest = significant(float(np.max(np.abs(fit.standardised_residuals[far]))), 2).text
        rows = name_rows(sorted(far))
        said.append(
            f"{rows.capitalize()} lie{'s' if len(far) == 1 else ''} farther from the {fit.model.graph} than expected of "
            f"{group(str(fit.statistics.n))} readings (up to {largest} standard deviations)."
        )
    if fit.readings.count is not None:
        said.append(
            "A row that occurred several times has the standardised residual of one reading; Cook's distance and the "
            "leave-one-out error leave it out as a whole."
        )
    return said
