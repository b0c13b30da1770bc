"""Least squares: the solvers, and the front door ``fit``."""

from ridge.core.fitting.fit import fit

__all__ = ["fit"]
