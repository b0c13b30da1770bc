"""What the residuals of a fit show, in sentences; each with what it was judged by."""

from __future__ import annotations

import numpy as np

from ridge.core.judging import two_groups
from ridge.core.judging.influence import readings_far_off
from ridge.core.judging.misses import through_every_reading
from ridge.core.judging.order import FEWEST
from ridge.core.judging.patterns import Pattern, pattern_of
from ridge.core.judging.quantiles import normal_quantiles
from ridge.core.judging.recording import few_places
from ridge.core.judging.significance import CHECK, SIGNIFICANT, WAVE_CHECK
from ridge.core.numerals import count_word, count_words, group, name_rows, p_text, significant, write
from ridge.core.results.fit import Fit
from ridge.core.wording.naming import Naming


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
        said.append(
            f"In order of {naming.x} the sign changes {count_word(changes)} time{'' if changes == 1 else 's'}; neighbours are "
            f"{_neighbours(pattern)} (von Neumann ratio {write(pattern.ratio or 0.0, 2).text}, {p_text(pattern.order_p)})."
        )
    if pattern.bend_p is not None and pattern.bend_p < CHECK:
        side = (
            "above at both ends and below in the middle"
            if pattern.bend > 0
            else "below at both ends and above in the middle"
        )
        curved = f"They are curved: {side}" if pattern.bend else "They are curved"
        said.append(f"{curved} ({p_text(pattern.bend_p)}).")
    elif pattern.bend_p is not None:
        said.append(f"No significant curvature ({p_text(pattern.bend_p)}).")
    if pattern.wave_p is not None:
        period = naming.x_with_unit(significant(pattern.period, 2, strip=True).text)
        if pattern.waves:
            said.append(f"They follow a wave with a period of about {period} ({p_text(pattern.wave_p)}).")
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
    if pattern.drift is not None:
        drifts = "They drift" if pattern.drifts else "No significant drift"
        said.append(f"{drifts} with the order of the rows ({p_text(pattern.drift.p)}).")
    if pattern.groups is not None and pattern.mixed:
        said.append(f"They fall into two groups ({p_text(pattern.groups.p)}).")
    said += _shape(fit)
    return [*said, *_not_tested(fit, naming), _how_judged()]


def _how_judged() -> str:
    return (
        f"Eight properties are tested. A wave counts as evidence below p = {significant(WAVE_CHECK, 2, strip=True).text}, the others "
        f"below {significant(CHECK, 2, strip=True).text}: together, when the model is right, they raise a false alarm in at most one of "
        f"{round(1 / SIGNIFICANT)} fits."
    )


def _neighbours(pattern: Pattern) -> str:
    if pattern.order_p is None or pattern.order_p >= CHECK:
        return "as different as expected by chance"
    return (
        "more alike than expected by chance" if (pattern.ratio or 0.0) < 2 else "more different than expected by chance"
    )


def _not_tested(fit: Fit, naming: Naming) -> list[str]:
    """What these readings are too few for, or cannot show."""
    said, pattern = [], pattern_of(fit)
    if fit.statistics.n < FEWEST:
        said.append(f"Neighbours, waves, spread and drift are not tested: that takes {count_word(FEWEST)} readings.")
    elif pattern.drift is None:
        said.append(
            f"A drift with the order of the rows is not tested: it cannot be distinguished from a change with {naming.x}."
        )
    if fit.statistics.n < two_groups.FEWEST:
        said.append(f"Two mixed groups are not looked for: that takes {two_groups.FEWEST} readings.")
    if few_places(fit) is not None:
        said.append(f"The shape of the {fit.model.graph} is not tested: that takes readings at other {naming.x}.")
    return said


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
