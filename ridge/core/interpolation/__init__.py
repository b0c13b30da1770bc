"""Curves through every reading: straight pieces, one polynomial, splines, monotone cubics."""

from ridge.core.interpolation.base import Interpolation, Piece
from ridge.core.interpolation.interpolate import ENDS, KINDS, interpolate

__all__ = ["ENDS", "KINDS", "Interpolation", "Piece", "interpolate"]
