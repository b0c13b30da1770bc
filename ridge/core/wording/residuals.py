"""What the residuals of a fit show, in sentences; each with what it was judged by."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ridge.core.judging.quantiles import normal_quantiles
from ridge.core.wording.families import curve_word
from ridge.core.wording.naming import Naming
from ridge.core.wording.numbers import count_word, name_rows, probability, significant, write

if TYPE_CHECKING:
    from ridge.core.fitting.result import Fit

_NORMAL = 0.95  # correlation with normal quantiles below which scatter looks other than normal (common practice)
_FAR = 3.0


def _p(value: float) -> str:
    text = probability(value)
    return f"p {text}" if text.startswith("<") else f"p = {text}"


def word_residuals(fit: Fit, naming: Naming) -> list[str]:
    """Signs, order, bend, spread, shape and single large residuals; a single sentence where nothing can be judged."""
    statistics = fit.statistics
    if statistics.degrees_of_freedom == 0:
        return ["There are as many parameters as readings, so the residuals are zero by construction and show nothing."]
    if statistics.exact:
        return ["The fit is exact: there are no residuals to look at."]
    pattern = fit.pattern
    said = [_signs(pattern.above, pattern.below, pattern.signs_p, curve_word(fit.model))]
    if pattern.runs_p is not None:
        changes = pattern.runs - 1
        order = "fewer than chance would give" if pattern.runs_p < 0.05 else "about as often as chance would"
        said.append(
            f"In order of {naming.x} they change sides {count_word(changes)} time{'' if changes == 1 else 's'}, {order} "
            f"({_p(pattern.runs_p)})."
        )
    if pattern.bend_p is not None and pattern.bend_p < 0.05:
        side = (
            "above at both ends and below in the middle"
            if pattern.bend > 0
            else "below at both ends and above in the middle"
        )
        bent = f"They bend: {side}" if pattern.bend else "They bend"
        said.append(f"{bent} ({_p(pattern.bend_p)}). A model that bends as the readings do is needed.")
    elif pattern.bend_p is not None:
        said.append(f"No bend is left in them ({_p(pattern.bend_p)}).")
    if pattern.spread_p is not None:
        if pattern.spread_p < 0.05:
            trend = "grows" if pattern.spread > 0 else "shrinks"
            said.append(
                f"Their size {trend} with {naming.y} ({_p(pattern.spread_p)}): uncertainties or weights would help."
            )
        else:
            said.append(f"Their size does not depend on {naming.y} ({_p(pattern.spread_p)}).")
    said += _shape(fit)
    return said


def _signs(above: int, below: int, p: float | None, curve: str) -> str:
    sides = f"{count_word(above, capital=True)} above the {curve}, {count_word(below)} below"
    if p is None:
        return f"{sides}."
    return f"{sides}: {'more on one side than chance would give' if p < 0.05 else 'as chance would have it'} ({_p(p)})."


def _shape(fit: Fit) -> list[str]:
    quantiles = normal_quantiles(fit)
    said = []
    if quantiles.correlation is not None and len(quantiles.rows) >= 8:
        shown = write(quantiles.correlation, 3).text
        if quantiles.correlation < _NORMAL:
            said.append(f"They do not scatter normally (correlation with normal quantiles {shown}).")
        else:
            said.append(f"They scatter about normally (correlation with normal quantiles {shown}).")
    far = [int(row) for row, value in zip(quantiles.rows, quantiles.observed, strict=True) if abs(value) > _FAR]
    if far:
        largest = significant(float(max(abs(quantiles.observed))), 2).text
        rows = name_rows(sorted(far))
        said.append(
            f"{rows.capitalize()} lie{'s' if len(far) == 1 else ''} more than three standard deviations off (up to {largest})."
        )
    return said
