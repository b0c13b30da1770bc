"""A fit as a small table, for notebooks."""

from __future__ import annotations

from html import escape
from typing import TYPE_CHECKING

from ridge.core.wording.naming import Naming
from ridge.core.wording.numbers import share, significant
from ridge.core.wording.rounding import round_with_uncertainty

if TYPE_CHECKING:
    from ridge.core.fitting.result import Fit


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
    cautions = "".join(f"<li>{escape(caution.message)} {escape(caution.remedy)}</li>" for caution in fit.cautions)
    return f"<p>{escape(fit.equation.text)}</p><table><tbody>{body}</tbody></table>{f'<ul>{cautions}</ul>' if cautions else ''}"
