"""A drift of the residuals with the order of the rows, where that is not the order of x."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
from scipy.special import fdtrc
from scipy.stats import rankdata

from ridge.core.judging.clean import Scatter
from ridge.core.readings import Array

FEWEST = 8
IN_ORDER = 0.9
"""Rank correlation of x with the row from which on a drift cannot be distinguished from a change with x."""
LEAST_LEFT = 0.05
"""Share of a drift that the parameters must leave, so that it can be distinguished from the curve."""


@dataclass(frozen=True)
class Drift:
    """``p``: chance of so strong a drift; ``change``: from the first row to the last, in the unit of the residuals."""

    p: float
    change: float


def find_drift(x: Array, residuals: Array, root: Array, rows: npt.NDArray[np.intp], scatter: Scatter) -> Drift | None:
    """The F-test for a term in the row beside the parameters of the model (exact for linear models).

    ``residuals``: times root weight; ``rows``: the row of each. None where the rows are in order of x, so that nothing can be
    said, or with fewer than eight readings.
    """
    n = len(x)
    degrees = n - round(float(scatter.leverage.sum())) - 1
    if n < FEWEST or degrees < 3:
        return None
    if np.all(np.diff(x) > 0) and (np.all(np.diff(rows) > 0) or np.all(np.diff(rows) < 0)):
        return None  # quickly, for the usual case
    if np.ptp(x) > 0 and abs(float(np.corrcoef(rankdata(x), rows)[0, 1])) > IN_ORDER:
        return None
    course = (rows - rows.mean()) / np.ptp(rows) * root
    left = scatter.left_of(course)
    room = float(left @ left)
    if not room > LEAST_LEFT * float(course @ course):
        return None
    change = float(left @ residuals) / room
    gained, rss = change**2 * room, float(residuals @ residuals)
    if not rss > gained:
        return None
    return Drift(float(fdtrc(1, degrees, gained / (rss - gained) * degrees)), change)
