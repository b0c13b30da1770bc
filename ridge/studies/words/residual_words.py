"""What the Residuals lens says."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from ridge.core.numerals import significant, write
from ridge.core.results.fit import Fit
from ridge.core.wording.headings import over
from ridge.core.wording.naming import Naming
from ridge.core.wording.residuals import word_residuals
from ridge.core.wording.rounding import uncertainty_decimals
from ridge.core.wording.units import raised
from ridge.studies.analysis.curves import finite
from ridge.studies.analysis.fits import fit_one
from ridge.studies.analysis.residuals import ResidualViews, views_of
from ridge.studies.content.readings import read_table
from ridge.studies.content.state import StudyState
from ridge.studies.words.lens_schemas import BinOut, ResidualRowOut, ResidualsOut

MOST_LISTED = 500


def residuals_of(state: StudyState, letter: str) -> ResidualsOut | None:
    """Residuals of the readings in use by the fit of this letter; None where there is no such fit."""
    table = read_table(state)
    wanted = next((one for one in state.linked_fits if one.letter == letter), None)
    fit = fit_one(table, wanted).fit if wanted else None
    return None if fit is None else _said(views_of(fit), letter, table.naming)


def _said(views: ResidualViews, letter: str, naming: Naming) -> ResidualsOut:
    fit, rows, edges, unit = views.fit, views.rows, views.edges, naming.y_unit
    return ResidualsOut(
        letter=letter,
        rows=rows.tolist(),
        all_drawn=views.all_drawn,
        x=finite(fit.readings.x[rows]),
        fitted=finite(fit.fitted[rows]),
        residual=finite(fit.residuals[rows]),
        standardised=finite(fit.standardised_residuals[rows]),
        expected=finite(views.expected[rows]),
        bins=[
            BinOut(low=low, high=high, count=count)
            for low, high, count in zip(edges.tolist(), edges[1:].tolist(), views.counts.tolist(), strict=False)
        ],
        sentences=word_residuals(fit, naming),
        over={
            **dict.fromkeys(("observed", "fitted", "residual"), over(unit)),
            "squared": over(raised(unit, 2)) if unit else "",
        },
        table=_table(fit, rows[:MOST_LISTED]),
    )


def _table(fit: Fit, rows: npt.NDArray[np.intp]) -> list[ResidualRowOut]:
    s = fit.reading_deviation
    decimals = uncertainty_decimals(s) + 1 if s and not fit.statistics.exact else None

    def value(number: float) -> str:
        return (significant(number, 6, strip=True) if decimals is None else write(number, decimals)).text

    def plain(number: float, places: int) -> str:
        return write(number, places).text if np.isfinite(number) else "–"

    return [
        ResidualRowOut(
            row=row,
            observed=value(float(fit.readings.y[row])),
            fitted=value(float(fit.fitted[row])),
            residual=value(off),
            squared=significant(off * off, 3).text,
            standardised=plain(float(fit.standardised_residuals[row]), 2),
            leverage=plain(float(fit.leverage[row]), 3),
            cook=plain(float(fit.cooks_distance[row]), 3),
        )
        for row, off in zip(rows.tolist(), fit.residuals[rows].tolist(), strict=True)
    ]
