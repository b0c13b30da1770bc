"""Where the band around a curve ends: limits of an x by inverting a confidence band.

An x belongs to the interval while the curve minus its target lies within the band. For a straight line this is Fieller's
interval (Fieller, J. R. Stat. Soc. B 16, 1954; Draper and Smith, "Applied Regression Analysis", 3rd ed., section 3.2).
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
import numpy.typing as npt

from ridge.core.readings import Array

Outside = Callable[[Array], Array]
"""Positive where an x is outside the band, NaN where the curve has no value; shape of x, (k,)."""
FINE, COARSE = 400, 80
"""Places looked at on each scale, logarithmic and linear, between a root and the end of the search."""
PARTS, ROUNDS = 128, 7
"""Number of parts into which the last step is cut, and how often: 128⁷ parts, down to the last digits. Few rounds of many parts, because
a call of the curve costs more than its places."""


def outside_band(off: Array, half: Array) -> Array:
    """Return |off| − half. Where the curve has a value but the band has none, the band has no bound (−1)."""
    size = np.abs(off)
    found = size - half
    return np.where(np.isfinite(size) & ~np.isfinite(found), -1.0, found)


def band_edges(
    outside: Outside, roots: npt.ArrayLike, ends: npt.ArrayLike, errors: npt.ArrayLike, side: float, steps: int = FINE
) -> Array:
    """Return where the band, or the curve itself, ends on one side of each root, (k,); infinite where neither does.

    Parameters
    ----------
    outside : callable
        See ``Outside``.
    roots, ends : array-like, (k,)
        Places inside the band, and how far the search goes.
    errors : array-like, (k,)
        Standard errors of the roots, which set the first step; NaN or infinite where unknown.
    side : float
        −1 or 1.
    steps : int
        See ``FINE`` and ``COARSE``.
    """
    roots, ends, errors = (np.asarray(part, dtype=float) for part in (roots, ends, errors))
    reach = np.abs(ends - roots)
    known = np.isfinite(errors)
    first = np.where(known, np.clip(np.where(known, errors, 0.0) * 0.25, reach * 1e-9, reach), reach * 1e-6)

    def past(distances: Array) -> tuple[npt.NDArray[np.bool_], npt.NDArray[np.intp]]:
        """Whether any of the distances of each root, (k, n), lies outside, and the first that does."""
        places = roots[:, None] + side * distances
        with np.errstate(all="ignore"):
            out = ~(outside(places.ravel()).reshape(places.shape) <= 0)
        return np.any(out, axis=1), np.argmax(out, axis=1)

    with np.errstate(divide="ignore", invalid="ignore"):
        scales = np.linspace(0, 1, steps)
        logarithmic = first[:, None] * (reach / first)[:, None] ** scales
        distances = np.sort(np.concatenate([logarithmic, reach[:, None] * scales[1:]], axis=1), axis=1)
    distances[~(reach > 0)] = 0.0
    ended, at = past(distances)
    ended &= reach > 0
    rows = np.arange(len(roots))
    outer = distances[rows, at]
    inner = np.where(at > 0, distances[rows, at - 1], 0.0)
    for _ in range(ROUNDS):
        # The last part ends outside; the first place outside is the new end.
        cuts = inner[:, None] + (outer - inner)[:, None] * np.linspace(0, 1, PARTS + 1)[1:]
        beyond, place = past(cuts)
        place = np.where(beyond, place, PARTS - 1)
        inner, outer = np.where(place > 0, cuts[rows, place - 1], inner), cuts[rows, place]
    edges = roots + side * inner
    # The difference is within rounding of zero, as where the range of the model begins there.
    edges[np.abs(edges) <= 4 * np.finfo(float).eps * np.abs(roots)] = 0.0
    return np.where(ended, edges, side * np.inf)
