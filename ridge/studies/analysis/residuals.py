"""The residuals of a fit as five views and a table show them: numbers, and then what the API says of them."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from ridge.core.judging.quantiles import normal_quantiles
from ridge.core.numerals import significant, write
from ridge.core.readings import Array
from ridge.core.results.fit import Fit
from ridge.core.wording.headings import over
from ridge.core.wording.naming import Naming
from ridge.core.wording.residuals import word_residuals
from ridge.core.wording.rounding import uncertainty_decimals
from ridge.core.wording.units import raised
from ridge.studies.analysis.curves import finite
from ridge.studies.analysis.fits import fit_one
from ridge.studies.analysis.lens_schemas import BinOut, ResidualRowOut, ResidualsOut
from ridge.studies.content.readings import read_table
from ridge.studies.content.state import StudyState

MOST_DRAWN = 4000
MOST_LISTED = 500


@dataclass(frozen=True)
class ResidualViews:
    """What is drawn of the residuals of a fit. ``rows``: those drawn, from 0; ``expected``: the normal quantile of every
    reading's standardised residual, NaN where it has none; ``counts`` of the bins between ``edges``, in the unit of y."""

    fit: Fit
    rows: npt.NDArray[np.intp]
    expected: Array
    counts: npt.NDArray[np.intp]
    edges: Array

    @property
    def all_drawn(self) -> bool:
        return len(self.rows) == int(self.fit.readings.used.sum())


def residuals_of(state: StudyState, letter: str) -> ResidualsOut | None:
    """Residuals of the readings in use by the fit of this letter; None where there is no such fit."""
    table = read_table(state)
    wanted = next((one for one in state.linked_fits if one.letter == letter), None)
    fit = fit_one(table, wanted).fit if wanted else None
    return None if fit is None else _said(views_of(fit), letter, table.naming)


def views_of(fit: Fit) -> ResidualViews:
    quantiles = normal_quantiles(fit)
    expected = np.full(len(fit.residuals), np.nan)
    expected[quantiles.rows] = quantiles.expected
    return ResidualViews(fit, _drawn(fit), expected, *_bins(fit.residuals[fit.readings.used]))


def _drawn(fit: Fit) -> npt.NDArray[np.intp]:
    """The rows in use; of very many every so manieth, and the largest residuals in any case."""
    rows = np.flatnonzero(fit.readings.used)
    if len(rows) <= MOST_DRAWN:
        return rows
    even = rows[np.linspace(0, len(rows) - 1, MOST_DRAWN - 200).astype(int)]
    largest = rows[np.argsort(-np.abs(fit.residuals[rows]), kind="stable")[:200]]
    return np.union1d(even, largest)


def _bins(residuals: Array) -> tuple[npt.NDArray[np.intp], Array]:
    """Bins by the Freedman-Diaconis rule (width 2·IQR/∛n), between 5 and 40 of them however far one residual lies out;
    none where all residuals are equal."""
    span = float(np.ptp(residuals)) if len(residuals) else 0.0
    if len(residuals) < 2 or not 0 < span < np.inf:
        return np.empty(0, np.intp), np.empty(0)
    upper, lower = np.percentile(residuals, (75, 25))
    width = 2 * (upper - lower) / np.cbrt(len(residuals))
    count = int(np.clip(np.ceil(min(span / width, 40)) if width > 0 else 5, 5, 40))
    return np.histogram(residuals, count)


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
