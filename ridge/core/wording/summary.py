"""A fit as a small table, for notebooks."""

from __future__ import annotations

from html import escape

from ridge.core.judging.cautions import findings_of
from ridge.core.numerals import share, significant
from ridge.core.results.fit import Fit
from ridge.core.wording.cautions import word_caution
from ridge.core.wording.equation import word_equation
from ridge.core.wording.naming import Naming
from ridge.core.wording.rounding import round_with_uncertainty


def as_html(fit: Fit, naming: Naming | None = None) -> str:
    """The equation, each parameter with its standard error, R² and s, and the cautions."""
    naming = naming or Naming()
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
    rows.append(("readings", str(statistics.n)))
    body = "".join(f"<tr><th>{escape(name)}</th><td>{escape(value)}</td></tr>" for name, value in rows)
    cautions = "".join(
        f"<li>{escape(caution.message)} {escape(caution.remedy)}</li>"
        for caution in [word_caution(finding, naming) for finding in findings_of(fit)]
    )
    return f"<p>{escape(word_equation(fit, naming).text)}</p><table><tbody>{body}</tbody></table>{f'<ul>{cautions}</ul>' if cautions else ''}"
