"""Uncertainty and units from the readings to what follows, agreement with other values, and where to measure next."""

from ridge.core.carrying.agreement import Agreement, agree
from ridge.core.carrying.constants import CONSTANTS, KnownConstant, expanded, in_quadrature, rectangular
from ridge.core.carrying.following import Follows, follow
from ridge.core.carrying.next_reading import NextReading, where_next
from ridge.core.carrying.propagation import Propagated, propagate

__all__ = [
    "CONSTANTS", "Agreement", "Follows", "KnownConstant", "NextReading", "Propagated", "agree", "expanded", "follow",
    "in_quadrature", "propagate", "rectangular", "where_next",
]  # fmt: skip
