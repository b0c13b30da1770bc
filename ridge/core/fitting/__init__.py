"""Least squares: the solvers and the fit they give."""

from ridge.core.fitting.fit import fit
from ridge.core.fitting.result import Fit, Parameter

__all__ = ["Fit", "Parameter", "fit"]
