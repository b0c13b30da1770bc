"""A fit or an interpolation as a small table or a text, for notebooks."""

from __future__ import annotations

from html import escape

from ridge.core.interpolation import Interpolation
from ridge.core.interpolation.cautions import findings_of as findings_between
from ridge.core.judging.cautions import findings_of
from ridge.core.numerals import share, significant
from ridge.core.results.finding import Caution
from ridge.core.results.fit import Fit
from ridge.core.wording.cautions import word_caution
from ridge.core.wording.equation import word_equation
from ridge.core.wording.interpolation import how_it_goes
from ridge.core.wording.naming import Naming
from ridge.core.wording.rounding import round_with_uncertainty

_PLAIN = Naming()


def as_html(fit: Fit) -> str:
    """The equation, each parameter with its standard error, R² and s, and the cautions."""
    body = "".join(f"<tr><th>{escape(name)}</th><td>{escape(value)}</td></tr>" for name, value in _rows(fit))
    return (
        f"<p>{escape(word_equation(fit, _PLAIN).text)}</p><table><tbody>{body}</tbody></table>{_list(_cautions(fit))}"
    )


def as_text(fit: Fit) -> str:
    """The same as lines of text."""
    rows = _rows(fit)
    width = max(len(name) for name, _ in rows)
    lines = [word_equation(fit, _PLAIN).text, "", *(f"{name:<{width}}  {value}" for name, value in rows)]
    if cautions := _cautions(fit):
        lines += ["", *(f"- {caution.message} {caution.remedy}".strip() for caution in cautions)]
    return "\n".join(lines)


def interpolation_as_html(curve: Interpolation) -> str:
    """How it goes and what to know about it."""
    cautions = [word_caution(finding, _PLAIN) for finding in findings_between(curve)]
    return f"<p>{escape(how_it_goes(curve))}</p>{_list(cautions)}"


def _rows(fit: Fit) -> list[tuple[str, str]]:
    rows = []
    for name, parameter in fit.parameters.items():
        error = None if fit.statistics.exact else parameter.standard_error
        kept = " (kept)" if parameter.fixed else ""
        rows.append((name + kept, round_with_uncertainty(parameter.value, error).text))
    statistics = fit.statistics
    if statistics.r_squared is not None:
        rows.append(("R²", share(statistics.r_squared)))
    if statistics.residual_standard_deviation is not None:
        rows.append(("s", significant(statistics.residual_standard_deviation, 3).text))
    return [*rows, ("readings", str(statistics.n))]


def _cautions(fit: Fit) -> list[Caution]:
    return [word_caution(finding, _PLAIN) for finding in findings_of(fit)]


def _list(cautions: list[Caution]) -> str:
    items = "".join(f"<li>{escape(caution.message)} {escape(caution.remedy)}</li>" for caution in cautions)
    return f"<ul>{items}</ul>" if items else ""
