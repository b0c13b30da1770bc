"""Where the methods of a fit, an interpolation or an answer are described."""

from __future__ import annotations

from collections.abc import Iterable

from ridge.core.interpolation import Interpolation
from ridge.core.models import Line
from ridge.core.results.fit import Fit

# Bibliographic details from memory; each work stands beside its method in the docstrings as well.
LEAST_SQUARES = "N. R. Draper, H. Smith: Applied Regression Analysis, 3rd ed., Wiley 1998."
ORTHOGONALISATION = "Å. Björck: Numerical Methods for Least Squares Problems, SIAM 1996."
SEPARABLE = (
    "G. H. Golub, V. Pereyra: The differentiation of pseudo-inverses and nonlinear least squares problems whose "
    "variables separate. SIAM J. Numer. Anal. 10 (1973) 413–432."
)
NONLINEAR = "D. M. Bates, D. G. Watts: Nonlinear Regression Analysis and its Applications, Wiley 1988."
ORTHOGONAL = (
    "P. T. Boggs, R. H. Byrd, R. B. Schnabel: A stable and efficient algorithm for nonlinear orthogonal distance "
    "regression. SIAM J. Sci. Stat. Comput. 8 (1987) 1052–1078."
)
MONTE_CARLO = "A. C. Davison, D. V. Hinkley: Bootstrap Methods and their Application, Cambridge University Press 1997."
FIELLER = "E. C. Fieller: Some problems in interval estimation. J. R. Stat. Soc. B 16 (1954) 175–185."
BARYCENTRIC = "J.-P. Berrut, L. N. Trefethen: Barycentric Lagrange interpolation. SIAM Review 46 (2004) 501–517."
SPLINES = "C. de Boor: A Practical Guide to Splines, Springer 1978."
MONOTONE = (
    "F. N. Fritsch, J. Butland: A method for constructing local monotone piecewise cubic interpolants. "
    "SIAM J. Sci. Stat. Comput. 5 (1984) 300–304."
)
_INTERPOLATIONS = {"polynomial": BARYCENTRIC, "cubic-spline": SPLINES, "spline": SPLINES, "monotone": MONOTONE}


def references(curves: Iterable[Fit | Interpolation], *, inverse: bool = False) -> list[str]:
    """The works behind these curves, each once, in alphabetical order. ``inverse``: whether an x was asked for a y."""
    return sorted({work for curve in curves for work in works_behind(curve, inverse=inverse)}, key=_surname)


def works_behind(curve: Fit | Interpolation, *, inverse: bool = False) -> set[str]:
    """The works behind one curve; see ``references``."""
    if isinstance(curve, Interpolation):
        return {_INTERPOLATIONS[curve.kind]} if curve.kind in _INTERPOLATIONS else set()
    if curve.least_squares_in == "orthogonal":
        return {ORTHOGONAL, NONLINEAR}
    if curve.least_squares_in == "given":
        return set()
    found = {LEAST_SQUARES}
    found |= {ORTHOGONALISATION} if curve.model.linear_form is not None else {SEPARABLE, NONLINEAR}
    if curve.statistics.searched is not None and curve.statistics.f_statistic is not None:
        found.add(MONTE_CARLO)  # for p of F where the shape was searched
    if inverse and isinstance(curve.model, Line):
        found.add(FIELLER)
    return found


def _surname(work: str) -> str:
    """Of the first author."""
    return work.split(",")[0].split(":")[0].split()[-1].casefold()
